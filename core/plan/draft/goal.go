package draft

import (
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/links/names"
	"juxtagram/core/plan"
	"juxtagram/core/role"
)

// Kinds of goals.
const (
	Whole    = "whole"    // to understand the whole
	Folder   = "folder"   // to start contributing to a folder
	Symbol   = "symbol"   // to change a symbol
	Question = "question" // to pursue a question
	Since    = "since"    // to review what changed since a commit
)

// Goal is what a plan is drafted for. Which fields count depends on Kind.
type Goal struct {
	Kind string
	Path string // of a folder, or of a symbol's file
	Line int    // on which a symbol's name stands
	Name string // of a symbol
	// Words are what a question asks for, and Hits the lines that hold them.
	Words string
	Hits  []Hit
	More  bool // lines were left out of Hits
	// Base is the full id of the commit since which Changed changed.
	Base    string
	Changed []Changed
}

// Hit is a line that has to do with a question.
type Hit struct {
	Path string
	Line int
	Text string
}

// Changed is a file that changed since a commit.
type Changed struct {
	Path    string
	Changes int // lines added and deleted
	Gone    bool
}

// Unknown tells that a goal speaks of something that is not there.
type Unknown struct{ What string }

func (e *Unknown) Error() string { return e.What }

// spot is a stretch of a file that a goal is about, instead of the whole of it.
type spot struct {
	kind       string // of the target
	start, end int    // lines; 0: the whole file
	lines      int    // to read; 0: as many as there is time for
	symbol     *lang.Symbol
}

// stage is a part of a goal that is read together.
type stage struct{ title, intent string }

// brief is what a goal comes to on a ground.
type brief struct {
	title, purpose string
	interest       []float64 // 0..1 of each file; nil: all are of the same
	in             []int     // of each file, its stage; nil: there is one
	stages         []stage   // in reading order; none: chapters follow the tree
	spots          map[int]spot
	why            map[int]string // of files, what they have to do with the goal
	openers        []plan.Passage // what is read first, without ids
	notes          []string       // what was not looked at
}

// how much what stands around a goal is of interest, beside the goal itself.
const (
	ofNeeds    = 0.5
	ofUsers    = 0.35
	ofTests    = 0.5
	ofPartners = 0.4 // where it changed every time
)

func (g *Ground) brief(goal *Goal) (*brief, error) {
	switch goal.Kind {
	case Whole:
		return g.wholeBrief(), nil
	case Folder:
		return g.folderBrief(goal)
	case Symbol:
		return g.symbolBrief(goal)
	case Question:
		return g.questionBrief(goal)
	case Since:
		return g.sinceBrief(goal)
	}
	return nil, &Unknown{fmt.Sprintf("no goal is called %q", goal.Kind)}
}

func (g *Ground) wholeBrief() *brief {
	return &brief{title: "Understand the whole", purpose: "Where it starts, what holds it together and where it moves.", openers: g.bearings("")}
}

// around is a brief in which nothing is of interest yet.
func (g *Ground) around(stages ...stage) *brief {
	n := len(g.Whole.Files)
	return &brief{interest: make([]float64, n), in: make([]int, n), stages: stages, spots: map[int]spot{}, why: map[int]string{}}
}

// put says how much a file is of interest, why, and where it is read; what is
// known to matter more stays.
func (b *brief) put(file int, interest float64, stage int, why string) {
	if interest > b.interest[file] {
		b.interest[file], b.why[file] = interest, why
		if b.in != nil {
			b.in[file] = stage
		}
	}
}

// The stages of a folder and of a symbol, in reading order.
const (
	stageCore = iota
	stageNeeds
	stageUsers
	stageTests
	stagePartners
)

// movesWith is the stage of what has changed together with something.
func movesWith(what string) stage {
	return stage{"What changes with " + what, "What history ties to it, whether an import does or not."}
}

