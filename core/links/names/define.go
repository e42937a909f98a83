package names

import (
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// maxDefinitions is how many definitions an answer holds.
const maxDefinitions = 50

// DefinitionAt answers for the name that stands at a place: line from 1, column
// in bytes from 0. nil: no name stands there.
func (x *Index) DefinitionAt(file, line, column int) (*Answer, error) {
	d, err := x.details(file)
	if err != nil {
		return nil, err
	}
	n := useAt(d, line, column)
	if n < 0 {
		return nil, nil
	}
	return x.definition(file, d, n)
}

// useAt is the index of the use that covers a place; -1: none.
func useAt(d *facts.Details, line, column int) int {
	at := sort.Search(len(d.Uses), func(i int) bool {
		u := &d.Uses[i]
		return int(u.Line) > line || int(u.Line) == line && int(u.Column) > column
	})
	if at == 0 {
		return -1
	}
	u := &d.Uses[at-1]
	if int(u.Line) != line || column > int(u.Column)+len(d.Words[u.Word]) {
		return -1
	}
	return at - 1
}

// search is the work of answering for one use.
type search struct {
	*Index
	file  int
	d     *facts.Details
	n     int
	use   *lang.Use
	name  string
	out   *Answer
	found map[[2]int]bool
	asked map[handed]bool // what files were asked to hand on
	depth int             // of types asked for types
	sure  bool            // nothing is told by its name alone
}

// handed is a name that a file may hand on.
type handed struct {
	file int
	name string
}

// search begins the work for a name at a place of a file.
func (x *Index) search(file int, d *facts.Details, use *lang.Use, name string) *search {
	return &search{Index: x, file: file, d: d, use: use, name: name, out: &Answer{Name: name}, found: map[[2]int]bool{}, asked: map[handed]bool{}}
}

func (x *Index) definition(file int, d *facts.Details, n int) (*Answer, error) {
	return x.answer(file, d, n, false)
}

// answer tells what a use means; sure: as far as more than its name tells it.
func (x *Index) answer(file int, d *facts.Details, n int, sure bool) (*Answer, error) {
	u := &d.Uses[n]
	s := x.search(file, d, u, d.Words[u.Word])
	s.n, s.sure = n, sure
	if err := s.run(); err != nil {
		return nil, err
	}
	return s.out, nil
}

func (s *search) run() error {
	switch {
	case s.use.Role.Plain() == lang.Define:
		if i := s.symbolOn(int(s.use.Line)); i >= 0 {
			s.add(Definition{File: s.file, Line: s.d.Outline[i].NameLine, Symbol: i, Certainty: Scope, Why: "it is made here"})
		}
		return nil
	case s.use.Role.Plain() == lang.Bind:
		s.add(Definition{File: s.file, Line: int(s.use.Line), Symbol: -1, Certainty: Scope, Why: "a local name that is made here"})
		return nil
	case s.use.Role.Plain() == lang.Imports:
		if err := s.ofImport(); err != nil || len(s.out.Definitions) > 0 || s.out.Origin != nil {
			return err
		}
	}
	if s.use.Role&lang.OnOwner != 0 {
		if err := s.ofOwner(); err != nil {
			return err
		}
	} else if err := s.plain(); err != nil {
		return err
	}
	if !s.sure && len(s.out.Definitions) == 0 && (s.out.Origin == nil || s.out.Origin.To == origin.Unresolved) {
		return s.byName()
	}
	return nil
}

// symbolOn is the symbol whose name stands on a line.
func (s *search) symbolOn(line int) int {
	for i := range s.d.Outline {
		if s.d.Outline[i].Name == s.name && s.d.Outline[i].NameLine == line {
			return i
		}
	}
	return -1
}

func (s *search) add(d Definition) {
	key := [2]int{d.File, d.Line}
	if s.found[key] || len(s.out.Definitions) >= maxDefinitions {
		return
	}
	s.found[key] = true
	s.out.Definitions = append(s.out.Definitions, d)
}

// plain resolves a name that stands by itself.
func (s *search) plain() error {
	if s.local() {
		return nil
	}
	if s.inFile() {
		return nil
	}
	return s.beyond()
}

// beyond resolves a name that this file does not make: its imports, its package,
// and what it takes in whole.
func (s *search) beyond() error {
	if ok, err := s.fromImports(s.file, s.name, Imported, 0); ok || err != nil {
		return err
	}
	if ok, err := s.inPackage(s.name); ok || err != nil {
		return err
	}
	return s.spread(s.file)
}

// local finds a parameter or variable of the functions around.
func (s *search) local() bool {
	line := int(s.use.Line)
	for i := len(s.d.Outline) - 1; i >= 0; i-- {
		f := &s.d.Outline[i]
		if !callable(f.Kind) || line < f.Start || line > f.End || innerOf(s.d, i, line) {
			continue
		}
		for at := i; at >= 0; at = s.d.Outline[at].Parent {
			f := &s.d.Outline[at]
			if !callable(f.Kind) {
				break
			}
			if s.receiverParameter(f) {
				s.add(Definition{File: s.file, Line: f.Start, Symbol: -1, Certainty: Scope, Why: "a type parameter of " + f.Name})
				return true
			}
			if made := s.bound(f.Start, f.End); made > 0 {
				s.add(Definition{File: s.file, Line: made, Symbol: -1, Certainty: Scope, Why: "a parameter or variable of " + f.Name})
				return true
			}
		}
		return false
	}
	return false
}

// receiverParameter tells whether the receiver of a Go method names a type
// parameter.
func (s *search) receiverParameter(f *lang.Symbol) bool {
	receiver, _, ok := strings.Cut(strings.TrimPrefix(f.Signature, "func ("), ")")
	if !ok || f.Kind != lang.Method || s.Files[s.file].Language != "Go" {
		return false
	}
	_, parameters, ok := strings.Cut(receiver, "[")
	if !ok {
		return false
	}
	for p := range strings.SplitSeq(strings.TrimRight(parameters, "]"), ",") {
		if strings.TrimSpace(p) == s.name {
			return true
		}
	}
	return false
}

// innerOf tells whether another callable inside symbol i holds the line.
func innerOf(d *facts.Details, i, line int) bool {
	for k := i + 1; k < len(d.Outline) && d.Outline[k].Start <= d.Outline[i].End; k++ {
		if f := &d.Outline[k]; callable(f.Kind) && f.Start <= line && line <= f.End {
			return true
		}
	}
	return false
}

// bound is the line where the name is last bound at or before the use, between
// two lines; else the first one after; 0: nowhere.
func (s *search) bound(start, end int) int {
	made := 0
	for k := s.firstUse(start); k < len(s.d.Uses) && int(s.d.Uses[k].Line) <= end; k++ {
		u := &s.d.Uses[k]
		if u.Word != s.use.Word || u.Role&lang.OnOwner != 0 || !s.binds(u) {
			continue
		}
		if !s.within(int(u.Line)) {
			continue
		}
		if k > s.n && made > 0 {
			break
		}
		if k < s.n || made == 0 && !ordered(s.Files[s.file].Language) {
			if int(u.Line) >= start {
				made = int(u.Line)
			}
		}
	}
	return made
}

// within tells whether what is bound on a line is known where the use stands:
// the innermost block around the line is around the use as well.
func (s *search) within(bound int) bool {
	if !blockScoped(s.Files[s.file].Language) {
		return true
	}
	inner := -1
	for i, b := range s.d.Blocks {
		if b.Start > bound {
			break
		}
		if b.End >= bound && (inner < 0 || b.Start >= s.d.Blocks[inner].Start) {
			inner = i
		}
	}
	return inner < 0 || s.d.Blocks[inner].Start <= int(s.use.Line) && int(s.use.Line) <= s.d.Blocks[inner].End
}

// blockScoped tells the languages in which a block keeps its names to itself.
func blockScoped(language string) bool {
	switch family(language) {
	case "Go", "Java", "C", "C#", "Rust", "Node":
		return true
	}
	return false
}

// ordered tells the languages in which a local name is made before it is used.
func ordered(language string) bool {
	switch language {
	case "Go", "C", "C++", "Java", "Rust", "C#", "Kotlin":
		return true
	}
	return false
}

func (s *search) binds(u *lang.Use) bool {
	switch u.Role.Plain() {
	case lang.Bind:
		return true
	case lang.Write:
		switch s.Files[s.file].Language {
		case "Python", "Ruby", "PHP", "Shell", "Lua":
			return true // writing makes a name
		}
	}
	return false
}

// firstUse is the index of the first use on or after a line.
func (s *search) firstUse(line int) int {
	return sort.Search(len(s.d.Uses), func(i int) bool { return int(s.d.Uses[i].Line) >= line })
}

func callable(k lang.Kind) bool {
	return k == lang.Function || k == lang.Method || k == lang.Constructor || k == lang.Operator || k == lang.Property
}

// inFile finds a symbol of this file: of the types around first, then of the
// file's top; then a name that is bound outside of everything.
func (s *search) inFile() bool {
	line := int(s.use.Line)
	best, depth := -1, -1
	for i := range s.d.Outline {
		sym := &s.d.Outline[i]
		if sym.Name != s.name {
			continue
		}
		d := 0
		if sym.Parent >= 0 {
			p := &s.d.Outline[sym.Parent]
			if line < p.Start || line > p.End {
				if p.Kind == lang.Namespace || p.Kind == lang.Package || p.Kind == lang.Module || p.Kind == lang.Enum && family(s.Files[s.file].Language) == "C" {
					d = 0
				} else {
					continue // a member of something else
				}
			} else if !implicitMembers(s.Files[s.file].Language) && p.Kind != lang.Namespace && p.Kind != lang.Module && !callable(p.Kind) {
				continue // members need their owner's name
			} else {
				d = 1 + p.Start
			}
		}
		if d > depth || d == depth && fits(s.use.Role, sym.Kind) && !fits(s.use.Role, s.d.Outline[best].Kind) {
			best, depth = i, d
		}
	}
	if best >= 0 {
		s.add(Definition{File: s.file, Line: s.d.Outline[best].NameLine, Symbol: best, Certainty: Scope, Why: "this file makes it"})
		return true
	}
	if made := s.bound(1, 1<<30); made > 0 && (made <= line || !ordered(s.Files[s.file].Language)) && !s.insideCallable(made) {
		s.add(Definition{File: s.file, Line: made, Symbol: -1, Certainty: Scope, Why: "a name of this file"})
		return true
	}
	return false
}

func (s *search) insideCallable(line int) bool {
	for i := range s.d.Outline {
		if f := &s.d.Outline[i]; callable(f.Kind) && f.Start <= line && line <= f.End {
			return true
		}
	}
	return false
}

// implicitMembers tells the languages in which a member needs no owner inside
// its type.
func implicitMembers(language string) bool {
	switch language {
	case "Java", "C#", "C++", "Kotlin", "Scala", "Groovy", "Ruby":
		return true
	}
	return false
}

// fits tells whether a symbol's kind goes with how a name is used.
func fits(r lang.Role, k lang.Kind) bool {
	switch r.Plain() {
	case lang.Call:
		return callable(k) || k == lang.Class || k == lang.Struct || k == lang.Macro || k == lang.TypeName
	case lang.AsType:
		switch k {
		case lang.Class, lang.Struct, lang.Interface, lang.Enum, lang.TypeName, lang.Trait, lang.TypeParameter, lang.Module, lang.Namespace:
			return true
		}
		return false
	case lang.Write:
		return k == lang.Variable || k == lang.Field || k == lang.Property
	}
	return true
}
