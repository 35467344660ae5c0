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
	"gruppo/internal/coach/target"
)

// Leader is a member who is there from–until, counted from the session's start.
type Leader struct {
	ID, Name    string
	Role        coach.Role
	From, Until time.Duration // Until zero: to the end
}

// Input is everything a plan is worked out from.
type Input struct {
	Plan    Plan
	Booked  time.Duration
	Start   time.Time
	Players []coach.Player // who is coming
	Stages  map[string]string
	Leaders []Leader
	Drills  map[string]coach.Drill // by id
	Floor   floor.Floor
	Tries   map[string]map[string][]target.Series // player → skill → what was marked
	Running bool                                  // in the hall: the check is for planning, and is left out
}

// Picture is a plan worked out: the same figures stand behind Floor, Strip and Ledger.
type Picture struct {
	Plan     Plan
	Start    time.Time
	Booked   time.Duration
	Total    time.Duration
	Blocks   []Span
	Rounds   []Round
	Change   time.Duration
	Longest  float64 // metres of the longest walk at a change
	Rotation string  // why the rotation is as it is
	Stations []StationAt
	Groups   []Group
	Undealt  []coach.Player // coming, but in no group yet
	Ledger   []Row
	Findings []Finding
	Reps     float64 // mean a player, at the stations
	Active   float64 // share of the session the players move, mean
	Floor    floor.Floor
}

// Span is a block on the session's clock, as offsets from the start.
type Span struct {
	Block
	Index    int
	From, To time.Duration
}

// Round is one work period of the stations block.
type Round struct {
	Number   int // from 1
	From, To time.Duration
}

// StationAt is a station on the floor.
type StationAt struct {
	Index  int // from 0
	Drill  coach.Drill
	Target coach.Target
	Leader *Leader
	Spot   floor.Spot
	Fits   bool
	Visits []int // the group there in each round, or rotate.Rest
}

// Group is players who move together.
type Group struct {
	Index   int
	Shape   Shape
	Players []coach.Player
	Route   []int // the station in each round, or rotate.Rest
}

// Row is one player's line of the ledger.
type Row struct {
	Player   coach.Player
	Stage    string
	Group    int
	Reps     float64
	Active   time.Duration
	Waiting  time.Duration
	Resting  time.Duration
	Moving   time.Duration
	Wait     time.Duration // the longest usual wait between two turns
	LeadSees []int         // rounds in which the lead's station has this player
	BySkill  map[string]float64
}

// Weight of a finding.
type Weight string

const (
	Stop   Weight = "stop"
	Settle Weight = "settle"
	Note   Weight = "note"
)

// Finding is something the check noticed, with a mend that can be applied at once where there is one.
type Finding struct {
	Weight Weight
	Where  string
	Says   string
	Mend   string // the button's words
	Edit   Edit
}

// walkingPace in m/s and the seconds a group takes to settle: common practice, no source.
const (
	walkingPace = 1.2
	settle      = 15
)

// Work works the plan out.
func Work(in Input) Picture {
	p := in.Plan
	pic := Picture{Plan: p, Start: in.Start, Booked: in.Booked, Floor: in.Floor}
	pic.place(in)
	pic.group(in)
	pic.rotation()
	pic.timetable()
	pic.ledger(in)
	if !in.Running {
		pic.check(in)
	}
	return pic
}

func (pic *Picture) place(in Input) {
	var sizes []floor.Size
	for i, s := range in.Plan.Stations {
		d, ok := in.Drills[s.Drill]
		if !ok {
			d = coach.Drill{ID: s.Drill, Name: "A drill that is gone", Least: 1, Most: 99, Length: 8, Width: 6}
		}
		st := StationAt{Index: i, Drill: d, Target: d.Target}
		if s.Target > 0 {
			st.Target.N = s.Target
		}
		for _, l := range in.Leaders {
			if l.ID == s.Leader {
				st.Leader = &l
			}
		}
		pic.Stations = append(pic.Stations, st)
		sizes = append(sizes, floor.Size{Length: d.Length, Width: d.Width, Clearance: d.Clearance})
	}
	spots, fits := floor.Layout(in.Floor, sizes)
	for i := range pic.Stations {
		pic.Stations[i].Spot, pic.Stations[i].Fits = spots[i], fits[i]
	}
}

