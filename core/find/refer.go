// Package find pursues what is looked for through the texts of a repository.
package find

import (
	"path"
	"regexp"
	"strings"
)

// How is the way in which a line refers to a file, the surest first.
type How string

// The ways.
const (
	ByPath How = "path" // by its path, or the end of it with a folder
	ByName How = "name" // by its name
	ByStem How = "stem" // by its name without extensions, as a string or word of its own
)

// Texts are what a line must hold one of to refer to a file.
func Texts(file string) []string {
	name := path.Base(file)
	out := []string{name}
	if stem := stemOf(name); stem != name && len(stem) > 3 {
		out = append(out, stem)
	}
	return out
}

// stemOf is a name without its extensions; of a name that begins with a dot,
// the whole.
func stemOf(name string) string {
	if i := strings.IndexByte(name, '.'); i > 0 {
		return name[:i]
	}
	return name
}

// Refers tells how a line of a file refers to another; "": it does not. A name
// that is part of a longer one refers to that, and a path that leads elsewhere
// is no mention.
func Refers(line, from, to string) How {
	name := path.Base(to)
	best := How("")
	for at := 0; ; {
		i := strings.Index(line[at:], name)
		if i < 0 {
			break
		}
		i += at
		at = i + len(name)
		if i > 0 && inName(line[i-1]) || at < len(line) && inName(line[at]) && line[at] != '.' || at+1 < len(line) && line[at] == '.' && inName(line[at+1]) {
			continue
		}
		start := i
		for start > 0 && (inName(line[start-1]) || line[start-1] == '/' || line[start-1] == '.') {
			start--
		}
		written := line[start:at]
		if !strings.ContainsRune(written, '/') {
			best = first(best, ByName)
			continue
		}
		if leadsTo(written, from, to) {
			return ByPath
		}
	}
	if best != "" {
		return best
	}
	if stem := stemOf(name); stem != name && len(stem) > 3 && quoted(line, stem) {
		return ByStem
	}
	return ""
}

func first(a, b How) How {
	if a != "" {
		return a
	}
	return b
}

// leadsTo tells whether a path as written in a file means another: from the
// file's folder, or as the end of the other's path.
func leadsTo(written, from, to string) bool {
	if joined := path.Join(path.Dir(from), written); joined == to {
		return true
	}
	clean := strings.TrimLeft(path.Clean("/"+written), "/")
	for strings.HasPrefix(clean, "../") {
		clean = clean[3:]
	}
	return clean == to || strings.HasSuffix(to, "/"+clean)
}

// named matches what stands before a word that names a resource: the end of a
// path in a string, or a class of resources with a dot.
var named = regexp.MustCompile(`(?:["'` + "`" + `]|["'` + "`" + `(=][^"'` + "`" + `\s]*\w/|\bR\.\w+\.)$`)

// quoted tells whether a line names a word as a resource: as a whole string, at
// the end of a path in one, or as a member of a class of resources.
func quoted(line, word string) bool {
	for at := 0; ; {
		i := strings.Index(line[at:], word)
		if i < 0 {
			return false
		}
		i += at
		at = i + len(word)
		before := named.FindString(line[max(0, i-200):i])
		if before == "" || at < len(line) && inName(line[at]) {
			continue
		}
		if strings.HasSuffix(before, ".") || at < len(line) && strings.IndexByte("\"'`", line[at]) >= 0 {
			return true
		}
	}
}

func inName(c byte) bool {
	return c == '_' || c == '-' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= 0x80
}
