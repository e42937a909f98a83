package names

import (
	"regexp"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
)

// written is the first name of a type as written, with the module before it:
// "*pkg.Type[K]" gives pkg and Type.
var written = regexp.MustCompile(`^(?:\(|\*|&|\[\d*\]|<-|\.\.\.|chan |const |readonly |mut |dyn |impl |ref |out |final |static |struct |unsigned |Promise<|Optional\[|Option<|Arc<|Rc<|Box<|Readonly<|Partial<|Ref<|Shared<|std::shared_ptr<|std::unique_ptr<|["' ])*((?:[A-Za-z_]\w*(?:\.|::|\\))*)([A-Za-z_]\w*)`)

// named resolves a type as it is written in a file.
func (s *search) named(file int, d *facts.Details, text string, line int) (*typ, error) {
	if s.depth > maxTypes {
		return nil, nil
	}
	m := written.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return nil, nil
	}
	module, name := strings.Trim(m[1], ".:\\"), m[2]
	t := s.search(file, d, &lang.Use{Line: int32(line), Role: lang.AsType, Word: -1}, name)
	t.depth, t.sure = s.depth+1, s.sure
	if module != "" {
		if _, err := t.ofModuleNamed(module); err != nil {
			return nil, err
		}
	} else if err := t.plainType(); err != nil {
		return nil, err
	}
	for _, def := range t.out.Definitions {
		if def.Symbol < 0 {
			continue
		}
		details, err := s.details(def.File)
		if err != nil {
			return nil, err
		}
		switch sym := &details.Outline[def.Symbol]; sym.Kind {
		case lang.Class, lang.Struct, lang.Interface, lang.Enum, lang.Trait, lang.Object:
			return &typ{def.File, def.Symbol}, nil
		case lang.TypeName:
			if inner, err := t.named(def.File, details, sym.Type, sym.NameLine); inner != nil || err != nil {
				return inner, err
			}
			return &typ{def.File, def.Symbol}, nil
		}
	}
	return nil, nil
}

// plainType finds a type by its name alone.
func (s *search) plainType() error {
	if s.inFileType() {
		return nil
	}
	return s.beyond()
}

func (s *search) inFileType() bool {
	for i := range s.d.Outline {
		if sym := &s.d.Outline[i]; sym.Name == s.name && fits(lang.AsType, sym.Kind) {
			s.add(Definition{File: s.file, Line: sym.NameLine, Symbol: i, Certainty: Scope})
			return true
		}
	}
	return false
}

// ofModuleNamed finds the name in a module that the file knows by a name.
func (s *search) ofModuleNamed(module string) (bool, error) {
	imports := s.Files[s.file].Imports
	last := module[strings.LastIndexAny(module, ".:\\")+1:]
	for n := range imports {
		wanted, whole := broughtBy(s.Files[s.file].Language, &imports[n], module)
		if wanted == "" && !whole {
			wanted, whole = broughtBy(s.Files[s.file].Language, &imports[n], last)
		}
		o := s.origin(s.file, n)
		if o == nil || wanted == "" && !whole || len(o.Files) == 0 {
			continue
		}
		return s.inFiles(o, s.name, Imported, "", 0)
	}
	return false, nil
}

// member finds the name among the members of a type, then of its supertypes.
func (s *search) member(t *typ) error {
	seen := map[[2]int]bool{}
	queue := []typ{*t}
	for len(queue) > 0 && len(seen) < 60 {
		at := queue[0]
		queue = queue[1:]
		if seen[[2]int{at.file, at.symbol}] {
			continue
		}
		seen[[2]int{at.file, at.symbol}] = true
		d, err := s.details(at.file)
		if err != nil {
			return err
		}
		if s.memberOf(at, d) {
			return nil
		}
		if ok, err := s.memberBeside(at, d); ok || err != nil {
			return err
		}
		sym := &d.Outline[at.symbol]
		for _, super := range sym.Supers {
			up, err := s.named(at.file, d, super, sym.NameLine)
			if err != nil {
				return err
			}
			if up != nil {
				queue = append(queue, *up)
			}
		}
	}
	return nil
}

