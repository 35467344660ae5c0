package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
)

// Weight of a finding.
type Weight string

const (
	Stop   Weight = "stop"
	Settle Weight = "settle"
	Note   Weight = "note"
)

// Finding is something the check noticed, with what would mend it at once, where there is something.
type Finding struct {
	Key    string // names it, for the button that mends it
	Weight Weight
	Where  string
	At     time.Duration // when on the session's clock; −1: all through
	Says   string
	About  []string // the stations, player, leader or block it is about
	Mends  []Mend
}

// Mend is edits that settle a finding together.
type Mend struct {
	Words string // the button's
	Edits []Edit
}

// applies says why a mend cannot be made, or nil.
func (p Plan) applies(m Mend) (err error) {
	for _, e := range m.Edits {
		if p, _, err = p.Apply(e); err != nil {
			return err
		}
	}
	return nil
}

const always = time.Duration(-1)

func (pic *Picture) find(w Weight, key, where string, at time.Duration, says string, mends ...Mend) *Finding {
	f := Finding{Key: key, Weight: w, Where: where, At: at, Says: says, Mends: mends}
	var n int
	if _, err := fmt.Sscanf(where, "Station %d", &n); err == nil && n <= len(pic.Stations) {
		f.About = []string{pic.station(n - 1)}
	}
	pic.Findings = append(pic.Findings, f)
	return &pic.Findings[len(pic.Findings)-1]
}

// station names a station by its drill, so that it is the same one in another picture where it has another number.
func (pic *Picture) station(i int) string {
	same := 0
	for _, o := range pic.Stations[:i] {
		if o.Drill.ID == pic.Stations[i].Drill.ID {
			same++
		}
	}
	return fmt.Sprintf("station %s %d", pic.Stations[i].Drill.ID, same)
}

// has reports whether what a finding is about is still in the picture.
func (pic *Picture) has(about string) bool {
	kind, id, _ := strings.Cut(about, " ")
	switch kind {
	case "station":
		for i := range pic.Stations {
			if pic.station(i) == about {
				return true
			}
		}
		return false
	case "player":
		return slices.ContainsFunc(pic.Ledger, func(r Row) bool { return r.Player.ID == id })
	case "leader":
		return slices.ContainsFunc(pic.leaders, func(l Leader) bool { return l.ID == id && pic.covers(l) })
	case "block":
		return slices.ContainsFunc(pic.Blocks, func(b Span) bool { return b.about() == about })
	}
	return true
}

// lead names the lead who is there, where one is.
func (pic *Picture) lead() string {
	for _, l := range pic.leaders {
		if l.Role == coach.RoleLead {
			return "leader " + l.ID
		}
	}
	return ""
}

// about names a block by what it is.
func (s Span) about() string { return "block " + string(s.Kind) + " " + s.Title }

func mend(words, do string, at int, value any) Mend {
	return Mend{words, []Edit{{Do: do, At: at, Value: fmt.Sprint(value)}}}
}

// Stops reports whether the plan has a finding that should stop the session from going on like this.
func (pic Picture) Stops() bool {
	return slices.ContainsFunc(pic.Findings, func(f Finding) bool { return f.Weight == Stop })
}

func (pic *Picture) check(in Input) {
	if len(in.Players) == 0 {
		pic.find(Settle, "nobody", "Players", always, "Nobody is expected yet. Enrol players in the class, or take back an absence.")
	}
	if len(pic.Stations) == 0 && pic.Plan.parts() > 0 {
		pic.find(Settle, "empty", "Stations", always, "No drill is chosen yet. Propose a plan, or pick a drill and the floor begins to fill.")
	}
	pic.checkDeal(in)
	pic.checkTime(in)
	pic.checkBooking(in)
	pic.checkFloor(in)
	pic.checkKit()
	for _, s := range pic.Stations {
		where := fmt.Sprintf("Station %d", s.Index+1)
		pic.checkLeader(in, s, where)
		pic.checkSize(s, where)
		pic.checkTarget(in, s, where)
		pic.checkPractice(in, s, where)
		pic.checkRest(s, where)
		pic.checkAfter(in, s, where)
		if says := pic.usualMinutes(&s.Drill, float64(pic.Plan.Work)/60); says != "" && len(pic.Rounds) > 0 {
			to := max(1, s.Drill.Minutes[0])
			if pic.Plan.Work > s.Drill.Minutes[1]*60 {
				to = s.Drill.Minutes[1]
			}
			pic.find(Note, "minutes "+pic.station(s.Index), where, pic.begin(), says, mend("Rounds of "+coach.Clock(time.Duration(to)*time.Minute), "work", 0, to*60))
		}
	}
	pic.checkLeaders(in)
	pic.checkRotation()
	pic.checkRoutes(in)
	pic.checkBlocks(in)
	pic.checkPlayers(in)
	pic.checkCriteria(in)
	pic.checkEditions(in)
	for _, says := range pic.dropped {
		pic.find(Settle, "must "+says, "Rotation", always, "It cannot hold that "+says+", with the other wishes and this number of groups and rounds.")
	}
	for i := range pic.Findings { // only what can be done is offered
		f := &pic.Findings[i]
		f.Mends = slices.DeleteFunc(f.Mends, func(m Mend) bool { return pic.Plan.applies(m) != nil })
	}
	order := map[Weight]int{Stop: 0, Settle: 1, Note: 2}
	slices.SortStableFunc(pic.Findings, func(a, b Finding) int { return order[a.Weight] - order[b.Weight] })
}

func (pic *Picture) checkDeal(in Input) {
	if len(pic.Undealt) > 0 && len(pic.Groups) > 0 {
		var names []string
		for _, p := range pic.Undealt {
			names = append(names, p.Name)
		}
		pic.find(Settle, "undealt", "Groups", always, few(names)+" "+say.Verb(len(names), "is", "are")+" not in a group yet.", mend("Deal them in", "redeal", 0, ""))
	}
	small, large, empty := 999, 0, 0
	for _, g := range pic.Groups {
		if len(g.Players) == 0 {
			empty++
		}
	}
	if full := len(pic.Groups) - empty; empty > 0 && full > 0 {
		pic.find(Settle, "empty groups", "Groups", always, fmt.Sprintf("%d of the %s %s nobody in them.", empty, say.Count(len(pic.Groups), "group"), say.Verb(empty, "has", "have")), mend("Make "+say.Count(full, "group"), "groups", 0, full))
		return
	}
	for _, g := range pic.Groups {
		small, large = min(small, len(g.Players)), max(large, len(g.Players))
		for _, p := range g.Players {
			if len(p.With) > 1 {
				return // keeping players together may ask for it
			}
		}
	}
	if large-small > 1 {
		pic.find(Note, "uneven", "Groups", always, fmt.Sprintf("The largest group has %d, the smallest %d.", large, small), mend("Even them out", "redeal", 0, ""))
	}
	if pic.Plan.Groups != len(pic.Plan.Deal) && len(in.Players) > 0 && len(pic.Plan.Deal) > 0 {
		pic.find(Settle, "groups", "Groups", always, fmt.Sprintf("The plan asks for %s; %d are dealt.", say.Count(pic.Plan.Groups, "group"), len(pic.Plan.Deal)), mend("Deal them", "redeal", 0, ""))
	}
}

