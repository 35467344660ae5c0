package work

import (
	"fmt"
	"time"

	"gruppo/internal/coach/rotate"
)

// LeaderRow is where a leader is, minute by minute.
type LeaderRow struct {
	Leader Leader
	Cells  []LeaderCell
	Busy   time.Duration
}

// LeaderCell is a stretch of a leader's session.
type LeaderCell struct {
	From, To time.Duration
	Where    string // empty: free
}

// LeaderIn is who leads a station in a round, counted from 0: the one who stays there, or who comes with the group.
func (pic *Picture) LeaderIn(s StationAt, round int) *Leader {
	c := pic.Circuits[s.Circuit]
	if !c.Move {
		return s.Leader
	}
	if g := s.Visits[round]; g != rotate.Rest {
		return c.With(pic.Groups[g])
	}
	return nil
}

func (pic *Picture) leaderRows(in Input) {
	for _, l := range in.Leaders {
		row := LeaderRow{Leader: l}
		for _, m := range pic.Moments {
			c := LeaderCell{From: max(m.From, l.From), To: m.To}
			if l.Until > 0 {
				c.To = min(c.To, l.Until)
			}
			if c.To <= c.From {
				continue
			}
			switch m.Kind {
			case "work":
				for _, s := range pic.Stations {
					if at := pic.LeaderIn(s, m.Round-1); at != nil && at.ID == l.ID &&
						s.Visits[m.Round-1] != rotate.Rest {
						c.Where = fmt.Sprintf("%d %s", s.Index+1, s.Drill.Name)
					}
				}
			case "block":
				c.Where = m.Label
			case "change", "brief":
				c.Where = m.Label
			}
			if c.Where != "" {
				row.Busy += c.To - c.From
			}
			row.Cells = append(row.Cells, c)
		}
		pic.Leaders = append(pic.Leaders, row)
	}
}

// Always is the moment of what holds all through a session.
const Always = time.Duration(-1)

// Begin is when the first round does.
func (pic *Picture) Begin() time.Duration {
	if len(pic.Rounds) == 0 {
		return Always
	}
	return pic.Rounds[0].From
}

// Covers reports whether the leader is there for all rounds.
func (pic *Picture) Covers(l Leader) bool {
	return len(pic.Rounds) == 0 || l.Covers(pic.Rounds[0].From, pic.Rounds[len(pic.Rounds)-1].To)
}