func (g *Ground) folderBrief(goal *Goal) (*brief, error) {
	dir := strings.Trim(goal.Path, "/")
	below := dir + "/"
	if dir == "" {
		return g.wholeBrief(), nil
	}
	b := g.around(stage{dir, "What you are going to change."}, stage{"What " + dir + " leans on", "What it takes for granted."}, stage{"Who leans on " + dir, "Whom a change here reaches."}, stage{"Tests of " + dir, "What holds it to its word, and what to copy for a test of your own."}, movesWith(dir))
	b.title, b.purpose = "Start contributing to "+dir, "What "+dir+" does, what it leans on, who relies on it and how it is tested."
	var inside []int
	for i := range g.Whole.Files {
		f := &g.Whole.Files[i]
		if !strings.HasPrefix(f.Path, below) {
			continue
		}
		inside = append(inside, i)
		if f.Role == role.Test {
			b.put(i, ofTests, stageTests, "it tests what is in "+dir)
			continue
		}
		b.put(i, 1, stageCore, "it is in "+dir)
		for _, on := range g.leans[i] {
			if p := g.Whole.Files[on].Path; !strings.HasPrefix(p, below) {
				b.put(int(on), ofNeeds, stageNeeds, path.Base(f.Path)+" leans on it")
			}
		}
		for _, by := range g.leaned[i] {
			switch u := &g.Whole.Files[by]; {
			case strings.HasPrefix(u.Path, below):
			case u.Role == role.Test:
				b.put(int(by), ofTests, stageTests, "it tests "+path.Base(f.Path))
			default:
				b.put(int(by), ofUsers, stageUsers, "it leans on "+path.Base(f.Path))
			}
		}
	}
	if len(inside) == 0 {
		return nil, &Unknown{dir + " is no folder of this commit"}
	}
	g.partners(b, inside, dir)
	b.openers = g.bearings(dir)
	return b, nil
}

// mostUsers is how many files that use a symbol are looked at.
const mostUsers = 60

func (g *Ground) symbolBrief(goal *Goal) (*brief, error) {
	file := g.Whole.Find(goal.Path)
	if file < 0 {
		return nil, &Unknown{goal.Path + " is not in this commit"}
	}
	at, err := g.Whole.Names.SymbolOn(file, goal.Line, goal.Name)
	if err != nil {
		return nil, err
	}
	if at < 0 {
		return nil, &Unknown{fmt.Sprintf("no symbol called %s stands on line %d of %s", goal.Name, goal.Line, goal.Path)}
	}
	sym, err := g.Whole.Names.Symbol(file, at)
	if err != nil {
		return nil, err
	}
	name := sym.Qualified
	b := g.around(stage{name, "What you are going to change, as it stands."}, stage{"What " + name + " needs", "What it takes for granted."}, stage{"Who uses " + name, "Whom a change reaches."}, stage{"Tests of " + name, "What holds it to its word."}, movesWith(path.Base(goal.Path)))
	b.title, b.purpose = "Change "+name, "What "+name+" does, what it needs, and all that a change of it reaches."
	b.put(file, 1, stageCore, "it makes "+name)
	b.spots[file] = spot{plan.Symbol, sym.Start, sym.End, sym.End - sym.Start + 1, sym}
	needs, err := g.Whole.Names.Needs(file, at)
	if err != nil {
		return nil, err
	}
	for _, n := range needs {
		if d := n.Definition; d.File >= 0 && d.File != file && g.readable(d.File) {
			b.put(d.File, ofNeeds, stageNeeds, fmt.Sprintf("%s uses %s of it (%s:%d)", name, n.Name, goal.Path, n.Line))
			if err := g.spotOf(b, d.File, d.Symbol); err != nil {
				return nil, err
			}
		}
	}
	if err := g.users(b, file, at, name); err != nil {
		return nil, err
	}
	g.partners(b, []int{file}, path.Base(goal.Path))
	return b, nil
}

// mostPartners is how many files that change with others are looked at.
const mostPartners = 12

// partners are what has changed in the same commits as some files.
func (g *Ground) partners(b *brief, files []int, what string) {
	if g.Partners == nil {
		return
	}
	list, of := g.Partners(files, mostPartners)
	for _, p := range list {
		if g.readable(p.File) {
			share := float64(p.Together) / float64(of)
			b.put(p.File, ofPartners*share, stagePartners, fmt.Sprintf("it changed in %d of the %d commits that changed %s", p.Together, of, what))
		}
	}
}

// spotOf narrows a file to one of its symbols; a second symbol of it widens that
// to the file.
func (g *Ground) spotOf(b *brief, file, symbol int) error {
	if symbol < 0 {
		return nil
	}
	s, err := g.Whole.Names.Symbol(file, symbol)
	if err != nil || s == nil {
		return err
	}
	if was, there := b.spots[file]; there {
		if was.symbol == nil || was.symbol.Qualified != s.Qualified {
			b.spots[file] = spot{kind: plan.File}
		}
		return nil
	}
	b.spots[file] = spot{plan.Symbol, s.Start, s.End, s.End - s.Start + 1, s}
	return nil
}

