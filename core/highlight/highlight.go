// Package highlight tells what each piece of a line of code is (keyword,
// string, comment, …), for colouring, in every language the lexer library
// knows.
package highlight

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/alecthomas/chroma/v2"
	"github.com/alecthomas/chroma/v2/lexers"

	"juxtagram/core/lang"
	"juxtagram/core/sandbox"
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

// ErrNone tells that the lexer library does not know a language.
var ErrNone = errors.New("there are no colours for this language")

// Quick is how large a text is that is coloured while somebody waits, in bytes.
const Quick = 48 << 10

// Lexers match by trial: a short text may take one hours. They work in the sandbox.
var (
	quick = sandbox.New("colours", sandbox.Budget{Bytes: 2 * MaxSize, Time: 2 * time.Second}, colour)
	whole = sandbox.New("colours of a long text", sandbox.Budget{Bytes: 2 * MaxSize, Time: 10 * time.Second}, colour)
)

// Lines tells the pieces of each line of a text, in order; a line's pieces
// cover it without its end. The error is ErrNone, a *sandbox.GivenUp, or ctx's.
func Lines(ctx context.Context, l *lang.Language, content []byte) ([][]Piece, error) {
	if l == nil {
		return nil, ErrNone
	}
	if len(content) > MaxSize {
		return nil, &sandbox.GivenUp{Reason: fmt.Sprintf("texts over %d MB are not coloured", MaxSize>>20)}
	}
	name := lexerOf(l)
	if lexers.Get(name) == nil {
		return nil, ErrNone
	}
	task := whole
	if len(content) <= Quick {
		task = quick
	}
	out, err := task.Run(ctx, append([]byte(name+"\x00"), lang.ValidText(content)...))
	if err != nil {
		return nil, err
	}
	return unpack(out)
}

func lexerOf(l *lang.Language) string {
	if l.Lexer != "" {
		return l.Lexer
	}
	if other := lexerNames[l.Name]; other != "" {
		return other
	}
	return l.Name
}

// colour is Lines in the sandbox: a lexer's name and a text in, packed pieces out.
func colour(in []byte) ([]byte, error) {
	name, text, _ := bytes.Cut(in, []byte{0})
	lexer := lexers.Get(string(name))
	if lexer == nil {
		return nil, ErrNone
	}
	next, err := lexer.Tokenise(&chroma.TokeniseOptions{State: "root"}, string(text))
	if err != nil {
		return nil, err
	}
	lines, current := [][]Piece{}, []Piece{}
	for t := next(); t != chroma.EOF; t = next() {
		class := classOf(t.Type)
		for i, part := range strings.Split(t.Value, "\n") {
			if i > 0 {
				lines = append(lines, current)
				current = []Piece{}
			}
			current = push(current, utf16Length(strings.TrimSuffix(part, "\r")), class)
		}
	}
	return pack(append(lines, current)), nil
}

// pack writes how many lines there are, and for each how many pieces and their lengths
// and classes.
func pack(lines [][]Piece) []byte {
	out := binary.AppendUvarint(nil, uint64(len(lines)))
	for _, l := range lines {
		out = binary.AppendUvarint(out, uint64(len(l)))
		for _, p := range l {
			out = binary.AppendUvarint(out, uint64(p.Length))
			out = append(out, byte(p.Class))
		}
	}
	return out
}

var errPacked = errors.New("packed colours end in their midst")

func unpack(in []byte) ([][]Piece, error) {
	number := func() int {
		v, n := binary.Uvarint(in)
		if n <= 0 || v > uint64(len(in)) && v > 2*MaxSize {
			in = nil
			return -1
		}
		in = in[n:]
		return int(v)
	}
	n := number()
	if n < 0 || n > len(in) {
		return nil, errPacked
	}
	lines := make([][]Piece, n)
	for i := range lines {
		n := number()
		if n < 0 || n > len(in) {
			return nil, errPacked
		}
		lines[i] = make([]Piece, n)
		for k := range lines[i] {
			length := number()
			if length < 0 || len(in) == 0 {
				return nil, errPacked
			}
			lines[i][k] = Piece{length, Class(in[0])}
			in = in[1:]
		}
	}
	return lines, nil
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
