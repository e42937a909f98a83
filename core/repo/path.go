package repo

import (
	"fmt"
	"net/url"
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
