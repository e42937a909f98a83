package repo_test

import (
	"bytes"
	"context"
	"encoding/hex"
	"fmt"
	"os/exec"
	"path"
	"strings"
	"testing"
	"testing/quick"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
)

// object writes an object as it stands, which git itself would refuse to make.
func object(t *testing.T, r *repotest.Repo, kind, content string) string {
	t.Helper()
	cmd := exec.Command("git", "-C", r.Dir, "hash-object", "-t", kind, "--literally", "-w", "--stdin")
	cmd.Stdin = strings.NewReader(content)
	out, err := cmd.Output()
	require.NoError(t, err)
	return strings.TrimSpace(string(out))
}

// tree writes a tree of "mode name id" entries in the order given.
func tree(t *testing.T, r *repotest.Repo, entries ...[3]string) string {
	t.Helper()
	var b bytes.Buffer
	for _, e := range entries {
		id, err := hex.DecodeString(e[2])
		require.NoError(t, err)
		b.WriteString(e[0] + " " + e[1] + "\x00" + string(id))
	}
	return object(t, r, "tree", b.String())
}

func commit(t *testing.T, r *repotest.Repo, tree string) string {
	t.Helper()
	return object(t, r, "commit", "tree "+tree+"\nauthor a <a@gauges.example> 1600000000 +0000\ncommitter a <a@gauges.example> 1600000000 +0000\n\nodd\n")
}

// A few objects that unfold to ten million files are refused while they are listed.
func TestATreeThatUnfoldsIsRefused(t *testing.T) {
	r := repotest.New(t)
	id := object(t, r, "blob", "x")
	mode := "100644"
	for range 7 {
		var entries [][3]string
		for i := range 10 {
			entries = append(entries, [3]string{mode, fmt.Sprint(i), id})
		}
		id, mode = tree(t, r, entries...), "40000"
	}
	_, err := r.Read().Tree(context.Background(), commit(t, r, id), "")
	var limit *repo.TreeLimitError
	require.ErrorAs(t, err, &limit)
	assert.Contains(t, limit.Reason, "more than 2000000 files")
	_, err = r.Read().Tree(context.Background(), commit(t, r, id), "1/2/3")
	assert.NoError(t, err, "a folder of it is small enough")
}

func TestADeepTreeIsRefused(t *testing.T) {
	r := repotest.New(t)
	id := tree(t, r, [3]string{"100644", "a", object(t, r, "blob", "x")})
	for range 199 {
		id = tree(t, r, [3]string{"40000", "d", id})
	}
	l, err := r.Read().List(context.Background(), commit(t, r, id), "")
	require.NoError(t, err)
	assert.Len(t, l.Entries, 1)
	_, err = r.Read().List(context.Background(), commit(t, r, tree(t, r, [3]string{"40000", "d", id})), "")
	assert.ErrorContains(t, err, "more than 200 deep")
}

// Names that no tree should hold are written otherwise, in listings and in the history
// alike, and nothing is listed twice.
func TestOddNamesAreWrittenOtherwise(t *testing.T) {
	r := repotest.New(t)
	blob := object(t, r, "blob", "x")
	below := tree(t, r, [3]string{"100644", "config", blob})
	up := tree(t, r, [3]string{"100644", "..", blob})
	id := commit(t, r, tree(t, r,
		[3]string{"100644", ".", blob}, [3]string{"40000", ".GIT", below}, [3]string{"40000", ".git", below},
		[3]string{"100644", "/etc/passwd", blob}, [3]string{"100644", "a", blob}, [3]string{"100644", "a", blob}, [3]string{"100644", "c//b", blob},
		[3]string{"100644", "both", blob}, [3]string{"40000", "both", below}, [3]string{"40000", "git~1", below}, [3]string{"40000", "up", up}, [3]string{"100644", "z", blob}))
	l, err := r.Read().List(context.Background(), id, "")
	require.NoError(t, err)
	var paths []string
	for _, e := range l.Entries {
		paths = append(paths, e.Path)
	}
	want := []string{"%2E", "%2EGIT/config", "%2Egit/config", "%2Egit~1/config", "%/etc/passwd", "a", "both/config", "up/%2E%2E", "z"}
	for _, p := range want {
		assert.Contains(t, paths, p)
	}
	assert.NotContains(t, paths, "both", "a folder has that path")
	assert.Equal(t, 2, l.Doubled)
	for _, p := range paths {
		for range repo.Folders(p) { // ends
		}
	}
	require.NoError(t, r.Read().Changes(context.Background(), []string{id}, func(_ string, changes []repo.Change) error {
		for _, c := range changes {
			_, odd := repo.SafePath(c.Path)
			assert.False(t, odd, c.Path)
		}
		return nil
	}))
}

func TestSafePaths(t *testing.T) {
	for in, want := range map[string]string{
		"a/b.go": "a/b.go", ".github/x": ".github/x", ".gitignore": ".gitignore", "a/.gitmodules": "a/.gitmodules", "...": "...", "é/ñ": "é/ñ", "go.mod": "go.mod",
		"": "%", "/a": "%/a", "a//b": "a/%/b", "a/": "a/%", ".": "%2E", "a/../b": "a/%2E%2E/b", ".git": "%2Egit", "x/.GiT/y": "x/%2EGiT/y", ".git.": "%2Egit.", ".git ": "%2Egit ",
		".git::$INDEX": "%2Egit::$INDEX", "GIT~1": "%2EGIT~1", ".g\u200cit": "%2Eg\u200cit",
	} {
		got, odd := repo.SafePath(in)
		assert.Equal(t, want, got, "%q", in)
		assert.Equal(t, in != want, odd, "%q", in)
		_, again := repo.SafePath(got)
		assert.False(t, again, "%q", got)
	}
	assert.NoError(t, quick.Check(func(parts []string) bool {
		got, _ := repo.SafePath(strings.Join(parts, "/"))
		_, odd := repo.SafePath(got)
		return !odd && path.Clean(got) == got && !path.IsAbs(got)
	}, nil))
}

func FuzzSafePath(f *testing.F) {
	f.Add("a/../.git/x")
	f.Fuzz(func(t *testing.T, p string) {
		got, _ := repo.SafePath(p)
		if _, odd := repo.SafePath(got); odd || path.Clean(got) != got || path.IsAbs(got) {
			t.Fatalf("%q became %q", p, got)
		}
	})
}

// A reader of single objects outlives the process that it asks.
func TestAReaderStartsItsProcessAgain(t *testing.T) {
	r := repotest.New(t)
	r.Write("a", "1\n").Commit("one")
	id := r.Git("rev-parse", "HEAD:a")
	b := r.Read().Blobs()
	defer b.Close()
	for range 2 {
		content, err := b.Read(id, 100)
		require.NoError(t, err)
		assert.Equal(t, "1\n", string(content))
		require.NoError(t, exec.Command("pkill", "-KILL", "-f", "^git --git-dir="+r.Dir).Run())
		found, err := b.Find(r.Git("rev-parse", "HEAD"), "a")
		require.NoError(t, err)
		assert.Equal(t, id, found)
		require.NoError(t, exec.Command("pkill", "-KILL", "-f", "^git --git-dir="+r.Dir).Run())
	}
	_, err := b.Read("1111111111111111111111111111111111111111", 100)
	var damaged *repo.DamagedError
	assert.ErrorAs(t, err, &damaged)
}
