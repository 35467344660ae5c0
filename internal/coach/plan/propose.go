package plan

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

// SessionShape is a starting plan for a way of running a session.
type SessionShape struct {
	Key, Name, About string
	Way              deal.Way
	blocks           []part
	families         []coach.Family // that it fits; none: every one
}

// part is a block of a shape: minutes of a session of 90, or none for what fills the rest.
type part struct {
	kind    Kind
	title   string
	minutes float64
	use     suggest.Use
	way     rotate.Way
	turn    int
}

// SessionShapes are the ways of running a session that a plan can be proposed in.
var SessionShapes = []SessionShape{
	{Key: "circuit", Name: "Station circuit", About: "Several tasks at once, groups move on the signal.", Way: deal.Near, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: OneKey, title: "One key", minutes: 5},
		{kind: Circuit, title: "Stations", use: suggest.Station},
		{kind: Game, title: "Game", minutes: 22, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 6},
	}},
	{Key: "game-key-game", Name: "Game, key, game", About: "A game shows what is missing, one key mends it, the game again.", Way: deal.Mixed, families: playing, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 8, use: suggest.WarmUp},
		{kind: Look, title: "First look", minutes: 9, way: rotate.MoveOn, turn: 45},
		{kind: Game, title: "First game", minutes: 14, use: suggest.Game},
		{kind: OneKey, title: "One key", minutes: 6},
		{kind: Circuit, title: "Practice", use: suggest.Station},
		{kind: Game, title: "Game again", minutes: 20, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 5},
	}},
	{Key: "ladder", Name: "Mastery ladder", About: "One task after another; nobody moves on until it holds.", Way: deal.Mixed, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: OneKey, title: "One key", minutes: 5},
		{kind: Ladder, title: "Mastery ladder", use: suggest.Parts},
		{kind: Game, title: "Game", minutes: 20, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 6},
	}},
	{Key: "parts", Name: "Parts to whole to race", About: "Pieces by themselves, then joined up, then against each other.", Way: deal.Mixed, families: []coach.Family{coach.BallGames, coach.NetGames, coach.Athletics}, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: Circuit, title: "Parts", use: suggest.Parts},
		{kind: Together, title: "The whole", minutes: 12, use: suggest.Station},
		{kind: Pairs, title: "Race", minutes: 14, way: rotate.WinnerStays, turn: 120},
		{kind: Close, title: "Close", minutes: 5},
	}},
	{Key: "intervals", Name: "All-out intervals", About: "Short, as fast as can be, with full rest between.", Way: deal.Near, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 15, use: suggest.WarmUp},
		{kind: Circuit, title: "Intervals", use: suggest.AllOut},
		{kind: Break, title: "Drink break", minutes: 4},
		{kind: Game, title: "Easy game", minutes: 12, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 8},
	}},
	{Key: "routine", Name: "Routine run-through", About: "The lead judges one station while the others practise.", Way: deal.Near, families: []coach.Family{coach.Apparatus}, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 12, use: suggest.WarmUp},
		{kind: Circuit, title: "Stations, one judged", use: suggest.Station},
		{kind: Together, title: "Run-through", minutes: 15, use: suggest.Station},
		{kind: Close, title: "Close", minutes: 6},
	}},
	{Key: "pairs", Name: "Pairs practice, live point at the end", About: "Partners who change, from working together to playing against.", Way: deal.Mixed, families: playing, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: Look, title: "First look", minutes: 9, way: rotate.MoveOn, turn: 45},
		{kind: OneKey, title: "One key", minutes: 5},
		{kind: Pairs, title: "With a partner", use: suggest.Partner, way: rotate.Fewest, turn: 180},
		{kind: Pairs, title: "Live point", minutes: 15, way: rotate.OneStays, turn: 90},
		{kind: Close, title: "Close", minutes: 5},
	}},
}

var playing = []coach.Family{coach.BallGames, coach.NetGames}

// ShapesOf are the session shapes that fit a family of sports; all of them where the family is not known. Where nobody plays against each other, what
// would be a game is what that family ends in.
func ShapesOf(f coach.Family) (out []SessionShape) {
	for _, s := range SessionShapes {
		if f != "" && s.families != nil && !slices.Contains(s.families, f) {
			continue
		}
		if !f.Plays() {
			s.blocks = slices.Clone(s.blocks)
			for i, b := range s.blocks {
				if b.kind == Game {
					s.blocks[i] = part{kind: Together, title: f.Finish(), minutes: b.minutes, use: suggest.Station}
				}
			}
		}
		out = append(out, s)
	}
	return out
}

