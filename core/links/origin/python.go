package origin

import (
	"context"
	"fmt"
	"path"
	"regexp"
	"sort"
	"strings"

	"juxtagram/core/decode"
	"juxtagram/core/lang"
)

// pythonModules resolves Python imports as the import system's path finder
// would: beside the file's own top package first, then the standard library,
// then the projects' folders, then what a manifest declares.
type pythonModules struct {
	tree     *Tree
	standard map[string]bool
	roots    []string                   // folders of projects and their src/, in path order
	stems    map[string]bool            // first names that some file or folder has
	built    map[string]Origin          // dotted module → the sources that a build file makes it of
	declared map[string][]pythonDeclare // folded distribution name → where
}

type pythonDeclare struct {
	name, version, manifest string
	line                    int
}

var requirementsFile = regexp.MustCompile(`^(?:requirements|constraints|dev-requirements|test-requirements)[\w.-]*\.(?:txt|in)$`)

func pythonManifest(base string) bool {
	switch base {
	case "pyproject.toml", "setup.py", "setup.cfg", "Pipfile", "environment.yml":
		return true
	}
	return requirementsFile.MatchString(base)
}

func openPython(ctx context.Context, t *Tree) Resolver {
	p := &pythonModules{tree: t, standard: standard("python"), declared: map[string][]pythonDeclare{}, built: map[string]Origin{}}
	roots := map[string]bool{"": true, "src": t.IsFolder("src")}
	for _, r := range t.Roots {
		roots[r] = true
	}
	p.stems = map[string]bool{}
	for i := range t.Files {
		p.stems[stemOf(path.Base(t.Files[i].Path))] = true
	}
	for d := range t.folders {
		p.stems[path.Base(d)] = true
	}
	for _, m := range t.manifestsNamed(pythonManifest) {
		dir, base := split(m)
		if base == "pyproject.toml" || base == "setup.py" || base == "setup.cfg" {
			roots[dir] = true
			for _, sub := range []string{"src", "lib", "python"} {
				if s := path.Join(dir, sub); t.IsFolder(s) {
					roots[s] = true
				}
			}
		}
		p.declare(ctx, m, t.Manifests[m])
		p.extensions(m, dir, t.Manifests[m])
	}
	for r, ok := range roots {
		if ok {
			p.roots = append(p.roots, r)
		}
	}
	sort.Strings(p.roots)
	return p
}

// extension is a module that is compiled, with the first of its sources.
var extension = regexp.MustCompile(`Extension\(\s*(?:name\s*=\s*)?["']([\w.]+)["']\s*,\s*(?:sources\s*=\s*)?\[\s*["']([^"']+)["']`)

// extensions finds the compiled modules that a build file names.
func (p *pythonModules) extensions(manifest, dir string, content []byte) {
	for _, m := range extension.FindAllSubmatchIndex(content, -1) {
		name, source := string(content[m[2]:m[3]]), string(content[m[4]:m[5]])
		at, ok := join(dir, source)
		f := p.tree.Find(at)
		if !ok || f < 0 {
			continue
		}
		line := strings.Count(string(content[:m[2]]), "\n") + 1
		p.built[name] = Origin{To: ToBinary, Files: []int32{f}, In: manifest, Line: line, Reason: fmt.Sprintf("compiled from %s, as %s:%d says", at, manifest, line)}
	}
}

// requirement is a name and what of it is wanted: "numpy[x] >= 1.2; …".
var requirement = regexp.MustCompile(`^\s*["']?([A-Za-z0-9][\w.-]*)\s*(?:\[[^\]]*\])?\s*((?:===|==|~=|>=|<=|!=|<|>)[^;"'#]*)?`)

func (p *pythonModules) declare(ctx context.Context, manifest string, content []byte) {
	add := func(text string) {
		m := requirement.FindStringSubmatch(text)
		if m == nil {
			return
		}
		key := foldDistribution(m[1])
		line := lineWith(content, m[1])
		p.declared[key] = append(p.declared[key], pythonDeclare{m[1], strings.TrimSpace(m[2]), manifest, line})
	}
	switch base := path.Base(manifest); {
	case base == "pyproject.toml":
		var f struct {
			Project struct {
				Dependencies []string
				Optional     map[string][]string `json:"optional-dependencies"`
			}
			Groups map[string]any `json:"dependency-groups"`
			Tool   struct {
				Poetry map[string]any
			}
			Build struct{ Requires []string } `json:"build-system"`
		}
		if err := decode.TOML(ctx, content, &f); err != nil {
			return
		}
		for _, d := range append(f.Project.Dependencies, f.Build.Requires...) {
			add(d)
		}
		for _, list := range f.Project.Optional {
			for _, d := range list {
				add(d)
			}
		}
		for _, list := range f.Groups {
			names, _ := list.([]any)
			for _, d := range names {
				if s, ok := d.(string); ok {
					add(s)
				}
			}
		}
		p.poetry(f.Tool.Poetry, add)
	case base == "setup.py" || base == "setup.cfg":
		for _, m := range quotedRequirement.FindAllStringSubmatch(string(content), -1) {
			add(m[1])
		}
		if base == "setup.cfg" {
			for _, l := range strings.Split(string(content), "\n") {
				if len(l) > 0 && (l[0] == ' ' || l[0] == '\t') && !strings.ContainsAny(l, ":/") {
					add(l)
				}
			}
		}
	default:
		for _, l := range strings.Split(string(content), "\n") {
			l = strings.TrimLeft(l, " \t-")
			if base == "Pipfile" || base == "environment.yml" {
				l = strings.NewReplacer(" = ", " ", `"*"`, "").Replace(l)
			}
			if l != "" && l[0] != '#' && l[0] != '[' {
				add(l)
			}
		}
	}
}

