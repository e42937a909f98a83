package intake

import (
	"bytes"
	"context"
	"errors"
	"io/fs"
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
	var set bytes.Buffer
	for i, n := range names {
		if !validRef(n) || i >= len(kinds) || strings.HasSuffix(kinds[i], " missing") || (strings.HasPrefix(n, "refs/heads/") && kinds[i] != "commit") {
			lost++
			continue
		}
		set.WriteString("update " + n + " " + refs[n] + "\n")
	}
	if _, err := g.RunInput(ctx, &set, "update-ref", "--stdin"); err != nil {
		return lost, refuse("the repository is damaged: its branches and tags cannot be read")
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