func (pic *Picture) group(in Input) {
	byID := map[string]coach.Player{}
	for _, p := range in.Players {
		byID[p.ID] = p
	}
	for g, ids := range in.Plan.Deal {
		if g >= Most {
			break
		}
		gr := Group{Index: g, Shape: Shapes[g]}
		for _, id := range ids {
			if p, coming := byID[id]; coming {
				gr.Players = append(gr.Players, p)
				delete(byID, id)
			}
		}
		pic.Groups = append(pic.Groups, gr)
	}
	for _, p := range in.Players {
		if _, left := byID[p.ID]; left {
			pic.Undealt = append(pic.Undealt, p)
		}
	}
}

func (pic *Picture) rotation() {
	ring := max(len(pic.Groups), len(pic.Stations))
	rounds := pic.Plan.Rounds
	if rounds == 0 {
		rounds = ring
	}
	if len(pic.Stations) == 0 || len(pic.Groups) == 0 {
		pic.Rotation = "there is nothing to rotate yet"
		return
	}
	spots := make([]floor.Spot, len(pic.Stations))
	hard := make([]bool, len(pic.Stations))
	for i, s := range pic.Stations {
		spots[i], hard[i] = s.Spot, s.Drill.Hard
	}
	rot := rotate.Stations(rotate.Asked{Groups: len(pic.Groups), Stations: len(pic.Stations), Rounds: rounds, Hard: hard, Walk: floor.Walks(spots)})
	pic.Longest, pic.Rotation = rot.Longest, rot.Because
	for i := range pic.Stations {
		pic.Stations[i].Visits = slices.Repeat([]int{rotate.Rest}, rounds)
	}
	for g := range pic.Groups {
		pic.Groups[g].Route = rot.Route[g]
		for r, s := range rot.Route[g] {
			if s != rotate.Rest {
				pic.Stations[s].Visits[r] = g
			}
		}
	}
	pic.Rounds = make([]Round, rounds)
	pic.Change = time.Duration(pic.Plan.Change) * time.Second
	if pic.Plan.Change == 0 {
		pic.Change = ChangeFor(pic.Longest)
	}
}

// ChangeFor is the time a change takes for a walk of so many metres: at 1.2 m/s, plus 15 s to settle, up to the next 5 s.
func ChangeFor(metres float64) time.Duration {
	s := metres/walkingPace + settle
	return time.Duration(math.Ceil(s/5-1e-9)) * 5 * time.Second
}

func (pic *Picture) timetable() {
	at := time.Duration(0)
	for i, b := range pic.Plan.Blocks {
		d := time.Duration(b.Minutes) * time.Minute
		if b.Kind == Circuit {
			work := time.Duration(pic.Plan.Work) * time.Second
			t := at + time.Duration(pic.Plan.Brief)*time.Second
			for r := range pic.Rounds {
				pic.Rounds[r] = Round{Number: r + 1, From: t, To: t + work}
				t += work + pic.Change
			}
			d = 0
			if n := len(pic.Rounds); n > 0 { // brief + R·work + (R − 1)·change
				d = pic.Rounds[n-1].To - at
			}
		}
		pic.Blocks = append(pic.Blocks, Span{Block: b, Index: i, From: at, To: at + d})
		at += d
	}
	pic.Total = at
}

