package gitlog

import (
	pathpkg "path"
	"slices"
	"sort"
	"strings"
)

// Chapter is one commit of a file's story.
type Chapter struct {
	Commit int32
	Status byte   // A added, D deleted, M modified, R renamed, T changed its type
	Path   string // after the commit; for D before it
	Old    string // the name before, where it was renamed
}

// Story lists the commits that changed a file, newest first, and follows it back
// across renames: a commit that renames old to new makes earlier changes of old
// changes of the same file. Only commits that reach is a set of count.
func (l *Log) Story(p string, among Set) []Chapter {
	at := l.pathNumber(p)
	var out []Chapter
	for i := int32(0); at >= 0; {
		list := l.touching(at)
		n, _ := slices.BinarySearch(list, i)
		hop, lost := false, false
		for _, i = range list[n:] {
			if among != nil && !among.Has(i) {
				continue
			}
			next := at
			for _, c := range l.changes[l.changeAt[i]:l.changeAt[i+1]] {
				if c.old == at && c.path != at {
					lost = true // what bore the name before lives on under another
				}
				if c.path != at {
					continue
				}
				x := Chapter{Commit: i, Status: c.status, Path: l.paths[c.path]}
				if c.old >= 0 {
					x.Old, next = l.paths[c.old], c.old
				}
				if n := len(out); n == 0 || out[n-1].Commit != i {
					out = append(out, x)
				}
			}
			if hop = next != at; hop || lost {
				at = next
				break
			}
		}
		if lost || !hop {
			break
		}
		i++
	}
	return out
}

// pathNumber is a path's place among all; -1: no commit changed it.
func (l *Log) pathNumber(p string) int32 {
	if n := sort.SearchStrings(l.paths, p); n < len(l.paths) && l.paths[n] == p {
		return int32(n)
	}
	return -1
}

// Forward lists the commits that changed a file, oldest first, and follows it
// ahead across renames, from a path it bears at the beginning. Only commits that
// among is a set of count, and of these those behind a commit; -1: all.
func (l *Log) Forward(p string, among Set, behind int32) []Chapter {
	at := l.pathNumber(p)
	last := int32(l.Len())
	if behind >= 0 {
		last = behind
	}
	var out []Chapter
	for at >= 0 {
		list := l.touching(at)
		n, _ := slices.BinarySearch(list, last)
		next := int32(-1)
		for n--; n >= 0 && next < 0; n-- {
			last = list[n]
			if among != nil && !among.Has(last) {
				continue
			}
			for _, c := range l.changes[l.changeAt[last]:l.changeAt[last+1]] {
				switch {
				case c.old == at && c.path != at:
					out = append(out, Chapter{Commit: last, Status: c.status, Path: l.paths[c.path], Old: l.paths[at]})
					next = c.path
				case c.path == at:
					x := Chapter{Commit: last, Status: c.status, Path: l.paths[at]}
					if c.old >= 0 {
						x.Old = l.paths[c.old]
					}
					out = append(out, x)
				}
			}
		}
		at = next
	}
	return out
}

// ChangesAt are all files that a commit changed.
func (l *Log) ChangesAt(i int32) []Chapter {
	var out []Chapter
	for _, c := range l.changes[l.changeAt[i]:l.changeAt[i+1]] {
		x := Chapter{Commit: i, Status: c.status, Path: l.paths[c.path]}
		if c.old >= 0 {
			x.Old = l.paths[c.old]
		}
		out = append(out, x)
	}
	return out
}

// PathsLike lists paths that were ever changed and hold a text, letter case
// aside, at most limit: those whose last part begins with it first, then the
// shorter ones. Folders end with a slash.
func (l *Log) PathsLike(text string, limit int) []string {
	text = strings.ToLower(text)
	seen := map[string]bool{}
	var found []string
	take := func(p string) {
		if !seen[p] && strings.Contains(strings.ToLower(p), text) {
			seen[p] = true
			found = append(found, p)
		}
	}
	last := ""
	for _, p := range l.paths {
		folder := p[:strings.LastIndexByte(p, '/')+1]
		for n := range folder {
			// the folders above it that its neighbour did not have
			if folder[n] == '/' && !strings.HasPrefix(last, folder[:n+1]) {
				take(folder[:n+1])
			}
		}
		last = folder
		take(p)
	}
	rank := func(p string) int {
		if strings.HasPrefix(strings.ToLower(pathpkg.Base(p)), text) {
			return 0
		}
		return 1
	}
	sort.SliceStable(found, func(a, b int) bool {
		if x, y := rank(found[a]), rank(found[b]); x != y {
			return x < y
		}
		return len(found[a]) < len(found[b])
	})
	return found[:min(len(found), limit)]
}
