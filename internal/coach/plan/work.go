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
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

// Leader is a member who is there from–until, counted from the session's start.
type Leader struct {
	ID, Name    string
	Role        coach.Role
	From, Until time.Duration // Until zero: to the end
}

// There is what is different about a player today.
type There struct {
	From, Until time.Duration // Until zero: to the end
	No          string        // a limit for today only
}

// Taken is somebody else's booking of the same place.
type Taken struct {
	What        string
	From, Until time.Duration // counted from this session's start
}

// Elsewhere is another booking of a leader at this session's time, counted from its start.
type Elsewhere struct {
	Leader, What string
	From, Until  time.Duration
}

// Input is everything a plan is worked out from.
type Input struct {
	Plan      Plan
	Booked    time.Duration
	Start     time.Time
	Players   []coach.Player // who is coming
	There     map[string]There
	Stages    map[string]string // names, by id
	Family    coach.Family      // of sports
	Units     coach.Units       // that the club reads lengths in
	Leaders   []Leader
	Drills    map[string]coach.Drill // of the plan, in its editions, by id
	Shelf     []coach.Drill          // what could be chosen
	Floor     floor.Floor
	Tries     map[string]map[string][]target.Series // player → skill, or "drill " and its id → what was marked
	Met       map[[2]string]float64                 // two player ids in order → how lately they were in a group: 1 last time, fading
	Missing   map[string][]coach.Criterion          // player → what is not shown yet
	Shows     coach.Showing                         // which drills show which criteria
	Looks     map[string][]string                   // player → ids of the criteria that are to be marked in this session
	Kit       []coach.Kit
	Recent    map[string]float64 // drill → weeks since this class had it
	PerAdult  int                // the club's own limit of players for each adult; 0: none set
	Taken     []Taken
	Elsewhere []Elsewhere
	Running   bool // in the hall: the check is for planning, and is left out
}

// Picture is a plan worked out: the same figures stand behind Floor, Strip and Ledger.
type Picture struct {
	Plan     Plan
	Start    time.Time
	Booked   time.Duration
	Total    time.Duration
	Blocks   []Span
	Rounds   []Round
	Moments  []Moment
	Change   time.Duration
	Longest  float64 // metres of the longest walk at a change
	Rotation string  // why the rotation is as it is
	Stations []StationAt
	Groups   []Group
	Undealt  []coach.Player // coming, but in no group yet
	Ledger   []Row
	Leaders  []LeaderRow
	Kit      []KitRow
	Criteria []CriterionRow
	Findings []Finding
	Instead  []Instead // who does something else than the others, and where
	Reps     float64   // mean a player
	Active   float64   // share of the session the players move, mean
	Floor    floor.Floor

	leaders []Leader
	dropped []string // musts of the rotation that could not hold, in words
}

// Span is a block on the session's clock, as offsets from the start.
type Span struct {
	Block
	Index    int
	From, To time.Duration
	Task     *coach.Drill
	First    int // of a stations block: its first round, counted from 0
	Count    int // and how many it holds
}

// Does names what everybody does in the block, and says how: the drill's own words, else what this kind of block is for.
func (b Span) Does() (what, how string) {
	usual := map[Kind]string{
		OneKey: "Show the whole skill. Look. Show it again with the key alone, and speak of nothing else. Let them say it back.",
		Break:  "Drink. Ask who hurts, and who has not been looked at.",
		Close:  "Let them say the key back. Cool down, kit away, the task for home.",
	}
	what, how = b.Title, usual[b.Kind]
	switch {
	case b.Task != nil:
		what, how = b.Task.Name, b.Task.Setup
	case b.Game != nil:
		what = b.Game.String()
	}
	if b.Note != "" {
		how = strings.TrimSpace(b.Note + "\n" + how)
	}
	return what, how
}

// RallyLadder reports whether the block's pairs have one score together, so that nobody wins.
func (b Span) RallyLadder() bool { return b.Task != nil && b.Task.Target.Kind == coach.RallyLadder }

