package lang

import (
	"bytes"
	"regexp"
	"sort"
	"strings"
)

// ofRights tells a header that speaks of rights from one that documents.
func ofRights(raw []byte) bool {
	low := bytes.ToLower(raw)
	for _, word := range []string{"copyright", "license", "licence", "spdx-", "all rights reserved"} {
		if bytes.Contains(low, []byte(word)) {
			return true
		}
	}
	return false
}

// note is what is asked of a comment again and again.
type note struct {
	line, last int  // first and last line, from 1
	alone      bool // only space stands before it on its line
	block      bool // it has an end mark, or several lines
	mark       [3]byte
}

// addComment notes a comment; they come in text order, but for texts of
// several trees.
func (c *collector) addComment(text []byte, s Span) {
	body := bytes.TrimRight(text[s.Start:s.End], " \t\r\n")
	n := note{line: c.lineOf(s.Start)}
	n.last = n.line + bytes.Count(body, newline)
	n.alone = c.alone(text, s.Start, n.line)
	n.block = n.last > n.line || bytes.HasPrefix(body, []byte("/*"))
	for i := 0; i < len(n.mark) && i < len(body) && bytes.IndexByte([]byte("/!#-;%*'\""), body[i]) >= 0; i++ {
		n.mark[i] = body[i]
	}
	c.Comments, c.notes = append(c.Comments, s), append(c.notes, n)
}

// orderComments sorts comments and drops those that lie inside an earlier one.
func (c *collector) orderComments(text []byte) {
	sorted := true
	for i := 1; i < len(c.Comments) && sorted; i++ {
		sorted = c.Comments[i].Start >= c.Comments[i-1].End
	}
	if sorted {
		return
	}
	spans := c.Comments
	sort.SliceStable(spans, func(i, j int) bool { return spans[i].Start < spans[j].Start })
	c.Comments, c.notes = nil, nil
	for _, s := range spans {
		if k := len(c.Comments); k == 0 || s.Start >= c.Comments[k-1].End {
			c.addComment(text, s)
		}
	}
}

// group is the comment that ends with comments[k]: line comments, each alone
// on its line, that follow each other without a gap are one. It gives the
// index of the first.
func (c *collector) group(k int) int {
	for ; k > 0; k-- {
		above, below := &c.notes[k-1], &c.notes[k]
		if !above.alone || !below.alone || above.block || below.block || above.mark != below.mark || above.last+1 != below.line {
			break
		}
	}
	return k
}

// alone tells whether only space stands before a byte on its line.
func (c *collector) alone(text []byte, at, line int) bool {
	for i := c.lines[line-1]; i < at; i++ {
		if b := text[i]; b != ' ' && b != '\t' && b != '\r' && b != '\f' {
			return false
		}
	}
	return true
}

// docBefore is the first sentence of the comment right above a declaration, or
// before it on its line.
func (w *Walk) docBefore(n uint32) string {
	first := n
	if w.leadEnd == n && n > 0 {
		first = w.lead
	}
	c := w.out
	k := len(c.Comments) - 1
	if k < 0 {
		return ""
	}
	above, line, start := &c.notes[k], w.Line(first), int(w.Nodes[first].Start)
	switch {
	case !above.alone || c.Comments[k].End > start:
		return ""
	case above.last == line && above.block && len(bytes.TrimSpace(w.Text[c.Comments[k].End:start])) == 0:
	case above.last != line-1 || !c.alone(w.Text, start, int(w.Nodes[first].Row)+1):
		return ""
	}
	return c.docOf(w.Text, k, w.rules.MarkedDocs)
}

// docOf is the first sentence of the comment that ends with comments[k]; "" for
// a licence header, and where a mark of documentation is asked for and missing.
func (c *collector) docOf(text []byte, k int, mark bool) string {
	from := c.group(k)
	raw := text[c.Comments[from].Start:c.Comments[k].End]
	if mark && !marked(raw) || c.notes[from].line <= 2 && ofRights(raw) {
		return ""
	}
	return FirstSentence(CommentText(raw[:min(len(raw), maxLead)]))
}

// maxLead is how much of a comment is looked at for its first sentence.
const maxLead = 800

// marked tells whether a comment opens with a mark of documentation.
func marked(raw []byte) bool {
	for _, m := range []string{"/**", "///", "//!", "/*!", "##"} {
		if bytes.HasPrefix(raw, []byte(m)) {
			return true
		}
	}
	return false
}

