package note

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/parser"
	"github.com/yuin/goldmark/text"
)

// terms makes links of words where they first stand in a text, outside of code,
// links and headings.
type terms []Term

// Transform implements parser.ASTTransformer.
func (t terms) Transform(doc *ast.Document, r text.Reader, _ parser.Context) {
	source := r.Source()
	var pieces []*ast.Text
	_ = ast.Walk(doc, func(n ast.Node, entering bool) (ast.WalkStatus, error) {
		if !entering {
			return ast.WalkContinue, nil
		}
		switch x := n.(type) {
		case *ast.CodeSpan, *ast.Link, *ast.AutoLink, *ast.Image, *ast.Heading:
			return ast.WalkSkipChildren, nil
		case *ast.Text:
			if !x.IsRaw() {
				join(x)
				pieces = append(pieces, x)
			}
		}
		return ast.WalkContinue, nil
	})
	for _, term := range t {
		for i, piece := range pieces {
			at, ok := wordIn(string(piece.Segment.Value(source)), term.Word)
			if !ok {
				continue
			}
			rest := linkIn(piece, at, len(term.Word), term.Address)
			pieces = append(pieces[:i+1], append([]*ast.Text{rest}, pieces[i+1:]...)...)
			break
		}
	}
}

// join takes what follows right behind a piece of text into it: the parser takes
// texts apart where a link might have begun.
func join(x *ast.Text) {
	for !x.SoftLineBreak() && !x.HardLineBreak() {
		next, ok := x.NextSibling().(*ast.Text)
		if !ok || next.IsRaw() || next.Segment.Start != x.Segment.Stop {
			return
		}
		x.Segment = text.NewSegment(x.Segment.Start, next.Segment.Stop)
		x.SetSoftLineBreak(next.SoftLineBreak())
		x.SetHardLineBreak(next.HardLineBreak())
		x.Parent().RemoveChild(x.Parent(), next)
	}
}

// linkIn makes a link of a part of a piece of text: the piece keeps what comes
// before, and what comes after is given back as a piece of its own.
func linkIn(piece *ast.Text, at, length int, address string) *ast.Text {
	parent, s := piece.Parent(), piece.Segment
	link := ast.NewLink()
	link.Destination = []byte(ideaTerm + address)
	link.AppendChild(link, ast.NewTextSegment(text.NewSegment(s.Start+at, s.Start+at+length)))
	rest := ast.NewTextSegment(text.NewSegment(s.Start+at+length, s.Stop))
	rest.SetSoftLineBreak(piece.SoftLineBreak())
	rest.SetHardLineBreak(piece.HardLineBreak())
	piece.Segment = text.NewSegment(s.Start, s.Start+at)
	piece.SetSoftLineBreak(false)
	piece.SetHardLineBreak(false)
	parent.InsertAfter(parent, piece, link)
	parent.InsertAfter(parent, link, rest)
	return rest
}

// ideaTerm marks the address of a link that was made of a term.
const ideaTerm = "term:"

// wordIn finds where a word stands in a text as a whole word, whatever the case
// of its letters.
func wordIn(s, word string) (at int, ok bool) {
	low, word := strings.ToLower(s), strings.ToLower(word)
	if word == "" || len(low) != len(s) {
		return 0, false // letters whose small ones are longer: places would not agree
	}
	for from := 0; ; {
		i := strings.Index(low[from:], word)
		if i < 0 {
			return 0, false
		}
		i += from
		before, _ := utf8.DecodeLastRuneInString(low[:i])
		after, _ := utf8.DecodeRuneInString(low[i+len(word):])
		if !inWord(before) && !inWord(after) {
			return i, true
		}
		from = i + len(word)
	}
}

func inWord(r rune) bool {
	return r == '_' || r != utf8.RuneError && (unicode.IsLetter(r) || unicode.IsDigit(r))
}
