package survey_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/core/plan/draft"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/survey"
)

func demoGround(t *testing.T) *draft.Ground {
	t.Helper()
	return groundOf(t, demoGit(t))
}

func groundOf(t *testing.T, g *repo.Git) *draft.Ground {
	t.Helper()
	memory, err := survey.NewScratch(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, memory.Close()) })
	r := run(t, g, "main", memory)
	whole, err := r.Whole(ctx, memory, false)
	require.NoError(t, err)
	return r.Ground(whole)
}

func propose(t *testing.T, g *draft.Ground, a draft.Asked) *draft.Proposal {
	t.Helper()
	p, err := g.Propose(a)
	require.NoError(t, err)
	return p
}

// taken is a plan with all of a proposal, as a person takes it: what is new is
// added, what is resized set, what is out removed.
func taken(t *testing.T, s *plan.State, p *draft.Proposal) *plan.State {
	t.Helper()
	s = s.Clone()
	apply := func(op plan.Op) { require.NoError(t, s.Apply(op)) }
	for _, c := range p.Chapters {
		if c.New {
			apply(plan.Op{Kind: plan.AddChapter, NewCh: &c.Chapter})
		}
		for _, x := range c.Passages {
			switch x.State {
			case draft.IsNew:
				apply(plan.Op{Kind: plan.AddPassage, NewPs: &x.Passage})
			case draft.Out:
				apply(plan.Op{Kind: plan.SetPassage, ID: x.ID, Field: "drafted", From: x.Drafted, To: plan.OutByDraft})
				apply(plan.Op{Kind: plan.RemovePassage, ID: x.ID})
			case draft.Resized:
				s.Passages[x.ID] = &x.Passage
			}
		}
	}
	return s
}

func proposed(p *draft.Proposal) (out []draft.ProposedPassage) {
	for _, c := range p.Chapters {
		out = append(out, c.Passages...)
	}
	return out
}

var directions = []draft.Direction{draft.OutsideIn, draft.InsideOut}

func TestADraftIsAPlanThatFillsItsMinutes(t *testing.T) {
	g := demoGround(t)
	for _, d := range directions {
		for _, minutes := range []int{5, 15, 30, 60, 120, 2400} {
			a := draft.Asked{Goal: draft.Goal{Kind: draft.Whole}, Minutes: minutes, Direction: d}
			p := propose(t, g, a)
			s := taken(t, plan.New(), p)
			sum := 0
			for _, x := range proposed(p) {
				sum += x.Minutes
				assert.NotEmpty(t, x.Why, x.Title)
				assert.NotEmpty(t, x.Title)
				assert.False(t, x.ByHand(), "as it was drafted: %s", x.Title)
			}
			assert.Equal(t, p.Minutes, sum)
			if minutes < 2400 {
				assert.InEpsilon(t, minutes, sum, 0.03, "there is so much to read")
			} else {
				assert.Contains(t, p.Notes[0], "no more to read")
			}
			for _, f := range s.Faults(noLore{}) {
				assert.NotContains(t, []string{plan.NeededLater, plan.NeededGone, plan.Cycle, plan.SameLines, plan.EmptyChapter, plan.NoTitle}, f.Kind, "%+v", f)
			}
			again, err := json.Marshal(propose(t, g, a))
			require.NoError(t, err)
			first, err := json.Marshal(p)
			require.NoError(t, err)
			assert.Equal(t, string(first), string(again), "the same question, the same draft")
		}
	}
}

// noLore knows nothing of files.
type noLore struct{}

func (noLore) Lines(string, string) int        { return -2 }
func (noLore) Generated(string, string) string { return "" }

