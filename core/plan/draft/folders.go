package draft

import (
	"fmt"

	"juxtagram/core/plan"
)

// Folders are the folders that hold sources, as things that a plan may have one
// read, in the order of their paths.
func (g *Ground) Folders() []plan.Thing {
	out := []plan.Thing{}
	for k, share := range g.wide {
		if share == 0 {
			continue
		}
		dir := g.folders[k]
		if dir == "." {
			dir = ""
		}
		out = append(out, plan.Thing{Key: plan.FolderKind + ":" + dir, Kind: plan.FolderKind, Path: dir, Title: orRoot(dir), Why: fmt.Sprintf("%s in it", count(len(g.beside[k]), "file")), Weight: share})
	}
	return out
}
