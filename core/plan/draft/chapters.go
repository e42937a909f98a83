package draft

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"path"
	"slices"
	"strings"

	"juxtagram/core/plan"
)

// mostNeeds is how many earlier passages one says that it needs.
const mostNeeds = 2

// writer writes readings as chapters.
type writer struct {
	g     *Ground
	b     *brief
	a     *Asked
	at    map[int]*plan.Passage // file → the passage on it
	order string
}

func (w *writer) write(p *Proposal, openers []plan.Passage, readings []Reading) error {
	if len(openers) > 0 {
		if err := w.chapter(p, "Bearings", "What it is, before how it is done."); err != nil {
			return err
		}
		for i := range openers {
			if err := w.add(p, &openers[i]); err != nil {
				return err
			}
		}
	}
	for _, part := range w.parts(readings) {
		if err := w.chapter(p, part.title, part.intent); err != nil {
			return err
		}
		for _, r := range part.readings {
			x, err := w.passage(r)
			if err != nil {
				return err
			}
			if err := w.add(p, x); err != nil {
				return err
			}
			w.at[r.File] = x
		}
	}
	return nil
}

func (w *writer) chapter(p *Proposal, title, intent string) error {
	order := ""
	if n := len(p.Chapters); n > 0 {
		order = p.Chapters[n-1].Order
	}
	order, err := plan.Between(order, "")
	w.order = ""
	sum := sha256.Sum256([]byte(w.a.Goal.Kind + "\x00" + title))
	p.Chapters = append(p.Chapters, ProposedChapter{plan.Chapter{ID: drafted + hex.EncodeToString(sum[:8]), Order: order, Title: clipped(title), Intent: intent}, true, []ProposedPassage{}})
	return err
}

// add puts a passage at the end of the last chapter.
func (w *writer) add(p *Proposal, x *plan.Passage) (err error) {
	c := &p.Chapters[len(p.Chapters)-1]
	if w.order, err = plan.Between(w.order, ""); err != nil {
		return err
	}
	x.ID, x.Chapter, x.Order, x.Title = id(&x.Target), c.ID, w.order, clipped(x.Title)
	x.Drafted = x.Print()
	c.Passages = append(c.Passages, ProposedPassage{*x, IsNew, nil})
	return nil
}

// passage writes one reading.
func (w *writer) passage(r Reading) (*plan.Passage, error) {
	g := w.g
	x := &plan.Passage{Title: g.title(r.File), Target: g.target(r, w.b, &w.a.Goal), Minutes: r.Minutes}
	if sym := w.b.spots[r.File].symbol; sym != nil && x.Target.Kind == plan.Symbol {
		x.Title, x.Purpose = sym.Qualified, tellSymbol(sym)
	}
	said, err := g.Whole.OfFile(r.File)
	if err != nil {
		return nil, err
	}
	tellPurpose(x, said)
	led := ""
	var needs []string
	for _, by := range g.leaned[r.File] {
		if e := w.at[int(by)]; e != nil && w.a.Direction == OutsideIn {
			if led == "" {
				led = e.Title
			}
			if len(x.Needs) < mostNeeds {
				x.Needs = append(x.Needs, e.ID)
			}
		}
	}
	for _, on := range g.leans[r.File] {
		if e := w.at[int(on)]; e != nil && w.a.Direction == InsideOut && len(needs) < mostNeeds {
			needs = append(needs, e.Title)
			x.Needs = append(x.Needs, e.ID)
		}
	}
	slices.Sort(x.Needs)
	x.Why = g.why(r.File, w.b.why[r.File], led, needs)
	return x, nil
}

// title is what a passage on a file is called: the file's name, with its folder's
// where others in the repository are called the same.
func (g *Ground) title(file int) string {
	p := g.Whole.Files[file].Path
	if g.named[path.Base(p)] == 1 || path.Dir(p) == "." {
		return path.Base(p)
	}
	return path.Join(path.Base(path.Dir(p)), path.Base(p))
}

// clipped cuts a title that is longer than a plan takes.
func clipped(s string) string {
	if r := []rune(s); len(r) > plan.MaxTitle {
		return string(r[:plan.MaxTitle-1]) + "…"
	}
	return s
}

// How many passages a chapter has.
const (
	fewest   = 3
	mostRead = 9
)

// part is a chapter to be.
type part struct {
	title, intent string
	readings      []Reading
	area, stage   int
}

// parts cuts readings into chapters: by the stages of the goal, or where the
// order comes to another area of the tree.
func (w *writer) parts(readings []Reading) []part {
	files := make([]int, len(readings))
	for n, r := range readings {
		files[n] = r.File
	}
	area := w.g.areas(files)
	stage := func(n int) int {
		if w.b.in == nil {
			return 0
		}
		return w.b.in[files[n]]
	}
	var out []part
	for n, r := range readings {
		last := len(out) - 1
		if last < 0 || stage(n) != out[last].stage || area[n] != out[last].area && len(out[last].readings) >= fewest || len(out[last].readings) >= mostRead {
			out = append(out, part{area: area[n], stage: stage(n)})
			last++
		}
		out[last].readings = append(out[last].readings, r)
	}
	seen := map[string]int{}
	for k := range out {
		p := &out[k]
		if len(w.b.stages) > 0 && (k == 0 || out[k-1].stage != p.stage) {
			p.title, p.intent = w.b.stages[p.stage].title, w.b.stages[p.stage].intent
		} else {
			p.title, p.intent = w.name(p.readings)
		}
		switch seen[p.title]++; {
		case seen[p.title] == 2:
			p.title = "More of " + p.title
		case seen[p.title] > 2:
			p.title = fmt.Sprintf("More of %s (%d)", p.title, seen[p.title]-1)
		}
	}
	return out
}

// name is what a chapter is called: the innermost folder around all that is read
// in it, or the two folders in which most is.
func (w *writer) name(readings []Reading) (title, intent string) {
	dirs := map[string]int{}
	common := strings.Split(path.Dir(w.g.Whole.Files[readings[0].File].Path), "/")
	for _, r := range readings {
		dir := path.Dir(w.g.Whole.Files[r.File].Path)
		dirs[dir] += r.Minutes
		parts := strings.Split(dir, "/")
		n := 0
		for n < len(common) && n < len(parts) && common[n] == parts[n] {
			n++
		}
		common = common[:n]
	}
	dir := strings.Join(common, "/")
	if dir != "" && dir != "." {
		if said, err := w.g.Whole.OfFolder(dir); err == nil {
			for _, s := range said {
				if s.Kind == "purpose" {
					return dir, s.Text + cited(s.Cites, "")
				}
			}
		}
		return dir, ""
	}
	names := make([]string, 0, len(dirs))
	for d := range dirs {
		names = append(names, d)
	}
	slices.SortFunc(names, func(a, b string) int {
		if dirs[a] != dirs[b] {
			return dirs[b] - dirs[a]
		}
		return strings.Compare(a, b)
	})
	for i, n := range names {
		if n == "." {
			names[i] = "the root"
		}
	}
	switch {
	case names[0] == "the root":
		return "From " + w.g.title(readings[0].File) + " on", ""
	case len(names) == 1:
		return names[0], ""
	case len(names) == 2:
		return names[0] + " and " + names[1], ""
	}
	return names[0] + ", " + names[1] + " and others", ""
}
