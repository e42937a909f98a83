package repo_test

import (
	"bufio"
	"context"
	"fmt"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/demo"
)

var ctx = context.Background()

func TestTreeTellsModesAndOddNames(t *testing.T) {
	r := repotest.New(t)
	r.Write("plain.txt", "x", "sub/new\nline \"quoted\".go", "package x", "bad\xff.txt", "y", strings.Repeat("n", 250), "long")
	r.Git("update-index", "--add", "--cacheinfo", "160000,"+strings.Repeat("1", 40)+",module")
	require.NoError(t, exec.Command("ln", "-s", "plain.txt", r.Dir+"/link").Run())
	require.NoError(t, exec.Command("chmod", "+x", r.Dir+"/plain.txt").Run())
	r.Git("add", "-A", "--ignore-errors")
	r.Git("update-index", "--add", "--cacheinfo", "160000,"+strings.Repeat("1", 40)+",module")
	r.Git("commit", "-q", "-m", "all")
	entries, err := r.Read().Tree(ctx, "HEAD", "")
	require.NoError(t, err)
	modes := map[string]string{}
	for _, e := range entries {
		modes[e.Path] = e.Mode
	}
	assert.Equal(t, map[string]string{"plain.txt": "executable", "sub/new\nline \"quoted\".go": "file", "bad\xff.txt": "file",
		strings.Repeat("n", 250): "file", "link": "symlink", "module": "submodule"}, modes)
	below, err := r.Read().Tree(ctx, "HEAD", "sub")
	require.NoError(t, err)
	assert.Len(t, below, 1)
}

func TestResolveKnowsNamesAndIdsAndNothingElse(t *testing.T) {
	r := repotest.New(t)
	first := r.Write("a", "1").Commit("one")
	r.Git("tag", "-a", "v1.0.0", "-m", "one")
	second := r.Write("a", "2").Commit("two")
	for pin, want := range map[string]string{"v1.0.0": first, "main": second, second[:12]: second, first: first} {
		got, err := r.Read().Resolve(ctx, pin)
		require.NoError(t, err, pin)
		assert.Equal(t, want, got, pin)
	}
	for _, pin := range []string{"", "nowhere", "main~1", "main^", "@{-1}", "--all", "-x", ":/one", "main:a", "a..b", "HEAD@{1}", strings.Repeat("f", 40), "v1\x00", strings.Repeat("x", 400)} {
		_, err := r.Read().Resolve(ctx, pin)
		var unknown *repo.UnknownPinError
		assert.ErrorAs(t, err, &unknown, "%q", pin)
	}
}

func TestHighestRelease(t *testing.T) {
	tag := func(names ...string) []repo.Ref {
		var refs []repo.Ref
		for _, n := range names {
			refs = append(refs, repo.Ref{Name: n, Kind: "tag"})
		}
		return refs
	}
	for _, c := range []struct {
		tags []string
		want string
	}{
		{[]string{"v1.9.0", "v1.10.0", "v1.2.0"}, "v1.10.0"},
		{[]string{"v2.0.0-rc1", "v1.0.0"}, "v1.0.0"},
		{[]string{"release-3.1", "3.0"}, "release-3.1"},
		{[]string{"core/v1.2.3", "core/v1.3.0"}, "core/v1.3.0"},
		{[]string{"nightly", "latest"}, ""},
	} {
		got := repo.HighestRelease(tag(c.tags...))
		if c.want == "" {
			assert.Nil(t, got, c.tags)
		} else if assert.NotNil(t, got, c.tags) {
			assert.Equal(t, c.want, got.Name)
		}
	}
}

func TestBlobs(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "hello\n", "b", strings.Repeat("x", 5000)).Commit("one")
	g := r.Read()
	b := g.Blobs()
	defer b.Close()
	got, err := b.Read(r.Git("rev-parse", "HEAD:a"), 100)
	require.NoError(t, err)
	assert.Equal(t, "hello\n", string(got))
	_, err = b.Read(r.Git("rev-parse", "HEAD:b"), 100)
	var large *repo.TooLargeError
	require.ErrorAs(t, err, &large)
	assert.Equal(t, int64(5000), large.Size)
	_, err = b.Read(strings.Repeat("0", 40), 100)
	assert.Error(t, err)
	_, err = b.Read("HEAD:a\ninfo", 100)
	assert.Error(t, err, "a request cannot hold a second one")
	got, err = b.Read(r.Git("rev-parse", "HEAD:a"), 100)
	require.NoError(t, err, "still answers after faults")
	assert.Equal(t, "hello\n", string(got))
}

