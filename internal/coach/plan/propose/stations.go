package propose

import (
	"math"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/suggest"
)

// stations chooses how many and which.
func (pr *proposal) stations() {
	for _, s := range pr.old.Stations {
		if s.Pinned {
			pr.chosen = append(pr.chosen, pr.in.Drill(s.Drill))
		}
	}
	n, room := len(pr.in.Players), pr.timeLeft()
	inTime := int(room.Seconds()) / (shortRound + 40)
	count := pr.howMany(inTime)
	pr.d.Groups = max(1, min(count, n/2)) // nobody alone
	if !pr.has(doc.Stations) {
		return
	}
	pr.f.Minutes, pr.f.Use = pr.c.Work/60, pr.shape.stationsUse()
	pr.f.Size = (n + pr.d.Groups - 1) / pr.d.Groups
	pr.f.Given = pr.in.Before("")
	need := 0
	if pr.shape.jobs == 0 { // those have as many as they are for
		need = min(pr.holding(n), doc.Most)
	}
	if need > count {
		pr.c.Rounds = max(2, inTime) // where these are fewer no group is everywhere, and none is too large
		count, pr.d.Groups = need, need
		pr.f.Size = (n + need - 1) / need
	}
	if !pr.has(doc.Game) && !pr.has(doc.Pairs) { // nothing else takes the time that the longest rounds leave
		count = max(count, min(6, int(room.Seconds())/(longRound+40)))
	}
	pr.choose(count, need)
	pr.d.Groups = max(1, min(pr.d.Groups, len(pr.c.Stations)))
	if pr.c.Rounds >= len(pr.c.Stations) {
		pr.c.Rounds = 0
	}
	pr.f.Aim = pr.aim
	if pr.pinned("floor") {
		for i := range pr.c.Stations {
			if i < len(pr.old.Stations) && pr.c.Stations[i].Spot == nil {
				pr.c.Stations[i].Spot = pr.old.Stations[i].Spot
			}
		}
	}
	pr.fitFloor()
}

// timeLeft is the time that the other blocks leave to the stations.
func (pr *proposal) timeLeft() time.Duration {
	fixed := time.Duration(pr.c.Brief) * time.Second
	for _, b := range pr.p.Blocks {
		fixed += time.Duration(b.Minutes) * time.Minute
	}
	return pr.in.Booked - fixed
}

// howMany stations there are at first: for groups of the best size, as many as there is time to be at, and as many as
// the shape is for.
func (pr *proposal) howMany(inTime int) int {
	count := min(6, int(math.Round(float64(len(pr.in.Players))/idealGroup)))
	switch {
	case pr.shape.jobs > 0:
		count = pr.shape.jobs
	case pr.shape.Key == "game-key-game":
		count = min(count, 3)
	}
	return max(2, len(pr.chosen), min(count, inTime))
}

// choose takes the likeliest drills that somebody is there to lead and that have room, beside those that are pinned;
// the same twice where the shelf has fewer than are needed.
func (pr *proposal) choose(count, need int) {
	at := pr.kept(count)
	coaches := 0 // stations that need a coach, against coaches there are
	for _, l := range pr.in.Leaders {
		if l.Role != coach.RoleHelper {
			coaches++
		}
	}
	helpers := len(pr.in.Leaders) - coaches
	for _, s := range at {
		coaches, helpers = staffed(pr.in.Drill(s.Drill), coaches, helpers)
	}
	area := pr.in.Floor.Inside().Length * pr.in.Floor.Inside().Width * 0.72 / float64(max(1, count))
	fits := func(s suggest.Suggestion) bool {
		c, h := staffed(*s.Drill, coaches, helpers)
		wide := (s.Drill.Length + s.Drill.Clearance) * (s.Drill.Width + s.Drill.Clearance)
		return c >= 0 && h >= 0 && wide <= area*1.5
	}
	for i := range count {
		if s, ok := at[i]; ok {
			pr.c.Stations = append(pr.c.Stations, s)
			continue
		}
		pr.f.Chosen = pr.chosen
		if i >= pr.forAim(count) { // the others are for the rest of what they lack
			pr.f.Aim = ""
		}
		ranked := suggest.Drills(pr.in.Shelf, pr.f)
		best := slices.IndexFunc(ranked, func(s suggest.Suggestion) bool { return fits(s) && pr.newJob(*s.Drill) })
		if best < 0 { // then a second station for a situation, rather than a group that rests
			best = slices.IndexFunc(ranked, fits)
		}
		if best < 0 && len(pr.c.Stations) == 0 && len(ranked) > 0 {
			best = 0 // and what does not fit, rather than none
		}
		if best < 0 && len(pr.c.Stations) < need { // the same at two places, rather than groups that are too large
			pr.f.Chosen = nil
			ranked = suggest.Drills(pr.in.Shelf, pr.f)
			best = slices.IndexFunc(ranked, func(s suggest.Suggestion) bool { return fits(s) && pr.times(s.Drill.ID) < 2 })
		}
		if best < 0 {
			continue
		}
		s := ranked[best]
		coaches, helpers = staffed(*s.Drill, coaches, helpers)
		pr.chosen = append(pr.chosen, *s.Drill)
		pr.c.Stations = append(
			pr.c.Stations,
			doc.Station{Drill: s.Drill.ID, Edition: max(1, s.Drill.Edition), Why: reason(s)},
		)
	}
}

