package planner

import (
	"cmp"
	"fmt"
	"html/template"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/propose"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/store"
	"gruppo/internal/web/svg"
)

type planView struct {
	Opened bool // the page was just opened, and nothing is changed yet
	app.Loaded
	Members []store.Member
	When    string
	Until   string
	Floor   svg.FloorView
	Strip   svg.StripView
	Problem string
	Retry   *edit.Wire // what was asked for on an older plan
	Tab     string     // the only one that is open and has to be filled; "all": each
	Paper   bool       // to be printed: nothing can be moved
	Forms   []stationForm
	Drawn   map[string]coach.Drill // on cards: the drills with their drawings
}

// stationForm is what can be set about a station.
type stationForm struct {
	work.StationAt
	Groups  []groupForm
	Ideas   []suggest.Suggestion
	Reach   string // what the target means for these players
	Chance  string // where that comes from
	Trouble bool
}

// groupForm is the form of a drill that a group does, and the edits that make it easier or harder; empty: there is
// none.
type groupForm struct {
	Group                     work.Group
	Now, Says, Easier, Harder string
}

// Floors are the floor on paper: one for each block of stations.
func (v *planView) Floors() []svg.FloorView { return svg.Floors(v.Picture, v.Program.Units) }

// Shows reports whether a tab has to be filled.
func (v *planView) Shows(tab string) bool { return v.Tab == "all" || v.Tab == tab }

func (v *planView) Shapes() []propose.Shape { return propose.ShapesOf(v.Program.Family) }
func (v *planView) Ways() []deal.Way        { return deal.Ways }

// PartnerWays are the ways in which partners can change in a block.
func (v *planView) PartnerWays(b work.Span) []rotate.Way {
	return slices.DeleteFunc(
		slices.Clone(rotate.Ways),
		func(w rotate.Way) bool { return w == rotate.WinnerStays && b.RallyLadder() },
	)
}

func (v *planView) Kinds() []doc.Kind {
	return slices.DeleteFunc(slices.Clone(doc.Kinds), func(k doc.Kind) bool {
		return k == doc.Game && !v.Program.Family.Plays()
	})
}

// AimSkills lists the skills of the shelf, for choosing what a session is for.
func (v *planView) AimSkills() (skills []string) {
	for _, d := range v.Input.Shelf {
		for _, k := range d.Skills {
			if !slices.Contains(skills, k) {
				skills = append(skills, k)
			}
		}
	}
	slices.Sort(skills)
	return skills
}

// DrillOptions are the shelf's drills to choose from, written as they are: it is the longest list of the page.
func (v *planView) DrillOptions() template.HTML {
	var b strings.Builder
	for _, d := range v.Input.Shelf {
		name := template.HTMLEscapeString(fmt.Sprintf("%s (%s)", d.Name, d.Sizes()))
		fmt.Fprintf(&b, `<option value="%s@%d">%s</option>`, d.ID, d.Edition, name)
	}
	return template.HTML(b.String()) // the names are escaped, the rest is ours
}

// ShapeName is the name of the shape the plan was proposed in.
func (v *planView) ShapeName() string {
	if v.Picture.Plan.Shape == "" {
		return ""
	}
	return propose.ShapeOf(v.Picture.Plan.Shape, v.Program.Family).Name
}

// AimIs reports whether the plan was proposed for this aim.
// Before it was proposed the aim is the day's theme.
func (v *planView) AimIs(kind, value string) bool {
	aim := v.Picture.Plan.Aim
	if aim == (doc.Aim{}) {
		switch v.Theme.Kind {
		case season.Skill:
			aim = doc.Aim{Kind: "skill", Value: v.Theme.Value}
		case season.CleanUp:
			aim = doc.Aim{Kind: "clean"}
		case season.New:
			aim = doc.Aim{Kind: "ahead"}
		}
	}
	return aim == doc.Aim{Kind: kind, Value: value}
}

