package hostile

import (
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/require"
)

func folders() (out []input) {
	add := func(name, want string, read bool, change func(t *testing.T, at string)) {
		out = append(out, input{named("folder", name), func(t *testing.T, dir string) string {
			at := plain(t, dir)
			change(t, at)
			return at
		}, want, read})
	}
	text := func(p, s string) func(*testing.T, string) {
		return func(t *testing.T, at string) {
			require.NoError(t, os.RemoveAll(filepath.Join(at, p)))
			write(t, filepath.Join(at, p), s)
		}
	}
	link := func(p, to string) func(*testing.T, string) {
		return func(t *testing.T, at string) {
			require.NoError(t, os.RemoveAll(filepath.Join(at, p)))
			require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(at, p)), 0o755))
			require.NoError(t, os.Symlink(to, filepath.Join(at, p)))
		}
	}
	pipe := func(p string) func(*testing.T, string) {
		return func(t *testing.T, at string) {
			require.NoError(t, os.RemoveAll(filepath.Join(at, p)))
			require.NoError(t, syscall.Mkfifo(filepath.Join(at, p), 0o644))
		}
	}
	remove := func(p string) func(*testing.T, string) {
		return func(t *testing.T, at string) { require.NoError(t, os.RemoveAll(filepath.Join(at, p))) }
	}
	add("without .git", "not a Git repository", false, remove(".git"))
	add("with an empty .git", "not a Git repository", false, func(t *testing.T, at string) {
		remove(".git")(t, at)
		require.NoError(t, os.Mkdir(filepath.Join(at, ".git"), 0o755))
	})
	for _, p := range []string{".git", ".git/objects", ".git/packed-refs", ".git/HEAD", ".git/config", ".git/refs/heads/x", ".git/objects/pack", ".git/commondir"} {
		add("link in place of "+p, "symbolic link", false, link(p, "/etc/passwd"))
	}
	for _, p := range []string{".git", ".git/packed-refs", ".git/HEAD", ".git/config", ".git/refs/heads/x", ".git/commondir"} {
		add("pipe in place of "+p, "is no file", false, pipe(p))
	}
	add(".git that names nothing", "does not name a folder", false, text(".git", "gitdir: \n"))
	add(".git that names a place that is not there", "leads to a folder", false, text(".git", "gitdir: /nonexistent/SECRET\n"))
	add(".git of another kind", "not a Git repository", false, text(".git", "SECRET\x00"))
	add("alternates", "borrows objects", false, text(".git/objects/info/alternates", "/etc\n"))
	add("alternates over http", "borrows objects", false, text(".git/objects/info/http-alternates", "http://127.0.0.1/\n"))
	add("reftable", "reftable", false, text(".git/reftable/tables.list", "x"))
	add("partial clone", "partial clone", false, text(".git/objects/pack/pack-1234.promisor", ""))
	add("ids of a third kind", "not supported here", false, text(".git/config", "[core]\n\trepositoryformatversion = 1\n[extensions]\n\tobjectformat = SECRET\n"))
	add("refs kept in another way", "not supported here", false, text(".git/config", "[extensions]\n\trefstorage = reftable\n"))
	add("a later format", "not known here", true, text(".git/config", "[core]\n\trepositoryformatversion = 9\n"))
	add("an unknown extension", "not known here", true, text(".git/config", "[extensions]\n\ttide = high\n"))
	add("a configuration that is none", "cannot be read", true, text(".git/config", "[[[\n"))
	add("a configuration that includes", "", true, text(".git/config", "[include]\n\tpath = /etc/passwd\n[core]\n\tfsmonitor = touch /tmp/x\n"))
	add("a huge configuration", "", true, text(".git/config", strings.Repeat("[a]\n\tb = c\n", 50_000)))
	add("no HEAD", "HEAD is missing or damaged", true, remove(".git/HEAD"))
	add("HEAD of zeros", "HEAD is missing or damaged", true, text(".git/HEAD", "\x00\x00"))
	add("HEAD that leads nowhere", "", true, text(".git/HEAD", "ref: refs/heads/none\n"))
	add("HEAD that leads out", "", true, text(".git/HEAD", "ref: refs/heads/../../../etc/passwd\n"))
	add("HEAD of no commit", "", true, text(".git/HEAD", strings.Repeat("1", 40)+"\n"))
	add("branches that lead nowhere", "missing object", true, text(".git/refs/heads/x", strings.Repeat("1", 40)+"\n"))
	add("a branch that is text", "", true, text(".git/refs/heads/x", "SECRET\n"))
	add("odd names of branches", "left out", true, func(t *testing.T, at string) {
		id := git(t, at, "", "rev-parse", "HEAD")
		for _, name := range []string{"a..b", "a b", "x.lock", "-x", "a~1", "a^", "a:b", "@{"} {
			write(t, filepath.Join(at, ".git/refs/heads", name), id+"\n")
		}
	})
	add("100,000 branches", "", true, func(t *testing.T, at string) {
		id := git(t, at, "", "rev-parse", "HEAD")
		write(t, filepath.Join(at, ".git/packed-refs"), numbered(100_000, func(i int) string { return id + " refs/tags/v" + itoa(i) + "\n" }))
	})
	add("packed refs of text", "", true, text(".git/packed-refs", "SECRET\n"+strings.Repeat("x", 1<<20)))
	add("shallow of text", "", true, text(".git/shallow", "SECRET\n"))
	add("shallow at a commit that is not there", "", true, text(".git/shallow", strings.Repeat("1", 40)+"\n"))
	add("objects lost", "damaged", false, func(t *testing.T, at string) {
		remove(".git/objects")(t, at)
		require.NoError(t, os.Mkdir(filepath.Join(at, ".git/objects"), 0o755))
	})
	add("no commits", "empty", false, func(t *testing.T, at string) {
		remove(".git")(t, at)
		git(t, at, "", "init", "-q")
	})
	add("grafts", "stand in for others", true, func(t *testing.T, at string) {
		write(t, filepath.Join(at, ".git/info/grafts"), git(t, at, "", "rev-parse", "HEAD")+"\n")
	})
	add("a pack that is text", "", true, text(".git/objects/pack/pack-"+strings.Repeat("1", 40)+".pack", "SECRET"))
	add("an index that is text", "", true, text(".git/objects/pack/pack-"+strings.Repeat("1", 40)+".idx", "SECRET"))
	return out
}