// Changed says what the drill asks for where the plan asks for something else at the station, and nothing where they agree.
func (s StationAt) Changed() string {
	if asks := s.Drill.Target.String(); asks != s.Target.String() {
		return asks
	}
	return ""
}

// Round is one work period of the stations.
type Round struct {
	Number   int // from 1
	From, To time.Duration
	Block    int // the block it is in
}

// Moment is a stretch in which everybody stays where they are.
type Moment struct {
	From, To time.Duration
	Kind     string // block, brief, work, change
	Label    string
	Block    int
	Round    int // from 1 for work and change
}

// StationAt is a station on the floor.
type StationAt struct {
	Station
	Index  int // from 0
	Drill  coach.Drill
	Target coach.Target
	Leader *Leader
	Spot   floor.Spot
	Fits   bool
	Visits []int // the group there in each round, or rotate.Rest
	Also   []int // a second group, where two may come
}

// Fire is the strip in which balls fly on, or an empty spot.
func (s StationAt) Fire() floor.Spot {
	if s.Drill.Fire <= 0 {
		return floor.Spot{}
	}
	return s.Spot.Fire(s.Drill.Fire)
}

// Group is players who move together.
type Group struct {
	Index   int
	Shape   Shape
	Players []coach.Player
	Route   []int  // the station in each round, or rotate.Rest
	Stage   string // the name of the stage most of them are on
	Leader  *Leader
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
	Away     time.Duration // not there yet, or gone
	Wait     time.Duration // the longest usual wait between two turns
	LeadSees []int         // rounds in which the lead has this player
	SeenBy   []string      // first names of all who do
	BySkill  map[string]float64
}

// LeaderRow is where a leader is, minute by minute.
type LeaderRow struct {
	Leader Leader
	Cells  []LeaderCell
	Busy   time.Duration
}

// LeaderCell is a stretch of a leader's session.
type LeaderCell struct {
	From, To time.Duration
	Where    string // empty: free
}

// KitRow is a line of the packing list, with when it is needed most.
type KitRow struct {
	coach.KitRow
	At    time.Duration
	Where []string
}

// Instead is a player's own task at a station or in a block.
type Instead struct {
	Player coach.Player
	Do     string // the edit that gives or takes it: side or block-side
	At     int    // the station or block, from 0
	Where  string
	Does   string
}

// CriterionRow says where a criterion that players lack can be shown today, and who may mark it.
type CriterionRow struct {
	Criterion coach.Criterion
	Stage     string
	Players   []string // names of who lack it
	Asked     []string // names of those who are to be marked on it in this session
	Stations  []int    // where it can be shown
	By        []string // first names of who can mark it there
	Weeks     float64  // since the class last had a drill of its skill; −1: not lately
}

// walkingPace in m/s and the seconds a group takes to settle: common practice, no source.
const (
	walkingPace = 1.2
	settle      = 15
)

// Work works the plan out.
func Work(in Input) Picture {
	p := in.Plan
	pic := Picture{Plan: p, Start: in.Start, Booked: in.Booked, Floor: in.Floor, leaders: in.Leaders}
	pic.place(in)
	pic.group(in)
	pic.rotation(in)
	pic.timetable(in)
	pic.ledger(in)
	pic.asides(in)
	if !in.Running {
		pic.leaderRows(in)
		pic.kit(in)
		pic.criteria(in)
		pic.check(in)
	}
	return pic
}

// SizeOf is what a drill asks of the floor.
func SizeOf(d coach.Drill) floor.Size {
	return floor.Size{Length: max(1, d.Length), Width: max(1, d.Width), Clearance: d.Clearance, Fire: d.Fire}
}

func (in Input) leader(id string) *Leader {
	for i := range in.Leaders {
		if in.Leaders[i].ID == id {
			return &in.Leaders[i]
		}
	}
	return nil
}

func (in Input) drill(id string) coach.Drill {
	d, ok := in.Drills[id]
	if !ok {
		d = coach.Drill{ID: id, Name: "A drill that is gone", Least: 1, Most: 99, Length: 8, Width: 6}
	}
	return d
}

