package draft

import (
	"maps"
	"math"
	"path"
	"slices"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/recipe"
	"juxtagram/core/role"
	"juxtagram/core/summary"
)

// Survey is what drafts are made from.
type Survey struct {
	Whole     *summary.Whole
	Pin       string    // full id of the commit
	Hot       []float64 // each file's score as a hotspot; 0: it is none
	Intricacy []int     // of each file; -1: not parsed
	Recipes   []recipe.Recipe
	// Partners are the files that most often changed in the same commits as some files,
	// at most limit, and how many commits changed those in all; nil: the history is not
	// known.
	Partners func(files []int, limit int) (list []Partner, of int)
}

// Partner is a file that changes with others.
type Partner struct {
	File     int
	Together int // commits
}

// Ground is a survey made ready for drafts. It is not changed once it is made,
// and may be used by several goroutines.
type Ground struct {
	Survey
	hot     []float64 // shares of code, whose sum is 1
	central []float64
	starts  []float64 // of all but tests
	opens   []bool    // nothing can lead a reader to it: an entry point, or nothing of the code leans on it
	folder  []int     // of each file
	folders []string  // their paths
	beside  [][]int32 // folder → its files
	wide    []float64 // each folder's share
	leans   [][]int32 // file → those it leans on, in order
	leaned  [][]int32 // file → those that lean on it, in order
	twin    map[int][]alike
	named   map[string]int // name of a file without folders → how many are called so
}

// alike is a twin with how much of it is the same, 0..1.
type alike struct {
	file     int
	likeness float64
}

// NewGround makes a survey ready.
func NewGround(s Survey) *Ground {
	n := len(s.Whole.Files)
	g := &Ground{Survey: s, hot: make([]float64, n), central: make([]float64, n), starts: make([]float64, n), folder: make([]int, n), twin: map[int][]alike{}, named: map[string]int{}}
	at := map[string]int{}
	var size []float64
	for i := range s.Whole.Files {
		f := &s.Whole.Files[i]
		dir := path.Dir(f.Path)
		g.named[path.Base(f.Path)]++
		k, ok := at[dir]
		if !ok {
			k = len(g.folders)
			at[dir] = k
			g.folders, g.beside, size = append(g.folders, dir), append(g.beside, nil), append(size, 0)
		}
		g.beside[k] = append(g.beside[k], int32(i))
		g.folder[i] = k
		if !g.readable(i) {
			continue
		}
		if code(f.Role) {
			g.hot[i] = s.Hot[i]
			g.central[i] = s.Whole.Rank[i]
			size[k] += float64(f.Code)
		}
		if f.Role != role.Test {
			for _, e := range f.Starts {
				g.starts[i] += e.Weight
			}
		}
	}
	g.wide = make([]float64, len(size))
	for k, c := range size {
		g.wide[k] = math.Log1p(c)
	}
	for _, shares := range [][]float64{g.hot, g.central, g.starts, g.wide} {
		toShares(shares)
	}
	for _, t := range s.Whole.Twins {
		g.twin[t.A] = append(g.twin[t.A], alike{t.B, t.Likeness})
		g.twin[t.B] = append(g.twin[t.B], alike{t.A, t.Likeness})
	}
	g.draw()
	g.opens = make([]bool, n)
	for i := range g.opens {
		g.opens[i] = g.starts[i] > 0 || !slices.ContainsFunc(g.leaned[i], func(by int32) bool { return code(s.Whole.Files[by].Role) })
	}
	return g
}

// code tells whether files of a role are what a repository does.
func code(r string) bool { return r == role.Source || r == role.Schema }

func toShares(list []float64) {
	sum := 0.0
	for _, x := range list {
		sum += x
	}
	for i := range list {
		if sum > 0 {
			list[i] /= sum
		}
	}
}

// readable tells whether a file is one that a plan may have one read: text that
// somebody wrote.
func (g *Ground) readable(file int) bool {
	f := &g.Whole.Files[file]
	switch f.Role {
	case role.Generated, role.Vendored, role.Asset:
		return false
	}
	return f.Lines > 0 && f.Depth != lang.Listed
}

// minutes is how long so many lines of a file take.
func (g *Ground) minutes(file, lines int) int {
	f := &g.Whole.Files[file]
	return Minutes(f.Role, lines, f.Code, g.Intricacy[file])
}

// commonName is in how many files a name may be made and still tell which of
// them is meant.
const commonName = 3

// draw finds which file leans on which: by imports, but where an import brings
// a whole package, or files of a package need none, only where the one names
// something that only a few files make, the other among them. Of two files of a
// package that name each other, the one leans that names more of the other.
func (g *Ground) draw() {
	files := g.Whole.Files
	makers := g.makers()
	names := make([]map[int32]int, len(files)) // file → other of its package → how many of its names it uses
	g.leans, g.leaned = make([][]int32, len(files)), make([][]int32, len(files))
	for i := range files {
		if !g.readable(i) {
			continue
		}
		names[i] = map[int32]int{}
		on := map[int32]bool{}
		if packaged(files[i].Language) {
			facts.EachTerm(files[i].Terms, func(hash uint64, t facts.Term) {
				of := makers[hash]
				if len(of) > commonName || t.Roles.Has(lang.Define) || !(t.Roles.Has(lang.Call) || t.Roles.Has(lang.Read) || t.Roles.Has(lang.AsType)) {
					return
				}
				for _, m := range of {
					switch {
					case m == int32(i):
					case g.together(i, int(m)):
						names[i][m]++
					case g.Whole.Graph.Leans(i, m):
						on[m] = true
					}
				}
			})
		}
		for _, m := range g.Whole.Graph.Dependencies(i) {
			if g.readable(int(m)) && (files[i].Language != files[m].Language || !wholesale(files[i].Language)) {
				on[m] = true
			}
		}
		g.leans[i] = slices.Sorted(maps.Keys(on))
	}
	for i := range files {
		for m, n := range names[i] {
			if n > names[m][int32(i)] {
				g.leans[i] = append(g.leans[i], m)
			}
		}
		slices.Sort(g.leans[i])
		g.leans[i] = slices.Compact(g.leans[i])
		for _, m := range g.leans[i] {
			g.leaned[m] = append(g.leaned[m], int32(i))
		}
	}
}

// makers are the files that make a name, by its hash, where files share the names
// of their package: up to one more than still tell.
func (g *Ground) makers() map[uint64][]int32 {
	out := map[uint64][]int32{}
	for i := range g.Whole.Files {
		if packaged(g.Whole.Files[i].Language) && g.readable(i) {
			facts.EachTerm(g.Whole.Files[i].Terms, func(hash uint64, t facts.Term) {
				if t.Roles.Has(lang.Define) && len(out[hash]) <= commonName {
					out[hash] = append(out[hash], int32(i))
				}
			})
		}
	}
	return out
}

// wholesale tells whether an import of a language brings a whole package.
func wholesale(language string) bool {
	switch language {
	case "Go", "C#", "Kotlin", "Scala":
		return true
	}
	return false
}

// packaged tells whether files of a language share the names of their package.
func packaged(language string) bool {
	switch language {
	case "Go", "C#", "Kotlin", "Scala", "Java", "Groovy":
		return true
	}
	return false
}

// together tells whether two files see each other's names without an import.
func (g *Ground) together(a, b int) bool {
	x, y := &g.Whole.Files[a], &g.Whole.Files[b]
	if x.Language != y.Language {
		return false
	}
	if x.Language == "Go" {
		return g.folder[a] == g.folder[b]
	}
	return x.Package != "" && x.Package == y.Package
}
