package names

import (
	"path"
	"strings"
	"sync"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links"
	"juxtagram/core/links/origin"
)

// File is one file of a survey as the index knows it.
type File struct {
	Path     string
	Language string
	Role     string
	Package  string
	Imports  []lang.Import
	Terms    []byte // packed; see facts
}

// Source gives outline, names and blocks of a file; nil: it has none. It may be called by
// several goroutines.
type Source func(file int) (*facts.Details, error)

// Index answers about names. It may be used by several goroutines.
type Index struct {
	Files    []File
	Links    *links.Links
	Graph    *links.Graph
	source   Source
	at       map[string]int32
	packages map[string][]int32 // package key → files, where a language has packages
	mu       sync.Mutex
	cache    map[int]*cached
	clock    int
}

// cached are the details of one file, last used at a time.
type cached struct {
	details *facts.Details
	used    int
}

// keepDetails is how many files' details are held.
const keepDetails = 400

// New makes an index over files, which are numbered as in links and graph.
func New(files []File, l *links.Links, g *links.Graph, source Source) *Index {
	x := &Index{Files: files, Links: l, Graph: g, source: source, at: make(map[string]int32, len(files)), packages: map[string][]int32{}, cache: map[int]*cached{}}
	for i := range files {
		x.at[files[i].Path] = int32(i)
		if key := packageKey(&files[i]); key != "" {
			x.packages[key] = append(x.packages[key], int32(i))
		}
	}
	return x
}

// Find is the number of a path; -1: not among the files.
func (x *Index) Find(p string) int {
	if i, ok := x.at[p]; ok {
		return int(i)
	}
	return -1
}

// packageKey is what files share whose names need no import among them; "":
// nothing.
func packageKey(f *File) string {
	switch f.Language {
	case "Go":
		return "Go " + path.Dir(f.Path) + " " + strings.TrimSuffix(f.Package, "_test")
	case "Java", "Kotlin", "Scala", "Groovy":
		return "Java " + f.Package
	case "C#", "PHP":
		if f.Package != "" {
			return f.Language + " " + f.Package
		}
	case "HCL":
		return "HCL " + path.Dir(f.Path)
	}
	return ""
}

// details are a file's, from the cache where they were asked for lately.
func (x *Index) details(file int) (*facts.Details, error) {
	x.mu.Lock()
	x.clock++
	if c := x.cache[file]; c != nil {
		c.used = x.clock
		x.mu.Unlock()
		return c.details, nil
	}
	x.mu.Unlock()
	d, err := x.source(file)
	if err != nil {
		return nil, err
	}
	if d == nil {
		d = &facts.Details{}
	}
	x.mu.Lock()
	defer x.mu.Unlock()
	if len(x.cache) >= keepDetails {
		oldest, at := -1, x.clock+1
		for k, c := range x.cache {
			if c.used < at {
				oldest, at = k, c.used
			}
		}
		delete(x.cache, oldest)
	}
	x.cache[file] = &cached{d, x.clock}
	return d, nil
}

// holding lists the files whose terms hold a name in a role, in order.
func (x *Index) holding(name string, has func(facts.Term) bool) []int {
	hash := facts.NameHash(name)
	var out []int
	for i := range x.Files {
		if t, ok := facts.FindTerm(x.Files[i].Terms, hash); ok && has(t) {
			out = append(out, i)
		}
	}
	return out
}

func defines(t facts.Term) bool { return t.Roles.Has(lang.Define) }

// definesIn tells whether a file defines a name.
func (x *Index) definesIn(file int, name string) bool {
	t, ok := facts.FindTerm(x.Files[file].Terms, facts.NameHash(name))
	return ok && defines(t)
}

// family are the languages that share their names.
func family(language string) string {
	switch language {
	case "JavaScript", "TypeScript", "TSX", "Vue":
		return "Node"
	case "Java", "Kotlin", "Scala", "Groovy":
		return "Java"
	case "C", "C++", "Objective-C", "Arduino":
		return "C"
	}
	return language
}

// origin of an import of a file; nil: not resolved.
func (x *Index) origin(file, n int) *origin.Origin { return x.Links.Origin(file, n) }

// Symbol is one symbol of a file's outline; nil: there is none of that index.
func (x *Index) Symbol(file, symbol int) (*lang.Symbol, error) {
	d, err := x.details(file)
	if err != nil || symbol < 0 || symbol >= len(d.Outline) {
		return nil, err
	}
	return &d.Outline[symbol], nil
}

// SymbolOn is the index of the symbol of a name that stands on a line; -1: none.
func (x *Index) SymbolOn(file, line int, name string) (int, error) {
	d, err := x.details(file)
	if err != nil {
		return -1, err
	}
	for i := range d.Outline {
		if s := &d.Outline[i]; s.NameLine == line && (s.Name == name || s.Qualified == name) {
			return i, nil
		}
	}
	return -1, nil
}

// ValueOn is the symbol that a line gives a value to: a constant, a variable, a
// macro; -1: it makes none.
func (x *Index) ValueOn(file, line int) (int, error) {
	d, err := x.details(file)
	if err != nil {
		return -1, err
	}
	for i := range d.Outline {
		s := &d.Outline[i]
		if s.Start > line || line > s.End || s.End-s.Start > 3 {
			continue
		}
		switch s.Kind {
		case lang.Constant, lang.Variable, lang.Macro, lang.Key, lang.Property, lang.Field, lang.EnumMember:
			return i, nil
		}
	}
	return -1, nil
}

// Named is the first symbol of a name in a file's outline; -1: it makes none.
func (x *Index) Named(file int, name string) (int, error) {
	if !x.definesIn(file, name) {
		return -1, nil
	}
	d, err := x.details(file)
	if err != nil {
		return -1, err
	}
	for i := range d.Outline {
		if d.Outline[i].Name == name {
			return i, nil
		}
	}
	return -1, nil
}

// Outline is a file's outline.
func (x *Index) Outline(file int) ([]lang.Symbol, error) {
	d, err := x.details(file)
	if err != nil {
		return nil, err
	}
	return d.Outline, nil
}
