package repo

import (
	"bufio"
	"context"
	"errors"
	"io"
	"strconv"
	"strings"
)

// Compare tells where two blobs differ, line by line, without context. Blobs
// that are not text give no hunks.
func (g *Git) Compare(ctx context.Context, old, new string, ignoreSpace bool) ([]Hunk, error) {
	args := []string{"diff", "--no-ext-diff", "--no-textconv", "--no-color", "-U0", "--src-prefix=a/", "--dst-prefix=b/"}
	if ignoreSpace {
		args = append(args, "--ignore-all-space")
	}
	var found Counts
	err := g.stream(ctx, nil, func(r io.Reader) error {
		br := bufio.NewReaderSize(r, 1<<16)
		if _, err := br.Peek(1); err != nil {
			return nil //nolint:nilerr // no output: they are the same
		}
		counts, err := ReadPatch(br, Change{})
		found = counts
		return err
	}, append(args, old, new)...)
	return found.Hunks, err
}

// CountSince counts the commits between two that changed a path, up to most.
func (g *Git) CountSince(ctx context.Context, from, to, path string, most int) (int, error) {
	out, err := g.Run(ctx, "--literal-pathspecs", "rev-list", "--count", "--max-count="+strconv.Itoa(most), from+".."+to, "--", path)
	if err != nil {
		return 0, err
	}
	return strconv.Atoi(strings.TrimSpace(string(out)))
}

// Before is the newest commit reachable from another that was committed at or
// before a time; "": there is none.
func (g *Git) Before(ctx context.Context, commit string, unix int64) (string, error) {
	out, err := g.Run(ctx, "rev-list", "--max-count=1", "--before="+strconv.FormatInt(unix, 10), commit)
	return strings.TrimSpace(string(out)), err
}

// MergeBase is the best common ancestor of two commits; "": they have none.
func (g *Git) MergeBase(ctx context.Context, a, b string) (string, error) {
	out, err := g.Run(ctx, "merge-base", a, b)
	if err != nil && len(out) == 0 {
		var failed *Error
		if errors.As(err, &failed) && strings.TrimSpace(failed.Stderr) == "" {
			return "", nil // git says so by its status alone
		}
		return "", err
	}
	return strings.TrimSpace(string(out)), nil
}
