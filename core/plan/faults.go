package plan

import (
	"slices"

	"juxtagram/core/note"
)

// Kinds of faults.
const (
	OverBudget   = "over-budget"   // more minutes than readers have
	UsedBefore   = "used-before"   // an idea is used before the passage that introduces it
	Unintroduced = "unintroduced"  // an idea that is used is introduced nowhere
	NeededLater  = "needed-later"  // a passage is needed that comes later
	NeededGone   = "needed-gone"   // what is needed is not in the plan
	Cycle        = "cycle"         // passages that need each other, all round
	SameLines    = "same-lines"    // two passages have one read the same lines
	Generated    = "generated"     // a passage on code that nobody wrote
	NoPurpose    = "no-purpose"    // a passage that does not say what for
	PastEnd      = "past-end"      // lines that the file does not have
	NotThere     = "not-there"     // a path that is not at its commit
	NoTitle      = "no-words"      // a chapter without a title
	EmptyChapter = "empty-chapter" // a chapter without passages
)

// Fault is something that a writer should look at.
type Fault struct {
	Kind     string   `json:"kind"`
	Passages []string `json:"passages"` // the one to look at first
	Idea     string   `json:"idea,omitempty"`
	Chapter  string   `json:"chapter,omitempty"`
	Detail   string   `json:"detail,omitempty"` // a path, or a mark of generated code
	Minutes  int      `json:"minutes,omitempty"`
}

// Lore is what the repository says of what passages have one read.
type Lore interface {
	// Lines is how many lines a file has at a commit; -1: it is not there, -2: not known.
	Lines(commit, path string) int
	// Generated is the mark by which a file says that nobody wrote it; "": none.
	Generated(commit, path string) string
}

// Problems finds what is wrong with a plan, in the order of its passages.
func (s *State) Faults(lore Lore) []Fault {
	f := &finder{s: s, lore: lore, at: map[string]int{}}
	for _, c := range s.InOrder() {
		switch {
		case len(c.Passages) == 0:
			f.out = append(f.out, Fault{Kind: EmptyChapter, Chapter: c.ID})
		case c.Title == "":
			f.out = append(f.out, Fault{Kind: NoTitle, Chapter: c.ID})
		}
		for i := range c.Passages {
			f.at[c.Passages[i].ID] = len(f.list)
			f.list = append(f.list, &c.Passages[i])
		}
	}
	f.budget()
	f.needs()
	f.cycles()
	f.ideas()
	f.sameLines()
	for _, p := range f.list {
		f.alone(p)
	}
	slices.SortStableFunc(f.out, func(a, b Fault) int { return f.place(&a) - f.place(&b) })
	return f.out
}

type finder struct {
	s    *State
	lore Lore
	list []*Passage     // in reading order
	at   map[string]int // passage → its place
	out  []Fault
}

func (f *finder) place(p *Fault) int {
	if len(p.Passages) == 0 {
		return -1
	}
	return f.at[p.Passages[0]]
}

func (f *finder) budget() {
	sum := 0
	for _, p := range f.list {
		if !p.Optional {
			sum += p.Minutes
		}
	}
	if f.s.Budget > 0 && sum > f.s.Budget {
		f.out = append(f.out, Fault{Kind: OverBudget, Minutes: sum - f.s.Budget})
	}
}

// introducedBy is the passage that must come before an idea is used.
func (f *finder) introducedBy(idea string) (passage string, there bool) {
	i := f.s.Ideas[idea]
	if i == nil || i.Removed {
		return "", false
	}
	if _, ok := f.at[i.By]; !ok {
		return "", true
	}
	return i.By, true
}

func (f *finder) needs() {
	for n, p := range f.list {
		for _, need := range p.Needs {
			if at, ok := f.at[need]; ok {
				if at > n {
					f.out = append(f.out, Fault{Kind: NeededLater, Passages: []string{p.ID, need}})
				}
			} else if _, ok := f.introducedBy(need); !ok {
				f.out = append(f.out, Fault{Kind: NeededGone, Passages: []string{p.ID}})
			}
		}
	}
}