func few(names []string) string {
	if len(names) > 4 {
		names = append(slices.Clone(names[:3]), fmt.Sprintf("%d more", len(names)-3))
	}
	return say.List(names)
}

// Offers are what could give when the plan is too long by so much, in the coach's order of what gives first.
func (pic *Picture) Offers(over time.Duration) (out []Mend) {
	give := append(slices.Clone(pic.Plan.Gives), Game, Circuit, Pairs, Look, Ladder, Together, OneKey, Break, Close)
	minutes := int(math.Ceil(over.Minutes() - 1e-9))
	seen := map[Kind]bool{}
	for _, k := range give {
		if seen[k] {
			continue
		}
		seen[k] = true
		if k == Circuit {
			n := len(pic.Rounds)
			if n == 0 {
				continue
			}
			if to := pic.Plan.Work - int(math.Ceil(over.Seconds()/float64(n)/30))*30; to >= 120 {
				out = append(out, mend("Rounds of "+coach.Clock(time.Duration(to)*time.Second), "work", 0, to))
			}
			if saved := time.Duration(pic.Plan.Work)*time.Second + pic.Change; saved >= over && n > 2 {
				out = append(out, mend(say.Count(n-1, "round")+" instead of "+fmt.Sprint(n), "rounds", 0, n-1))
			}
			continue
		}
		for _, b := range pic.Blocks {
			least := map[Kind]int{Together: 5, Game: 5, Close: 3, OneKey: 3, Pairs: 5, Look: 4, Ladder: 5, Break: 1}[k]
			if b.Kind != k {
				continue
			}
			if to := b.Minutes - minutes; to >= least {
				out = append(out, mend(fmt.Sprintf("%s to %d min", b.Title, to), "minutes", b.Index, to))
			} else if b.Minutes >= minutes && k != Together && k != Close {
				out = append(out, mend(b.Title+" out", "drop-block", b.Index, ""))
			}
		}
	}
	if len(out) == 0 {
		out = pic.several(over, give)
	}
	return out
}

// several takes a part from each block that can give one, in the order of giving, until the plan fits. Nothing when all together is too little.
func (pic *Picture) several(over time.Duration, give []Kind) []Mend {
	m := Mend{Words: "Take from several"}
	done := map[int]bool{}
	for _, k := range give {
		if n := len(pic.Rounds); k == Circuit && n > 0 && over > 0 && !done[-1] {
			done[-1] = true
			if by := min(pic.Plan.Work-180, int(math.Ceil(over.Seconds()/float64(n)/30))*30) / 30 * 30; by > 0 {
				m.Edits = append(m.Edits, Edit{Do: "work", Value: fmt.Sprint(pic.Plan.Work - by)})
				over -= time.Duration(by*n) * time.Second
			}
		}
		for _, b := range pic.Blocks {
			if b.Kind != k || k == Circuit || done[b.Index] || over <= 0 {
				continue
			}
			done[b.Index] = true
			if by := min(b.Minutes-5, int(math.Ceil(over.Minutes()-1e-9))); by > 0 {
				m.Edits = append(m.Edits, Edit{Do: "minutes", At: b.Index, Value: fmt.Sprint(b.Minutes - by)})
				over -= time.Duration(by) * time.Minute
			}
		}
	}
	if over > 0 {
		return nil
	}
	return []Mend{m}
}

func (pic *Picture) checkTime(in Input) {
	left := pic.Booked - pic.Total
	if left < 0 {
		offers := pic.Offers(-left)
		says := fmt.Sprintf("The plan runs %s over the booked time.", coach.Clock(-left))
		if len(offers) == 0 {
			says += " No one block can give that much: take a station out, or make several shorter."
		}
		pic.find(Stop, "long", "Time", pic.Booked, says, offers[:min(3, len(offers))]...)
	}
	if left >= 5*time.Minute && len(pic.Rounds) > 0 {
		to := min(3600, pic.Plan.Work+int(left.Seconds()/float64(len(pic.Rounds))/30)*30)
		mends := []Mend{}
		if to > pic.Plan.Work {
			mends = append(mends, mend("Rounds of "+coach.Clock(time.Duration(to)*time.Second), "work", 0, to))
		}
		for _, b := range pic.Blocks {
			if b.Kind == Game {
				mends = append(mends, mend(fmt.Sprintf("%s of %d min", b.Title, b.Minutes+int(left.Minutes())), "minutes", b.Index, b.Minutes+int(left.Minutes())))
				break
			}
		}
		pic.find(Note, "short", "Time", pic.Total, coach.Minutes(left)+" of the booked time are free.", mends...)
	}
	if need := ChangeFor(pic.Longest); pic.Change < need && len(pic.Rounds) > 1 {
		pic.find(Settle, "change", "Change", pic.Rounds[0].To, fmt.Sprintf("%s is short for the longest walk of %s; it takes about %s.", coach.Clock(pic.Change), in.Units.Long(math.Round(pic.Longest)), coach.Clock(need)), mend("Work it out", "change", 0, 0))
	}
}

func (pic *Picture) clock(at time.Duration) string { return pic.Start.Add(at).Format("15:04") }

func (pic *Picture) checkBooking(in Input) {
	for _, t := range in.Taken {
		if from, until := max(0, t.From), min(pic.Booked, t.Until); from < until {
			pic.find(Stop, "taken "+t.What, "Place", from, fmt.Sprintf("%s has this place from %s to %s. Choose another place or zone under What if.", t.What, pic.clock(t.From), pic.clock(t.Until)))
		}
	}
	if in.PerAdult > 0 && len(in.Players) > 0 {
		for _, m := range pic.Moments {
			adults, at := 0, m.From
			for _, l := range in.Leaders {
				if l.covers(m.From, m.To) {
					adults++
				} else if l.Until > m.From {
					at = l.Until
				}
			}
			if need := (len(in.Players) + in.PerAdult - 1) / in.PerAdult; adults < need {
				says := fmt.Sprintf("From %s there %s for %s; your club's setting is at most %d for each adult. Your club's rules and local law come first.", pic.clock(at), say.Verb(adults, "is", "are")+" "+say.Count(adults, "adult"), say.Count(len(in.Players), "player"), in.PerAdult)
				pic.find(Stop, "adults", "Adults", at, says)
				return
			}
		}
	}
}

