package intake

import (
	"bytes"
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"sort"
	"strings"

	"juxtagram/core/repo"
)

var (
	refLine     = regexp.MustCompile(`^([0-9a-f]{40}|[0-9a-f]{64}) (refs/(?:heads|tags)/\S+)$`)
	refID       = regexp.MustCompile(`^(?:[0-9a-f]{40}|[0-9a-f]{64})$`)
	shallowFile = regexp.MustCompile(`^(?:[0-9a-f]{40,64}\n)+$`)
	headRef     = regexp.MustCompile(`^ref: (refs/heads/\S+)$`)
)

// foreignRefs reads branches and tags as files: packed ones, then loose ones,
// which win.
func foreignRefs(common *foreign) (map[string]string, error) {
	refs := map[string]string{}
	b, err := common.read("packed-refs")
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	for l := range strings.SplitSeq(string(b), "\n") {
		if m := refLine.FindStringSubmatch(strings.TrimRight(l, "\r")); m != nil {
			refs[m[2]] = m[1]
		}
	}
	for _, under := range []string{"refs/heads", "refs/tags"} {
		err := fs.WalkDir(common.FS(), under, func(p string, d fs.DirEntry, err error) error {
			if errors.Is(err, fs.ErrNotExist) {
				return nil
			}
			if err != nil {
				return refuse("%s cannot be read", p)
			}
			if d.IsDir() {
				return nil
			}
			b, err := common.read(p)
			if errors.Is(err, fs.ErrNotExist) {
				return nil
			}
			if err == nil && refID.MatchString(strings.TrimSpace(string(b))) {
				refs[p] = strings.TrimSpace(string(b))
			}
			return err
		})
		if err != nil {
			return nil, err
		}
	}
	return refs, nil
}

// setRefs gives the mirror its refs; those that lead to a missing object are
// left out and counted.
func setRefs(ctx context.Context, g *repo.Git, refs map[string]string, head string) (lost int, err error) {
	names := make([]string, 0, len(refs))
	for n := range refs {
		names = append(names, n)
	}
	sort.Strings(names)
	var ask bytes.Buffer
	for _, n := range names {
		ask.WriteString(refs[n] + "\n")
	}
	out, err := g.RunInput(ctx, &ask, "cat-file", "--batch-check=%(objecttype)")
	if err != nil {
		return 0, refuse("the repository is damaged: its branches and tags cannot be read")
	}
	kinds := strings.Split(strings.TrimSuffix(string(out), "\n"), "\n")
	var kept []string
	is := map[string]bool{}
	for i, n := range names {
		within := false // a ref cannot be a folder of others
		for dir := range repo.Folders(n) {
			within = within || is[dir]
		}
		if within || !validRef(n) || i >= len(kinds) || strings.HasSuffix(kinds[i], " missing") || (strings.HasPrefix(n, "refs/heads/") && kinds[i] != "commit") {
			lost++
			continue
		}
		kept, is[n] = append(kept, n), true
	}
	if err := packRefs(g.Dir(), kept, refs); err != nil {
		return lost, err
	}
	if m := headRef.FindStringSubmatch(head); m != nil {
		_, err = g.Run(ctx, "symbolic-ref", "HEAD", m[1])
	} else if refID.MatchString(head) {
		_, err = g.Run(ctx, "update-ref", "--no-deref", "HEAD", head)
	}
	if err != nil && ctx.Err() == nil {
		err = nil // a HEAD that leads nowhere: the newest branch stands in for it
	}
	return lost, err
}

// validRef applies git's rules for the names of refs.
func validRef(name string) bool {
	if strings.ContainsAny(name, " ~^:?*[\\\x7f") || strings.Contains(name, "..") || strings.Contains(name, "@{") ||
		strings.Contains(name, "//") || strings.HasSuffix(name, "/") || strings.HasSuffix(name, ".") {
		return false
	}
	for _, part := range strings.Split(name, "/") {
		if strings.HasPrefix(part, ".") || strings.HasSuffix(part, ".lock") {
			return false
		}
	}
	return strings.IndexFunc(name, func(r rune) bool { return r < 0x20 }) < 0
}

// packRefs writes the branches and tags of a mirror into one file, in their order: git
// would make a file of each. Those that have one of their own go.
func packRefs(dir string, names []string, refs map[string]string) error {
	var b bytes.Buffer
	b.WriteString("# pack-refs with: sorted \n")
	for _, n := range names {
		b.WriteString(refs[n] + " " + n + "\n")
	}
	next := filepath.Join(dir, "packed-refs.new")
	if err := os.WriteFile(next, b.Bytes(), 0o644); err != nil {
		return err
	}
	if err := os.Rename(next, filepath.Join(dir, "packed-refs")); err != nil {
		return err
	}
	for _, under := range []string{"refs/heads", "refs/tags"} {
		if err := os.RemoveAll(filepath.Join(dir, under)); err != nil {
			return err
		}
		if err := os.MkdirAll(filepath.Join(dir, under), 0o755); err != nil {
			return err
		}
	}
	return nil
}
