// Package plan works a session's plan out: when everything happens, where every group is, what each player gets out
// of it, and what is wrong with it.
package doc

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
)

// Kind of a block.
type Kind string

const (
	Together Kind = "together"
	Look     Kind = "look"     // a first look, in changing pairs
	OneKey   Kind = "key"      // one key shown and tried
	Circuit  Kind = "stations" // or a part of the rounds
	Ladder   Kind = "ladder"   // tasks one after another, each until it holds
	Pairs    Kind = "pairs"    // partners or small teams that change
	Game     Kind = "game"
	Break    Kind = "break"
	Close    Kind = "close"
)

// Kinds lists the blocks in the order of a session.
var Kinds = []Kind{Together, Look, OneKey, Circuit, Ladder, Pairs, Game, Break, Close}

// String is the block's plain name.
func (k Kind) String() string {
	return map[Kind]string{Together: "Warm-up", Look: "First look", OneKey: "One key", Circuit: "Stations", Ladder: "Mastery ladder", Pairs: "Partners", Game: "Game", Break: "Drink break", Close: "Close"}[k]
}

// active reports whether the players move in a block of this kind; explaining, drinking and closing are neither work nor waiting.
func (k Kind) Active() bool {
	return k == Together || k == Look || k == Game || k == Ladder || k == Pairs
}

// partners reports whether players change partners in a block of this kind.
func (k Kind) Partners() bool { return k == Look || k == Pairs }

// partnerChange is how long finding the next partner takes, inside the turn (common practice, no source).
const partnerChange = 10 * time.Second

// changeOver is how much of a time in a partner block goes into finding the next partner.
func (b Block) ChangeOver(d time.Duration) time.Duration {
	turn := time.Duration(b.Turn) * time.Second
	if turn <= 0 {
		return 0
	}
	return time.Duration(float64(d) * float64(min(partnerChange, turn/2)) / float64(turn))
}

// usual is the minutes a block begins with.
func (k Kind) usual() int {
	return map[Kind]int{Together: 10, Look: 8, OneKey: 5, Ladder: 15, Pairs: 12, Game: 15, Break: 3, Close: 5}[k]
}

// Plan is what is kept of a session's plan: one JSON document. Everything else is worked out from it.
type Plan struct {
	Shape     string            `json:"shape,omitempty"` // the session shape it was proposed in
	Aim       Aim               `json:"aim,omitzero"`
	Way       deal.Way          `json:"way"`
	Seed      uint64            `json:"seed"`
	Groups    int               `json:"groups"`
	Work      int               `json:"work"`   // seconds of a round
	Change    int               `json:"change"` // seconds between rounds; 0: worked out from the walk
	Brief     int               `json:"brief"`  // seconds of explanation before the first round
	Rounds    int               `json:"rounds"` // 0: until everyone was everywhere
	Key       string            `json:"key"`    // the one coaching point of the day
	Blocks    []Block           `json:"blocks"`
	Stations  []Station         `json:"stations"`
	Deal      [][]string        `json:"deal"`                   // player ids, a list for each group
	Move      bool              `json:"leaders_move,omitempty"` // leaders go with a group, not with a station
	With      []string          `json:"leaders_with,omitempty"` // then: who goes with each group
	Positions []string          `json:"positions,omitempty"`    // whose players stay in one group
	Gives     []Kind            `json:"gives,omitempty"`        // what gives first when time is short
	Pinned    []string          `json:"pinned,omitempty"`       // deal, leaders, floor, time
	Why       map[string]string `json:"why,omitempty"`          // reasons of a proposal: shape, deal, leaders, time
}

// Aim is what a session is for: a skill, a criterion of the ladder, or what the players lack.
type Aim struct {
	Kind  string `json:"kind,omitempty"`  // skill, criterion or lack
	Value string `json:"value,omitempty"` // the skill's name or the criterion's id
}

