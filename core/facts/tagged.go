package facts

import (
	"bytes"
	"slices"
	"sort"

	"juxtagram/core/lang"
	"juxtagram/core/tagged"
)

// TaggedComment is a comment that carries an agreed word.
type TaggedComment struct {
	Word    string `json:"word"`
	Text    string `json:"text"`     // the whole comment's, markers stripped
	Said    string `json:"said"`     // its line, from the word on
	Line    int    `json:"line"`     // where the word stands
	EndLine int    `json:"end_line"` // where the comment ends
	Who     string `json:"who,omitempty"`
	Issue   string `json:"issue,omitempty"`
	Symbol  string `json:"symbol,omitempty"` // the nearest: that it stands above or in, qualified
}

// near names the symbol that each tagged comment stands right above, else the
// innermost that it stands in. The outline is in the order of lines.
func near(found []TaggedComment, outline []lang.Symbol) {
	for i := range found {
		t := &found[i]
		below := sort.Search(len(outline), func(k int) bool { return outline[k].Start > t.EndLine })
		if below < len(outline) && outline[below].Start == t.EndLine+1 {
			t.Symbol = lang.ValidText([]byte(outline[below].Qualified))
			continue
		}
		for k := below - 1; k >= 0; k-- {
			if outline[k].End >= t.Line {
				t.Symbol = lang.ValidText([]byte(outline[k].Qualified))
				break
			}
			if outline[k].Parent < 0 {
				break // nothing above it reaches further down
			}
		}
	}
}

// Tagged finds the tagged comments of a text by its comments, and by its
// docstrings, in which a word counts only as a marker of documentation.
func Tagged(content []byte, comments, docstrings []lang.Span, outline []lang.Symbol, words *tagged.Words) []TaggedComment {
	out := TaggedIn(content, comments, words)
	found := len(out)
	lineOf := lineCounter(content)
	for _, s := range docstrings {
		text := content[s.Start:s.End]
		for _, h := range words.In(text) {
			if h.Marker {
				out = append(out, TaggedComment{Word: h.Word, Text: lang.CommentText(text), Said: h.Said, Line: lineOf(s.Start + h.Start), EndLine: lineOf(s.End - 1), Who: h.Who, Issue: h.Issue})
			}
		}
	}
	if len(out) > found {
		sort.SliceStable(out, func(i, j int) bool { return out[i].Line < out[j].Line })
	}
	near(out, outline)
	return out
}

// TaggedIn finds the tagged comments among the comments of a text. Line comments
// on lines of their own that follow each other are one comment.
func TaggedIn(content []byte, comments []lang.Span, words *tagged.Words) []TaggedComment {
	if !slices.ContainsFunc(comments, func(s lang.Span) bool { return words.May(content[s.Start:s.End]) }) {
		return nil
	}
	lineOf := lineCounter(content)
	var out []TaggedComment
	for i := 0; i < len(comments); {
		j := i + 1
		for j < len(comments) && continues(content, comments[j-1], comments[j]) {
			j++
		}
		out = append(out, tagsIn(content, comments[i:j], words, lineOf)...)
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

func tagsIn(content []byte, group []lang.Span, words *tagged.Words, lineOf func(int) int) []TaggedComment {
	var out []TaggedComment
	var text string
	last := group[len(group)-1]
	end := lineOf(max(last.Start, last.Start+len(bytes.TrimRight(content[last.Start:last.End], "\r\n"))-1))
	for _, s := range group {
		for _, h := range words.In(content[s.Start:s.End]) {
			if text == "" {
				text = lang.CommentText(content[group[0].Start:last.End])
			}
			out = append(out, TaggedComment{Word: h.Word, Text: text, Said: h.Said, Line: lineOf(s.Start + h.Start), EndLine: end, Who: h.Who, Issue: h.Issue})
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
