package lang

import sitter "github.com/smacker/go-tree-sitter"

// Depth says how deep a file was looked into.
type Depth string

// The three depths of the survey document.
const (
	Parsed Depth = "parsed" // by the language's grammar
	Lexed  Depth = "lexed"  // comments and strings only
	Listed Depth = "listed" // not read
)

// Language is all that is particular to one language.
type Language struct {
	Name       string   // as shown: "Go"
	Extensions []string // with the dot, lower case; the longest match wins
	Filenames  []string // whole names, in any letter case
	Shebangs   []string // interpreters without version: "python"
	Grammar    func() *sitter.Language
	Query      string // captures @comment, and what Starts reads
	// Starts reads the entry points the language itself marks from the
	// query's captures; nil where it marks none.
	Starts func([]Capture) []Start
	// Lexer names the lexer of the library; "" where Grammar is set, or where
	// every line is text.
	Lexer string
	// Openers are the byte sequences that can open a comment. A lexed file in
	// which none occurs has no comments and needs no lexing. Empty: always lex.
	Openers []string
}

// Capture is a piece of the text that a query named.
type Capture struct {
	Name       string
	Text       string // at most 200 bytes
	Line       int    // from 1
	Start, End int    // byte offsets, End not included
}

// Start is a place where control comes in, as the language marks it.
type Start struct {
	Kind     string `json:"kind"`           // "program" | "script"
	Name     string `json:"name,omitempty"` // what the file calls it; "" for the file's own name
	Line     int    `json:"line"`
	Evidence string `json:"evidence"`
}

// Span is a run of bytes; End is not included.
type Span struct{ Start, End int }
