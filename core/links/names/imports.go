package names

import (
	"path"
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// maxHops is how many re-exports are followed.
const maxHops = 6

// fromImports finds a name among those that a file's imports bring by name.
func (s *search) fromImports(file int, name string, c Certainty, hop int) (bool, error) {
	if hop > maxHops {
		return false, nil
	}
	imports := s.Files[file].Imports
	some := false
	for n := range imports {
		i := &imports[n]
		wanted, whole := broughtBy(s.Files[file].Language, i, name)
		if wanted == "" && !whole {
			continue
		}
		o := s.origin(file, n)
		if o == nil {
			continue
		}
		if len(o.Files) == 0 {
			if hop == 0 && s.out.Origin == nil {
				s.out.Origin, s.out.Through = o, i.Text
			}
			continue
		}
		if whole {
			// the name is the module's own
			s.add(Definition{File: int(o.Files[0]), Line: 1, Symbol: -1, Certainty: c, Why: "the module itself"})
			return true, nil
		}
		ok, err := s.inFiles(o, wanted, c, "imported from here", hop)
		if err != nil {
			return false, err
		}
		if !ok && hop == 0 {
			if s.out.Origin == nil {
				s.out.Origin, s.out.Through = s.missing(o, i, wanted), i.Text
			}
		}
		some = some || ok
	}
	return some, nil
}

// missing says that a file was found, but not the name in it.
func (s *search) missing(o *origin.Origin, i *lang.Import, name string) *origin.Origin {
	var names []string
	for _, f := range o.Files[:min(len(o.Files), maxLooked)] {
		if d, err := s.details(int(f)); err == nil {
			for k := range d.Outline {
				if atTop(d, k) {
					names = append(names, d.Outline[k].Name)
				}
			}
		}
	}
	return &origin.Origin{To: origin.Unresolved, Reason: s.Files[o.Files[0]].Path + " makes no " + name, Near: origin.NearNames(name, names)}
}

// inFiles finds a name in the files of an origin, following what they hand on.
func (s *search) inFiles(o *origin.Origin, name string, c Certainty, why string, hop int) (bool, error) {
	if name == "default" && len(o.Files) == 1 && family(s.Files[s.file].Language) == "Node" {
		if ok, err := s.byDefault(int(o.Files[0]), c); ok || err != nil {
			return ok, err
		}
	}
	some := false
	for _, f := range o.Files {
		if !s.definesIn(int(f), name) {
			continue
		}
		ok, err := s.top(int(f), name, c, why)
		if err != nil {
			return false, err
		}
		some = some || ok
	}
	if some || hop > maxHops {
		return some, nil
	}
	for _, f := range o.Files {
		// a module imported by name: "from package import module"
		if base := path.Base(s.Files[f].Path); strings.TrimSuffix(base, path.Ext(base)) == name && s.Files[f].Language == "Python" {
			s.add(Definition{File: int(f), Line: 1, Symbol: -1, Certainty: c, Why: "the module itself"})
			return true, nil
		}
		if !handsOn(s.Files[f].Language) {
			continue
		}
		ok, err := s.handedOn(int(f), name, c, hop+1)
		if ok || err != nil {
			return ok, err
		}
	}
	return false, nil
}

// byDefault finds what a module exports by default: what is declared so, else
// the symbol that the importing name, or the file, is called by.
func (s *search) byDefault(file int, c Certainty) (bool, error) {
	d, err := s.details(file)
	if err != nil {
		return false, err
	}
	stem := path.Base(s.Files[file].Path)
	stem, _, _ = strings.Cut(stem, ".")
	named := -1
	for i := range d.Outline {
		sym := &d.Outline[i]
		if sym.Parent >= 0 {
			continue
		}
		if sym.Name == "default" || strings.HasPrefix(sym.Signature, "export default ") {
			s.add(Definition{File: file, Line: sym.NameLine, Symbol: i, Certainty: c, Why: "exported by default"})
			return true, nil
		}
		if sym.Name == s.name || named < 0 && sym.Name == stem {
			named = i
		}
	}
	if named >= 0 {
		s.add(Definition{File: file, Line: d.Outline[named].NameLine, Symbol: named, Certainty: c, Why: "the name of what the module exports by default"})
	}
	return named >= 0, nil
}

// handsOn tells the languages in which a file offers what it imports.
func handsOn(language string) bool {
	switch family(language) {
	case "Node", "Python", "C", "Rust":
		return true
	}
	return false
}

// handedOn follows the imports by which a file offers a name that others make.
func (s *search) handedOn(file int, name string, c Certainty, hop int) (bool, error) {
	if s.asked[handed{file, name}] {
		return false, nil // files may hand on to each other in circles
	}
	s.asked[handed{file, name}] = true
	f := &s.Files[file]
	for n := range f.Imports {
		i := &f.Imports[n]
		if family(f.Language) == "Node" && !i.Reexport || f.Language == "Rust" && !i.Reexport {
			continue
		}
		wanted, _ := broughtBy(f.Language, i, name)
		if wanted == "" && all(i) || family(f.Language) == "C" {
			wanted = name
		}
		if wanted == "" {
			continue
		}
		if o := s.origin(file, n); o != nil && len(o.Files) > 0 {
			ok, err := s.inFiles(o, wanted, c, "imported through "+f.Path, hop)
			if ok || err != nil {
				return ok, err
			}
		}
	}
	return false, nil
}

// all tells an import that brings everything the other module offers.
func all(i *lang.Import) bool {
	return strings.HasSuffix(i.Text, "*") || len(i.Names) == 1 && i.Names[0].Name == "*" && i.Names[0].As == ""
}

// broughtBy is what an import calls, in the other module, the name that a file
// knows: "" it does not bring it; whole: the name is the module itself.
func broughtBy(language string, i *lang.Import, name string) (wanted string, whole bool) {
	for k := range i.Names {
		n := &i.Names[k]
		as := n.As
		if as == "" {
			as = n.Name
		}
		if as == name {
			if n.Name == "*" || language == "Go" {
				return "", true
			}
			return n.Name, false
		}
	}
	switch language {
	case "Go":
		if len(i.Names) == 0 && goName(i.Text) == name {
			return "", true
		}
	case "Python":
		if first, _, _ := strings.Cut(i.Text, "."); len(i.Names) == 0 && first == name {
			return "", true
		}
	case "Java", "Kotlin", "Scala", "Groovy", "C#", "PHP":
		if len(i.Names) == 0 && i.Text[strings.LastIndexAny(i.Text, `.\`)+1:] == name {
			return name, false
		}
	}
	return "", false
}

// goName is the name that a package most likely has: the last part of its path
// that is no version.
func goName(text string) string {
	base := path.Base(text)
	if len(base) > 1 && base[0] == 'v' && strings.Trim(base[1:], "0123456789") == "" && strings.Contains(text, "/") {
		base = path.Base(path.Dir(text))
	}
	if at := strings.LastIndex(base, ".v"); at > 0 && strings.HasPrefix(text, "gopkg.in/") {
		base = base[:at]
	}
	base = strings.TrimPrefix(strings.TrimSuffix(base, "-go"), "go-")
	return base[strings.LastIndexByte(base, '-')+1:]
}

// spread looks where everything that a file takes in is visible: wildcards,
// includes and what those include.
func (s *search) spread(file int) error {
	seen := map[int]bool{file: true}
	queue := []int{file}
	for hops := 0; len(queue) > 0 && hops < 400; hops++ {
		at := queue[0]
		queue = queue[1:]
		f := &s.Files[at]
		open := family(f.Language) == "C" || f.Language == "Ruby" || f.Language == "Lua" || f.Language == "PHP" || f.Language == "Shell" || f.Language == "Protocol Buffers"
		for n := range f.Imports {
			i := &f.Imports[n]
			if !open && !all(i) {
				continue
			}
			o := s.origin(at, n)
			if o == nil {
				continue
			}
			for _, to := range o.Files {
				if seen[int(to)] {
					continue
				}
				seen[int(to)] = true
				if s.definesIn(int(to), s.name) {
					ok, err := s.top(int(to), s.name, Imported, "everything of "+s.Files[to].Path+" is taken in")
					if err != nil {
						return err
					}
					if ok {
						return s.bodies()
					}
				}
				queue = append(queue, int(to))
			}
		}
	}
	return nil
}

// bodies adds, for a C declaration, the definitions of the same name in files
// that include the header.
func (s *search) bodies() error {
	if family(s.Files[s.file].Language) != "C" || len(s.out.Definitions) == 0 {
		return nil
	}
	header := s.out.Definitions[0].File
	if !strings.HasPrefix(path.Ext(s.Files[header].Path), ".h") {
		return nil
	}
	for _, f := range s.Graph.Dependents(header) {
		if s.definesIn(int(f), s.name) {
			if _, err := s.top(int(f), s.name, Imported, "its body, in a file that includes the declaration"); err != nil {
				return err
			}
		}
	}
	return nil
}

// ofImport resolves a name that stands in an import itself.
func (s *search) ofImport() error {
	imports := s.Files[s.file].Imports
	for n := range imports {
		i := &imports[n]
		if int(s.use.Line) < i.Line || int(s.use.Line) > i.EndLine {
			continue
		}
		o := s.origin(s.file, n)
		if o == nil {
			continue
		}
		for k := range i.Names {
			if (i.Names[k].Name == s.name || i.Names[k].As == s.name) && len(o.Files) > 0 && i.Names[k].Name != "*" {
				ok, err := s.inFiles(o, i.Names[k].Name, Imported, "imported from here", 0)
				if err != nil {
					return err
				}
				if !ok {
					s.out.Origin, s.out.Through = s.missing(o, i, i.Names[k].Name), i.Text
				}
				return nil
			}
		}
		if len(o.Files) > 0 && (strings.Contains(i.Text, s.name) || len(i.Names) > 0) {
			s.add(Definition{File: int(o.Files[0]), Line: 1, Symbol: -1, Certainty: Imported, Why: "the module itself"})
			return nil
		}
		if len(o.Files) == 0 {
			s.out.Origin, s.out.Through = o, i.Text
			return nil
		}
	}
	return nil
}