func TestABudgetIsHalvedAndWhatPeopleDecidedStays(t *testing.T) {
	g := demoGround(t)
	a := draft.Asked{Goal: draft.Goal{Kind: draft.Whole}, Minutes: 90, Direction: draft.OutsideIn}
	s := taken(t, plan.New(), propose(t, g, a))
	order := s.InOrder()
	mine, kept, gone := order[1].Passages[0], order[2].Passages[1], order[1].Passages[1]
	require.NoError(t, s.Apply(plan.Op{Kind: plan.SetPassage, ID: mine.ID, Field: "title", From: mine.Title, To: "Mine"}))
	require.NoError(t, s.Apply(plan.Op{Kind: plan.SetPassage, ID: kept.ID, Field: "drafted", From: kept.Drafted, To: ""}))
	require.NoError(t, s.Apply(plan.Op{Kind: plan.RemovePassage, ID: gone.ID}))
	first := order[1].Passages[2]
	require.NoError(t, s.Apply(plan.Op{Kind: plan.MovePassage, ID: first.ID, Chapter: order[1].ID, Order: "01"}))

	for _, minutes := range []int{45, 60, 150} {
		a.Minutes, a.Plan = minutes, s
		p := propose(t, g, a)
		assert.InEpsilon(t, minutes, p.Minutes, 0.03)
		state := map[string]string{}
		for _, x := range proposed(p) {
			state[x.ID] = x.State
		}
		assert.Equal(t, draft.Yours, state[mine.ID])
		assert.Equal(t, draft.Yours, state[kept.ID])
		assert.NotContains(t, state, gone.ID, "what was taken out is not proposed again")
		after := taken(t, s, p)
		assert.Equal(t, s.Passages[mine.ID], after.Passages[mine.ID])
		assert.Equal(t, staying(s, after), staying(after, s), "what is there keeps its order")
		for _, x := range proposed(propose(t, g, draft.Asked{Goal: a.Goal, Minutes: minutes, Direction: a.Direction, Plan: after})) {
			assert.Contains(t, []string{draft.IsThere, draft.Yours}, x.State, "taken once, it proposes nothing more: %s", x.Title)
		}
	}
}

func TestRepositoriesOfOtherShapes(t *testing.T) {
	forty := repotest.New(t)
	for n := range 40 {
		forty.Write(fmt.Sprintf("packages/p%02d/package.json", n), fmt.Sprintf(`{"name":"p%02d","main":"index.js"}`, n),
			fmt.Sprintf("packages/p%02d/index.js", n), fmt.Sprintf("const other = require('../p%02d')\nmodule.exports = { run() { return other.run() } }\n", (n+1)%40))
	}
	forty.Commit("forty packages, each leaning on the next, all round")
	one := repotest.New(t).Write("only.c", "int add(int a, int b)\n{\n\treturn a + b;\n}\n")
	one.Commit("one file")
	none := repotest.New(t).Write("a.md", "# A\n\nNo program here.\n", "b.txt", "nothing\n")
	none.Commit("no program")
	for name, c := range map[string]struct {
		of       *repotest.Repo
		least    int // passages, with minutes enough for all
		surprise float64
	}{"forty packages": {forty, 40, 0.1}, "one file": {one, 1, 0}, "no program": {none, 0, 0}} {
		t.Run(name, func(t *testing.T) {
			g := groundOf(t, c.of.Read())
			for _, d := range directions {
				for _, minutes := range []int{5, 2400} {
					p := propose(t, g, draft.Asked{Goal: draft.Goal{Kind: draft.Whole}, Minutes: minutes, Direction: d})
					taken(t, plan.New(), p)
					assert.LessOrEqual(t, p.Minutes, minutes)
					assert.LessOrEqual(t, p.Figures.Surprises, c.surprise)
					if minutes == 2400 {
						assert.GreaterOrEqual(t, len(proposed(p)), c.least)
						assert.Contains(t, strings.Join(p.Notes, "\n"), "There is no more to read for this goal")
					}
				}
			}
		})
	}
}

// staying are the passages of a plan that another one has, too, in their order.
func staying(s, other *plan.State) (out []string) {
	for _, c := range s.InOrder() {
		for _, x := range c.Passages {
			if other.Passage(x.ID) != nil {
				out = append(out, x.ID)
			}
		}
	}
	return out
}