// ShapeOf is the family's session shape of that key, or its first.
func ShapeOf(key string, f coach.Family) SessionShape {
	shapes := ShapesOf(f)
	for _, s := range shapes {
		if s.Key == key {
			return s
		}
	}
	return shapes[0]
}

// Sizes that work: common practice, no source.
const (
	idealGroup = 4.5
	shortRound = 4 * 60 // seconds
	longRound  = 9 * 60
)

type proposal struct {
	in     Input
	shape  SessionShape
	p      Plan
	seed   uint64
	aim    string // skill
	keys   []string
	lacks  map[string]int
	order  []string // of lacks, the most first
	chosen []coach.Drill
	f      suggest.For
}

// Propose makes a whole plan in a session shape for an aim. What is pinned in the input's plan stays; asked again for the same shape and aim, it
// proposes another. The input's Drills are completed from its Shelf.
func Propose(in Input, shape string, aim Aim) (Plan, error) {
	pr := proposal{in: in, shape: ShapeOf(shape, in.Family), seed: in.Plan.Seed, lacks: in.Lacks()}
	if in.Plan.Shape == pr.shape.Key && in.Plan.Aim == aim {
		pr.seed++
	}
	drills := map[string]coach.Drill{}
	for _, d := range in.Shelf {
		drills[d.ID] = d
	}
	for id, d := range in.Drills { // the plan's own editions stay
		drills[id] = d
	}
	pr.in.Drills = drills
	pr.p = Plan{Shape: pr.shape.Key, Aim: aim, Way: pr.shape.Way, Seed: pr.seed, Work: 6 * 60, Brief: 120, Key: in.Plan.Key, Gives: in.Plan.Gives, Positions: in.Plan.Positions, Pinned: in.Plan.Pinned, Move: in.Plan.Move, Why: map[string]string{}}
	pr.aimAt(aim)
	pr.blocks()
	pr.stations()
	pr.tasks()
	if err := pr.deal(); err != nil {
		return in.Plan, err
	}
	pr.time()
	pr.leaders()
	pr.targets()
	return pr.p, pr.p.Check()
}

func (pr *proposal) pinned(what string) bool { return slices.Contains(pr.in.Plan.Pinned, what) }

// jitter makes "again" choose differently among drills that fit nearly as well.
func (pr *proposal) jitter(id string) float64 {
	h := fnv.New64a()
	fmt.Fprint(h, pr.seed, id)
	return float64(h.Sum64()%1000) / 1000 * 14
}

func (pr *proposal) aimAt(aim Aim) {
	in := pr.in

	keys := map[string][]string{}
	for _, p := range in.Players {
		for _, c := range in.Missing[p.ID] {
			if len(keys[c.Skill]) == 0 {
				keys[c.Skill] = c.Keys
			}
			if aim.Kind == "criterion" && c.ID == aim.Value {
				pr.aim, pr.keys = c.Skill, c.Keys
			}

		}
	}
	for k := range pr.lacks {
		pr.order = append(pr.order, k)
	}
	slices.SortFunc(pr.order, func(a, b string) int {
		if pr.lacks[a] != pr.lacks[b] {
			return pr.lacks[b] - pr.lacks[a]
		}
		return strings.Compare(a, b)
	})
	if aim.Kind == "skill" {
		pr.aim, pr.keys = aim.Value, keys[aim.Value]
	}
	if pr.aim == "" && len(pr.order) > 0 {
		pr.aim = pr.order[0]
		pr.keys = keys[pr.aim]
	}
	switch {
	case pr.aim == "":
		pr.p.Why["shape"] = "Nothing is known to be missing yet, so the plan gives a bit of everything."
	case aim.Kind == "lack" || aim.Kind == "":
		pr.p.Why["shape"] = fmt.Sprintf("Most are missing something in %s: %d of %d.", pr.aim, pr.lacks[pr.aim], len(in.Players))
	default:
		pr.p.Why["shape"] = fmt.Sprintf("For %s; %d of %d have something to show in it.", pr.aim, pr.lacks[pr.aim], len(in.Players))
	}
	if len(pr.keys) > 0 && pr.p.Key == "" || len(pr.keys) > 0 && !slices.ContainsFunc(in.Plan.Blocks, func(b Block) bool { return b.Kind == OneKey && b.Pinned }) {
		pr.p.Key = pr.keys[0]
	}
	inside := in.Floor.Inside()
	pr.f = suggest.For{Aim: pr.aim, Lacks: pr.lacks, Players: len(in.Players), Length: inside.Length, Width: inside.Width, Kit: in.Kit, Recent: in.Recent, Limits: map[string]int{}, Jitter: pr.jitter}
	for _, l := range in.Leaders {
		pr.f.Leaders = append(pr.f.Leaders, l.Role)
	}
	for _, p := range in.Players {
		for _, l := range p.Limits {
			if l.Until.Holds(day.Of(in.Start)) {
				pr.f.Limits[l.What]++
			}
		}
		if no := in.There[p.ID].No; no != "" {
			pr.f.Limits[no]++
		}
		if name := in.Stages[p.Stage]; !slices.Contains(pr.f.Stages, name) {
			pr.f.Stages = append(pr.f.Stages, name)
		}
	}
}

