package names

import "juxtagram/core/links/origin"

// Certainty is how sure it is that a name means a definition.
type Certainty string

// The certainties, surest first.
const (
	Scope    Certainty = "scope"    // the same scope: block, type, file or package
	Imported Certainty = "imported" // imported from the file that defines it
	Typed    Certainty = "typed"    // a member of the type that the text says its owner has
	ByName   Certainty = "name"     // nothing but the name is the same
)

// rank orders certainties.
func (c Certainty) rank() int {
	switch c {
	case Scope:
		return 0
	case Imported:
		return 1
	case Typed:
		return 2
	}
	return 3
}

// Certain tells whether an answer is shown as certain.
func (c Certainty) Certain() bool { return c == Scope || c == Imported }

// Definition is one place where a name may be made.
type Definition struct {
	File      int
	Line      int // of the name
	Symbol    int // index in the file's outline; -1: a parameter or local variable
	Certainty Certainty
	Why       string
}

// Answer is what is known of the name at a place.
type Answer struct {
	Name        string
	Definitions []Definition // best first
	// Origin is where the name comes from where it is not of this repository,
	// or the import that failed; nil: not told.
	Origin *origin.Origin
	// Through is the module that Origin speaks of, as written.
	Through string
}