// Block is a stretch of the session. The minutes of a stations block follow from its rounds.
type Block struct {
	Kind    Kind   `json:"kind"`
	Title   string `json:"title"`
	Minutes int    `json:"minutes"`
	Note    string `json:"note,omitempty"`

	Drill   string          `json:"drill,omitempty"` // its task, in the edition it was planned with
	Edition int             `json:"edition,omitempty"`
	Rounds  int             `json:"rounds,omitempty"` // stations: how many of the rounds are in this block; 0: the rest
	Steps   []Task          `json:"steps,omitempty"`  // ladder: one after the other
	Way     rotate.Way      `json:"way,omitempty"`    // partners: how they change
	Turn    int             `json:"turn,omitempty"`   // partners: seconds of a turn, the change included
	Team    int             `json:"team,omitempty"`   // partners: players together, 2 unless set
	Scores  []Made          `json:"scores,omitempty"` // partners: what was made, turn by turn
	Game    *rotate.Game    `json:"game,omitempty"`
	Side    map[string]Task `json:"side,omitempty"` // players who do something else meanwhile; an empty task sits out

	Pinned bool   `json:"pinned,omitempty"`
	Why    string `json:"why,omitempty"`
}

// Task is a drill in an edition.
type Task struct {
	Drill   string `json:"drill"`
	Edition int    `json:"edition"`
}

// Station is a drill, in the edition it was planned with, and who stands there.
type Station struct {
	Drill   string            `json:"drill"`
	Edition int               `json:"edition"`
	Leader  string            `json:"leader"`             // member id; empty: runs itself
	Target  int               `json:"target,omitempty"`   // instead of the drill's own number
	Spot    *floor.Spot       `json:"spot,omitempty"`     // where the coach put it; nil: laid out
	Variant map[string]string `json:"variants,omitempty"` // for a stage's name another variant than the one that suits it; "-" for the drill as it is
	Double  bool              `json:"double,omitempty"`   // two groups may come at once
	Side    map[string]Task   `json:"side,omitempty"`     // players who do something else there; an empty task sits out
	Pinned  bool              `json:"pinned,omitempty"`
	Why     string            `json:"why,omitempty"`
}

// Most stations and groups a plan can have: there are eight group shapes.
const Most = 8

// Limits of a plan document, so that one from a file stays within reason.
const (
	mostBlocks  = 24
	mostTeam    = 6
	mostMade    = 120 // players with a score in a turn
	mostEdition = 1e6

	MostScore = 999 // of a player in a turn
)

// Start is the plan a session begins with, to fill the booked time: a warm-up, stations, a game and a close.
func Start(booked time.Duration, f coach.Family) Plan {
	m := int(booked.Minutes())
	p := Plan{Way: deal.Near, Groups: 3, Work: 6 * 60, Brief: 120, Seed: 0}
	if m < 60 {
		p.Work = 4 * 60
		p.Blocks = []Block{{Kind: Together, Title: "Warm-up", Minutes: 8}, {Kind: Circuit, Title: "Stations"}, {Kind: Close, Title: "Close", Minutes: 4}}
		return p
	}
	finish := Block{Kind: Game, Title: f.Finish(), Minutes: max(10, (m-60)/2+10)}
	if !f.Plays() {
		finish.Kind = Together
	}
	p.Blocks = []Block{{Kind: Together, Title: "Warm-up", Minutes: 10}, {Kind: OneKey, Title: "One key", Minutes: 5}, {Kind: Circuit, Title: "Stations"}, finish, {Kind: Close, Title: "Close", Minutes: 5}}
	return p
}

// Tasks lists every drill of the plan, stations first.
func (p Plan) Tasks() (out []Task) {
	for _, s := range p.Stations {
		out = append(out, Task{s.Drill, s.Edition})
	}
	for _, b := range p.Blocks {
		if b.Drill != "" && b.Kind != Circuit {
			out = append(out, Task{b.Drill, b.Edition})
		}
		out = append(out, b.Steps...)
	}
	aside := func(sides map[string]Task) {
		for _, player := range slices.Sorted(maps.Keys(sides)) {
			if t := sides[player]; t.Drill != "" {
				out = append(out, t)
			}
		}
	}
	for _, s := range p.Stations {
		aside(s.Side)
	}
	for _, b := range p.Blocks {
		aside(b.Side)
	}
	return out
}

