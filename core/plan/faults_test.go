package plan_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/plan"
)

// lore is a repository whose files have 100 lines; gone.go is not there, and
// made.go was generated.
type lore struct{}

func (lore) Lines(_, path string) int {
	if path == "gone.go" {
		return -1
	}
	return 100
}

func (lore) Generated(_, path string) string {
	if path == "made.go" {
		return "Code generated"
	}
	return ""
}

func told(list []plan.Fault) []string {
	out := []string{}
	for _, p := range list {
		line := p.Kind
		for _, word := range append(p.Passages, p.Idea, p.Chapter, p.Detail) {
			if word != "" {
				line += " " + word
			}
		}
		out = append(out, line)
	}
	return out
}

// clean is a plan of three passages without a problem: p-one, p-two, p-three.
func clean(t *testing.T) *plan.State {
	s := plan.New()
	add := func(id, order string, from int, needs ...string) plan.Op {
		return plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: id, Chapter: "chapter-a", Order: order, Title: id, Purpose: "so", Minutes: 10, Needs: needs,
			Target: plan.Target{Kind: plan.Lines, Path: "a.go", Start: from, End: from + 5, Commit: commit}}}
	}
	apply(t, s, chapter("chapter-a", "V"), add("passage-1", "B", 1), add("passage-2", "D", 10, "passage-1", "idea-1"), add("passage-3", "F", 20, "passage-2"),
		plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-1", Name: "frame", By: "passage-1"}}, plan.Op{Kind: plan.SetPlan, Field: "budget", From: "0", To: "30"})
	return s
}

func TestFaults(t *testing.T) {
	target := func(id string, x plan.Target) func(s *plan.State) {
		return func(s *plan.State) {
			p := *s.Passages[id]
			x.Commit = commit
			p.Target = x
			s.Passages[id] = &p
		}
	}
	ops := func(list ...plan.Op) func(s *plan.State) { return func(s *plan.State) { apply(t, s, list...) } }
	for name, c := range map[string]struct {
		do   func(s *plan.State)
		want []string
	}{
		"none":                    {func(*plan.State) {}, []string{}},
		"too long":                {ops(plan.Op{Kind: plan.SetPassage, ID: "passage-3", Field: "minutes", From: "10", To: "11"}), []string{"over-budget"}},
		"too long but for choice": {ops(plan.Op{Kind: plan.SetPassage, ID: "passage-3", Field: "minutes", From: "10", To: "11"}, plan.Op{Kind: plan.SetPassage, ID: "passage-3", Field: "optional", From: "false", To: "true"}), []string{}},
		"needed later":            {ops(plan.Op{Kind: plan.MovePassage, ID: "passage-2", Chapter: "chapter-a", Order: "Z"}), []string{"needed-later passage-3 passage-2"}},
		"needed and gone":         {ops(plan.Op{Kind: plan.RemovePassage, ID: "passage-2"}), []string{"needed-gone passage-3"}},
		"idea before its time":    {ops(plan.Op{Kind: plan.SetIdea, ID: "idea-1", Field: "by", From: "passage-1", To: "passage-3"}), []string{"cycle passage-2 passage-3", "used-before passage-2 passage-3 idea-1"}},
		"idea of nowhere":         {ops(plan.Op{Kind: plan.SetIdea, ID: "idea-1", Field: "by", From: "passage-1", To: ""}), []string{"unintroduced passage-2 idea-1"}},
		"idea in a text":          {ops(plan.Op{Kind: plan.SetIdea, ID: "idea-1", Field: "by", From: "passage-1", To: "passage-2"}, plan.Op{Kind: plan.SetPassage, ID: "passage-1", Field: "text", To: "A [frame](idea:idea-1), not `[x](idea:idea-1)`."}), []string{"used-before passage-1 passage-2 idea-1"}},
		"round and round":         {ops(plan.Op{Kind: plan.AddNeed, ID: "passage-1", To: "passage-3"}), []string{"needed-later passage-1 passage-3", "cycle passage-1 passage-2 passage-3"}},
		"the same lines":          {target("passage-3", plan.Target{Kind: plan.Lines, Path: "a.go", Start: 15, End: 16}), []string{"same-lines passage-3 passage-2 a.go"}},
		"the whole file too":      {target("passage-1", plan.Target{Kind: plan.File, Path: "a.go"}), []string{"same-lines passage-2 passage-1 a.go", "same-lines passage-3 passage-1 a.go"}},
		"another look":            {target("passage-1", plan.Target{Kind: plan.File, Path: "a.go", Skim: 20}), []string{}},
		"generated":               {target("passage-1", plan.Target{Kind: plan.File, Path: "made.go"}), []string{"generated passage-1 Code generated"}},
		"past the end":            {target("passage-1", plan.Target{Kind: plan.Way, Hops: []plan.Stretch{{Path: "b.go", Start: 90, End: 101}}}), []string{"past-end passage-1 b.go"}},
		"not there":               {target("passage-1", plan.Target{Kind: plan.Pair, Path: "b.go", Beside: &plan.Stretch{Path: "gone.go"}}), []string{"not-there passage-1 gone.go"}},
		"no purpose":              {ops(plan.Op{Kind: plan.SetPassage, ID: "passage-2", Field: "purpose", From: "so", To: ""}), []string{"no-purpose passage-2"}},
		"an empty chapter":        {ops(chapter("chapter-b", "Z")), []string{"empty-chapter chapter-b"}},
	} {
		s := clean(t)
		c.do(s)
		assert.Equal(t, c.want, told(s.Faults(lore{})), name)
	}
}

func TestDiffer(t *testing.T) {
	from := clean(t)
	assert.Empty(t, plan.Differ(from, from.Clone()))
	to := from.Clone()
	apply(t, to, plan.Op{Kind: plan.RemovePassage, ID: "passage-2"},
		plan.Op{Kind: plan.SetPassage, ID: "passage-3", Field: "text", To: "more"}, plan.Op{Kind: plan.DropNeed, ID: "passage-3", To: "passage-2"}, passage("passage-4", "chapter-a", "E"),
		plan.Op{Kind: plan.SetChapter, ID: "chapter-a", Field: "intent", To: "x"}, plan.Op{Kind: plan.RemoveIdea, ID: "idea-1"}, plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: "idea-2", Name: "sample"}})
	var out []string
	for _, c := range plan.Differ(from, to) {
		out = append(out, strings.TrimSpace(c.What+" "+c.ID+" "+strings.Join(c.Fields, " ")))
	}
	assert.Equal(t, []string{"changed chapter-a intent", "new passage-4", "changed passage-3 text needs", "new idea-2", "gone passage-2", "gone idea-1"}, out)
	moved := from.Clone()
	apply(t, moved, plan.Op{Kind: plan.MovePassage, ID: "passage-1", Chapter: "chapter-a", Order: "Z"})
	assert.Equal(t, []plan.Change{{ID: "passage-1", Kind: "passage", What: "moved", Title: "passage-1", Fields: []string{}}}, plan.Differ(from, moved), "the others stayed")
	apply(t, to, plan.Op{Kind: plan.RemoveChapter, ID: "chapter-a"})
	assert.Contains(t, fmt.Sprint(plan.Differ(from, to)), "{chapter-a chapter gone")
}