// kept are the pinned stations at their places; those beyond the last, at the first that is free.
func (pr *proposal) kept(count int) map[int]doc.Station {
	at := map[int]doc.Station{}
	for i, s := range pr.old.Stations {
		if s.Pinned && i < count {
			at[i] = s
		} else if s.Pinned {
			for j := range count {
				if _, taken := at[j]; !taken && (j >= len(pr.old.Stations) || !pr.old.Stations[j].Pinned) {
					at[j] = s
					break
				}
			}
		}
	}
	return at
}

// holding is how many groups so many players make that the likeliest drills can take: of the middle one's size. None
// where they take any number.
func (pr *proposal) holding(n int) int {
	var sizes []int
	for _, s := range suggest.Drills(pr.in.Shelf, pr.f) {
		if s.Drill.Most > 0 && len(sizes) < doc.Most {
			sizes = append(sizes, s.Drill.Most)
		}
	}
	if len(sizes) == 0 {
		return 0
	}
	slices.Sort(sizes)
	each := sizes[len(sizes)/2]
	return (n + each - 1) / each
}

// times is at how many stations a drill is.
func (pr *proposal) times(drill string) (n int) {
	for _, s := range pr.c.Stations {
		if s.Drill == drill {
			n++
		}
	}
	return n
}

// forAim is how many of the stations are for the aim: more than half of a circuit, all where they practise what a game
// has shown.
func (pr *proposal) forAim(count int) int {
	if pr.shape.Key == "game-key-game" {
		return count
	}
	return count/2 + 1
}

// newJob reports whether a drill serves a situation that no station serves yet, where that is asked for; all do once the
// shelf has no other.
func (pr *proposal) newJob(d coach.Drill) bool {
	if pr.shape.jobs == 0 {
		return true
	}
	served := map[string]bool{"": true}
	for _, s := range pr.c.Stations {
		served[pr.in.Drill(s.Drill).Situation] = true
	}
	more := slices.ContainsFunc(pr.in.Shelf, func(o coach.Drill) bool { return !served[o.Situation] })
	return !more || !served[d.Situation]
}

// staffed is what is left of coaches and helpers when somebody stands at the drill; a coach can stand in for a helper.
func staffed(d coach.Drill, coaches, helpers int) (int, int) {
	switch d.Leader {
	case coach.AnyCoach, coach.Qualified:
		return coaches - 1, helpers
	case coach.AnyHelper:
		if helpers > 0 {
			return coaches, helpers - 1
		}
		return coaches - 1, helpers
	}
	return coaches, helpers
}

// fitFloor drops the last stations that find no place on the floor, unless they are pinned.
func (pr *proposal) fitFloor() {
	for len(pr.c.Stations) > 2 {
		var sizes []floor.Size
		var fixed []*floor.Spot
		for _, s := range pr.c.Stations {
			sizes, fixed = append(sizes, work.SizeOf(pr.in.Drill(s.Drill))), append(fixed, s.Spot)
		}
		_, fits := floor.Layout(pr.in.Floor, sizes, fixed)
		i := slices.Index(fits, false)
		if i < 0 {
			return
		}
		for j := len(fits) - 1; j >= 0; j-- { // the largest that has no place and is not pinned
			if !fits[j] && !pr.c.Stations[j].Pinned &&
				(pr.c.Stations[i].Pinned || sizes[j].Length*sizes[j].Width > sizes[i].Length*sizes[i].Width) {
				i = j
			}
		}
		if pr.c.Stations[i].Pinned {
			return
		}
		pr.c.Stations = slices.Delete(pr.c.Stations, i, i+1)
		pr.d.Groups = max(1, min(pr.d.Groups, len(pr.c.Stations)))
		pr.p.Why["floor"] = "Fewer stations, so that each has its room."
	}
}

func reason(s suggest.Suggestion) string {
	why := slices.Clone(s.Because[:min(2, len(s.Because))])
	if len(s.But) > 0 {
		why = append(why, "but "+s.But[0])
	}
	return upperList(why)
}

func upperList(why []string) string {
	if len(why) == 0 {
		return "It fits the group and the floor."
	}
	return say.Upper(strings.Join(why, "; ")) + "."
}
