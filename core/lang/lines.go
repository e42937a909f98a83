package lang

import (
	"bytes"
	"context"
	"regexp"
	"slices"
	"sort"
	"strings"
)

// LineRules make an outline of a lexed text, line by line. Comments and strings
// are blanked out before a rule sees a line, but for Raw rules.
type LineRules struct {
	Rules   []LineRule
	Imports []*regexp.Regexp // group 1 is the module as written
	// Until ends a declaration at the first such byte after it, outside of "$$"
	// quotes; "": indentation ends it.
	Until string
	// Prose: the text is no program; its words are not names.
	Prose bool
	// QuotedNames: double quotes stand around names, not strings.
	QuotedNames bool
	Separator   string // between owner and name; "" means "."
}

// LineRule finds one sort of declaration on a line. Group "name" of the pattern
// names it, group "owner" what it belongs to, where there is one.
type LineRule struct {
	Pattern    *regexp.Regexp
	Kind       Kind
	Visibility Visibility
	// Level of a heading, from 1; 0: no heading.
	Level int
	// Under: the line below matches this as well (an underlined heading).
	Under *regexp.Regexp
	// Raw: the line is seen as it is written.
	Raw bool
	// Leaf: one line, nothing inside.
	Leaf bool
	// Inside: only directly in a declaration of one of these kinds.
	Inside []Kind
}

// Line makes a rule; the pattern must hold a group "name".
func Line(kind Kind, v Visibility, pattern string) LineRule {
	return LineRule{Pattern: regexp.MustCompile(pattern), Kind: kind, Visibility: v}
}

func (l *Language) readLexed(ctx context.Context, content []byte, c *collector) (Reading, error) {
	c.Depth = Lexed
	var texts []Span
	if l.Lexer != "" && (l.mayComment(content) || l.Lines != nil && !l.Lines.Prose) {
		var err error
		var comments []Span
		if comments, texts, err = l.lex(ctx, content); err != nil {
			return Reading{}, err
		}
		for _, s := range comments {
			c.addComment(content, s)
		}
	}
	if l.Lines != nil {
		o := outliner{collector: c, rules: l.Lines, text: content, masked: mask(content, c.Comments, texts)}
		o.run()
		if !l.Lines.Prose {
			o.words()
			for _, s := range texts {
				c.literal(bareString(content[s.Start:s.End]), c.lineOf(s.Start), c.lineOf(s.End-1))
			}
		}
	}
	return c.finish(content), nil
}

// mask is a text with comments and what strings say blanked out; lines stay.
func mask(content []byte, comments, texts []Span) []byte {
	out := bytes.Clone(content)
	for _, s := range comments {
		blank(out[s.Start:min(s.End, len(out))])
	}
	for _, s := range texts {
		if s.End-s.Start > 2 {
			blank(out[s.Start+1 : min(s.End-1, len(out))])
		}
	}
	return out
}

func blank(text []byte) {
	for i, b := range text {
		if b != '\n' {
			text[i] = ' '
		}
	}
}

// bareString is a string's text without its quotes.
func bareString(text []byte) []byte {
	n := quoteAt(text)
	if n == 0 || len(text) < 2*n {
		return text
	}
	return appendPiece(nil, text[n:len(text)-n], Escaped)
}

var wordPattern = regexp.MustCompile(`[\p{L}_][\p{L}\p{N}_]*[?!']?`)

// words notes every word of a program; how it is used cannot be told.
func (o *outliner) words() {
	for row, start := range o.lines {
		end := o.lineEnd(row)
		for _, m := range wordPattern.FindAllIndex(o.masked[start:end], -1) {
			if m[1]-m[0] > 1 && m[1]-m[0] <= maxWord {
				o.use(o.collector.text[start+m[0]:start+m[1]], row+1, m[0], Read)
			}
		}
	}
}

// outliner applies line rules to a text.
type outliner struct {
	*collector
	rules        *LineRules
	text, masked []byte
	open         []int // symbols that may still be around, outermost first
	levels       []int // their heading levels
}

// lineEnd is the offset of the end of a line, its line feed not included; rows
// count from 0.
func (o *outliner) lineEnd(row int) int {
	end := len(o.text)
	if row+1 < len(o.lines) {
		end = o.lines[row+1] - 1
	}
	if end > o.lines[row] && o.text[end-1] == '\r' {
		end--
	}
	return end
}

func (o *outliner) line(text []byte, row int) []byte { return text[o.lines[row]:o.lineEnd(row)] }

func (o *outliner) run() {
	for row := range o.lines {
		if len(bytes.TrimSpace(o.line(o.text, row))) == 0 {
			continue
		}
		o.imports(row)
		for i := range o.rules.Rules {
			if o.try(&o.rules.Rules[i], row) {
				break
			}
		}
	}
}

func (o *outliner) imports(row int) {
	for _, p := range o.rules.Imports {
		// the module may be a string: the line as written, where code begins it
		if m := p.FindSubmatch(o.line(o.text, row)); m != nil && len(bytes.TrimSpace(o.line(o.masked, row))) > 0 {
			o.Imports = append(o.Imports, Import{Text: string(bytes.Trim(m[1], "\"'`")), Line: row + 1, EndLine: row + 1})
			return
		}
	}
}