func TestEscapePath(t *testing.T) {
	for _, p := range []string{"plain", "ünïcode", "100%", "bad\xff%name", "\xc3\x28"} {
		s, escaped := repo.EscapePath(p)
		back, err := repo.UnescapePath(s, escaped)
		require.NoError(t, err)
		assert.Equal(t, p, back)
	}
}

// hard is a repository with everything that makes patches hard to read.
func hard(t *testing.T) *repotest.Repo {
	r := repotest.New(t)
	r.Write("a.txt", "one\ntwo\nthree\n", "bin", "\x00\x01", "sub/b.txt", "--- a/x\n+++ b/x\n@@ -1 +1 @@\n").Commit("start")
	r.Write("a.txt", "one\n2\nthree", "bin", "\x00\x02", "sub/b.txt", "diff --git a/x b/x\n"+strings.Repeat("f", 40)+"\n").Commit("change")
	r.Git("mv", "a.txt", "moved \"name\".txt")
	r.Write("long", strings.Repeat("y", 400_000)+"\n"+strings.Repeat("z", 300_000)).Commit("move, and long lines")
	require.NoError(t, exec.Command("sh", "-c", "cd "+r.Dir+" && rm long && ln -s target long").Run())
	r.Commit("a file becomes a link")
	r.Git("update-index", "--add", "--cacheinfo", "160000,"+strings.Repeat("1", 40)+",module")
	r.Git("commit", "-q", "-m", "a submodule")
	r.Git("checkout", "-q", "-b", "side")
	r.Write("side", "s\n").Commit("side")
	r.Git("checkout", "-q", "main")
	r.Write("main", "m\n").Commit("main")
	r.Git("merge", "-q", "--no-ff", "-m", "merge", "side")
	r.Git("rm", "-q", "bin")
	r.Commit("gone")
	return r
}

// numstat is git's own count of the same commit, read by another of its
// formats.
func numstat(t *testing.T, g *repo.Git, id string) map[string][2]string {
	out, err := g.Run(ctx, "show", "--format=", "--numstat", "-M", "-z", id)
	require.NoError(t, err)
	got := map[string][2]string{}
	fields := strings.Split(strings.TrimSuffix(string(out), "\x00"), "\x00")
	for i := 0; i < len(fields) && fields[i] != ""; i++ {
		f := strings.SplitN(fields[i], "\t", 3)
		path := f[2]
		if path == "" { // a rename: old and new follow
			path = fields[i+2]
			i += 2
		}
		got[path] = [2]string{f[0], f[1]}
	}
	return got
}

func TestLineChangesAgreeWithGit(t *testing.T) {
	dir := t.TempDir() + "/demo.git"
	require.NoError(t, demo.Build(ctx, dir))
	for name, g := range map[string]*repo.Git{"hard": hard(t).Read(), "demo": repo.At(dir)} {
		t.Run(name, func(t *testing.T) {
			ids, err := g.Reachable(ctx, "main")
			require.NoError(t, err)
			changes := map[string][]repo.Change{}
			require.NoError(t, g.Changes(ctx, ids, func(id string, c []repo.Change) error {
				changes[id] = c
				return nil
			}))
			seen := 0
			require.NoError(t, g.LineChanges(ctx, ids, func(id string) []repo.Change { return changes[id] }, nil, func(id string, counts []repo.Counts) error {
				want := numstat(t, g, id)
				require.Len(t, want, len(counts), id)
				for i, c := range changes[id] {
					w, n := want[c.Path], counts[i]
					if c.Link || n.Binary {
						continue
					}
					seen++
					assert.Equal(t, w, [2]string{strconv.Itoa(int(n.Added)), strconv.Itoa(int(n.Deleted))}, "%s %s", id, c.Path)
					sum := int32(0)
					for _, h := range n.Hunks {
						sum += h.NewCount
					}
					assert.Equal(t, n.Added, sum, "hunks add up")
				}
				return nil
			}))
			assert.Greater(t, seen, 5)
		})
	}
}