// memberOf looks inside a type's own file.
func (s *search) memberOf(t typ, d *facts.Details) bool {
	owner := &d.Outline[t.symbol]
	best := -1
	for i := range d.Outline {
		m := &d.Outline[i]
		if m.Name != s.name || m.Parent != t.symbol && !strings.HasSuffix(m.Qualified, owner.Name+"."+m.Name) && !strings.HasSuffix(m.Qualified, owner.Name+"::"+m.Name) {
			continue
		}
		if best < 0 || fits(s.use.Role, m.Kind) && !fits(s.use.Role, d.Outline[best].Kind) {
			best = i
		}
	}
	if best < 0 {
		return false
	}
	c := Typed
	if t.file == s.file {
		c = Scope
	} else if s.imports(t.file) {
		c = Imported
	}
	s.add(Definition{File: t.file, Line: d.Outline[best].NameLine, Symbol: best, Certainty: c, Why: "a member of " + owner.Qualified})
	return true
}

// imports tells whether the file imports another, or is of its package.
func (s *search) imports(file int) bool {
	for _, f := range s.Graph.Dependencies(s.file) {
		if int(f) == file {
			return true
		}
	}
	key := packageKey(&s.Files[s.file])
	return key != "" && key == packageKey(&s.Files[file])
}

// memberBeside looks in the other files of a type's package, where its methods
// may stand: Go, Rust, C++ and C#'s parts.
func (s *search) memberBeside(t typ, d *facts.Details) (bool, error) {
	owner := d.Outline[t.symbol].Name
	var beside []int32
	switch f := &s.Files[t.file]; f.Language {
	case "Go", "C#", "Kotlin":
		beside = s.packages[packageKey(f)]
	case "C++", "Rust":
		beside = s.Graph.Dependents(t.file)
	}
	for _, f := range beside {
		if int(f) == t.file || !s.definesIn(int(f), s.name) {
			continue
		}
		other, err := s.details(int(f))
		if err != nil {
			return false, err
		}
		for i := range other.Outline {
			m := &other.Outline[i]
			if m.Name == s.name && (strings.HasSuffix(m.Qualified, owner+"."+m.Name) || strings.HasSuffix(m.Qualified, owner+"::"+m.Name)) {
				s.add(Definition{File: int(f), Line: m.NameLine, Symbol: i, Certainty: Imported, Why: "a member of " + owner})
				return true, nil
			}
		}
	}
	return false, nil
}

// parameterType is the type of a parameter in a signature: "name Type",
// "name: Type", or "Type name", as the language writes it; "": not told.
func parameterType(language, signature, name string) string {
	at := 0
	for {
		i := strings.Index(signature[at:], name)
		if i < 0 {
			return ""
		}
		i += at
		at = i + len(name)
		if i > 0 && word(signature[i-1]) || at < len(signature) && word(signature[at]) {
			continue
		}
		rest, before := signature[at:], strings.TrimRight(signature[:i], " ")
		switch family(language) {
		case "Go":
			if strings.HasPrefix(rest, " ") {
				return strings.TrimSpace(rest)
			}
			// "a, b Type": the type stands behind the last
			if strings.HasPrefix(rest, ", ") {
				for _, next := range strings.Split(rest[2:], ", ") {
					if _, t, ok := strings.Cut(next, " "); ok {
						return t
					}
				}
			}
		case "Node", "Python", "Rust", "Java":
			rest = strings.TrimPrefix(rest, "?")
			if strings.HasPrefix(rest, ":") {
				return strings.TrimSpace(rest[1:])
			}
			if family(language) != "Java" {
				continue
			}
			fallthrough
		default:
			if k := strings.LastIndexAny(before, "(,"); k >= 0 {
				if t := strings.TrimSpace(before[k+1:]); t != "" {
					return t
				}
			}
		}
	}
}

func word(b byte) bool {
	return b == '_' || b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= '0' && b <= '9'
}
