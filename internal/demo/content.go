package demo

import (
	_ "embed"
	"encoding/json"
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/exchange"
)

// What the demo shows is invented, and data: a pack of drills and two ladders as the program itself writes and reads
// them, and the club's people, kit, favourites, notes and circuits.
var (
	//go:embed drills.pack.json
	pack []byte
	//go:embed handball.ladder.json
	handballFile []byte
	//go:embed rope-skipping.ladder.json
	skippingFile []byte
	//go:embed club.json
	clubFile []byte
)

// content is the club as it is in club.json.
type content struct {
	People []string // full names
	Kit    []struct {
		Name     string
		Count    int
		StandsIn []string `json:"stands_in"`
	}
	Notes    []struct{ Drill, By, Says string } // after using a drill
	Stars    []string                           // favourite drills
	Circuits map[string][][]string              // class → its circuits of drills, one a week
}

func readContent() (c content, err error) {
	if err = json.Unmarshal(clubFile, &c); err != nil {
		err = fmt.Errorf("read the demo's club: %w", err)
	}
	return c, err
}

// ladder is a program of the club.
type ladder struct {
	name   string
	family coach.Family
	stages []coach.Stage
}

func readLadders() (out []ladder, err error) {
	for _, l := range []struct {
		file   []byte
		family coach.Family
	}{{handballFile, coach.BallGames}, {skippingFile, coach.Apparatus}} {
		name, stages, err := exchange.ReadLadder(l.file)
		if err != nil {
			return nil, fmt.Errorf("read a ladder of the demo: %w", err)
		}
		out = append(out, ladder{name, l.family, stages})
	}
	return out, nil
}