func TestCommitsKeepOddNames(t *testing.T) {
	r := repotest.New(t)
	r.Name, r.Mail = "Zoë \x1f Separator", "z@example.test"
	r.Write("a", "1").Commit("subject with \x1f in it")
	commits, err := r.Read().Commits(ctx, "HEAD", nil, 0)
	require.NoError(t, err)
	require.Len(t, commits, 1)
	assert.Equal(t, r.Git("rev-parse", "HEAD"), commits[0].ID)
	assert.NotZero(t, commits[0].CommitTime)
	assert.Contains(t, commits[0].Subject, "in it")
}

func TestMailmap(t *testing.T) {
	r := repotest.New(t)
	r.Write(".mailmap", "Ada Bramble <ada@example.test> <old@example.test>\n").Commit("map")
	got, err := r.Read().Mailmap(ctx, r.Git("rev-parse", "HEAD"), []repo.Person{{Name: "A", Email: "old@example.test"}, {Name: "No", Email: ""}, {Name: "B", Email: "b@example.test"}})
	require.NoError(t, err)
	assert.Equal(t, repo.Person{Name: "Ada Bramble", Email: "ada@example.test"}, got[repo.Person{Name: "A", Email: "old@example.test"}])
	assert.Equal(t, repo.Person{Name: "B", Email: "b@example.test"}, got[repo.Person{Name: "B", Email: "b@example.test"}])
}

func TestAttributes(t *testing.T) {
	r := repotest.New(t)
	r.Write(".gitattributes", "*.gen generated\nlib/** vendored=true\nlib/own.c -vendored\n", "x.gen", "", "lib/own.c", "", "lib/other.c", "").Commit("attributes")
	got, err := r.Read().Attributes(ctx, r.Git("rev-parse", "HEAD"), []string{"x.gen", "lib/own.c", "lib/other.c", ".gitattributes"})
	require.NoError(t, err)
	assert.Equal(t, "set", got["x.gen"]["generated"])
	assert.Equal(t, "unset", got["lib/own.c"]["vendored"])
	assert.Equal(t, "true", got["lib/other.c"]["vendored"])
}

func TestCancelledCommandsEnd(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1").Commit("one")
	stopped, stop := context.WithCancel(ctx)
	stop()
	_, err := r.Read().Run(stopped, "log")
	assert.ErrorIs(t, err, context.Canceled)
	err = r.Read().EachBlob(ctx, []string{r.Git("rev-parse", "HEAD:a")}, func(string, []byte, error) error { return fmt.Errorf("enough") })
	assert.EqualError(t, err, "enough")
}

func TestConfigurationOfTheRepositoryRunsNothing(t *testing.T) {
	r := repotest.New(t)
	r.Write("a.txt", "one\n", ".gitattributes", "*.txt diff=evil filter=evil\n").Commit("one")
	witness := t.TempDir() + "/ran"
	for _, key := range []string{"diff.evil.textconv", "diff.external", "filter.evil.smudge", "core.fsmonitor", "core.pager", "log.showSignature"} {
		value := "touch " + witness
		if key == "log.showSignature" {
			value = "true"
		}
		r.Git("config", key, value)
	}
	require.NoError(t, exec.Command("sh", "-c", "printf '#!/bin/sh\ntouch "+witness+"\n' > "+r.Dir+"/.git/hooks/post-index-change && chmod +x "+r.Dir+"/.git/hooks/post-index-change").Run())
	g := r.Read()
	ids, err := g.Reachable(ctx, "HEAD")
	require.NoError(t, err)
	require.NoError(t, g.Changes(ctx, ids, func(string, []repo.Change) error { return nil }))
	_, err = g.Attributes(ctx, ids[0], []string{"a.txt"})
	require.NoError(t, err)
	_, err = g.Commits(ctx, "HEAD", nil, 0)
	require.NoError(t, err)
	assert.NoFileExists(t, witness)
}