// trailingDocs gives fields, constants and members that have none the comment
// behind them on their line.
func (c *collector) trailingDocs(text []byte) {
	if len(c.Comments) == 0 {
		return
	}
	byLine := map[int]Span{}
	for k, s := range c.Comments {
		if !c.notes[k].alone {
			byLine[c.notes[k].line] = s
		}
	}
	if len(byLine) == 0 {
		return
	}
	for i := range c.Outline {
		s := &c.Outline[i]
		if s.Doc != "" || !s.Kind.value() {
			continue
		}
		if span, ok := byLine[s.End]; ok && span.Start > c.lines[s.NameLine-1] {
			s.Doc = FirstSentence(CommentText(text[span.Start:span.End]))
		}
	}
}

// maxComment is how much of a comment's text is kept, in bytes.
const maxComment = 2000

// CommentText takes the markers off a comment and joins its lines by line
// feeds, blank ones at either end left out. A text of more than 2,000 bytes is
// cut, and shows it.
func CommentText(raw []byte) string {
	rest, last := ValidText(raw), false
	var out strings.Builder
	for i := 0; !last; i++ {
		l, below, more := strings.Cut(rest, "\n")
		l, rest, last = strings.TrimSpace(l), below, !more
		if last {
			l = withoutClosing(l)
		}
		if n := openingMark(l); n > 0 {
			l = l[n:]
		} else if i > 0 {
			l = strings.TrimLeft(l, "*")
		}
		l = strings.TrimSpace(l)
		if last && i == 0 {
			return clip(l, maxComment)
		}
		if i == 0 {
			out.Grow(len(l) + len(rest) + 1)
		} else {
			out.WriteByte('\n')
		}
		out.WriteString(l)
	}
	return clip(strings.TrimSpace(out.String()), maxComment)
}

// openingMark is the length of the marks that a comment's line begins with.
func openingMark(l string) int {
	run := func(from int, c byte) int {
		for from < len(l) && l[from] == c {
			from++
		}
		return from
	}
	for _, mark := range []struct {
		head string
		more byte // may follow, any number
		last byte // may follow, once
	}{
		{"/*", '*', '!'}, {"//", '/', '!'}, {"<!--", '-', 0}, {"--[", '=', '['}, {"--", '-', 0}, {"#", '#', 0}, {";", ';', 0}, {"%", '%', 0}, {"(*", '*', 0},
		{"{-", 0, '|'}, {"'", '\'', 0}, {"\"", '"', 0}, {"=begin", 0, 0},
	} {
		if !strings.HasPrefix(l, mark.head) {
			continue
		}
		n := len(mark.head)
		if mark.more != 0 {
			n = run(n, mark.more)
		}
		if mark.last != 0 && n < len(l) && l[n] == mark.last {
			n++
		}
		return n
	}
	return 0
}

// withoutClosing takes the end mark off a comment's last line.
func withoutClosing(l string) string {
	for _, mark := range []struct{ tail, more string }{
		{"*/", "*"}, {"-->", "-"}, {"*)", ""}, {"-}", ""}, {"]]", "="}, {"=end", ""}, {"\"\"\"", ""}, {"'''", ""},
	} {
		if strings.HasSuffix(l, mark.tail) {
			return strings.TrimRight(strings.TrimRight(l[:len(l)-len(mark.tail)], mark.more), " \t")
		}
	}
	return l
}

var (
	// directives are lines in comments that speak to tools.
	directives = []string{"go:", "nolint", "eslint", "prettier-", "@ts-", "type:", "noqa", "pylint:", "lint:", "clang-format", "NOLINT", "rubocop:", "shellcheck ", "-*-", "!/"}
	breaks     = regexp.MustCompile(`(?i)</summary>|</?p>|<br ?/?>|</?ul>|</?pre>`)
	markup     = regexp.MustCompile(`</?[a-zA-Z][^<>]*>`)
	link       = regexp.MustCompile(`\{@\w+\s*([^{}]*)\}`)
	shortened  = regexp.MustCompile(`(?i)(?:^|[\s(])(?:e\.g|i\.e|etc|vs|cf|approx|incl|resp|no|fig|al|[a-z])\.$`)
)

// maxSentence is how long a first sentence may be, in bytes.
const maxSentence = 240

