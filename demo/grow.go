package demo

import (
	"math"
	"path"
	"strings"
)

// grown is a text after the i-th of n commits that touch it: so many of its
// paragraphs, and one line that still reads a little differently. The last
// commit has it whole.
func grown(name string, text []byte, i, n int) []byte {
	if i >= n || n == 0 {
		return text
	}
	parts := strings.SplitAfter(string(text), "\n\n")
	keep := max(1, int(math.Ceil(float64(len(parts))*float64(i)/float64(n))))
	if path.Ext(name) == ".json" || path.Ext(name) == ".h" {
		keep = len(parts)
	}
	lines := strings.SplitAfter(strings.TrimRight(strings.Join(parts[:keep], ""), "\n")+"\n", "\n")
	at := (i*7 + len(name)*3) % len(lines)
	for k := range lines {
		j := (at + k) % len(lines)
		if changed, ok := earlier(lines[j]); ok {
			lines[j] = changed
			break
		}
	}
	return []byte(strings.Join(lines, ""))
}

// earlier is a line as it may have read before: another last digit, or without
// the comment at its end.
func earlier(l string) (string, bool) {
	for _, mark := range []string{" /* ", "; // ", ", // "} {
		if at := strings.Index(l, mark); at > 0 && strings.TrimSpace(l[:at]) != "" {
			return strings.TrimRight(l[:at+len(mark)-len(strings.TrimLeft(mark, ";,"))], " ") + "\n", true
		}
	}
	for k := len(l) - 1; k > 0; k-- {
		if c := l[k]; c >= '0' && c <= '9' && l[k-1] == ' ' {
			return l[:k] + string('0'+(c-'0'+3)%10) + l[k+1:], true
		}
	}
	return l, false
}

// tabs is a text with a tab for every four spaces it is indented by.
func tabs(text []byte) []byte {
	lines := strings.SplitAfter(string(text), "\n")
	for i, l := range lines {
		n := 0
		for strings.HasPrefix(l[4*n:], "    ") {
			n++
		}
		lines[i] = strings.Repeat("\t", n) + l[4*n:]
	}
	return []byte(strings.Join(lines, ""))
}
