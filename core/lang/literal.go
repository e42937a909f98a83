package lang

import (
	"bytes"
	"strconv"
	"strings"
	"unicode/utf8"

	"juxtagram/core/syntax"
)

// chain is a node that puts strings together, or stands around one that does.
// All of an expression share one literal, which is complete when its outermost
// node ends.
type chain struct {
	end, node uint32
	root      bool
	literal   *pieces
	out       *collector
}

// pieces are the parts of one string so far.
type pieces struct {
	text          []byte
	any           bool
	line, endLine int
	next          uint32 // the node after the last piece
}

// maxLiteral is how much of a string is kept, in bytes.
const maxLiteral = 10_000

// joinHere opens a chain, or goes on with the one around.
func (w *Walk) joinHere(n uint32) {
	if op := w.table.joiner[w.Nodes[n].Symbol]; op != "" && !w.joinedBy(n, op) {
		return
	}
	next := chain{end: w.Nodes[n].Next, node: n, root: true, literal: &pieces{}, out: w.out}
	if k := len(w.chains); k > 0 && w.chains[k-1].node == w.Nodes[n].Parent {
		next.root, next.literal = false, w.chains[k-1].literal
	}
	w.chains = append(w.chains, next)
}

// joinedBy tells whether an operator stands between the operands of a node: a token,
// or whatever is in the place of one.
func (w *Walk) joinedBy(n uint32, op string) bool {
	for c := range w.Children(n) {
		if w.Type(c) == op || w.joins(c) && string(w.Source(c)) == op {
			return true
		}
	}
	return false
}

// joins tells a node that is no operand of the expression around it.
func (w *Walk) joins(n uint32) bool {
	f := w.Nodes[n].Field
	return f != 0 && (f == w.table.operator || f == w.table.interpolator)
}

func (w *Walk) literal(n uint32) {
	p := w.Nodes[n].Parent
	if w.Is(p, "expression_statement") {
		w.out.Docstrings = append(w.out.Docstrings, Span{int(w.Nodes[n].Start), int(w.Nodes[n].End)})
		return // a docstring or a directive: no value
	}
	text := w.stringValue(n)
	if k := len(w.chains); k > 0 && w.chains[k-1].node == p {
		l := w.chains[k-1].literal
		if l.any && w.unknownBetween(l.next, n) {
			l.text = utf8.AppendRune(l.text, Gap)
		}
		if !l.any {
			l.any, l.line = true, w.Line(n)
		}
		if len(l.text) <= maxLiteral {
			l.text = append(l.text, text...)
		}
		l.endLine, l.next = w.lastLine(n), w.Nodes[n].Next
		return
	}
	w.out.literal(text, w.Line(n), w.lastLine(n))
}

// unknownBetween tells whether an operand that is no string stands between two
// pieces.
func (w *Walk) unknownBetween(from, to uint32) bool {
	for i := from; i < to; i++ {
		n := &w.Nodes[i]
		if int(n.Symbol) >= len(w.table.actions) || w.table.actions[n.Symbol].comment || w.joins(i) {
			continue
		}
		if n.Next == i+1 && w.Grammar.Named(n.Symbol) && n.End > n.Start {
			return true
		}
	}
	return false
}

func (c *collector) literal(text []byte, line, end int) {
	if len(bytes.Trim(text, string(Gap))) == 0 {
		return
	}
	c.Literals = append(c.Literals, Literal{Text: clip(strings.ToValidUTF8(string(text), "\uFFFD"), maxLiteral), Line: line, EndLine: end})
}

func (c *chain) close() {
	if c.root && c.literal.any {
		c.out.literal(c.literal.text, c.literal.line, c.literal.endLine)
	}
}

// stringValue is what a literal's node says, without quotes, escapes resolved.
func (w *Walk) stringValue(n uint32) []byte {
	node := &w.Nodes[n]
	start, end := int(node.Start), int(node.End)
	if end-start > 4*maxLiteral {
		end = start + 4*maxLiteral
	}
	how := Escaped
	if strings.Contains(w.Type(n), "raw") || w.Is(n, w.rules.Verbatim...) {
		how = AsWritten
	}
	open, prefixed := start, false
	for open < end && bytes.IndexByte([]byte(`"'`+"`["), w.Text[open]) < 0 {
		prefixed = prefixed || w.Text[open] == 'r' || w.Text[open] == 'R' || w.Text[open] == '@'
		open++
	}
	switch {
	case open-start > 4 || open == end:
		open = start // a here-document, a word list: taken whole
	case prefixed:
		how = AsWritten
	}
	quote := quoteAt(w.Text[open:end])
	switch {
	case quote > 0 && w.Text[open] == '[':
		how = AsWritten
	case quote > 0 && w.Text[open] == '\'' && how == Escaped:
		how = w.rules.Apostrophe
	}
	from, to := open+quote, end-quote-bytes.Count(w.Text[start:open], []byte{'#'})
	if how == AsWritten && w.Text[open] == '"' && end-start > 4 {
		// R"mark( … )mark": the mark is no part of it
		if paren := bytes.IndexByte(w.Text[from:to], '('); paren >= 0 && paren <= 16 && bytes.HasSuffix(w.Text[from:to], append([]byte{')'}, w.Text[from:from+paren]...)) {
			from, to = from+paren+1, to-paren-1
		}
	}
	from, to = w.insideMarks(n, from, to)
	if to < from {
		to = from
	}
	if w.rules.FoldedLines && quote == 3 {
		return foldedLines(w.Text[from:to], how)
	}
	var out []byte
	for c := range w.Children(n) {
		child := &w.Nodes[c]
		if !w.table.gaps[child.Symbol] || int(child.Start) < from || int(child.End) > to {
			continue
		}
		before, after := w.Text[from:child.Start], w.Text[child.End:to]
		from = int(child.End)
		if bytes.HasSuffix(before, []byte{'{'}) && bytes.HasPrefix(after, []byte{'}'}) {
			before, from = before[:len(before)-1], from+1
		}
		out = appendPiece(out, bytes.TrimSuffix(before, []byte{'$'}), how)
		out = utf8.AppendRune(out, Gap)
	}
	return appendPiece(out, w.Text[from:to], how)
}

