package doc

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

// Edit is one change to a plan, as a button, a key or a field sends it.
type Edit struct {
	Do    string // see Apply
	At    int    // which station or block, counted from 0
	Value string
}

// Needs says what an edit asks for after it is applied.
type Needs int

const (
	Nothing Needs = iota
	NewDeal       // deal from the start
	Refit         // fit the groups to who is there, moving as few as possible
)

// ErrInput is a clear sentence for the place where something was typed.
type ErrInput struct{ Field, Says string }

func (e *ErrInput) Error() string { return e.Says }

func Input(field, format string, args ...any) error {
	return &ErrInput{Field: field, Says: fmt.Sprintf(format, args...)}
}

// Apply returns the plan with the edit made, and whether groups have to be dealt: the caller deals and stores it.
// A drill comes as "id@edition".
func (p Plan) Apply(e Edit) (next Plan, needs Needs, err error) {
	p = p.Clone()
	number := func(field string, low, high int, what string) (int, error) {
		n, err := strconv.Atoi(strings.TrimSpace(e.Value))
		if err != nil || n < low || n > high {
			return 0, Input(field, "%s from %d to %d, please.", what, low, high)
		}
		return n, nil
	}
	switch e.Do {
	case "work":
		p.Work, err = number("work", 30, 3600, "Seconds of work")
	case "change":
		p.Change, err = number("change", 0, 600, "Seconds for the change")
	case "brief":
		p.Brief, err = number("brief", 0, 1800, "Seconds to explain")
	case "rounds":
		p.Rounds, err = number("rounds", 0, 24, "Rounds")
	case "groups":
		p.Groups, err = number("groups", 1, Most, "Groups")
		needs = NewDeal
	case "way":
		if p.Way = deal.Way(e.Value); !p.Way.Known() {
			return p, Nothing, Input("way", "Groups are dealt near in level, mixed, by position, by what they lack or by chance.")
		}
		needs = NewDeal
	case "deal":
		p.Seed++
		needs = NewDeal
	case "redeal":
		needs = Refit
	case "positions":
		p.Positions = nil
		for _, s := range strings.Split(e.Value, ",") {
			if s = strings.ToLower(strings.TrimSpace(s)); s != "" && len(p.Positions) < 20 {
				p.Positions = append(p.Positions, s)
			}
		}
		needs = NewDeal
	case "key":
		p.Key = e.Value
	case "pin":
		return p, Nothing, p.pin(e.Value)
	case "gives":
		k := Kind(e.Value) // gives before all others
		if k.String() == "" {
			return p, Nothing, Input("gives", "Choose what gives first.")
		}
		p.Gives = append([]Kind{k}, slices.DeleteFunc(p.Gives, func(o Kind) bool { return o == k })...)
	case "leaders":
		p.Move = e.Value == "move"
		p.With = nil
		if p.Move {
			for i := range p.Groups {
				who := ""
				if i < len(p.Stations) {
					who = p.Stations[i].Leader
				}
				p.With = append(p.With, who)
			}
		}
	case "goes-with":
		if e.At < 0 || e.At >= p.Groups {
			return p, Nothing, Input("goes-with", "That group is no longer in the plan.")
		}
		for len(p.With) < p.Groups {
			p.With = append(p.With, "")
		}
		if i := slices.Index(p.With, e.Value); i >= 0 && e.Value != "" {
			p.With[i] = p.With[e.At]
		}
		p.With[e.At] = e.Value
	case "player": // "id group": into another group, counted from 0; the size is the coach's own choice then
		id, to, _ := strings.Cut(e.Value, " ")
		g, err := strconv.Atoi(to)
		if err != nil || g < 0 || g >= len(p.Deal) {
			return p, Nothing, Input("player", "That group is no longer in the plan.")
		}
		for i := range p.Deal {
			p.Deal[i] = slices.DeleteFunc(p.Deal[i], func(o string) bool { return o == id })
		}
		p.Deal[g] = append(p.Deal[g], id)
	case "edition": // "drill@edition": the plan takes another edition of the drill, wherever it uses it
		t, err := task(e.Value)
		if err != nil {
			return p, Nothing, err
		}
		for i := range p.Stations {
			if p.Stations[i].Drill == t.Drill {
				p.Stations[i].Edition = t.Edition
			}
			renew(p.Stations[i].Side, t)
		}
		for i := range p.Blocks {
			b := &p.Blocks[i]
			renew(b.Side, t)
			if b.Drill == t.Drill {
				b.Edition = t.Edition
			}
			for j := range b.Steps {
				if b.Steps[j].Drill == t.Drill {
					b.Steps[j] = t
				}
			}
		}
	case "add-station", "drop-station", "drill", "leader", "target", "spot", "variant", "double", "side":
		needs, err = p.editStation(e, number)
	default:
		err = p.editBlock(e, number)
	}
	if err != nil {
		return p, Nothing, err
	}
	return p, needs, p.Check()
}

