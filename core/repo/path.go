package repo

import (
	"fmt"
	"iter"
	"net/url"
	"path"
	"strings"
	"unicode/utf8"
)

// EscapePath makes a path that may hold any bytes fit for JSON and addresses:
// one that is valid UTF-8 stays as it is; in any other, every byte that is not
// part of valid UTF-8 becomes %XX, and '%' itself %25. The second result says
// whether it was escaped.
func EscapePath(path string) (string, bool) {
	if utf8.ValidString(path) {
		return path, false
	}
	var b strings.Builder
	for i := 0; i < len(path); {
		r, n := utf8.DecodeRuneInString(path[i:])
		switch {
		case r == utf8.RuneError && n == 1:
			fmt.Fprintf(&b, "%%%02X", path[i])
		case r == '%':
			b.WriteString("%25")
		default:
			b.WriteString(path[i : i+n])
		}
		i += n
	}
	return b.String(), true
}

// UnescapePath takes EscapePath back.
func UnescapePath(path string, escaped bool) (string, error) {
	if !escaped {
		return path, nil
	}
	return url.PathUnescape(path)
}

// SafePath makes a path that git printed fit to be used as one: relative, with no part
// that is empty, ".", ".." or what a file system may take for ".git". A part that is
// one of these is written with a "%2E" for its first dot, or as "%" where it is empty.
// No tree that git itself wrote holds such a part. The second result says whether one
// was rewritten.
func SafePath(p string) (string, bool) {
	odd := false
	for part := range strings.SplitSeq(p, "/") {
		odd = odd || oddPart(part)
	}
	if !odd {
		return p, false
	}
	parts := strings.Split(p, "/")
	for i, part := range parts {
		switch {
		case part == "":
			parts[i] = "%"
		case part == "..":
			parts[i] = "%2E%2E"
		case oddPart(part):
			parts[i] = "%2E" + strings.TrimPrefix(part, ".")
		}
	}
	return strings.Join(parts, "/"), true
}

// oddPart tells that no tree should hold an entry of this name.
func oddPart(part string) bool {
	switch part {
	case "", ".", "..":
		return true
	}
	return (part[0] == '.' || part[0] == 'g' || part[0] == 'G' || part[0] >= 0x80) && isGitFolder(part)
}

// isGitFolder tells that a file system may take a name for ".git": some ignore case,
// trailing dots and spaces, what follows a colon, and characters that nobody sees.
func isGitFolder(name string) bool {
	name, _, _ = strings.Cut(name, ":")
	name = strings.ToLower(strings.TrimRight(strings.Map(func(r rune) rune {
		if r >= 0x200c && r <= 0x200f || r >= 0x202a && r <= 0x202e || r >= 0x206a && r <= 0x206f || r == 0xfeff {
			return -1
		}
		return r
	}, name), ". "))
	return name == ".git" || name == "git~1"
}

// Folders are the folders that a path lies in, the nearest first, without the root.
func Folders(p string) iter.Seq[string] {
	return func(yield func(string) bool) {
		for dir := path.Dir(p); dir != "." && dir != "/"; dir = path.Dir(dir) {
			if !yield(dir) {
				return
			}
		}
	}
}
