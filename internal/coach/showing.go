package coach

import "slices"

// Showing says which drills show a criterion, where a coach said so: criterion → drill → whether it does. Where nothing
// was said, a drill shows what has one of its skills.
type Showing map[string]map[string]bool

// Shows reports whether a criterion can be marked at a drill.
func (s Showing) Shows(c Criterion, d Drill) bool {
	if said, ok := s[c.ID][d.ID]; ok {
		return said
	}
	return slices.Contains(d.Skills, c.Skill)
}

// Say notes what was said of a criterion and a drill.
func (s Showing) Say(criterion, drill string, shows bool) {
	if s[criterion] == nil {
		s[criterion] = map[string]bool{}
	}
	s[criterion][drill] = shows
}
