package work

import "gruppo/internal/coach/plan/edit"

// Edit makes edits to the input's plan, one after the other, and deals the groups where one asks for it. The plan it
// was is not touched. Errors are of type *doc.ErrInput, or *deal.Clash where wishes about groups cannot all be kept.
func (in *Input) Edit(edits ...edit.Edit) error {
	now := *in
	for _, e := range edits {
		next, needs, err := edit.Apply(now.Plan, e)
		if err != nil {
			return err
		}
		now.Plan = next
		switch needs {
		case edit.NewDeal:
			err = now.DealOut()
		case edit.Refit:
			err = now.Redeal()
		}
		if err != nil {
			return err
		}
	}
	in.Plan = now.Plan
	return nil
}