func (pic *Picture) checkFloor(in Input) {
	var sizes []floor.Size
	var spots []floor.Spot
	for _, s := range pic.Stations {
		sizes, spots = append(sizes, SizeOf(s.Drill)), append(spots, s.Spot)
	}
	free := mend("Lay them out again", "spot", 0, "")
	free.Edits = nil
	for i, s := range pic.Stations {
		if s.Station.Spot != nil {
			free.Edits = append(free.Edits, Edit{Do: "spot", At: i})
		}
	}
	laid := func() []Mend {
		if len(free.Edits) == 0 {
			return nil
		}
		return []Mend{free}
	}
	for _, t := range floor.Check(in.Floor, spots, sizes) {
		s := pic.Stations[t.Station]
		where := fmt.Sprintf("Station %d", s.Index+1)
		key := t.What + " " + pic.station(t.Station)
		if t.Other >= 0 {
			key += " " + pic.station(t.Other)
		}
		switch t.What {
		case "off":
			pic.find(Settle, key, where, always, s.Drill.Name+" leaves the floor"+map[bool]string{true: " you have booked", false: ""}[in.Floor.Use.Length > 0]+".", laid()...)
		case "blocked":
			pic.find(Stop, key, where, always, fmt.Sprintf("%s stands on %s.", s.Drill.Name, t.Where), laid()...)
		case "overlap":
			pic.find(Settle, key, where, always, fmt.Sprintf("%s and %s are nearer than the %s they need clear.", s.Drill.Name, pic.Stations[t.Other].Drill.Name, in.Units.Long(max(s.Drill.Clearance, pic.Stations[t.Other].Drill.Clearance))), laid()...)
		case "fire":
			o := pic.Stations[t.Other]
			turn := Mend{fmt.Sprintf("Turn station %d", o.Index+1), []Edit{{Do: "spot", At: o.Index, Value: spotValue(turned(o.Spot))}}}
			pic.find(Stop, key, where, always, fmt.Sprintf("%s stands where what is thrown or struck at station %d, %s, flies on. Nobody may be in the line of fire.", s.Drill.Name, o.Index+1, o.Drill.Name), append(laid(), turn)...)
		}
	}
	pic.checkEdges(in, spots, sizes)
	for i, s := range pic.Stations {
		if !s.Fits && s.Station.Spot == nil && (s.Spot.Length < min(sizes[i].Length, sizes[i].Width)-0.1 || s.Spot.Width < min(sizes[i].Length, sizes[i].Width)-0.1 || s.Spot.Length*s.Spot.Width < sizes[i].Length*sizes[i].Width-0.1) {
			pic.find(Settle, "small "+pic.station(i), fmt.Sprintf("Station %d", i+1), always, fmt.Sprintf("%s asks for %s and %s clear; there is no such place left on the floor.", s.Drill.Name, in.Units.Area(s.Drill.Length, s.Drill.Width), in.Units.Long(s.Drill.Clearance)))
		}
	}
}

// checkEdges looks at what lies round a station: the clearance it asks for and where its balls fly on.
func (pic *Picture) checkEdges(in Input, spots []floor.Spot, sizes []floor.Size) {
	better := func(i int, at floor.Spot) bool { // than it is now: no trouble of its own there
		moved := slices.Clone(spots)
		moved[i] = at
		own := func(t floor.Trouble) bool { return t.Station == i || t.Other == i }
		return !slices.ContainsFunc(floor.Check(in.Floor, moved, sizes), own) && !slices.ContainsFunc(floor.Edges(in.Floor, moved, sizes), own)
	}
	edge := "the floor"
	if in.Floor.Use.Length > 0 {
		edge = "the zone you have booked"
	}
	said := map[int]bool{} // one word for what goes beyond the edge
	for _, t := range floor.Edges(in.Floor, spots, sizes) {
		s := pic.Stations[t.Station]
		if t.Where == "" && said[s.Index] {
			continue
		}
		var mends []Mend
		if at, ok := in.Floor.Into(s.Spot, s.Drill.Clearance); ok && at != s.Spot && better(s.Index, at) {
			mends = append(mends, mend("Move it in", "spot", s.Index, spotValue(at)))
		}
		if at := turned(s.Spot); s.Drill.Fire > 0 && better(s.Index, at) {
			mends = append(mends, mend("Turn it round", "spot", s.Index, spotValue(at)))
		}
		flies := s.Drill.Fire > 0 && (t.What == "flies" || t.Where == "" && !s.Fire().Within(in.Floor.Inside()))
		beyond, weight := "beyond "+edge, Note
		if t.Where != "" {
			beyond, weight = "over "+t.Where, Settle
		} else if said[s.Index] = true; flies && in.Floor.Use.Length > 0 {
			weight = Settle // others may be there
		}
		says := fmt.Sprintf("%s asks for %s m clear all round, which goes %s.", s.Drill.Name, coach.Figure(s.Drill.Clearance), beyond)
		if flies {
			says = fmt.Sprintf("What is thrown or struck at %s flies on %s. See that a wall or a net stops it and nobody is there.", s.Drill.Name, beyond)
		}
		pic.find(weight, t.What+" "+t.Where+" "+pic.station(s.Index), fmt.Sprintf("Station %d", s.Index+1), always, says, mends...)
	}
}

// turned is the spot with its direction of play the other way about.
func turned(s floor.Spot) floor.Spot {
	s.Turn = (s.Turn + 180) % 360
	return s
}

func spotValue(s floor.Spot) string {
	return fmt.Sprintf("%g %g %d %g %g", s.X, s.Y, s.Turn, s.Length, s.Width)
}

func (pic *Picture) checkKit() {
	for _, k := range pic.Kit {
		if k.Short == 0 {
			continue
		}
		says := fmt.Sprintf("%s needed, the club has %d", say.Count(k.Need, k.Name), k.Have)
		if len(k.Using) > 0 {
			says += " and " + say.List(k.Using) + " can stand in"
		}
		pic.find(Settle, "kit "+k.Name, "Kit", k.At, fmt.Sprintf("%s: %d short at %s.", says, k.Short, pic.clock(k.At)))
	}
}

func (pic *Picture) checkLeader(in Input, s StationAt, where string) {
	needed := s.Drill.Leader != coach.SelfRun && s.Drill.Leader != ""
	at := func(l Leader) bool {
		return slices.ContainsFunc(pic.Stations, func(o StationAt) bool { return o.Leader != nil && o.Leader.ID == l.ID })
	}
	could := func() (out []Mend) { // somebody who is free and may, or who could leave a station that runs itself
		for _, l := range in.Leaders {
			if !at(l) && s.Drill.Leader.Enough(l.Role) && pic.covers(l) {
				out = append(out, mend("Put "+first(l.Name)+" there", "leader", s.Index, l.ID))
			}
		}
		for _, o := range pic.Stations {
			if o.Index != s.Index && o.Leader != nil && o.Drill.Leader == coach.SelfRun && s.Drill.Leader.Enough(o.Leader.Role) && pic.covers(*o.Leader) {
				out = append(out, mend("Swap with "+first(o.Leader.Name), "leader", s.Index, o.Leader.ID))
			}
		}
		return out[:min(2, len(out))]
	}
	if pic.Plan.Move {
		pic.checkMoving(s, where, needed)
		return
	}
	if s.Leader == nil {
		if needed {
			says := fmt.Sprintf("%s needs %s.", s.Drill.Name, s.Drill.Leader)
			mends := could()
			if len(mends) == 0 {
				says = fmt.Sprintf("%s needs %s, and nobody free may do it.", s.Drill.Name, s.Drill.Leader)
				mends = pic.instead(in, s, func(d coach.Drill) bool { return d.Leader == coach.SelfRun })
			}
			pic.find(Settle, "leader "+pic.station(s.Index), where, pic.begin(), says, mends...)
		}
		return
	}
	if !s.Drill.Leader.Enough(s.Leader.Role) {
		pic.find(Settle, "role "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("%s needs %s; %s is a %s.", s.Drill.Name, s.Drill.Leader, first(s.Leader.Name), s.Leader.Role), could()...)
	}
	for _, r := range pic.Rounds {
		if s.Leader.covers(r.From, r.To) || s.Visits[r.Number-1] == rotate.Rest {
			continue
		}
		weight, says := Settle, fmt.Sprintf("%s leaves at %s; from round %d nobody stands at %s.", first(s.Leader.Name), pic.clock(s.Leader.Until), r.Number, s.Drill.Name)
		if r.From < s.Leader.From {
			says = fmt.Sprintf("%s comes at %s, after round %d has begun.", first(s.Leader.Name), pic.clock(s.Leader.From), r.Number)
		}
		if !needed {
			weight = Note
		}
		pic.find(weight, "gone "+pic.station(s.Index), where, r.From, says, could()...)
		return
	}
}

