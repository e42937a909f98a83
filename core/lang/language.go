package lang

// Depth says how deep a file was looked into.
type Depth string

// The three depths of the survey document.
const (
	Parsed Depth = "parsed" // by the language's grammar
	Lexed  Depth = "lexed"  // comments and strings by a lexer, an outline by token rules
	Listed Depth = "listed" // not read
)

// Language is all that is particular to one language.
type Language struct {
	Name       string   // as shown: "Go"
	Extensions []string // with the dot, lower case; the longest match wins
	Filenames  []string // whole names, in any letter case
	Shebangs   []string // interpreters without version: "python"
	// Syntax is what the language's syntax tree means; nil: it has no grammar.
	Syntax *Rules
	// Parts finds the pieces of a text that are written in other languages.
	Parts func(text []byte) []Part
	// Lexer names the lexer of the library; "" where Syntax is set, or where
	// every line is text.
	Lexer string
	// Openers are the byte sequences that can open a comment. A lexed file in
	// which none occurs has no comments. Empty: it may have some anyway.
	Openers []string
	// Lines are the token rules of a lexed language's outline.
	Lines *LineRules
}

// Parsed tells whether the language is read by a grammar.
func (l *Language) Parsed() bool { return l.Syntax != nil || l.Parts != nil }

// Part is a run of bytes that is written in a language of its own.
type Part struct {
	Language *Language
	Span
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