func (pic *Picture) place(in Input) {
	var sizes []floor.Size
	var fixed []*floor.Spot
	for i, s := range in.Plan.Stations {
		d := in.drill(s.Drill)
		st := StationAt{Station: s, Index: i, Drill: d, Target: d.Target}
		if s.Target > 0 {
			st.Target = st.Target.To(s.Target)
		}
		if !in.Plan.Move {
			st.Leader = in.leader(s.Leader)
		}
		pic.Stations = append(pic.Stations, st)
		sizes = append(sizes, SizeOf(d))
		fixed = append(fixed, s.Spot)
	}
	spots, fits := floor.Layout(in.Floor, sizes, fixed)
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
		gr.Stage = in.stageOf(gr.Players)
		if in.Plan.Move && g < len(in.Plan.With) {
			gr.Leader = in.leader(in.Plan.With[g])
		}
		pic.Groups = append(pic.Groups, gr)
	}
	for _, p := range in.Players {
		if _, left := byID[p.ID]; left {
			pic.Undealt = append(pic.Undealt, p)
		}
	}
}

// stageOf is the name of the stage most of the players are on; of two alike the lower.
func (in Input) stageOf(players []coach.Player) string {
	count := map[string]int{}
	best := ""
	for _, p := range players {
		count[p.Stage]++
	}
	for _, p := range players {
		if count[p.Stage] > count[best] {
			best = p.Stage
		}
	}
	return in.Stages[best]
}

func (pic *Picture) rotation(in Input) {
	groups, stations := len(pic.Groups), len(pic.Stations)
	if stations == 0 || groups == 0 {
		pic.Rotation = "there is nothing to rotate yet"
		return
	}
	ask := rotate.Asked{Groups: groups, Stations: stations}
	spots := make([]floor.Spot, stations)
	for i, s := range pic.Stations {
		spots[i] = s.Spot
		ask.Hard = append(ask.Hard, s.Drill.Hard)
		ask.Double = append(ask.Double, s.Double)
	}
	ask.Walk = floor.Walks(spots)
	ask.Rounds = pic.Plan.rounds()
	pic.Rounds = make([]Round, ask.Rounds)
	pic.Change = 30 * time.Second // a first look at the clock, for who is gone when
	if in.Plan.Change > 0 {
		pic.Change = time.Duration(in.Plan.Change) * time.Second
	}
	pic.timetable(in)
	ask.Must = pic.musts(in, ask)
	var rot rotate.Plan
	for again := 0; ; {
		var err error
		if rot, err = rotate.Stations(ask); err == nil {
			break
		}
		clash := err.(*rotate.Clash)                   // the only error there is
		if again++; again > 3 && len(clash.Must) > 0 { // many clash: they all give, and are found by name
			for _, i := range clash.Must {
				pic.dropped = append(pic.dropped, ask.Must[i].Says)
			}
			ask.Must = nil
			continue
		}
		if len(clash.Must) == 0 { // not even without wishes, within what a search may take
			pic.Rounds, pic.Rotation = nil, "no rotation was found for these groups, stations and rounds"
			pic.dropped = append(pic.dropped, "every group comes to every station")
			return
		}
		give := clash.Must[0] // the least of those that clash gives
		for _, i := range clash.Must {
			if ask.Must[i].Kind > ask.Must[give].Kind {
				give = i
			}
		}
		if ask.Must[give].Kind != rotate.Reach { // whom the lead does not see is found by name
			pic.dropped = append(pic.dropped, ask.Must[give].Says)
		}
		ask.Must = slices.Delete(ask.Must, give, give+1)
	}
	pic.Longest, pic.Rotation = rot.Longest, rot.Because
	for i := range pic.Stations {
		pic.Stations[i].Visits = slices.Repeat([]int{rotate.Rest}, ask.Rounds)
		pic.Stations[i].Also = slices.Repeat([]int{rotate.Rest}, ask.Rounds)
	}
	for g := range pic.Groups {
		pic.Groups[g].Route = rot.Route[g]
		for r, s := range rot.Route[g] {
			if s == rotate.Rest {
				continue
			}
			if at := pic.Stations[s].Visits; at[r] == rotate.Rest {
				at[r] = g
			} else {
				pic.Stations[s].Also[r] = g
			}
		}
	}
	pic.Change = time.Duration(pic.Plan.Change) * time.Second
	if pic.Plan.Change == 0 {
		pic.Change = ChangeFor(pic.Longest)
	}
}

