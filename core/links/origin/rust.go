package origin

import (
	"context"
	"path"
	"regexp"
	"sort"
	"strings"

	"juxtagram/core/decode"
	"juxtagram/core/lang"
)

// rustCrates resolves paths of modules: crate, self, super and the names of
// crates, which manifests declare.
type rustCrates struct {
	tree   *Tree
	crates map[string]*rustCrate // by folder
	byName map[string]*rustCrate // name with underscores
}

type rustCrate struct {
	folder, name, manifest string
	text                   []byte
	root                   string // path of lib.rs or main.rs; "": none
	depends                map[string]rustDepend
}

type rustDepend struct{ version, path string }

func openRust(ctx context.Context, t *Tree) Resolver {
	r := &rustCrates{tree: t, crates: map[string]*rustCrate{}, byName: map[string]*rustCrate{}}
	for _, p := range t.manifestsNamed(oneOf("Cargo.toml")) {
		var f map[string]any
		if err := decode.TOML(ctx, t.Manifests[p], &f); err != nil {
			continue
		}
		dir, _ := split(p)
		c := &rustCrate{folder: dir, manifest: p, text: t.Manifests[p], depends: map[string]rustDepend{}}
		if pkg, ok := f["package"].(map[string]any); ok {
			c.name, _ = pkg["name"].(string)
		}
		lib, _ := f["lib"].(map[string]any)
		libPath, _ := lib["path"].(string)
		for _, at := range []string{libPath, "src/lib.rs", "src/main.rs", "lib.rs"} {
			if q := path.Join(dir, at); at != "" && t.Find(q) >= 0 && c.root == "" {
				c.root = q
			}
		}
		r.depends(c, f)
		r.crates[dir] = c
		if c.name != "" && r.byName[underscored(c.name)] == nil {
			r.byName[underscored(c.name)] = c
		}
	}
	return r
}

// depends gathers the dependencies of a manifest, those for some targets and of
// a workspace among them.
func (r *rustCrates) depends(c *rustCrate, f map[string]any) {
	for key, v := range f {
		table, _ := v.(map[string]any)
		switch {
		case strings.HasSuffix(key, "dependencies"):
			for name, d := range table {
				dep := rustDepend{}
				switch d := d.(type) {
				case string:
					dep.version = d
				case map[string]any:
					dep.version, _ = d["version"].(string)
					dep.path, _ = d["path"].(string)
				}
				c.depends[underscored(name)] = dep
			}
		case key == "workspace":
			r.depends(c, table)
		case key == "target":
			for _, t := range table {
				if inner, ok := t.(map[string]any); ok {
					r.depends(c, inner)
				}
			}
		}
	}
}

func underscored(name string) string { return strings.ReplaceAll(name, "-", "_") }

func (r *rustCrates) Resolve(from *File, i *lang.Import) Origin {
	parts := strings.Split(strings.TrimPrefix(strings.TrimSuffix(i.Text, "::*"), "::"), "::")
	dir, _ := split(from.Path)
	own := r.crateOf(dir)
	first := parts[0]
	switch {
	case first == "std" || first == "core" || first == "alloc" || first == "proc_macro" || first == "test":
		return Origin{To: ToStandard, Name: i.Text}
	case first == "crate":
		if own != nil {
			root := r.rootFor(own, from.Path)
			if o, ok := r.walk(root, r.childFolder(root), parts[1:]); ok {
				return o
			}
		}
		return r.none(from, parts, "the crate has no module of that path")
	case first == "self" || first == "super":
		at, folder := from.Path, r.childFolder(from.Path)
		for len(parts) > 0 && (parts[0] == "self" || parts[0] == "super") {
			if parts[0] == "super" {
				at, folder = r.parent(at)
			}
			parts = parts[1:]
		}
		if o, ok := r.walk(at, folder, parts); ok {
			return o
		}
		return r.none(from, parts, "no module of that path")
	}
	if f := r.moduleFile(r.childFolder(from.Path), first); f >= 0 {
		if o, ok := r.walk(from.Path, r.childFolder(from.Path), parts); ok {
			return o
		}
	}
	if own != nil {
		for d := range upward(own.folder) {
			c := r.crates[d]
			if c == nil {
				continue
			}
			dep, ok := c.depends[first]
			if !ok {
				continue
			}
			if other := r.local(c, first, dep); other != nil {
				if o, ok := r.walk(other.root, r.childFolder(other.root), parts[1:]); ok {
					return o
				}
			}
			return Origin{To: ToDependency, Name: first, Version: dep.version, In: c.manifest, Line: rustLine(c.text, first)}
		}
	}
	if other := r.byName[first]; other != nil && other.root != "" {
		if o, ok := r.walk(other.root, r.childFolder(other.root), parts[1:]); ok {
			return o
		}
	}
	if len(parts) > 0 && first != "" && first[0] >= 'A' && first[0] <= 'Z' {
		return Origin{To: ToFile, Files: []int32{r.tree.Find(from.Path)}, Reason: "a type of this file"}
	}
	return r.none(from, parts, "no module of that name, and no Cargo.toml above declares "+first)
}

