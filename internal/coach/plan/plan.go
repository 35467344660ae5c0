// Package plan works a session's plan out: when everything happens, where every group is, what each player gets out
// of it, and what is wrong with it.
package plan

import (
	"fmt"
	"slices"
	"strconv"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
)

// Kind of a block.
type Kind string

const (
	Together Kind = "together"
	Look     Kind = "look"
	OneKey   Kind = "key"
	Circuit  Kind = "stations"
	Game     Kind = "game"
	Break    Kind = "break"
	Close    Kind = "close"
)

// Kinds lists the blocks a coach can add, in the order of a session.
var Kinds = []Kind{Together, Look, OneKey, Circuit, Game, Break, Close}

// String is the block's plain name.
func (k Kind) String() string {
	return map[Kind]string{Together: "Warm-up", Look: "First look", OneKey: "One key", Circuit: "Stations", Game: "Game", Break: "Drink break", Close: "Close"}[k]
}

// active reports whether the players move in a block of this kind; explaining, drinking and closing are neither work nor waiting.
func (k Kind) active() bool { return k == Together || k == Look || k == Game }

// Plan is what is kept of a session's plan: one JSON document. Everything else is worked out from it.
type Plan struct {
	Way      deal.Way   `json:"way"`
	Seed     uint64     `json:"seed"`
	Groups   int        `json:"groups"`
	Work     int        `json:"work"`   // seconds of a round
	Change   int        `json:"change"` // seconds between rounds; 0: worked out from the walk
	Brief    int        `json:"brief"`  // seconds of explanation before the first round
	Rounds   int        `json:"rounds"` // 0: until everyone was everywhere
	Key      string     `json:"key"`    // the one coaching point of the day
	Blocks   []Block    `json:"blocks"`
	Stations []Station  `json:"stations"`
	Deal     [][]string `json:"deal"` // player ids, a list for each group
}

// Block is a stretch of the session. The minutes of the stations block follow from its rounds.
type Block struct {
	Kind    Kind   `json:"kind"`
	Title   string `json:"title"`
	Minutes int    `json:"minutes"`
	Note    string `json:"note,omitempty"`
}

// Station is a drill, in the edition it was planned with, and who stands there.
type Station struct {
	Drill   string `json:"drill"`
	Edition int    `json:"edition"`
	Leader  string `json:"leader"`           // member id; empty: runs itself
	Target  int    `json:"target,omitempty"` // instead of the drill's own number
}

// Most stations and groups a plan can have: there are eight group shapes.
const Most = 8

// Start is the plan a session begins with, to fill the booked time: a warm-up, stations, a game and a close.
func Start(booked time.Duration) Plan {
	m := int(booked.Minutes())
	p := Plan{Way: deal.Near, Groups: 3, Work: 6 * 60, Brief: 120, Seed: 0}
	if m < 60 {
		p.Work = 4 * 60
		p.Blocks = []Block{{Kind: Together, Title: "Warm-up", Minutes: 8}, {Kind: Circuit, Title: "Stations"}, {Kind: Close, Title: "Close", Minutes: 4}}
		return p
	}
	p.Blocks = []Block{{Kind: Together, Title: "Warm-up", Minutes: 10}, {Kind: OneKey, Title: "One key", Minutes: 5}, {Kind: Circuit, Title: "Stations"},
		{Kind: Game, Title: "Game", Minutes: max(10, (m-60)/2+10)}, {Kind: Close, Title: "Close", Minutes: 5}}
	return p
}

// Edit is one change to a plan, as a button or a field sends it.
type Edit struct {
	Do    string // work, change, brief, rounds, groups, way, deal, key, add-station, drop-station, drill, leader, target, minutes, title, note, add-block, drop-block, move-block
	At    int    // which station or block, counted from 0
	Value string
}

// ErrInput is a clear sentence for the place where something was typed.
type ErrInput struct{ Field, Says string }

func (e *ErrInput) Error() string { return e.Says }

func input(field, format string, args ...any) error {
	return &ErrInput{Field: field, Says: fmt.Sprintf(format, args...)}
}