// musts are what the rotation has to hold to, where it can be held at all: with every group everywhere in every round
// there is no choice about limits and leavers, and the check names them instead.
func (pic *Picture) musts(in Input, ask rotate.Asked) (out []rotate.Must) {
	choice := ask.Stations > ask.Groups || ask.Rounds < ask.Stations
	gives := in.before(in.Plan.stationsAt())
	var lead []int
	for i, s := range pic.Stations {
		where := fmt.Sprintf("%d %s", i+1, s.Drill.Name)
		for _, what := range s.Drill.NotBefore {
			if slices.Contains(gives, what) {
				continue
			}
			for j, o := range pic.Stations {
				if i != j && (o.Drill.Name == what || slices.Contains(o.Drill.Warms, what)) {
					out = append(out, rotate.Must{Kind: rotate.Before, Station: j, Other: i, Says: fmt.Sprintf("%d %s comes before %s", j+1, o.Drill.Name, where)})
					break
				}
			}
		}
		if s.Leader == nil {
			continue
		}
		if s.Leader.Role == coach.RoleLead {
			lead = append(lead, i)
		}
		if choice && s.Drill.Leader != coach.SelfRun && s.Drill.Leader != "" {
			for r := range pic.Rounds {
				if !s.Leader.covers(pic.Rounds[r].From, pic.Rounds[r].To) {
					out = append(out, rotate.Must{Kind: rotate.Closed, Station: i, Round: r, Says: fmt.Sprintf("%s is not at %s in round %d", first(s.Leader.Name), where, r+1)})
				}
			}
		}
	}
	if len(lead) > 0 && ask.Rounds < ask.Stations {
		out = append(out, rotate.Must{Kind: rotate.Reach, Any: lead, Says: "the lead sees every group"})
	}
	if choice {
		for g := range pic.Groups {
			for i, s := range pic.Stations {
				for _, p := range pic.Groups[g].Players {
					if what := in.forbidden(s.Side, p, s.Drill); what != "" {
						out = append(out, rotate.Must{Kind: rotate.Never, Group: g, Station: i, Says: fmt.Sprintf("%s, no %s, keeps away from %d %s", p.Name, what, i+1, s.Drill.Name)})
						break // the group keeps away for one as for several
					}
				}
			}
		}
	}
	return out
}

// gives lists what a drill gives to what comes later: its name and what it warms.
func (in Input) gives(drill string) []string {
	if d, ok := in.Drills[drill]; ok && drill != "" {
		return append([]string{d.Name}, d.Warms...)
	}
	return nil
}

// before lists what the blocks before one give to everybody.
func (in Input) before(block int) (out []string) {
	for _, b := range in.Plan.Blocks[:min(block, len(in.Plan.Blocks))] {
		out = append(out, in.gives(b.Drill)...)
		for _, s := range b.Steps {
			out = append(out, in.gives(s.Drill)...)
		}
	}
	return out
}

// stationsAt is the first block that holds rounds, or the number of blocks.
func (p Plan) stationsAt() int {
	if i := slices.IndexFunc(p.Blocks, func(b Block) bool { return b.Kind == Circuit }); i >= 0 {
		return i
	}
	return len(p.Blocks)
}

// covers reports whether the leader is there from–until.
func (l Leader) covers(from, to time.Duration) bool {
	return l.From <= from && (l.Until == 0 || l.Until >= to)
}

