package summary

import (
	"path"
	"sort"
	"strings"

	"juxtagram/core/effects"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/links"
	"juxtagram/core/links/names"
	"juxtagram/core/links/origin"
	"juxtagram/core/links/twins"
	"juxtagram/core/role"
	"juxtagram/core/skim"
)

// File is what a survey knows of one file, but for what its text says in detail.
type File struct {
	Path, Language     string
	Blob               string // full id
	Role, RoleEvidence string
	Depth              lang.Depth
	Reason             string // why it is only listed
	Lines, Code        int    // 0 where not read
	Imports            []lang.Import
	Package            string
	Terms              []byte
	Starts             []leads.EntryPoint
	Tagged             []Tagged
	Commits            int
	FirstAt, LastAt    int64
	Recent             float64
	People             []Share // most commits first; may be cut
}

// Tagged is a tagged comment.
type Tagged struct {
	Word, Text string
	Line       int
}

// Share is one person's part in a file.
type Share struct {
	Name    string
	Commits int
}

// Source gives what a file's text says; nil: it was not read.
type Source interface {
	// Each gives the kept form of what every file offers and asks, in order.
	Each(func(file int, l facts.Linked) error) error
	Matter(file int) (*facts.Matter, error)
	Details(file int) (*facts.Details, error)
}

// Whole is all files of a survey together: what summaries, names and effects
// are told from. It may be used by several goroutines.
type Whole struct {
	Files    []File // in path order
	Links    *links.Links
	Graph    *links.Graph
	Rank     []float64 // centrality
	Names    *names.Index
	Effects  *effects.Tracer
	Twins    []twins.Twin
	Layers   []int            // of each file in the graph; see links.Graph
	PinAt    int64            // seconds since 1970; what ages count from
	LastSeen map[string]int64 // person → when they last changed anything
	source   Source
	at       map[string]int   // path → file
	twinsOf  map[int][]int    // file → indices in Twins
	testsOf  map[int][]int    // source → tests that show it
	folders  map[string][]int // folder → files below it
	docs     map[int]lang.Doc // what files say of themselves
	cycleOf  map[int][]int32
	shows    map[int][]int // test → sources that it shows
	rare     *skim.Statistics
}

// NewWhole brings files together; links, graph and rank are numbered as they
// are. Their packages, imports and terms come from the source.
func NewWhole(files []File, l *links.Links, g *links.Graph, rank []float64, source Source) (*Whole, error) {
	w := &Whole{Files: files, Links: l, Graph: g, Rank: rank, source: source, at: make(map[string]int, len(files)), LastSeen: map[string]int64{}, twinsOf: map[int][]int{},
		testsOf: map[int][]int{}, shows: map[int][]int{}, rare: skim.NewStatistics(), folders: map[string][]int{}, cycleOf: map[int][]int32{}, docs: map[int]lang.Doc{}}
	named := make([]names.File, len(files))
	acting := make([]effects.File, len(files))
	alike := make([]twins.File, len(files))
	for i := range files {
		f := &files[i]
		w.at[f.Path] = i
		acting[i] = effects.File{Language: f.Language, Role: f.Role}
		alike[i] = twins.File{Path: f.Path, Language: f.Language, Skip: f.Role != role.Source && f.Role != role.Configuration && f.Role != role.Build}
		for dir := path.Dir(f.Path); ; dir = path.Dir(dir) {
			if dir == "." || dir == "/" {
				dir = ""
			}
			w.folders[dir] = append(w.folders[dir], i)
			if dir == "" {
				break
			}
		}
	}
	w.Effects = effects.New(acting, func(a, b int) int { return origin.Apart(files[a].Path, files[b].Path) })
	err := source.Each(func(i int, l facts.Linked) error {
		f := &files[i]
		head, err := facts.UnpackHead(l.Head)
		if err != nil {
			return err
		}
		m, err := facts.UnpackMatter(l.Matter)
		if err != nil {
			return err
		}
		f.Package, f.Imports, f.Terms = head.Package, head.Imports, l.Terms
		named[i] = names.File{Path: f.Path, Language: f.Language, Role: f.Role, Package: f.Package, Imports: f.Imports, Terms: f.Terms}
		w.docs[i] = m.Doc
		w.rare.Add(&m)
		if !alike[i].Skip {
			alike[i].Sketch, alike[i].Names = m.Sketch, m.Makes
		}
		w.Effects.Add(i, &m)
		return nil
	})
	if err != nil {
		return nil, err
	}
	w.Names = names.New(named, l, g, source.Details)
	w.Twins = twins.Find(alike)
	cycles, group := g.Cycles()
	w.Layers = g.Layers(group)
	for _, c := range cycles {
		for _, f := range c {
			w.cycleOf[int(f)] = c
		}
	}
	for n, t := range w.Twins {
		w.twinsOf[t.A], w.twinsOf[t.B] = append(w.twinsOf[t.A], n), append(w.twinsOf[t.B], n)
	}
	w.pairTests()
	return w, nil
}