func (pic *Picture) checkMoving(s StationAt, where string, needed bool) {
	if !needed {
		return
	}
	for r, g := range s.Visits {
		if g == rotate.Rest {
			continue
		}
		l := pic.Groups[g].Leader
		round := pic.Rounds[r]
		switch {
		case l == nil:
			pic.find(Settle, "moving "+pic.station(s.Index), where, round.From, fmt.Sprintf("%s needs %s; nobody goes with the %s in round %d.", s.Drill.Name, s.Drill.Leader, strings.ToLower(pic.Groups[g].Shape.Name), r+1), mend("Leaders stay at stations", "leaders", 0, "stay"))
			return
		case !s.Drill.Leader.Enough(l.Role) || !l.covers(round.From, round.To):
			pic.find(Settle, "moving "+pic.station(s.Index), where, round.From, fmt.Sprintf("%s needs %s; in round %d only %s is there, %s.", s.Drill.Name, s.Drill.Leader, r+1, first(l.Name),
				map[bool]string{true: "a " + string(l.Role), false: "and not for all of it"}[l.covers(round.From, round.To)]), mend("Leaders stay at stations", "leaders", 0, "stay"))
			return
		}
	}
}

// begin is when the first round does.
func (pic *Picture) begin() time.Duration {
	if len(pic.Rounds) == 0 {
		return always
	}
	return pic.Rounds[0].From
}

// covers reports whether the leader is there for all rounds.
func (pic *Picture) covers(l Leader) bool {
	return len(pic.Rounds) == 0 || l.covers(pic.Rounds[0].From, pic.Rounds[len(pic.Rounds)-1].To)
}

// instead offers another drill of the same skill from the shelf.
func (pic *Picture) instead(in Input, s StationAt, will func(coach.Drill) bool) (out []Mend) {
	for _, d := range in.Shelf {
		shares := slices.ContainsFunc(d.Skills, func(k string) bool { return slices.Contains(s.Drill.Skills, k) })
		planned := slices.ContainsFunc(pic.Stations, func(o StationAt) bool { return o.Drill.ID == d.ID })
		if shares && !planned && will(d) && len(out) == 0 {
			out = append(out, mend(d.Name+" instead", "drill", s.Index, fmt.Sprintf("%s@%d", d.ID, d.Edition)))
		}
	}
	return out
}

// aside is what one player could do instead of drills they must not do: the station or block stays as it is for the others. First a drill
// of the same skill that one can do alone and that runs itself, else any such; and sitting out there.
func (in Input) aside(p coach.Player, drills []coach.Drill, do string, at ...int) []Mend {
	var best *coach.Drill
	fit := func(d coach.Drill) (n int) {
		if d.Leader == coach.SelfRun || d.Leader == "" {
			n += 2
		}
		for _, o := range drills {
			if slices.ContainsFunc(d.Skills, func(k string) bool { return slices.Contains(o.Skills, k) }) {
				n++
			}
		}
		return n
	}
	for i, d := range in.Shelf {
		if d.Least <= 1 && d.Edition > 0 && in.forbids(p, d) == "" && d.Fire <= 0 && !d.Hard && (best == nil || fit(d) > fit(*best)) {
			best = &in.Shelf[i]
		}
	}
	who := first(p.Name)
	out := Mend{Words: who + " sits out there"}
	own := Mend{}
	for _, i := range at {
		out.Edits = append(out.Edits, Edit{Do: do, At: i, Value: p.ID + " -"})
		if best != nil {
			own.Words = best.Name + " for " + who
			own.Edits = append(own.Edits, Edit{Do: do, At: i, Value: fmt.Sprintf("%s %s@%d", p.ID, best.ID, best.Edition)})
		}
	}
	if best == nil {
		return []Mend{out}
	}
	return []Mend{own, out}
}

func (pic *Picture) checkSize(s StationAt, where string) {
	small, large := 999, 0
	for r := range s.Visits {
		if n := pic.at(s, r); n > 0 {
			small, large = min(small, n), max(large, n)
		}
	}
	if large == 0 {
		return
	}
	switch {
	case s.Drill.Most > 0 && large > s.Drill.Most:
		var mends []Mend
		if need := (len(pic.Ledger) + s.Drill.Most - 1) / s.Drill.Most; need <= Most && need > len(pic.Groups) {
			mends = append(mends, mend("Make "+say.Count(need, "group"), "groups", 0, need))
		}
		if s.Double {
			mends = append(mends, mend("One group at a time", "double", s.Index, ""))
		}
		pic.find(Settle, "most "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("%s is for at most %d; a group of %d comes.", s.Drill.Name, s.Drill.Most, large), mends...)
	case small < s.Drill.Least:
		var mends []Mend
		if fewer := len(pic.Ledger) / max(1, s.Drill.Least); fewer >= 1 && fewer < len(pic.Groups) {
			mends = append(mends, mend("Make "+say.Count(fewer, "group"), "groups", 0, fewer))
		}
		pic.find(Settle, "least "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("%s needs at least %d; a group of %d comes.", s.Drill.Name, s.Drill.Least, small), mends...)
	}
}

