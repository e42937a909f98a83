package intake

import (
	"context"
	"fmt"
	"juxtagram/core/repo"
	"path"
	"strings"
)

// shape is what a first look through an archive tells.
type shape struct {
	top     string // the one folder that holds everything; "": there is none
	gitRoot string // where the repository's own files are; set if isGit
	isGit   bool
	newest  int64 // Unix seconds of the newest entry
	entries int
	doubts  []string // in words
}

func look(ctx context.Context, file string, limits Limits) (shape, error) {
	var s shape
	first := true
	heads, objects, names := map[string]bool{}, map[string]bool{}, map[string]string{} // name → mode
	doubled := 0
	err := each(ctx, file, limits, func(e entry) error {
		s.entries++
		if _, twice := names[e.name]; twice {
			doubled++
		}
		names[e.name] = e.mode
		s.newest = max(s.newest, e.unixTime)
		top, _, nested := strings.Cut(e.name, "/")
		if !nested {
			top = ""
		}
		if first {
			s.top, first = top, false
		} else if s.top != top {
			s.top = ""
		}
		dir, base := path.Split(e.name)
		if base == "HEAD" {
			heads[path.Clean(dir)] = true
		}
		if i := strings.Index("/"+e.name, "/objects/"); i >= 0 {
			objects[path.Clean(e.name[:i])] = true
		}
		return nil
	})
	if err != nil {
		return s, err
	}
	for _, at := range []string{".git", path.Join(s.top, ".git"), ".", s.top} {
		if at = path.Clean(at); heads[at] && objects[at] {
			s.isGit, s.gitRoot = true, at
			break
		}
	}
	if !s.isGit {
		s.nested(heads, objects)
	}
	s.doubt(names, doubled)
	return s, nil
}

// nested finds the one repository that stands in a folder beside others.
func (s *shape) nested(heads, objects map[string]bool) {
	var found []string
	for at := range heads {
		if path.Base(at) == ".git" && strings.Count(at, "/") == 1 && objects[at] {
			found = append(found, at)
		}
	}
	switch len(found) {
	case 0:
	case 1:
		s.isGit, s.gitRoot = true, found[0]
		s.doubts = append(s.doubts, "one of the archive's folders is a repository, and was taken in; the others were left out")
	default:
		s.doubts = append(s.doubts, fmt.Sprintf("the archive holds %d repositories; their files were made one commit", len(found)))
	}
}

// doubt notes where an archive contradicts itself.
func (s *shape) doubt(names map[string]string, doubled int) {
	below, through := 0, 0
	for name := range names {
		for dir := range repo.Folders(name) {
			if mode, ok := names[dir]; ok && mode == "120000" {
				through++
				break
			} else if ok {
				below++
				break
			}
		}
	}
	if doubled > 0 {
		s.doubts = append(s.doubts, plural(doubled, "entry of the archive has", "entries of the archive have")+" the name of one before; the last counts")
	}
	if below > 0 {
		s.doubts = append(s.doubts, plural(below, "entry of the archive stands", "entries of the archive stand")+" below a file; what came last counts")
	}
	if through > 0 {
		s.doubts = append(s.doubts, plural(through, "entry of the archive stands", "entries of the archive stand")+" below one of its own links, which was not followed")
	}
}