// Pinned reports whether the plan's part of that name stays when it is proposed again.
func (v *planView) Pinned(what string) bool { return slices.Contains(v.Picture.Plan.Pinned, what) }

// GivesFirst reports whether blocks of a kind give first when time is short.
func (v *planView) GivesFirst(k doc.Kind) bool {
	g := v.Picture.Plan.Gives
	return len(g) > 0 && g[0] == k
}

// Main is the plan's first block of stations, worked out, and Deal how its players are dealt.
func (v *planView) Main() work.Circuit { return v.Picture.Main() }
func (v *planView) Deal() *doc.Deal    { return v.Picture.Plan.DealOf(v.Picture.Plan.First()) }

// WorkTime is the length of a round.
func (v *planView) WorkTime() string { return coach.Clock(v.Main().Round()) }

// ChangeBy is the change time moved by seconds; from then on it is set, not worked out. (None would ask for it to be
// ChangeStep is the time of a change, of which at least five seconds stay.
func (v *planView) ChangeStep() stepper {
	s := v.Step("change", "", "", int(v.Main().Change.Seconds()), 5)
	s.Less, s.More = max(5, s.Less), max(5, s.More)
	return s.As("change", "").Says("to change", "Five seconds less to change", "Five seconds more to change").Seconds()
}

// Sees writes in which rounds the lead stands where a player is.
func (v *planView) Sees(r work.Row) string {
	var out []string
	for _, n := range r.LeadSees {
		out = append(out, strconv.Itoa(n))
	}
	return strings.Join(out, ", ")
}

// Skills are those that anybody tries today, the most tried first; at most six make columns.
func (v *planView) Skills() []string {
	sum := map[string]float64{}
	for _, r := range v.Picture.Ledger {
		for k, n := range r.BySkill {
			sum[k] += n
		}
	}
	var out []string
	for k := range sum {
		out = append(out, k)
	}
	slices.SortFunc(out, func(a, b string) int {
		if sum[a] != sum[b] {
			return int(sum[b]*10) - int(sum[a]*10)
		}
		return strings.Compare(a, b)
	})
	return out[:min(6, len(out))]
}

// Serves is what a player's tries serve on average, and how one moves in them, the most first.
func (v *planView) Serves() string {
	n := float64(max(1, len(v.Picture.Ledger)))
	list := func(of func(work.Row) map[string]float64) string {
		sum := map[string]float64{}
		for _, r := range v.Picture.Ledger {
			for k, x := range of(r) {
				sum[k] += x / n
			}
		}
		names := slices.Collect(maps.Keys(sum))
		slices.SortFunc(names, func(a, b string) int { return cmp.Or(cmp.Compare(sum[b], sum[a]), cmp.Compare(a, b)) })
		for i, k := range names {
			names[i] = fmt.Sprintf("%s %.0f", k, sum[k])
		}
		return strings.Join(names, ", ")
	}
	serves, moves := list(func(r work.Row) map[string]float64 { return r.Serves }), list(func(r work.Row) map[string]float64 { return r.Moves })
	says := strings.Trim(serves+" · "+moves, " ·")
	forfeits := 0.0
	for _, r := range v.Picture.Ledger {
		forfeits += r.AfterFaults() / n
	}
	if forfeits >= 0.5 {
		says += fmt.Sprintf(" · after faults about %.0f", forfeits)
	}
	return says
}

// Bad counts the findings that are more than a note.
func (v *planView) Bad() (n int) {
	for _, f := range v.Picture.Findings {
		if f.Weight != check.Note {
			n++
		}
	}
	return n
}

// front is how many findings stand on the page: the worst two, and notes only where nothing is to settle. The
// others are opened.
func (v *planView) front() int {
	if bad := v.Bad(); bad > 0 {
		return min(2, bad)
	}
	return min(2, len(v.Picture.Findings))
}

// Front are the findings that stand on the page, Rest those that are opened, and RestSays is what they are.
func (v *planView) Front() []check.Finding { return v.Picture.Findings[:v.front()] }
func (v *planView) Rest() []check.Finding  { return v.Picture.Findings[v.front():] }

