package jobs

import (
	"context"
	"fmt"
	"io/fs"
	"path/filepath"
	"slices"
	"syscall"

	"juxtagram/core/intake"
)

// Room is an error in words for people where the disk has no room for more: less of it
// is free than the share that is kept.
func (r *Runner) Room() error {
	var disk syscall.Statfs_t
	if r.config.FreeShare <= 0 || syscall.Statfs(r.config.Data, &disk) != nil || disk.Blocks == 0 {
		return nil
	}
	if float64(disk.Bavail)/float64(disk.Blocks) >= r.config.FreeShare {
		return nil
	}
	return &intake.Refused{Reason: fmt.Sprintf("the disk is almost full: less than %.0f %% of it is free, and nothing more is taken in", r.config.FreeShare*100)}
}

// folderBytes is how many bytes the files of a folder have together.
func folderBytes(dir string) (bytes int64) {
	_ = filepath.WalkDir(dir, func(_ string, d fs.DirEntry, err error) error {
		if err != nil {
			return nil //nolint:nilerr // what is gone takes no room
		}
		if info, err := d.Info(); err == nil && info.Mode().IsRegular() {
			bytes += info.Size()
		}
		return nil
	})
	return bytes
}

// IsRoot tells whether a folder is one below which folders may be taken in.
func (r *Runner) IsRoot(folder string) bool { return slices.Contains(r.config.Roots, folder) }

// RootsOf are the folders from below which somebody may take in: all of them for owners,
// for anybody else those that were opened to them. nil stands for a person who is gone.
func (r *Runner) RootsOf(ctx context.Context, person *int64) ([]string, error) {
	roots := append([]string{}, r.config.Roots...)
	if person == nil {
		return roots, nil
	}
	rights, err := r.store.RightsOf(ctx, *person)
	if err != nil || rights.Owner {
		return roots, err
	}
	return slices.DeleteFunc(roots, func(root string) bool { return !slices.Contains(rights.Roots, root) }), nil
}
