package intake_test

import (
	"context"
	"net"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/intake"
	"juxtagram/core/repo/repotest"
)

// Whatever stands in the place of a repository's files: nothing outside of the roots is
// read, nothing waits for a pipe, and the reason is said.
func TestSpecialFilesAndLinksOfAFolder(t *testing.T) {
	secret := sample(t) // of somebody else, out of the roots
	pipe := func(t *testing.T, p string) {
		require.NoError(t, os.RemoveAll(p))
		require.NoError(t, syscall.Mkfifo(p, 0o644))
	}
	link := func(to, p string) func(*testing.T, *repotest.Repo) {
		return func(t *testing.T, r *repotest.Repo) {
			at := filepath.Join(r.Dir, p)
			require.NoError(t, os.RemoveAll(at))
			require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
			require.NoError(t, os.Symlink(filepath.Join(secret.Dir, to), at))
		}
	}
	loose := func(r *repotest.Repo) string {
		id := r.Git("rev-parse", "HEAD")
		return filepath.Join(r.Dir, ".git/objects", id[:2], id[2:])
	}
	write := func(p, text string) func(*testing.T, *repotest.Repo) {
		return func(t *testing.T, r *repotest.Repo) {
			require.NoError(t, os.RemoveAll(filepath.Join(r.Dir, p)))
			require.NoError(t, os.WriteFile(filepath.Join(r.Dir, p), []byte(text), 0o644))
		}
	}
	for name, c := range map[string]struct {
		change func(*testing.T, *repotest.Repo)
		want   string
	}{
		".git is a link":              {link(".git", ".git"), ".git is a symbolic link"},
		".git names a folder outside": {write(".git", "gitdir: "+secret.Dir+"/.git\n"), ".git leads to a folder"},
		".git names nothing":          {write(".git", "gitdir: \n"), "does not name a folder"},
		".git names itself":           {write(".git", "gitdir: .git\n"), ".git leads to a folder"},
		".git is a pipe":              {func(t *testing.T, r *repotest.Repo) { pipe(t, r.Dir+"/.git") }, "no file"},
		".git is something else":      {write(".git", "\x00\xff"), "not a Git repository"},
		"commondir leads outside":     {write(".git/commondir", secret.Dir+"/.git\n"), "commondir leads to a folder"},
		"commondir is a link":         {link(".git/HEAD", ".git/commondir"), "commondir is a symbolic link"},
		"objects is a link":           {link(".git/objects", ".git/objects"), "objects is a symbolic link"},
		"objects is a file":           {write(".git/objects", "x"), "objects is no folder"},
		"packed-refs is a link":       {link(".git/packed-refs", ".git/packed-refs"), "packed-refs is a symbolic link"},
		"packed-refs is a pipe":       {func(t *testing.T, r *repotest.Repo) { pipe(t, r.Dir+"/.git/packed-refs") }, "packed-refs is no file"},
		"HEAD is a pipe":              {func(t *testing.T, r *repotest.Repo) { pipe(t, r.Dir+"/.git/HEAD") }, "HEAD is no file"},
		"HEAD is a link":              {link(".git/HEAD", ".git/HEAD"), "HEAD is a symbolic link"},
		"config is a link":            {link(".git/config", ".git/config"), "config is a symbolic link"},
		"config is a pipe":            {func(t *testing.T, r *repotest.Repo) { pipe(t, r.Dir+"/.git/config") }, "config is no file"},
		"shallow is a device":         {func(t *testing.T, r *repotest.Repo) { pipe(t, r.Dir+"/.git/refs/heads/side") }, "refs/heads/side is no file"},
		"refs/heads is a link":        {link(".git/refs/heads", ".git/refs/heads"), "refs/heads"},
		"a ref is a link":             {link(".git/HEAD", ".git/refs/heads/other"), "refs/heads/other is a symbolic link"},
		"an object is a pipe":         {func(t *testing.T, r *repotest.Repo) { pipe(t, loose(r)) }, "is no file"},
		"an object is a link": {func(t *testing.T, r *repotest.Repo) {
			p := loose(r)
			require.NoError(t, os.Remove(p))
			require.NoError(t, os.Symlink("/etc/passwd", p))
		}, "symbolic link"},
		"a folder of objects is a link": {link(".git/objects", ".git/objects/pack"), "objects/pack is a symbolic link"},
		"alternates is a link":          {link(".git/HEAD", ".git/objects/info/alternates"), "borrows objects"},
		"ids of a third kind":           {func(_ *testing.T, r *repotest.Repo) { r.Git("config", "extensions.objectformat", "sha3-SECRET") }, "not supported here"},
		"refs stored in a new way":      {func(_ *testing.T, r *repotest.Repo) { r.Git("config", "extensions.refstorage", "reftable") }, "not supported here"},
		"a socket among the objects": {func(t *testing.T, r *repotest.Repo) {
			p := loose(r)
			require.NoError(t, os.Remove(p))
			l, err := net.Listen("unix", "/tmp/j"+filepath.Base(r.Dir))
			require.NoError(t, err)
			t.Cleanup(func() { _ = l.Close() })
			require.NoError(t, os.Rename("/tmp/j"+filepath.Base(r.Dir), p))
		}, "is no file"},
	} {
		t.Run(name, func(t *testing.T) {
			r := sample(t)
			c.change(t, r)
			some, cancel := context.WithTimeout(ctx, 10*time.Second)
			defer cancel()
			dir := filepath.Join(t.TempDir(), "m.git")
			_, err := intake.Folder(some, dir, r.Dir, intake.Options{Roots: []string{filepath.Dir(r.Dir)}})
			require.NoError(t, some.Err(), "it waited")
			require.Error(t, err)
			assert.True(t, intake.IsRefused(err), "%v", err)
			assert.Contains(t, err.Error(), c.want)
			assert.NotContains(t, strings.ToLower(err.Error()), "secret", "nothing of the file stands in the reason")
			assert.NoDirExists(t, dir)
		})
	}
}

