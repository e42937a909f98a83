package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
)

func TestWhatAPlanCovers(t *testing.T) {
	s := plan.New()
	apply := func(op plan.Op) { require.NoError(t, s.Apply(op)) }
	apply(chapter("chapter-a", "1"))
	lines, whole, gone := passage("lines-of-a", "chapter-a", "1"), passage("whole-of-b", "chapter-a", "2"), passage("gone-of-c", "chapter-a", "3")
	lines.NewPs.Target = plan.Target{Kind: plan.Lines, Path: "x/a.go", Start: 10, End: 20, Commit: lines.NewPs.Target.Commit}
	whole.NewPs.Target = plan.Target{Kind: plan.File, Path: "x/y/b.go", Skim: 40, Commit: lines.NewPs.Target.Commit}
	gone.NewPs.Target = plan.Target{Kind: plan.File, Path: "z/c.go", Commit: lines.NewPs.Target.Commit}
	for _, op := range []plan.Op{lines, whole, gone, {Kind: plan.RemovePassage, ID: "gone-of-c"}, {Kind: plan.SetAside, ID: "lead-c", To: "generated next year"}} {
		apply(op)
	}
	others := []plan.Other{{ID: 7, Reads: plan.NewReads([]plan.Passage{{ID: "p", Target: plan.Target{Kind: plan.Folder, Path: "w"}}, {ID: "q", Target: plan.Target{Kind: plan.File, Path: "x/a.go"}}})}}
	state := map[string]string{}
	for _, c := range s.Cover([]plan.Thing{
		{Key: "in", Path: "x/a.go", Line: 15}, {Key: "behind", Path: "x/a.go", Line: 21}, {Key: "file", Path: "x/a.go"}, {Key: "skimmed", Path: "x/y/b.go", Line: 900}, {Key: "lead-c", Path: "z/c.go"}, {Key: "everywhere", Path: "z/d.go"},
		{Key: "open", Path: "z/c.go"}, {Key: "folder:x", Kind: plan.FolderKind, Path: "x"}, {Key: "folder:z", Kind: plan.FolderKind, Path: "z"}, {Key: "folder:w", Kind: plan.FolderKind, Path: "w"}, {Key: "folder:", Kind: plan.FolderKind, Path: ""},
	}, others, func(key string) string { return map[string]string{"everywhere": "a copy"}[key] }) {
		state[c.Key] = c.State + " " + c.Passage + c.Reason
	}
	assert.Equal(t, map[string]string{
		"in": "here lines-of-a", "behind": "elsewhere ", "file": "here lines-of-a", "skimmed": "here whole-of-b", "lead-c": "aside generated next year", "everywhere": "aside a copy",
		"open": "open ", "folder:x": "here lines-of-a", "folder:z": "open ", "folder:w": "elsewhere ", "folder:": "open ",
	}, state)
}

func TestSettingAsideIsTakenBack(t *testing.T) {
	s := plan.New()
	op := plan.Op{Kind: plan.SetAside, ID: "folder:x", To: "copied from elsewhere"}
	back := s.Inverse(op)
	require.NoError(t, s.Apply(op))
	var conflict *plan.Conflict
	require.ErrorAs(t, s.Clone().Apply(op), &conflict)
	assert.Equal(t, "copied from elsewhere", conflict.Current)
	require.NoError(t, s.Apply(back))
	assert.Empty(t, s.Aside)
	assert.Error(t, s.Apply(plan.Op{Kind: plan.SetAside, To: "nothing"}))
}