func FuzzPatch(f *testing.F) {
	f.Add("@@ -1,2 +3 @@\n-a\n-b\n+c\n")
	f.Add("@@ -1 +1,9999999 @@\n")
	f.Fuzz(func(t *testing.T, patch string) {
		// whatever the bytes, reading ends with an answer or an error
		_, _ = repo.ReadPatch(bufio.NewReader(strings.NewReader("diff --git a/x b/x\n"+patch)), repo.Change{Path: "x", Status: 'M'})
	})
}

func TestSubmodulesSayWhereTheyComeFrom(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1").Commit("none yet")
	got, err := r.Read().Submodules(ctx, r.Git("rev-parse", "HEAD"))
	require.NoError(t, err)
	assert.Empty(t, got)
	r.Write(".gitmodules", "[submodule \"ring.buf\"]\n\tpath = lib/ring\n\turl = ../ring.git\n[submodule \"lost\"]\n\tpath = lost\n[include]\n\tpath = /etc/hostname\n").Commit("modules")
	got, err = r.Read().Submodules(ctx, r.Git("rev-parse", "HEAD"))
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"lib/ring": "../ring.git"}, got)
	r.Write(".gitmodules", "[submodule").Commit("broken")
	_, err = r.Read().Submodules(ctx, r.Git("rev-parse", "HEAD"))
	assert.Error(t, err)
}

// A path that git would read from a work tree is no file, and does not end the process.
func TestFindTakesNoRelativePaths(t *testing.T) {
	r := repotest.New(t)
	id := r.Write("a/b.go", "package b\n").Commit("one")
	blobs := r.Read().Blobs()
	defer blobs.Close()
	for _, path := range []string{"./a/b.go", "../a/b.go", "a/../a/b.go", ".", "..", "/a/b.go", ""} {
		_, err := blobs.Find(id, path)
		require.ErrorIs(t, err, repo.ErrNoFile, path)
	}
	_, err := blobs.Find(id, "a/b.go")
	require.NoError(t, err)
}

func TestFilesAreFoundByPathsAsTheyAreShown(t *testing.T) {
	r := repotest.New(t)
	raw := "odd/\xff 100%.go"
	id := r.Write(raw, "package a\n", "50%25.go", "package b\n", "60%.go", "package c\n").Commit("one")
	blobs := r.Read().Blobs()
	defer blobs.Close()
	shown, escaped := repo.EscapePath(raw)
	require.True(t, escaped)
	for path, of := range map[string]string{shown: raw, "50%25.go": "50%25.go", "60%.go": "60%.go"} {
		want, err := blobs.Find(id, of)
		require.NoError(t, err)
		got, err := blobs.FindShown(id, path)
		require.NoError(t, err, path)
		assert.Equal(t, want, got, path)
	}
	for _, path := range []string{"nowhere.go", "no%zz.go", "odd/%00.go"} {
		_, err := blobs.FindShown(id, path)
		require.ErrorIs(t, err, repo.ErrNoFile, path)
	}
}

func TestPatchIsWhatGitSays(t *testing.T) {
	r := repotest.New(t)
	first := r.Write("a.go", "package a\n", "b.go", "package b\n").Commit("one")
	second := r.Write("a.go", "package a\n\nvar x = 1\n", "b.go", "package c\n").Commit("two")
	g := r.Read()
	for name, c := range map[string]struct {
		old, new, path string
		git            []string
	}{
		"two commits":     {first, second, "", []string{"diff", first, second}},
		"one path":        {first, second, "b.go", []string{"diff", first, second, "--", "b.go"}},
		"a commit":        {"", second, "", []string{"show", "--format=", second}},
		"a first commit":  {"", first, "", []string{"show", "--format=", first}},
		"the same commit": {first, first, "", []string{"diff", first, first}},
	} {
		t.Run(name, func(t *testing.T) {
			got, cut, err := g.Patch(context.Background(), c.old, c.new, c.path, 10_000)
			require.NoError(t, err)
			assert.False(t, cut)
			assert.Equal(t, r.Git(c.git...), strings.TrimSpace(string(got)))
		})
	}
	got, cut, err := g.Patch(context.Background(), first, second, "", 20)
	require.NoError(t, err)
	assert.True(t, cut)
	assert.Len(t, got, 20)
	_, _, err = g.Patch(context.Background(), "", strings.Repeat("0123456789", 4), "", 20)
	require.Error(t, err)
}