// Find is the number of a path; -1: not there.
func (w *Whole) Find(p string) int {
	if i, ok := w.at[p]; ok {
		return i
	}
	return -1
}

// TwinsOf are the twins of a file, the likest first.
func (w *Whole) TwinsOf(file int) []twins.Twin {
	var out []twins.Twin
	for _, n := range w.twinsOf[file] {
		out = append(out, w.Twins[n])
	}
	return out
}

// Cycle are the files of the circle that a file stands in, itself among them;
// none: it stands in none.
func (w *Whole) Cycle(file int) []int32 { return w.cycleOf[file] }

// Shows are the files that a test shows.
func (w *Whole) Shows(test int) []int { return w.shows[test] }

// pairTests finds which files each test shows.
func (w *Whole) pairTests() {
	stems := map[string][]int{}
	for i := range w.Files {
		if w.Files[i].Role == role.Source {
			stems[stem(w.Files[i].Path)] = append(stems[stem(w.Files[i].Path)], i)
		}
	}
	for i := range w.Files {
		f := &w.Files[i]
		if f.Role != role.Test {
			continue
		}
		shown := map[int]bool{}
		name := testedStem(f.Path)
		near := -1
		for _, s := range stems[name] {
			if w.Files[s].Language == f.Language && (near < 0 || origin.Apart(f.Path, w.Files[s].Path) < origin.Apart(f.Path, w.Files[near].Path)) {
				near = s
			}
		}
		if near >= 0 && name != stem(f.Path) {
			shown[near] = true
		}
		if list := w.Graph.Dependencies(i); len(list) <= 40 {
			for _, s := range list {
				if w.Files[s].Role == role.Source {
					shown[int(s)] = true
				}
			}
		}
		for s := range shown {
			w.shows[i] = append(w.shows[i], s)
		}
		sort.Slice(w.shows[i], func(a, b int) bool {
			x, y := w.shows[i][a], w.shows[i][b]
			if (x == near) != (y == near) {
				return x == near
			}
			return x < y
		})
		for _, s := range w.shows[i] {
			w.testsOf[s] = append(w.testsOf[s], i)
		}
	}
	for s, list := range w.testsOf {
		name := stem(w.Files[s].Path)
		sort.SliceStable(list, func(a, b int) bool {
			x, y := testedStem(w.Files[list[a]].Path) == name, testedStem(w.Files[list[b]].Path) == name
			return x && !y
		})
	}
}

func stem(p string) string {
	base := path.Base(p)
	if i := strings.IndexByte(base, '.'); i > 0 {
		base = base[:i]
	}
	return strings.ToLower(base)
}

// testedStem is the name of what a test is named for.
func testedStem(p string) string {
	s := stem(p)
	for _, cut := range []string{"_test", "-test", "_tests", "_spec", "-spec", "tests", "test", "spec"} {
		if rest, ok := strings.CutSuffix(s, cut); ok && rest != "" {
			return strings.TrimRight(rest, "_-")
		}
	}
	for _, cut := range []string{"test_", "test-", "test", "it_"} {
		if rest, ok := strings.CutPrefix(s, cut); ok && rest != "" {
			return rest
		}
	}
	return s
}
