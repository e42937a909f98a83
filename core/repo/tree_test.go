package repo_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
)

// TestTreeAfterIsTheTree changes a tree at random, files into folders, links and
// submodules and back, and compares with git's own listing of every pair.
func TestTreeAfterIsTheTree(t *testing.T) {
	names := []string{"a", "a.b", "a-b", "a0", "b\xff", "line\nend", "Z", "é"}
	dice := rand.New(rand.NewPCG(1, 2))
	path := func() string {
		var parts []string
		for range []int{1, 2, 2, 3, 3, 3, 3, 3}[dice.IntN(8)] {
			parts = append(parts, names[dice.IntN(len(names))])
		}
		return strings.Join(parts, "/")
	}
	r := repotest.New(t)
	var commits []string
	for n := range 9 {
		for k := range 30 {
			p := path()
			at := filepath.Join(r.Dir, p)
			for up := filepath.Dir(at); up != r.Dir; up = filepath.Dir(up) {
				if i, err := os.Lstat(up); err == nil && !i.IsDir() {
					require.NoError(t, os.Remove(up))
				}
			}
			require.NoError(t, os.RemoveAll(at))
			require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
			switch dice.IntN(6) {
			case 0:
			case 1:
				require.NoError(t, os.Symlink("target", at))
			case 2:
				require.NoError(t, os.WriteFile(at, []byte("#!/bin/sh\n"), 0o755))
			default:
				require.NoError(t, os.WriteFile(at, fmt.Appendf(nil, "%d %d", n, k), 0o644))
			}
		}
		r.Git("add", "-A")
		r.Git("rm", "-q", "-r", "--cached", "--ignore-unmatch", "a/module")
		if n%3 != 0 {
			r.Git("update-index", "--add", "--replace", "--cacheinfo", "160000,"+strings.Repeat(fmt.Sprint(1+n%9), 40)+",a/module")
		}
		r.Git("commit", "-q", "--allow-empty", "-m", fmt.Sprint(n))
		commits = append(commits, r.Git("rev-parse", "HEAD"))
	}
	g := r.Read()
	for _, prefix := range []string{"", "a", "a/a", "a/module", "nowhere"} {
		most := 0
		for _, before := range commits {
			was, err := g.Tree(ctx, before, prefix)
			require.NoError(t, err)
			most = max(most, len(was))
			for _, commit := range commits {
				want, err := g.Tree(ctx, commit, prefix)
				require.NoError(t, err)
				got, err := g.TreeAfter(ctx, before, was, commit, prefix)
				require.NoError(t, err)
				require.Equal(t, want, got, "%s after %s below %q", commit, before, prefix)
			}
		}
		if prefix == "" {
			assert.Greater(t, most, 30)
		}
	}
}

func TestTreeAfterAnotherListingIsRefused(t *testing.T) {
	r := repotest.New(t)
	first := r.Write("a", "1", "b", "1").Commit("one")
	second := r.Write("a", "2", "c", "1").Commit("two")
	was, err := r.Read().Tree(ctx, first, "")
	require.NoError(t, err)
	for name, c := range map[string]struct{ before, listed int }{"a changed file is not listed": {0, 1}, "nothing is listed": {0, 2}} {
		_, err := r.Read().TreeAfter(ctx, first, was[c.listed:], second, "")
		assert.ErrorContains(t, err, "not as it was listed", name)
	}
	_, err = r.Read().TreeAfter(ctx, strings.Repeat("1", 40), was, second, "")
	assert.Error(t, err, "a commit that is not there")
}
