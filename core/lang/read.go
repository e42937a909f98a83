package lang

import (
	"context"
	"strings"
)

// Reading is what a language found in one text.
type Reading struct {
	Depth    Depth
	Comments []Span // in order, not overlapping
	Starts   []Start
}

// Read looks through one file's text. An error says why the text could not be
// read as this language; it never speaks of the program's own failure.
func (l *Language) Read(ctx context.Context, content []byte) (Reading, error) {
	switch {
	case l.Grammar != nil:
		comments, captures, err := l.parse(ctx, content)
		if err != nil {
			return Reading{}, err
		}
		r := Reading{Depth: Parsed, Comments: inOrder(comments)}
		if l.Starts != nil {
			r.Starts = l.Starts(captures)
		}
		return r, nil
	case l.Lexer == "" || !l.mayComment(content):
		return Reading{Depth: Lexed}, nil
	}
	comments, err := l.lex(ctx, content)
	return Reading{Depth: Lexed, Comments: comments}, err
}

func (l *Language) mayComment(content []byte) bool {
	if len(l.Openers) == 0 {
		return true
	}
	text := string(content)
	for _, o := range l.Openers {
		if strings.Contains(text, o) {
			return true
		}
	}
	return false
}

// inOrder drops spans that lie inside an earlier one: a query may report a
// comment's parts beside the whole.
func inOrder(spans []Span) []Span {
	out := spans[:0]
	for _, s := range spans {
		if k := len(out); k > 0 && s.Start < out[k-1].End {
			continue
		}
		out = append(out, s)
	}
	return out
}

// Find returns the captures of one name.
func Find(captures []Capture, name string) []Capture {
	var out []Capture
	for _, c := range captures {
		if c.Name == name {
			out = append(out, c)
		}
	}
	return out
}

// MainFunctions are the starts of the C family: a definition of main, or of
// the wide and windowed forms of it, captured as @function.
func MainFunctions(captures []Capture) []Start {
	var out []Start
	for _, f := range Find(captures, "function") {
		switch f.Text {
		case "main", "wmain", "WinMain", "wWinMain":
			out = append(out, Start{Kind: "program", Line: f.Line, Evidence: "defines " + f.Text})
		}
	}
	return out
}
