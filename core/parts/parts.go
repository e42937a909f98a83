// Package parts tells apart what stands side by side in one repository:
// packages, and programs with a build of their own, each with the files that
// belong to it and the other parts that it leans on.
//
// A part is a folder. It is one because a build file names the package in it,
// or because it is a top folder that holds a build file and the start of a
// program. What only tests, samples or vendored code hold is none. A file
// belongs to the innermost part around it.
package parts

import (
	"path"
	"sort"
	"strings"

	"juxtagram/core/recipe"
	"juxtagram/core/repo"
	"juxtagram/core/role"
)

// File is what is asked of a file.
type File struct {
	Path, Role, Language string
	Lines                int
}

// Input is what parts are told from.
type Input struct {
	Files    []File
	Packages map[string]*recipe.Package // by the path of the build file
	Recipes  []recipe.Recipe
	Programs []string // paths of the files that start programs, services and commands
	// Dependencies are the files that a file leans on; nil: not known.
	Dependencies func(file int) []int32
}

// Part is one of them.
type Part struct {
	Path     string // its folder; "": the root
	Name     string // as its build file calls it; else the folder's
	Kind     string // as in recipe.Kinds; "": it has a program and a build, and no package
	Manifest string // the file that names it; "": none
	Line     int    // in the manifest; 0: none
	Language string // of most of its lines
	Files    int
	Lines    int
	LeansOn  []int // other parts, by number, those that it leans on with most files first
	Group    int   // parts that lean on each other, directly or not, share a number
}

// Of tells the parts, in the order of their folders, and for every file the
// number of its part; -1: it belongs to none. A single part tells nothing apart:
// a repository has none, or two and more.
func Of(in Input) (list []Part, of []int) {
	list = found(in)
	of = make([]int, len(in.Files))
	at := map[string]int{}
	for i, p := range list {
		at[p.Path] = i
	}
	languages := make([]map[string]int, len(list))
	for i := range in.Files {
		f := &in.Files[i]
		of[i] = -1
		for dir := path.Dir(f.Path); ; dir = path.Dir(dir) {
			if dir == "." || dir == "/" {
				dir = ""
			}
			if n, ok := at[dir]; ok {
				of[i] = n
				break
			}
			if dir == "" {
				break
			}
		}
		if n := of[i]; n >= 0 {
			list[n].Files++
			list[n].Lines += f.Lines
			if f.Role == role.Source && f.Language != "" {
				if languages[n] == nil {
					languages[n] = map[string]int{}
				}
				languages[n][f.Language] += f.Lines
			}
		}
	}
	if len(list) < 2 {
		for i := range of {
			of[i] = -1
		}
		return nil, of
	}
	for i := range list {
		list[i].Language = most(languages[i])
	}
	lean(list, of, in.Dependencies)
	return list, of
}

// found lists the folders that are parts.
func found(in Input) []Part {
	own := map[string]bool{} // folders with sources of their own, at any depth
	for i := range in.Files {
		if in.Files[i].Role != role.Source {
			continue
		}
		for dir := path.Dir(in.Files[i].Path); !own[dir]; dir = path.Dir(dir) {
			own[dir] = true
			if dir == "." {
				break
			}
		}
	}
	by := map[string]Part{}
	manifests := make([]string, 0, len(in.Packages))
	for m := range in.Packages {
		manifests = append(manifests, m)
	}
	sort.Strings(manifests)
	for _, m := range manifests {
		dir := path.Dir(m)
		if !own[dir] {
			continue
		}
		folder := strings.TrimPrefix(dir, ".")
		if _, ok := by[folder]; !ok {
			p := in.Packages[m]
			by[folder] = Part{Path: folder, Name: p.Name, Kind: p.Kind, Manifest: m, Line: p.Line}
		}
	}
	inPart := func(p string) bool {
		for dir := range repo.Folders(p) {
			if _, ok := by[dir]; ok {
				return true
			}
		}
		return false
	}
	built := map[string]recipe.Recipe{}
	for _, r := range in.Recipes {
		if _, ok := built[r.Folder]; !ok && r.Folder != "" && !strings.Contains(r.Folder, "/") && (r.Kind == "build" || r.Kind == "run") {
			built[r.Folder] = r
		}
	}
	holds := map[string]bool{} // top folders around some package
	for folder := range by {
		top, _, _ := strings.Cut(folder, "/")
		holds[top] = true
	}
	for _, p := range in.Programs {
		top, _, nested := strings.Cut(p, "/")
		if r, ok := built[top]; ok && nested && own[top] && !holds[top] && !inPart(p) {
			by[top] = Part{Path: top, Name: top, Manifest: r.Path}
		}
	}
	list := make([]Part, 0, len(by))
	for _, p := range by {
		list = append(list, p)
	}
	sort.Slice(list, func(i, j int) bool { return list[i].Path < list[j].Path })
	return list
}

// most is the language with most lines.
func most(lines map[string]int) string {
	best := ""
	for l, n := range lines {
		if best == "" || n > lines[best] || n == lines[best] && l < best {
			best = l
		}
	}
	return best
}

// lean fills in which parts lean on which, and groups those that do.
func lean(list []Part, of []int, dependencies func(int) []int32) {
	counts := make([]map[int]int, len(list))
	group := make([]int, len(list))
	for i := range group {
		group[i] = i
	}
	root := func(i int) int {
		for group[i] != i {
			i = group[i]
		}
		return i
	}
	if dependencies != nil {
		for f, from := range of {
			if from < 0 {
				continue
			}
			seen := map[int]bool{}
			for _, d := range dependencies(f) {
				if to := of[d]; to >= 0 && to != from && !seen[to] {
					seen[to] = true
					if counts[from] == nil {
						counts[from] = map[int]int{}
					}
					counts[from][to]++
				}
			}
		}
	}
	for i := range list {
		for to := range counts[i] {
			list[i].LeansOn = append(list[i].LeansOn, to)
			if a, b := root(i), root(to); a != b {
				group[max(a, b)] = min(a, b)
			}
		}
		n := counts[i]
		sort.Slice(list[i].LeansOn, func(a, b int) bool {
			x, y := list[i].LeansOn[a], list[i].LeansOn[b]
			if n[x] != n[y] {
				return n[x] > n[y]
			}
			return x < y
		})
	}
	for i := range list {
		list[i].Group = root(i)
	}
}
