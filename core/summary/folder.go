package summary

import (
	"fmt"
	"path"
	"sort"
	"strings"

	"juxtagram/core/history"
	"juxtagram/core/role"
)

// OfFolder is the summary of a folder, "" for the root: at most six sentences,
// the most telling first.
func (w *Whole) OfFolder(dir string) ([]Sentence, error) {
	files := w.folders[dir]
	if len(files) == 0 {
		return nil, nil
	}
	t := &folderTeller{Whole: w, dir: dir, files: files}
	t.purpose()
	t.shape()
	t.starts()
	t.hold()
	t.used()
	t.alive()
	t.loose()
	return best(t.out), nil
}

// FoldersIn lists the folders right below one, those with most files first, at
// most limit of them.
func (w *Whole) FoldersIn(dir string, limit int) []string {
	var out []string
	for f := range w.folders {
		if f != "" && strings.TrimPrefix(path.Dir(f), ".") == dir {
			out = append(out, f)
		}
	}
	sort.Slice(out, func(i, j int) bool {
		if a, b := len(w.folders[out[i]]), len(w.folders[out[j]]); a != b {
			return a > b
		}
		return out[i] < out[j]
	})
	return out[:min(len(out), limit)]
}

type folderTeller struct {
	*Whole
	dir   string
	files []int // below it, in path order
	out   []Sentence
}

func (t *folderTeller) say(weight float64, kind string, depth Depth, text string, cites ...Cite) {
	t.out = append(t.out, Sentence{Kind: kind, Text: text, Depth: depth, Cites: cites, weight: weight})
}

// purpose: the folder's readme, or the file that speaks for its package.
func (t *folderTeller) purpose() {
	best, rank := -1, 99
	for _, i := range t.files {
		f := &t.Files[i]
		if path.Dir(f.Path) != path.Clean(t.dir) && (t.dir != "" || strings.Contains(f.Path, "/")) || t.docs[i].Line == 0 {
			continue
		}
		base := strings.ToLower(path.Base(f.Path))
		r := 99
		switch {
		case strings.HasPrefix(base, "readme"):
			r = 0
		case base == "doc.go", base == "package-info.java", base == "__init__.py", base == "lib.rs", base == "mod.rs":
			r = 1
		case f.Language == "Go" && f.Role == role.Source && strings.HasPrefix(t.docs[i].Text, "Package "):
			r = 2
		case f.Language == "Go" && f.Role == role.Source && strings.HasPrefix(t.docs[i].Text, "Command "):
			r = 2
		case strings.HasPrefix(base, "index."), strings.HasPrefix(base, "main."):
			r = 3
		}
		if r < rank {
			best, rank = i, r
		}
	}
	if best >= 0 {
		t.say(100, "purpose", Read, t.docs[best].Text, Cite{t.Files[best].Path, t.docs[best].Line})
	}
}

// shape: how much of what is in it.
func (t *folderTeller) shape() {
	lines, byLanguage, byRole := 0, map[string]int{}, map[string]int{}
	for _, i := range t.files {
		f := &t.Files[i]
		lines += f.Code
		if f.Language != "" {
			byLanguage[f.Language] += f.Code
		}
		byRole[f.Role]++
	}
	text := count(len(t.files), "file")
	if lines > 0 {
		text += " with " + count(lines, "line") + " of code"
		if languages := topOf(byLanguage, 3); len(languages) > 0 {
			text += ", mostly " + list(languages)
			if len(byLanguage) == 1 {
				text = strings.Replace(text, "mostly ", "all ", 1)
			}
		}
	}
	if n := byRole[role.Test]; n > 0 && n < len(t.files) {
		text += fmt.Sprintf("; %s", count(n, "test file"))
	}
	t.say(44, "shape", Names, text+".", Cite{t.place(), 0})
}

func (t *folderTeller) place() string {
	if t.dir == "" {
		return "."
	}
	return t.dir
}

// topOf lists the keys with the largest values.
func topOf(m map[string]int, most int) []string {
	keys := make([]string, 0, len(m))
	for k, v := range m {
		if v > 0 {
			keys = append(keys, k)
		}
	}
	sort.Slice(keys, func(i, j int) bool {
		if m[keys[i]] != m[keys[j]] {
			return m[keys[i]] > m[keys[j]]
		}
		return keys[i] < keys[j]
	})
	return keys[:min(len(keys), most)]
}

// starts: where control comes in.
func (t *folderTeller) starts() {
	type at struct {
		file int
		name string
		line int
		w    float64
	}
	var all []at
	for _, i := range t.files {
		for _, s := range t.Files[i].Starts {
			if t.Files[i].Role == role.Test || t.Files[i].Role == role.Vendored {
				continue
			}
			if s.Kind == "program" || s.Kind == "command" || s.Kind == "service" || s.Kind == "library" || s.Kind == "script" {
				all = append(all, at{i, s.Name, s.Line, s.Weight})
			}
		}
	}
	if len(all) == 0 {
		return
	}
	sort.SliceStable(all, func(i, j int) bool { return all[i].w > all[j].w })
	var named []string
	var cites []Cite
	seen := map[string]bool{}
	for _, a := range all {
		if !seen[a.name] {
			seen[a.name] = true
			named = append(named, code(a.name))
			cites = append(cites, Cite{t.Files[a.file].Path, a.line})
		}
	}
	t.say(80, "start", Names, "Control comes in at "+some(named, 3)+".", cites...)
}

