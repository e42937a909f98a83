package facts

import (
	"bytes"
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

// Words are the agreed words of tagged comments.
var Words = []string{"TODO", "FIXME", "BUG", "HACK", "XXX", "NOTE", "OPTIMIZE", "DEPRECATED"}

// Meanings tell in plain words what each word asks of a reader.
var Meanings = map[string]string{
	"TODO":       "something is still to be done here",
	"FIXME":      "known to be wrong",
	"BUG":        "a known fault",
	"HACK":       "works, but not the way it should",
	"XXX":        "needs attention before it is relied on",
	"NOTE":       "something a reader should know",
	"OPTIMIZE":   "works, but too slowly or too large",
	"DEPRECATED": "on its way out; do not build on it",
}

// TaggedComment is a comment that carries an agreed word.
type TaggedComment struct {
	Word    string `json:"word"`
	Text    string `json:"text"`     // the whole comment's, markers stripped
	Line    int    `json:"line"`     // where the word stands
	EndLine int    `json:"end_line"` // where the comment ends
	Who     string `json:"who,omitempty"`
	Issue   string `json:"issue,omitempty"`
}

var (
	// A word counts in capitals, as a word of its own. The longest of
	// overlapping words wins because the alternatives cannot overlap.
	word  = regexp.MustCompile(`\b(TODO|FIXME|BUG|HACK|XXX|NOTE|OPTIMIZE|DEPRECATED)\b(?:\(([^()\n]{1,60})\))?`)
	whoAt = regexp.MustCompile(`(?:^|\s)@([A-Za-z][\w.-]{0,38})`)
	issue = regexp.MustCompile(`(?:^|[\s(\[:,])(#\d{1,9}|[A-Z][A-Z0-9]{1,9}-\d{1,7}|(?:https?://)\S+/\d+)\b`)
	named = regexp.MustCompile(`^@?([A-Za-z][\w.@-]*(?: [A-Za-z][\w.-]*)?)$`)
)

func mayBeTagged(content []byte) bool {
	for _, w := range Words {
		if bytes.Contains(content, []byte(w)) {
			return true
		}
	}
	return false
}

// TaggedIn finds the tagged comments among the comments of a text. Line comments
// on lines of their own that follow each other are one comment.
func TaggedIn(content []byte, comments []lang.Span) []TaggedComment {
	if len(comments) == 0 || !mayBeTagged(content) {
		return nil
	}
	lineOf := lineCounter(content)
	var out []TaggedComment
	for i := 0; i < len(comments); {
		j := i + 1
		for j < len(comments) && continues(content, comments[j-1], comments[j]) {
			j++
		}
		out = append(out, tagsIn(content, comments[i:j], lineOf)...)
		i = j
	}
	return out
}

// continues tells whether b is a line comment right below line comment a, both
// alone on their lines and opened in the same column.
func continues(content []byte, a, b lang.Span) bool {
	return !bytes.HasPrefix(content[a.Start:], []byte("#!")) && column(content, a) >= 0 && column(content, a) == column(content, b) &&
		bytes.IndexByte(bytes.TrimRight(content[a.Start:a.End], "\r\n"), '\n') < 0 &&
		bytes.Count(content[a.Start:b.Start], []byte{'\n'}) == 1 &&
		!bytes.HasPrefix(content[a.Start:], []byte("/*"))
}

// column is where a comment stands if nothing but space is before it on its
// line, else -1.
func column(content []byte, s lang.Span) int {
	start := bytes.LastIndexByte(content[:s.Start], '\n') + 1
	if len(bytes.TrimSpace(content[start:s.Start])) > 0 {
		return -1
	}
	return s.Start - start
}

func tagsIn(content []byte, group []lang.Span, lineOf func(int) int) []TaggedComment {
	var out []TaggedComment
	var text string
	last := group[len(group)-1]
	end := lineOf(max(last.Start, last.Start+len(bytes.TrimRight(content[last.Start:last.End], "\r\n"))-1))
	for _, s := range group {
		if !mayBeTagged(content[s.Start:s.End]) {
			continue
		}
		for _, m := range word.FindAllSubmatchIndex(content[s.Start:s.End], -1) {
			at := s.Start + m[0]
			if at > s.Start && bytes.IndexByte([]byte("/.-"), content[at-1]) >= 0 && !bytes.HasSuffix(content[s.Start:at], []byte("//")) {
				// part of a path, an option or a name; "//TODO" is none of these
				if c := content[at-1]; c != '-' || at < 2 || content[at-2] != '-' {
					continue
				}
			}
			t := TaggedComment{Word: string(content[s.Start+m[2] : s.Start+m[3]]), Line: lineOf(at), EndLine: end}
			if k := len(out); k > 0 && out[k-1].Line == t.Line && out[k-1].Word == t.Word {
				continue
			}
			if text == "" {
				text = lang.CommentText(content[group[0].Start:last.End])
			}
			t.Text = text
			rest, _, _ := strings.Cut(lang.ValidText(content[s.Start+m[1]:s.End]), "\n")
			if m[4] >= 0 {
				inside := string(content[s.Start+m[4] : s.Start+m[5]])
				if who := named.FindStringSubmatch(inside); who != nil && issue.FindString(inside) == "" {
					t.Who = who[1]
				}
				rest = inside + " " + rest
			}
			if who := whoAt.FindStringSubmatch(rest); who != nil && t.Who == "" {
				t.Who = who[1]
			}
			if ref := issue.FindStringSubmatch(rest); ref != nil {
				t.Issue = ref[1]
			}
			out = append(out, t)
		}
	}
	return out
}

// lineCounter gives the line (from 1) of byte offsets that never step back.
func lineCounter(content []byte) func(int) int {
	line, at := 1, 0
	return func(offset int) int {
		if offset < at {
			return line - bytes.Count(content[offset:at], []byte{'\n'})
		}
		line += bytes.Count(content[at:offset], []byte{'\n'})
		at = offset
		return line
	}
}
