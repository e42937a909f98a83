package hostile

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"encoding/hex"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// git runs git in a folder and returns what it says.
func git(t *testing.T, dir, in string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=a", "-c", "user.email=a@gauges.example", "-c", "init.defaultBranch=main", "-c", "core.autocrlf=false"}, args...)...)
	cmd.Stdin = strings.NewReader(in)
	cmd.Env = append(os.Environ(), "GIT_CONFIG_NOSYSTEM=1", "GIT_CONFIG_GLOBAL=/dev/null", "GIT_AUTHOR_DATE=1600000000 +0000", "GIT_COMMITTER_DATE=1600000000 +0000")
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "git %v: %s", args, out)
	return strings.TrimSpace(string(out))
}

func write(t *testing.T, path, text string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
	require.NoError(t, os.WriteFile(path, []byte(text), 0o644))
}

// repository makes a work tree with one commit of some files.
func repository(t *testing.T, dir string, files map[string]string) string {
	t.Helper()
	at := filepath.Join(dir, "r")
	require.NoError(t, os.MkdirAll(at, 0o755))
	git(t, at, "", "init", "-q")
	for name, text := range files {
		write(t, filepath.Join(at, name), text)
	}
	git(t, at, "", "add", "-A", "-f")
	git(t, at, "", "commit", "-q", "--allow-empty", "-m", "one")
	return at
}

// plain is a repository that nothing is odd about.
func plain(t *testing.T, dir string) string {
	return repository(t, dir, map[string]string{"a.go": "package a\n", "sub/b.txt": "b\n"})
}

// object writes an object that git itself would refuse to make.
func object(t *testing.T, at, kind, content string) string {
	t.Helper()
	return git(t, at, content, "hash-object", "-t", kind, "--literally", "-w", "--stdin")
}

type entry struct{ mode, name, id string }

func tree(t *testing.T, at string, entries ...entry) string {
	t.Helper()
	var b bytes.Buffer
	for _, e := range entries {
		id, err := hex.DecodeString(e.id)
		require.NoError(t, err)
		b.WriteString(e.mode + " " + e.name + "\x00" + string(id))
	}
	return object(t, at, "tree", b.String())
}

// commitOf points main at a commit of a tree.
func commitOf(t *testing.T, at, tree, rest string) string {
	t.Helper()
	if rest == "" {
		rest = "author a <a@gauges.example> 1600000000 +0000\ncommitter a <a@gauges.example> 1600000000 +0000\n\nodd\n"
	}
	id := object(t, at, "commit", "tree "+tree+"\n"+rest)
	write(t, filepath.Join(at, ".git/refs/heads/main"), id+"\n")
	return id
}

// loose is the file of an object.
func loose(at, id string) string { return filepath.Join(at, ".git/objects", id[:2], id[2:]) }

func tarball(t *testing.T, path string, headers ...*tar.Header) string {
	t.Helper()
	var b bytes.Buffer
	gz := gzip.NewWriter(&b)
	w := tar.NewWriter(gz)
	for _, h := range headers {
		if h.Typeflag == 0 {
			h.Typeflag = tar.TypeReg
		}
		if h.Typeflag == tar.TypeReg {
			h.Size = 1
		}
		h.Mode, h.ModTime = 0o644, time.Unix(1_600_000_000, 0)
		require.NoError(t, w.WriteHeader(h))
		if h.Typeflag == tar.TypeReg {
			_, err := w.Write([]byte("x"))
			require.NoError(t, err)
		}
	}
	require.NoError(t, w.Close())
	require.NoError(t, gz.Close())
	require.NoError(t, os.WriteFile(path, b.Bytes(), 0o644))
	return path
}

type member struct {
	name, body string
	mode       os.FileMode
	change     func(*zip.FileHeader)
}

func zipped(t *testing.T, path string, members ...member) string {
	t.Helper()
	var b bytes.Buffer
	w := zip.NewWriter(&b)
	for _, m := range members {
		h := &zip.FileHeader{Name: m.name, Method: zip.Deflate, Modified: time.Unix(1_600_000_000, 0)}
		h.SetMode(max(m.mode, 0o644))
		if m.change != nil {
			m.change(h)
		}
		f, err := w.CreateHeader(h)
		require.NoError(t, err)
		_, err = f.Write([]byte(m.body))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	require.NoError(t, os.WriteFile(path, b.Bytes(), 0o644))
	return path
}

// packed are the files of a work tree with its history, as members of a zip below a folder.
func packed(t *testing.T, at, below string) (out []member) {
	t.Helper()
	require.NoError(t, filepath.WalkDir(at, func(p string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := os.ReadFile(p)
		rel, _ := filepath.Rel(at, p)
		out = append(out, member{name: filepath.Join(below, rel), body: string(b)})
		return err
	}))
	return out
}

// growing repeats a piece to about so many bytes.
func growing(piece string, bytes int) string { return strings.Repeat(piece, bytes/len(piece)) }

func numbered(n int, do func(i int) string) string {
	var b strings.Builder
	for i := range n {
		b.WriteString(do(i))
	}
	return b.String()
}

func named(prefix string, what any) string { return fmt.Sprintf("%s: %v", prefix, what) }

func itoa(n int) string { return fmt.Sprint(n) }
