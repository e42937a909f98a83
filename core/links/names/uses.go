package names

import (
	"runtime"
	"sort"
	"strings"

	"golang.org/x/sync/errgroup"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// UsesIn are the uses of a symbol in one file.
type UsesIn struct {
	File      int
	Certainty Certainty // of the surest
	Sites     []Site
	More      int // further places of the name in the file that were not looked into
}

// Site is one place where a name is used.
type Site struct {
	Line, Column int // from 1; bytes from 0
	Role         lang.Role
	Certainty    Certainty
	Symbol       int // innermost symbol around it; -1: none
}

// UsePage is a part of all uses of a symbol, the surest first.
type UsePage struct {
	Files []UsesIn
	Total int // files that hold the name, the file that makes it among them
	Named int // places where the name stands in all those files; up to 65,535 of each count
	Next  int // where the next part begins; 0: this is the last
}

// Uses lists where a symbol is used: files from the given offset on, so many of
// them. Files of the same certainty come nearest first. Places where the name
// surely means something else are left out.
func (x *Index) Uses(file, symbol, offset, limit int) (*UsePage, error) {
	d, err := x.details(file)
	if err != nil {
		return nil, err
	}
	if symbol < 0 || symbol >= len(d.Outline) {
		return &UsePage{}, nil
	}
	name := d.Outline[symbol].Name
	page := &UsePage{}
	hash := facts.NameHash(name)
	type candidate struct{ file, class, far int }
	var all []candidate
	key := packageKey(&x.Files[file])
	for i := range x.Files {
		t, ok := facts.FindTerm(x.Files[i].Terms, hash)
		if !ok || family(x.Files[i].Language) != family(x.Files[file].Language) && !registers(&d.Outline[symbol]) {
			continue
		}
		page.Named += t.Count
		c := candidate{i, 3, origin.Apart(x.Files[file].Path, x.Files[i].Path)}
		switch {
		case i == file:
			c.class = 0
		case key != "" && packageKey(&x.Files[i]) == key:
			c.class = 1
		}
		all = append(all, c)
	}
	dependents := map[int]bool{}
	for _, f := range x.Graph.Dependents(file) {
		dependents[int(f)] = true
	}
	for i := range all {
		if all[i].class == 3 && dependents[all[i].file] {
			all[i].class = 2
		}
	}
	sort.Slice(all, func(i, j int) bool {
		a, b := all[i], all[j]
		switch {
		case a.class != b.class:
			return a.class < b.class
		case a.far != b.far:
			return a.far < b.far
		}
		return a.file < b.file
	})
	page.Total = len(all)
	at := offset
	for stop := offset + maxTried; at < min(len(all), stop) && len(page.Files) < limit; {
		// several files at a time, taken in their order
		batch := all[at:min(len(all), stop, at+batchSize)]
		found := make([]*UsesIn, len(batch))
		var work errgroup.Group
		work.SetLimit(runtime.GOMAXPROCS(0))
		for k := range batch {
			work.Go(func() (err error) {
				found[k], err = x.usesIn(batch[k].file, file, symbol, d)
				return err
			})
		}
		if err := work.Wait(); err != nil {
			return nil, err
		}
		for _, in := range found {
			if len(page.Files) == limit {
				break
			}
			at++
			if len(in.Sites) > 0 {
				page.Files = append(page.Files, *in)
			}
		}
	}
	if at < len(all) {
		page.Next = at
	}
	sort.SliceStable(page.Files, func(i, j int) bool { return page.Files[i].Certainty.rank() < page.Files[j].Certainty.rank() })
	return page, nil
}

// registers tells an entry of a table that gives a function to other languages.
func registers(s *lang.Symbol) bool { return s.Kind == lang.Key && s.Forwards != "" }

// batchSize is how many files are looked into at once, maxTried how many for one
// page, which then may hold fewer than were asked for.
const (
	batchSize = 16
	maxTried  = 48
)

// maxSites is how many places of one file are looked into.
const maxSites = 200

// usesIn looks at each place where a file names a symbol.
func (x *Index) usesIn(in, file, symbol int, made *facts.Details) (*UsesIn, error) {
	d, err := x.details(in)
	if err != nil {
		return nil, err
	}
	out := &UsesIn{File: in, Certainty: ByName}
	name := made.Outline[symbol].Name
	for n := range d.Uses {
		u := &d.Uses[n]
		if d.Words[u.Word] != name || u.Role.Plain() == lang.Define {
			continue
		}
		if len(out.Sites) == maxSites {
			out.More++
			continue
		}
		c, means, err := x.means(in, d, n, file, symbol)
		if err != nil {
			return nil, err
		}
		if !means {
			continue
		}
		out.Sites = append(out.Sites, Site{Line: int(u.Line), Column: int(u.Column), Role: u.Role, Certainty: c, Symbol: innermost(d, int(u.Line))})
		if c.rank() < out.Certainty.rank() {
			out.Certainty = c
		}
	}
	return out, nil
}

// means tells whether a use means a symbol, and how sure that is; false: it
// surely means something else.
func (x *Index) means(in int, d *facts.Details, n, file, symbol int) (Certainty, bool, error) {
	a, err := x.answer(in, d, n, true)
	if err != nil {
		return "", false, err
	}
	sure := false
	for _, def := range a.Definitions {
		if def.File == file && def.Symbol == symbol {
			return def.Certainty, true, nil
		}
		sure = sure || def.Certainty.Certain() || def.Certainty == Typed
	}
	if sure || a.Origin != nil && a.Origin.To != "unresolved" {
		return "", false, nil
	}
	return ByName, true, nil
}

// innermost is the last symbol of an outline that holds a line; -1: none.
func innermost(d *facts.Details, line int) int {
	best := -1
	for i := range d.Outline {
		if s := &d.Outline[i]; s.Start <= line && line <= s.End {
			best = i
		}
	}
	return best
}

// Relative is a type above or below another.
type Relative struct {
	Name string // as written
	Definition
}

// Supertypes are the types that a type says it is one of, in its order; those
// of other repositories have no file (-1).
func (x *Index) Supertypes(file, symbol int) ([]Relative, error) {
	d, err := x.details(file)
	if err != nil || symbol < 0 || symbol >= len(d.Outline) {
		return nil, err
	}
	var out []Relative
	for _, written := range d.Outline[symbol].Supers {
		r := Relative{Name: written, Definition: Definition{File: -1, Symbol: -1, Certainty: ByName, Why: "not found in this repository"}}
		t, err := x.typeWritten(file, d, written, d.Outline[symbol].NameLine)
		if err != nil {
			return nil, err
		}
		if t != nil {
			other, err := x.details(t.file)
			if err != nil {
				return nil, err
			}
			r.Definition = Definition{File: t.file, Line: other.Outline[t.symbol].NameLine, Symbol: t.symbol, Certainty: Imported, Why: "named as a supertype"}
			if t.file == file {
				r.Certainty = Scope
			}
		}
		out = append(out, r)
	}
	return out, nil
}

// typeWritten is the type that a text names on a line of a file; nil: not found.
func (x *Index) typeWritten(file int, d *facts.Details, text string, line int) (*typ, error) {
	return x.search(file, d, &lang.Use{Line: int32(line), Role: lang.AsType, Word: -1}, text).named(file, d, text, line)
}

// maxSubtypes is how many subtypes are told, maxSubtypeFiles in how many files
// that hold the name they are looked for.
const (
	maxSubtypes     = 200
	maxSubtypeFiles = 400
)

// Subtypes are the types that name a type as one of theirs; more tells that
// there are others.
func (x *Index) Subtypes(file, symbol int) (out []Relative, more bool, err error) {
	d, err := x.details(file)
	if err != nil || symbol < 0 || symbol >= len(d.Outline) {
		return nil, false, err
	}
	name := d.Outline[symbol].Name
	looked := 0
	for _, f := range x.holding(name, func(facts.Term) bool { return true }) {
		if family(x.Files[f].Language) != family(x.Files[file].Language) {
			continue
		}
		if looked++; looked > maxSubtypeFiles {
			more = true
			break
		}
		other, err := x.details(f)
		if err != nil {
			return nil, false, err
		}
		for i := range other.Outline {
			sym := &other.Outline[i]
			for _, super := range sym.Supers {
				if super[strings.LastIndexAny(super, ".:\\")+1:] != name {
					continue
				}
				t, err := x.typeWritten(f, other, super, sym.NameLine)
				if err != nil {
					return nil, false, err
				}
				if t != nil && (t.file != file || t.symbol != symbol) {
					continue
				}
				r := Relative{Name: sym.Qualified, Definition: Definition{File: f, Line: sym.NameLine, Symbol: i, Certainty: ByName, Why: "names a supertype of that name"}}
				if t != nil {
					r.Certainty, r.Why = Imported, "names it as a supertype"
					if f == file {
						r.Certainty = Scope
					}
				}
				if len(out) == maxSubtypes {
					return out, true, nil
				}
				out = append(out, r)
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Certainty.rank() < out[j].Certainty.rank() })
	return out, more, nil
}

// Chain are the definitions that a forwarder's call goes through, up to a few;
// the last is where something is done. Empty: it is no forwarder, or its target
// is not found. The name of the first target is as written.
func (x *Index) Chain(file, symbol int) (target string, chain []Definition, err error) {
	for hop := 0; hop < maxHops; hop++ {
		d, err := x.details(file)
		if err != nil || symbol < 0 || symbol >= len(d.Outline) {
			return target, chain, err
		}
		sym := &d.Outline[symbol]
		if sym.Forwards == "" {
			return target, chain, nil
		}
		if hop == 0 {
			target = sym.Forwards
		}
		a, err := x.handedTo(file, d, sym)
		if err != nil || len(a.Definitions) == 0 {
			return target, chain, err
		}
		first := a.Definitions[0]
		if first.Symbol < 0 || first.Certainty == ByName && len(a.Definitions) > 1 || first.File == file && first.Symbol == symbol {
			return target, chain, nil
		}
		chain = append(chain, first)
		file, symbol = first.File, first.Symbol
	}
	return target, chain, nil
}

// handedTo is what a forwarder's target means, where it stands in the text; a
// macro's text holds no names of its own, and its target is looked for as if it
// stood beside.
func (x *Index) handedTo(file int, d *facts.Details, sym *lang.Symbol) (*Answer, error) {
	if n := x.callOn(d, sym); n >= 0 {
		return x.definition(file, d, n)
	}
	s := x.search(file, d, &lang.Use{Line: int32(sym.NameLine), Role: lang.Call, Word: -1}, sym.Forwards)
	return s.out, s.plain()
}

// callOn is the use by which a forwarder calls; -1: not found.
func (x *Index) callOn(d *facts.Details, sym *lang.Symbol) int {
	name := sym.Forwards
	if i := strings.LastIndexAny(name, ".:>\\"); i >= 0 {
		name = name[i+1:]
	}
	name, _, _ = strings.Cut(name, "[")
	name, _, _ = strings.Cut(name, "<")
	from := sort.Search(len(d.Uses), func(i int) bool { return int(d.Uses[i].Line) >= sym.NameLine })
	for n := from; n < len(d.Uses) && int(d.Uses[n].Line) <= sym.End; n++ {
		if u := &d.Uses[n]; u.Role.Plain() == lang.Call && d.Words[u.Word] == name {
			return n
		}
	}
	return -1
}
