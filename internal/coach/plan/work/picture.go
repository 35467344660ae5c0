// Package work works a plan out: where everything is, who is where when, and what each player gets out of it.
package work

import (
	"cmp"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

// Leader is a member who is there from–until, counted from the session's start.
type Leader struct {
	ID, Name    string
	Called      string // as of a player
	Role        coach.Role
	From, Until time.Duration // Until zero: to the end
}

// First is how they are called in the hall.
func (l Leader) First() string { return cmp.Or(l.Called, say.First(l.Name)) }

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
	Plan         doc.Plan
	Booked       time.Duration
	Start        time.Time
	Players      []coach.Player // who is coming
	There        map[string]There
	Stages       map[string]string // names, by id
	Family       coach.Family      // of sports
	Units        coach.Units       // that the club reads lengths in
	Leaders      []Leader
	Drills       map[string]coach.Drill // of the plan, in its editions, by id
	Shelf        []coach.Drill          // what could be chosen
	Floor        floor.Floor
	Tries        map[string]map[string][]target.Series // player → skill, or "drill " and its id → what was marked
	Met          map[[2]string]float64                 // two player ids in order → how lately they were in a group: 1 last time, fading
	Missing      map[string][]coach.Criterion          // player → what is not shown yet
	Shows        coach.Showing                         // which drills show which criteria
	Looks        map[string][]string                   // player → ids of the criteria that are to be marked in this session
	Kit          []coach.Kit
	Recent       map[string]float64           // drill → weeks since this class had it
	PerAdult     int                          // the club's own limit of players for each adult; 0: none set
	MostForfeits int                          // of a player under 16 in a session, by the club's own rule
	Away         []string                     // ids of those who missed, or sat out, the session before
	CameUp       *CameUp                      // in the term; nil: there is none
	Ahead        map[string][]coach.Criterion // of players who are ready: what the next stage begins with
	Taken        []Taken
	Elsewhere    []Elsewhere
	Known        Known
	Searching    bool // for a plan, among many: targets are set to what can be reached when it stands, and are left out
	Running      bool // in the hall: the check is for planning, and is left out
}

// CameUp is what a class practised in a term so far, or has a day for still.
type CameUp struct {
	From, Until day.Day
	Skills      []string
	Marked      []string // ids of criteria
}

// Picture is a plan worked out: the same figures stand behind Floor, Strip and Ledger.
type Picture struct {
	Plan     doc.Plan
	Start    time.Time
	Booked   time.Duration
	Total    time.Duration
	Blocks   []Span
	Rounds   []Round
	Moments  []Moment
	Circuits []Circuit // the blocks of stations that hold them
	Stations []StationAt
	Groups   []Group
	Undealt  []coach.Player // coming, but in no group yet
	Ledger   []Row
	Leaders  []LeaderRow
	Kit      []KitRow
	Criteria []CriterionRow
	Instead  []Instead // who does something else than the others, and where
	Reps     float64   // mean a player
	Active   float64   // share of the session the players move, mean
	Counted  bool      // something is planned that they do; else there is no figure
	Floor    floor.Floor

	CanLead []Leader

	ladders map[int][]StepAt // how long their steps take, by block
}

// Span is a block on the session's clock, as offsets from the start.
type Span struct {
	doc.Block
	Index    int
	From, To time.Duration
	Task     *coach.Drill
	Cycle    *Cycle // intervals
	First    int    // of a stations block: its first round, counted from 0
	Count    int    // and how many it holds
}

// Does names what everybody does in the block, and says how: the drill's own words, else what this kind of block is
// for.
func (b Span) Does() (what, how string) {
	usual := map[doc.Kind]string{
		doc.OneKey: "Show the whole skill. Look. Show it again with the key alone, and speak of nothing else. Let them say it back.",
		doc.Break:  "Drink. Ask who hurts, and who has not been looked at.",
		doc.Close:  "Let them say the key back. Cool down, kit away, the task for home.",
	}
	what, how = b.Title, usual[b.Kind]
	switch {
	case b.Task != nil:
		what, how = b.Task.Name, b.Task.How()
	case b.Game != nil:
		what = b.Game.String()
	case b.Cycle != nil:
		how = b.Cycle.Drills[0].How()
	}
	if b.Note != "" {
		how = strings.TrimSpace(b.Note + "\n" + how)
	}
	return what, how
}

// Tasks are what everybody does in the block, one after the other; in intervals what those who rest do comes last.
func (b Span) Tasks() (out []coach.Drill) {
	if b.Task != nil {
		out = append(out, *b.Task)
	}
	if c := b.Cycle; c != nil {
		out = append(out, c.Drills...)
		if c.Light != nil {
			out = append(out, *c.Light)
		}
	}
	return out
}

// RallyLadder reports whether the block's pairs have one score together, so that nobody wins.
func (b Span) RallyLadder() bool { return b.Task != nil && b.Task.Target.Kind == coach.RallyLadder }

// Changed says what the drill asks for where the plan asks for something else at the station, and nothing where they
// agree.
func (s StationAt) Changed() string {
	if asks := s.Drill.Target.String(); asks != s.Target.String() {
		return asks
	}
	return ""
}

// StationAt is a station on the floor.
type StationAt struct {
	doc.Station
	Circuit int // which it is in
	Index   int // in the picture, from 0
	Drill   coach.Drill
	Target  coach.Target
	Leader  *Leader
	Spot    floor.Spot
	Fits    bool
	Visits  []int // the group there in each round, or rotate.Rest
	Also    []int // a second group, where two may come

	own  map[string]*coach.Drill // of groups that do something else here; nil: they skip the place
	does []*coach.Drill          // by group of the picture: its own task, or the drill in the form it does
}

