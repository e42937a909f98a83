package lang

// Kind is what a symbol is: the Language Server Protocol's SymbolKind names in
// lower camel case and, for what it lacks, type, macro, trait and section.
type Kind string

// The kinds.
const (
	Module        Kind = "module"
	Namespace     Kind = "namespace"
	Package       Kind = "package"
	Class         Kind = "class"
	Method        Kind = "method"
	Property      Kind = "property"
	Field         Kind = "field"
	Constructor   Kind = "constructor"
	Enum          Kind = "enum"
	Interface     Kind = "interface"
	Function      Kind = "function"
	Variable      Kind = "variable"
	Constant      Kind = "constant"
	EnumMember    Kind = "enumMember"
	Struct        Kind = "struct"
	Event         Kind = "event"
	Operator      Kind = "operator"
	Object        Kind = "object"
	Key           Kind = "key"
	TypeName      Kind = "type"
	Macro         Kind = "macro"
	Trait         Kind = "trait"
	Section       Kind = "section"
	TypeParameter Kind = "typeParameter"
)

// Kinds lists every kind, in the order in which a reader may narrow by them.
var Kinds = []Kind{
	Module, Namespace, Package, Class, Struct, Interface, Trait, Enum, TypeName, Function, Method, Constructor, Operator, Property, Field,
	EnumMember, Constant, Variable, Event, Macro, Object, Key, TypeParameter, Section,
}

// callable tells the kinds whose insides are steps, not members.
func (k Kind) callable() bool {
	return k == Function || k == Method || k == Constructor || k == Operator
}

// value tells the kinds that are a local affair inside a callable.
func (k Kind) value() bool {
	return k == Variable || k == Constant || k == Field || k == Property || k == EnumMember
}

// Visibility is who may name a symbol by its language's own rule; "" where the
// language has no such rule.
type Visibility string

// The visibilities, widest first.
const (
	Public    Visibility = "public"
	Protected Visibility = "protected"
	Internal  Visibility = "internal" // to its package, module or assembly
	Private   Visibility = "private"
)

// Symbol is one named thing that a text makes. Lines count from 1 and ranges
// include both ends.
type Symbol struct {
	Name       string     `json:"name"`
	Qualified  string     `json:"qualified"` // with its owners in this file: "Gauge.Read"
	Kind       Kind       `json:"kind"`
	Visibility Visibility `json:"visibility,omitempty"`
	Static     bool       `json:"static,omitempty"`
	Signature  string     `json:"signature"` // as written, on one line, without body
	Type       string     `json:"type,omitempty"`
	Doc        string     `json:"doc,omitempty"` // first sentence of the doc comment
	Start      int        `json:"start"`
	End        int        `json:"end"`
	NameLine   int        `json:"name_line"`
	Parent     int        `json:"parent"` // index in the outline, always smaller than its own; -1: none
	Intricacy  int        `json:"intricacy,omitempty"`
	Supers     []string   `json:"supers,omitempty"`      // supertypes as written
	Forwards   string     `json:"forwards_to,omitempty"` // the one thing its body calls, where it does nothing else
}

// Doc is what a file says of itself, its first sentence.
type Doc struct {
	_    struct{} `cbor:",toarray"`
	Text string
	Line int // 0: it says nothing
}

// Import is one mention of another module, as written.
type Import struct {
	Text     string     `json:"text"` // the module as written: "./units", "<stdio.h>", "java.util.List"
	Line     int        `json:"line"`
	EndLine  int        `json:"end_line"`
	Names    []Imported `json:"names,omitempty"`
	Reexport bool       `json:"reexport,omitempty"` // handed on to whoever imports this file
}

// Imported is one name that an import brings.
type Imported struct {
	Name string `json:"name"`         // in the other module; "*": all of them
	As   string `json:"as,omitempty"` // here, where it differs
}

// Role is how a name is used at one place.
type Role uint8

// The roles. OnOwner is added where the name follows another one ("b" in
// "a.b").
const (
	Read Role = iota + 1
	Write
	Call
	AsType
	Define // the symbol's own name
	Bind   // a parameter or a local variable's own name
	Imports
	OnOwner Role = 8

	// InLiteral is added, with Write and OnOwner, where the name is the key by which a
	// value is given: of a field of a literal, of a parameter of a call.
	InLiteral Role = 32

	// Up, in tables alone: the place of the parent decides.
	Up    Role = 16
	plain Role = OnOwner - 1
)

// Plain is a role without OnOwner.
func (r Role) Plain() Role { return r & plain }

// Use is one place where a name stands.
type Use struct {
	Word   int32 // index of the name in Reading.Words
	Line   int32 // from 1
	Column int32 // bytes before it on its line
	Role   Role
}

// Gap stands in a joined string for what is only known when the program runs.
const Gap = '\uFFFC'

// Literal is a string as the program sees it: pieces that the source only
// writes apart are joined, escapes are resolved.
type Literal struct {
	_       struct{} `cbor:",toarray"`
	Text    string   `json:"text"`
	Line    int      `json:"line"`
	EndLine int      `json:"end_line"`
}

// Block is a run of lines, both ends included, outside of which the local names
// made inside it are not known.
type Block struct{ Start, End int }

// RegionKind is what a foldable region holds.
type RegionKind string

// The regions.
const (
	ImportBlock   RegionKind = "imports"
	LicenceHeader RegionKind = "licence"
	CommentBlock  RegionKind = "comment"
	BodyBlock     RegionKind = "body"
	FieldGroup    RegionKind = "fields"
)

// RegionKinds lists every kind of region; what is kept knows them by their places in
// it.
var RegionKinds = []RegionKind{ImportBlock, LicenceHeader, CommentBlock, BodyBlock, FieldGroup}

// Region is a run of lines that can be folded away; both ends included.
type Region struct {
	Kind  RegionKind `json:"kind"`
	Start int        `json:"start"`
	End   int        `json:"end"`
}
