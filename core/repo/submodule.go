package repo

import (
	"context"
	"fmt"
	"strings"
)

// Submodules reads where the submodules of a commit come from: path → address,
// as its .gitmodules file says. A commit without one has none.
func (g *Git) Submodules(ctx context.Context, commit string) (map[string]string, error) {
	if _, err := g.Run(ctx, "cat-file", "-e", commit+":.gitmodules"); err != nil {
		return nil, ctx.Err()
	}
	out, err := g.Run(ctx, "config", "--no-includes", "-z", "--blob", commit+":.gitmodules", "--list")
	if err != nil {
		return nil, fmt.Errorf("reading .gitmodules of %.12s: %w", commit, err)
	}
	paths, addresses := map[string]string{}, map[string]string{}
	for _, item := range strings.Split(string(out), "\x00") {
		key, value, _ := strings.Cut(item, "\n")
		name, ok := strings.CutPrefix(key, "submodule.")
		if !ok {
			continue
		}
		if n, ok := strings.CutSuffix(name, ".path"); ok {
			paths[n] = value
		} else if n, ok := strings.CutSuffix(name, ".url"); ok {
			addresses[n] = value
		}
	}
	found := map[string]string{}
	for n, p := range paths {
		if addresses[n] != "" {
			found[strings.TrimSuffix(p, "/")] = addresses[n]
		}
	}
	return found, nil
}