func (o *outliner) try(rule *LineRule, row int) bool {
	text := o.masked
	if rule.Raw {
		text = o.text
	}
	m := rule.Pattern.FindSubmatchIndex(o.line(text, row))
	if m == nil {
		return false
	}
	group := func(name string) string {
		if i := rule.Pattern.SubexpIndex(name); i >= 0 && m[2*i] >= 0 {
			return strings.TrimSpace(ValidText(o.line(o.text, row)[m[2*i]:m[2*i+1]]))
		}
		return ""
	}
	name := group("name")
	if o.rules.QuotedNames {
		name = strings.Trim(name, "\"`[]")
	}
	if name == "" || len(name) > maxWord {
		return false
	}
	if rule.Under != nil && (row+1 >= len(o.lines) || !rule.Under.Match(o.line(o.text, row+1))) {
		return false
	}
	o.leave(rule, row)
	parent := -1
	if k := len(o.open); k > 0 {
		parent = o.open[k-1]
	}
	if len(rule.Inside) > 0 && !o.inside(parent, rule.Inside) {
		return false
	}
	if parent >= 0 && o.Outline[parent].Kind.callable() && rule.Kind.value() {
		return false
	}
	s := Symbol{
		Name: name, Qualified: name, Kind: rule.Kind, Visibility: rule.Visibility, Parent: parent,
		Start: row + 1, End: o.end(rule, row), NameLine: row + 1, Type: group("type"),
		Signature: o.signature(row),
	}
	separator := o.rules.Separator
	if separator == "" {
		separator = "."
	}
	if owner := group("owner"); owner != "" {
		s.Qualified = owner + separator + name
	}
	if parent >= 0 {
		s.Qualified = o.Outline[parent].Qualified + separator + s.Qualified
		s.End = min(s.End, o.Outline[parent].End)
	}
	s.Doc = o.docAbove(row)
	o.Outline = append(o.Outline, s)
	if s.End > s.Start {
		o.region(BodyBlock, s.Start+1, s.End)
	}
	if !rule.Leaf {
		o.open, o.levels = append(o.open, len(o.Outline)-1), append(o.levels, rule.Level)
	}
	return true
}

// signature is a line up to its first comment.
func (o *outliner) signature(row int) string {
	end := o.lineEnd(row)
	if k := sort.Search(len(o.Comments), func(i int) bool { return o.Comments[i].Start >= o.lines[row] }); k < len(o.Comments) {
		end = min(end, o.Comments[k].Start)
	}
	text := strings.Join(strings.Fields(ValidText(o.text[o.lines[row]:end])), " ")
	return clip(strings.TrimRight(text, " {(;,"), maxSignature)
}

func (o *outliner) inside(parent int, kinds []Kind) bool {
	return parent >= 0 && slices.Contains(kinds, o.Outline[parent].Kind)
}

// leave closes what ends before a row, or is a heading of the same level.
func (o *outliner) leave(rule *LineRule, row int) {
	for k := len(o.open) - 1; k >= 0; k-- {
		s := &o.Outline[o.open[k]]
		if rule.Level > 0 && o.levels[k] >= rule.Level {
			s.End = row
			for s.End > s.Start && len(bytes.TrimSpace(o.line(o.text, s.End-1))) == 0 {
				s.End--
			}
		} else if s.End > row {
			return
		}
		o.open, o.levels = o.open[:k], o.levels[:k]
	}
}

var closer = regexp.MustCompile(`^\s*(?:end\b|End\b|END\b|[})\]]|done\b|fi\b|esac\b)`)

// end is the last line of a declaration that begins on a row.
func (o *outliner) end(rule *LineRule, row int) int {
	last := len(o.lines)
	if last > 1 && o.lines[last-1] == len(o.text) {
		last--
	}
	switch {
	case rule.Level > 0:
		return last
	case rule.Leaf:
		return row + 1
	case o.rules.Until != "":
		return o.endUntil(row, last)
	}
	indent, end := indentation(o.line(o.text, row)), row+1
	for r := row + 1; r < last; r++ {
		line := o.line(o.masked, r)
		trimmed := bytes.TrimSpace(line)
		if len(trimmed) == 0 {
			continue
		}
		if in := indentation(o.line(o.text, r)); in > indent || in == indent && (string(trimmed) == "{" || string(trimmed) == "(") {
			end = r + 1
			continue
		} else if in == indent && closer.Match(line) {
			end = r + 1
		}
		break
	}
	return end
}

func (o *outliner) endUntil(row, last int) int {
	quotes := 0
	for r := row; r < last; r++ {
		line := string(o.line(o.masked, r))
		if i := strings.LastIndex(line, o.rules.Until); i >= 0 && (quotes+strings.Count(line[:i], "$$"))%2 == 0 {
			return r + 1
		}
		quotes += strings.Count(line, "$$")
	}
	return last
}

func indentation(line []byte) int {
	n := 0
	for _, c := range line {
		switch c {
		case ' ':
			n++
		case '\t':
			n += 8
		default:
			return n
		}
	}
	return n
}

// docAbove is the first sentence of the comment on the lines right above a row.
func (o *outliner) docAbove(row int) string {
	k := sort.Search(len(o.Comments), func(i int) bool { return o.Comments[i].Start >= o.lines[row] }) - 1
	if k < 0 || !o.notes[k].alone || o.notes[k].last != row {
		return ""
	}
	return o.docOf(o.text, k, false)
}
