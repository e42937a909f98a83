package tagged

import (
	"fmt"
	"regexp"
	"strings"
)

// Rule hides tagged comments.
type Rule struct {
	onPath bool
	re     *regexp.Regexp
}

// maxRule is how long a pattern may be, in bytes.
const maxRule = 300

// PathRule hides by path: * stands for anything but a slash, ** for anything,
// ? for one character. A pattern without a slash fits a name in any folder, one
// that fits a folder fits all below it.
func PathRule(pattern string) (*Rule, error) {
	p := strings.Trim(strings.TrimSpace(pattern), "/")
	if p == "" || len(p) > maxRule {
		return nil, fmt.Errorf("a rule needs a path of at most %d bytes", maxRule)
	}
	var re strings.Builder
	re.WriteString("^")
	if !strings.Contains(p, "/") {
		re.WriteString("(?:.*/)?")
	}
	for i := 0; i < len(p); i++ {
		switch {
		case strings.HasPrefix(p[i:], "**/"):
			re.WriteString("(?:.*/)?")
			i += 2
		case strings.HasPrefix(p[i:], "**"):
			re.WriteString(".*")
			i++
		case p[i] == '*':
			re.WriteString("[^/]*")
		case p[i] == '?':
			re.WriteString("[^/]")
		default:
			re.WriteString(regexp.QuoteMeta(p[i : i+1]))
		}
	}
	re.WriteString("(?:/.*)?$")
	// bytes are taken as they are, also where they are no UTF-8
	compiled, err := regexp.Compile("(?s)" + re.String())
	if err != nil {
		return nil, fmt.Errorf("the path pattern cannot be used: %w", err)
	}
	return &Rule{true, compiled}, nil
}

// TextRule hides by what a comment says: an RE2 pattern, letter case aside.
func TextRule(pattern string) (*Rule, error) {
	if strings.TrimSpace(pattern) == "" || len(pattern) > maxRule {
		return nil, fmt.Errorf("a rule needs a pattern of at most %d bytes", maxRule)
	}
	re, err := regexp.Compile("(?i)" + pattern)
	if err != nil {
		return nil, fmt.Errorf("the pattern cannot be used: %w", err)
	}
	return &Rule{false, re}, nil
}

// Hides tells whether the rule hides an item.
func (r *Rule) Hides(x *Item) bool {
	if r.onPath {
		return r.re.MatchString(x.Path)
	}
	return r.re.MatchString(x.Said) || r.re.MatchString(x.Whole)
}