// blocks lays the shape's blocks out; a pinned block of the same kind stands in for the shape's, others keep their place.
func (pr *proposal) blocks() {
	f := min(1.3, max(0.5, pr.in.Booked.Minutes()/90))
	var kept []Block
	for _, b := range pr.in.Plan.Blocks {
		if b.Pinned {
			kept = append(kept, b)
		}
	}
	for _, s := range pr.shape.blocks {
		b := Block{Kind: s.kind, Title: s.title, Minutes: max(1, int(math.Round(s.minutes*f))), Way: s.way, Turn: s.turn}
		if s.minutes == 0 {
			b.Minutes = 20
		}
		if s.kind == Circuit {
			b.Minutes = 0
		}
		if i := slices.IndexFunc(kept, func(k Block) bool { return k.Kind == s.kind }); i >= 0 {
			b = kept[i]
			kept = slices.Delete(kept, i, i+1)
		}
		pr.p.Blocks = append(pr.p.Blocks, b)
	}
	for _, b := range kept {
		if b.Kind == Circuit {
			continue
		}
		at := slices.IndexFunc(pr.in.Plan.Blocks, func(o Block) bool { return o.Kind == b.Kind && o.Title == b.Title })
		pr.p.Blocks = slices.Insert(pr.p.Blocks, min(max(0, at), len(pr.p.Blocks)-1), b)
	}
}

func (pr *proposal) has(k Kind) bool {
	return slices.ContainsFunc(pr.p.Blocks, func(b Block) bool { return b.Kind == k })
}

