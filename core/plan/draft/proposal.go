package draft

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
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
	Lacks    []string          `json:"lacks" enum:"hotspots,centrality,entry_points" doc:"Figures that say nothing, since the repository has none of it"`
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

// Propose drafts a plan. It fails with *Unknown where the goal speaks of what is
// not there.
func (g *Ground) Propose(a Asked) (*Proposal, error) {
	b, err := g.brief(&a.Goal)
	if err != nil {
		return nil, err
	}
	p := &Proposal{Title: b.title, Purpose: b.purpose, Goal: a.Goal.plan(a.Direction), Budget: a.Minutes, Chapters: []ProposedChapter{}, Notes: append([]string{}, b.notes...)}
	h := g.hand(a.Plan)
	left := a.Minutes - h.minutes
	var openers []plan.Passage
	for _, x := range b.openers {
		if a.Minutes >= shortest && x.Minutes <= left && (x.Target.Kind != plan.Try || a.Minutes >= longer) && !h.leave[id(&x.Target)] {
			openers = append(openers, x)
			left -= x.Minutes
		}
	}
	leave := g.leave(b, h, &a.Goal)
	for _, x := range openers {
		if i := g.Whole.Find(x.Target.Path); i >= 0 {
			leave[i] = true
		}
	}
	var readings []Reading
	if left > 0 {
		readings = b.staged(g.Readings(Task{Minutes: left, Direction: a.Direction, Weights: Standard, Interest: b.interest, Leave: leave, Read: h.reads, spots: b.spots}))
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
	p.Lacks = g.lacks()
	p.tell(g, h)
	return p, nil
}

// leave tells of every file whether it is not to be proposed: people read it in the
// plan already, or took it out.
func (g *Ground) leave(b *brief, h *hand, goal *Goal) []bool {
	out := make([]bool, len(g.Whole.Files))
	for i := range out {
		if out[i] = h.reads[i] > 0; !out[i] && len(h.leave) > 0 {
			t := g.target(Reading{File: i}, b, goal)
			out[i] = h.leave[id(&t)]
		}
	}
	return out
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

// lacks names the figures of which the repository has nothing.
func (g *Ground) lacks() []string {
	out := []string{}
	for _, x := range []struct {
		name   string
		shares []float64
	}{{"hotspots", g.hot}, {"centrality", g.central}, {"entry_points", g.starts}} {
		if !slices.ContainsFunc(x.shares, func(s float64) bool { return s > 0 }) {
			out = append(out, x.name)
		}
	}
	return out
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
		t.Kind, t.Start, t.End = s.kind, s.start, s.end
		if s.symbol != nil {
			t.Symbol = s.symbol.Qualified
		}
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