// users are the files that use a symbol, and its tests.
func (g *Ground) users(b *brief, file, symbol int, name string) error {
	page, err := g.Whole.Names.Uses(file, symbol, 0, mostUsers)
	if err != nil {
		return err
	}
	if page.Next > 0 {
		b.notes = append(b.notes, fmt.Sprintf("%d files hold the name; the nearest %d were looked at.", page.Total, len(page.Files)))
	}
	for _, u := range page.Files {
		if u.File == file || !g.readable(u.File) || len(u.Sites) == 0 {
			continue
		}
		how := ofUsers
		if u.Certainty == names.ByName {
			how /= 2 // the name alone is the same
		}
		where := stageUsers
		if g.Whole.Files[u.File].Role == role.Test {
			where = stageTests
		}
		b.put(u.File, how, where, fmt.Sprintf("line %d names it", u.Sites[0].Line))
		if err := g.spotOf(b, u.File, u.Sites[0].Symbol); err != nil {
			return err
		}
	}
	tests, err := g.Whole.Tests(file)
	if err != nil {
		return err
	}
	for _, t := range tests {
		b.put(t, ofTests, stageTests, "it tests "+path.Base(g.Whole.Files[file].Path))
	}
	return nil
}

func (g *Ground) questionBrief(goal *Goal) (*brief, error) {
	b := g.around()
	b.in = nil
	b.title, b.purpose = "Pursue: "+goal.Words, "Where “"+goal.Words+"” comes up, and what stands around it."
	hits := map[int][]Hit{}
	places, words := 0, 0
	for _, h := range goal.Hits {
		if i := g.Whole.Find(h.Path); i >= 0 && g.readable(i) {
			hits[i] = append(hits[i], h)
		}
	}
	held := map[int]int{} // file → how many words of the question it holds
	for i, list := range hits {
		held[i] = distinct(goal.Words, list)
		places, words = max(places, len(list)), max(words, held[i])
	}
	if places == 0 {
		return nil, &Unknown{"nothing that a plan could have one read holds “" + goal.Words + "”"}
	}
	if goal.More {
		b.notes = append(b.notes, fmt.Sprintf("More lines hold it than the %d that were looked at.", len(goal.Hits)))
	}
	for _, i := range slices.Sorted(maps.Keys(hits)) {
		list := hits[i]
		if 2*held[i] < words {
			continue // a word or two of many, by chance
		}
		// a second place in a file tells less than the first
		b.put(i, float64(held[i])/float64(words)*(0.5+0.5*float64(len(list))/float64(places)), 0, fmt.Sprintf("%s in it: line %d: %s", count(len(list), "place"), list[0].Line, strings.TrimSpace(list[0].Text)))
		for _, on := range g.leans[i] {
			b.put(int(on), 0.15, 0, path.Base(g.Whole.Files[i].Path)+" leans on it")
		}
	}
	return b, nil
}

// distinct counts the words of a question that places hold, all of it counting as
// one more than there are words; at least 1.
func distinct(words string, list []Hit) int {
	var all strings.Builder
	for _, h := range list {
		all.WriteString(strings.ToLower(h.Text))
		all.WriteByte('\n')
	}
	asked := strings.Fields(strings.ToLower(words))
	if strings.Contains(all.String(), strings.Join(asked, " ")) {
		return len(asked) + 1
	}
	n := 0
	for _, w := range asked {
		if strings.Contains(all.String(), w) {
			n++
		}
	}
	return max(n, 1)
}

func (g *Ground) sinceBrief(goal *Goal) (*brief, error) {
	b := g.around()
	b.in = nil
	b.title, b.purpose = fmt.Sprintf("What changed since %.10s", goal.Base), "What is different, and what that touches."
	sum := 0
	gone := 0
	for _, c := range goal.Changed {
		sum += c.Changes
		if c.Gone {
			gone++
		}
	}
	if len(goal.Changed) == 0 {
		return nil, &Unknown{"nothing changed since that commit"}
	}
	b.openers = []plan.Passage{{
		Title: "All that changed", Purpose: fmt.Sprintf("How far it goes: %s, %s changed.", count(len(goal.Changed), "file"), count(sum, "line")),
		Target: plan.Target{Kind: plan.Comparison, Commit: g.Pin, Base: goal.Base}, Minutes: 3, Why: fmt.Sprintf("the changes as a whole; %s gone", count(gone, "file")),
	}}
	for _, c := range goal.Changed {
		if i := g.Whole.Find(c.Path); i >= 0 && !c.Gone && g.readable(i) && c.Changes > 0 {
			b.put(i, float64(c.Changes), 0, count(c.Changes, "line")+" changed")
			b.spots[i] = spot{kind: plan.Comparison, lines: c.Changes}
		}
	}
	most := 1.0
	for _, x := range b.interest {
		most = max(most, x)
	}
	for i, x := range b.interest {
		b.interest[i] = x / most
	}
	return b, nil
}