// ChangeFor is the time a change takes for a walk of so many metres: at 1.2 m/s, plus 15 s to settle, up to the next 5 s.
func ChangeFor(metres float64) time.Duration {
	s := metres/walkingPace + settle
	return time.Duration(math.Ceil(s/5-1e-9)) * 5 * time.Second
}

func (pic *Picture) timetable(in Input) {
	pic.Blocks, pic.Moments = nil, nil
	at, laid, shares := time.Duration(0), 0, pic.Plan.shares(len(pic.Rounds))
	work := time.Duration(pic.Plan.Work) * time.Second
	for i, b := range pic.Plan.Blocks {
		span := Span{Block: b, Index: i, From: at, To: at + time.Duration(b.Minutes)*time.Minute}
		if d, ok := in.Drills[b.Drill]; ok && b.Kind != Circuit { // stations have their own
			span.Task = &d
		}
		if span.RallyLadder() && b.Way == rotate.WinnerStays { // a pair climbs together: nobody wins
			span.Way = rotate.MoveOn
		}
		if b.Kind != Circuit {
			pic.Moments = append(pic.Moments, Moment{From: span.From, To: span.To, Kind: "block", Label: b.Title, Block: i})
			pic.Blocks = append(pic.Blocks, span)
			at = span.To
			continue
		}
		span.First, span.Count = laid, shares[i]
		t := at
		if laid == 0 && span.Count > 0 && pic.Plan.Brief > 0 {
			t += time.Duration(pic.Plan.Brief) * time.Second
			pic.Moments = append(pic.Moments, Moment{From: at, To: t, Kind: "brief", Label: "Explain the stations", Block: i})
		}
		for n := range span.Count { // brief + R·work + (R − 1)·change
			r := &pic.Rounds[laid]
			laid++
			*r = Round{Number: laid, From: t, To: t + work, Block: i}
			pic.Moments = append(pic.Moments, Moment{From: r.From, To: r.To, Kind: "work", Label: fmt.Sprint("Round ", laid), Block: i, Round: laid})
			t = r.To
			if n+1 < span.Count {
				t += pic.Change
				pic.Moments = append(pic.Moments, Moment{From: r.To, To: t, Kind: "change", Label: "Change", Block: i, Round: laid})
			}
		}
		span.To = t
		pic.Blocks = append(pic.Blocks, span)
		at = t
	}
	pic.Total = at
}

// LeaderIn is who leads a station in a round, counted from 0: the one who stays there, or who comes with the group.
func (pic *Picture) LeaderIn(s StationAt, round int) *Leader {
	if !pic.Plan.Move {
		return s.Leader
	}
	if g := s.Visits[round]; g != rotate.Rest {
		return pic.Groups[g].Leader
	}
	return nil
}

// StepTime is how long a player with an even chance of keeping up needs for a ladder's step: the time by which four in five of the middle players are done.
func (in Input) StepTime(d coach.Drill) time.Duration {
	var chances []float64
	for _, p := range in.Players {
		r, _ := in.Chance(p, d)
		chances = append(chances, r.P)
	}
	if len(chances) == 0 {
		chances = []float64{d.Chance}
	}
	chain, has := target.For(d.Target, math.Round(mean(chances)*50)/50)
	if !has || d.TrySeconds <= 0 {
		return 4 * time.Minute
	}
	every := load.Of(d)
	every.Each = 0 // as many turns as it takes
	own := every.At(max(1, len(in.Players)), time.Hour).Active
	by := chain.By(wholeSeconds(d.TrySeconds), wholeSeconds(d.Fetch), 0.8)[0]
	if by == 0 || own == 0 {
		return time.Hour
	}
	return time.Duration(float64(by) * float64(time.Hour) / float64(own)).Round(time.Second)
}

// part is how much of from–to the player is there.
func (t There) part(from, to time.Duration) time.Duration {
	until := to
	if t.Until > 0 {
		until = min(to, t.Until)
	}
	return max(0, until-max(from, t.From))
}

// with counts the players who do as the others do, and not a task of their own.
func with(sides map[string]Task, players []coach.Player) (n int) {
	for _, p := range players {
		if _, aside := sides[p.ID]; !aside {
			n++
		}
	}
	return n
}