// Check says what cannot be in a plan document at all, whatever wrote it: the first thing found, or nil.
func (p Plan) Check() error {
	bad := func(format string, args ...any) error { return &ErrInput{Says: fmt.Sprintf(format, args...)} }
	between := func(n, low, high int) bool { return n >= low && n <= high }
	switch {
	case !p.Way.Known():
		return bad("The way of dealing %q is not known.", p.Way)
	case !between(p.Groups, 1, Most) || len(p.Deal) > Most:
		return bad("A plan has 1 to %d groups.", Most)
	case len(p.Stations) > Most:
		return bad("A plan has at most %d stations.", Most)
	case len(p.Blocks) > mostBlocks:
		return bad("A plan has at most %d blocks.", mostBlocks)
	case !between(p.Work, 30, 3600) || !between(p.Change, 0, 600) || !between(p.Brief, 0, 1800) || !between(p.Rounds, 0, 24):
		return bad("Work is 30 s to an hour, a change at most 10 min, explaining at most 30 min, and there are at most 24 rounds.")
	case len(p.With) > Most || len(p.Gives) > len(Kinds) || len(p.Pinned) > 8 || len(p.Why) > 8 || len(p.Positions) > 20:
		return bad("The plan says more about its leaders, pins or order of giving than there can be.")
	case len([]rune(p.Key)) > 200:
		return bad("A key is a few words; these are %d letters.", len([]rune(p.Key)))
	}
	for _, t := range p.Tasks() {
		if !between(t.Edition, 1, mostEdition) {
			return bad("There is no edition %d of a drill.", t.Edition)
		}
	}
	for i, b := range p.Blocks {
		if b.Kind.String() == "" {
			return bad("Block %d: the kind %q is not known.", i+1, b.Kind)
		}
		if len([]rune(b.Title)) > 120 || len([]rune(b.Note)) > 2000 || len(b.Side) > mostMade {
			return bad("Block %d: a name is at most 120 letters, a note 2000.", i+1)
		}
		if b.Kind != Circuit && !between(b.Minutes, 1, 240) || b.Minutes < 0 || !between(b.Rounds, 0, 24) || !between(b.Turn, 0, 1800) || b.Team != 0 && !between(b.Team, 2, mostTeam) || len(b.Steps) > 12 || len(b.Scores) > MostTurns {
			return bad("Block %d: 1 to 240 minutes, turns of at most 30 min, teams of 2 to %d, at most 12 steps.", i+1, mostTeam)
		}
		if b.Way != "" && !slices.Contains(rotate.Ways, b.Way) {
			return bad("Block %d: partners cannot change by %q.", i+1, b.Way)
		}
		if g := b.Game; g != nil && (!between(g.Areas, 1, 8) || !between(g.A, 1, 30) || !between(g.B, 0, 30) || !between(g.Floaters, 0, 10) || !between(g.Walls, 0, 10) || !between(g.Reserves, 0, 30) || !between(g.More, 0, 8) || math.IsNaN(g.MetresEach)) {
			return bad("Block %d: that game cannot be played.", i+1)
		}
		for _, turn := range b.Scores {
			if !turn.sound() {
				return bad("Block %d: scores are 0 to %d.", i+1, MostScore)
			}
		}
	}
	for i, s := range p.Stations {
		if !between(s.Target, 0, 500) {
			return bad("Station %d: a target is 1 to 500.", i+1)
		}
		if sp := s.Spot; sp != nil && !soundSpot(*sp) {
			return bad("Station %d: its place is not on any floor.", i+1)
		}
	}
	seen := map[string]bool{}
	for _, g := range p.Deal {
		for _, id := range g {
			if seen[id] {
				return bad("A player is in two groups at once.")
			}
			seen[id] = true
		}
	}
	return nil
}

func soundSpot(s floor.Spot) bool {
	for _, m := range []float64{s.X, s.Y, s.Length, s.Width} {
		if math.IsNaN(m) || math.Abs(m) > 200 {
			return false
		}
	}
	return s.Length >= 1 && s.Width >= 1 && (s.Turn == 0 || s.Turn == 90 || s.Turn == 180 || s.Turn == 270)
}

