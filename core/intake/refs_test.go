package intake_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/intake"
	"juxtagram/core/repo/repotest"
)

// Commits that stand in for others are told, and do not count in the mirror.
func TestCommitsThatStandInForOthers(t *testing.T) {
	grafted := func(r *repotest.Repo) {
		id := r.Git("rev-parse", "HEAD")
		require.NoError(t, os.WriteFile(filepath.Join(r.Dir, ".git", "info", "grafts"), []byte(id+"\n"), 0o644))
	}
	for name, with := range map[string]func(*repotest.Repo){
		"loose":  func(r *repotest.Repo) { r.Git("replace", "HEAD", "HEAD~1") },
		"packed": func(r *repotest.Repo) { r.Git("replace", "HEAD", "HEAD~1"); r.Git("pack-refs", "--all") },
		"grafts": grafted,
	} {
		r := repotest.New(t)
		r.Write("a", "1\n").Commit("one")
		r.Write("a", "2\n").Commit("two")
		with(r)
		g, taken, err := try(t, r.Dir, intake.Options{})
		require.NoError(t, err, name)
		require.Len(t, taken.Notes, 1, name)
		assert.Contains(t, taken.Notes[0], "stand in for others", name)
		out, err := g.Run(ctx, "log", "--format=%s", "main")
		require.NoError(t, err)
		assert.Equal(t, "two one", strings.Join(strings.Fields(string(out)), " "), name)
	}
	r := repotest.New(t)
	r.Write("a", "1\n").Commit("one")
	_, taken, err := try(t, r.Dir, intake.Options{})
	require.NoError(t, err)
	assert.Empty(t, taken.Notes)
}

// A mirror follows its source: branches that moved, were rewritten, came, went,
// or became folders of others; what is not committed is never read.
func TestAMirrorIsBroughtUpToDate(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1\n").Commit("one")
	r.Git("branch", "stays")
	r.Git("branch", "goes")
	r.Git("branch", "folder")
	r.Git("checkout", "-q", "-b", "turns")
	r.Write("b", "1\n").Commit("turned away")
	r.Git("checkout", "-q", "main")
	g, _, err := try(t, r.Dir, intake.Options{})
	require.NoError(t, err)
	again := func() map[string]string {
		news, err := intake.Again(ctx, g.Dir(), r.Dir, intake.Options{})
		require.NoError(t, err)
		out := map[string]string{}
		for _, n := range news {
			out[n.Kind+" "+n.Name] = n.What
		}
		return out
	}
	assert.Empty(t, again(), "nothing is new")
	lost := r.Git("rev-parse", "turns")
	r.Write("a", "2\n").Commit("two")
	r.Git("branch", "-q", "-D", "goes")
	r.Git("branch", "-q", "-D", "folder")
	r.Git("branch", "folder/inside")
	r.Git("branch", "-q", "-f", "turns", "main")
	r.Git("tag", "v1")
	r.Git("gc", "-q")
	r.Write("a", "not committed\n")
	assert.Equal(t, map[string]string{"branch main": "moved", "branch goes": "gone", "branch folder": "gone", "branch folder/inside": "new", "branch turns": "rewritten", "tag v1": "new"}, again())
	out, err := g.Run(ctx, "show", "main:a")
	require.NoError(t, err)
	assert.Equal(t, "2\n", string(out))
	_, err = g.Run(ctx, "cat-file", "-e", lost)
	assert.NoError(t, err, "what a branch no longer holds stays readable")
	_, err = intake.Again(ctx, g.Dir(), filepath.Join(r.Dir, "nowhere"), intake.Options{})
	assert.True(t, intake.IsRefused(err))
	assert.Empty(t, again(), "a fetch that failed changed nothing")
}
