package lang

import (
	"context"
	"fmt"
	"time"
	"unicode/utf8"

	"github.com/alecthomas/chroma/v2"
	"github.com/alecthomas/chroma/v2/lexers"
)

// lexLimit is how long one file may be lexed.
const lexLimit = 2 * time.Second

// lex finds the comments and the strings of a file by the lexer library.
func (l *Language) lex(ctx context.Context, content []byte) (comments, texts []Span, err error) {
	lexer := lexers.Get(l.Lexer)
	if lexer == nil {
		return nil, nil, fmt.Errorf("no lexer called %q", l.Lexer)
	}
	next, err := lexer.Tokenise(&chroma.TokeniseOptions{State: "root"}, ValidText(content))
	if err != nil {
		return nil, nil, fmt.Errorf("lexing as %s: %w", l.Name, err)
	}
	deadline := time.Now().Add(lexLimit)
	offset := 0
	for n, t := 0, next(); t != chroma.EOF; n, t = n+1, next() {
		end := min(offset+len(t.Value), len(content)) // the lexer may add a line feed
		switch {
		case IsComment(t.Type):
			comments = extend(comments, offset, end)
		case t.Type == chroma.LiteralStringDouble && l.Lines != nil && l.Lines.QuotedNames:
		case t.Type.InSubCategory(chroma.LiteralString):
			texts = extend(texts, offset, end)
		}
		offset = end
		if n%512 == 0 && (time.Now().After(deadline) || ctx.Err() != nil) {
			return nil, nil, fmt.Errorf("lexing as %s took longer than %s", l.Name, lexLimit)
		}
	}
	return comments, texts, nil
}

// extend adds a run to spans; one that begins where the last ends is part of
// that.
func extend(spans []Span, start, end int) []Span {
	if start == end {
		return spans
	}
	if k := len(spans); k > 0 && spans[k-1].End == start {
		spans[k-1].End = end
		return spans
	}
	return append(spans, Span{start, end})
}

// IsComment tells comments from the preprocessor lines that the library files
// under the same heading.
func IsComment(t chroma.TokenType) bool {
	return t.InCategory(chroma.Comment) && t != chroma.CommentPreproc && t != chroma.CommentPreprocFile && t != chroma.CommentHashbang
}

// ValidText is content as text of the same length: each byte that is not part
// of valid UTF-8 becomes '?'.
func ValidText(content []byte) string {
	if utf8.Valid(content) {
		return string(content)
	}
	out := make([]byte, len(content))
	copy(out, content)
	for i := 0; i < len(out); {
		r, n := utf8.DecodeRune(out[i:])
		if r == utf8.RuneError && n == 1 {
			out[i] = '?'
		}
		i += n
	}
	return string(out)
}