func (pic *Picture) checkRest(s StationAt, where string) {
	if s.Drill.Work <= 0 || s.Drill.Rest <= 0 {
		return
	}
	t := load.Of(s.Drill)
	largest := 0
	for _, g := range pic.Groups {
		largest = max(largest, len(g.Players))
	}
	if takes, round := t.Series(largest, s.Drill.Series, 1, 0), time.Duration(pic.Plan.Work)*time.Second; takes > round && largest > 0 {
		pic.find(Note, "series "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("%s for each of %d with its rest takes %s; the round is %s.", say.Count(s.Drill.Series, "turn"), largest, coach.Clock(takes), coach.Clock(round)),
			mend("Rounds of "+coach.Clock(takes.Truncate(30*time.Second)+30*time.Second), "work", 0, int(takes.Truncate(30*time.Second).Seconds())+30))
	}
	for _, g := range pic.Groups {
		n := len(g.Players)
		if n == 0 {
			continue
		}
		if rest, add := t.RestFor(n); add > 0 {
			var mends []Mend
			if fewer := len(pic.Ledger) / t.FullGroup(); fewer >= 1 && fewer < len(pic.Groups) {
				mends = append(mends, mend(fmt.Sprintf("%s of %d", say.Count(fewer, "group"), (len(pic.Ledger)+fewer-1)/fewer), "groups", 0, fewer))
			}
			pic.find(Note, "rest "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("In turns of %s a group of %d rests %s; %s asks for %s. Add a pause of %s, or let a light skill fill it; %s %s none.",
				coach.Clock(t.Work), n, coach.Clock(rest), s.Drill.Name, coach.Clock(t.Rest), coach.Clock(add), say.Count(t.FullGroup(), "player"), say.Does(t.FullGroup(), "need")), mends...)
			return
		}
	}
}

// OwnTime is how long each player of a group has a place of the station in a round.
func (pic *Picture) OwnTime(s StationAt) time.Duration {
	size := 0
	for _, g := range pic.Groups {
		size = max(size, len(g.Players))
	}
	return load.Of(s.Drill).At(size, time.Duration(pic.Plan.Work)*time.Second).Active
}

func (pic *Picture) checkTarget(in Input, s StationAt, where string) {
	if s.Drill.TrySeconds <= 0 || len(pic.Rounds) == 0 {
		return
	}
	var chances []float64
	for _, g := range pic.Groups {
		for _, p := range g.Players {
			r, _ := in.Chance(p, s.Drill)
			chances = append(chances, r.P)
		}
	}
	if len(chances) == 0 {
		return
	}
	round := coach.Clock(time.Duration(pic.Plan.Work) * time.Second)
	own := pic.OwnTime(s)
	try, fetch := wholeSeconds(s.Drill.TrySeconds), wholeSeconds(s.Drill.Fetch)
	if s.Target.Kind == coach.Race {
		if a, ok := target.FitRace(s.Target, 0.5, own, try, fetch); ok && a.N < s.Target.N {
			pic.find(Note, "target "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("A race %s will not be over in a round of %s. First to %d takes %s.", s.Target, round, a.N, a.Because), mend(fmt.Sprintf("Make it %d", a.N), "target", s.Index, a.N))
		}
		return
	}
	if _, has := target.For(s.Target, 0.5); !has {
		return
	}
	reach := target.Reach(s.Target, chances, own, try, fetch)
	if reach >= 0.5 && reach <= 0.97 {
		return
	}
	advice, ok := target.Fit(s.Target, chances, own, try, fetch)
	chain, _ := target.For(s.Target, mean(chances))
	tries, err := chain.Tries()
	if err != nil || !ok || advice.N == s.Target.N {
		if reach < 0.5 {
			says := fmt.Sprintf("%s: hardly anyone gets to %s in a round of %s.", s.Drill.Name, short(s.Target), round)
			if s.Target.Kind == coach.SetOfStreaks && s.Target.Back == string(target.AllOver) {
				says += " Starting all over is for strong players only."
			}
			pic.find(Note, "target "+pic.station(s.Index), where, pic.begin(), says)
		}
		return
	}
	says := fmt.Sprintf("%s would take these players about %.0f tries: a round of %s is short. %d takes %.0f.", upper(short(s.Target)), tries, round, advice.N, advice.Tries)
	if reach > 0.97 {
		says = fmt.Sprintf("Nearly all reach %s at once. %d takes about %.0f tries.", short(s.Target), advice.N, advice.Tries)
	}
	pic.find(Note, "target "+pic.station(s.Index), where, pic.begin(), says, mend(fmt.Sprintf("Make it %d", advice.N), "target", s.Index, advice.N))
}

func short(t coach.Target) string {
	w, _, _ := strings.Cut(t.String(), ",")
	return w
}

// checkPractice: random practice is for those who can just do it, blocked practice for those who cannot yet.
func (pic *Picture) checkPractice(in Input, s StationAt, where string) {
	if s.Drill.Practice != "random" && s.Drill.Practice != "blocked" {
		return
	}
	for _, g := range pic.Groups {
		if !slices.Contains(g.Route, s.Index) || len(g.Players) == 0 {
			continue
		}
		sum, known := 0.0, 0
		for _, p := range g.Players {
			if r, from := in.Chance(p, s.Drill); from != "the drill's own guess" {
				sum, known = sum+r.P, known+1
			}
		}
		if known*2 < len(g.Players) {
			continue
		}
		p := sum / float64(known)
		switch {
		case s.Drill.Practice == "random" && p < 0.5:
			pic.find(Note, "phase "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("%s mixes its tries at random; the %s make %.0f in 10 and are still discovering. The same again and again serves them better.", s.Drill.Name, strings.ToLower(g.Shape.Name), p*10), pic.instead(in, s, func(d coach.Drill) bool { return d.Practice != "random" })...)
			return
		case s.Drill.Practice == "blocked" && p > 0.9:
			pic.find(Note, "phase "+pic.station(s.Index), where, pic.begin(), fmt.Sprintf("%s repeats the same; for the %s, who make %.0f in 10, it is automatic. Mixed tries, as in a game, serve them better.", s.Drill.Name, strings.ToLower(g.Shape.Name), p*10), pic.instead(in, s, func(d coach.Drill) bool { return d.Practice == "random" || d.Practice == "varied" })...)
			return
		}
	}
}

// checkAfter: a step whose "comes after" a group has not shown.
func (pic *Picture) checkAfter(in Input, s StationAt, where string) {
	for _, skill := range s.Drill.After {
		for _, g := range pic.Groups {
			if !slices.Contains(g.Route, s.Index) {
				continue
			}
			lack := 0
			for _, p := range g.Players {
				if slices.ContainsFunc(in.Missing[p.ID], func(c coach.Criterion) bool { return c.Skill == skill }) {
					lack++
				}
			}
			if lack*2 > len(g.Players) {
				pic.find(Note, "after "+pic.station(s.Index)+skill, where, pic.begin(), fmt.Sprintf("%s comes after %s; %d of the %d %s %s not shown that yet.", s.Drill.Name, skill, lack, len(g.Players), strings.ToLower(g.Shape.Name), say.Verb(lack, "has", "have")))
				break
			}
		}
	}
}

