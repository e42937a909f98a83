package note

import (
	"bytes"
	"fmt"
	"html"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/microcosm-cc/bluemonday"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/parser"
	"github.com/yuin/goldmark/renderer"
	"github.com/yuin/goldmark/text"
	"github.com/yuin/goldmark/util"
)

// MaxText is how many bytes a text may have.
const MaxText = 100_000

// Said is what a text holds beside its words.
type Said struct {
	Tags     []string // folded, each once, in their order
	Mentions []string // as written, each once
	Issues   []string // numbers, each once
	Ideas    []string // ids of ideas of a plan that are linked to, each once
	Attached []string // ids of attachments that are shown or linked to, each once
}

// Check tells why a text cannot be kept; nil: it can.
func Check(source string) error {
	switch {
	case strings.TrimSpace(source) == "":
		return fmt.Errorf("there is nothing to keep: the text is empty")
	case len(source) > MaxText:
		return fmt.Errorf("the text has %d bytes; %d are the most. Attach what is longer as a file", len(source), MaxText)
	case !utf8.ValidString(source) || strings.ContainsRune(source, 0):
		return fmt.Errorf("the text is not valid UTF-8")
	case intricate(source):
		return errIntricate
	}
	return nil
}

// Fold is what tags are compared by.
func Fold(tag string) string { return strings.ToLower(tag) }

// Read finds the tags, mentions and issues of a text; none in one that Check refuses
// because of its marks.
func Read(source string) Said {
	var out Said
	if intricate(source) {
		return out
	}
	raw := []byte(source)
	add := func(list *[]string, word string) {
		if !slices.Contains(*list, word) {
			*list = append(*list, word)
		}
	}
	address := func(to []byte) {
		if id, ok := strings.CutPrefix(string(to), attachedAt); ok {
			add(&out.Attached, id)
		} else if id, ok := strings.CutPrefix(string(to), ideaAt); ok {
			add(&out.Ideas, id)
		}
	}
	_ = ast.Walk(markdown().Parser().Parse(text.NewReader(raw)), func(n ast.Node, entering bool) (ast.WalkStatus, error) {
		if !entering {
			return ast.WalkContinue, nil
		}
		switch x := n.(type) {
		case *sign:
			switch x.kind {
			case tagSign:
				add(&out.Tags, Fold(x.word))
			case mentionSign:
				add(&out.Mentions, x.word)
			case issueSign:
				add(&out.Issues, x.word)
			}
		case *ast.Image:
			address(x.Destination)
		case *ast.Link:
			address(x.Destination)
		}
		return ast.WalkContinue, nil
	})
	return out
}

// clean lets through what a text needs and nothing that acts or is fetched from
// elsewhere but pictures of this installation.
var clean = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	p.AllowStandardURLs()
	p.AllowURLSchemes("http", "https", "mailto")
	p.AllowElements("p", "br", "hr", "em", "strong", "del", "code", "pre", "blockquote", "ul", "ol", "li", "h1", "h2", "h3", "h4", "h5", "h6", "table", "thead", "tbody", "tr", "th", "td", "b", "span", "input")
	p.AllowAttrs("href").OnElements("a")
	p.AllowAttrs("class").Matching(regexp.MustCompile(`^(?:tag|mention|issue|attached|idea)$`)).OnElements("a", "b", "span")
	p.AllowAttrs("class").Matching(regexp.MustCompile(`^language-[\w+-]+$`)).OnElements("code")
	p.AllowAttrs("start").Matching(regexp.MustCompile(`^\d{1,6}$`)).OnElements("ol")
	p.AllowAttrs("align").Matching(regexp.MustCompile(`^(?:left|right|center)$`)).OnElements("th", "td")
	p.AllowAttrs("type").Matching(regexp.MustCompile(`^checkbox$`)).OnElements("input")
	p.AllowAttrs("checked", "disabled").OnElements("input")
	p.AllowAttrs("src", "alt").OnElements("img")
	p.AllowAttrs("width", "height").Matching(regexp.MustCompile(`^\d{1,6}$`)).OnElements("img")
	p.RequireNoFollowOnLinks(true)
	return p
}()