func (v *planView) RestSays() string {
	bad := max(0, v.Bad()-v.front())
	notes := len(v.Rest()) - bad
	var says []string
	if bad > 0 {
		says = append(says, fmt.Sprint(bad, " more"))
	}
	if notes > 0 {
		says = append(says, say.Count(notes, "note"))
	}
	return strings.Join(says, ", ")
}

// barPart is a stretch of a player's time on the ledger, in hundredths of the session.
type barPart struct {
	Class string
	X, W  float64
}

// Bar is how a player's minutes are spent: at work, waiting, and at rest or on the way.
func (v *planView) Bar(r work.Row) (out []barPart) {
	x, all := 0.0, max(v.Picture.Booked, v.Picture.Total).Seconds()
	for _, p := range []struct {
		class string
		time  time.Duration
	}{{"is-works", r.Active}, {"is-waits", r.Waiting}, {"is-rests", r.Resting + r.Moving}} {
		w := 100 * p.time.Seconds() / max(1, all)
		out, x = append(out, barPart{p.class, x, w}), x+w
	}
	return out
}

// TargetBy is a station's target a step lower or higher: ones, and of large targets more at once.
func (v *planView) TargetBy(s work.StationAt, by int) int {
	n, step := s.Target.N, 1
	switch {
	case n >= 100:
		step = 10
	case n >= 30:
		step = 5
	case n >= 12:
		step = 2
	}
	return max(1, n+by*step)
}

// ReadOf is what is done in a block, in a line.
func (v *planView) ReadOf(b work.Span) string {
	var out []string
	if b.Kind == doc.OneKey && v.Picture.Plan.Key != "" {
		out = append(out, v.Picture.Plan.Key)
	}
	if b.Task != nil && b.Kind != doc.Stations {
		out = append(out, b.Task.Name)
	}
	for _, d := range v.Steps(b) {
		out = append(out, d.Name)
	}
	if b.Cycle != nil {
		for _, d := range v.Exercises(b) {
			out = append(out, d.Name)
		}
	}
	if b.Block.Game != nil {
		out = append(out, b.Block.Game.String())
	}
	if b.Note != "" && !slices.Contains(out, b.Note) {
		out = append(out, b.Note)
	}
	return strings.Join(out, " · ")
}

// Others are the members who are not on the session.
func (v *planView) Others() []store.Member {
	var out []store.Member
	for _, m := range v.Members {
		if !slices.ContainsFunc(v.Session.Leaders, func(l store.SessionLeader) bool { return l.Member == m.ID }) {
			out = append(out, m)
		}
	}
	return out
}

// At is a moment of the plan as the clock on the wall shows it; "all through" before the start.
func (v *planView) At(d time.Duration) string {
	if d < 0 {
		return ""
	}
	return v.Picture.Start.Add(d).Format("15:04")
}

// Seconds is so many seconds as a duration.
func (v *planView) Seconds(n int) time.Duration { return time.Duration(n) * time.Second }

// Toward is a figure moved by a step, for the buttons beside it; at its bound it stays where it is.
func (v *planView) Toward(do, what string, now, step int) int {
	return edit.Toward(do, what, now, step)
}

// Length is how long a block takes.
func (v *planView) Length(s work.Span) time.Duration { return s.To - s.From }

// RoundTime is how long a round is.
func (v *planView) RoundTime(r work.Round) time.Duration { return r.To - r.From }

// ChangeAfter is how long the change after a round takes; 0 where none follows.
func (v *planView) ChangeAfter(r work.Round) time.Duration {
	for _, m := range v.Picture.Moments {
		if m.Kind == "change" && m.Round == r.Number {
			return m.To - m.From
		}
	}
	return 0
}

// Rests reports whether a group rests in a round, of all that a route can say.
func (v *planView) Rests(station int) bool { return station == rotate.Rest }