func (pic *Picture) checkLeaders(in Input) {
	for _, l := range in.Leaders {
		for _, o := range in.Elsewhere {
			from, until := max(0, o.From, l.From), min(pic.Booked, o.Until)
			if l.Until > 0 {
				until = min(until, l.Until)
			}
			if o.Leader != l.ID || from >= until {
				continue
			}
			says := fmt.Sprintf("%s is booked for %s from %s to %s too", first(l.Name), o.What, pic.clock(o.From), pic.clock(o.Until))
			weight, mends := Note, []Mend(nil)
			if pic.Plan.leads(l.ID) {
				says, weight = says+", and leads here", Settle
				if !pic.Plan.Move {
					mends = pic.relieve(in, l)
				}
			}
			pic.find(weight, "elsewhere "+l.ID+o.What, first(l.Name), from, says+".", mends...).About = []string{"leader " + l.ID}
		}
		var at []string
		for _, s := range pic.Stations {
			if s.Leader != nil && s.Leader.ID == l.ID {
				at = append(at, fmt.Sprint(s.Index+1))
			}
		}
		if len(at) > 1 {
			pic.find(Settle, "twice "+l.ID, first(l.Name), pic.begin(), fmt.Sprintf("%s stands at stations %s at once.", first(l.Name), say.List(at)), mend("Only at the first", "leader", pic.lastOf(l.ID), "")).About = []string{"leader " + l.ID}
		}
	}
}

// relieve puts others, or nobody, where a leader stands.
func (pic *Picture) relieve(in Input, gone Leader) []Mend {
	left := in
	left.Plan = in.Plan.clone()
	left.Leaders = slices.Clone(in.Leaders)
	for i := range left.Leaders {
		if left.Leaders[i].ID == gone.ID {
			left.Leaders[i].Until = time.Second
		}
	}
	left.lead([]string{gone.ID})
	m := Mend{Words: "Without " + first(gone.Name)}
	for i, s := range left.Plan.Stations {
		if s.Leader != in.Plan.Stations[i].Leader {
			m.Edits = append(m.Edits, Edit{Do: "leader", At: i, Value: ""})
		}
	}
	for i, s := range left.Plan.Stations {
		if s.Leader != in.Plan.Stations[i].Leader && s.Leader != "" {
			m.Edits = append(m.Edits, Edit{Do: "leader", At: i, Value: s.Leader})
		}
	}
	return []Mend{m}
}

func (pic *Picture) lastOf(leader string) (at int) {
	for _, s := range pic.Stations {
		if s.Leader != nil && s.Leader.ID == leader {
			at = s.Index
		}
	}
	return at
}

// checkRotation: groups that rest a whole round, and stations that most groups never come to.
func (pic *Picture) checkRotation() {
	if len(pic.Rounds) == 0 || len(pic.Groups) == 0 {
		return
	}
	rests, round := 0, 0
	for _, g := range pic.Groups {
		if r := slices.Index(g.Route, rotate.Rest); r >= 0 && len(g.Players) > 0 {
			if rests++; rests == 1 || r < round {
				round = r
			}
		}
	}
	if rests > 0 {
		var mends []Mend
		size := (len(pic.Ledger) + len(pic.Stations) - 1) / len(pic.Stations)
		if !slices.ContainsFunc(pic.Stations, func(s StationAt) bool { return s.Drill.Most > 0 && s.Drill.Most < size }) && len(pic.Stations) < len(pic.Groups) {
			mends = append(mends, mend("Make "+say.Count(len(pic.Stations), "group"), "groups", 0, len(pic.Stations)))
		}
		pic.find(Note, "rests", "Rotation", pic.Rounds[round].From, fmt.Sprintf("%s %s a whole round: there are %s for %s. Use it to drink, or let it watch with a question.", say.Count(rests, "group"), say.Does(rests, "rest"), say.Count(len(pic.Stations), "station"), say.Count(len(pic.Groups), "group")), mends...)
	}
	for _, s := range pic.Stations {
		seen := map[int]bool{}
		for r := range s.Visits {
			for _, g := range []int{s.Visits[r], s.Also[r]} {
				if g != rotate.Rest && len(pic.Groups[g].Players) > 0 {
					seen[g] = true
				}
			}
		}
		if len(seen)*2 >= len(pic.Groups) || len(pic.Rounds) >= len(pic.Stations) {
			continue
		}
		pic.find(Note, "seldom "+pic.station(s.Index), fmt.Sprintf("Station %d", s.Index+1), pic.begin(), fmt.Sprintf("Only %d of the %s %s to %s in %s.", len(seen), say.Count(len(pic.Groups), "group"), say.Does(len(seen), "come"), s.Drill.Name, say.Count(len(pic.Rounds), "round")),
			mend("Until everyone was everywhere", "rounds", 0, 0), mend("Without it", "drop-station", s.Index, ""))
	}
}

// usualMinutes finds a task that has less than half or more than twice the time it usually takes.
func (pic *Picture) usualMinutes(w *coach.Drill, minutes float64) string {
	from, to := w.Minutes[0], w.Minutes[1]
	if to <= 0 || minutes*2 >= float64(from) && minutes <= float64(to)*2 {
		return ""
	}
	usual := fmt.Sprintf("%d to %d min", from, to)
	if from == to || from <= 0 {
		usual = fmt.Sprintf("%d min", to)
	}
	return fmt.Sprintf("%s usually has %s; here it has %.0f.", w.Name, usual, minutes)
}

// checkRoutes: hard ones in a row, and what must not come before something else.
func (pic *Picture) checkRoutes(in Input) {
	hard := false
	broken := map[string]bool{}
	before := in.before(in.Plan.stationsAt())
	for _, g := range pic.Groups {
		given := slices.Clone(before)
		for r, s := range g.Route {
			if s == rotate.Rest {
				continue
			}
			st := pic.Stations[s]
			for _, need := range st.Drill.NotBefore {
				key := "before " + pic.station(s) + need
				if slices.Contains(given, need) || broken[key] {
					continue
				}
				broken[key] = true
				var mends []Mend
				for _, d := range in.Shelf {
					if d.Name == need || slices.Contains(d.Warms, need) {
						mends = append(mends, pic.warm(d))
						break
					}
				}
				pic.find(Settle, key, fmt.Sprintf("Station %d", s+1), pic.Rounds[r].From, fmt.Sprintf("%s is not to be done before %s; the %s come to it unprepared in round %d.", st.Drill.Name, need, strings.ToLower(g.Shape.Name), r+1), mends...)
			}
			given = append(given, in.gives(st.Drill.ID)...)
			if r > 0 && !hard && g.Route[r-1] != rotate.Rest && st.Drill.Hard && pic.Stations[g.Route[r-1]].Drill.Hard && pic.Rounds[r].Block == pic.Rounds[r-1].Block {
				hard = true
				block := pic.Rounds[r].Block
				pic.find(Note, "hard", g.Shape.Name, pic.Rounds[r].From, fmt.Sprintf("Two hard stations in a row, rounds %d and %d.", r, r+1),
					Mend{"Drink between", []Edit{{Do: "split-block", At: block, Value: fmt.Sprint(r - pic.Blocks[block].First)}, {Do: "add-block", At: block + 1, Value: string(Break)}}})
			}
		}
	}
}

// warm is a mend that puts a drill into the first warm-up, or makes one.
func (pic *Picture) warm(d coach.Drill) Mend {
	value := fmt.Sprintf("%s@%d", d.ID, d.Edition)
	if i := slices.IndexFunc(pic.Plan.Blocks, func(b Block) bool { return b.Kind == Together && b.Drill == "" }); i >= 0 && i < pic.Plan.stationsAt() {
		return mend(d.Name+" to warm up", "task", i, value)
	}
	return Mend{d.Name + " first", []Edit{{Do: "add-block", At: 0, Value: string(Together)}, {Do: "task", At: 0, Value: value}, {Do: "title", At: 0, Value: d.Name}, {Do: "minutes", At: 0, Value: "5"}}}
}

