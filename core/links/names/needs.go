package names

import (
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// Need is a name that a symbol uses, the first place of each meaning.
type Need struct {
	Name string
	Line int
	Role lang.Role
	// Definition is what it means in this repository; File -1: nothing there.
	Definition Definition
	// Origin is where it comes from if not from here; nil: not told.
	Origin  *origin.Origin
	Through string // the module that Origin speaks of, as written
}

// Needs are the names that a symbol uses and does not make itself, in text
// order, each meaning once. Only what more than the name tells is counted as a
// definition; local names and parameters are left out.
func (x *Index) Needs(file, symbol int) ([]Need, error) {
	d, err := x.details(file)
	if err != nil || symbol < 0 || symbol >= len(d.Outline) {
		return nil, err
	}
	s := &d.Outline[symbol]
	type meaning struct {
		file, symbol int
		name         string
	}
	seen := map[meaning]bool{}
	var out []Need
	for n := range d.Uses {
		u := &d.Uses[n]
		if int(u.Line) < s.Start || int(u.Line) > s.End {
			continue
		}
		switch u.Role.Plain() {
		case lang.Define, lang.Bind, lang.Imports:
			continue
		}
		a, err := x.answer(file, d, n, true)
		if err != nil {
			return nil, err
		}
		need := Need{Name: a.Name, Line: int(u.Line), Role: u.Role, Definition: Definition{File: -1, Symbol: -1}, Origin: a.Origin, Through: a.Through}
		if len(a.Definitions) > 0 {
			first := a.Definitions[0]
			if first.Symbol < 0 {
				continue // a local name, a parameter, a module
			}
			if first.File == file {
				if t := &d.Outline[first.Symbol]; first.Symbol == symbol || t.Start >= s.Start && t.End <= s.End {
					continue // made inside of it
				}
			}
			need.Definition, need.Origin = first, nil
		}
		key := meaning{need.Definition.File, need.Definition.Symbol, ""}
		if need.Definition.File < 0 {
			key.name = a.Name
		}
		if !seen[key] {
			seen[key] = true
			out = append(out, need)
		}
	}
	return out, nil
}
