package draft

import "juxtagram/core/plan"

// Taken is the plan that a proposal makes where there was none before: all of it, with
// what it was drafted for.
func (p *Proposal) Taken() *plan.State {
	s := plan.New()
	goal := p.Goal
	s.Title, s.Purpose, s.Budget, s.Goal = p.Title, p.Purpose, p.Budget, &goal
	for i := range p.Chapters {
		c := &p.Chapters[i]
		s.Chapters[c.ID] = &c.Chapter
		for k := range c.Passages {
			x := &c.Passages[k].Passage
			s.Passages[x.ID] = x
		}
	}
	return s
}
