package edit

import "gruppo/internal/coach/plan/doc"

// Redeal fits the groups to who is there, moving as few players as possible.
type Redeal struct{}

func readRedeal(Wire) (Edit, error) { return Redeal{}, nil }

func (Redeal) apply(*doc.Plan) (Needs, error) { return Refit, nil }

func (Redeal) Called(doc.Plan) string { return "everyone dealt in" }