// checkBlocks: tasks of blocks other than stations.
func (pic *Picture) checkBlocks(in Input) {
	for _, b := range pic.Blocks {
		if use, asks := map[Kind]suggest.Use{Together: suggest.WarmUp, Look: suggest.Partner, Pairs: suggest.Partner, Ladder: suggest.Parts, Game: suggest.Game}[b.Kind]; asks && b.Task == nil && b.Block.Game == nil && len(b.Steps) == 0 && b.Note == "" {
			var mends []Mend
			if games := rotate.Games(len(in.Players), in.Floor.Inside().Length, in.Floor.Inside().Width, 1); b.Kind == Game && len(games) > 0 {
				mends = append(mends, mend(upper(games[0].String()), "game", b.Index, GameValue(games[0])))
			}
			for _, s := range suggest.Drills(in.Shelf, suggest.For{Use: use, Size: len(in.Players)}) {
				if s.Score < 15 || b.Kind == Game {
					break
				}
				suits := b.Kind == Ladder || b.Kind.partners() && s.Drill.Least <= 2 || s.Drill.Most >= len(in.Players)
				if suits && !slices.ContainsFunc(in.Players, func(p coach.Player) bool { return in.forbids(p, *s.Drill) != "" }) {
					mends = append(mends, mend(s.Drill.Name, "task", b.Index, fmt.Sprintf("%s@%d", s.Drill.ID, max(1, s.Drill.Edition))))
					break
				}
			}
			pic.find(Note, "nothing "+b.about(), b.Title, b.From, fmt.Sprintf("%s says nothing of what is done. Choose a task, or write it down.", b.Title), mends...).About = []string{b.about()}
		}
		if b.Task != nil && b.Kind != Circuit {
			if says := pic.usualMinutes(b.Task, (b.To - b.From).Minutes()); says != "" {
				to := max(1, b.Task.Minutes[0])
				if (b.To - b.From).Minutes() > float64(b.Task.Minutes[1]) {
					to = b.Task.Minutes[1]
				}
				pic.find(Note, "minutes "+b.about(), b.Title, b.From, says, mend(fmt.Sprintf("%d min", to), "minutes", b.Index, to)).About = []string{b.about()}
			}
		}
		if b.Kind == Ladder && len(b.Steps) > 0 {
			need, last := time.Duration(0), ""
			for _, s := range b.Steps {
				d := in.drill(s.Drill)
				if need += in.StepTime(d); need > b.To-b.From && last == "" {
					last = d.Name
				}
			}
			if last != "" {
				var mends []Mend
				if to := int(math.Ceil(need.Minutes())); to <= 60 {
					mends = append(mends, mend(fmt.Sprintf("%s of %d min", b.Title, to), "minutes", b.Index, to))
				}
				pic.find(Note, "ladder "+b.about(), b.Title, b.From, fmt.Sprintf("Its steps take about %s until four in five hold them; within the %s most will not get past %s.", coach.Minutes(need), coach.Minutes(b.To-b.From), last), mends...).About = []string{b.about()}
			}
		}
		if b.Kind.partners() && b.Turn > 0 {
			n, turns := len(in.Players), int((b.To-b.From).Seconds())/b.Turn
			if b.Way == rotate.MoveOn && n%2 == 0 && n > 3 && turns > n/2 && max(2, b.Team) == 2 {
				pic.find(Note, "ring "+b.about(), b.Title, b.From, b.Way.Advice(n), mend("One stays", "change-by", b.Index, string(rotate.OneStays))).About = []string{b.about()}
			}
		}
		if b.Task != nil && b.Kind != Circuit {
			for _, p := range in.Players {
				if what := in.forbidden(b.Side, p, *b.Task); what != "" {
					pic.find(Stop, fmt.Sprint("limit", b.Index, p.ID), p.Name, b.From, fmt.Sprintf("No %s, and %s asks for it. Give another task then.", what, b.Task.Name), in.aside(p, []coach.Drill{*b.Task}, "block-side", b.Index)...).About = []string{"player " + p.ID}
				}
			}
			if b.Task.Most > 0 && len(in.Players) > b.Task.Most && !b.Kind.partners() {
				pic.find(Note, "crowd "+b.about(), b.Title, b.From, fmt.Sprintf("%s is for at most %d; %d are there. Play it in two halves.", b.Task.Name, b.Task.Most, len(in.Players))).About = []string{b.about()}
			}
		}
		if b.Block.Game != nil {
			if n := b.Block.Game.Areas*(b.Block.Game.On()+b.Block.Game.Reserves) + b.Block.Game.More; n != len(in.Players) && len(in.Players) > 1 {
				games := rotate.Games(len(in.Players), in.Floor.Inside().Length, in.Floor.Inside().Width, 1)
				var mends []Mend
				if len(games) > 0 {
					mends = append(mends, mend(upper(games[0].String()), "game", b.Index, GameValue(games[0])))
				}
				pic.find(Note, "game "+b.about(), b.Title, b.From, fmt.Sprintf("%s is for %d; %d are there.", upper(b.Block.Game.String()), n, len(in.Players)), mends...).About = []string{b.about()}
			}
		}
	}
}

// GameValue is a game as the edit "game" takes it.
func GameValue(g rotate.Game) string {
	return fmt.Sprint(g.Areas, " ", g.A, " ", g.B, " ", g.Floaters, " ", g.Walls, " ", g.Reserves, " ", g.More)
}

// checkEditions offers the newer edition of what was changed on the shelf since.
func (pic *Picture) checkEditions(in Input) {
	newest := map[string]coach.Drill{}
	for _, d := range in.Shelf {
		newest[d.ID] = d
	}
	seen := map[string]bool{}
	for i, t := range pic.Plan.Tasks() {
		d := newest[t.Drill]
		if d.Edition <= t.Edition || seen[t.Drill] {
			continue
		}
		seen[t.Drill] = true
		where := "Plan"
		if i < len(pic.Stations) {
			where = fmt.Sprintf("Station %d", i+1)
		}
		var what []string
		for _, c := range coach.Compare(in.drill(t.Drill), d) {
			if c.What != "Diagram" { // planning does not read it
				what = append(what, strings.ToLower(c.What))
			}
		}
		says := fmt.Sprintf("%s has a newer edition", d.Name)
		if len(what) > 0 {
			says += ": " + say.List(what) + " changed"
		}
		pic.find(Note, "edition "+t.Drill, where, always, says+".", mend("Take it", "edition", 0, fmt.Sprintf("%s@%d", t.Drill, d.Edition)))
	}
}

