package work

import (
	"cmp"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
)

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

// criteria lists what players lack and where it can be seen today.
func (pic *Picture) criteria(in Input) {
	at := map[string]int{}
	for _, p := range in.Players {
		for _, c := range in.Missing[p.ID] {
			i, known := at[c.ID]
			if !known {
				i = len(pic.Criteria)
				at[c.ID] = i
				row := CriterionRow{
					Criterion: c,
					Stage:     in.Stages[c.StageID],
					Weeks:     suggest.Last(in.Shelf, in.Recent, c.Skill),
				}
				for _, s := range pic.Stations {
					if !in.Shows.Shows(c, s.Drill) {
						continue
					}
					row.Stations = append(row.Stations, s.Index)
					for r := range pic.Rounds {
						if l := pic.LeaderIn(s, r); l != nil && l.Role != coach.RoleHelper &&
							!slices.Contains(row.By, l.First()) {
							row.By = append(row.By, l.First())
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
		return cmp.Or(
			min(1, len(b.Asked))-min(1, len(a.Asked)),
			min(1, len(a.Stations))-min(1, len(b.Stations)),
			len(b.Players)-len(a.Players),
			cmp.Compare(a.Criterion.Wording, b.Criterion.Wording),
		)
	})
}

// OwnGuess is where a chance comes from when no mark says anything: the drill.
const OwnGuess = "the drill's own guess"

// Chance is how often a player's try at the drill is good: from the player's own marks of the drill, else of its
// skills, else from those of players of the same stage, else the drill's own guess. from says which.
func (in Input) Chance(p coach.Player, d coach.Drill) (r target.Rate, from string) {
	of := chanceOf{p.ID, d.ID, d.Chance}
	known, is := in.Known[of]
	if !is {
		known.rate, known.from = in.chance(p, d)
		known.rate = in.inForm(known.rate, known.from, d)
		if in.Known != nil {
			in.Known[of] = known
		}
	}
	return known.rate, known.from
}

// surest is the best chance that a form is said to leave.
const surest = 0.99

// inForm is a chance that the marks tell, in the form of the drill that is done: as much easier or harder as that says of
// itself. The drill's own guess is of the form already.
func (in Input) inForm(r target.Rate, from string, d coach.Drill) target.Rate {
	written, known := in.Drills[d.ID]
	if !known || from == OwnGuess || written.Chance <= 0 || written.Chance == d.Chance {
		return r
	}
	ratio := d.Chance / written.Chance
	r.P, r.Low, r.High = min(surest, r.P*ratio), min(surest, r.Low*ratio), min(1, r.High*ratio)
	return r
}

// Known are the chances that were worked out for an input: they are the same for every plan of it. Where it is set, each
// is worked out once; it is not for several goroutines.
type Known map[chanceOf]struct {
	rate target.Rate
	from string
}

type chanceOf struct {
	player, drill string
	guess         float64 // of the drill, in the form that is done
}

func (in Input) chance(p coach.Player, d coach.Drill) (r target.Rate, from string) {
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
	return target.Rate{P: d.Chance, Low: max(0, d.Chance-0.2), High: min(1, d.Chance+0.2)}, OwnGuess
}