func TestGoals(t *testing.T) {
	g := demoGround(t)
	symbol := g.Whole.Find("collector/ingest/link.go")
	outline, err := g.Whole.Names.Outline(symbol)
	require.NoError(t, err)
	line := 0
	for _, s := range outline {
		if s.Name == "NewLink" {
			line = s.NameLine
		}
	}
	for name, c := range map[string]struct {
		goal  draft.Goal
		first string // that is read
		holds string // a passage on it is there
	}{
		"a folder":   {draft.Goal{Kind: draft.Folder, Path: "collector/ingest"}, "collector/ingest/", "collector/main.go"},
		"a symbol":   {draft.Goal{Kind: draft.Symbol, Path: "collector/ingest/link.go", Line: line, Name: "NewLink"}, "collector/ingest/link.go", "collector/main.go"},
		"a question": {draft.Goal{Kind: draft.Question, Words: "damaged", Hits: []draft.Hit{{Path: "collector/ingest/link.go", Line: 30, Text: "damaged"}, {Path: "gone.go", Line: 1}}}, "", "collector/ingest/link.go"},
		"what changed": {draft.Goal{Kind: draft.Since, Base: "0123456789012345678901234567890123456789", Changed: []draft.Changed{
			{Path: "collector/ingest/link.go", Changes: 12}, {Path: "collector/old.go", Changes: 40, Gone: true}}}, "", "collector/ingest/link.go"},
	} {
		t.Run(name, func(t *testing.T) {
			for _, d := range directions {
				p := propose(t, g, draft.Asked{Goal: c.goal, Minutes: 45, Direction: d})
				taken(t, plan.New(), p)
				all := proposed(p)
				require.NotEmpty(t, all)
				assert.LessOrEqual(t, p.Minutes, 45)
				var paths []string
				for _, x := range all {
					paths = append(paths, x.Target.Path)
				}
				assert.Contains(t, paths, c.holds)
				if c.first != "" && d == draft.OutsideIn {
					read := all[0].Target.Path
					for _, x := range all {
						if x.Target.Kind == plan.File && x.Title != "What it says of itself" || x.Target.Kind == plan.Symbol {
							read = x.Target.Path
							break
						}
					}
					assert.Contains(t, read, c.first)
				}
			}
		})
	}
	for name, goal := range map[string]draft.Goal{
		"no folder":       {Kind: draft.Folder, Path: "nowhere"},
		"no symbol":       {Kind: draft.Symbol, Path: "collector/main.go", Line: 1, Name: "Nobody"},
		"no file":         {Kind: draft.Symbol, Path: "nowhere.go", Line: 1, Name: "x"},
		"nothing found":   {Kind: draft.Question, Words: "x"},
		"nothing changed": {Kind: draft.Since},
		"no goal":         {Kind: "fame"},
	} {
		_, err := g.Propose(draft.Asked{Goal: goal, Minutes: 30, Direction: draft.OutsideIn})
		var unknown *draft.Unknown
		assert.ErrorAs(t, err, &unknown, name)
	}
}

// What a symbol says of itself is what one will know after its passage; what changes
// with its file is read too, though no import leads there.
func TestASymbolIsToldByItsOwnWordsAndWithWhatChangesWithIt(t *testing.T) {
	r := repotest.New(t)
	gauge := func(n int) string {
		return fmt.Sprintf("package gauge\n\n// Level is centimetres above chart datum.\nfunc Level() int { return %d }\n\nfunc bare() {}\n", n)
	}
	for n := range 3 {
		r.Write("go.mod", "module gauge\n", "gauge.go", gauge(n), "panel.ts", fmt.Sprintf("export const shown = %d\n", n)).Commit("both")
	}
	r.Write("gauge.go", gauge(9), "alone.py", "x = 1\n").Commit("one")
	g := groundOf(t, r.Read())
	for name, want := range map[string]string{"Level": "Level is centimetres above chart datum. (line 4)", "bare": "`func bare()` (line 6)"} {
		line := map[string]int{"Level": 4, "bare": 6}[name]
		p := propose(t, g, draft.Asked{Goal: draft.Goal{Kind: draft.Symbol, Path: "gauge.go", Line: line, Name: name}, Minutes: 15, Direction: draft.OutsideIn})
		read := map[string]draft.ProposedPassage{}
		for _, x := range proposed(p) {
			read[x.Target.Path] = x
		}
		assert.Equal(t, want, read["gauge.go"].Purpose)
		assert.Contains(t, read["panel.ts"].Why, "it changed in 3 of the 4 commits that changed gauge.go")
		assert.NotContains(t, read, "alone.py", "one commit is no sign")
		assert.Equal(t, []string{"hotspots"}, p.Lacks, "nothing of it is intricate")
	}
	p := propose(t, demoGround(t), draft.Asked{Goal: draft.Goal{Kind: draft.Whole}, Minutes: 30, Direction: draft.OutsideIn})
	assert.Empty(t, p.Lacks)
}
