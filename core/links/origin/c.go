package origin

import (
	"context"
	"path"
	"regexp"
	"sort"
	"strings"

	"juxtagram/core/lang"
)

// cIncludes resolves includes: beside the file, then in the include folders
// that build files name, then wherever the path's end fits. All but the first
// are guesses, since only a build's own flags tell.
type cIncludes struct {
	tree     *Tree
	standard map[string]bool
	folders  []string // that build files name, and common ones, in path order
}

var includeFlag = regexp.MustCompile(`(?:^|[\s"'=(])-(?:I|iquote|isystem)\s*["']?([\w./$(){}-]+)`)
var includeCall = regexp.MustCompile(`(?i)(?:target_)?include_directories\s*\(([^)]*)\)`)

func openC(_ context.Context, t *Tree) Resolver {
	c := &cIncludes{tree: t, standard: standard("c")}
	folders := map[string]bool{}
	add := func(dir, rel string) {
		for _, v := range []string{"${CMAKE_CURRENT_SOURCE_DIR}", "${PROJECT_SOURCE_DIR}", "${CMAKE_SOURCE_DIR}", "$(CURDIR)", "$(srcdir)", "$(top_srcdir)", "${srcdir}"} {
			rel = strings.ReplaceAll(rel, v, ".")
		}
		if strings.ContainsAny(rel, "$<>") {
			return
		}
		if f, ok := join(dir, rel); ok && t.IsFolder(f) {
			folders[f] = true
		}
	}
	for p, content := range t.Manifests {
		if !cManifest(path.Base(p)) {
			continue
		}
		dir, _ := split(p)
		for _, m := range includeFlag.FindAllStringSubmatch(string(content), -1) {
			add(dir, m[1])
		}
		for _, m := range includeCall.FindAllStringSubmatch(string(content), -1) {
			for _, word := range strings.Fields(m[1]) {
				add(dir, strings.Trim(word, `"`))
			}
		}
	}
	for d := range t.folders {
		if base := path.Base(d); base == "include" || base == "inc" || base == "Inc" || base == "includes" || base == "src" {
			folders[d] = true
		}
	}
	for _, r := range t.Roots {
		folders[r] = true
	}
	folders[""] = true
	for d := range folders {
		c.folders = append(c.folders, d)
	}
	sort.Strings(c.folders)
	return c
}

// cManifest: build files that may name include folders.
func cManifest(base string) bool {
	return oneOf("CMakeLists.txt", "Makefile", "makefile", "GNUmakefile", "meson.build", "configure.ac")(base)
}

func (c *cIncludes) Resolve(from *File, i *lang.Import) Origin {
	name := strings.Trim(i.Text, `<>"`)
	dir, _ := split(from.Path)
	system := strings.HasPrefix(i.Text, "<")
	if p, ok := join(dir, name); ok && !system {
		if o, ok := c.tree.file(p); ok {
			return o
		}
	}
	if system && c.standard[name] {
		return Origin{To: ToStandard, Name: name}
	}
	if found, where := c.inFolders(from.Path, name); found >= 0 {
		return Origin{To: ToFile, Files: []int32{found}, Guess: true, Reason: "if " + orRoot(where) + " is an include folder"}
	}
	if c.standard[name] {
		return Origin{To: ToStandard, Name: name}
	}
	if found := c.byEnd(from.Path, name); found >= 0 {
		return Origin{To: ToFile, Files: []int32{found}, Guess: true, Reason: "the one path that ends like it, and nearest"}
	}
	if base := path.Base(name); strings.HasSuffix(base, ".pb.h") || strings.HasPrefix(base, "moc_") || strings.HasPrefix(base, "ui_") || strings.HasSuffix(base, ".moc") || base == "config.h" || strings.HasSuffix(base, ".gen.h") || strings.HasSuffix(base, ".inc") && c.tree.Find(strings.TrimSuffix(name, ".inc")+".td") >= 0 {
		return Origin{To: ToGenerated, Reason: "files of that name are made by the build"}
	}
	if t := c.template(dir, name); t != "" {
		return Origin{To: ToGenerated, Reason: "made by the build from " + t}
	}
	reason := "no file of this repository ends like it"
	if system {
		reason = "a header of the system or of a library that this repository does not hold"
	}
	return Origin{To: Unresolved, Reason: reason, Near: c.tree.Near(from.Path, name)}
}

// template finds what a build makes a header from: config.h.in.
func (c *cIncludes) template(dir, name string) string {
	for _, ext := range []string{".in", ".cmake", ".cmake.in", ".meson"} {
		for _, p := range []string{path.Join(dir, name+ext), name + ext} {
			if c.tree.Find(p) >= 0 {
				return p
			}
		}
		for _, f := range c.tree.bases[path.Base(name)+ext] {
			return c.tree.Files[f].Path
		}
	}
	return ""
}

// inFolders finds an include in the include folders, the nearest first.
func (c *cIncludes) inFolders(from, name string) (int32, string) {
	best, where, nearest := int32(-1), "", 1<<30
	if len(c.tree.bases[path.Base(name)]) == 0 {
		return -1, ""
	}
	for _, d := range c.folders {
		p, ok := join(d, name)
		if !ok {
			continue
		}
		if f := c.tree.Find(p); f >= 0 {
			if far := distance(from, p); far < nearest {
				best, where, nearest = f, d, far
			}
		}
	}
	return best, where
}

func (c *cIncludes) byEnd(from, name string) int32 {
	best, nearest := int32(-1), 1<<30
	tail := "/" + strings.TrimLeft(path.Clean("/"+name), "/")
	for _, f := range c.tree.bases[path.Base(name)] {
		p := c.tree.Files[f].Path
		if strings.HasSuffix("/"+p, tail) {
			if far := distance(from, p); far < nearest {
				best, nearest = f, far
			}
		}
	}
	return best
}
