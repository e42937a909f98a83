package origin

import (
	"context"
	"encoding/json"
	"path"
	"sort"
	"strings"

	"juxtagram/core/lang"
)

// nodePackages resolves modules as Node and the TypeScript compiler do: relative
// files with their extensions and index files, tsconfig's paths, a package's
// own imports and exports, the packages of this repository, declared ones.
type nodePackages struct {
	tree     *Tree
	standard map[string]bool
	packages map[string]*nodePackage // by folder
	byName   map[string]*nodePackage
	configs  map[string]*tsConfig // by folder
}

type nodePackage struct {
	folder, manifest string
	text             []byte
	Name             string                         `json:"name"`
	Main             string                         `json:"main"`
	Module           string                         `json:"module"`
	Types            string                         `json:"types"`
	Typings          string                         `json:"typings"`
	Source           string                         `json:"source"`
	Exports          json.RawMessage                `json:"exports"`
	Imports          json.RawMessage                `json:"imports"`
	TypesVersions    map[string]map[string][]string `json:"typesVersions"`
	Dependencies     map[string]string              `json:"dependencies"`
	Dev              map[string]string              `json:"devDependencies"`
	Peer             map[string]string              `json:"peerDependencies"`
	Optional         map[string]string              `json:"optionalDependencies"`
}

func nodeManifest(base string) bool {
	return base == "package.json" || base == "jsconfig.json" || strings.HasPrefix(base, "tsconfig") && strings.HasSuffix(base, ".json")
}

func openNode(_ context.Context, t *Tree) Resolver {
	n := &nodePackages{tree: t, standard: standard("node"), packages: map[string]*nodePackage{}, byName: map[string]*nodePackage{}, configs: map[string]*tsConfig{}}
	for _, p := range t.manifestsNamed(oneOf("package.json")) {
		dir, _ := split(p)
		pkg := &nodePackage{folder: dir, manifest: p, text: t.Manifests[p]}
		if readLoose(t.Manifests[p], pkg) != nil {
			continue
		}
		n.packages[dir] = pkg
		if pkg.Name != "" && !strings.Contains("/"+dir+"/", "/node_modules/") && n.byName[pkg.Name] == nil {
			n.byName[pkg.Name] = pkg
		}
	}
	n.readConfigs()
	return n
}

// The extensions that are tried, in order: a file with types looks for types
// first, any other for what runs.
var (
	typedExtensions = []string{".ts", ".tsx", ".d.ts", ".mts", ".d.mts", ".cts", ".d.cts", ".vue", ".js", ".jsx", ".mjs", ".cjs", ".json", ".svelte", ".node"}
	plainExtensions = []string{".js", ".jsx", ".mjs", ".cjs", ".ts", ".tsx", ".mts", ".cts", ".vue", ".json", ".svelte", ".node", ".d.ts", ".d.mts", ".d.cts"}
)

func (n *nodePackages) Resolve(from *File, i *lang.Import) Origin {
	dir, _ := split(from.Path)
	text, _, _ := strings.Cut(i.Text, "?")
	text = strings.TrimPrefix(text, "!!")
	switch {
	case text == "":
		return Origin{To: Unresolved, Reason: "it names nothing"}
	case strings.HasPrefix(text, "./"), strings.HasPrefix(text, "../"), text == ".", text == "..":
		return n.relative(from, dir, text)
	case strings.HasPrefix(text, "/"):
		return n.rooted(from, dir, text)
	case strings.Contains(text, "://"):
		return Origin{To: Unresolved, Reason: "an address on a network; nothing is fetched"}
	case strings.HasPrefix(text, "node:"), strings.HasPrefix(text, "bun:"), strings.HasPrefix(text, "virtual:"):
		if strings.HasPrefix(text, "virtual:") {
			return Origin{To: ToGenerated, Reason: "a module that a plugin of the bundler makes"}
		}
		return Origin{To: ToStandard, Name: text}
	}
	if o, ok := n.mapped(dir, text, isTyped(from)); ok {
		return o
	}
	if strings.HasPrefix(text, "#") {
		return n.ownImport(from, dir, text)
	}
	name, sub := packageName(text)
	types := "@types/" + strings.ReplaceAll(strings.TrimPrefix(name, "@"), "/", "__")
	for _, kept := range []string{name, types} {
		if o, ok := n.installed(dir, kept, sub, isTyped(from)); ok && (kept == name || isTyped(from)) {
			return o
		}
	}
	if pkg := n.byName[name]; pkg != nil {
		if o, ok := n.inside(pkg, sub, isTyped(from)); ok {
			return o
		}
		return Origin{To: Unresolved, Reason: name + " is in " + orRoot(pkg.folder) + ", but it offers no " + orItself(sub), Near: n.tree.Near(from.Path, path.Base(text))}
	}
	for _, root := range n.tree.Roots {
		if f := n.atPath(path.Join(root, text), isTyped(from)); f >= 0 {
			return Origin{To: ToFile, Files: []int32{f}}
		}
	}
	if first, _, _ := strings.Cut(text, "/"); n.standard[text] || n.standard[first] && n.standard[text] {
		return Origin{To: ToStandard, Name: text}
	}
	if o, ok := n.declared(dir, name); ok {
		return o
	}
	if o, ok := n.declared(dir, types); ok {
		return o
	}
	return Origin{To: Unresolved, Reason: "no package.json above declares " + name, Near: n.nearNames(from, dir, name)}
}

