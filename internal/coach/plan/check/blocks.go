package check

import (
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/suggest"
)

// warm is a mend that puts a drill into the first warm-up, or makes one.
func (pic *checking) warm(d coach.Drill) Mend {
	value := fmt.Sprintf("%s@%d", d.ID, d.Edition)
	if i := slices.IndexFunc(pic.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Together && b.Drill == "" }); i >= 0 && i < pic.Plan.StationsAt() {
		return mend(d.Name+" to warm up", "task", i, value)
	}
	return Mend{d.Name + " first", []doc.Edit{{Do: "add-block", At: 0, Value: string(doc.Together)}, {Do: "task", At: 0, Value: value}, {Do: "title", At: 0, Value: d.Name}, {Do: "minutes", At: 0, Value: "5"}}}
}

// checkBlocks: tasks of blocks other than stations.
func (pic *checking) checkBlocks(in work.Input) {
	for _, b := range pic.Blocks {
		if use, asks := map[doc.Kind]suggest.Use{doc.Together: suggest.WarmUp, doc.Look: suggest.Partner, doc.Pairs: suggest.Partner, doc.Ladder: suggest.Parts, doc.Game: suggest.Game}[b.Kind]; asks && b.Task == nil && b.Block.Game == nil && len(b.Steps) == 0 && b.Note == "" {
			var mends []Mend
			if games := rotate.Games(len(in.Players), in.Floor.Inside().Length, in.Floor.Inside().Width, 1); b.Kind == doc.Game && len(games) > 0 {
				mends = append(mends, mend(work.Upper(games[0].String()), "game", b.Index, GameValue(games[0])))
			}
			for _, s := range suggest.Drills(in.Shelf, suggest.For{Use: use, Size: len(in.Players)}) {
				if s.Score < 15 || b.Kind == doc.Game {
					break
				}
				suits := b.Kind == doc.Ladder || b.Kind.Partners() && s.Drill.Least <= 2 || s.Drill.Most >= len(in.Players)
				if suits && !slices.ContainsFunc(in.Players, func(p coach.Player) bool { return in.Forbids(p, *s.Drill) != "" }) {
					mends = append(mends, mend(s.Drill.Name, "task", b.Index, fmt.Sprintf("%s@%d", s.Drill.ID, max(1, s.Drill.Edition))))
					break
				}
			}
			pic.find(Note, "nothing "+about(b), b.Title, b.From, fmt.Sprintf("%s says nothing of what is done. Choose a task, or write it down.", b.Title), mends...).About = []string{about(b)}
		}
		if b.Task != nil && b.Kind != doc.Circuit {
			if says := pic.usualMinutes(b.Task, (b.To - b.From).Minutes()); says != "" {
				to := max(1, b.Task.Minutes[0])
				if (b.To - b.From).Minutes() > float64(b.Task.Minutes[1]) {
					to = b.Task.Minutes[1]
				}
				pic.find(Note, "minutes "+about(b), b.Title, b.From, says, mend(fmt.Sprintf("%d min", to), "minutes", b.Index, to)).About = []string{about(b)}
			}
		}
		if b.Kind == doc.Ladder && len(b.Steps) > 0 {
			need, last := time.Duration(0), ""
			for _, s := range b.Steps {
				d := in.Drill(s.Drill)
				if need += in.StepTime(d); need > b.To-b.From && last == "" {
					last = d.Name
				}
			}
			if last != "" {
				var mends []Mend
				if to := int(math.Ceil(need.Minutes())); to <= 60 {
					mends = append(mends, mend(fmt.Sprintf("%s of %d min", b.Title, to), "minutes", b.Index, to))
				}
				pic.find(Note, "ladder "+about(b), b.Title, b.From, fmt.Sprintf("Its steps take about %s until four in five hold them; within the %s most will not get past %s.", coach.Minutes(need), coach.Minutes(b.To-b.From), last), mends...).About = []string{about(b)}
			}
		}
		if b.Kind.Partners() && b.Turn > 0 {
			n, turns := len(in.Players), int((b.To-b.From).Seconds())/b.Turn
			if b.Way == rotate.MoveOn && n%2 == 0 && n > 3 && turns > n/2 && max(2, b.Team) == 2 {
				pic.find(Note, "ring "+about(b), b.Title, b.From, b.Way.Advice(n), mend("One stays", "change-by", b.Index, string(rotate.OneStays))).About = []string{about(b)}
			}
		}
		if b.Task != nil && b.Kind != doc.Circuit {
			for _, p := range in.Players {
				if what := in.Forbidden(b.Side, p, *b.Task); what != "" {
					pic.find(Stop, fmt.Sprint("limit", b.Index, p.ID), p.Name, b.From, fmt.Sprintf("No %s, and %s asks for it. Give another task then.", what, b.Task.Name), aside(in, p, []coach.Drill{*b.Task}, "block-side", b.Index)...).About = []string{"player " + p.ID}
				}
			}
			if b.Task.Most > 0 && len(in.Players) > b.Task.Most && !b.Kind.Partners() {
				pic.find(Note, "crowd "+about(b), b.Title, b.From, fmt.Sprintf("%s is for at most %d; %d are there. Play it in two halves.", b.Task.Name, b.Task.Most, len(in.Players))).About = []string{about(b)}
			}
		}
		if b.Block.Game != nil {
			if n := b.Block.Game.Areas*(b.Block.Game.On()+b.Block.Game.Reserves) + b.Block.Game.More; n != len(in.Players) && len(in.Players) > 1 {
				games := rotate.Games(len(in.Players), in.Floor.Inside().Length, in.Floor.Inside().Width, 1)
				var mends []Mend
				if len(games) > 0 {
					mends = append(mends, mend(work.Upper(games[0].String()), "game", b.Index, GameValue(games[0])))
				}
				pic.find(Note, "game "+about(b), b.Title, b.From, fmt.Sprintf("%s is for %d; %d are there.", work.Upper(b.Block.Game.String()), n, len(in.Players)), mends...).About = []string{about(b)}
			}
		}
	}
}

// GameValue is a game as the edit "game" takes it.
func GameValue(g rotate.Game) string {
	return fmt.Sprint(g.Areas, " ", g.A, " ", g.B, " ", g.Floaters, " ", g.Walls, " ", g.Reserves, " ", g.More)
}
