package plan

import "sort"

// Kinds of targets.
const (
	File    = "file"
	Lines   = "lines"
	Folder  = "folder"
	Extract = "extract" // a symbol with all it needs; lines and column are those of its name
)

// Target is what a passage has one read, at one commit.
type Target struct {
	Kind   string `json:"kind"`
	Path   string `json:"path"`             // as the survey shows it; "" for the root folder
	Start  int    `json:"start,omitempty"`  // first line, from 1; for lines and extracts
	End    int    `json:"end,omitempty"`    // last line, included
	Column int    `json:"column,omitempty"` // of the name, in bytes from 0; for an extract only
	Skim   int    `json:"skim,omitempty"`   // of a file: how many of its lines to show; 0: all
	Commit string `json:"commit"`           // full id
}

// Passage is one thing to read.
type Passage struct {
	ID      string `json:"id"`
	Chapter string `json:"chapter"`
	Order   string `json:"order"`
	Target  Target `json:"target"`
	Title   string `json:"title"`
	Purpose string `json:"purpose"` // what to look for: paragraphs, `code` in backticks
	Minutes int    `json:"minutes"`
	Why     string `json:"why,omitempty"` // the evidence it was added for
	Removed bool   `json:"removed,omitempty"`
}

// Chapter is a section of a plan.
type Chapter struct {
	ID      string `json:"id"`
	Order   string `json:"order"`
	Title   string `json:"title"`
	Removed bool   `json:"removed,omitempty"`
}

// State is a plan as it stands after its operations.
type State struct {
	Title    string              `json:"title"`
	Purpose  string              `json:"purpose"`
	Chapters map[string]*Chapter `json:"chapters"`
	Passages map[string]*Passage `json:"passages"`
}

// New is an empty plan.
func New() *State {
	return &State{Chapters: map[string]*Chapter{}, Passages: map[string]*Passage{}}
}

// Clone copies the state; changing one leaves the other.
func (s *State) Clone() *State {
	c := &State{Title: s.Title, Purpose: s.Purpose, Chapters: make(map[string]*Chapter, len(s.Chapters)), Passages: make(map[string]*Passage, len(s.Passages))}
	for id, x := range s.Chapters {
		y := *x
		c.Chapters[id] = &y
	}
	for id, x := range s.Passages {
		y := *x
		c.Passages[id] = &y
	}
	return c
}

// InOrder returns the chapters that are there, each with its passages, in
// reading order. Equal keys are ordered by id.
func (s *State) InOrder() []ChapterInOrder {
	var out []ChapterInOrder
	at := map[string]int{}
	for _, c := range s.Chapters {
		if !c.Removed {
			out = append(out, ChapterInOrder{Chapter: *c, Passages: []Passage{}})
		}
	}
	sort.Slice(out, func(i, j int) bool { return before(out[i].Order, out[i].ID, out[j].Order, out[j].ID) })
	for i, c := range out {
		at[c.ID] = i
	}
	for _, p := range s.Passages {
		if i, ok := at[p.Chapter]; ok && !p.Removed {
			out[i].Passages = append(out[i].Passages, *p)
		}
	}
	for _, c := range out {
		sort.Slice(c.Passages, func(i, j int) bool {
			return before(c.Passages[i].Order, c.Passages[i].ID, c.Passages[j].Order, c.Passages[j].ID)
		})
	}
	return out
}

// ChapterInOrder is a chapter with its passages.
type ChapterInOrder struct {
	Chapter
	Passages []Passage `json:"passages"`
}

func before(orderA, idA, orderB, idB string) bool {
	if orderA != orderB {
		return orderA < orderB
	}
	return idA < idB
}
