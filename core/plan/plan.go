package plan

import (
	"maps"
	"slices"
	"strings"
)

// Passage is one thing to read or to do.
type Passage struct {
	ID        string     `json:"id"`
	Chapter   string     `json:"chapter"`
	Order     string     `json:"order"`
	Target    Target     `json:"target"`
	Title     string     `json:"title"`
	Purpose   string     `json:"purpose"`             // what a reader will know afterwards
	Text      string     `json:"text,omitempty"`      // Markdown
	Minutes   int        `json:"minutes"`             // to read it
	Needs     []string   `json:"needs,omitempty"`     // passages and ideas to know before, by id
	Caution   string     `json:"caution,omitempty"`   // not to be copied, not to be read on
	Optional  bool       `json:"optional,omitempty"`  // may be left out
	Questions []Question `json:"questions,omitempty"` // to check oneself
	Why       string     `json:"why,omitempty"`       // the evidence it was added for
	Drafted   string     `json:"drafted,omitempty"`   // its Print when it was drafted; "": a person made it, or keeps it
	Removed   bool       `json:"removed,omitempty"`
}

// Question is one to check oneself by.
type Question struct {
	Ask    string `json:"ask"`
	Answer string `json:"answer,omitempty"`
}

// Chapter is a section of a plan.
type Chapter struct {
	ID      string `json:"id"`
	Order   string `json:"order"`
	Title   string `json:"title"`
	Intent  string `json:"intent,omitempty"` // what it is for
	Removed bool   `json:"removed,omitempty"`
}

// Idea is a concept or a word of the repository with a short explanation.
type Idea struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Text    string `json:"text,omitempty"` // Markdown
	By      string `json:"by,omitempty"`   // the passage that introduces it
	Removed bool   `json:"removed,omitempty"`
}

// State is a plan as it stands after its operations. What the maps hold is
// replaced, never changed: states that were cloned share it.
type State struct {
	Title    string              `json:"title"`
	Purpose  string              `json:"purpose"`
	Budget   int                 `json:"budget,omitempty"` // minutes that readers have; 0: no limit
	Goal     *Goal               `json:"goal,omitempty"`   // what it was drafted for; nil: it was not
	Chapters map[string]*Chapter `json:"chapters"`
	Passages map[string]*Passage `json:"passages"`
	Ideas    map[string]*Idea    `json:"ideas,omitempty"`
	Aside    map[string]string   `json:"aside,omitempty"` // what the plan leaves out on purpose, by the key of its Thing → why
}

// New is an empty plan.
func New() *State {
	return &State{Chapters: map[string]*Chapter{}, Passages: map[string]*Passage{}, Ideas: map[string]*Idea{}}
}

// Clone copies the state; changing one leaves the other.
func (s *State) Clone() *State {
	c := *s
	c.Chapters, c.Passages, c.Ideas, c.Aside = maps.Clone(s.Chapters), maps.Clone(s.Passages), maps.Clone(s.Ideas), maps.Clone(s.Aside)
	if c.Ideas == nil {
		c.Ideas = map[string]*Idea{}
	}
	return &c
}

// There copies the state without what was removed.
func (s *State) There() *State {
	c := s.Clone()
	maps.DeleteFunc(c.Chapters, func(_ string, x *Chapter) bool { return x.Removed })
	maps.DeleteFunc(c.Passages, func(id string, _ *Passage) bool { return s.Passage(id) == nil })
	maps.DeleteFunc(c.Ideas, func(_ string, x *Idea) bool { return x.Removed })
	return c
}

// ChapterInOrder is a chapter with its passages.
type ChapterInOrder struct {
	Chapter
	Passages []Passage `json:"passages"`
}

// InOrder returns the chapters that are there, each with its passages, in
// reading order. Equal keys are ordered by id.
func (s *State) InOrder() []ChapterInOrder {
	out := []ChapterInOrder{}
	at := map[string]int{}
	for _, c := range s.Chapters {
		if !c.Removed {
			out = append(out, ChapterInOrder{Chapter: *c, Passages: []Passage{}})
		}
	}
	slices.SortFunc(out, func(a, b ChapterInOrder) int { return byOrder(a.Order, a.ID, b.Order, b.ID) })
	for i := range out {
		at[out[i].ID] = i
	}
	for _, p := range s.Passages {
		if i, ok := at[p.Chapter]; ok && !p.Removed {
			out[i].Passages = append(out[i].Passages, *p)
		}
	}
	for i := range out {
		slices.SortFunc(out[i].Passages, func(a, b Passage) int { return byOrder(a.Order, a.ID, b.Order, b.ID) })
	}
	return out
}

// IdeasInOrder returns the ideas that are there, by name.
func (s *State) IdeasInOrder() []Idea {
	out := []Idea{}
	for _, i := range s.Ideas {
		if !i.Removed {
			out = append(out, *i)
		}
	}
	slices.SortFunc(out, func(a, b Idea) int {
		return byOrder(strings.ToLower(a.Name), a.ID, strings.ToLower(b.Name), b.ID)
	})
	return out
}

// Passage finds a passage that is there, and whose chapter is.
func (s *State) Passage(id string) *Passage {
	p := s.Passages[id]
	if p == nil || p.Removed {
		return nil
	}
	if c := s.Chapters[p.Chapter]; c == nil || c.Removed {
		return nil
	}
	return p
}

func byOrder(orderA, idA, orderB, idB string) int {
	if c := strings.Compare(orderA, orderB); c != 0 {
		return c
	}
	return strings.Compare(idA, idB)
}