func (r *rustCrates) none(from *File, parts []string, reason string) Origin {
	wanted := ""
	for _, p := range parts {
		if p != "" && p[0] >= 'a' && p[0] <= 'z' {
			wanted = p
		}
	}
	return Origin{To: Unresolved, Reason: reason, Near: r.tree.Near(from.Path, wanted)}
}

func rustLine(text []byte, name string) int {
	re := regexp.MustCompile(`(?m)^\s*"?(?:[\w.-]*\.)?` + strings.ReplaceAll(regexp.QuoteMeta(name), "_", "[_-]") + `"?\s*[=.\]]`)
	if at := re.FindIndex(text); at != nil {
		return strings.Count(string(text[:at[0]]), "\n") + 1 + strings.Count(string(text[at[0]:at[1]]), "\n")
	}
	return 0
}

func (r *rustCrates) local(c *rustCrate, name string, d rustDepend) *rustCrate {
	if d.path != "" {
		if folder, ok := join(c.folder, d.path); ok {
			if other := r.crates[folder]; other != nil && other.root != "" {
				return other
			}
		}
	}
	if other := r.byName[name]; other != nil && other.root != "" && d.version == "" {
		return other
	}
	return nil
}

func (r *rustCrates) crateOf(dir string) *rustCrate {
	for d := range upward(dir) {
		if c := r.crates[d]; c != nil && c.name != "" {
			return c
		}
	}
	return nil
}

// rootFor is the root file of the crate that a file belongs to: programs beside
// a library are crates of their own.
func (r *rustCrates) rootFor(c *rustCrate, file string) string {
	rel := strings.TrimPrefix(strings.TrimPrefix(file, c.folder), "/")
	if rel == "src/main.rs" || strings.HasPrefix(rel, "src/bin/") && strings.Count(rel, "/") == 2 || strings.HasPrefix(rel, "tests/") && strings.Count(rel, "/") == 1 || strings.HasPrefix(rel, "examples/") || rel == "build.rs" {
		return file
	}
	return c.root
}

// childFolder is where the modules declared in a file stand.
func (r *rustCrates) childFolder(file string) string {
	dir, base := split(file)
	switch base {
	case "lib.rs", "main.rs", "mod.rs", "build.rs":
		return dir
	}
	return path.Join(dir, strings.TrimSuffix(base, ".rs"))
}

// parent is the file that declares the module of a file, and where its modules
// stand.
func (r *rustCrates) parent(file string) (string, string) {
	dir, base := split(file)
	if base == "mod.rs" {
		dir, _ = split(dir)
	}
	for _, at := range []string{path.Join(dir, "mod.rs"), dir + ".rs", path.Join(dir, "lib.rs"), path.Join(dir, "main.rs")} {
		if r.tree.Find(at) >= 0 && at != file {
			return at, dir
		}
	}
	return file, dir
}

func (r *rustCrates) moduleFile(folder, name string) int32 {
	if f := r.tree.Find(path.Join(folder, name+".rs")); f >= 0 {
		return f
	}
	return r.tree.Find(path.Join(folder, name, "mod.rs"))
}

// walk follows names from a module as far as they are files; the rest are
// items inside the last.
func (r *rustCrates) walk(file, folder string, parts []string) (Origin, bool) {
	at := r.tree.Find(file)
	for n, p := range parts {
		f := r.moduleFile(folder, p)
		if f < 0 {
			// a module written out in the file has files of its own, too, in its folder
			if n+1 < len(parts) && r.tree.IsFolder(path.Join(folder, p)) && r.moduleFile(path.Join(folder, p), parts[n+1]) >= 0 {
				folder = path.Join(folder, p)
				continue
			}
			break
		}
		at, folder = f, path.Join(folder, p)
	}
	if at < 0 {
		return Origin{}, false
	}
	return Origin{To: ToFile, Files: []int32{at}}, true
}

// sortedKeys lists a map's keys in order.
func sortedKeys[V any](m map[string]V) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}