// words are the plain words below a node.
func words(n ast.Node, source []byte) string {
	var b strings.Builder
	for c := n.FirstChild(); c != nil; c = c.NextSibling() {
		if t, ok := c.(*ast.Text); ok {
			b.Write(read(t, source))
		} else {
			b.WriteString(words(c, source))
		}
	}
	return b.String()
}

// read is a piece of text as it reads: without the marks of escaping.
func read(t *ast.Text, source []byte) []byte {
	piece := t.Segment.Value(source)
	if t.IsRaw() {
		return piece
	}
	return util.ResolveEntityNames(util.ResolveNumericReferences(util.UnescapePunctuations(piece)))
}

// HTML is a text as HTML that does nothing but show. One that Check refuses because of
// its marks is shown as it was written.
func HTML(source string, links Links) string {
	if intricate(source) {
		return "<pre>" + html.EscapeString(source) + "</pre>"
	}
	var out bytes.Buffer
	md := markdown(renderer.WithNodeRenderers(util.Prioritized(shown{links}, 100), util.Prioritized(addresses{links}, 90)))
	if len(links.Terms) > 0 {
		md.Parser().AddOptions(parser.WithASTTransformers(util.Prioritized(terms(links.Terms), 500)))
	}
	if err := md.Convert([]byte(Visible(source)), &out); err != nil {
		return "<pre>" + html.EscapeString(source) + "</pre>"
	}
	return clean.Sanitize(out.String())
}

// unseen are characters that turn a text round or hide in it, by their names.
var unseen = map[rune]string{
	'\u202A': "LRE", '\u202B': "RLE", '\u202C': "PDF", '\u202D': "LRO", '\u202E': "RLO",
	'\u2066': "LRI", '\u2067': "RLI", '\u2068': "FSI", '\u2069': "PDI", '\u200E': "LRM", '\u200F': "RLM", '\u061C': "ALM",
	'\u200B': "ZWSP", '\u2060': "WJ", '\uFEFF': "BOM",
}

// Visible shows characters that turn a text round or hide in it by their names
// in brackets.
func Visible(s string) string {
	if strings.IndexFunc(s, func(r rune) bool { return unseen[r] != "" }) < 0 {
		return s
	}
	var b strings.Builder
	for _, r := range s {
		if name := unseen[r]; name != "" {
			b.WriteString("⟦" + name + "⟧")
		} else {
			b.WriteRune(r)
		}
	}
	return b.String()
}

// Line is the first line of a text in plain words, at most so many characters.
func Line(source string, most int) string {
	raw := []byte(Visible(source))
	doc := markdown().Parser().Parse(text.NewReader(raw))
	line := ""
	_ = ast.Walk(doc, func(n ast.Node, entering bool) (ast.WalkStatus, error) {
		if entering && line == "" && (n.Kind() == ast.KindParagraph || n.Kind() == ast.KindHeading || n.Kind() == ast.KindTextBlock) {
			line = strings.TrimSpace(plain(n, raw))
			return ast.WalkSkipChildren, nil
		}
		if line != "" {
			return ast.WalkStop, nil
		}
		return ast.WalkContinue, nil
	})
	if line == "" {
		line, _, _ = strings.Cut(strings.TrimSpace(source), "\n")
	}
	if runes := []rune(line); len(runes) > most {
		return string(runes[:most-1]) + "…"
	}
	return line
}

// plain are the words of a paragraph with its signs.
func plain(n ast.Node, source []byte) string {
	var b strings.Builder
	for c := n.FirstChild(); c != nil; c = c.NextSibling() {
		switch x := c.(type) {
		case *ast.Text:
			b.Write(read(x, source))
			if x.SoftLineBreak() || x.HardLineBreak() {
				b.WriteByte(' ')
			}
		case *sign:
			b.WriteString(map[signKind]string{tagSign: "#", issueSign: "#", mentionSign: "@"}[x.kind] + x.word)
		default:
			b.WriteString(plain(c, source))
		}
	}
	return b.String()
}
