package draft

import (
	"slices"

	"juxtagram/core/plan"
)

// merge puts a proposal into a plan that is there. What is there stays where it
// is; what is new follows what it followed in the proposal.
func merge(s *plan.State, proposed []ProposedChapter) ([]ProposedChapter, error) {
	m := &merger{s: s}
	wanted := map[string]*ProposedPassage{}
	called := map[string]string{} // proposed passage → its id in the plan
	for i := range proposed {
		for k := range proposed[i].Passages {
			x := &proposed[i].Passages[k]
			wanted[x.ID] = x
			called[x.ID] = free(s, x.ID)
		}
	}
	for _, c := range s.InOrder() {
		to := ProposedChapter{Chapter: c.Chapter, Passages: []ProposedPassage{}}
		for _, x := range c.Passages {
			to.Passages = append(to.Passages, became(x, wanted[plain(x.ID)]))
		}
		m.out = append(m.out, to)
	}
	chapter, after := -1, -1 // what was placed last
	for _, c := range proposed {
		own := slices.IndexFunc(m.out, func(x ProposedChapter) bool { return plain(x.ID) == c.ID })
		for k, x := range c.Passages {
			if i, j, there := m.find(x.ID); there {
				chapter, after = i, j
				continue
			}
			switch {
			case k > 0 && chapter >= 0: // behind the one before it
			case own >= 0:
				chapter, after = own, len(m.out[own].Passages)-1
			default:
				chapter++
				if err := m.open(chapter, c.Chapter); err != nil {
					return nil, err
				}
				after = -1
			}
			after++
			x.ID = called[x.ID]
			x.Needs = slices.Clone(x.Needs)
			for n, need := range x.Needs {
				x.Needs[n] = called[need]
			}
			if err := m.insert(chapter, after, x); err != nil {
				return nil, err
			}
		}
	}
	return m.out, nil
}

// free is the id that a proposed passage has in a plan: its own where it is there,
// else one that nothing has, not even what was taken out.
func free(s *plan.State, id string) string {
	for s.Passages[id] != nil && s.Passage(id) == nil {
		id += again
	}
	return id
}

// became tells what a proposal makes of a passage that is there.
func became(x plan.Passage, y *ProposedPassage) ProposedPassage {
	switch {
	case x.ByHand():
		return ProposedPassage{x, Yours, nil}
	case y == nil:
		return ProposedPassage{x, Out, nil}
	case x.Target.Skim == y.Target.Skim && x.Minutes == y.Minutes:
		return ProposedPassage{x, IsThere, nil}
	}
	was := &Was{x.Target.Skim, x.Minutes}
	x.Target.Skim, x.Minutes = y.Target.Skim, y.Minutes
	x.Drafted = x.Print()
	return ProposedPassage{x, Resized, was}
}

type merger struct {
	s   *plan.State
	out []ProposedChapter
}

func (m *merger) find(id string) (chapter, passage int, ok bool) {
	for i := range m.out {
		for k := range m.out[i].Passages {
			if plain(m.out[i].Passages[k].ID) == id {
				return i, k, true
			}
		}
	}
	return 0, 0, false
}

// open puts a new chapter at a place. One that was taken out keeps its id.
func (m *merger) open(at int, c plan.Chapter) (err error) {
	for m.s.Chapters[c.ID] != nil {
		c.ID += again
	}
	before, after := "", ""
	if at > 0 {
		before = m.out[at-1].Order
	}
	for _, x := range m.out[at:] {
		if after == "" && x.Order > before {
			after = x.Order // keys of people who wrote at once may be the same
		}
	}
	if c.Order, err = plan.Between(before, after); err != nil {
		return err
	}
	m.out = slices.Insert(m.out, at, ProposedChapter{c, true, []ProposedPassage{}})
	return nil
}

// insert puts a new passage at a place of a chapter.
func (m *merger) insert(chapter, at int, x ProposedPassage) (err error) {
	c := &m.out[chapter]
	before, after := "", ""
	if at > 0 {
		before = c.Passages[at-1].Order
	}
	for _, y := range c.Passages[at:] {
		if after == "" && y.Order > before {
			after = y.Order
		}
	}
	if x.Order, err = plan.Between(before, after); err != nil {
		return err
	}
	x.Chapter = c.ID
	c.Passages = slices.Insert(c.Passages, at, x)
	return nil
}
