package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
)

func (pic *checking) checkFloor(in work.Input) {
	var sizes []floor.Size
	var spots []floor.Spot
	for _, s := range pic.Stations {
		sizes, spots = append(sizes, work.SizeOf(s.Drill)), append(spots, s.Spot)
	}
	free := mend("Lay them out again", "spot", 0, "")
	free.Edits = nil
	for i, s := range pic.Stations {
		if s.Station.Spot != nil {
			free.Edits = append(free.Edits, doc.Edit{Do: "spot", At: i})
		}
	}
	laid := func() []Mend {
		if len(free.Edits) == 0 {
			return nil
		}
		return []Mend{free}
	}
	for _, t := range floor.Check(in.Floor, spots, sizes) {
		s := pic.Stations[t.Station]
		where := fmt.Sprintf("Station %d", s.Index+1)
		key := t.What + " " + station(pic.Picture, t.Station)
		if t.Other >= 0 {
			key += " " + station(pic.Picture, t.Other)
		}
		switch t.What {
		case "off":
			leaves := s.Drill.Name + " leaves the floor"
			if in.Floor.Use.Length > 0 {
				leaves += " you have booked"
			}
			pic.find(Settle, key, where, work.Always, leaves+".", laid()...)
		case "blocked":
			pic.find(Stop, key, where, work.Always, fmt.Sprintf("%s stands on %s.", s.Drill.Name, t.Where), laid()...)
		case "overlap":
			pic.find(Settle, key, where, work.Always, fmt.Sprintf("%s and %s are nearer than the %s they need clear.", s.Drill.Name, pic.Stations[t.Other].Drill.Name, in.Units.Long(max(s.Drill.Clearance, pic.Stations[t.Other].Drill.Clearance))), laid()...)
		case "fire":
			o := pic.Stations[t.Other]
			turn := Mend{fmt.Sprintf("Turn station %d", o.Index+1), []doc.Edit{{Do: "spot", At: o.Index, Value: spotValue(turned(o.Spot))}}}
			pic.find(Stop, key, where, work.Always, fmt.Sprintf("%s stands where what is thrown or struck at station %d, %s, flies on. Nobody may be in the line of fire.", s.Drill.Name, o.Index+1, o.Drill.Name), append(laid(), turn)...)
		}
	}
	pic.checkEdges(in, spots, sizes)
	for i, s := range pic.Stations {
		if !s.Fits && s.Station.Spot == nil && (s.Spot.Length < min(sizes[i].Length, sizes[i].Width)-0.1 || s.Spot.Width < min(sizes[i].Length, sizes[i].Width)-0.1 || s.Spot.Length*s.Spot.Width < sizes[i].Length*sizes[i].Width-0.1) {
			pic.find(Settle, "small "+station(pic.Picture, i), fmt.Sprintf("Station %d", i+1), work.Always, fmt.Sprintf("%s asks for %s and %s clear; there is no such place left on the floor.", s.Drill.Name, in.Units.Area(s.Drill.Length, s.Drill.Width), in.Units.Long(s.Drill.Clearance)))
		}
	}
}

// checkEdges looks at what lies round a station: the clearance it asks for and where its balls fly on.
func (pic *checking) checkEdges(in work.Input, spots []floor.Spot, sizes []floor.Size) {
	better := func(i int, at floor.Spot) bool { // than it is now: no trouble of its own there
		moved := slices.Clone(spots)
		moved[i] = at
		own := func(t floor.Trouble) bool { return t.Station == i || t.Other == i }
		return !slices.ContainsFunc(floor.Check(in.Floor, moved, sizes), own) && !slices.ContainsFunc(floor.Edges(in.Floor, moved, sizes), own)
	}
	edge := "the floor"
	if in.Floor.Use.Length > 0 {
		edge = "the zone you have booked"
	}
	said := map[int]bool{} // one word for what goes beyond the edge
	for _, t := range floor.Edges(in.Floor, spots, sizes) {
		s := pic.Stations[t.Station]
		if t.Where == "" && said[s.Index] {
			continue
		}
		var mends []Mend
		if at, ok := in.Floor.Into(s.Spot, s.Drill.Clearance); ok && at != s.Spot && better(s.Index, at) {
			mends = append(mends, mend("Move it in", "spot", s.Index, spotValue(at)))
		}
		if at := turned(s.Spot); s.Drill.Fire > 0 && better(s.Index, at) {
			mends = append(mends, mend("Turn it round", "spot", s.Index, spotValue(at)))
		}
		flies := s.Drill.Fire > 0 && (t.What == "flies" || t.Where == "" && !s.Fire().Within(in.Floor.Inside()))
		beyond, weight := "beyond "+edge, Note
		if t.Where != "" {
			beyond, weight = "over "+t.Where, Settle
		} else if said[s.Index] = true; flies && in.Floor.Use.Length > 0 {
			weight = Settle // others may be there
		}
		says := fmt.Sprintf("%s asks for %s m clear all round, which goes %s.", s.Drill.Name, coach.Figure(s.Drill.Clearance), beyond)
		if flies {
			says = fmt.Sprintf("What is thrown or struck at %s flies on %s. See that a wall or a net stops it and nobody is there.", s.Drill.Name, beyond)
		}
		pic.find(weight, t.What+" "+t.Where+" "+station(pic.Picture, s.Index), fmt.Sprintf("Station %d", s.Index+1), work.Always, says, mends...)
	}
}

// turned is the spot with its direction of play the other way about.
func turned(s floor.Spot) floor.Spot {
	s.Turn = (s.Turn + 180) % 360
	return s
}

func spotValue(s floor.Spot) string {
	return fmt.Sprintf("%g %g %d %g %g", s.X, s.Y, s.Turn, s.Length, s.Width)
}
