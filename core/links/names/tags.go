package names

import (
	"bufio"
	"fmt"
	"io"
	"sort"
	"strings"
)

// WriteTags writes an index of all names that files define, in the format that
// POSIX gives for ctags: name, path and line with tabs between, sorted by name.
// Names and paths that hold a tab or a line feed have no place in it and are
// counted in left.
func (x *Index) WriteTags(out io.Writer) (left int, err error) {
	type tag struct {
		name, path string
		line       int
	}
	var tags []tag
	for i := range x.Files {
		d, err := x.source(i)
		if err != nil {
			return left, fmt.Errorf("%s: %w", x.Files[i].Path, err)
		}
		if d == nil {
			continue
		}
		for k := range d.Outline {
			s := &d.Outline[k]
			if strings.ContainsAny(s.Name+x.Files[i].Path, "\t\n\r") || s.Name == "" || strings.ContainsRune(s.Name, ' ') {
				left++
				continue
			}
			tags = append(tags, tag{s.Name, x.Files[i].Path, s.NameLine})
		}
	}
	sort.Slice(tags, func(i, j int) bool {
		a, b := tags[i], tags[j]
		switch {
		case a.name != b.name:
			return a.name < b.name
		case a.path != b.path:
			return a.path < b.path
		}
		return a.line < b.line
	})
	b := bufio.NewWriter(out)
	for i, t := range tags {
		if i == 0 || t != tags[i-1] {
			fmt.Fprintf(b, "%s\t%s\t%d\n", t.name, t.path, t.line)
		}
	}
	return left, b.Flush()
}
