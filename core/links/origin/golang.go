package origin

import (
	"context"
	"path"
	"sort"
	"strings"

	"golang.org/x/mod/modfile"

	"juxtagram/core/lang"
)

// goModules resolves Go imports as the go command would, but for build
// constraints: a package is all files of its folder that are no tests.
type goModules struct {
	tree     *Tree
	standard map[string]bool
	modules  map[string]*goModule // by folder
	byPath   []*goModule          // longest module path first
	works    map[string][]string  // folder of a go.work → folders it uses
}

type goModule struct {
	folder, path, manifest string
	requires               map[string]goRequire
	replaces               map[string]string // module path → folder of this repository
}

type goRequire struct {
	version string
	line    int
}

func openGo(_ context.Context, t *Tree) Resolver {
	g := &goModules{tree: t, standard: standard("go"), modules: map[string]*goModule{}, works: map[string][]string{}}
	for _, p := range t.manifestsNamed(oneOf("go.mod")) {
		if m := readGoMod(p, t.Manifests[p]); m != nil {
			g.modules[m.folder] = m
			g.byPath = append(g.byPath, m)
		}
	}
	sort.SliceStable(g.byPath, func(i, j int) bool { return len(g.byPath[i].path) > len(g.byPath[j].path) })
	for _, p := range t.manifestsNamed(oneOf("go.work")) {
		dir, _ := split(p)
		w, err := modfile.ParseWork(p, t.Manifests[p], nil)
		if err != nil {
			continue
		}
		for _, u := range w.Use {
			if folder, ok := join(dir, u.Path); ok {
				g.works[dir] = append(g.works[dir], folder)
			}
		}
	}
	return g
}

func readGoMod(p string, content []byte) *goModule {
	f, err := modfile.ParseLax(p, content, nil)
	if err != nil || f.Module == nil {
		return nil
	}
	dir, _ := split(p)
	m := &goModule{folder: dir, path: f.Module.Mod.Path, manifest: p, requires: map[string]goRequire{}, replaces: map[string]string{}}
	for _, r := range f.Require {
		m.requires[r.Mod.Path] = goRequire{r.Mod.Version, r.Syntax.Start.Line}
	}
	for _, l := range strings.Split(string(content), "\n") {
		// ParseLax leaves replacements out, as the go command does for dependencies
		if from, to, ok := strings.Cut(l, "=>"); ok {
			words := strings.Fields(strings.TrimPrefix(strings.TrimSpace(from), "replace"))
			if to = strings.TrimSpace(to); len(words) > 0 && (strings.HasPrefix(to, "./") || strings.HasPrefix(to, "../")) {
				to, _, _ = strings.Cut(to, "//")
				if folder, ok := join(dir, strings.TrimSpace(to)); ok {
					m.replaces[strings.Trim(words[0], `"`)] = folder
				}
			}
		}
	}
	return m
}

func (g *goModules) Resolve(from *File, i *lang.Import) Origin {
	dir, _ := split(from.Path)
	m := g.moduleOf(dir)
	switch {
	case i.Text == "C":
		return Origin{To: ToStandard, Name: "C, through cgo"}
	case strings.HasPrefix(i.Text, "./"), strings.HasPrefix(i.Text, "../"):
		if folder, ok := join(dir, i.Text); ok {
			return g.folder(from, folder, i.Text)
		}
	case m != nil && m.path == "std":
		// the standard library itself
		for _, folder := range []string{path.Join(m.folder, i.Text), path.Join(m.folder, "vendor", i.Text)} {
			if files := g.files(folder); len(files) > 0 {
				return Origin{To: ToFile, Files: files}
			}
		}
	case g.standard[i.Text]:
		return Origin{To: ToStandard, Name: i.Text}
	}
	if m == nil {
		return g.byPathAlone(from, i.Text)
	}
	rest, own := below(i.Text, m.path)
	if own {
		if folder := clean(path.Join(m.folder, rest)); g.moduleOf(folder) == m {
			if files := g.files(folder); len(files) > 0 {
				return Origin{To: ToFile, Files: files}
			}
		}
	}
	for d := range upward(dir) {
		if files := g.files(path.Join(d, "vendor", i.Text)); len(files) > 0 {
			return Origin{To: ToFile, Files: files}
		}
		if d == m.folder {
			break
		}
	}
	if o, ok := g.local(m, i.Text); ok {
		return o
	}
	o := g.required(from, m, i.Text)
	if own && o.To == Unresolved {
		return g.folder(from, clean(path.Join(m.folder, rest)), i.Text)
	}
	return o
}

