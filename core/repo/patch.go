package repo

import (
	"context"
	"errors"
	"io"
)

// Patch is the difference of two commits, by their full ids, as git writes it: of one
// raw path, or of all that differ (""). old "" is what stood before new: its first
// parent, or nothing. At most limit bytes are read; cut tells that there is more.
func (g *Git) Patch(ctx context.Context, old, new, path string, limit int64) (text []byte, cut bool, err error) {
	args := []string{"--literal-pathspecs"}
	plain := []string{"--no-color", "--no-ext-diff", "--no-textconv", "-M", "--src-prefix=a/", "--dst-prefix=b/"}
	if old == "" {
		args = append(append(args, "show", "--format=", "--diff-merges=first-parent"), append(plain, "--end-of-options", new)...)
	} else {
		args = append(append(args, "diff"), append(plain, "--end-of-options", old, new)...)
	}
	if path != "" {
		args = append(args, "--", path)
	}
	enough := errors.New("that is enough")
	err = g.stream(ctx, nil, func(r io.Reader) error {
		var err error
		if text, err = io.ReadAll(io.LimitReader(r, limit+1)); err == nil && int64(len(text)) > limit {
			text, cut = text[:limit], true
			return enough
		}
		return err
	}, args...)
	if errors.Is(err, enough) {
		err = nil
	}
	return text, cut, err
}