func (pic *Picture) ledger(in Input) {
	together := time.Duration(0)
	resting := time.Duration(0)
	for _, b := range pic.Blocks {
		if b.Kind.active() {
			together += b.To - b.From
		}
		if b.Kind == Break {
			resting += b.To - b.From
		}
	}
	reps, active := 0.0, 0.0
	for _, g := range pic.Groups {
		for _, p := range g.Players {
			row := Row{Player: p, Stage: in.Stages[p.Stage], Group: g.Index, Active: together, Resting: resting, BySkill: map[string]float64{}}
			row.Moving = pic.Change * time.Duration(max(0, len(pic.Rounds)-1))
			for r, s := range g.Route {
				d := pic.Rounds[r].To - pic.Rounds[r].From
				if s == rotate.Rest {
					row.Resting += d
					continue
				}
				st := pic.Stations[s]
				share := load.Station{Places: st.Drill.Places, Roles: len(st.Drill.Roles), Pace: st.Drill.Pace}.At(len(g.Players), d)
				row.Reps += share.Reps
				row.Active += share.Active + share.InRole
				row.Waiting += share.Waiting
				row.Wait = max(row.Wait, share.Wait)
				for _, skill := range st.Drill.Skills {
					row.BySkill[skill] += share.Reps
				}
				if st.Leader != nil && st.Leader.Role == coach.RoleLead {
					row.LeadSees = append(row.LeadSees, r+1)
				}
			}
			reps += row.Reps
			active += float64(row.Active)
			pic.Ledger = append(pic.Ledger, row)
		}
	}
	slices.SortStableFunc(pic.Ledger, func(a, b Row) int {
		if a.Group != b.Group {
			return a.Group - b.Group
		}
		return cmp.Compare(a.Player.Name, b.Player.Name)
	})
	if n := float64(len(pic.Ledger)); n > 0 && pic.Total > 0 {
		pic.Reps, pic.Active = reps/n, active/n/float64(pic.Total)
	}
}

func (pic *Picture) find(w Weight, where, mend string, e Edit, format string, args ...any) {
	pic.Findings = append(pic.Findings, Finding{Weight: w, Where: where, Says: fmt.Sprintf(format, args...), Mend: mend, Edit: e})
}

func (pic *Picture) check(in Input) {
	none := Edit{}
	if len(in.Players) == 0 {
		pic.find(Settle, "Players", "", none, "Nobody is expected yet. Enrol players in the class, or take back an absence.")
	}
	if len(pic.Stations) == 0 {
		pic.find(Settle, "Stations", "", none, "No drill is chosen yet. Pick one from the list and the floor begins to fill.")
	}
	if len(pic.Undealt) > 0 {
		var names []string
		for _, p := range pic.Undealt {
			names = append(names, p.Name)
		}
		if len(names) > 4 {
			names = append(names[:3], fmt.Sprintf("%d more", len(names)-3))
		}
		pic.find(Settle, "Groups", "Deal them in", Edit{Do: "redeal"}, "%s not in a group yet.", coach.List(names)+map[bool]string{true: " is", false: " are"}[len(pic.Undealt) == 1])
	}
	pic.checkEven()
	pic.checkTime()
	pic.checkStations(in)
	pic.checkPlayers()
	order := map[Weight]int{Stop: 0, Settle: 1, Note: 2}
	slices.SortStableFunc(pic.Findings, func(a, b Finding) int { return order[a.Weight] - order[b.Weight] })
}

// checkEven offers a new deal when absences have left groups two or more apart, unless keeping players together may ask for it.
func (pic *Picture) checkEven() {
	small, large := 999, 0
	for _, g := range pic.Groups {
		small, large = min(small, len(g.Players)), max(large, len(g.Players))
		for _, p := range g.Players {
			if len(p.With) > 1 {
				return
			}
		}
	}
	if large-small > 1 {
		pic.find(Note, "Groups", "Deal who is coming", Edit{Do: "redeal"}, "The largest group has %d, the smallest %d.", large, small)
	}
}