// task is what a player does where the others do a drill: their own task, or the drill. Nil: they sit out.
func (in Input) task(sides map[string]Task, p coach.Player, d coach.Drill) *coach.Drill {
	own, aside := sides[p.ID]
	switch {
	case !aside:
		return &d
	case own.Drill == "":
		return nil
	}
	d = in.drill(own.Drill)
	return &d
}

// asides lists who does something else.
func (pic *Picture) asides(in Input) {
	add := func(do string, at int, where string, sides map[string]Task) {
		for _, p := range in.Players {
			own, aside := sides[p.ID]
			if !aside {
				continue
			}
			does := "sits out"
			if own.Drill != "" {
				does = in.drill(own.Drill).Name
			}
			pic.Instead = append(pic.Instead, Instead{p, do, at, where, does})
		}
	}
	for _, s := range pic.Stations {
		add("side", s.Index, fmt.Sprintf("%d %s", s.Index+1, s.Drill.Name), s.Side)
	}
	for _, b := range pic.Blocks {
		add("block-side", b.Index, b.Title, b.Side)
	}
}

func (pic *Picture) ledger(in Input) {
	reps, active := 0.0, 0.0
	everyone := 0
	for _, g := range pic.Groups {
		everyone += len(g.Players)
	}
	for _, g := range pic.Groups {
		for _, p := range g.Players {
			row := pic.row(in, g, p, everyone)
			reps += row.Reps
			active += float64(row.Active)
			pic.Ledger = append(pic.Ledger, row)
		}
	}
	slices.SortStableFunc(pic.Ledger, func(a, b Row) int { // the least served on top
		return cmp.Or(cmp.Compare(math.Round(a.Reps), math.Round(b.Reps)), cmp.Compare(a.Active, b.Active), a.Group-b.Group, cmp.Compare(a.Player.Name, b.Player.Name))
	})
	if n := float64(len(pic.Ledger)); n > 0 && pic.Total > 0 {
		pic.Reps, pic.Active = reps/n, active/n/float64(pic.Total)
	}
}

// row is one player's share of everything.
func (pic *Picture) row(in Input, g Group, p coach.Player, everyone int) Row {
	row := Row{Player: p, Stage: in.Stages[p.Stage], Group: g.Index, BySkill: map[string]float64{}}
	here := in.There[p.ID]
	share := func(d coach.Drill, n int, t time.Duration) {
		sh := load.Of(d).At(n, t)
		row.Reps += sh.Reps
		row.Active += sh.Active + sh.InRole
		row.Waiting += sh.Waiting
		row.Resting += sh.Resting
		row.Wait = max(row.Wait, sh.Wait)
		for _, skill := range d.Skills {
			row.BySkill[skill] += sh.Reps
		}
	}
	for _, b := range pic.Blocks {
		if b.Kind == Circuit {
			continue
		}
		d := here.part(b.From, b.To)
		row.Away += b.To - b.From - d
		if own, aside := b.Side[p.ID]; aside {
			if own.Drill == "" {
				row.Resting += d
			} else {
				share(in.drill(own.Drill), 1, d)
			}
			continue
		}
		everyone := everyone - len(b.Side)
		switch {
		case b.Kind == Break:
			row.Resting += d
		case b.Kind == Game && b.Block.Game != nil:
			out := float64(b.Block.Game.Areas*b.Block.Game.Reserves) / float64(max(1, everyone))
			row.Resting += time.Duration(float64(d) * out)
			row.Active += time.Duration(float64(d) * (1 - out))
		case b.Kind.partners():
			rests := 0.0
			if team := max(2, b.Team); everyone%team == 1 && everyone > 1 {
				rests = 1 / float64(everyone)
			}
			row.Resting += time.Duration(float64(d) * rests)
			d = time.Duration(float64(d) * (1 - rests))
			over := b.changeOver(d) // finding the next partner is not activity
			row.Moving += over
			if d -= over; b.Task != nil {
				row.Reps += b.Task.Pace * d.Minutes()
				for _, skill := range b.Task.Skills {
					row.BySkill[skill] += b.Task.Pace * d.Minutes()
				}
			}
			row.Active += d
		case b.Task != nil && b.Kind.active():
			share(*b.Task, everyone, d)
		case b.Kind.active():
			row.Active += d
		}
	}
	for r, s := range g.Route {
		round := pic.Rounds[r]
		d := here.part(round.From, round.To)
		row.Away += round.To - round.From - d
		if s == rotate.Rest {
			row.Resting += d
			continue
		}
		st := pic.Stations[s]
		if own, aside := st.Side[p.ID]; !aside {
			share(st.Drill, pic.at(st, r), d) // two groups that come at once share the places
		} else if own.Drill == "" {
			row.Resting += d
		} else {
			share(in.drill(own.Drill), 1, d)
		}
		if l := pic.LeaderIn(st, r); l != nil && d > 0 && l.covers(round.From, round.To) {
			if l.Role == coach.RoleLead {
				row.LeadSees = append(row.LeadSees, r+1)
			}
			if name := first(l.Name); !slices.Contains(row.SeenBy, name) {
				row.SeenBy = append(row.SeenBy, name)
			}
		}
	}
	for _, m := range pic.Moments {
		if m.Kind == "change" {
			row.Moving += here.part(m.From, m.To)
		}
	}
	return row
}