func orItself(sub string) string {
	if sub == "" {
		return "main file that is kept here"
	}
	return sub
}

// packageName parts "@scope/name/sub/path".
func packageName(text string) (name, sub string) {
	parts := strings.SplitN(text, "/", 3)
	if strings.HasPrefix(text, "@") && len(parts) > 1 {
		name = parts[0] + "/" + parts[1]
	} else {
		name = parts[0]
	}
	return name, strings.TrimPrefix(text[len(name):], "/")
}

func (n *nodePackages) relative(from *File, dir, text string) Origin {
	typed := isTyped(from)
	p, ok := join(dir, text)
	if !ok {
		return Origin{To: Unresolved, Reason: "it leads above the repository"}
	}
	if f := n.atPath(p, typed); f >= 0 {
		return Origin{To: ToFile, Files: []int32{f}}
	}
	o := Origin{To: Unresolved, Reason: "there is no " + p + " with any of the usual extensions", Near: n.tree.Near(from.Path, p)}
	if n.tree.IsFolder(p) {
		o.Reason = "the folder " + p + " has no index file"
	}
	if built(p) {
		o.To = ToGenerated
		o.Reason += "; folders of that name are made by the build"
	}
	return o
}

// rooted is a path from the root that a server of pages shows.
func (n *nodePackages) rooted(from *File, dir, text string) Origin {
	typed := isTyped(from)
	for d := range upward(dir) {
		for _, root := range []string{d, path.Join(d, "public")} {
			if p, ok := join(root, "."+text); ok {
				if f := n.atPath(p, typed); f >= 0 {
					return Origin{To: ToFile, Files: []int32{f}, Guess: true, Reason: "if " + orRoot(root) + " is the root of the pages"}
				}
			}
		}
	}
	return Origin{To: Unresolved, Reason: "no folder above holds it", Near: n.tree.Near(from.Path, text)}
}

// isTyped tells a file that the TypeScript compiler reads.
func isTyped(f *File) bool {
	return f.Language == "TypeScript" || f.Language == "TSX" || f.Language == "Vue"
}

// above is the nearest package.json's package.
func (n *nodePackages) above(dir string) *nodePackage {
	for d := range upward(dir) {
		if p := n.packages[d]; p != nil {
			return p
		}
	}
	return nil
}

// installed finds a package that is kept in a node_modules folder above.
func (n *nodePackages) installed(dir, name, sub string, typed bool) (Origin, bool) {
	for d := range upward(dir) {
		folder := path.Join(d, "node_modules", name)
		if !n.tree.IsFolder(folder) {
			continue
		}
		if pkg := n.packages[folder]; pkg != nil {
			if o, ok := n.inside(pkg, sub, typed); ok {
				return o, true
			}
		}
		if f := n.atPath(path.Join(folder, sub), typed); f >= 0 {
			return Origin{To: ToFile, Files: []int32{f}}, true
		}
	}
	return Origin{}, false
}

// ownImport resolves "#name" by the package's own imports.
func (n *nodePackages) ownImport(from *File, dir, text string) Origin {
	typed := isTyped(from)
	if pkg := n.above(dir); pkg != nil && len(pkg.Imports) > 0 {
		for _, t := range exportTargets(pkg.Imports, text, typed) {
			if !strings.HasPrefix(t, ".") {
				return n.Resolve(from, &lang.Import{Text: t})
			}
			if p, ok := join(pkg.folder, t); ok {
				if f := n.atPath(p, typed); f >= 0 {
					return Origin{To: ToFile, Files: []int32{f}}
				}
			}
		}
	}
	return Origin{To: Unresolved, Reason: "the imports of no package.json above name it", Near: n.tree.Near(from.Path, text)}
}

// declared finds a package among the dependencies of the manifests above.
func (n *nodePackages) declared(dir, name string) (Origin, bool) {
	for d := range upward(dir) {
		pkg := n.packages[d]
		if pkg == nil {
			continue
		}
		for _, list := range []struct {
			key   string
			names map[string]string
		}{{"dependencies", pkg.Dependencies}, {"peerDependencies", pkg.Peer}, {"optionalDependencies", pkg.Optional}, {"devDependencies", pkg.Dev}} {
			version, ok := list.names[name]
			if !ok {
				continue
			}
			return Origin{To: ToDependency, Name: name, Version: version, In: pkg.manifest, Line: lineInside(pkg.text, list.key, name)}, true
		}
	}
	return Origin{}, false
}

// lineInside is the line of a key after another key.
func lineInside(text []byte, after, key string) int {
	quoted, _ := json.Marshal(key)
	start := strings.Index(string(text), `"`+after+`"`)
	if start < 0 {
		return lineWith(text, string(quoted))
	}
	i := strings.Index(string(text[start:]), string(quoted))
	if i < 0 {
		return 0
	}
	return strings.Count(string(text[:start+i]), "\n") + 1
}

func (n *nodePackages) nearNames(from *File, dir, name string) []string {
	var names []string
	for d := range upward(dir) {
		if pkg := n.packages[d]; pkg != nil {
			for _, list := range []map[string]string{pkg.Dependencies, pkg.Dev, pkg.Peer} {
				for k := range list {
					names = append(names, k)
				}
			}
		}
	}
	sort.Strings(names)
	near := append(NearNames(name, names), n.tree.Near(from.Path, name)...)
	return near[:min(len(near), maxNear)]
}
