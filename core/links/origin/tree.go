package origin

import (
	"embed"
	"path"
	"sort"
	"strings"
)

// File is what the resolvers know of one path.
type File struct {
	Path     string
	Language string
	Package  string // as the file says; "": it says none
	Role     string
	Binary   bool
}

// Tree is all paths of a repository, with the manifests' texts.
type Tree struct {
	Files     []File            // in path order
	Manifests map[string][]byte // path → text
	Roots     []string          // folders that people call source roots
	at        map[string]int32
	inside    map[string][]int32 // folder → files right inside
	folders   map[string]bool
	bases     map[string][]int32 // file name → files
	packages  map[string][]int32 // package → files
	near      *nearIndex
}

// NewTree indexes paths. Files are in path order.
func NewTree(files []File, manifests map[string][]byte) *Tree {
	t := &Tree{
		Files: files, Manifests: manifests, at: make(map[string]int32, len(files)), inside: map[string][]int32{}, folders: map[string]bool{"": true},
		bases: make(map[string][]int32, len(files)), packages: map[string][]int32{}, near: &nearIndex{},
	}
	for i := range files {
		n, p := int32(i), files[i].Path
		t.at[p] = n
		dir, base := split(p)
		t.inside[dir] = append(t.inside[dir], n)
		t.bases[base] = append(t.bases[base], n)
		for dir != "" && !t.folders[dir] {
			t.folders[dir] = true
			dir, _ = split(dir)
		}
		if files[i].Package != "" {
			t.packages[files[i].Package] = append(t.packages[files[i].Package], n)
		}
	}
	return t
}

// Find is the index of a path; -1: not in the tree.
func (t *Tree) Find(p string) int32 {
	if i, ok := t.at[p]; ok {
		return i
	}
	return -1
}

// IsFolder tells whether something lies below a path.
func (t *Tree) IsFolder(p string) bool { return t.folders[p] }

// file is the origin of one path, if it is there.
func (t *Tree) file(p string) (Origin, bool) {
	if i, ok := t.at[p]; ok {
		return Origin{To: ToFile, Files: []int32{i}}, true
	}
	return Origin{}, false
}

// manifestsNamed lists the manifests of some names, in path order.
func (t *Tree) manifestsNamed(match func(base string) bool) []string {
	var out []string
	for p := range t.Manifests {
		if match(path.Base(p)) {
			out = append(out, p)
		}
	}
	sort.Strings(out)
	return out
}

// split parts a path into folder ("" for the root) and name.
func split(p string) (dir, base string) {
	if i := strings.LastIndexByte(p, '/'); i >= 0 {
		return p[:i], p[i+1:]
	}
	return "", p
}

// join joins a folder and a path relative to it; ok is false where it leads out
// of the repository.
func join(dir, rel string) (string, bool) {
	p := path.Join(dir, rel)
	if p == "." {
		return "", true
	}
	if p == ".." || strings.HasPrefix(p, "../") || strings.HasPrefix(p, "/") {
		return "", false
	}
	return p, true
}

// upward yields a folder and all above it, the root last.
func upward(dir string) func(yield func(string) bool) {
	return func(yield func(string) bool) {
		for {
			if !yield(dir) || dir == "" {
				return
			}
			dir, _ = split(dir)
		}
	}
}

func oneOf(names ...string) func(string) bool {
	return func(base string) bool {
		for _, n := range names {
			if base == n {
				return true
			}
		}
		return false
	}
}

func hasSuffix(s, suffix string) bool { return strings.HasSuffix(s, suffix) }

//go:embed stdlib_*.txt
var lists embed.FS

// standard reads the names of a standard library.
func standard(language string) map[string]bool {
	raw, err := lists.ReadFile("stdlib_" + language + ".txt")
	if err != nil {
		panic(err) // built in
	}
	out := map[string]bool{}
	for _, l := range strings.Fields(string(raw)) {
		out[l] = true
	}
	return out
}

// lineWith is the line, from 1, of the first occurrence of a text; 0: none.
func lineWith(content []byte, text string) int {
	i := strings.Index(string(content), text)
	if i < 0 || text == "" {
		return 0
	}
	return strings.Count(string(content[:i]), "\n") + 1
}
