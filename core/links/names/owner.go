package names

import (
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// maxTypes is how many steps a chain of owners may take.
const maxTypes = 6

// ofOwner resolves a name that follows another: "b" in "a.b".
func (s *search) ofOwner() error {
	owner := s.ownerOf(s.n)
	if owner < 0 {
		if s.use.Role&lang.InLiteral != 0 {
			return s.ofLiteral()
		}
		if s.Files[s.file].Language == "Ruby" {
			return s.plain() // its calls look alike with an owner and without
		}
		return nil
	}
	o := &s.d.Uses[owner]
	name := s.d.Words[o.Word]
	if o.Role&lang.OnOwner == 0 {
		if ok, err := s.ofModule(name, owner); ok || err != nil {
			return err
		}
	} else if ok, err := s.ofDotted(owner); ok || err != nil {
		return err
	}
	t, err := s.typeOf(owner)
	if err != nil || t == nil {
		return err
	}
	return s.member(t)
}

// ownerOf is the use right before another that it belongs to; -1: none that is
// a plain name.
func (s *search) ownerOf(n int) int {
	if n == 0 {
		return -1
	}
	u, p := &s.d.Uses[n], &s.d.Uses[n-1]
	if u.Role&lang.InLiteral != 0 {
		return -1
	}
	gap := int(u.Column) - int(p.Column) - len(s.d.Words[p.Word])
	if p.Line != u.Line || gap < 1 || gap > 2 {
		return -1
	}
	return n - 1
}

// ofModule: the owner is a module that an import brings.
func (s *search) ofModule(owner string, at int) (bool, error) {
	if s.shadowed(at) {
		return false, nil
	}
	imports := s.Files[s.file].Imports
	for n := range imports {
		i := &imports[n]
		wanted, whole := broughtBy(s.Files[s.file].Language, i, owner)
		o := s.origin(s.file, n)
		if o == nil || wanted == "" && !whole {
			continue
		}
		if len(o.Files) == 0 {
			s.out.Origin, s.out.Through = o, i.Text
			return true, nil
		}
		if whole || s.moduleNamed(o, wanted) {
			ok, err := s.inFiles(o, s.name, Imported, "of the module "+i.Text, 0)
			if !ok && err == nil {
				s.out.Origin, s.out.Through = s.missing(o, i, s.name), i.Text
			}
			return true, err
		}
	}
	return false, nil
}

// moduleNamed tells whether an imported name is a module among the files of an
// origin ("from package import module").
func (s *search) moduleNamed(o *origin.Origin, name string) bool {
	if o.To == origin.ToBinary {
		return true // a module that is compiled
	}
	for _, f := range o.Files {
		if s.Files[f].Language == "Python" && (strings.HasSuffix(s.Files[f].Path, "/"+name+".py") || strings.HasSuffix(s.Files[f].Path, "/"+name+"/__init__.py")) {
			return true
		}
	}
	return false
}

// ofDotted: the owner is a dotted module: "os" in "a.b.c".
func (s *search) ofDotted(at int) (bool, error) {
	if s.Files[s.file].Language != "Python" {
		return false, nil
	}
	dotted := s.d.Words[s.d.Uses[at].Word]
	for o := s.ownerOf(at); o >= 0; o = s.ownerOf(o) {
		dotted = s.d.Words[s.d.Uses[o].Word] + "." + dotted
	}
	imports := s.Files[s.file].Imports
	for n := range imports {
		if i := &imports[n]; i.Text == dotted && len(i.Names) == 0 {
			o := s.origin(s.file, n)
			if o == nil {
				continue
			}
			if len(o.Files) == 0 {
				s.out.Origin, s.out.Through = o, i.Text
				return true, nil
			}
			return s.inFiles(o, s.name, Imported, "of the module "+i.Text, 0)
		}
	}
	return false, nil
}

// shadowed tells whether a name is a local one where it is used.
func (s *search) shadowed(at int) bool {
	t := s.at(at)
	return t.local()
}

// at is a search for another use of the same file.
func (s *search) at(n int) *search {
	u := &s.d.Uses[n]
	t := s.search(s.file, s.d, u, s.d.Words[u.Word])
	t.n, t.depth, t.sure = n, s.depth+1, s.sure
	return t
}

// typ is a type by the symbol that makes it.
type typ struct {
	file   int
	symbol int
}

// typeOf is the type that the text says a use has; nil: not told.
func (s *search) typeOf(n int) (*typ, error) {
	if s.depth > maxTypes {
		return nil, nil
	}
	u := &s.d.Uses[n]
	name := s.d.Words[u.Word]
	if u.Role&lang.OnOwner == 0 && selfNames[name] || s.isReceiver(n) {
		return s.around(int(u.Line)), nil
	}
	t := s.at(n)
	if err := t.run(); err != nil || len(t.out.Definitions) == 0 {
		return nil, err
	}
	d := t.out.Definitions[0]
	if d.Certainty == ByName && len(t.out.Definitions) > 1 {
		return nil, nil
	}
	if d.Symbol < 0 {
		if d.File != s.file {
			return nil, nil
		}
		return t.typeOfLocal(d.Line)
	}
	details, err := s.details(d.File)
	if err != nil {
		return nil, err
	}
	return t.typeOfSymbol(d.File, details, d.Symbol)
}

var selfNames = map[string]bool{"self": true, "this": true, "cls": true, "super": true}

// typeOfSymbol is the type that a symbol is, has or returns.
func (s *search) typeOfSymbol(file int, d *facts.Details, symbol int) (*typ, error) {
	sym := &d.Outline[symbol]
	switch sym.Kind {
	case lang.Class, lang.Struct, lang.Interface, lang.Enum, lang.Trait, lang.Module, lang.Namespace, lang.Object:
		return &typ{file, symbol}, nil
	case lang.TypeName:
		if t, err := s.named(file, d, sym.Type, sym.NameLine); t != nil || err != nil {
			return t, err
		}
		return &typ{file, symbol}, nil
	case lang.Constructor:
		if sym.Parent >= 0 {
			return &typ{file, sym.Parent}, nil
		}
	}
	if sym.Type != "" {
		return s.named(file, d, sym.Type, sym.NameLine)
	}
	if !callable(sym.Kind) {
		// what it is made from stands on its line
		t := s.search(file, d, &lang.Use{}, sym.Name)
		t.depth = s.depth + 1
		return t.madeOn(sym.NameLine, sym.Name)
	}
	return nil, nil
}

// around is the innermost type around a line.
func (s *search) around(line int) *typ {
	best := -1
	for i := range s.d.Outline {
		sym := &s.d.Outline[i]
		if sym.Start > line || sym.End < line {
			continue
		}
		switch sym.Kind {
		case lang.Class, lang.Struct, lang.Interface, lang.Enum, lang.Trait, lang.Object:
			best = i
		}
	}
	if best >= 0 {
		return &typ{s.file, best}
	}
	// a method that stands outside of its type
	for i := len(s.d.Outline) - 1; i >= 0; i-- {
		sym := &s.d.Outline[i]
		if callable(sym.Kind) && sym.Start <= line && line <= sym.End {
			owner := strings.TrimSuffix(strings.TrimSuffix(sym.Qualified, sym.Name), ".")
			owner = strings.TrimSuffix(owner, "::")
			if owner == "" || owner == sym.Qualified {
				return nil
			}
			t, _ := s.named(s.file, s.d, owner, sym.NameLine) // not found: not told
			return t
		}
	}
	return nil
}

// isReceiver tells whether a use names the receiver of the Go method around it.
func (s *search) isReceiver(n int) bool {
	if s.Files[s.file].Language != "Go" || s.d.Uses[n].Role&lang.OnOwner != 0 {
		return false
	}
	line, name := int(s.d.Uses[n].Line), s.d.Words[s.d.Uses[n].Word]
	for i := range s.d.Outline {
		sym := &s.d.Outline[i]
		if sym.Kind == lang.Method && sym.Start <= line && line <= sym.End && strings.HasPrefix(sym.Signature, "func ("+name+" ") {
			return true
		}
	}
	return false
}

// typeOfLocal is the type of a parameter or variable that is bound on a line:
// as its function's signature says, or from what it is made of.
func (s *search) typeOfLocal(line int) (*typ, error) {
	for i := len(s.d.Outline) - 1; i >= 0; i-- {
		f := &s.d.Outline[i]
		if !callable(f.Kind) || line < f.Start || line > f.End {
			continue
		}
		if written := parameterType(s.Files[s.file].Language, f.Signature, s.name); written != "" {
			if t, err := s.named(s.file, s.d, written, line); t != nil || err != nil {
				return t, err
			}
		}
		break
	}
	return s.madeOn(line, s.name)
}

// madeOn reads a type off the line on which a name is bound: the type or the
// call that stands there.
func (s *search) madeOn(line int, name string) (*typ, error) {
	first := s.firstUse(line)
	bound := -1
	for k := first; k < len(s.d.Uses) && int(s.d.Uses[k].Line) == line; k++ {
		if s.d.Words[s.d.Uses[k].Word] == name && s.d.Uses[k].Role&lang.OnOwner == 0 {
			bound = k
			break
		}
	}
	if bound < 0 {
		return nil, nil
	}
	// "Type name": the type stands right before
	if bound > first {
		if p := &s.d.Uses[bound-1]; p.Role.Plain() == lang.AsType {
			return s.typeNamed(bound - 1)
		}
	}
	for k := bound + 1; k < len(s.d.Uses) && k < bound+8 && int(s.d.Uses[k].Line) <= line+1; k++ {
		u := &s.d.Uses[k]
		switch u.Role.Plain() {
		case lang.Bind, lang.Write, lang.Define:
			continue
		case lang.AsType:
			if k+1 < len(s.d.Uses) && s.ownerOf(k+1) == k {
				continue
			}
			return s.typeNamed(k)
		case lang.Call:
			return s.typeNamed(k)
		}
		if k+1 < len(s.d.Uses) && s.ownerOf(k+1) == k {
			continue // an owner: what follows it tells
		}
		return s.typeNamed(k)
	}
	return nil, nil
}

// typeNamed is the type that a use names, makes or returns.
func (s *search) typeNamed(n int) (*typ, error) {
	if s.depth > maxTypes {
		return nil, nil
	}
	t := s.at(n)
	if err := t.run(); err != nil || len(t.out.Definitions) == 0 {
		return nil, err
	}
	d := t.out.Definitions[0]
	if d.Certainty == ByName && len(t.out.Definitions) > 1 || d.Symbol < 0 {
		if d.Symbol < 0 && d.File == s.file && d.Certainty == Scope {
			return t.typeOfLocal(d.Line)
		}
		return nil, nil
	}
	details, err := s.details(d.File)
	if err != nil {
		return nil, err
	}
	return t.typeOfSymbol(d.File, details, d.Symbol)
}

// maxBack is how many names before a key the type of its literal is looked for
// among.
const maxBack = 60

// ofLiteral resolves a key: the nearest type or call before it that has such a
// member; else it is a name like any other, as in a map.
func (s *search) ofLiteral() error {
	if s.depth > 2 {
		return nil
	}
	for k := s.n - 1; k >= 0 && k > s.n-maxBack; k-- {
		u := &s.d.Uses[k]
		if p := u.Role.Plain(); p != lang.AsType && p != lang.Call || u.Role.Plain() == lang.Call && s.Files[s.file].Language == "Go" {
			continue
		}
		t, err := s.typeNamed(k)
		if err != nil {
			return err
		}
		if t == nil {
			continue
		}
		if err := s.member(t); err != nil || len(s.out.Definitions) > 0 {
			return err
		}
	}
	if s.Files[s.file].Language == "Go" {
		return s.plain()
	}
	return nil
}