var quotedRequirement = regexp.MustCompile(`["']([A-Za-z0-9][\w.-]*\s*(?:\[[^\]]*\])?\s*(?:(?:==|~=|>=|<=|!=|<|>)[^"';]*)?)["']`)

func (p *pythonModules) poetry(tool map[string]any, add func(string)) {
	tables := []any{tool["dependencies"], tool["dev-dependencies"]}
	if groups, ok := tool["group"].(map[string]any); ok {
		for _, g := range groups {
			if table, ok := g.(map[string]any); ok {
				tables = append(tables, table["dependencies"])
			}
		}
	}
	for _, t := range tables {
		table, _ := t.(map[string]any)
		for name, v := range table {
			version, _ := v.(string)
			add(name + strings.NewReplacer("^", ">=", "*", "").Replace(version))
		}
	}
}

func foldDistribution(name string) string {
	return strings.NewReplacer("_", "-", ".", "-").Replace(strings.ToLower(name))
}

// distributions are packages whose name is not that of the module they bring.
var distributions = map[string]string{
	"yaml": "pyyaml", "PIL": "pillow", "cv2": "opencv-python", "sklearn": "scikit-learn", "bs4": "beautifulsoup4", "dateutil": "python-dateutil", "dotenv": "python-dotenv",
	"serial": "pyserial", "usb": "pyusb", "git": "gitpython", "jwt": "pyjwt", "OpenSSL": "pyopenssl", "Crypto": "pycryptodome", "MySQLdb": "mysqlclient", "psycopg2": "psycopg2-binary",
	"skimage": "scikit-image", "magic": "python-magic", "docx": "python-docx", "pptx": "python-pptx", "google": "protobuf", "zmq": "pyzmq", "attr": "attrs", "pkg_resources": "setuptools", "mpl_toolkits": "matplotlib",
	"markdown": "markdown", "multipart": "python-multipart", "jose": "python-jose", "ldap": "python-ldap", "gi": "pygobject", "wx": "wxpython", "smbus": "smbus2", "lxml": "lxml", "_pytest": "pytest", "typing_extensions": "typing-extensions",
}

func (p *pythonModules) Resolve(from *File, i *lang.Import) Origin {
	dir, _ := split(from.Path)
	text := i.Text
	if strings.HasPrefix(text, ".") {
		return p.relative(from, dir, i)
	}
	first, _, _ := strings.Cut(text, ".")
	if o, ok := p.built[text]; ok {
		return o
	}
	if len(i.Names) == 1 {
		if o, ok := p.built[text+"."+i.Names[0].Name]; ok {
			return o
		}
	}
	if !p.stems[first] {
		return p.elsewhere(from, dir, first, text)
	}
	own := p.topFolder(dir)
	if o, ok := p.below(own, text, i.Names); ok {
		return o
	}
	if p.standard[first] {
		return Origin{To: ToStandard, Name: text}
	}
	for _, root := range p.rootsFor(dir) {
		if o, ok := p.below(root, text, i.Names); ok {
			return o
		}
	}
	if o, ok := p.dependency(dir, first); ok {
		return o
	}
	// a script is often run from the folder above, or with its own folder's
	// neighbours on the path
	for up := range upward(dir) {
		if o, ok := p.below(up, text, i.Names); ok {
			o.Guess, o.Reason = true, "if "+orRoot(up)+" is on the path"
			return o
		}
	}
	for _, lib := range []string{"lib", "src", "python", "Lib"} {
		for up := range upward(dir) {
			if o, ok := p.below(path.Join(up, lib), text, i.Names); ok {
				o.Guess, o.Reason = true, "if "+path.Join(up, lib)+" is on the path"
				return o
			}
		}
	}
	return p.elsewhere(from, dir, first, text)
}

// elsewhere resolves what no path of the repository can be.
func (p *pythonModules) elsewhere(from *File, dir, first, text string) Origin {
	if p.standard[first] {
		return Origin{To: ToStandard, Name: text}
	}
	if o, ok := p.dependency(dir, first); ok {
		return o
	}
	reason := "no module of this repository, not in the standard library, and no manifest declares " + first
	return Origin{To: Unresolved, Reason: reason, Near: p.near(from, text)}
}

