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

// Asked is what is asked of a draft.
type Asked struct {
	Goal      Goal
	Minutes   int
	Direction Direction
	// Plan is the one to draft for; nil: there is none yet. What a person made or
	// decided in it stays as it is.
	Plan *plan.State
}

// Proposal is a draft of a plan. The same ground and question give the same.
type Proposal struct {
	Title    string            `json:"title"`
	Purpose  string            `json:"purpose"`
	Goal     plan.Goal         `json:"goal"`
	Budget   int               `json:"budget" doc:"Minutes that were asked for"`
	Minutes  int               `json:"minutes" doc:"That it takes, all of it taken"`
	Chapters []ProposedChapter `json:"chapters" doc:"With what is there already, in reading order"`
	Figures  Figures           `json:"figures"`
	Notes    []string          `json:"notes" doc:"What was left out or could not be done, and why"`
}

// ProposedChapter is a chapter of a proposal.
type ProposedChapter struct {
	plan.Chapter
	New      bool              `json:"new"`
	Passages []ProposedPassage `json:"passages"`
}

// ProposedPassage is a passage of a proposal.
type ProposedPassage struct {
	plan.Passage
	State string `json:"state" enum:"new,there,resized,out,yours" doc:"What becomes of it: it is new; stays; is shown within other lines; is taken out; or a person decided, and it stays"`
	Was   *Was   `json:"was,omitempty"`
}

// Was is how a passage was before it is resized.
type Was struct {
	Skim    int `json:"skim" doc:"0: all lines"`
	Minutes int `json:"minutes"`
}

// What becomes of passages.
const (
	IsNew   = "new"
	IsThere = "there"
	Resized = "resized"
	Out     = "out"
	Yours   = "yours"
)

// Budgets of a draft, in minutes.
const (
	LeastMinutes = 5
	MostMinutes  = 2400 // five days of eight hours
)

// filled is which share of the minutes a draft fills, where there is so much to read.
const filled = 0.97

// mostNeeds is how many earlier passages one says that it needs.
const mostNeeds = 2

// Propose drafts a plan. It fails with *Unknown where the goal speaks of what is
// not there.
func (g *Ground) Propose(a Asked) (*Proposal, error) {
	b, err := g.brief(&a.Goal)
	if err != nil {
		return nil, err
	}
	p := &Proposal{Title: b.title, Purpose: b.purpose, Goal: a.Goal.plan(a.Direction), Budget: a.Minutes, Chapters: []ProposedChapter{}, Notes: []string{}}
	h := g.hand(a.Plan)
	left := a.Minutes - h.minutes
	var openers []plan.Passage
	for _, x := range b.openers {
		if a.Minutes >= shortest && (x.Target.Kind != plan.Try || a.Minutes >= longer) && !h.leave[id(&x.Target)] {
			openers = append(openers, x)
			left -= x.Minutes
		}
	}
	leave := make([]bool, len(g.Whole.Files))
	for i := range leave {
		t := g.target(Reading{File: i}, b, &a.Goal)
		leave[i] = h.leave[id(&t)] || h.reads[i] > 0 || slices.ContainsFunc(openers, func(o plan.Passage) bool { return o.Target.Path == g.Whole.Files[i].Path })
	}
	var readings []Reading
	if left > 0 {
		readings = b.staged(g.Readings(Task{left, a.Direction, Standard, b.interest, leave, h.reads, b.spots}))
	}
	w := &writer{g: g, b: b, a: &a, at: map[int]*plan.Passage{}}
	if err := w.write(p, openers, readings); err != nil {
		return nil, err
	}
	if a.Plan != nil {
		if p.Chapters, err = merge(a.Plan, p.Chapters); err != nil {
			return nil, err
		}
	}
	p.reckon(g, a.Direction)
	p.tell(g, h)
	return p, nil
}

// plan is a goal as a plan remembers it.
func (goal *Goal) plan(d Direction) plan.Goal {
	return plan.Goal{Kind: goal.Kind, Path: goal.Path, Line: goal.Line, Name: goal.Name, Words: goal.Words, Base: goal.Base, Direction: string(d)}
}

// reckon sums up what a proposal comes to once all of it is taken.
func (p *Proposal) reckon(g *Ground, d Direction) {
	var all []plan.Passage
	for _, c := range p.Chapters {
		for _, x := range c.Passages {
			if x.State != Out {
				all = append(all, x.Passage)
				p.Minutes += x.Minutes
			}
		}
	}
	p.Figures = g.Measure(g.ReadingsOf(all), d)
	p.Figures.Minutes = p.Minutes
}

