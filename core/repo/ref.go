package repo

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"sort"
	"strings"
	"time"

	"golang.org/x/mod/semver"
)

// Ref is a branch or tag with the commit it leads to.
type Ref struct {
	Name    string    // short: "main", "v1.4.0"
	Full    string    // "refs/heads/main"
	Kind    string    // "branch" | "tag"
	Commit  string    // full id of the commit, tags peeled
	Time    time.Time // of the tag or the commit, UTC
	Subject string
}

// ErrNoCommits tells that a repository holds no commit at all.
var ErrNoCommits = errors.New("the repository is empty: it holds no commit yet")

// UnknownPinError tells that a pin does not exist, or is not a commit.
type UnknownPinError struct{ Pin string }

func (e *UnknownPinError) Error() string {
	return fmt.Sprintf("no tag, branch or commit called %q in this repository", e.Pin)
}

// Refs lists all branches and tags that lead to commits: branches by name,
// then tags, newest first.
func (g *Git) Refs(ctx context.Context) ([]Ref, error) {
	const format = "%(refname)%00%(objectname)%00%(objecttype)%00%(*objectname)%00%(*objecttype)%00%(creatordate:unix)%00%(contents:subject)"
	out, err := g.Run(ctx, "for-each-ref", "--format="+format, "refs/heads", "refs/tags")
	if err != nil {
		return nil, err
	}
	var refs []Ref
	for _, line := range strings.Split(strings.TrimSuffix(string(out), "\n"), "\n") {
		f := strings.Split(line, "\x00")
		if len(f) < 7 {
			continue
		}
		commit, typ := f[1], f[2]
		if f[3] != "" {
			commit, typ = f[3], f[4]
		}
		if typ != "commit" {
			continue // a tag on a tree or a blob cannot be read as a pin
		}
		r := Ref{Full: f[0], Commit: commit, Time: time.Unix(moment(f[5]), 0).UTC(), Subject: strings.ToValidUTF8(f[6], "?")}
		if name, ok := strings.CutPrefix(f[0], "refs/heads/"); ok {
			r.Name, r.Kind = name, "branch"
		} else {
			r.Name, r.Kind = strings.TrimPrefix(f[0], "refs/tags/"), "tag"
		}
		refs = append(refs, r)
	}
	sort.SliceStable(refs, func(i, j int) bool {
		a, b := refs[i], refs[j]
		if a.Kind != b.Kind {
			return a.Kind == "branch"
		}
		if a.Kind == "tag" && !a.Time.Equal(b.Time) {
			return a.Time.After(b.Time)
		}
		return a.Name < b.Name
	})
	return refs, nil
}

var releaseTag = regexp.MustCompile(`^(?:.*[/_-])?v?(\d+(?:\.\d+){0,2})$`)

// HighestRelease picks the tag with the highest release version (pre-releases
// do not count), the newer one among equals; nil when no tag names a release.
func HighestRelease(refs []Ref) *Ref {
	var best *Ref
	var bestV string
	for i := range refs {
		m := releaseTag.FindStringSubmatch(refs[i].Name)
		if refs[i].Kind != "tag" || m == nil {
			continue
		}
		v := semver.Canonical("v" + m[1])
		if v == "" {
			continue
		}
		if best == nil || semver.Compare(v, bestV) > 0 || (v == bestV && refs[i].Time.After(best.Time)) {
			best, bestV = &refs[i], v
		}
	}
	return best
}

// Head is the commit the repository's own HEAD leads to, with the branch's
// short name; when HEAD leads nowhere, the newest branch. ErrNoCommits when
// there is no branch or tag at all.
func (g *Git) Head(ctx context.Context) (commit, branch string, err error) {
	if out, err := g.Run(ctx, "rev-parse", "--verify", "--quiet", "HEAD^{commit}"); err == nil {
		commit = strings.TrimSpace(string(out))
		if name, err := g.Run(ctx, "symbolic-ref", "--quiet", "--short", "HEAD"); err == nil {
			branch = strings.TrimSpace(string(name))
		}
		return commit, branch, nil
	}
	refs, err := g.Refs(ctx)
	if err != nil {
		return "", "", err
	}
	var newest *Ref
	for i := range refs {
		if newest == nil || refs[i].Time.After(newest.Time) {
			newest = &refs[i]
		}
	}
	if newest == nil {
		return "", "", ErrNoCommits
	}
	return newest.Commit, newest.Name, nil
}

// refWord is the alphabet of names that may be asked for: git's own rules for
// ref names, without revision operators.
var refWord = regexp.MustCompile(`^[^\x00-\x20\x7f~^:?*\[\\@-][^\x00-\x20\x7f~^:?*\[\\]*$`)

// Resolve turns a tag, a branch or a (shortened) commit id into the full id of
// a commit. Revision expressions are not understood, on purpose. The error is
// *UnknownPinError when there is no such commit.
func (g *Git) Resolve(ctx context.Context, pin string) (string, error) {
	if len(pin) > 300 || !refWord.MatchString(pin) || strings.Contains(pin, "..") || strings.Contains(pin, "@{") {
		return "", &UnknownPinError{Pin: pin}
	}
	for _, name := range []string{"refs/tags/" + pin, "refs/heads/" + pin, pin} {
		out, err := g.Run(ctx, "rev-parse", "--verify", "--quiet", "--end-of-options", name+"^{commit}")
		if err == nil {
			id := strings.TrimSpace(string(out))
			if _, err := g.Run(ctx, "cat-file", "-e", id); err == nil {
				return id, nil
			}
		}
		if ctx.Err() != nil {
			return "", ctx.Err()
		}
	}
	return "", &UnknownPinError{Pin: pin}
}

// Shallow returns the ids of the commits at which a shallow repository's
// history is cut off; none for a complete one.
func (g *Git) Shallow() ([]string, error) {
	b, err := os.ReadFile(filepath.Join(g.dir, "shallow"))
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return strings.Fields(string(b)), nil
}

// WriteCommitGraph writes the commit-graph with changed-path filters, which
// later walks of history lean on. It speeds up; nothing depends on it.
func (g *Git) WriteCommitGraph(ctx context.Context) error {
	err := g.writeCommitGraph(ctx, "--changed-paths")
	if git := (*Error)(nil); errors.As(err, &git) { // which needs all trees; some may be damaged
		err = g.writeCommitGraph(ctx, "--no-changed-paths")
	}
	return err
}

func (g *Git) writeCommitGraph(ctx context.Context, paths string) error {
	// Version 2 of the generation numbers counts in dates, and git never ends where
	// a commit claims a date near the end of all numbers.
	_, err := g.Run(ctx, "-c", "commitGraph.generationVersion=1", "commit-graph", "write", "--reachable", paths, "--no-progress")
	return err
}