// insideMarks leaves out of a here-document's text the lines that hold its marks.
func (w *Walk) insideMarks(n uint32, from, to int) (int, int) {
	to = max(from, to)
	if w.Is(n, "heredoc_body", "nowdoc_body") { // from the end of the line that announces it
		if mark := w.ChildOf(n, "heredoc_end"); mark != syntax.None {
			to = min(to, int(w.Nodes[mark].Start))
		}
		if from < to && w.Text[from] == '\n' {
			from++
		}
	}
	if bytes.HasPrefix(w.Text[w.Nodes[n].Start:w.Nodes[n].End], []byte("<<")) { // all of it
		from += max(bytes.IndexByte(w.Text[from:to], '\n'), 0) + 1
		to = from + max(bytes.LastIndexByte(w.Text[min(from, to):to], '\n'), 0)
	}
	return from, to
}

// quoteAt is the length of the opening quote of a literal.
func quoteAt(text []byte) int {
	switch {
	case len(text) < 2:
		return 0
	case bytes.HasPrefix(text, []byte(`"""`)) && len(text) >= 6, bytes.HasPrefix(text, []byte(`'''`)) && len(text) >= 6:
		return 3
	case text[0] == '"', text[0] == '\'', text[0] == '`':
		return 1
	case text[0] == '[':
		n := 1
		for n < len(text) && text[n] == '=' {
			n++
		}
		if n < len(text) && text[n] == '[' {
			return n + 1
		}
	}
	return 0
}

var plainEscapes = map[byte]byte{'n': '\n', 't': '\t', 'r': '\r', '0': 0, 'a': 7, 'b': 8, 'f': 12, 'v': 11, 'e': 27, '\\': '\\', '\'': '\'', '"': '"', '`': '`', '$': '$', '#': '#', '/': '/'}

// Quoting is how a string's text is to be read.
type Quoting uint8

// The ways.
const (
	Escaped   Quoting = iota
	Quoted            // a backslash takes the meaning from a quote and from another backslash, and stands for itself before all else
	AsWritten         // without escapes
)

// foldedLines is a text between three quotes whose first line feed is none of it. A
// backslash at the end of a line takes the space away up to the next text.
func foldedLines(text []byte, how Quoting) []byte {
	text = bytes.TrimPrefix(bytes.TrimPrefix(text, []byte{'\r'}), newline)
	if how != Escaped {
		return appendPiece(nil, text, how)
	}
	out := make([]byte, 0, len(text))
	for {
		i := bytes.IndexByte(text, '\\')
		if i < 0 || i+1 == len(text) {
			return appendPiece(nil, append(out, text...), how)
		}
		out = append(out, text[:i]...)
		if text[i+1] == '\n' || text[i+1] == '\r' {
			text = bytes.TrimLeft(text[i+1:], space)
			continue
		}
		out, text = append(out, text[i:i+2]...), text[i+2:]
	}
}

// appendPiece resolves the escapes that languages share; any other stays as it
// is written.
func appendPiece(out, text []byte, how Quoting) []byte {
	if how == AsWritten || bytes.IndexByte(text, '\\') < 0 {
		return append(out, text...)
	}
	for i := 0; i < len(text); i++ {
		if text[i] != '\\' || i+1 == len(text) {
			out = append(out, text[i])
			continue
		}
		i++
		c := text[i]
		if how == Quoted {
			if c != '\\' && c != '\'' {
				out = append(out, '\\')
			}
			out = append(out, c)
			continue
		}
		if to, ok := plainEscapes[c]; ok {
			out = append(out, to)
			continue
		}
		switch c {
		case '\n':
			continue // the line goes on
		case 'x', 'u', 'U':
			if digits, used := hexDigits(text[i+1:], c); used > 0 {
				if c == 'x' && digits > 0x7f {
					out = append(out, byte(digits))
				} else {
					out = utf8.AppendRune(out, digits)
				}
				i += used
				continue
			}
		}
		out = append(out, '\\', c)
	}
	return out
}

// hexDigits reads the number of an escape: "{1F30A}", or as many digits as the
// letter asks for.
func hexDigits(text []byte, letter byte) (value rune, used int) {
	if len(text) > 0 && text[0] == '{' {
		if end := bytes.IndexByte(text, '}'); end > 1 && end < 9 {
			if v, err := strconv.ParseUint(string(text[1:end]), 16, 32); err == nil {
				return rune(v), end + 1
			}
		}
		return 0, 0
	}
	n := map[byte]int{'x': 2, 'u': 4, 'U': 8}[letter]
	if len(text) < n {
		return 0, 0
	}
	v, err := strconv.ParseUint(string(text[:n]), 16, 32)
	if err != nil {
		return 0, 0
	}
	return rune(v), n
}
