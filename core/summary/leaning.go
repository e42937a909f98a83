package summary

import (
	"sort"

	"juxtagram/core/effects"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// Leaning is a file that leans on another, with the line of its import.
type Leaning struct {
	File int
	Line int
}

// Dependents are the files that lean on a file, the weightiest first. Where an
// import brings a whole package, only those count that name something the file
// makes.
func (w *Whole) Dependents(file int) ([]Leaning, error) {
	uses, err := w.user(file)
	if err != nil {
		return nil, err
	}
	var out []Leaning
	for _, from := range w.Graph.Dependents(file) {
		if uses == nil || uses(int(from)) {
			out = append(out, Leaning{int(from), w.lineOf(int(from), file)})
		}
	}
	w.byWeight(out)
	return out, nil
}

// Dependencies are the files that a file leans on, the weightiest first.
func (w *Whole) Dependencies(file int) ([]Leaning, error) {
	var out []Leaning
	for _, to := range w.Graph.Dependencies(file) {
		uses, err := w.user(int(to))
		if err != nil {
			return nil, err
		}
		if uses == nil || uses(file) {
			out = append(out, Leaning{int(to), w.lineOf(file, int(to))})
		}
	}
	w.byWeight(out)
	return out, nil
}

func (w *Whole) byWeight(list []Leaning) {
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i].File, list[j].File
		if ta, tb := w.Files[a].Role == "test", w.Files[b].Role == "test"; ta != tb {
			return tb
		}
		if w.Rank[a] != w.Rank[b] {
			return w.Rank[a] > w.Rank[b]
		}
		return a < b
	})
}

// lineOf is the line of the import by which one file leans on another.
func (w *Whole) lineOf(from, to int) int {
	for n := range w.Files[from].Imports {
		if o := w.Links.Origin(from, n); o != nil {
			for _, f := range o.Files {
				if int(f) == to {
					return w.Files[from].Imports[n].Line
				}
			}
		}
	}
	return 0
}

// user tells which files name something that a file makes; nil: all that
// import it do, since they import the file itself.
func (w *Whole) user(file int) (func(from int) bool, error) {
	switch w.Files[file].Language {
	case "Go", "C#", "Kotlin", "Scala":
	default:
		return nil, nil
	}
	outline, err := w.Names.Outline(file)
	if err != nil {
		return nil, err
	}
	// the names of a file's top; those of methods are too common to tell
	var hashes, methods []uint64
	for i := range outline {
		if d := &outline[i]; d.Visibility == lang.Public && d.Kind != lang.Field && d.Kind != lang.Property {
			if d.Kind == lang.Method {
				methods = append(methods, facts.NameHash(d.Name))
				continue
			}
			hashes = append(hashes, facts.NameHash(d.Name))
		}
	}
	if len(hashes) == 0 {
		hashes = methods
	}
	return func(from int) bool {
		for _, h := range hashes {
			if t, ok := facts.FindTerm(w.Files[from].Terms, h); ok && (t.Roles&facts.Owned != 0 || w.Files[from].Language != "Go") {
				return true
			}
		}
		return false
	}, nil
}

// Tests are the tests of a file that name something it makes, or are named for
// it.
func (w *Whole) Tests(file int) ([]int, error) {
	uses, err := w.user(file)
	if err != nil || uses == nil {
		return w.testsOf[file], err
	}
	var out []int
	for _, t := range w.testsOf[file] {
		if testedStem(w.Files[t].Path) == stem(w.Files[file].Path) || uses(t) {
			out = append(out, t)
		}
	}
	return out, nil
}

// Origins are the origins of a file's imports, in their order.
func (w *Whole) Origins(file int) []*origin.Origin {
	out := make([]*origin.Origin, len(w.Files[file].Imports))
	for n := range out {
		out[n] = w.Links.Origin(file, n)
	}
	return out
}

// EffectsOf are the effects of a file, in the order of its lines.
func (w *Whole) EffectsOf(file int) ([]effects.Effect, error) {
	m, err := w.source.Matter(file)
	if err != nil || m == nil {
		return nil, err
	}
	return w.Effects.Of(file, m), nil
}
