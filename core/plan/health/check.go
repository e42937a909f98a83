package health

import (
	"context"
	"fmt"
	"io"
	"strings"
	"unicode"

	"juxtagram/core/follow"
	"juxtagram/core/note"
	"juxtagram/core/plan"
)

// Check is what became of a whole plan at a commit.
type Check struct {
	Title    string    `json:"title"`
	Commit   string    `json:"commit"`
	Counts   Counts    `json:"counts"`
	Passages []Checked `json:"passages"` // all of them, in reading order
}

// Counts are how many passages are what.
type Counts struct {
	Same    int `json:"same"`
	Moved   int `json:"moved"`
	Changed int `json:"changed"`
	Gone    int `json:"gone"`
}

// Checked is a passage with its number in reading order, from 1.
type Checked struct {
	Number int    `json:"number"`
	Title  string `json:"title"`
	Report
}

// Add counts a passage.
func (c *Counts) Add(what string) {
	*map[string]*int{plan.Same: &c.Same, plan.Moved: &c.Moved, plan.Changed: &c.Changed, plan.Gone: &c.Gone}[what]++
}

// Look checks every passage of a plan.
func Look(ctx context.Context, to *follow.Follower, s *plan.State) (*Check, error) {
	c := &Check{Title: s.Title, Commit: to.Commit(), Passages: []Checked{}}
	for _, chapter := range s.InOrder() {
		for i := range chapter.Passages {
			x := &chapter.Passages[i]
			places, err := Find(ctx, to, &x.Target)
			if err != nil {
				return nil, fmt.Errorf("passage %q: %w", x.ID, err)
			}
			r := Of(x, to.Commit(), places)
			c.Counts.Add(r.What)
			c.Passages = append(c.Passages, Checked{len(c.Passages) + 1, x.Title, r})
		}
	}
	return c, nil
}

// Measure says what counts as stale: what changed or is gone, and
type Measure struct {
	Moved bool    // what stands elsewhere
	Alike float64 // but for what changed so little that this share of it reads as it did, 0..1; 0: nothing is excepted
}

// Stale tells whether a passage is.
func (m *Measure) Stale(r *Report) bool {
	switch r.What {
	case plan.Gone:
		return true
	case plan.Moved:
		return m.Moved
	case plan.Same:
		return false
	}
	for i := range r.Places {
		if m.Alike == 0 || r.Places[i].Like < m.Alike {
			return true
		}
	}
	return m.Moved
}

// Stale is how many passages are.
func (c *Check) Stale(m *Measure) int {
	n := 0
	for i := range c.Passages {
		if m.Stale(&c.Passages[i].Report) {
			n++
		}
	}
	return n
}

// Printable is a text for a terminal: what would steer it, or turn the text round, is
// shown instead.
func Printable(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsControl(r) {
			return '\uFFFD'
		}
		return r
	}, note.Visible(s))
}

// Print writes a line for each passage that is not as it was.
func (c *Check) Print(w io.Writer) error {
	k := c.Counts
	_, err := fmt.Fprintf(w, "%s at %.10s: %d as they were, %d moved, %d changed, %d gone\n", Printable(c.Title), c.Commit, k.Same, k.Moved, k.Changed, k.Gone)
	for _, p := range c.Passages {
		if p.What == plan.Same || err != nil {
			continue
		}
		if _, err = fmt.Fprintf(w, "  %-7s  %d. %s\n", p.What, p.Number, Printable(p.Title)); err != nil {
			return err
		}
		for i := range p.Places {
			if p.Places[i].What != plan.Same && err == nil {
				_, err = fmt.Fprintf(w, "           %s\n", Printable(p.Places[i].Says()))
			}
		}
	}
	return err
}

// Bring brings the passages of a plan that are not gone along to the commit.
func (c *Check) Bring(s *plan.State) {
	for i := range c.Passages {
		p := &c.Passages[i]
		x := s.Passages[p.Passage]
		if p.What == plan.Gone || x == nil {
			continue
		}
		moved := *x
		moved.Target = p.Target
		if p.Drafted != "" {
			moved.Drafted = p.Drafted
		}
		s.Passages[x.ID] = &moved
	}
}