// at is how many do the station's drill in a round, counted from 0.
func (pic *Picture) at(s StationAt, round int) (n int) {
	for _, g := range []int{s.Visits[round], s.Also[round]} {
		if g != rotate.Rest {
			n += with(s.Side, pic.Groups[g].Players)
		}
	}
	return n
}

func (pic *Picture) leaderRows(in Input) {
	for _, l := range in.Leaders {
		row := LeaderRow{Leader: l}
		for _, m := range pic.Moments {
			c := LeaderCell{From: max(m.From, l.From), To: m.To}
			if l.Until > 0 {
				c.To = min(c.To, l.Until)
			}
			if c.To <= c.From {
				continue
			}
			switch m.Kind {
			case "work":
				for _, s := range pic.Stations {
					if at := pic.LeaderIn(s, m.Round-1); at != nil && at.ID == l.ID && s.Visits[m.Round-1] != rotate.Rest {
						c.Where = fmt.Sprintf("%d %s", s.Index+1, s.Drill.Name)
					}
				}
			case "block":
				c.Where = m.Label
			case "change", "brief":
				c.Where = m.Label
			}
			if c.Where != "" {
				row.Busy += c.To - c.From
			}
			row.Cells = append(row.Cells, c)
		}
		pic.Leaders = append(pic.Leaders, row)
	}
}

// kit is what is needed when it is needed most, against what the club has.
func (pic *Picture) kit(in Input) {
	largest := 0
	for _, g := range pic.Groups {
		largest = max(largest, len(g.Players))
	}
	for _, b := range pic.Blocks {
		var needs []coach.Need
		where := map[string][]string{}
		add := func(label string, d coach.Drill, players int) {
			for _, n := range coach.Needs(d.Kit) {
				if n.Each {
					n.N, n.Each = n.N*players, false
				}
				needs = append(needs, n)
				if !slices.Contains(where[n.Name], label) {
					where[n.Name] = append(where[n.Name], label)
				}
			}
		}
		aside := func(label string, sides map[string]Task) {
			for _, p := range in.Players {
				if own := sides[p.ID]; own.Drill != "" {
					add(label, in.drill(own.Drill), 1)
				}
			}
		}
		if b.Kind == Circuit {
			for _, s := range pic.Stations {
				add(fmt.Sprint(s.Index+1), s.Drill, largest)
				aside(fmt.Sprint(s.Index+1), s.Side)
			}
		} else if b.Task != nil {
			add(b.Title, *b.Task, with(b.Side, in.Players))
			aside(b.Title, b.Side)
		}
		for _, r := range coach.Pack(needs, 0, in.Kit) {
			row := KitRow{r, b.From, where[r.Name]}
			if i := slices.IndexFunc(pic.Kit, func(k KitRow) bool { return k.Name == r.Name }); i < 0 {
				pic.Kit = append(pic.Kit, row)
			} else if r.Short > pic.Kit[i].Short || r.Short == pic.Kit[i].Short && r.Need > pic.Kit[i].Need {
				pic.Kit[i] = row
			}
		}
	}
	slices.SortStableFunc(pic.Kit, func(a, b KitRow) int { return cmp.Or(b.Short-a.Short, cmp.Compare(a.Name, b.Name)) })
}