type numberIn func(field string, low, high int, what string) (int, error)

// pin keeps something when a plan is proposed again, or lets it go: deal, leaders, floor, time, "station 2", "block 0".
func (p *Plan) pin(what string) error {
	kind, n, _ := strings.Cut(what, " ")
	i, err := strconv.Atoi(n)
	switch {
	case kind == "station" && err == nil && i >= 0 && i < len(p.Stations):
		p.Stations[i].Pinned = !p.Stations[i].Pinned
	case kind == "block" && err == nil && i >= 0 && i < len(p.Blocks):
		p.Blocks[i].Pinned = !p.Blocks[i].Pinned
	case slices.Contains([]string{"deal", "leaders", "floor", "time"}, what):
		if j := slices.Index(p.Pinned, what); j >= 0 {
			p.Pinned = slices.Delete(p.Pinned, j, j+1)
		} else {
			p.Pinned = append(p.Pinned, what)
		}
	default:
		return Input("pin", "That is no longer in the plan.")
	}
	return nil
}

func (p *Plan) editStation(e Edit, number numberIn) (needs Needs, err error) {
	if e.Do == "add-station" {
		if len(p.Stations) >= Most {
			return Nothing, Input("add-station", "A plan has at most %d stations.", Most)
		}
		t, err := task(e.Value)
		if err != nil {
			return Nothing, err
		}
		if p.Groups == len(p.Stations) || len(p.Stations) == 0 { // one group a station, until the coach says otherwise
			p.Groups, needs = max(p.Groups, len(p.Stations)+1), NewDeal
			if n := p.dealt(); n > 0 { // and while two are left for each
				p.Groups = max(1, min(p.Groups, n/2))
			}
		}
		p.Stations = append(p.Stations, Station{Drill: t.Drill, Edition: t.Edition})
		if p.Parts() == 0 { // the plan had none: they come before the game or the close
			at := slices.IndexFunc(p.Blocks, func(b Block) bool { return b.Kind == Game || b.Kind == Close })
			if at < 0 {
				at = len(p.Blocks)
			}
			p.Blocks = slices.Insert(p.Blocks, at, Block{Kind: Circuit, Title: Circuit.String()})
		}
		return needs, nil
	}
	if e.At < 0 || e.At >= len(p.Stations) {
		return Nothing, Input(e.Do, "That station is no longer in the plan.")
	}
	s := &p.Stations[e.At]
	switch e.Do {
	case "drop-station":
		if p.Groups == len(p.Stations) && p.Groups > 1 {
			p.Groups, needs = p.Groups-1, NewDeal
		}
		p.Stations = slices.Delete(p.Stations, e.At, e.At+1)
	case "drill":
		t, err := task(e.Value)
		if err != nil {
			return Nothing, err
		}
		*s = Station{Drill: t.Drill, Edition: t.Edition, Leader: s.Leader, Pinned: s.Pinned}
	case "leader": // a leader stands at one station: who stood there changes places
		for i := range p.Stations {
			if e.Value != "" && p.Stations[i].Leader == e.Value {
				p.Stations[i].Leader = s.Leader
			}
		}
		s.Leader = e.Value
	case "target":
		s.Target, err = number("target", 1, 500, "A target")
	case "double":
		s.Double = !s.Double
	case "side":
		s.Side, err = side(s.Side, e.Value)
	case "variant": // "group 2=variant" or "stage=variant"; an empty variant is the one that suits
		stage, v, ok := strings.Cut(e.Value, "=")
		if !ok {
			return Nothing, Input("variant", "Choose a variant.")
		}
		if v == "" {
			delete(s.Variant, stage)
		} else {
			s.Variant[stage] = v
		}
	case "spot": // "x y turn" or "x y turn length width" in metres; empty: laid out by itself
		if e.Value == "" {
			s.Spot = nil
			return Nothing, nil
		}
		var f [5]float64
		fields := strings.Fields(e.Value)
		if len(fields) != 5 {
			return Nothing, Input("spot", "A place is two lengths, a turn and a size.")
		}
		for i, w := range fields {
			f[i], err = strconv.ParseFloat(strings.Replace(w, ",", ".", 1), 64)
			if err != nil || math.IsNaN(f[i]) || math.Abs(f[i]) > 400 {
				return Nothing, Input("spot", "%q is not a length.", strings.ReplaceAll(w, "_", " "))
			}
		}
		sp := floor.Spot{X: math.Round(f[0]*100) / 100, Y: math.Round(f[1]*100) / 100, Turn: int(f[2]), Length: math.Round(f[3]*100) / 100, Width: math.Round(f[4]*100) / 100}
		if !soundSpot(sp) {
			return Nothing, Input("spot", "A station is 1 to 200 m long and wide, and turned by quarters.")
		}
		s.Spot = &sp
	}
	return needs, err
}