func (p *pythonModules) near(from *File, text string) []string {
	return p.tree.Near(from.Path, text[strings.LastIndexByte(text, '.')+1:])
}

func (p *pythonModules) relative(from *File, dir string, i *lang.Import) Origin {
	rest := strings.TrimLeft(i.Text, ".")
	base := dir
	for range len(i.Text) - len(rest) - 1 {
		if base == "" {
			return Origin{To: Unresolved, Reason: "it leads above the repository"}
		}
		base, _ = split(base)
	}
	if rest == "" {
		if o, ok := p.module(base, i.Names); ok {
			return o
		}
		return Origin{To: Unresolved, Reason: orRoot(base) + " holds no module of that name", Near: p.nearNames(from, i)}
	}
	if o, ok := p.below(base, rest, i.Names); ok {
		return o
	}
	return Origin{To: Unresolved, Reason: "there is no " + path.Join(base, strings.ReplaceAll(rest, ".", "/")) + ".py", Near: p.near(from, rest)}
}

func (p *pythonModules) nearNames(from *File, i *lang.Import) []string {
	for _, n := range i.Names {
		if near := p.near(from, n.Name); len(near) > 0 {
			return near
		}
	}
	return nil
}

// below resolves a dotted name below a folder.
func (p *pythonModules) below(root, text string, names []lang.Imported) (Origin, bool) {
	return p.module(path.Join(root, strings.ReplaceAll(text, ".", "/")), names)
}

// module is a package or module at a path without extension; names that are
// modules inside it are part of the origin.
func (p *pythonModules) module(at string, names []lang.Imported) (Origin, bool) {
	at = clean(at)
	o := Origin{To: ToFile}
	init := p.first(path.Join(at, "__init__"))
	if init >= 0 {
		o.Files = append(o.Files, init)
	} else if at != "" {
		if f := p.first(at); f >= 0 {
			return Origin{To: ToFile, Files: []int32{f}}, true
		}
	}
	if !p.tree.IsFolder(at) {
		return o, len(o.Files) > 0
	}
	for _, n := range names {
		if n.Name == "*" {
			continue
		}
		for _, sub := range []string{path.Join(at, n.Name), path.Join(at, n.Name, "__init__")} {
			if f := p.first(clean(sub)); f >= 0 {
				o.Files = append(o.Files, f)
				break
			}
		}
	}
	if init < 0 && len(o.Files) == 0 {
		// a namespace package: every module inside may be meant
		if len(names) > 0 {
			return o, false
		}
		for _, f := range p.tree.inside[at] {
			if p.tree.Files[f].Language == "Python" {
				o.Files = append(o.Files, f)
			}
		}
		if at == "" {
			return o, false
		}
		o.Reason = "a namespace package"
	}
	return o, len(o.Files) > 0
}

// first is the file of a module: source, stub, Cython or compiled.
func (p *pythonModules) first(stem string) int32 {
	for _, ext := range []string{".py", ".pyi", ".pyx", ".pyw", ".pyd", ".so"} {
		if f := p.tree.Find(stem + ext); f >= 0 {
			return f
		}
	}
	dir, base := split(stem)
	for _, f := range p.tree.inside[dir] {
		if name := path.Base(p.tree.Files[f].Path); strings.HasPrefix(name, base+".") && (strings.HasSuffix(name, ".so") || strings.HasSuffix(name, ".pyd")) {
			return f
		}
	}
	return -1
}

// topFolder is the folder that holds a file's top package, or the file itself.
func (p *pythonModules) topFolder(dir string) string {
	for dir != "" && p.first(path.Join(dir, "__init__")) >= 0 {
		dir, _ = split(dir)
	}
	return dir
}

// rootsFor are the projects' folders, those above the file first.
func (p *pythonModules) rootsFor(dir string) []string {
	above := func(r string) bool { return r == "" || dir == r || strings.HasPrefix(dir+"/", r+"/") }
	out := append([]string{}, p.roots...)
	sort.SliceStable(out, func(i, j int) bool {
		a, b := above(out[i]), above(out[j])
		if a != b {
			return a
		}
		return a && len(out[i]) > len(out[j])
	})
	return out
}

// dependency finds the distribution that brings a module; the manifest nearest
// to the file counts.
func (p *pythonModules) dependency(dir, module string) (Origin, bool) {
	for _, name := range []string{distributions[module], module, "python-" + module, "py" + module, "types-" + module} {
		all := p.declared[foldDistribution(name)]
		if name == "" || len(all) == 0 {
			continue
		}
		best, nearest := all[0], 1<<30
		for _, d := range all {
			if far := distance(path.Join(dir, "x"), d.manifest); far < nearest {
				best, nearest = d, far
			}
		}
		return Origin{To: ToDependency, Name: best.name, Version: best.version, In: best.manifest, Line: best.line}, true
	}
	return Origin{}, false
}
