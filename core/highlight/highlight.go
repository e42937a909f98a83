// Package highlight tells what each piece of a line of code is (keyword,
// string, comment, …), for colouring, in every language the lexer library
// knows.
package highlight

import (
	"context"
	"strings"

	"github.com/alecthomas/chroma/v2"
	"github.com/alecthomas/chroma/v2/lexers"

	"juxtagram/core/lang"
)

// Class is what a piece of text is.
type Class int

// The classes, few on purpose: a page of code is not a paint box.
const (
	Plain Class = iota
	Keyword
	String
	Comment
	Number
	Name // of a definition: function, class
	Type
	Meta // preprocessor, decorator, tag
)

// Names of the classes, by number.
var Names = []string{"plain", "keyword", "string", "comment", "number", "name", "type", "meta"}

// MaxSize is how large a text may be to be highlighted, in bytes.
const MaxSize = 1 << 20

// Piece is a run of one class on one line; Length is in UTF-16 units, as
// browsers count.
type Piece struct {
	Length int
	Class  Class
}

// Lines tells the pieces of each line of a text, in order; a line's pieces
// cover it without its end. ok is false where the language has no lexer, the
// text is too large, or ctx ended.
func Lines(ctx context.Context, l *lang.Language, content []byte) (lines [][]Piece, ok bool) {
	if l == nil || len(content) > MaxSize {
		return nil, false
	}
	name := l.Lexer
	if name == "" {
		name = l.Name
		if other := lexerNames[name]; other != "" {
			name = other
		}
	}
	lexer := lexers.Get(name)
	if lexer == nil {
		return nil, false
	}
	next, err := lexer.Tokenise(&chroma.TokeniseOptions{State: "root"}, lang.ValidText(content))
	if err != nil {
		return nil, false
	}
	current := []Piece{}
	n := 0
	for t := next(); t != chroma.EOF; t = next() {
		class := classOf(t.Type)
		for i, part := range strings.Split(t.Value, "\n") {
			if i > 0 {
				lines = append(lines, current)
				current = []Piece{}
			}
			current = push(current, utf16Length(strings.TrimSuffix(part, "\r")), class)
		}
		if n++; n%1024 == 0 && ctx.Err() != nil {
			return nil, false
		}
	}
	return append(lines, current), true
}

// lexerNames are the lexer library's names for languages that are parsed here
// under another.
var lexerNames = map[string]string{"Shell": "bash", "TSX": "typescript", "Protocol Buffers": "protobuf", "C#": "csharp", "HCL": "hcl", "C++": "cpp", "PHP": "php"}

func push(line []Piece, length int, class Class) []Piece {
	if length == 0 {
		return line
	}
	if k := len(line); k > 0 && line[k-1].Class == class {
		line[k-1].Length += length
		return line
	}
	return append(line, Piece{length, class})
}

func utf16Length(s string) int {
	n := 0
	for _, r := range s {
		if n++; r > 0xffff {
			n++
		}
	}
	return n
}

func classOf(t chroma.TokenType) Class {
	switch {
	case lang.IsComment(t):
		return Comment
	case t.InCategory(chroma.Comment):
		return Meta
	case t == chroma.KeywordType:
		return Type
	case t.InCategory(chroma.Keyword):
		return Keyword
	case t.InSubCategory(chroma.LiteralString):
		return String
	case t.InSubCategory(chroma.LiteralNumber):
		return Number
	case t == chroma.NameFunction || t == chroma.NameClass || t == chroma.NameFunctionMagic || t == chroma.GenericHeading || t == chroma.GenericSubheading:
		return Name
	case t == chroma.NameDecorator || t == chroma.NameTag || t == chroma.NameAttribute:
		return Meta
	}
	return Plain
}