func (pic *Picture) checkTime() {
	if len(pic.Rounds) == 0 {
		return
	}
	left := pic.Booked - pic.Total
	if left < 0 {
		if i := slices.IndexFunc(pic.Blocks, func(b Span) bool { return b.Kind == Game }); i >= 0 {
			b := pic.Blocks[i]
			if to := b.Minutes - int(math.Ceil((-left).Minutes())); to >= 5 {
				pic.find(Stop, "Time", fmt.Sprintf("Game to %d min", to), Edit{Do: "minutes", At: b.Index, Value: fmt.Sprint(to)},
					"The plan runs %s over the booked time; the game could give it.", coach.Clock(-left))
				return
			}
		}
		to := pic.Plan.Work - int(math.Ceil((-left).Seconds()/float64(len(pic.Rounds))/30))*30
		if to >= 60 {
			pic.find(Stop, "Time", fmt.Sprintf("Rounds of %s", coach.Clock(time.Duration(to)*time.Second)), Edit{Do: "work", Value: fmt.Sprint(to)},
				"The plan runs %s over the booked time.", coach.Clock(-left))
			return
		}
		pic.find(Stop, "Time", "", Edit{}, "The plan runs %s over the booked time. Take a station out, or make a block shorter.", coach.Clock(-left))
	}
	if left >= 5*time.Minute {
		to := pic.Plan.Work + int(left.Seconds()/float64(len(pic.Rounds))/30)*30
		pic.find(Note, "Time", fmt.Sprintf("Rounds of %s", coach.Clock(time.Duration(to)*time.Second)), Edit{Do: "work", Value: fmt.Sprint(to)},
			"%s of the booked time are free.", coach.Minutes(left))
	}
	if need := ChangeFor(pic.Longest); pic.Change < need && len(pic.Rounds) > 1 {
		pic.find(Settle, "Change", "Work it out", Edit{Do: "change", Value: "0"},
			"%s is short for the longest walk of %.0f m; it takes about %s.", coach.Clock(pic.Change), pic.Longest, coach.Clock(need))
	}
}

func (pic *Picture) checkStations(in Input) {
	for _, s := range pic.Stations {
		where := fmt.Sprintf("Station %d", s.Index+1)
		if !s.Fits {
			pic.find(Settle, where, "", Edit{}, "%s asks for %.0f × %.0f m and %.1f m clear; its part of the floor is smaller.", s.Drill.Name, s.Drill.Length, s.Drill.Width, s.Drill.Clearance)
		}
		pic.checkLeader(in, s, where)
		pic.checkSize(s, where)
		pic.checkTarget(in, s, where)
		if s.Drill.Work > 0 && s.Drill.Rest > 0 {
			pic.checkRest(s, where)
		}
	}
	for _, g := range pic.Groups {
		for r := 1; r < len(g.Route); r++ {
			a, b := g.Route[r-1], g.Route[r]
			if a >= 0 && b >= 0 && pic.Stations[a].Drill.Hard && pic.Stations[b].Drill.Hard {
				pic.find(Note, g.Shape.Name, "", Edit{}, "Two hard stations in a row, rounds %d and %d.", r, r+1)
			}
		}
	}
}

func (pic *Picture) checkLeader(in Input, s StationAt, where string) {
	if s.Leader == nil {
		if s.Drill.Leader == coach.SelfRun || s.Drill.Leader == "" {
			return
		}
		for _, l := range in.Leaders { // somebody who is free and may
			free := !slices.ContainsFunc(pic.Stations, func(o StationAt) bool { return o.Leader != nil && o.Leader.ID == l.ID })
			if free && s.Drill.Leader.Enough(l.Role) && pic.covers(l) {
				pic.find(Settle, where, "Put "+first(l.Name)+" there", Edit{Do: "leader", At: s.Index, Value: l.ID}, "%s needs %s.", s.Drill.Name, s.Drill.Leader)
				return
			}
		}
		pic.find(Settle, where, "", Edit{}, "%s needs %s, and nobody free may do it.", s.Drill.Name, s.Drill.Leader)
		return
	}
	if !s.Drill.Leader.Enough(s.Leader.Role) {
		pic.find(Settle, where, "", Edit{}, "%s needs %s; %s is a %s.", s.Drill.Name, s.Drill.Leader, first(s.Leader.Name), s.Leader.Role)
	}
	if pic.covers(*s.Leader) {
		return
	}
	for _, r := range pic.Rounds {
		if s.Leader.Until > 0 && r.To > s.Leader.Until || r.From < s.Leader.From {
			says := fmt.Sprintf("%s leaves at %s; from round %d nobody stands at %s.", first(s.Leader.Name), pic.Start.Add(s.Leader.Until).Format("15:04"), r.Number, s.Drill.Name)
			if r.From < s.Leader.From {
				says = fmt.Sprintf("%s comes at %s, after round %d has begun.", first(s.Leader.Name), pic.Start.Add(s.Leader.From).Format("15:04"), r.Number)
			}
			for _, o := range pic.Stations { // a station that runs itself could have this helper instead
				if o.Index != s.Index && o.Leader != nil && pic.covers(*o.Leader) && s.Drill.Leader.Enough(o.Leader.Role) && (o.Drill.Leader == coach.SelfRun) {
					pic.find(Settle, where, "Swap with "+first(o.Leader.Name), Edit{Do: "leader", At: s.Index, Value: o.Leader.ID}, "%s", says)
					return
				}
			}
			for _, l := range in.Leaders {
				busy := slices.ContainsFunc(pic.Stations, func(o StationAt) bool { return o.Leader != nil && o.Leader.ID == l.ID })
				if !busy && pic.covers(l) && s.Drill.Leader.Enough(l.Role) {
					pic.find(Settle, where, "Put "+first(l.Name)+" there", Edit{Do: "leader", At: s.Index, Value: l.ID}, "%s", says)
					return
				}
			}
			pic.find(Settle, where, "", Edit{}, "%s", says)
			return
		}
	}
}