// criteria lists what players lack and where it can be seen today.
func (pic *Picture) criteria(in Input) {
	at := map[string]int{}
	for _, p := range in.Players {
		for _, c := range in.Missing[p.ID] {
			i, known := at[c.ID]
			if !known {
				i = len(pic.Criteria)
				at[c.ID] = i
				row := CriterionRow{Criterion: c, Stage: in.Stages[c.StageID], Weeks: suggest.Last(in.Shelf, in.Recent, c.Skill)}
				for _, s := range pic.Stations {
					if !in.Shows.Shows(c, s.Drill) {
						continue
					}
					row.Stations = append(row.Stations, s.Index)
					for r := range pic.Rounds {
						if l := pic.LeaderIn(s, r); l != nil && l.Role != coach.RoleHelper && !slices.Contains(row.By, first(l.Name)) {
							row.By = append(row.By, first(l.Name))
						}
					}
				}
				pic.Criteria = append(pic.Criteria, row)
			}
			pic.Criteria[i].Players = append(pic.Criteria[i].Players, p.Name)
			if slices.Contains(in.Looks[p.ID], c.ID) {
				pic.Criteria[i].Asked = append(pic.Criteria[i].Asked, p.Name)
			}
		}
	}
	slices.SortStableFunc(pic.Criteria, func(a, b CriterionRow) int {
		return cmp.Or(min(1, len(b.Asked))-min(1, len(a.Asked)), min(1, len(a.Stations))-min(1, len(b.Stations)), len(b.Players)-len(a.Players), cmp.Compare(a.Criterion.Wording, b.Criterion.Wording))
	})
}

// Chance is how often a player's try at the drill is good: from the player's own marks of the drill, else of its skills, else from those of
// players of the same stage, else the drill's own guess. from says which.
func (in Input) Chance(p coach.Player, d coach.Drill) (r target.Rate, from string) {
	if own := in.Tries[p.ID]["drill "+d.ID]; len(own) > 0 {
		return target.Estimate(own), "own marks on this drill"
	}
	own, stage := []target.Series(nil), []target.Series(nil)
	for _, skill := range d.Skills {
		own = append(own, in.Tries[p.ID][skill]...)
	}
	if len(own) > 0 {
		return target.Estimate(own), "own marks in the skill"
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

// wholeSeconds is as exact as a guess of a try's length can be.
func wholeSeconds(s float64) time.Duration {
	return time.Duration(math.Max(1, math.Round(s))) * time.Second
}

func upper(s string) string {
	r := []rune(s)
	return strings.ToUpper(string(r[:1])) + string(r[1:])
}

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

// forbids is what a drill asks for that the player must not do now, or nothing.
func (in Input) forbids(p coach.Player, d coach.Drill) string {
	for _, l := range p.Limits {
		if l.Until.Holds(day.Of(in.Start)) && slices.Contains(d.Asks, l.What) {
			return l.What
		}
	}
	if no := in.There[p.ID].No; no != "" && slices.Contains(d.Asks, no) {
		return no
	}
	return ""
}

// forbidden is what a player must not do now of what is theirs to do where the others do a drill, or nothing.
func (in Input) forbidden(sides map[string]Task, p coach.Player, d coach.Drill) string {
	if own := in.task(sides, p, d); own != nil {
		return in.forbids(p, *own)
	}
	return ""
}