// local finds a package of another module of this repository, which a
// workspace or a replacement leads to.
func (g *goModules) local(m *goModule, text string) (Origin, bool) {
	used := map[string]bool{}
	for d := range upward(m.folder) {
		if folders, ok := g.works[d]; ok {
			for _, f := range folders {
				used[f] = true
			}
			break
		}
	}
	for _, other := range g.byPath {
		rest, ok := below(text, other.path)
		if !ok || !used[other.folder] && m.replaces[other.path] != other.folder {
			continue
		}
		if _, replaced := m.replaces[other.path]; !replaced && !used[m.folder] {
			continue
		}
		if files := g.files(path.Join(other.folder, rest)); len(files) > 0 {
			return Origin{To: ToFile, Files: files}, true
		}
	}
	// a replacement may give a module another path than its own
	for name, folder := range m.replaces {
		if rest, ok := below(text, name); ok {
			if files := g.files(path.Join(folder, rest)); len(files) > 0 {
				return Origin{To: ToFile, Files: files}, true
			}
		}
	}
	return Origin{}, false
}

// required finds the module that a package belongs to among those required.
func (g *goModules) required(from *File, m *goModule, text string) Origin {
	for name := text; name != "." && name != "/"; name = path.Dir(name) {
		r, ok := m.requires[name]
		if !ok {
			continue
		}
		o := Origin{To: ToDependency, Name: name, Version: r.version, In: m.manifest, Line: r.line}
		for _, other := range g.byPath {
			if rest, ok := below(text, other.path); ok && other.path == name {
				o.Files = g.files(path.Join(other.folder, rest))
				o.Reason = "its source is in this repository too, in " + orRoot(other.folder)
			}
		}
		return o
	}
	o := Origin{To: Unresolved, Reason: m.manifest + " requires no module that holds it", Near: g.tree.Near(from.Path, text)}
	if first, _, _ := strings.Cut(text, "/"); !strings.Contains(first, ".") {
		var names []string
		for n := range g.standard {
			names = append(names, n)
		}
		sort.Strings(names)
		o.Reason, o.Near = "the standard library has no such package", append(NearNames(text, names), o.Near...)
		o.Near = o.Near[:min(len(o.Near), maxNear)]
	}
	return o
}

// byPathAlone guesses where no module is declared: the path's end names a
// folder.
func (g *goModules) byPathAlone(from *File, text string) Origin {
	if first, _, _ := strings.Cut(text, "/"); !strings.Contains(first, ".") && g.tree.folders[text] == false {
		if g.standard[text] {
			return Origin{To: ToStandard, Name: text}
		}
	}
	dir, _ := split(from.Path)
	for d := range upward(dir) {
		if files := g.files(path.Join(d, "vendor", text)); len(files) > 0 {
			return Origin{To: ToFile, Files: files}
		}
	}
	for rest := text; rest != ""; {
		if files := g.files(rest); len(files) > 0 {
			return Origin{To: ToFile, Files: files, Guess: true, Reason: "no go.mod above; the folder " + rest + " ends like it"}
		}
		_, after, ok := strings.Cut(rest, "/")
		if !ok {
			break
		}
		rest = after
	}
	return Origin{To: Unresolved, Reason: "no go.mod above it says what it needs", Near: g.tree.Near(from.Path, text)}
}

func (g *goModules) folder(from *File, folder, text string) Origin {
	if files := g.files(folder); len(files) > 0 {
		return Origin{To: ToFile, Files: files}
	}
	reason := "there is no folder " + orRoot(folder)
	if g.tree.IsFolder(folder) {
		reason = "the folder " + orRoot(folder) + " holds no Go files but tests"
	}
	return Origin{To: Unresolved, Reason: reason, Near: g.tree.Near(from.Path, text)}
}

// files are the Go files of a folder that are no tests.
func (g *goModules) files(folder string) []int32 {
	var out []int32
	for _, i := range g.tree.inside[clean(folder)] {
		f := &g.tree.Files[i]
		if base := path.Base(f.Path); f.Language == "Go" && !strings.HasSuffix(base, "_test.go") && !strings.HasPrefix(base, "_") && !strings.HasPrefix(base, ".") {
			out = append(out, i)
		}
	}
	return out
}

func (g *goModules) moduleOf(dir string) *goModule {
	for d := range upward(dir) {
		if m := g.modules[d]; m != nil {
			return m
		}
	}
	return nil
}

// below is what of an import path comes after a module's path.
func below(text, module string) (string, bool) {
	if text == module {
		return "", true
	}
	rest, ok := strings.CutPrefix(text, module+"/")
	return rest, ok
}

func clean(folder string) string {
	if folder == "." {
		return ""
	}
	return folder
}

func orRoot(folder string) string {
	if folder == "" || folder == "." {
		return "the root folder"
	}
	return folder
}