// covers reports whether the leader is there for all rounds.
func (pic *Picture) covers(l Leader) bool {
	if len(pic.Rounds) == 0 {
		return true
	}
	return l.From <= pic.Rounds[0].From && (l.Until == 0 || l.Until >= pic.Rounds[len(pic.Rounds)-1].To)
}

func (pic *Picture) checkSize(s StationAt, where string) {
	small, large := 999, 0
	for _, g := range pic.Groups {
		small, large = min(small, len(g.Players)), max(large, len(g.Players))
	}
	if len(pic.Groups) == 0 || large == 0 {
		return
	}
	switch {
	case s.Drill.Most > 0 && large > s.Drill.Most:
		e, mend := Edit{}, ""
		if need := (len(pic.Ledger) + s.Drill.Most - 1) / s.Drill.Most; need <= Most && need > len(pic.Groups) {
			e, mend = Edit{Do: "groups", Value: fmt.Sprint(need)}, fmt.Sprintf("Make %d groups", need)
		}
		pic.find(Settle, where, mend, e, "%s is for at most %d; a group of %d comes.", s.Drill.Name, s.Drill.Most, large)
	case small < s.Drill.Least:
		e, mend := Edit{}, ""
		if fewer := len(pic.Ledger) / max(1, s.Drill.Least); fewer >= 1 && fewer < len(pic.Groups) {
			e, mend = Edit{Do: "groups", Value: fmt.Sprint(fewer)}, fmt.Sprintf("Make %s", coach.Plural(fewer, "group"))
		}
		pic.find(Settle, where, mend, e, "%s needs at least %d; a group of %d comes.", s.Drill.Name, s.Drill.Least, small)
	}
}

func (pic *Picture) checkRest(s StationAt, where string) {
	t := load.Turns{Places: s.Drill.Places, Work: time.Duration(s.Drill.Work) * time.Second, Rest: time.Duration(s.Drill.Rest) * time.Second}
	for _, g := range pic.Groups {
		if n := len(g.Players); n > 0 {
			if rest, add := t.RestFor(n); add > 0 {
				pic.find(Note, where, "", Edit{}, "In turns of %s a group of %d rests %s; %s asks for %s. Add a pause of %s.",
					coach.Clock(t.Work), n, coach.Clock(rest), s.Drill.Name, coach.Clock(t.Rest), coach.Clock(add))
				return
			}
		}
	}
}

// Chance is how often a player's try at the drill is good: from the player's own marks of its skills, else from those of
// players of the same stage, else the drill's own guess. from says which.
func (in Input) Chance(p coach.Player, d coach.Drill) (r target.Rate, from string) {
	own, stage := []target.Series(nil), []target.Series(nil)
	for _, skill := range d.Skills {
		own = append(own, in.Tries[p.ID][skill]...)
	}
	if len(own) > 0 {
		return target.Estimate(own), "own marks"
	}
	for _, o := range in.Players {
		if o.Stage == p.Stage {
			for _, skill := range d.Skills {
				stage = append(stage, in.Tries[o.ID][skill]...)
			}
		}
	}
	if len(stage) > 0 {
		return target.Estimate(stage), "the stage's marks"
	}
	return target.Rate{P: d.Chance, Low: max(0, d.Chance-0.2), High: min(1, d.Chance+0.2)}, "the drill's own guess"
}

