package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
)

func TestTargetsAtAnotherCommit(t *testing.T) {
	old, now := strings.Repeat("a", 40), strings.Repeat("b", 40)
	lines := func(path string, start, end int) plan.Stretch {
		return plan.Stretch{Path: path, Start: start, End: end}
	}
	for name, c := range map[string]struct {
		was    plan.Target
		places []plan.Stretch // where they stand now
		want   plan.Target
	}{
		"lines":        {plan.Target{Kind: plan.Lines, Path: "a", Start: 1, End: 2}, []plan.Stretch{lines("b", 3, 4)}, plan.Target{Kind: plan.Lines, Path: "b", Start: 3, End: 4}},
		"a skim":       {plan.Target{Kind: plan.File, Path: "a", Skim: 40}, []plan.Stretch{lines("b", 0, 0)}, plan.Target{Kind: plan.File, Path: "b", Skim: 40}},
		"a folder":     {plan.Target{Kind: plan.Folder, Path: "a"}, []plan.Stretch{lines("a", 0, 0)}, plan.Target{Kind: plan.Folder, Path: "a"}},
		"a pair":       {plan.Target{Kind: plan.Pair, Path: "a", Beside: &plan.Stretch{Path: "b", Commit: old, Says: "x"}}, []plan.Stretch{lines("a", 0, 0), lines("c", 0, 0)}, plan.Target{Kind: plan.Pair, Path: "a", Beside: &plan.Stretch{Path: "c", Commit: now, Says: "x"}}},
		"a way":        {plan.Target{Kind: plan.Way, Hops: []plan.Stretch{lines("a", 1, 1), lines("b", 2, 2)}}, []plan.Stretch{lines("a", 5, 5), lines("b", 6, 6)}, plan.Target{Kind: plan.Way, Hops: []plan.Stretch{lines("a", 5, 5), lines("b", 6, 6)}}},
		"a trial":      {plan.Target{Kind: plan.Try, Try: &plan.Trial{Commands: "make", Pauses: []plan.Stretch{lines("a", 1, 1)}}}, []plan.Stretch{lines("a", 9, 9)}, plan.Target{Kind: plan.Try, Try: &plan.Trial{Commands: "make", Pauses: []plan.Stretch{lines("a", 9, 9)}}}},
		"a file to be": {plan.Target{Kind: plan.Planned, Path: "new", Pattern: "a"}, []plan.Stretch{lines("b", 0, 0)}, plan.Target{Kind: plan.Planned, Path: "new", Pattern: "b"}},
	} {
		t.Run(name, func(t *testing.T) {
			c.was.Commit, c.want.Commit = old, now
			require.Len(t, c.was.Places(), len(c.places))
			assert.Equal(t, c.want, c.was.At(now, c.places))
			assert.Equal(t, old, c.was.Commit, "the one it was stays as it is")
		})
	}
	for _, kind := range []string{plan.Commit, plan.Comparison} {
		stays := plan.Target{Kind: kind, Commit: old, Base: now}
		assert.Empty(t, stays.Places())
		assert.Equal(t, stays, stays.At(now, nil))
	}
	assert.Equal(t, plan.Gone, plan.Worst(plan.Same, plan.Gone, plan.Changed))
	assert.Equal(t, plan.Same, plan.Worst())
}
