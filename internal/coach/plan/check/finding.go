package check

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
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
	Edits []doc.Edit
}

// applies says why a mend cannot be made, or nil.
func applies(p doc.Plan, m Mend) (err error) {
	for _, e := range m.Edits {
		if p, _, err = p.Apply(e); err != nil {
			return err
		}
	}
	return nil
}


// Checked is a plan worked out, with what the check found in it.
type Picture struct {
	work.Picture
	Findings []Finding
}

// Check1 works the plan out and checks it; a plan that runs in the hall is not checked any more.
func Plan(in work.Input) Picture {
	pic := work.Out(in)
	c := checking{Picture: &pic}
	if !in.Running {
		c.check(in)
	}
	return Picture{pic, c.Findings}
}

// checking is a check under way.
type checking struct {
	*work.Picture
	Findings []Finding
}

func (pic *checking) find(w Weight, key, where string, at time.Duration, says string, mends ...Mend) *Finding {
	f := Finding{Key: key, Weight: w, Where: where, At: at, Says: says, Mends: mends}
	var n int
	if _, err := fmt.Sscanf(where, "Station %d", &n); err == nil && n <= len(pic.Stations) {
		f.About = []string{station(pic.Picture, n-1)}
	}
	pic.Findings = append(pic.Findings, f)
	return &pic.Findings[len(pic.Findings)-1]
}

// station names a station by its drill, so that it is the same one in another picture where it has another number.
func station(pic *work.Picture, i int) string {
	same := 0
	for _, o := range pic.Stations[:i] {
		if o.Drill.ID == pic.Stations[i].Drill.ID {
			same++
		}
	}
	return fmt.Sprintf("station %s %d", pic.Stations[i].Drill.ID, same)
}

// has reports whether what a finding is about is still in the picture.
func (pic Picture) Has(what string) bool {
	kind, id, _ := strings.Cut(what, " ")
	switch kind {
	case "station":
		for i := range pic.Stations {
			if station(&pic.Picture, i) == what {
				return true
			}
		}
		return false
	case "player":
		return slices.ContainsFunc(pic.Ledger, func(r work.Row) bool { return r.Player.ID == id })
	case "leader":
		return slices.ContainsFunc(pic.CanLead, func(l work.Leader) bool { return l.ID == id && pic.Covers(l) })
	case "block":
		return slices.ContainsFunc(pic.Blocks, func(b work.Span) bool { return about(b) == what })
	}
	return true
}

// lead names the lead who is there, where one is.
func (pic *checking) lead() string {
	for _, l := range pic.CanLead {
		if l.Role == coach.RoleLead {
			return "leader " + l.ID
		}
	}
	return ""
}

// about names a block by what it is.
func about(s work.Span) string { return "block " + string(s.Kind) + " " + s.Title }

func mend(words, do string, at int, value any) Mend {
	return Mend{words, []doc.Edit{{Do: do, At: at, Value: fmt.Sprint(value)}}}
}

// Stops reports whether the plan has a finding that should stop the session from going on like this.
func (pic Picture) Stops() bool {
	return slices.ContainsFunc(pic.Findings, func(f Finding) bool { return f.Weight == Stop })
}

func (pic *checking) check(in work.Input) {
	if len(in.Players) == 0 {
		pic.find(Settle, "nobody", "Players", work.Always, "Nobody is expected yet. Enrol players in the class, or take back an absence.")
	}
	if len(pic.Stations) == 0 && pic.Plan.Parts() > 0 {
		pic.find(Settle, "empty", "Stations", work.Always, "No drill is chosen yet. Propose a plan, or pick a drill and the floor begins to fill.")
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
			pic.find(Note, "minutes "+station(pic.Picture, s.Index), where, pic.Begin(), says, mend("Rounds of "+coach.Clock(time.Duration(to)*time.Minute), "work", 0, to*60))
		}
	}
	pic.checkLeaders(in)
	pic.checkRotation()
	pic.checkRoutes(in)
	pic.checkBlocks(in)
	pic.checkPlayers(in)
	pic.checkCriteria(in)
	pic.checkEditions(in)
	for _, says := range pic.Dropped {
		pic.find(Settle, "must "+says, "Rotation", work.Always, "It cannot hold that "+says+", with the other wishes and this number of groups and rounds.")
	}
	for i := range pic.Findings { // only what can be done is offered
		f := &pic.Findings[i]
		f.Mends = slices.DeleteFunc(f.Mends, func(m Mend) bool { return applies(pic.Plan, m) != nil })
	}
	order := map[Weight]int{Stop: 0, Settle: 1, Note: 2}
	slices.SortStableFunc(pic.Findings, func(a, b Finding) int { return order[a.Weight] - order[b.Weight] })
}

func (pic *checking) clock(at time.Duration) string { return pic.Start.Add(at).Format("15:04") }