// Steps are the drills of a ladder block.
func (v *planView) Steps(b work.Span) (out []coach.Drill) {
	for _, t := range b.Steps {
		out = append(out, v.Input.Drills[t.Drill])
	}
	return out
}

// Exercises are the drills of a block of intervals.
func (v *planView) Exercises(b work.Span) (out []coach.Drill) {
	for _, e := range b.Intervals.Exercises {
		out = append(out, v.Input.Drill(e.Drill))
	}
	return out
}

// HasSides reports whether there is a game with sides to print.
func (v *planView) HasSides() bool {
	return slices.ContainsFunc(v.Picture.Blocks, func(b work.Span) bool { return b.Kind == doc.Game && b.Block.Game != nil })
}

// HasTurns reports whether there is a block of intervals to print.
func (v *planView) HasTurns() bool {
	return slices.ContainsFunc(v.Picture.Blocks, func(b work.Span) bool { return b.Cycle != nil })
}

// CycleSays is what a block of intervals comes to: once round all, the rest that is had, the pause that is added, and
// how many need none.
func (v *planView) CycleSays(b work.Span) string {
	c := *b.Cycle
	if b.Kind == doc.Run {
		return v.runSays(b)
	}
	says := fmt.Sprintf("%s, %d at once: once round takes %s; each rests %s.",
		say.Count(len(c.Players), "player"), min(c.Places, len(c.Players)), coach.Clock(c.Round), coach.Clock(c.Got+c.Pause))
	if c.Pause > 0 {
		says += fmt.Sprintf(" A pause of %s is added after each time round; %s %s none.",
			coach.Clock(c.Pause), say.Count(c.Full, "player"), say.Does(c.Full, "need"))
	}
	if c.More > 0 {
		says += fmt.Sprintf(" Next time %s.", say.Count(min(max(c.Turns, c.Most), c.Turns+c.More), "turn"))
	}
	return strings.TrimSpace(says + " " + c.SparedSays())
}

// Turns is an exercise of intervals for paper: who works when, time after time round.
func (v *planView) Turns(b work.Span, exercise int) (out []turnRow) {
	name := func(i int) string { return b.Cycle.Players[i].Name }
	for _, s := range b.Cycle.Slots {
		row := turnRow{Time: s.Time, At: v.Picture.Start.Add(b.From + b.Cycle.Begins(exercise) + s.From).Format(time.TimeOnly)}
		for _, i := range s.Up {
			if b.Kind == doc.Run { // a line for each, to be judged on
				one := turnRow{Time: row.Time, At: row.At, Up: []string{name(i)}}
				if len(b.Cycle.Judged) > 0 {
					one.Judge = b.Cycle.Judged[i]
				}
				out = append(out, one)
				continue
			}
			row.Up = append(row.Up, name(i))
		}
		if b.Kind == doc.Run {
			continue
		}
		for _, i := range s.Feed {
			row.Feed = append(row.Feed, name(i))
		}
		out = append(out, row)
	}
	return out
}

type turnRow struct {
	At       string
	Time     int
	Up, Feed []string
	Judge    string // of a run-through
}

// Advice says what a block's way of changing partners gives this many players.
func (v *planView) Advice(b work.Span) string { return b.Way.Advice(len(v.Input.Players)) }

// Games are ways to put everybody into games on this floor.
func (v *planView) Games() []rotate.Game {
	in := v.Input.Floor.Inside()
	games := rotate.Games(len(v.Input.Players), in.Length, in.Width, 2)
	return games[:min(8, len(games))]
}

// GameArea is how large an area of the block's game is; nothing where it is what the floor gives.
func (v *planView) GameArea(b work.Span) string {
	if g := b.Block.Game; g.Length > 0 {
		return v.Program.Units.Area(g.Length, g.Width)
	}
	return ""
}

// gameStep is the same players in another game.
type gameStep struct{ Value, Says string }

