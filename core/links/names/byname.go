package names

import (
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
	"juxtagram/core/role"
)

// maxLooked is how many files that define a name are looked into.
const maxLooked = 60

// byName finds all definitions of the name, those that fit best first. Nothing
// but the name speaks for them.
func (s *search) byName() error {
	own := &s.Files[s.file]
	if len(s.name) < 2 {
		return nil
	}
	files := s.holding(s.name, defines)
	type scored struct {
		Definition
		score float64
	}
	near := map[int32]bool{}
	for _, f := range s.Graph.Dependencies(s.file) {
		near[f] = true
	}
	order := func(f int) float64 {
		x := &s.Files[f]
		v := 0.0
		if near[int32(f)] {
			v += 8
		}
		if f == s.file {
			v += 9
		}
		if key := packageKey(own); key != "" && key == packageKey(x) {
			v += 6
		}
		if x.Role == role.Test && own.Role != role.Test {
			v -= 5
		}
		if x.Role == role.Vendored || x.Role == role.Generated {
			v -= 3
		}
		return v - 0.5*float64(origin.Apart(own.Path, x.Path))
	}
	sort.SliceStable(files, func(i, j int) bool { return order(files[i]) > order(files[j]) })
	var all []scored
	looked := 0
	if !anyOf(files, func(f int) bool { return family(s.Files[f].Language) == family(own.Language) }) {
		return s.registered(files)
	}
	for _, f := range files {
		if family(s.Files[f].Language) != family(own.Language) {
			continue
		}
		if looked++; looked > maxLooked {
			break
		}
		d, err := s.details(f)
		if err != nil {
			return err
		}
		for i := range d.Outline {
			if d.Outline[i].Name == s.name {
				if v, ok := s.likely(d, i); ok {
					all = append(all, scored{Definition{File: f, Line: d.Outline[i].NameLine, Symbol: i, Certainty: ByName, Why: "the name is the same"}, order(f) + v})
				}
			}
		}
	}
	sort.SliceStable(all, func(i, j int) bool { return all[i].score > all[j].score })
	for _, c := range all {
		s.add(c.Definition)
	}
	return nil
}

func anyOf(files []int, is func(int) bool) bool {
	for _, f := range files {
		if is(f) {
			return true
		}
	}
	return false
}

// registered finds tables of other languages that give the name to whoever asks
// for it.
func (s *search) registered(files []int) error {
	for _, f := range files[:min(len(files), maxLooked)] {
		d, err := s.details(f)
		if err != nil {
			return err
		}
		for i := range d.Outline {
			if sym := &d.Outline[i]; sym.Name == s.name && sym.Kind == lang.Key && sym.Forwards != "" {
				s.add(Definition{File: f, Line: sym.NameLine, Symbol: i, Certainty: ByName, Why: "a table of another language registers the name"})
			}
		}
	}
	return nil
}

// likely scores how well a symbol goes with the use; false: it cannot be meant.
func (s *search) likely(d *facts.Details, i int) (float64, bool) {
	sym := &d.Outline[i]
	member := sym.Parent >= 0 && !atTop(d, i) || sym.Kind == lang.Method
	v := 0.0
	if s.use.Role&lang.OnOwner != 0 {
		if member {
			v += 6
		}
	} else if member {
		v -= 6
		if s.Files[s.file].Language == "Go" || s.Files[s.file].Language == "Python" {
			return 0, false // a member needs its owner's name
		}
	}
	if fits(s.use.Role, sym.Kind) {
		v += 4
	} else {
		v -= 4
	}
	switch sym.Visibility {
	case lang.Public:
		v++
	case lang.Private:
		v -= 2
	}
	// an owner's name often is that of its type
	if o := s.ownerOfUse(); o != "" {
		owner := strings.ToLower(sym.Qualified)
		if strings.Contains(owner, strings.ToLower(o)+".") || strings.Contains(owner, strings.ToLower(o)+"::") {
			v += 5
		}
	}
	return v, true
}

func (s *search) ownerOfUse() string {
	if s.use.Role&lang.OnOwner == 0 || s.n >= len(s.d.Uses) || &s.d.Uses[s.n] != s.use {
		return ""
	}
	o := s.ownerOf(s.n)
	if o < 0 {
		return ""
	}
	return s.d.Words[s.d.Uses[o].Word]
}