// For is what a group does at the station: its own task, or what the station is for, in the form it does. Nil: it skips
// the place.
func (s *StationAt) For(g Group) *coach.Drill {
	if g.Index < len(s.does) {
		return s.does[g.Index]
	}
	return &s.Drill
}

// forms works out what each group does at the station.
func (s *StationAt) forms(groups []Group) {
	s.does = make([]*coach.Drill, len(groups))
	for i, g := range groups {
		s.does[i] = &s.Drill
		if d, own := s.own[doc.GroupKey(g.Number)]; own {
			s.does[i] = d
		} else if v := s.Form(g); v != nil {
			d := s.Drill.As(*v)
			s.does[i] = &d
		}
	}
}

// Form is the form of the station's drill that a group does. Nil: the drill as it is, or a task of its own.
func (s *StationAt) Form(g Group) *coach.Variant {
	if s.HasOwn(g) {
		return nil
	}
	return s.VariantFor(s.Drill, g.Number, g.Stage)
}

// TargetFor is what is asked of a group there: the number that was chosen for it, else that of its form, else that of the
// station, else the drill's. Own reports whether it is not the station's.
func (s *StationAt) TargetFor(g Group) (t coach.Target, own bool) {
	d := s.For(g)
	if d == nil || s.HasOwn(g) {
		return d.Scored(), true
	}
	t = d.Target
	if n := s.Aims[doc.GroupKey(g.Number)]; n > 0 {
		return t.To(n), true
	}
	if v := s.Form(g); v != nil && (v.Target > 0 || v.Against > 0) {
		return t, true
	}
	return s.Target, false
}

// HasOwn reports whether a group does something else at the station than it is for.
func (s *StationAt) HasOwn(g Group) bool {
	_, own := s.own[doc.GroupKey(g.Number)]
	return own
}

// Fire is the strip in which balls fly on, or an empty spot.
func (s StationAt) Fire() floor.Spot {
	if s.Drill.Fire <= 0 {
		return floor.Spot{}
	}
	return s.Spot.Fire(s.Drill.Fire)
}

// walkingPace in m/s and the seconds a group takes to settle: common practice, no source.
const (
	walkingPace = 1.2
	settle      = 15
)

// Work works the plan out.
func Out(in Input) Picture {
	p := in.Plan
	pic := Picture{Plan: p, Start: in.Start, Booked: in.Booked, Floor: in.Floor, CanLead: in.Leaders}
	pic.place(in)
	pic.group(in)
	for i := range pic.Stations {
		pic.Stations[i].forms(pic.Groups)
	}
	pic.rotation(in)
	pic.ledger(in)
	pic.asides(in)
	if !in.Running {
		pic.leaderRows(in)
		pic.kit(in)
		pic.criteria(in)
	}
	return pic
}

// SizeOf is what a drill asks of the floor.
func SizeOf(d coach.Drill) floor.Size {
	return floor.Size{Length: max(1, d.Length), Width: max(1, d.Width), Clearance: d.Clearance, Fire: d.Fire}
}

// Leader finds who is there to lead; nil: nobody of that id.
func (in Input) Leader(id string) *Leader {
	for i := range in.Leaders {
		if in.Leaders[i].ID == id {
			return &in.Leaders[i]
		}
	}
	return nil
}

// Drill finds a drill of the plan. One that is gone still takes up room.
func (in Input) Drill(id string) coach.Drill {
	d, ok := in.Drills[id]
	if !ok {
		d = coach.Drill{ID: id, Name: "A drill that is gone", Least: 1, Most: 99, Length: 8, Width: 6}
	}
	return d
}

// place puts the stations of each circuit on the floor; those of another are gone by then.
func (pic *Picture) place(in Input) {
	for _, b := range in.Plan.Blocks {
		if b.Circuit == nil {
			continue
		}
		c := Circuit{Circuit: *b.Circuit, Block: b.ID, From: len(pic.Stations), deal: *in.Plan.DealOf(b.Circuit)}
		for _, id := range b.Circuit.With {
			c.leaders = append(c.leaders, in.Leader(id))
		}
		var sizes []floor.Size
		var fixed []*floor.Spot
		for _, s := range b.Circuit.Stations {
			st := in.stationAt(s, b.Circuit.Move)
			st.Circuit, st.Index = len(pic.Circuits), len(pic.Stations)
			pic.Stations = append(pic.Stations, st)
			sizes, fixed = append(sizes, SizeOf(st.Drill)), append(fixed, s.Spot)
		}
		spots, fits := floor.Layout(in.Floor, sizes, in.Floor.OnCourts(sizes, fixed))
		for i := range spots {
			s := &pic.Stations[c.From+i]
			s.Spot, s.Fits = spots[i], fits[i]
		}
		pic.Circuits = append(pic.Circuits, c)
	}
}

func (in Input) stationAt(s doc.Station, move bool) StationAt {
	d := in.Drill(s.Drill)
	st := StationAt{Station: s, Drill: d, Target: d.Target}
	if s.Target > 0 {
		st.Target = st.Target.To(s.Target)
	}
	if !move {
		st.Leader = in.Leader(s.Leader)
	}
	for key, t := range s.Own {
		if st.own == nil {
			st.own = map[string]*coach.Drill{}
		}
		if st.own[key] = nil; t.Drill != "" {
			own := in.Drill(t.Drill)
			st.own[key] = &own
		}
	}
	return st
}

// Covers reports whether the leader is there from–until.
func (l Leader) Covers(from, to time.Duration) bool {
	return l.From <= from && (l.Until == 0 || l.Until >= to)
}

// Mean of figures; 0 of none.
func Mean(xs []float64) float64 {
	s := 0.0
	for _, x := range xs {
		s += x
	}
	return s / float64(max(1, len(xs)))
}