// GameSteps are the other steps of the block's game: more attack, even, more defence.
func (v *planView) GameSteps(b work.Span) (out []gameStep) {
	for i, g := range b.Block.Game.Steps() {
		if g != *b.Block.Game {
			says := []string{"more attack", "even", "more defence"}[i]
			out = append(out, gameStep{edit.GameValue(g), fmt.Sprintf("%d v %d: %s", g.A, g.B, says)})
		}
	}
	return out
}

// GameValue is a game as the edit takes it.
func (v *planView) GameValue(g rotate.Game) string { return edit.GameValue(g) }

// State is what the register says about a player.
func (v *planView) State(player string) string {
	said := v.Said[player]
	switch {
	case said.State == register.Late && said.FromMinute > 0:
		return "from " + v.At(time.Duration(said.FromMinute)*time.Minute)
	case said.NoWhat != "":
		return "no " + said.NoWhat
	case said.State == register.Present && !said.Guest:
		return ""
	case said.Guest && (said.State == register.Nothing || said.State == register.Present):
		return "guest"
	}
	return string(said.State)
}

// GroupOf is the group a player is in, or −1.
func (v *planView) GroupOf(player string) int {
	for _, g := range v.Picture.Groups {
		for _, p := range g.Players {
			if p.ID == player {
				return g.Index
			}
		}
	}
	return -1
}

// First is the tab that is open at first: the one that is filled; the ledger, or the stations where there are none yet.
func (v *planView) First() string {
	if slices.Contains(planTabs, v.Tab) {
		return v.Tab
	}
	if len(v.Picture.Stations) == 0 {
		return "stations"
	}
	return "ledger"
}

func (v *planView) draw() {
	v.Tab = or(v.Tab, v.First())
	start := v.Picture.Start
	v.When = start.Format("Mon 2 Jan, 15:04")
	v.Until = start.Add(v.Picture.Booked).Format("15:04")
	v.Floor = svg.Floor(v.Picture, v.Program.Units)
	v.Strip = svg.Strip(v.Picture.Picture)
	if v.Shows("stations") {
		for _, s := range v.Picture.Stations {
			v.Forms = append(v.Forms, v.form(s))
		}
	}
}

func (v *planView) form(s work.StationAt) stationForm {
	f := stationForm{StationAt: s, Trouble: v.Picture.Trouble(s.ID)}
	for _, g := range v.Picture.Groups {
		if len(s.Drill.Variants) == 0 || !slices.Contains(g.Route, s.Index) {
			continue
		}
		gv := groupForm{Group: g, Now: coach.AsWritten}
		if now := s.VariantFor(s.Drill, g.Number, g.Stage); now != nil {
			gv.Now, gv.Says = now.Name, now.Says()
		}
		for by, to := range map[int]*string{-1: &gv.Easier, 1: &gv.Harder} {
			if name, ok := s.Eased(s.Drill, g.Number, g.Stage, by); ok {
				*to = doc.GroupKey(g.Number) + "=" + name
			}
		}
		f.Groups = append(f.Groups, gv)
	}
	in := v.Input.Floor.Inside()
	ask := suggest.For{
		Use:     suggest.Station,
		Lacks:   v.Input.Lacks(),
		Players: len(v.Input.Players),
		Length:  in.Length,
		Width:   in.Width,
		Units:   v.Input.Units,
		Kit:     v.Input.Kit,
		Recent:  v.Input.Recent,
	}
	for _, g := range v.Picture.Groups {
		ask.Size = max(ask.Size, len(g.Players))
	}
	for _, l := range v.Input.Leaders {
		ask.Leaders = append(ask.Leaders, l.Role)
	}
	for _, o := range v.Picture.Stations {
		ask.Chosen = append(ask.Chosen, o.Drill)
	}
	ideas := suggest.Drills(v.Input.Shelf, ask)
	f.Ideas = ideas[:min(3, len(ideas))]
	f.Reach, f.Chance = v.reach(s)
	return f
}
