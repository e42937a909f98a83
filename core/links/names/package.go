package names

import (
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// inPackage finds a name among the files of the same package.
func (s *search) inPackage(name string) (bool, error) {
	key := packageKey(&s.Files[s.file])
	if key == "" {
		return false, nil
	}
	some := false
	for _, f := range s.packages[key] {
		if int(f) == s.file || !s.definesIn(int(f), name) || !s.sees(int(f)) {
			continue
		}
		ok, err := s.top(int(f), name, Scope, "the same package makes it")
		if err != nil {
			return false, err
		}
		some = some || ok
	}
	return some, nil
}

// sees tells whether a file of the same folder is of the same package: Go's
// tests may stand in one of their own.
func (s *search) sees(f int) bool {
	a, b := &s.Files[s.file], &s.Files[f]
	if a.Language != "Go" {
		return true
	}
	if strings.HasSuffix(b.Path, "_test.go") && !strings.HasSuffix(a.Path, "_test.go") {
		return false
	}
	return a.Package == b.Package
}

// top adds the symbols of a file's top that have a name; members of namespaces
// are of the top.
func (s *search) top(file int, name string, c Certainty, why string) (bool, error) {
	d, err := s.details(file)
	if err != nil {
		return false, err
	}
	some := false
	for pass := range 2 {
		for i := range d.Outline {
			sym := &d.Outline[i]
			if sym.Name != name || !atTop(d, i) || (pass == 0) != fits(s.use.Role, sym.Kind) {
				continue
			}
			s.add(Definition{File: file, Line: sym.NameLine, Symbol: i, Certainty: c, Why: why})
			some = true
		}
	}
	return some, nil
}

// atTop tells whether nothing but namespaces stands around a symbol.
func atTop(d *facts.Details, i int) bool {
	for p := d.Outline[i].Parent; p >= 0; p = d.Outline[p].Parent {
		switch d.Outline[p].Kind {
		case lang.Namespace, lang.Package, lang.Module:
		case lang.Enum:
			if d.Outline[i].Kind != lang.EnumMember {
				return false
			}
		default:
			return false
		}
	}
	// a method that is written outside of its type is no name of the top
	return d.Outline[i].Kind != lang.Method || d.Outline[i].Parent >= 0 || !strings.ContainsAny(d.Outline[i].Qualified, ".:#")
}