func (p *Plan) editBlock(e Edit, number numberIn) (err error) {
	if e.Do == "add-block" {
		k := Kind(e.Value)
		if k.String() == "" || k == Circuit {
			return Input("add-block", "Choose what to add.")
		}
		if len(p.Blocks) >= mostBlocks {
			return Input("add-block", "A plan has at most %d blocks.", mostBlocks)
		}
		at := e.At
		if at < 0 || at > len(p.Blocks) {
			at = len(p.Blocks)
			if at > 0 && p.Blocks[at-1].Kind == Close {
				at--
			}
		}
		b := Block{Kind: k, Title: k.String(), Minutes: k.usual()}
		if k.Partners() {
			b.Way, b.Turn = rotate.MoveOn, 45
		}
		p.Blocks = slices.Insert(p.Blocks, at, b)
		return nil
	}
	if e.At < 0 || e.At >= len(p.Blocks) {
		return Input(e.Do, "That block is no longer in the plan.")
	}
	b := &p.Blocks[e.At]
	switch e.Do {
	case "minutes":
		b.Minutes, err = number("minutes", 1, 240, "Minutes")
	case "title":
		if e.Value == "" || len(e.Value) > 120 {
			return Input("title", "A block needs a name of a few words.")
		}
		b.Title = e.Value
	case "block-side":
		b.Side, err = side(b.Side, e.Value)
	case "note":
		b.Note = e.Value
	case "task": // a drill for the block; a ladder takes it as its next step
		if b.Kind == Circuit {
			return Input("task", "The stations have their own drills.")
		}
		b.Side = nil
		if e.Value == "" {
			b.Drill, b.Edition, b.Steps = "", 0, nil
			return nil
		}
		t, err := task(e.Value)
		if err != nil {
			return err
		}
		if b.Kind == Ladder {
			b.Steps = append(b.Steps, t)
		} else {
			b.Drill, b.Edition = t.Drill, t.Edition
		}
	case "step": // "2 earlier", "2 later", "2 out", or "2 drill@1" to come after it; steps are counted from 0
		n, what, _ := strings.Cut(e.Value, " ")
		i, err := strconv.Atoi(n)
		if err != nil || i < 0 || i >= len(b.Steps) {
			return Input("step", "That step is no longer in the ladder.")
		}
		s := b.Steps[i]
		switch what {
		case "out":
			b.Steps = slices.Delete(b.Steps, i, i+1)
		case "earlier":
			b.Steps = slices.Insert(slices.Delete(b.Steps, i, i+1), max(0, i-1), s)
		case "later":
			b.Steps = slices.Insert(slices.Delete(b.Steps, i, i+1), min(len(b.Steps)-1, i+1), s)
		default:
			t, err := task(what)
			if err != nil {
				return err
			}
			b.Steps = slices.Insert(b.Steps, i+1, t)
		}
		return nil
	case "change-by":
		if b.Way = rotate.Way(e.Value); !slices.Contains(rotate.Ways, b.Way) {
			return Input("change-by", "Partners move on one, one stays, the winner stays, or they meet as seldom as can be.")
		}
		b.Scores = nil
	case "turn":
		b.Turn, err = number("turn", 15, 1800, "Seconds of a turn")
	case "team":
		b.Team, err = number("team", 2, mostTeam, "Players together")
		b.Scores = nil
	case "score": // "turn player points"; −1 takes it back
		return p.score(b, e.Value)
	case "game": // "areas a b floaters walls reserves more"
		var g rotate.Game
		if n, err := fmt.Sscan(e.Value, &g.Areas, &g.A, &g.B, &g.Floaters, &g.Walls, &g.Reserves, &g.More); err != nil || n != 7 {
			return Input("game", "Choose a game.")
		}
		b.Game = &g
	case "drop-block":
		if b.Kind == Circuit && p.Parts() == 1 { // the stations go with the block that holds them
			p.Stations, p.Rounds = nil, 0
		} else if b.Kind == Circuit { // its rounds go to the part before, or after where it is the first
			shares, to := p.Shares(p.RoundsDue()), -1
			for i := range p.Blocks {
				if p.Blocks[i].Kind == Circuit && i != e.At && (i < e.At || to < 0) {
					to = i
				}
			}
			p.Blocks[to].Rounds = shares[to] + shares[e.At]
		}
		p.Blocks = slices.Delete(p.Blocks, e.At, e.At+1)
	case "move-block": // earlier, later, or to a place counted from 0
		to := e.At + 1
		if e.Value == "earlier" {
			to = e.At - 1
		} else if n, err := strconv.Atoi(e.Value); err == nil {
			to = n
		}
		to = max(0, min(len(p.Blocks)-1, to))
		moved := *b
		p.Blocks = slices.Insert(slices.Delete(p.Blocks, e.At, e.At+1), to, moved)
	case "split-block": // stations after so many rounds, others in half
		if len(p.Blocks) >= mostBlocks {
			return Input("split-block", "A plan has at most %d blocks.", mostBlocks)
		}
		second := *b
		if len(second.Title) < 100 {
			second.Title += ", part 2"
		}
		if b.Kind == Circuit {
			n, err := number("split-block", 1, 23, "After how many rounds")
			if err != nil {
				return err
			}
			if has := p.Shares(p.RoundsDue())[e.At]; has > 0 && n >= has {
				return Input("split-block", "This part has %s; split it after fewer.", say.Count(has, "round"))
			}
			if b.Rounds > 0 {
				second.Rounds = b.Rounds - n
			}
			b.Rounds = n
		} else {
			if b.Minutes < 2 {
				return Input("split-block", "A minute cannot be split.")
			}
			second.Minutes = b.Minutes / 2
			b.Minutes -= second.Minutes
			second.Scores = nil
		}
		second.Pinned = false
		p.Blocks = slices.Insert(p.Blocks, e.At+1, second)
	default:
		return Input("", "The plan does not know that change.")
	}
	return err
}