// tell says what was left out, and why.
func (p *Proposal) tell(g *Ground, h *hand) {
	note := func(format string, args ...any) { p.Notes = append(p.Notes, fmt.Sprintf(format, args...)) }
	switch {
	case h.minutes > p.Budget:
		note("What people decided takes %d minutes, more than there are: nothing is added, and it stays as it is.", h.minutes)
	case float64(p.Minutes) < filled*float64(p.Budget):
		note("There is no more to read for this goal: %d of %d minutes are filled.", p.Minutes, p.Budget)
	}
	if n := h.out; n > 0 {
		note("%s that somebody took out: not proposed again.", count(n, "passage"))
	}
	if n := g.unread(); n > 0 {
		note("%s of generated, copied or unread text: not among what was chosen from.", count(n, "file"))
	}
}

// hand is what people decided in a plan.
type hand struct {
	minutes int
	reads   map[int]int     // file → how many of its lines are read
	leave   map[string]bool // ids of passages that are not to be proposed
	out     int             // of those, which somebody took out
}

func (g *Ground) hand(s *plan.State) *hand {
	h := &hand{reads: map[int]int{}, leave: map[string]bool{}}
	if s == nil {
		return h
	}
	var kept []plan.Passage
	for key, x := range s.Passages {
		switch {
		case s.Passage(key) == nil:
			if x.Drafted != plan.OutByDraft && strings.HasPrefix(key, drafted) {
				h.leave[plain(key)] = true
				h.out++
			}
		case x.ByHand():
			h.minutes += x.Minutes
			h.leave[plain(key)] = true
			kept = append(kept, *x)
		}
	}
	for _, r := range g.ReadingsOf(kept) {
		h.reads[r.File] = r.Lines
	}
	return h
}

// ReadingsOf are the files that passages have one read, each once, with the most
// lines of it that one of them shows; in the order of passages.
func (g *Ground) ReadingsOf(list []plan.Passage) []Reading {
	out := []Reading{}
	at := map[int]int{}
	for i := range list {
		t := &list[i].Target
		for _, s := range t.Stretches() {
			file := g.Whole.Find(s.Path)
			if file < 0 || !g.readable(file) {
				continue
			}
			lines := g.Whole.Files[file].Lines
			switch {
			case s.Start > 0:
				lines = min(lines, s.End-s.Start+1)
			case t.Skim > 0:
				lines = min(lines, t.Skim)
			}
			if n, ok := at[file]; ok {
				out[n].Lines = max(out[n].Lines, lines)
				continue
			}
			at[file] = len(out)
			out = append(out, Reading{file, lines, g.minutes(file, lines)})
		}
	}
	return out
}

// unread counts the files that a plan cannot have one read.
func (g *Ground) unread() int {
	n := 0
	for i := range g.Whole.Files {
		if !g.readable(i) {
			n++
		}
	}
	return n
}

// staged puts readings stage after stage, each in its order.
func (b *brief) staged(readings []Reading) []Reading {
	if b.in != nil {
		slices.SortStableFunc(readings, func(x, y Reading) int { return b.in[x.File] - b.in[y.File] })
	}
	return readings
}

// target is what a reading has one read.
func (g *Ground) target(r Reading, b *brief, goal *Goal) plan.Target {
	f := &g.Whole.Files[r.File]
	t := plan.Target{Kind: plan.File, Path: f.Path, Commit: g.Pin}
	if s, ok := b.spots[r.File]; ok && s.lines > 0 {
		t.Kind, t.Start, t.End, t.Symbol = s.kind, s.start, s.end, s.symbol
		if t.Kind == plan.Comparison {
			t.Base = goal.Base
		}
		return t
	}
	if r.Lines < f.Lines {
		t.Skim = r.Lines
	}
	return t
}

// id is a drafted passage's: what it has one read gives it, but for how much of
// it and at which commit, so that drafts know each other's passages.
func id(t *plan.Target) string {
	commands := ""
	if t.Try != nil {
		commands = t.Try.Folder + "\n" + t.Try.Commands
	}
	sum := sha256.Sum256([]byte(strings.Join([]string{t.Kind, t.Path, t.Symbol, t.Base, commands}, "\x00")))
	return drafted + hex.EncodeToString(sum[:8])
}

// drafted is what the ids of drafted chapters and passages begin with, again what
// is put behind them where one of that id was taken out.
const (
	drafted = "draft-"
	again   = "x"
)

// plain is a drafted id as it was at first.
func plain(id string) string { return strings.TrimRight(id, again) }

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
	if x.Target.Kind == plan.Symbol {
		x.Title = x.Target.Symbol
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
