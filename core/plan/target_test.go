package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
)

func TestKindsOfTargets(t *testing.T) {
	hop := plan.Stretch{Path: "a.go", Start: 1, End: 2}
	add := func(x plan.Target) error {
		s := plan.New()
		require.NoError(t, s.Apply(chapter("chapter-a", "V")))
		x.Commit = commit
		return s.Apply(plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: "passage-1", Chapter: "chapter-a", Order: "V", Target: x}})
	}
	for name, x := range map[string]plan.Target{
		"a file":                 {Kind: plan.File, Path: "a.go"},
		"its most telling lines": {Kind: plan.File, Path: "a.go", Skim: 40},
		"lines":                  {Kind: plan.Lines, Path: "a.go", Start: 1, End: 1},
		"a symbol":               {Kind: plan.Symbol, Path: "a.go", Symbol: "T.m", Start: 1, End: 9},
		"the root folder":        {Kind: plan.Folder},
		"a pair":                 {Kind: plan.Pair, Path: "a_unix.go", Beside: &plan.Stretch{Path: "a_windows.go"}},
		"a pair of lines":        {Kind: plan.Pair, Path: "a.go", Start: 1, End: 2, Beside: &plan.Stretch{Path: "a.go", Start: 5, End: 6, Commit: commit}},
		"a commit":               {Kind: plan.Commit},
		"a comparison":           {Kind: plan.Comparison, Base: commit},
		"an extract":             {Kind: plan.Extract, Path: "a.go", Start: 3, End: 9, Column: 5},
		"a way":                  {Kind: plan.Way, Hops: []plan.Stretch{hop, hop}},
		"a file to be written":   {Kind: plan.Planned, Path: "a_windows.go", Pattern: "a_unix.go"},
		"an asset":               {Kind: plan.Asset, Path: "a.png"},
		"something to try":       {Kind: plan.Try, Try: &plan.Trial{Commands: "make test", Pauses: []plan.Stretch{hop}}},
	} {
		assert.NoError(t, add(x), name)
	}
	for name, x := range map[string]plan.Target{
		"lines without lines":     {Kind: plan.Lines, Path: "a.go"},
		"lines turned round":      {Kind: plan.Lines, Path: "a.go", Start: 9, End: 1},
		"a symbol without a name": {Kind: plan.Symbol, Path: "a.go", Start: 1, End: 9},
		"a file without a path":   {Kind: plan.File},
		"half a pair":             {Kind: plan.Pair, Path: "a.go"},
		"a pair with nothing":     {Kind: plan.Pair, Path: "a.go", Beside: &plan.Stretch{}},
		"compared with a branch":  {Kind: plan.Comparison, Base: "main"},
		"a way to nowhere":        {Kind: plan.Way},
		"a way over bad lines":    {Kind: plan.Way, Hops: []plan.Stretch{{Path: "a.go", Start: 5, End: 2}}},
		"a long way":              {Kind: plan.Way, Hops: make([]plan.Stretch, 101)},
		"nothing to try":          {Kind: plan.Try},
		"an empty trial":          {Kind: plan.Try, Try: &plan.Trial{Folder: "x"}},
		"hops of a file":          {Kind: plan.File, Path: "a.go", Hops: []plan.Stretch{hop}},
		"a skim of lines":         {Kind: plan.Lines, Path: "a.go", Start: 1, End: 9, Skim: 3},
		"NUL in a path":           {Kind: plan.File, Path: "a\x00.go"},
	} {
		var no *plan.Invalid
		assert.ErrorAs(t, add(x), &no, name)
	}
}