// uses are the ideas that a passage needs or names in its text, each once.
func uses(p *Passage, ideas map[string]*Idea) []string {
	var out []string
	for _, id := range append(slices.Clone(p.Needs), note.Read(p.Text).Ideas...) {
		if ideas[id] != nil && !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	return out
}

func (f *finder) ideas() {
	for n, p := range f.list {
		for _, id := range uses(p, f.s.Ideas) {
			by, there := f.introducedBy(id)
			switch {
			case !there || by == p.ID:
			case by == "":
				f.out = append(f.out, Fault{Kind: Unintroduced, Passages: []string{p.ID}, Idea: id})
			case f.at[by] > n:
				f.out = append(f.out, Fault{Kind: UsedBefore, Passages: []string{p.ID, by}, Idea: id})
			}
		}
	}
}

// cycles finds passages that need each other by Tarjan's strongly connected
// components; a need of an idea is one of the passage that introduces it.
func (f *finder) cycles() {
	n := len(f.list)
	index, low, on := make([]int, n), make([]int, n), make([]bool, n)
	var stack []int
	next := 0
	var visit func(v int)
	visit = func(v int) {
		next++
		index[v], low[v], on[v] = next, next, true
		stack = append(stack, v)
		for _, need := range f.list[v].Needs {
			if by, _ := f.introducedBy(need); by != "" {
				need = by
			}
			w, ok := f.at[need]
			switch {
			case !ok || w == v:
			case index[w] == 0:
				visit(w)
				low[v] = min(low[v], low[w])
			case on[w]:
				low[v] = min(low[v], index[w])
			}
		}
		if low[v] != index[v] {
			return
		}
		at := slices.Index(stack, v)
		round := slices.Clone(stack[at:])
		stack = stack[:at]
		for _, w := range round {
			on[w] = false
		}
		if len(round) > 1 {
			slices.Sort(round)
			p := Fault{Kind: Cycle}
			for _, w := range round {
				p.Passages = append(p.Passages, f.list[w].ID)
			}
			f.out = append(f.out, p)
		}
	}
	for v := range n {
		if index[v] == 0 {
			visit(v)
		}
	}
}

// sameLines finds passages whose lines lie in those of an earlier one, or meet
// them.
func (f *finder) sameLines() {
	type read struct {
		stretch Stretch
		by      string
	}
	before := map[string][]read{}
	for _, p := range f.list {
		if p.Target.Kind == Try || p.Target.Kind == Way || p.Target.Skim > 0 {
			continue // these come back to lines on purpose
		}
		for _, x := range p.Target.Stretches() {
			key := x.Commit + " " + x.Path
			for _, y := range before[key] {
				if y.by != p.ID && (x.Start == 0 || y.stretch.Start == 0 || x.Start <= y.stretch.End && y.stretch.Start <= x.End) {
					f.out = append(f.out, Fault{Kind: SameLines, Passages: []string{p.ID, y.by}, Detail: x.Path})
					break
				}
			}
			before[key] = append(before[key], read{x, p.ID})
		}
	}
}

// alone finds what is wrong with a passage by itself.
func (f *finder) alone(p *Passage) {
	if p.Purpose == "" {
		f.out = append(f.out, Fault{Kind: NoPurpose, Passages: []string{p.ID}})
	}
	marked := false
	for _, x := range p.Target.Stretches() {
		lines := f.lore.Lines(x.Commit, x.Path)
		switch {
		case lines == -1:
			f.out = append(f.out, Fault{Kind: NotThere, Passages: []string{p.ID}, Detail: x.Path})
		case lines >= 0 && x.End > lines:
			f.out = append(f.out, Fault{Kind: PastEnd, Passages: []string{p.ID}, Detail: x.Path})
		}
		if mark := f.lore.Generated(x.Commit, x.Path); mark != "" && !marked {
			marked = true
			f.out = append(f.out, Fault{Kind: Generated, Passages: []string{p.ID}, Detail: mark})
		}
	}
}
