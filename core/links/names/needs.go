package names

import (
	"juxtagram/core/facts"
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

// maxMeant is how many definitions one name is taken to mean: a declaration and
// its body, overloads.
const maxMeant = 4

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
	made := map[string]bool{} // names that the symbol itself makes
	for n := range d.Uses {
		if u := &d.Uses[n]; int(u.Line) >= s.Start && int(u.Line) <= s.End && (u.Role.Plain() == lang.Bind || u.Role.Plain() == lang.Define) {
			made[d.Words[u.Word]] = true
		}
	}
	var out []Need
	add := func(n Need) {
		key := meaning{n.Definition.File, n.Definition.Symbol, ""}
		if n.Definition.File < 0 {
			key.name = n.Name
		}
		if !seen[key] {
			seen[key] = true
			out = append(out, n)
		}
	}
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
		need := Need{Name: a.Name, Line: int(u.Line), Role: u.Role, Definition: Definition{File: -1, Symbol: -1}}
		if len(a.Definitions) == 0 {
			if need.Origin, need.Through = a.Origin, a.Through; a.Origin != nil || !made[a.Name] {
				add(need)
			}
			continue
		}
		for _, def := range meant(a.Definitions) {
			if def.Symbol < 0 {
				continue // a local name, a parameter, a module
			}
			if t := x.outlineOf(d, file, def); t != nil && (def.Symbol == symbol || t.Start >= s.Start && t.End <= s.End) {
				continue // made inside of it
			}
			need.Definition = def
			add(need)
		}
	}
	return out, nil
}

// outlineOf is the symbol that a definition names, if it stands in the file.
func (x *Index) outlineOf(d *facts.Details, file int, def Definition) *lang.Symbol {
	if def.File != file {
		return nil
	}
	return &d.Outline[def.Symbol]
}

// meant are the definitions of an answer that are as sure as the first; where
// that is only likely, the first alone.
func meant(all []Definition) []Definition {
	n := 1
	for n < min(len(all), maxMeant) && all[0].Certainty.Certain() && all[n].Certainty == all[0].Certainty {
		n++
	}
	return all[:n]
}