// dealt counts the players who are in groups.
func (p Plan) dealt() (n int) {
	for _, g := range p.Deal {
		n += len(g)
	}
	return n
}

// parts counts the blocks that hold rounds of the stations.
func (p Plan) Parts() (n int) {
	for _, b := range p.Blocks {
		if b.Kind == Circuit {
			n++
		}
	}
	return n
}

// rounds is how many rounds the stations have: as the plan says, else until every group was everywhere.
func (p Plan) RoundsDue() int {
	if p.Rounds > 0 || len(p.Stations) == 0 {
		return p.Rounds
	}
	room := len(p.Stations)
	for _, s := range p.Stations {
		if s.Double {
			room++
		}
	}
	return max(len(p.Stations), (len(p.Deal)*len(p.Stations)+room-1)/room)
}

// shares are the rounds that each block holds of so many: what it says, within what is left; one that says nothing holds what those after it
// leave, and the last part the rest.
func (p Plan) Shares(rounds int) []int {
	out := make([]int, len(p.Blocks))
	parts, later := p.Parts(), 0
	for _, b := range p.Blocks {
		if b.Kind == Circuit {
			later += b.Rounds
		}
	}
	for i, b := range p.Blocks {
		if b.Kind != Circuit {
			continue
		}
		parts--
		later -= b.Rounds
		switch {
		case parts == 0:
			out[i] = rounds
		case b.Rounds > 0:
			out[i] = min(b.Rounds, rounds)
		default:
			out[i] = max(0, rounds-later)
		}
		rounds -= out[i]
	}
	return out
}

// side gives one player something else to do, as "player drill@edition", or nothing: "player -" sits out, "player" alone does as the others do.
func side(now map[string]Task, value string) (map[string]Task, error) {
	player, what, _ := strings.Cut(value, " ")
	if player == "" || len(now) >= mostMade {
		return now, Input("side", "Choose a player.")
	}
	next := maps.Clone(now)
	if next == nil {
		next = map[string]Task{}
	}
	switch what {
	case "":
		delete(next, player)
	case "-":
		next[player] = Task{}
	default:
		t, err := task(what)
		if err != nil {
			return now, err
		}
		next[player] = t
	}
	return next, nil
}

// renew puts a task's edition where its drill is somebody's side task.
func renew(sides map[string]Task, t Task) {
	for player, s := range sides {
		if s.Drill == t.Drill {
			sides[player] = t
		}
	}
}

func (p *Plan) score(b *Block, value string) error {
	var turn, points int
	var player string
	if n, err := fmt.Sscan(value, &turn, &player, &points); err != nil || n != 3 || turn < 0 || turn >= MostTurns || points < -1 || points > MostScore {
		return Input("score", "Scores are whole numbers from 0 to %d.", MostScore)
	}
	for len(b.Scores) <= turn {
		b.Scores = append(b.Scores, Made{})
	}
	b.Scores[turn].set(player, points)
	return nil
}

func task(value string) (Task, error) {
	if i := strings.LastIndexByte(value, '@'); i > 0 {
		if n, err := strconv.Atoi(value[i+1:]); err == nil && n > 0 && n <= mostEdition {
			return Task{value[:i], n}, nil
		}
	}
	return Task{}, Input("drill", "Choose a drill from the shelf.")
}