func (pic *Picture) checkTarget(in Input, s StationAt, where string) {
	if _, has := target.For(s.Target, 0.5); !has || s.Drill.TrySeconds <= 0 || len(pic.Rounds) == 0 {
		return
	}
	var chances []float64
	size := 0
	for _, g := range pic.Groups {
		size = max(size, len(g.Players))
		for _, p := range g.Players {
			r, _ := in.Chance(p, s.Drill)
			chances = append(chances, r.P)
		}
	}
	if len(chances) == 0 {
		return
	}
	// Each player's own time at the place: the round, shared out.
	own := load.Station{Places: s.Drill.Places, Roles: len(s.Drill.Roles), Pace: 1}.At(size, time.Duration(pic.Plan.Work)*time.Second).Active
	try, fetch := wholeSeconds(s.Drill.TrySeconds), wholeSeconds(s.Drill.Fetch)
	reach := target.Reach(s.Target, chances, own, try, fetch)
	if reach >= 0.5 && reach <= 0.97 {
		return
	}
	advice, ok := target.Fit(s.Target, chances, own, try, fetch)
	chain, _ := target.For(s.Target, mean(chances))
	tries, err := chain.Tries()
	if err != nil || !ok || advice.N == s.Target.N {
		if reach < 0.5 {
			pic.find(Note, where, "", Edit{}, "%s: hardly anyone gets to %s in a round of %s.", s.Drill.Name, short(s.Target), coach.Clock(time.Duration(pic.Plan.Work)*time.Second))
		}
		return
	}
	says := fmt.Sprintf("%s would take these players about %.0f tries: a round of %s is short. %d takes %.0f.", upper(short(s.Target)), tries, coach.Clock(time.Duration(pic.Plan.Work)*time.Second), advice.N, advice.Tries)
	if reach > 0.97 {
		says = fmt.Sprintf("Nearly all reach %s at once. %d takes about %.0f tries.", short(s.Target), advice.N, advice.Tries)
	}
	pic.find(Note, where, fmt.Sprintf("Make it %d", advice.N), Edit{Do: "target", At: s.Index, Value: fmt.Sprint(advice.N)}, "%s", says)
}

// wholeSeconds is as exact as a guess of a try's length can be.
func wholeSeconds(s float64) time.Duration {
	return time.Duration(math.Max(1, math.Round(s))) * time.Second
}

func short(t coach.Target) string {
	w, _, _ := strings.Cut(t.String(), ",")
	return w
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

func mean(xs []float64) float64 {
	s := 0.0
	for _, x := range xs {
		s += x
	}
	return s / float64(max(1, len(xs)))
}

func first(name string) string {
	f, _, _ := strings.Cut(name, " ")
	return f
}

func (pic *Picture) checkPlayers() {
	var unseen []string
	hasLead := slices.ContainsFunc(pic.Stations, func(s StationAt) bool { return s.Leader != nil && s.Leader.Role == coach.RoleLead })
	for _, row := range pic.Ledger {
		if hasLead && len(row.LeadSees) == 0 {
			unseen = append(unseen, row.Player.Name)
		}
		for _, l := range row.Player.Limits {
			if !l.Until.IsZero() && l.Until.Before(pic.Start) {
				continue
			}
			var at []string
			for _, s := range pic.Groups[row.Group].Route {
				if s >= 0 && slices.Contains(pic.Stations[s].Drill.Asks, l.What) {
					at = append(at, fmt.Sprintf("%d %s", s+1, pic.Stations[s].Drill.Name))
				}
			}
			slices.Sort(at)
			if at = slices.Compact(at); len(at) > 0 {
				until := ""
				if !l.Until.IsZero() {
					until = " until " + l.Until.Format("2 Jan")
				}
				pic.find(Stop, row.Player.Name, "", Edit{}, "No %s%s, and %s asks for it. Give another task there.", l.What, until, coach.List(at))
			}
		}
	}
	if len(unseen) > 0 {
		who := coach.List(unseen)
		if len(unseen) > 4 {
			who = coach.Plural(len(unseen), "player")
		}
		pic.find(Note, "Lead", "", Edit{}, "The lead's station does not get to see %s.", who)
	}
}
