package edit

import "gruppo/internal/coach/plan/doc"

// Team sets how many players are together; the scores of before are let go.
type Team struct {
	Block string
	Size  int
}

func readTeam(w Wire) (Edit, error) {
	n, err := w.number(2, doc.MostTeam, "Players together")
	return Team{w.At, n}, err
}

func (e Team) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err == nil {
		b.Team, b.Scores = e.Size, nil
	}
	return Nothing, err
}

func (e Team) Called(p doc.Plan) string { return blockCalled(p, e.Block, "players together") }