func TestWhatIsTakenInWithADoubtIsShown(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*repotest.Repo)
		want   string
	}{
		"HEAD missing":      {func(r *repotest.Repo) { require.NoError(t, os.Remove(r.Dir+"/.git/HEAD")) }, "HEAD is missing or damaged"},
		"HEAD damaged":      {func(r *repotest.Repo) { require.NoError(t, os.WriteFile(r.Dir+"/.git/HEAD", []byte("\x00"), 0o644)) }, "HEAD is missing or damaged"},
		"unknown format":    {func(r *repotest.Repo) { r.Git("config", "core.repositoryformatversion", "7") }, "format has a version"},
		"unknown extension": {func(r *repotest.Repo) { r.Git("config", "extensions.tide", "high") }, "an extension that is not known"},
		"no configuration":  {func(r *repotest.Repo) { require.NoError(t, os.WriteFile(r.Dir+"/.git/config", []byte("[[["), 0o644)) }, "configuration cannot be read"},
	} {
		r := sample(t)
		c.change(r)
		g, taken, err := try(t, r.Dir, intake.Options{})
		require.NoError(t, err, name)
		assert.Contains(t, strings.Join(taken.Notes, "; "), c.want, name)
		head, _, err := g.Head(ctx)
		require.NoError(t, err, name)
		assert.NotEmpty(t, head)
	}
}

// A source that is worked on while it is copied is taken in whole.
func TestASourceThatPacksItsObjectsMeanwhile(t *testing.T) {
	r := sample(t)
	for i := range 30 {
		r.Write("n.txt", strings.Repeat("x", i)).Commit("more")
	}
	done := make(chan struct{})
	go func() {
		defer close(done)
		for range 6 {
			r.Git("repack", "-a", "-d", "-q")
		}
	}()
	for range 5 {
		g, _, err := try(t, r.Dir, intake.Options{})
		require.NoError(t, err)
		_, err = g.Run(ctx, "fsck", "--connectivity-only")
		require.NoError(t, err)
	}
	<-done
}
