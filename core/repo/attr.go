package repo

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
)

// Attributes asks git which attributes the .gitattributes files of a commit
// give to paths. The result holds only paths with at least one attribute set:
// attribute name to value, "set" and "unset" for those without one. The index
// git needs for this is made in a folder for temporary files.
func (g *Git) Attributes(ctx context.Context, commit string, paths []string) (map[string]map[string]string, error) {
	dir, err := os.MkdirTemp("", "juxtagram-attr-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	env := []string{"GIT_INDEX_FILE=" + filepath.Join(dir, "index")}
	read := g.Command(ctx, env, "read-tree", commit)
	if out, err := read.CombinedOutput(); err != nil {
		return nil, fmt.Errorf("git read-tree: %s", bytes.TrimSpace(out))
	}
	cmd := g.Command(ctx, env, "check-attr", "--cached", "-z", "--stdin", "-a")
	cmd.Stdin = strings.NewReader(strings.Join(paths, "\x00") + "\x00")
	out, err := cmd.Output()
	if err != nil {
		return nil, fmt.Errorf("git check-attr: %w", err)
	}
	got := map[string]map[string]string{}
	f := strings.Split(string(out), "\x00")
	for i := 0; i+2 < len(f); i += 3 {
		if got[f[i]] == nil {
			got[f[i]] = map[string]string{}
		}
		got[f[i]][f[i+1]] = f[i+2]
	}
	return got, nil
}
