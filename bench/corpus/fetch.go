// Package corpus fetches packages that nobody here wrote, and surveys them, for
// what is measured on them.
package corpus

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
)

// Module fetches a Go module, such as "example.test/x@v1.2.0"; it gives the folder
// of its files, which are not to be changed.
func Module(spec string) (dir string, err error) {
	cmd := exec.Command("go", "mod", "download", "-json", spec)
	cmd.Dir = os.TempDir() // no module of ours decides
	out, err := cmd.Output()
	if err != nil {
		return "", fmt.Errorf("fetching %s: %w", spec, err)
	}
	var m struct{ Dir string }
	return m.Dir, json.Unmarshal(out, &m)
}

// Npm fetches a package of npm, such as "x@1.2.0", into a folder of a cache unless
// it is there; it gives the folder of its files. Nothing of it is run.
func Npm(spec, cache string) (dir string, err error) {
	to := filepath.Join(cache, strings.NewReplacer("/", "-", "@", "-").Replace(spec))
	dir = filepath.Join(to, "package")
	if _, err := os.Stat(dir); err == nil {
		return dir, nil
	}
	if err := os.MkdirAll(to, 0o755); err != nil {
		return "", err
	}
	pack := exec.Command("npm", "pack", "--silent", "--ignore-scripts", spec)
	pack.Dir = cache
	out, err := pack.Output()
	if err != nil {
		return "", fmt.Errorf("fetching %s: %w", spec, err)
	}
	archive := filepath.Join(cache, strings.TrimSpace(string(out)))
	if out, err := exec.Command("tar", "-xzf", archive, "-C", to).CombinedOutput(); err != nil {
		return "", fmt.Errorf("unpacking %s: %w: %s", archive, err, out)
	}
	return dir, nil
}