// hold: the files that most others of the folder lean on.
func (t *folderTeller) hold() {
	inside := make(map[int32]bool, len(t.files))
	for _, i := range t.files {
		inside[int32(i)] = true
	}
	leaning := map[int]int{}
	var found []int
	for _, i := range t.files {
		if t.Files[i].Role != role.Source {
			continue
		}
		for _, from := range t.Graph.Dependents(i) {
			if inside[from] && t.Files[from].Role != role.Test {
				leaning[i]++
			}
		}
		if leaning[i] > 1 {
			found = append(found, i)
		}
	}
	if len(found) == 0 {
		return
	}
	sort.SliceStable(found, func(i, j int) bool { return leaning[found[i]] > leaning[found[j]] })
	var named []string
	var cites []Cite
	for _, i := range found[:min(3, len(found))] {
		named = append(named, fmt.Sprintf("%s (%s)", code(strings.TrimPrefix(t.Files[i].Path, t.dir+"/")), count(leaning[i], "file")))
		cites = append(cites, Cite{t.Files[i].Path, 0})
	}
	t.say(62, "used", Names, "Inside, most lean on "+list(named)+".", cites...)
}

// neighbours are folders at the other end of imports that cross the folder's
// edge: how many imports, and the line of the first.
type neighbours struct {
	count map[string]int
	first map[string]Cite
}

func (n *neighbours) add(folder string, c Cite) {
	n.count[folder]++
	if _, ok := n.first[folder]; !ok {
		n.first[folder] = c
	}
}

// across finds who leans on the folder from outside, and what outside it leans
// on.
func (t *folderTeller) across() (in, out neighbours) {
	in, out = neighbours{map[string]int{}, map[string]Cite{}}, neighbours{map[string]int{}, map[string]Cite{}}
	for _, i := range t.files {
		for _, from := range t.Graph.Dependents(i) {
			if p := t.Files[from].Path; !strings.HasPrefix(p, t.dir+"/") {
				in.add(path.Dir(p), Cite{p, t.lineOf(int(from), i)})
			}
		}
		for _, to := range t.Graph.Dependencies(i) {
			if p := t.Files[to].Path; !strings.HasPrefix(p, t.dir+"/") {
				out.add(path.Dir(p), Cite{t.Files[i].Path, t.lineOf(i, int(to))})
			}
		}
	}
	return in, out
}

// used: the folders outside that lean on it, those it leans on, and those with
// which it does both.
func (t *folderTeller) used() {
	if t.dir == "" {
		return
	}
	in, out := t.across()
	if top := topOf(in.count, 3); len(top) > 0 {
		text := "Leaned on by files in " + list(places(top))
		if len(in.count) > len(top) {
			text = "Leaned on from " + count(len(in.count), "folder") + ", " + list(places(top)) + " foremost"
		}
		t.say(66, "used", Names, text+".", in.cites(top)...)
	}
	if top := topOf(out.count, 3); len(top) > 0 {
		t.say(42, "lean", Names, "Leans on files in "+some(places(topOf(out.count, len(out.count))), 3)+".", out.cites(top)...)
	}
	both := map[string]int{}
	for folder, n := range out.count {
		if in.count[folder] > 0 {
			both[folder] = min(n, in.count[folder])
		}
	}
	if top := topOf(both, 2); len(top) > 0 {
		var cites []Cite
		for _, folder := range top {
			cites = append(cites, out.first[folder], in.first[folder])
		}
		t.say(48, "lean", Names, "Stands in a circle with "+list(places(top))+": each leans on the other.", cites...)
	}
}

// places are folders as a sentence names them.
func places(folders []string) []string {
	out := codes(folders)
	for i, f := range folders {
		if f == "." {
			out[i] = "the root"
		}
	}
	return out
}

func (n *neighbours) cites(folders []string) []Cite {
	var out []Cite
	for _, f := range folders {
		out = append(out, n.first[f])
	}
	return out
}

// alive: when it last changed, and who knows it.
func (t *folderTeller) alive() {
	commits, last, people := 0, int64(0), map[string]int{}
	at := -1
	for _, i := range t.files {
		f := &t.Files[i]
		commits += f.Commits
		if f.LastAt > last {
			last, at = f.LastAt, i
		}
		for _, p := range f.People {
			people[p.Name] += p.Commits
		}
	}
	if commits == 0 || t.PinAt == 0 {
		return
	}
	text := "Last changed " + when(last)
	if names := topOf(people, 2); len(names) > 0 {
		text += "; known best to " + list(names)
		active := false
		for p := range people {
			active = active || !history.Gone(t.LastSeen[p], t.PinAt)
		}
		if !active && len(t.LastSeen) > 0 {
			text += ", none of whom has changed anything here for a year"
		}
	}
	t.say(50, "alive", History, text+".", Cite{t.Files[at].Path, 0})
}

// loose: the tagged comments below it.
func (t *folderTeller) loose() {
	counts := map[string]int{}
	n := 0
	var cites []Cite
	for _, i := range t.files {
		if t.Files[i].Role == role.Vendored || t.Files[i].Role == role.Generated {
			continue
		}
		for _, x := range t.Files[i].Tagged {
			if !unfinished(x.Word) {
				continue
			}
			counts[x.Word]++
			n++
			cites = append(cites, Cite{t.Files[i].Path, x.Line})
		}
	}
	if n == 0 {
		return
	}
	var parts []string
	for _, word := range topOf(counts, 6) {
		parts = append(parts, fmt.Sprintf("%d %s", counts[word], word))
	}
	t.say(46, "loose", Read, "Unfinished: "+count(n, "tagged comment")+" ("+strings.Join(parts, ", ")+").", cites...)
}
