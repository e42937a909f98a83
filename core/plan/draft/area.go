package draft

import (
	"slices"
	"strings"
)

// How a tree is parted into areas: until none has more than this share of the
// files, or there are so many.
const (
	largestArea = 0.3
	mostAreas   = 12
)

// areas part files by the folders they are in: the tree is divided where most of
// them are, until no part holds too many. It gives each file's.
func (g *Ground) areas(files []int) []int {
	type part struct {
		prefix string // of the folders in it, ending in a slash; "" the root
		files  []int  // indices into files
		whole  bool   // not to be divided further
	}
	all := make([]int, len(files))
	for n := range all {
		all[n] = n
	}
	parts := []*part{{files: all}}
	for len(parts) < mostAreas {
		var big *part
		for _, p := range parts {
			if !p.whole && (big == nil || len(p.files) > len(big.files)) {
				big = p
			}
		}
		if big == nil || float64(len(big.files)) <= largestArea*float64(len(files)) && len(parts) > 1 || len(big.files) < 4 {
			break
		}
		into := map[string][]int{}
		for _, n := range big.files {
			rest := strings.TrimPrefix(g.Whole.Files[files[n]].Path, big.prefix)
			below, _, deeper := strings.Cut(rest, "/")
			if !deeper {
				below = ""
			}
			into[below] = append(into[below], n)
		}
		if len(into) == 1 {
			if _, here := into[""]; here {
				big.whole = true
				continue
			}
		}
		parts = slices.DeleteFunc(parts, func(p *part) bool { return p == big })
		var names []string
		for name := range into {
			names = append(names, name)
		}
		slices.Sort(names)
		for _, name := range names {
			p := &part{prefix: big.prefix, files: into[name], whole: name == ""}
			if name != "" {
				p.prefix += name + "/"
			}
			parts = append(parts, p)
		}
	}
	out := make([]int, len(files))
	for k, p := range parts {
		for _, n := range p.files {
			out[n] = k
		}
	}
	return out
}
