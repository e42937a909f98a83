// Package repotest makes small repositories for tests, the same ids each time.
package repotest

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"juxtagram/core/repo"
)

// Repo is a repository with a work tree.
type Repo struct {
	t    testing.TB
	Dir  string
	time int64
	Name string // author of the next commits
	Mail string
}

// New makes an empty repository.
func New(t testing.TB) *Repo {
	t.Helper()
	r := &Repo{t: t, Dir: t.TempDir(), time: 1_700_000_000, Name: "Ada Bramble", Mail: "ada@example.test"}
	r.Git("init", "-q", "-b", "main")
	return r
}

// Git runs a git command in the work tree and returns what it printed.
func (r *Repo) Git(args ...string) string {
	r.t.Helper()
	cmd := exec.Command("git", args...)
	cmd.Dir = r.Dir
	stamp := strings.TrimSpace(itoa(r.time)) + " +0000"
	cmd.Env = repo.Environ("GIT_AUTHOR_NAME="+r.Name, "GIT_AUTHOR_EMAIL="+r.Mail, "GIT_COMMITTER_NAME="+r.Name, "GIT_COMMITTER_EMAIL="+r.Mail,
		"GIT_AUTHOR_DATE="+stamp, "GIT_COMMITTER_DATE="+stamp)
	out, err := cmd.CombinedOutput()
	if err != nil {
		r.t.Fatalf("git %s: %v\n%s", strings.Join(args, " "), err, out)
	}
	return strings.TrimSpace(string(out))
}

func itoa(n int64) string {
	var b []byte
	for ; n > 0; n /= 10 {
		b = append([]byte{byte('0' + n%10)}, b...)
	}
	return string(b)
}

// Write puts files into the work tree: path, text, path, text, …
func (r *Repo) Write(pairs ...string) *Repo {
	r.t.Helper()
	for i := 0; i+1 < len(pairs); i += 2 {
		p := filepath.Join(r.Dir, pairs[i])
		if err := os.MkdirAll(filepath.Dir(p), 0o755); err != nil {
			r.t.Fatal(err)
		}
		if err := os.WriteFile(p, []byte(pairs[i+1]), 0o644); err != nil {
			r.t.Fatal(err)
		}
	}
	return r
}

// Commit commits everything, a day after the commit before.
func (r *Repo) Commit(message string) string {
	r.t.Helper()
	r.time += 86_400
	r.Git("add", "-A")
	r.Git("commit", "-q", "--allow-empty", "-m", message)
	return r.Git("rev-parse", "HEAD")
}

// Day moves the clock by days.
func (r *Repo) Day(n int64) { r.time += n * 86_400 }

// Read is a reader of the repository itself, which tests may trust.
func (r *Repo) Read() *repo.Git { return repo.At(filepath.Join(r.Dir, ".git")) }
