package intake

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"os/exec"
	"slices"
	"strconv"
	"strings"

	"juxtagram/core/repo"
)

// settings are what a foreign configuration says about how its objects are kept. The
// file's bytes alone are read: what it includes is not.
type settings struct {
	format string   // of ids: "sha1" | "sha256"; "": not said
	doubts []string // in words
}

// known are extensions of a repository that say nothing about how its objects and refs
// are read here.
var known = []string{"noop", "noop-v1", "objectformat", "worktreeconfig", "preciousobjects", "partialclone", "relativeworktrees", "compatobjectformat"}

func readSettings(ctx context.Context, common *foreign) (s settings, err error) {
	text, err := common.read("config")
	if errors.Is(err, fs.ErrNotExist) {
		return s, nil
	}
	if err != nil {
		return s, err
	}
	cmd := exec.CommandContext(ctx, "git", "config", "--file", "-", "--no-includes", "--null", "--list")
	cmd.Env, cmd.Dir, cmd.Stdin = repo.Environ(), os.TempDir(), strings.NewReader(string(text))
	out, err := cmd.Output()
	if ctx.Err() != nil {
		return s, ctx.Err()
	}
	if err != nil {
		s.doubts = append(s.doubts, "its configuration cannot be read, and was not")
		return s, nil
	}
	for line := range strings.SplitSeq(string(out), "\x00") {
		key, value, _ := strings.Cut(line, "\n")
		value = strings.TrimSpace(value)
		switch name, extension := strings.CutPrefix(key, "extensions."); {
		case key == "core.repositoryformatversion":
			if v, err := strconv.Atoi(value); err != nil || v > 1 || v < 0 {
				s.doubts = append(s.doubts, "its format has a version that is not known here; it was read as version 1")
			}
		case key == "extensions.objectformat":
			if s.format = strings.ToLower(value); s.format != "sha1" && s.format != "sha256" {
				return s, refuse("its objects are named in a format that is not supported here; sha1 and sha256 are")
			}
		case key == "extensions.refstorage" && value != "files":
			return s, refuse("its refs are stored in a format that is not supported here; take it in by its address")
		case extension && name != "refstorage" && !slices.Contains(known, name):
			s.doubts = append(s.doubts, "its configuration names an extension that is not known here; it was read without")
		}
	}
	s.doubts = slices.Compact(s.doubts)
	return s, nil
}
