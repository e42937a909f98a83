package page

import (
	"fmt"
	"html"
	"html/template"
	"strings"
	"unicode/utf8"

	"juxtagram/core/highlight"
	"juxtagram/core/note"
	"juxtagram/core/skim"
)

// How much is shown: lines of one stretch, characters of one line, bytes of code of the
// whole page, and of one difference.
const (
	maxLines = 2000
	maxLine  = 2000
	maxCode  = 24 << 20
	maxPatch = 200_000
)

// marks are the classes of the page's style, by the classes of pieces.
var marks = [...]string{highlight.Keyword: "k", highlight.String: "s", highlight.Comment: "c", highlight.Number: "n", highlight.Name: "d", highlight.Type: "t", highlight.Meta: "m"}

// row writes one line of code behind its number.
func row(b *strings.Builder, number int, class, code string) {
	fmt.Fprintf(b, `<div class="r%s"><i data-n="%d"></i><code>%s</code></div>`, class, number, code)
}

// coloured is a line with its pieces marked.
func coloured(line string, pieces []highlight.Piece) string {
	cut := 0
	if utf8.RuneCountInString(line) > maxLine {
		r := []rune(line)
		cut = len(r) - maxLine
		line = string(r[:maxLine])
	}
	var b strings.Builder
	rest := line
	for _, p := range pieces {
		n := bytesOf(rest, p.Length)
		piece := html.EscapeString(note.Visible(rest[:n]))
		if p.Class == highlight.Plain || piece == "" {
			b.WriteString(piece)
		} else {
			fmt.Fprintf(&b, `<b class="%s">%s</b>`, marks[p.Class], piece)
		}
		rest = rest[n:]
	}
	b.WriteString(html.EscapeString(note.Visible(rest)))
	if cut > 0 {
		fmt.Fprintf(&b, `<em>… %d more characters</em>`, cut)
	}
	return b.String()
}

// bytesOf is how many bytes of a text take so many UTF-16 units.
func bytesOf(s string, units int) int {
	for i, r := range s {
		if units <= 0 {
			return i
		}
		if units--; r > 0xffff {
			units--
		}
	}
	return len(s)
}

func (t *text) piecesOf(line int) []highlight.Piece {
	if line-1 < len(t.pieces) {
		return t.pieces[line-1]
	}
	return nil
}

// stretch writes the lines from..to; left is how many of them are not written.
func (t *text) stretch(from, to int) (code template.HTML, left int) {
	to = min(to, len(t.lines))
	if to-from+1 > maxLines {
		left = to - from + 1 - maxLines
		to = from + maxLines - 1
	}
	var b strings.Builder
	for n := from; n <= to; n++ {
		row(&b, n, "", coloured(t.lines[n-1], t.piecesOf(n)))
	}
	return template.HTML(b.String()), left //nolint:gosec // escaped piece by piece
}

// skimmed writes what shows of a file within so many lines.
func (t *text) skimmed(s *skim.Skim, budget int) (code template.HTML, shown int) {
	open, _ := s.Within(budget)
	var b strings.Builder
	for _, r := range s.Rows(open) {
		if r.Line > len(t.lines) {
			break
		}
		if shown++; r.Folded == 0 {
			row(&b, r.Line, "", coloured(t.lines[r.Line-1], t.piecesOf(r.Line)))
			continue
		}
		region := &s.Regions[r.Folded]
		told := `<em>… ` + html.EscapeString(note.Visible(region.Note())) + `</em>`
		if region.Tell > 0 {
			told = coloured(t.lines[r.Line-1], t.piecesOf(r.Line)) + "  " + told
		}
		row(&b, r.Line, " f", told)
	}
	return template.HTML(b.String()), shown //nolint:gosec // escaped piece by piece
}

// patch writes a difference as git writes it.
func patch(diff string) template.HTML {
	var b strings.Builder
	for l := range strings.Lines(diff) {
		l = strings.TrimRight(l, "\r\n")
		class := ""
		switch {
		case strings.HasPrefix(l, "diff --git"), strings.HasPrefix(l, "@@"):
			class = " h"
		case strings.HasPrefix(l, "+") && !strings.HasPrefix(l, "+++ "):
			class = " a"
		case strings.HasPrefix(l, "-") && !strings.HasPrefix(l, "--- "):
			class = " d"
		}
		fmt.Fprintf(&b, `<div class="r%s"><code>%s</code></div>`, class, coloured(strings.ToValidUTF8(l, "\uFFFD"), nil))
	}
	return template.HTML(b.String()) //nolint:gosec // escaped line by line
}
