package follow

import (
	"context"
	"strings"

	"juxtagram/core/place"
)

// HasFolder tells whether the commit that is followed to has a folder.
func (f *Follower) HasFolder(ctx context.Context, path string) (bool, error) {
	entries, err := f.git.Folder(ctx, f.commit, path)
	if err != nil {
		return false, ctx.Err() // git knows no such folder
	}
	return len(entries) > 0, nil
}

// mostFiles is how many files of a folder are followed to find out where it went.
const mostFiles = 200

// folder finds a folder by its path, or where most of its files went together.
func (f *Follower) folder(ctx context.Context, p *Point) (place.Outcome, error) {
	if p.Path == "" || p.Commit == f.commit {
		return found(p.Path, 0, 0), nil
	}
	if there, err := f.HasFolder(ctx, p.Path); err != nil || there {
		return found(p.Path, 0, 0), err
	}
	placer := f.along(p.Commit)
	if placer == nil {
		return gone(place.FileAbsent), nil
	}
	files, err := f.git.Tree(ctx, p.Commit, p.Path)
	if err != nil {
		return gone(place.FileAbsent), ctx.Err()
	}
	went := map[string]int{} // folder → how many files keep their path below it
	step := 1 + (len(files)-1)/mostFiles
	followed := 0
	for i := 0; i < len(files); i += step {
		followed++
		path := files[i].Path
		if end, there := placer.EndOf(path); there {
			if to, ok := strings.CutSuffix(end, path[len(p.Path):]); ok {
				went[to]++
			}
		}
	}
	for to, n := range went {
		if 2*n > followed { // more than half: there is one at most
			out := found(to, 0, 0)
			out.What, out.Like = place.Moved, float64(n)/float64(followed)
			return out, nil
		}
	}
	return gone(place.FileAbsent), nil
}
