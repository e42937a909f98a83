package skim

import "strings"

// text is a file cut into lines; lines count from 1.
type text struct {
	lines  []string
	indent []int // columns before the first character; -1: a blank line
}

// tabWidth is how many columns a tab counts, from wherever it stands.
const tabWidth = 4

func newText(content string) *text {
	content = strings.TrimSuffix(content, "\n")
	t := &text{lines: strings.Split(content, "\n")}
	t.indent = make([]int, len(t.lines))
	for i, l := range t.lines {
		t.indent[i] = indentOf(l)
	}
	return t
}

func indentOf(line string) int {
	n := 0
	for _, c := range []byte(line) {
		switch c {
		case ' ':
			n++
		case '\t':
			n += tabWidth
		case '\r', '\f', '\v':
		default:
			return n
		}
	}
	return -1
}

func (t *text) total() int { return len(t.lines) }

// line is a line without the space around it.
func (t *text) line(n int) string { return strings.TrimSpace(t.lines[n-1]) }

func (t *text) blank(n int) bool { return t.indent[n-1] < 0 }

func (t *text) column(n int) int { return t.indent[n-1] }

// closes tells a line that only ends what was begun above: brackets, "end".
func closes(line string) bool {
	rest := strings.TrimLeft(line, "})];,")
	if rest == "" {
		return line != ""
	}
	for _, word := range []string{"end", "fi", "done", "esac", "endif", "#endif", "*/"} {
		if tail, ok := strings.CutPrefix(line, word); ok && (tail == "" || strings.IndexByte(" ;,.)#/", tail[0]) >= 0) {
			return true
		}
	}
	return false
}

// continues tells a line that goes on with the statement above it, in the same
// column: "} else {", "except:", a lone bracket.
func continues(line string) bool {
	if strings.IndexByte("})]{", line[0]) >= 0 || closes(line) {
		return true
	}
	for _, word := range continuing {
		if tail, ok := strings.CutPrefix(line, word); ok && (tail == "" || !isWord(tail[0])) {
			return true
		}
	}
	return false
}

var continuing = []string{"else", "elif", "elsif", "elseif", "except", "catch", "finally", "rescue", "ensure", "then", "do", "#else", "#elif"}

func isWord(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= 0x80
}

// noted tells a line that is a comment or a mark on what follows it, such as
// an annotation or a decorator, by how it begins.
func noted(line string) bool {
	for _, opener := range []string{"//", "/*", "*", "--", "<!--", ";;", "%%", "@", "#[", "# ", "##", "#:", "'''", "(*", "{-"} {
		if strings.HasPrefix(line, opener) {
			return true
		}
	}
	return line == "#"
}

// telling is the first line of a..b that holds a letter or a digit; a where
// none does.
func (t *text) telling(a, b int) int {
	for n := a; n <= b; n++ {
		for _, r := range t.line(n) {
			if isWord(byte(min(r, 0x80))) && r != '_' {
				return n
			}
		}
	}
	return a
}