// Apply returns the plan with the edit made. A new deal is needed when it returns redeal: the caller deals and stores it.
// The drill's edition comes with the edit as "id@edition".
func (p Plan) Apply(e Edit) (next Plan, redeal bool, err error) {
	p.Blocks, p.Stations, p.Deal = slices.Clone(p.Blocks), slices.Clone(p.Stations), slices.Clone(p.Deal)
	number := func(field string, low, high int, what string) (int, error) {
		n, err := strconv.Atoi(e.Value)
		if err != nil || n < low || n > high {
			return 0, input(field, "%s from %d to %d, please.", what, low, high)
		}
		return n, nil
	}
	inRange := func(n int, what string) error {
		if e.At < 0 || e.At >= n {
			return input(e.Do, "That %s is no longer in the plan.", what)
		}
		return nil
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
		redeal = err == nil
	case "way":
		if p.Way = deal.Way(e.Value); p.Way != deal.Near && p.Way != deal.Mixed {
			return p, false, input("way", "Groups are dealt near in level or mixed.")
		}
		redeal = true
	case "deal":
		p.Seed++
		redeal = true
	case "redeal":
		redeal = true
	case "key":
		p.Key = e.Value
	case "add-station":
		if len(p.Stations) >= Most {
			return p, false, input("add-station", "A plan has at most %d stations.", Most)
		}
		s, err := station(e.Value)
		if err != nil {
			return p, false, err
		}
		if p.Groups == len(p.Stations) || len(p.Stations) == 0 { // one group a station, until the coach says otherwise
			p.Groups, redeal = max(p.Groups, len(p.Stations)+1), true
		}
		p.Stations = append(p.Stations, s)
	case "drop-station":
		if err := inRange(len(p.Stations), "station"); err != nil {
			return p, false, err
		}
		if p.Groups == len(p.Stations) && p.Groups > 1 {
			p.Groups, redeal = p.Groups-1, true
		}
		p.Stations = slices.Delete(p.Stations, e.At, e.At+1)
	case "drill":
		if err := inRange(len(p.Stations), "station"); err != nil {
			return p, false, err
		}
		s, err := station(e.Value)
		if err != nil {
			return p, false, err
		}
		s.Leader = p.Stations[e.At].Leader
		p.Stations[e.At] = s
	case "leader":
		if err := inRange(len(p.Stations), "station"); err != nil {
			return p, false, err
		}
		for i := range p.Stations { // a leader stands at one station
			if e.Value != "" && p.Stations[i].Leader == e.Value {
				p.Stations[i].Leader = p.Stations[e.At].Leader
			}
		}
		p.Stations[e.At].Leader = e.Value
	case "target":
		if err := inRange(len(p.Stations), "station"); err != nil {
			return p, false, err
		}
		p.Stations[e.At].Target, err = number("target", 1, 500, "A target")
	case "minutes", "title", "note", "drop-block", "move-block":
		if err := inRange(len(p.Blocks), "block"); err != nil {
			return p, false, err
		}
		b := &p.Blocks[e.At]
		switch e.Do {
		case "minutes":
			b.Minutes, err = number("minutes", 1, 240, "Minutes")
		case "title":
			if e.Value == "" {
				return p, false, input("title", "A block needs a name.")
			}
			b.Title = e.Value
		case "note":
			b.Note = e.Value
		case "drop-block":
			if b.Kind == Circuit {
				return p, false, input("drop-block", "The stations are the plan's middle; take the stations out instead.")
			}
			p.Blocks = slices.Delete(p.Blocks, e.At, e.At+1)
		case "move-block":
			to := e.At + 1
			if e.Value == "earlier" {
				to = e.At - 1
			}
			if to >= 0 && to < len(p.Blocks) {
				p.Blocks[e.At], p.Blocks[to] = p.Blocks[to], p.Blocks[e.At]
			}
		}
	case "add-block":
		k := Kind(e.Value)
		if k.String() == "" || k == Circuit {
			return p, false, input("add-block", "Choose what to add.")
		}
		at := len(p.Blocks)
		if at > 0 && p.Blocks[at-1].Kind == Close {
			at--
		}
		p.Blocks = slices.Insert(p.Blocks, at, Block{Kind: k, Title: k.String(), Minutes: map[Kind]int{Break: 3, Game: 15}[k] + map[Kind]int{Together: 10, Look: 8, OneKey: 5, Close: 5}[k]})
	default:
		return p, false, input("", "The plan does not know that change.")
	}
	return p, redeal, err
}

func station(value string) (Station, error) {
	for i := len(value) - 1; i > 0; i-- {
		if value[i] == '@' {
			if n, err := strconv.Atoi(value[i+1:]); err == nil && n > 0 {
				return Station{Drill: value[:i], Edition: n}, nil
			}
			break
		}
	}
	return Station{}, input("drill", "Choose a drill from the shelf.")
}

// DealOut deals the players by the plan's way and seed and keeps the result in the plan.
func (p *Plan) DealOut(players []coach.Player) error {
	groups, err := deal.Groups(players, deal.Ask{Groups: p.Groups, Way: p.Way, Seed: p.Seed})
	if err != nil {
		return err
	}
	p.Deal = make([][]string, len(groups))
	for g, members := range groups {
		p.Deal[g] = []string{}
		for _, i := range members {
			p.Deal[g] = append(p.Deal[g], players[i].ID)
		}
	}
	return nil
}

// Shape is how a group is told from the others: a shape and a colour, never colour alone.
type Shape struct{ Key, Name, Colour string }

// Shapes in the order groups take them.
var Shapes = []Shape{
	{"circle", "Circles", "#0072b2"}, {"triangle", "Triangles", "#d55e00"}, {"square", "Squares", "#00795a"}, {"diamond", "Diamonds", "#8a3b8f"},
	{"pentagon", "Pentagons", "#8a6d00"}, {"star", "Stars", "#b0265c"}, {"hexagon", "Hexagons", "#3b3f8f"}, {"cross", "Crosses", "#4a4a4a"},
}
