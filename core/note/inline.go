package note

import (
	"regexp"
	"slices"
	"unicode"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/extension"
	"github.com/yuin/goldmark/parser"
	"github.com/yuin/goldmark/renderer"
	"github.com/yuin/goldmark/text"
	"github.com/yuin/goldmark/util"
)

// Kinds of signs in a text.
type signKind uint8

const (
	tagSign signKind = iota
	mentionSign
	issueSign
)

// sign is a #tag, a mention or a reference to an issue.
type sign struct {
	ast.BaseInline
	kind signKind
	word string // without its mark
}

var signNode = ast.NewNodeKind("Sign")

// Kind implements ast.Node.
func (*sign) Kind() ast.NodeKind { return signNode }

// Dump implements ast.Node.
func (s *sign) Dump(source []byte, level int) {
	ast.DumpHelper(s, source, level, map[string]string{"word": s.word}, nil)
}

var (
	tagShape     = regexp.MustCompile(`^#(\p{L}[\p{L}\p{N}_-]{0,39})`)
	issueShape   = regexp.MustCompile(`^#(\d{1,9})\b`)
	mentionShape = regexp.MustCompile(`^@(\p{L}[\p{L}\p{N}_-]*(?:\.[\p{L}\p{N}_-]+)*)`)
)

// signs is an inline parser for all three. The parser of Markdown itself passes
// over what is escaped, and never asks inside of code and addresses.
type signs struct{}

// Trigger implements parser.InlineParser.
func (signs) Trigger() []byte { return []byte{'#', '@'} }

// Parse implements parser.InlineParser.
func (signs) Parse(_ ast.Node, block text.Reader, _ parser.Context) ast.Node {
	before := block.PrecendingCharacter()
	if unicode.IsLetter(before) || unicode.IsDigit(before) || before == '_' || before == '&' || before == '/' || before == '#' || before == '@' {
		return nil // the middle of a word, an address or an entity
	}
	line, _ := block.PeekLine()
	for _, s := range []struct {
		kind  signKind
		shape *regexp.Regexp
	}{{issueSign, issueShape}, {tagSign, tagShape}, {mentionSign, mentionShape}} {
		if m := s.shape.FindSubmatch(line); m != nil {
			block.Advance(len(m[0]))
			return &sign{kind: s.kind, word: string(m[1])}
		}
	}
	return nil
}

// Links say where what is written leads to.
type Links struct {
	Tag      func(tag string) string                   // the address of a tag's page
	Mention  func(name string) (title string, ok bool) // who is meant; ok: somebody
	Attached func(id string) *Attached                 // what an attachment is; nil: there is none
	Idea     func(id string) string                    // the address of an idea of a plan
	Terms    []Term                                    // words that lead somewhere where they first stand
}

// Term is a word, or several, that leads somewhere.
type Term struct{ Word, Address string }

// Attached is an attachment as texts show it.
type Attached struct {
	Address       string
	Picture       bool
	Width, Height int // of a picture
}

// shown writes signs as HTML.
type shown struct{ links Links }

// RegisterFuncs implements renderer.NodeRenderer.
func (s shown) RegisterFuncs(r renderer.NodeRendererFuncRegisterer) { r.Register(signNode, s.render) }

func (s shown) render(w util.BufWriter, _ []byte, n ast.Node, entering bool) (ast.WalkStatus, error) {
	if !entering {
		return ast.WalkContinue, nil
	}
	x := n.(*sign)
	word := string(util.EscapeHTML([]byte(x.word)))
	switch x.kind {
	case tagSign:
		if s.links.Tag == nil {
			_, _ = w.WriteString("#" + word)
			break
		}
		_, _ = w.WriteString(`<a class="tag" href="` + string(util.EscapeHTML([]byte(s.links.Tag(Fold(x.word))))) + `">#` + word + `</a>`)
	case mentionSign:
		if s.links.Mention != nil {
			if title, ok := s.links.Mention(x.word); ok {
				_, _ = w.WriteString(`<b class="mention">@` + string(util.EscapeHTML([]byte(title))) + `</b>`)
				break
			}
		}
		_, _ = w.WriteString("@" + word)
	case issueSign:
		_, _ = w.WriteString(`<span class="issue">#` + word + `</span>`)
	}
	return ast.WalkContinue, nil
}

// plainParser reads Markdown in which HTML is text like any other: it is shown
// as it was written, instead of acting or being lost.
func plainParser() parser.Parser {
	isHTML := func(v util.PrioritizedValue) bool {
		switch v.Value {
		case parser.NewHTMLBlockParser(), parser.NewRawHTMLParser():
			return true
		}
		return false
	}
	return parser.NewParser(
		parser.WithBlockParsers(slices.DeleteFunc(parser.DefaultBlockParsers(), isHTML)...),
		parser.WithInlineParsers(append(slices.DeleteFunc(parser.DefaultInlineParsers(), isHTML), util.Prioritized(signs{}, 450))...),
		parser.WithParagraphTransformers(parser.DefaultParagraphTransformers()...))
}

func markdown(options ...renderer.Option) goldmark.Markdown {
	return goldmark.New(goldmark.WithParser(plainParser()), goldmark.WithExtensions(extension.Table, extension.Strikethrough, extension.TaskList, extension.Linkify), goldmark.WithRendererOptions(options...))
}
