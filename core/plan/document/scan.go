package document

import (
	"regexp"
	"strings"
)

// piece is a part of Markdown: a comment of ours, a heading, text that stands between
// two comments of ours, or a block of lines.
type piece struct {
	line  int    // its first, from 1
	kind  string // "comment", "heading", "text" or "block"
	level int    // of a heading
	name  string // of a comment: its first word
	text  string // of a comment: the rest
	cut   bool   // of a comment or text: its end is missing
}

var (
	ownComment = regexp.MustCompile(`^<!-- ([a-z]+(?:-[a-z]+/\d+)?) (\{.*)$`)
	textMark   = regexp.MustCompile(`^<!-- (text(?: \d+)?) -->$`)
	headline   = regexp.MustCompile(`^(#{1,6})(?:\s+(.*?))?(?:\s+#+)?\s*$`)
	fence      = regexp.MustCompile("^ {0,3}(`{3,}|~{3,})")
)

// scan parts Markdown into pieces.
func scan(content string) []piece {
	lines := strings.Split(strings.NewReplacer("\r\n", "\n", "\r", "\n").Replace(content), "\n")
	var out []piece
	for i := 0; i < len(lines); {
		l := strings.TrimRight(lines[i], " \t")
		p := piece{line: i + 1}
		if m := ownComment.FindStringSubmatch(l); m != nil {
			p.kind, p.name = "comment", m[1]
			body, closed := strings.CutSuffix(m[2], " -->")
			p.text, p.cut = body, !closed
			i++
		} else if m := textMark.FindStringSubmatch(l); m != nil {
			p.kind = "text"
			end := between(lines, i+1, "<!-- /"+m[1]+" -->")
			p.text = strings.Trim(strings.Join(lines[i+1:end], "\n"), "\n")
			p.cut = end == len(lines) || !strings.HasPrefix(lines[end], "<!-- /")
			if i = end; !p.cut {
				i++
			}
		} else if m := headline.FindStringSubmatch(l); m != nil {
			p.kind, p.level, p.text = "heading", len(m[1]), m[2]
			i++
		} else if l == "" || strings.HasPrefix(l, "<!--") && strings.HasSuffix(l, "-->") {
			i++
			continue
		} else {
			end := blockEnd(lines, i)
			p.kind, p.text = "block", strings.Join(lines[i:end], "\n")
			i = end
		}
		out = append(out, p)
	}
	return out
}

// between is the line on which a mark stands; where it is missing, that of the next
// comment of ours, or the end.
func between(lines []string, from int, mark string) int {
	next := len(lines)
	for i := from; i < len(lines); i++ {
		l := strings.TrimRight(lines[i], " \t")
		if l == mark {
			return i
		}
		if next == len(lines) && ownComment.MatchString(l) {
			next = i
		}
	}
	return next
}

// blockEnd is the line behind the block that begins at a line: an empty one, or what
// begins something else; of a fence, behind its end.
func blockEnd(lines []string, from int) int {
	if m := fence.FindStringSubmatch(lines[from]); m != nil {
		for i := from + 1; i < len(lines); i++ {
			if l := strings.TrimSpace(lines[i]); strings.HasPrefix(l, m[1]) && strings.Trim(l, m[1][:1]) == "" {
				return i + 1
			}
		}
		return len(lines)
	}
	for i := from + 1; i < len(lines); i++ {
		l := strings.TrimRight(lines[i], " \t")
		if l == "" || headline.MatchString(l) || fence.MatchString(l) || strings.HasPrefix(l, "<!-- ") {
			return i
		}
	}
	return len(lines)
}

// plain is what Markdown made of words says: without what keeps them words.
func plain(s string) string {
	parts := strings.Split(s, "`")
	for i := range parts {
		if i%2 == 0 || i == len(parts)-1 {
			parts[i] = unescaped(parts[i], i == len(parts)-1)
		}
	}
	return strings.Join(parts, "`")
}

func unescaped(s string, last bool) string {
	var out strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] == '\\' {
			if i+1 < len(s) && strings.IndexByte("!\"#$%&'()*+,-./:;<=>?@[\\]^_`{|}~", s[i+1]) >= 0 {
				i++
			} else if i+1 == len(s) && !last {
				continue // it kept the backtick behind it one
			}
		}
		out.WriteByte(s[i])
	}
	return out.String()
}

// plainLines is plain for each line.
func plainLines(s string) string {
	lines := strings.Split(s, "\n")
	for i := range lines {
		lines[i] = plain(strings.TrimSpace(lines[i]))
	}
	return strings.Join(lines, "\n")
}
