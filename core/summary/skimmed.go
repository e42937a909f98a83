package summary

import (
	"sort"

	"juxtagram/core/facts"
	"juxtagram/core/role"
	"juxtagram/core/skim"
)

// SkimInput is what the survey knows for a skim of a file: with it, how rare
// its words are, who names its symbols, where control comes in. Tests and
// samples name whatever they show, and are not asked.
func (w *Whole) SkimInput(file int, content string, d *facts.Details) *skim.Input {
	f := &w.Files[file]
	in := &skim.Input{Content: content, Details: d, Rare: w.rare.Rare}
	for _, t := range f.Tagged {
		in.Tagged = append(in.Tagged, t.Line)
	}
	for _, s := range f.Starts {
		if s.Line > 0 {
			in.Starts = append(in.Starts, s.Line)
		}
	}
	sort.Ints(in.Starts)
	if d != nil {
		in.Reach = w.Names.Reach(file, d.Outline, func(other int) bool { r := w.Files[other].Role; return r != role.Test && r != role.Sample })
	}
	return in
}

// Rare is how much a word tells among the names of this repository, 0..1; see
// skim.Statistics.
func (w *Whole) Rare(word string) float64 { return w.rare.Rare(word) }
