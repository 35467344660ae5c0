package check

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// NoSkills: a routine that is run through names no skills.
type NoSkills struct {
	InBlock
	Drill string
}

func (f NoSkills) Says() string {
	return fmt.Sprintf("%s names no skills. Write them down in order on its page, and faults are counted skill by skill.", f.Drill)
}

// NoJudge: nobody is there to judge.
type NoJudge struct{ InBlock }

func (f NoJudge) Says() string { return "Nobody leads who could judge." }

func routine(c *checking, b work.Span) {
	if b.Kind != doc.Run || b.Cycle == nil {
		return
	}
	for _, d := range b.Cycle.Drills {
		if len(d.Routine) == 0 {
			c.find(Note, b.From, NoSkills{blockOf(b), d.Name})
		}
	}
	if len(b.Cycle.Judged) == 0 {
		c.find(Settle, b.From, NoJudge{blockOf(b)}, mend("Partners judge", edit.Judges{Block: b.ID, Partners: true}))
	}
}