// FirstSentence is the first sentence of a comment's text on one line: up to
// its full stop, the end of the paragraph or the first documentation tag.
func FirstSentence(text string) string {
	if strings.Contains(text, "{@") {
		text = link.ReplaceAllString(text, "$1")
	}
	if strings.Contains(text, "<") {
		text = breaks.ReplaceAllString(text, "\n\n")
		text = markup.ReplaceAllString(text, "")
	}
	words := make([]string, 0, 64) // which does not leave this function
	for line := range strings.SplitSeq(text, "\n") {
		line = strings.TrimSpace(line)
		switch {
		case isDirective(line), len(line) > 2 && strings.Trim(line, "-=*#~_/+ ") == "":
			line = ""
			if len(words) == 0 {
				continue
			}
		case strings.HasPrefix(line, "@brief "), strings.HasPrefix(line, `\brief `):
			line = line[len("@brief "):]
		case strings.HasPrefix(line, "@"), strings.HasPrefix(line, `\param`):
			line = ""
			if len(words) == 0 {
				return ""
			}
		}
		if line == "" {
			if len(words) > 0 {
				break
			}
			continue
		}
		for word := range strings.FieldsSeq(line) {
			words = append(words, word)
		}
		if len(words) > 0 && endsSentence(words[len(words)-1]) && len(words) > 2 {
			break
		}
	}
	length := 0
	for i, word := range words {
		length += len(word) + 1
		last := i+1 == len(words)
		if last || length > maxSentence || endsSentence(word) && !shortened.MatchString(word) && !startsLower(words[i+1]) {
			return clip(strings.Join(words[:i+1], " "), maxSentence)
		}
	}
	return ""
}

func isDirective(line string) bool {
	for _, d := range directives {
		if strings.HasPrefix(line, d) {
			return true
		}
	}
	return false
}

func endsSentence(word string) bool {
	word = strings.TrimRight(word, `)"'”`)
	return strings.HasSuffix(word, ".") || strings.HasSuffix(word, "!") || strings.HasSuffix(word, "?") || strings.HasSuffix(word, "。")
}

func startsLower(word string) bool { return word[0] >= 'a' && word[0] <= 'z' }

// fileDoc finds what the file says of itself: what SetDoc gave, or the first
// comment above everything but licences, imports and a package's name, unless
// it documents the declaration below it.
func (c *collector) fileDoc(text []byte) {
	if c.Doc.Line > 0 || len(c.Comments) == 0 {
		return
	}
	first := len(text)
	if c.Depth == Lexed && c.notes[0].line > 3 {
		return // a remark inside, not on the whole
	}
	declared := map[int]bool{}
	for i := range c.Outline {
		if s := &c.Outline[i]; s.Parent < 0 && s.Kind != Namespace && s.Kind != Package && s.Kind != Module {
			first = min(first, c.lines[s.Start-1])
			declared[s.Start] = true
		}
	}
	for from := 0; from < len(c.Comments) && c.Comments[from].Start < first; {
		to := from
		for to+1 < len(c.Comments) && c.group(to+1) <= from {
			to++
		}
		raw := text[c.Comments[from].Start:c.Comments[to].End]
		at := &c.notes[from]
		if at.alone && !ofRights(raw[:min(len(raw), 4*maxLead)]) && !declared[c.notes[to].last+1] && !bytes.HasPrefix(raw, []byte("#!")) {
			if s := FirstSentence(CommentText(raw[:min(len(raw), maxLead)])); len(s) > 8 && strings.Contains(s, " ") {
				c.Doc = Doc{Text: s, Line: at.line}
				return
			}
		}
		from = to + 1
		if at.line > 60 {
			return
		}
	}
}

// withoutTitle leaves out a title that is underlined, or stands between lines of
// signs, if something follows it.
func withoutTitle(text string, line int) (string, int) {
	lines := strings.Split(text, "\n")
	rule := func(i int) bool {
		return i < len(lines) && len(strings.TrimSpace(lines[i])) > 2 && strings.Trim(strings.TrimSpace(lines[i]), "=-~*#^") == ""
	}
	first := 0
	if rule(0) {
		first = 1
	}
	if !rule(first + 1) {
		return text, line
	}
	rest := strings.Join(lines[first+2:], "\n")
	if strings.TrimSpace(rest) == "" {
		return text, line
	}
	for i, l := range lines[first+2:] {
		if strings.TrimSpace(l) != "" {
			return rest, line + first + 2 + i
		}
	}
	return text, line
}

// SetDoc tells what the file says of itself.
func (w *Walk) SetDoc(text string, line int) {
	text, line = withoutTitle(text, line)
	if s := FirstSentence(text); s != "" && w.out.Doc.Line == 0 {
		w.out.Doc = Doc{Text: s, Line: line}
	}
}