func (pic *Picture) checkPlayers(in Input) {
	var unseen []string
	hasLead := false
	for _, row := range pic.Ledger {
		hasLead = hasLead || len(row.LeadSees) > 0
	}
	for _, row := range pic.Ledger {
		if hasLead && len(row.LeadSees) == 0 {
			unseen = append(unseen, row.Player.Name)
		}
		var at []string
		var stations []int
		var drills []coach.Drill
		what, round := "", always
		for r, s := range pic.Groups[row.Group].Route {
			if s == rotate.Rest {
				continue
			}
			st := pic.Stations[s]
			if no := in.forbidden(st.Side, row.Player, st.Drill); no != "" {
				what = no
				if where := fmt.Sprintf("%d %s", s+1, st.Drill.Name); !slices.Contains(at, where) {
					at, stations, drills = append(at, where), append(stations, s), append(drills, st.Drill)
				}
				if round == always {
					round = pic.Rounds[r].From
				}
			}
		}
		if len(at) == 0 {
			continue
		}
		slices.Sort(at)
		until := ""
		for _, l := range row.Player.Limits {
			if l.What == what && !l.Until.IsZero() {
				until = " until " + l.Until.Format("2 Jan")
			}
		}
		about := []string{"player " + row.Player.ID}
		for _, s := range stations {
			about = append(about, pic.station(s))
		}
		pic.find(Stop, "limit "+row.Player.ID, row.Player.Name, round, fmt.Sprintf("No %s%s, and %s asks for it. Give another task there.", what, until, say.List(at)), in.aside(row.Player, drills, "side", stations...)...).About = about
	}
	if len(unseen) > 0 {
		who := few(unseen)
		if len(unseen) > 4 {
			who = say.Count(len(unseen), "player")
		}
		var mends []Mend
		if pic.Plan.Rounds > 0 && pic.Plan.Rounds < len(pic.Stations) {
			mends = append(mends, mend("A round more", "rounds", 0, pic.Plan.Rounds+1))
		}
		pic.find(Note, "unseen", "Lead", always, fmt.Sprintf("The lead does not get to see %s.", who), mends...).About = []string{pic.lead()}
	}
}

// checkCriteria: looks that are planned for today and no station shows, and what most of the class lacks and nobody will see.
func (pic *Picture) checkCriteria(in Input) {
	if len(in.Players) > 0 && !slices.ContainsFunc(in.Players, func(p coach.Player) bool { return p.Stage != "" }) {
		pic.find(Settle, "no-stage", "Criteria", always, "Nobody here stands on a stage, so nothing can be marked. Choose their stage on the roster.")
	}
	for _, c := range pic.Criteria {
		if len(c.Asked) > 0 && len(c.Stations) == 0 {
			var mends []Mend
			if i := slices.IndexFunc(in.Shelf, func(d coach.Drill) bool { return in.Shows.Shows(c.Criterion, d) }); i >= 0 && len(pic.Stations) > 0 {
				last := pic.Stations[len(pic.Stations)-1]
				mends = append(mends, mend(in.Shelf[i].Name+" instead of "+last.Drill.Name, "drill", last.Index, fmt.Sprintf("%s@%d", in.Shelf[i].ID, in.Shelf[i].Edition)))
			}
			pic.find(Settle, "look "+c.Criterion.ID, "Criterion", pic.begin(), fmt.Sprintf("%s to be marked on “%s” today, and no station shows %s.", say.Count(len(c.Asked), "player"), c.Criterion.Wording, c.Criterion.Skill), mends...)
		}
	}
	for _, c := range pic.Criteria {
		if len(c.Stations) > 0 && len(c.By) == 0 && len(c.Players)*3 >= len(pic.Ledger) {
			s := pic.Stations[c.Stations[0]]
			var mends []Mend
			for _, l := range pic.leaders {
				if l.Role == coach.RoleHelper || pic.Plan.Move {
					continue
				}
				mends = append(mends, mend(first(l.Name)+fmt.Sprintf(" to station %d", s.Index+1), "leader", s.Index, l.ID))
				break
			}
			pic.find(Note, "criterion "+c.Criterion.ID, "Criterion", pic.begin(), fmt.Sprintf("%s is open for %s and could be shown at station %d, where no coach stands to mark it.", c.Criterion.Wording, say.Count(len(c.Players), "player"), s.Index+1), mends...)
			return
		}
	}
}

// Difference is what changes from one picture of the session to another.
type Difference struct {
	Moves   []MovedPlayer
	Figures []string // "88 instead of 90 min", in words
	New     []Finding
	Settled []Finding
}

// MovedPlayer is a player who changes groups; To or From −1: not in one.
type MovedPlayer struct {
	Player   coach.Player
	From, To int
}

// Compare says what is different from one picture to the next.
func Compare(a, b Picture) (d Difference) {
	at := map[string]int{}
	for _, g := range a.Groups {
		for _, p := range g.Players {
			at[p.ID] = g.Index
		}
	}
	seen := map[string]bool{}
	for _, g := range b.Groups {
		for _, p := range g.Players {
			from, was := at[p.ID]
			if seen[p.ID] = true; !was {
				from = -1
			}
			if from != g.Index {
				d.Moves = append(d.Moves, MovedPlayer{p, from, g.Index})
			}
		}
	}
	for _, g := range a.Groups {
		for _, p := range g.Players {
			if !seen[p.ID] {
				d.Moves = append(d.Moves, MovedPlayer{p, g.Index, -1})
			}
		}
	}
	slices.SortStableFunc(d.Moves, func(x, y MovedPlayer) int { return cmp.Compare(x.Player.Name, y.Player.Name) })
	for _, f := range []struct{ what, was, is string }{
		{"Minutes", fmt.Sprintf("%.0f of %.0f", a.Total.Minutes(), a.Booked.Minutes()), fmt.Sprintf("%.0f of %.0f", b.Total.Minutes(), b.Booked.Minutes())},
		{"Tries each", fmt.Sprintf("%.0f", a.Reps), fmt.Sprintf("%.0f", b.Reps)},
		{"Active", fmt.Sprintf("%.0f %%", a.Active*100), fmt.Sprintf("%.0f %%", b.Active*100)},
		{"Groups", fmt.Sprint(len(a.Groups)), fmt.Sprint(len(b.Groups))},
		{"Stations", fmt.Sprint(len(a.Stations)), fmt.Sprint(len(b.Stations))},
		{"Change", coach.Clock(a.Change), coach.Clock(b.Change)},
		{"Floor", a.Floor.Name, b.Floor.Name},
	} {
		if f.was != f.is {
			d.Figures = append(d.Figures, fmt.Sprintf("%s: %s instead of %s", f.what, f.is, f.was))
		}
	}
	has := func(fs []Finding, key string) bool {
		return slices.ContainsFunc(fs, func(f Finding) bool { return f.Key == key })
	}
	for _, f := range b.Findings {
		if !has(a.Findings, f.Key) {
			d.New = append(d.New, f)
		}
	}
	for _, f := range a.Findings {
		if !has(b.Findings, f.Key) && !slices.ContainsFunc(f.About, func(about string) bool { return !b.has(about) }) { // what it is about is gone: nothing is settled by that
			d.Settled = append(d.Settled, f)
		}
	}
	return d
}