// clone is a copy that shares nothing an edit changes.
func (p Plan) Clone() Plan {
	p.Blocks, p.Stations, p.Deal, p.With, p.Pinned, p.Gives = slices.Clone(p.Blocks), slices.Clone(p.Stations), slices.Clone(p.Deal), slices.Clone(p.With), slices.Clone(p.Pinned), slices.Clone(p.Gives)
	for g := range p.Deal {
		p.Deal[g] = slices.Clone(p.Deal[g])
	}
	for i := range p.Stations {
		if sp := p.Stations[i].Spot; sp != nil {
			at := *sp
			p.Stations[i].Spot = &at
		}
		variants := map[string]string{}
		for k, v := range p.Stations[i].Variant {
			variants[k] = v
		}
		p.Stations[i].Variant = variants
		p.Stations[i].Side = maps.Clone(p.Stations[i].Side)
	}
	for i := range p.Blocks {
		p.Blocks[i].Scores = slices.Clone(p.Blocks[i].Scores)
		for t := range p.Blocks[i].Scores {
			p.Blocks[i].Scores[t].By = maps.Clone(p.Blocks[i].Scores[t].By)
		}
		p.Blocks[i].Steps = slices.Clone(p.Blocks[i].Steps)
		p.Blocks[i].Side = maps.Clone(p.Blocks[i].Side)
	}
	return p
}

// Shape is how a group is told from the others: a shape and a colour, never colour alone.
type Shape struct{ Key, Name, Colour string }

// Shapes in the order groups take them.
var Shapes = []Shape{
	{"circle", "Circles", "#0072b2"}, {"triangle", "Triangles", "#d55e00"}, {"square", "Squares", "#00795a"}, {"diamond", "Diamonds", "#8a3b8f"},
	{"pentagon", "Pentagons", "#8a6d00"}, {"star", "Stars", "#b0265c"}, {"hexagon", "Hexagons", "#3b3f8f"}, {"cross", "Crosses", "#4a4a4a"},
}

// VariantFor is the variant of a drill that a group does: what the coach chose for the group, else for its stage, else what suits the stage.
// Nil: the drill as it is.
func (s Station) VariantFor(d coach.Drill, group int, stage string) *coach.Variant {
	name, chosen := s.Variant[GroupKey(group)]
	if !chosen {
		name, chosen = s.Variant[stage]
	}
	if !chosen && d.Suits == stage {
		return nil
	}
	for i, v := range d.Variants {
		if chosen && v.Name == name || !chosen && v.Suits == stage && stage != "" {
			return &d.Variants[i]
		}
	}
	return nil
}

// GroupKey names a group, counted from 0, among a station's chosen variants.
func GroupKey(group int) string { return fmt.Sprintf("group %d", group+1) }

// Eased is the form a group does after a step towards easier (-1) or harder (+1), and whether there is one. The name is as an edit takes it:
// "-" for the drill as it is.
func (s Station) Eased(d coach.Drill, group int, stage string, by int) (name string, ok bool) {
	forms, at := d.Forms()
	own := at
	if v := s.VariantFor(d, group, stage); v != nil {
		at = slices.IndexFunc(forms, func(f coach.Variant) bool { return f.Name == v.Name })
	}
	at += by
	if at < 0 || at >= len(forms) {
		return "", false
	}
	if at == own {
		return "-", true
	}
	return forms[at].Name, true
}

// stationsAt is the first block that holds rounds, or the number of blocks.
func (p Plan) StationsAt() int {
	if i := slices.IndexFunc(p.Blocks, func(b Block) bool { return b.Kind == Circuit }); i >= 0 {
		return i
	}
	return len(p.Blocks)
}

// leads reports whether somebody stands at a station or goes with a group.
func (p Plan) Leads(who string) bool {
	return p.Move && slices.Contains(p.With, who) || !p.Move && slices.ContainsFunc(p.Stations, func(s Station) bool { return s.Leader == who })
}