// stations chooses how many and which.
func (pr *proposal) stations() {
	n := len(pr.in.Players)
	var pins []Station
	for _, s := range pr.in.Plan.Stations {
		if s.Pinned {
			pins = append(pins, s)
			pr.chosen = append(pr.chosen, pr.in.drill(s.Drill))
		}
	}
	count := int(math.Round(float64(n) / idealGroup))
	fixed := time.Duration(pr.p.Brief) * time.Second
	use := suggest.Station
	for _, b := range pr.p.Blocks {
		fixed += time.Duration(b.Minutes) * time.Minute
	}
	for _, s := range pr.shape.blocks {
		if s.kind == Circuit {
			use = s.use
		}
	}
	room := pr.in.Booked - fixed
	most := int(room.Seconds()) / (shortRound + 40)
	count = max(2, len(pins), min(count, 6, most))
	if pr.shape.Key == "game-key-game" {
		count = max(2, len(pins), min(count, 3))
	}
	pr.p.Groups = max(1, min(count, n))
	if !pr.has(Circuit) {
		return
	}
	pr.f.Use, pr.f.Size = use, (n+pr.p.Groups-1)/max(1, pr.p.Groups)
	pr.f.Given = pr.in.before(len(pr.in.Plan.Blocks))
	at := map[int]Station{}
	for i, s := range pr.in.Plan.Stations {
		if s.Pinned && i < count {
			at[i] = s
		} else if s.Pinned {
			for j := range count {
				if _, taken := at[j]; !taken && (j >= len(pr.in.Plan.Stations) || !pr.in.Plan.Stations[j].Pinned) {
					at[j] = s
					break
				}
			}
		}
	}
	coaches := 0 // stations that need a coach, against coaches there are
	for _, l := range pr.in.Leaders {
		if l.Role != coach.RoleHelper {
			coaches++
		}
	}
	helpers := len(pr.in.Leaders) - coaches
	for _, s := range at {
		coaches, helpers = staffed(pr.in.drill(s.Drill), coaches, helpers)
	}
	area := pr.in.Floor.Inside().Length * pr.in.Floor.Inside().Width * 0.72 / float64(max(1, count))
	for i := range count {
		if s, ok := at[i]; ok {
			pr.p.Stations = append(pr.p.Stations, s)
			continue
		}
		pr.f.Chosen = pr.chosen
		if i > len(pins) { // the first is for the aim, the others for the rest of what they lack
			pr.f.Aim = ""
		}
		for tries, s := range suggest.Drills(pr.in.Shelf, pr.f) {
			c, h := staffed(*s.Drill, coaches, helpers)
			wide := (s.Drill.Length + s.Drill.Clearance) * (s.Drill.Width + s.Drill.Clearance)
			if tries < len(pr.in.Shelf)-1 && (c < 0 || h < 0 || wide > area*1.5) {
				continue
			}
			coaches, helpers = c, h
			pr.chosen = append(pr.chosen, *s.Drill)
			pr.p.Stations = append(pr.p.Stations, Station{Drill: s.Drill.ID, Edition: max(1, s.Drill.Edition), Why: reason(s)})
			break
		}
	}
	pr.f.Aim = pr.aim
	if pr.pinned("floor") {
		for i := range pr.p.Stations {
			if i < len(pr.in.Plan.Stations) && pr.p.Stations[i].Spot == nil {
				pr.p.Stations[i].Spot = pr.in.Plan.Stations[i].Spot
			}
		}
	}
	pr.fitFloor()
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
	for len(pr.p.Stations) > 2 {
		var sizes []floor.Size
		var fixed []*floor.Spot
		for _, s := range pr.p.Stations {
			sizes, fixed = append(sizes, SizeOf(pr.in.drill(s.Drill))), append(fixed, s.Spot)
		}
		_, fits := floor.Layout(pr.in.Floor, sizes, fixed)
		i := slices.Index(fits, false)
		if i < 0 {
			return
		}
		for j := len(fits) - 1; j >= 0; j-- { // the largest that has no place and is not pinned
			if !fits[j] && !pr.p.Stations[j].Pinned && (pr.p.Stations[i].Pinned || sizes[j].Length*sizes[j].Width > sizes[i].Length*sizes[i].Width) {
				i = j
			}
		}
		if pr.p.Stations[i].Pinned {
			return
		}
		pr.p.Stations = slices.Delete(pr.p.Stations, i, i+1)
		pr.p.Groups = max(1, min(pr.p.Groups, len(pr.p.Stations)))
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
	return upper(strings.Join(why, "; ")) + "."
}

// tasks gives the blocks their drills.
func (pr *proposal) tasks() {
	shape := map[Kind][]part{}
	for _, s := range pr.shape.blocks {
		shape[s.kind] = append(shape[s.kind], s)
	}
	game := -1 // "game again" is the first game
	for i := range pr.p.Blocks {
		b := &pr.p.Blocks[i]
		parts := shape[b.Kind]
		if len(parts) > 0 {
			shape[b.Kind] = parts[1:]
		}
		if b.Pinned {
			continue
		}
		pr.f.Chosen, pr.f.Size, pr.f.Wanted = pr.chosen, len(pr.in.Players), nil
		for _, d := range pr.chosen {
			pr.f.Wanted = append(pr.f.Wanted, d.NotBefore...)
		}
		switch {
		case b.Kind == OneKey:
			b.Note, b.Why = pr.p.Key, "The first key of "+pr.aim+"."
			if len(pr.keys) == 0 {
				b.Why = "Write the one key of the day here."
			}
		case b.Kind == Ladder:
			pr.ladder(b)
		case b.Kind == Look:
			b.Why = "Partners change, so that you see everybody from more than one side."
		case b.Kind == Game:
			games := rotate.Games(len(pr.in.Players), pr.in.Floor.Inside().Length, pr.in.Floor.Inside().Width, 1)
			if len(games) > 0 {
				g := games[pr.seed%uint64(min(2, len(games)))]
				b.Game = &g
				b.Note = upper(g.String())
				b.Why = fmt.Sprintf("Uses all %d, %.0f m² each.", len(pr.in.Players), g.MetresEach)
			}
			if game >= 0 {
				b.Drill, b.Edition, b.Game, b.Note = pr.p.Blocks[game].Drill, pr.p.Blocks[game].Edition, pr.p.Blocks[game].Game, pr.p.Blocks[game].Note
				continue
			}
			game = i
			pr.task(b, suggest.Game, 20)
		case len(parts) > 0 && parts[0].use != "":
			pr.task(b, parts[0].use, 15)
		}
	}
}

// task puts the best drill for a use into the block, if it is good enough.
func (pr *proposal) task(b *Block, use suggest.Use, enough float64) {
	pr.f.Use = use
	for _, s := range suggest.Drills(pr.in.Shelf, pr.f) {
		blocked := slices.ContainsFunc(pr.in.Players, func(p coach.Player) bool { return pr.in.forbids(p, *s.Drill) != "" })
		if s.Score < enough {
			return
		}
		if blocked || b.Kind.partners() && s.Drill.Least > 2 || !b.Kind.partners() && s.Drill.Most < len(pr.in.Players) && use == suggest.WarmUp {
			continue
		}
		b.Drill, b.Edition = s.Drill.ID, max(1, s.Drill.Edition)
		if b.Why == "" {
			b.Why = reason(s)
		}
		pr.chosen = append(pr.chosen, *s.Drill)
		return
	}
}

// ladder takes drills of the aim from the likeliest to succeed to the hardest.
func (pr *proposal) ladder(b *Block) {
	pr.f.Use = suggest.Parts
	var steps []coach.Drill
	for _, s := range suggest.Drills(pr.in.Shelf, pr.f) {
		if _, counts := target.For(s.Drill.Target, 0.5); counts && s.Score > -20 && len(steps) < 4 && (pr.aim == "" || slices.Contains(s.Drill.Skills, pr.aim) || len(steps) < 2) {
			steps = append(steps, *s.Drill)
		}
	}
	slices.SortStableFunc(steps, func(x, y coach.Drill) int { return int(1000*y.Chance) - int(1000*x.Chance) })
	for _, d := range steps {
		b.Steps = append(b.Steps, Task{d.ID, max(1, d.Edition)})
		pr.chosen = append(pr.chosen, d)
	}
	b.Why = "From the surest to the hardest; each until it holds, and when the time is up it is enough for today."
}

func (pr *proposal) deal() error {
	old := pr.in.Plan
	if pr.pinned("deal") && len(old.Deal) > 0 {
		pr.p.Groups, pr.p.Way, pr.p.Deal = len(old.Deal), old.Way, old.Deal
		pr.p.Why["deal"] = "Kept as you pinned it."
		return nil
	}
	pr.p.Why["deal"] = map[deal.Way]string{deal.Near: "Near in level, so that a task suits the whole group.", deal.Mixed: "Mixed, so that the weaker learn from the stronger."}[pr.p.Way]
	return pr.p.DealOut(pr.in)
}

// leaders puts everybody where they are needed: the lead where most can be marked, coaches and helpers where a drill asks for them, and
// who leaves early where it matters least.
func (pr *proposal) leaders() {
	if pr.p.Move {
		for i, l := range pr.in.Leaders {
			if i < pr.p.Groups {
				pr.p.With = append(pr.p.With, l.ID)
			}
		}
		pr.p.Why["leaders"] = "Each goes with a group."
		return
	}
	if pr.pinned("leaders") {
		for i := range pr.p.Stations {
			if i < len(pr.in.Plan.Stations) {
				pr.p.Stations[i].Leader = pr.in.Plan.Stations[i].Leader
			}
		}
		pr.p.Why["leaders"] = "Kept as you pinned them."
		return
	}
	in := pr.in
	in.Plan, in.Running = pr.p, true
	pic := Work(in)
	used := map[string]bool{}
	for _, s := range pr.p.Stations {
		if s.Pinned && s.Leader != "" {
			used[s.Leader] = true
		}
	}
	value := func(i int) (v int) {
		for _, k := range pic.Stations[i].Drill.Skills {
			v = max(v, pr.lacks[k])
		}
		return v
	}
	order := make([]int, len(pr.p.Stations))
	for i := range order {
		order[i] = i
	}
	rank := map[coach.Leader]int{coach.Qualified: 0, coach.AnyCoach: 1, coach.AnyHelper: 2, coach.SelfRun: 3, "": 3}
	slices.SortStableFunc(order, func(a, b int) int {
		if x, y := rank[pic.Stations[a].Drill.Leader], rank[pic.Stations[b].Drill.Leader]; x != y {
			return x - y
		}
		return value(b) - value(a)
	})
	give := func(i int, fit func(Leader) bool) {
		if s := &pr.p.Stations[i]; s.Leader == "" || !s.Pinned {
			if !s.Pinned {
				s.Leader = ""
			}
			for _, l := range in.Leaders {
				if !used[l.ID] && s.Leader == "" && fit(l) {
					s.Leader, used[l.ID] = l.ID, true
				}
			}
		}
	}
	for _, i := range order {
		need := pic.Stations[i].Drill.Leader
		if rank[need] == 3 {
			continue
		}
		give(i, func(l Leader) bool { // the least that is enough first
			return need.Enough(l.Role) && pic.covers(l) && (need != coach.AnyHelper || l.Role == coach.RoleHelper) && (need == coach.Qualified || l.Role != coach.RoleLead)
		})
		if pr.p.Stations[i].Leader == "" {
			give(i, func(l Leader) bool { return need.Enough(l.Role) && pic.covers(l) })
		}
		if pr.p.Stations[i].Leader == "" {
			give(i, func(l Leader) bool { return need.Enough(l.Role) })
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return value(b) - value(a) })
	for _, i := range order {
		if pr.p.Stations[i].Leader == "" {
			give(i, func(l Leader) bool { return true })
		}
	}
	pr.p.Why["leaders"] = "Each stays where a task asks for them; the lead where most can be marked."
}

// time fills the booked time: the rounds grow or shrink, then the last game.
func (pr *proposal) time() {
	in := pr.in
	in.Plan, in.Running = pr.p, true
	if pr.pinned("time") {
		pr.p.Work, pr.p.Change, pr.p.Brief, pr.p.Rounds = in.Plan.Work, pr.in.Plan.Change, pr.in.Plan.Brief, pr.in.Plan.Rounds
		pr.p.Work = pr.in.Plan.Work
		return
	}
	pic := Work(in)
	left := (in.Booked - pic.Total).Seconds()
	if n := len(pic.Rounds); n > 0 {
		pr.p.Work = max(120, min(longRound, pr.p.Work+int(math.Floor(left/float64(n)/30))*30))
		pr.p.Why["time"] = "Rounds as long as the booked time allows."
	}
	in.Plan = pr.p
	pic = Work(in)
	minutes := int(math.Floor((in.Booked - pic.Total).Minutes()))
	for _, k := range []Kind{Ladder, Pairs, Game, Look, Together, OneKey} { // the rest goes to, or comes from, these in turn
		for i := len(pr.p.Blocks) - 1; i >= 0 && minutes != 0; i-- {
			b := &pr.p.Blocks[i]
			if b.Kind != k || b.Pinned {
				continue
			}
			to := max(4, b.Minutes+minutes)
			if minutes > 0 {
				to = min(to, max(b.Minutes, map[Kind]int{Ladder: 60, Pairs: 45, Game: 40, Together: 25}[k]))
			}
			minutes -= to - b.Minutes
			b.Minutes = to
		}
	}
}

// targets are set to what most of these players reach in a round.
func (pr *proposal) targets() {
	in := pr.in
	in.Plan, in.Running = pr.p, true
	pic := Work(in)
	for i, s := range pic.Stations {
		if pr.p.Stations[i].Pinned || s.Drill.TrySeconds <= 0 {
			continue
		}
		if _, has := target.For(s.Target, 0.5); !has {
			continue
		}
		var chances []float64
		for _, p := range in.Players {
			r, _ := in.Chance(p, s.Drill)
			chances = append(chances, r.P)
		}
		own, try, fetch := pic.OwnTime(s), wholeSeconds(s.Drill.TrySeconds), wholeSeconds(s.Drill.Fetch)
		if reach := target.Reach(s.Target, chances, own, try, fetch); reach >= 0.6 && reach <= 0.95 {
			continue
		}
		if a, ok := target.Fit(s.Target, chances, own, try, fetch); ok && a.N != s.Target.N {
			pr.p.Stations[i].Target = a.N
			pr.p.Stations[i].Why += fmt.Sprintf(" Target %d: %s.", a.N, a.Because)
		}
	}
}
