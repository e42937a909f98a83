package lang

import (
	"strings"
	"sync"

	sitter "github.com/smacker/go-tree-sitter"

	"juxtagram/core/syntax"
)

// Handler is called for each node of a type, before the nodes inside it.
type Handler func(w *Walk, n uint32)

// Rules say what a language's syntax tree means. Keys are node types of the
// grammar; a test proves that each of them exists.
type Rules struct {
	Grammar  func() *sitter.Language
	On       map[string]Handler
	Comments []string
	// Strings are the nodes of string literals with the types of the child
	// nodes that hold what only running can tell.
	Strings map[string][]string
	// Verbatim are those of Strings that know no escapes.
	Verbatim []string
	// Apostrophe is how strings between single quotes are read.
	Apostrophe Quoting
	// FoldedLines: between three quotes a first line feed is none of the string, and a
	// backslash at the end of a line joins it with the next.
	FoldedLines bool
	// Joins are the nodes that put strings together, with the operator that
	// does it; "": always.
	Joins map[string]string
	// Names are the leaves that name something, with the role they have where
	// Roles says nothing else.
	Names map[string]Role
	// Roles are "parent.field" → role; without a field, "parent." is meant.
	Roles map[string]Role
	// Decisions are the nodes that choose or repeat; see intricacy.go.
	Decisions map[string]Decision
	// Annotations are left out of signatures: decorators, attributes.
	Annotations []string
	// Leading are annotations that stand before the declaration, as siblings.
	Leading []string
	// Wrappers are nodes that belong to the declaration inside: "export".
	Wrappers []string
	// Tokens are the words and signs that handlers look for; those of Joins and
	// Decisions come by themselves. The tree holds no others.
	Tokens []string
	// Calls are the nodes that call something.
	Calls map[string]CallShape
	// Assigns are the nodes that give a name a value: field of the name, field
	// of the value.
	Assigns map[string][2]string
	// Supers are the children of a type's node that name its supertypes.
	Supers []string
	// Effects are calls and what they do to the outside: "os.Open", or ".open"
	// for whatever stands before the dot.
	Effects map[string]Effect
	// Watch are last names of calls that a detector of entry points looks for.
	Watch     []string
	Separator string // between owner and name; "" means "."
	// MarkedDocs: only comments that open with a mark of documentation
	// ("/**", "///") document.
	MarkedDocs bool
	// Mask gives the grammar another text to read, of the same length, where
	// it does not know a construct. What is told comes from the real text.
	Mask func(text []byte) []byte
	// End runs after the last node.
	End func(w *Walk)

	once  sync.Once
	table *table
}

// CallShape names the fields of a call's node; Object: the field of what the
// function's name belongs to, where it is no part of Function.
type CallShape struct{ Function, Object, Arguments string }

// Decision is how a node counts in a file's intricacy.
type Decision uint8

// The decisions.
const (
	Branch  Decision = iota + 1 // costs 1 and its depth; what is inside is one deeper
	Chained                     // an "else if" inside the first "if": as deep as that
	Arm                         // a case: costs 1 wherever it is
	Deeper                      // costs nothing; what is inside is one deeper
)

// action is all that a node's symbol asks for, in one look-up.
type action struct {
	any      bool
	handler  Handler
	name     Role
	decision Decision
	comment  bool
	text     bool // a string literal
	join     bool
	lead     bool
	call     callShape
	left     uint16 // fields of an assignment; 0: none
	right    uint16
}

// table is Rules by the grammar's numbers.
type table struct {
	grammar    *syntax.Grammar
	actions    []action
	roles      []Role // symbol × fields + field
	fields     int
	joiner     map[uint16]string
	gaps       map[uint16]bool
	annotation map[uint16]bool
	wrapper    map[uint16]bool
	supers     map[uint16]bool
	watched    map[string]bool // last names of calls
	separator  string
	// fields of what is no operand
	operator, interpolator uint16
}

func (r *Rules) ready() *table {
	r.once.Do(func() { r.table = r.build() })
	return r.table
}

func (r *Rules) build() *table {
	g := syntax.NewGrammar(r.Grammar(), r.tokens()...)
	t := &table{
		grammar: g, actions: make([]action, g.SymbolCount()), fields: g.FieldCount() + 1,
		joiner: map[uint16]string{}, gaps: map[uint16]bool{}, separator: r.Separator,
		operator: g.Field("operator"), interpolator: g.Field("interpolator"),
	}
	if t.separator == "" {
		t.separator = "."
	}
	each := func(name string, set func(s uint16, a *action)) {
		for _, s := range nodes(g, name) {
			t.actions[s].any = true
			set(s, &t.actions[s])
		}
	}
	for name, h := range r.On {
		each(name, func(_ uint16, a *action) { a.handler = h })
	}
	for _, name := range r.Comments {
		each(name, func(_ uint16, a *action) { a.comment = true })
	}
	for name, gaps := range r.Strings {
		each(name, func(_ uint16, a *action) { a.text = true })
		for _, gap := range gaps {
			for _, s := range nodes(g, gap) {
				t.gaps[s] = true
			}
		}
	}
	for name, operator := range r.Joins {
		each(name, func(s uint16, a *action) { a.join, t.joiner[s] = true, operator })
	}
	for name, role := range r.Names {
		each(name, func(_ uint16, a *action) { a.name = role })
	}
	for name, d := range r.Decisions {
		each(name, func(_ uint16, a *action) { a.decision = d })
	}
	for _, name := range r.Leading {
		each(name, func(_ uint16, a *action) { a.lead = true })
	}
	for name, c := range r.Calls {
		each(name, func(_ uint16, a *action) {
			a.call = callShape{g.Field(c.Function), g.Field(c.Object), g.Field(c.Arguments)}
		})
	}
	for name, fields := range r.Assigns {
		each(name, func(_ uint16, a *action) { a.left, a.right = g.Field(fields[0]), g.Field(fields[1]) })
	}
	t.watched = map[string]bool{}
	for _, word := range r.Watch {
		t.watched[word] = true
	}
	for callee := range r.Effects {
		t.watched[callee[strings.LastIndexAny(callee, ".:")+1:]] = true
	}
	t.annotation, t.wrapper, t.supers = setOf(g, r.Annotations), setOf(g, r.Wrappers), setOf(g, r.Supers)
	t.roles = make([]Role, g.SymbolCount()*t.fields)
	for key, role := range r.Roles {
		parent, field, _ := strings.Cut(key, ".")
		f := 0
		if field != "" {
			if f = int(g.Field(field)); f == 0 {
				continue
			}
		}
		for _, s := range nodes(g, parent) {
			t.roles[int(s)*t.fields+f] = role
		}
	}
	return t
}

// tokens lists all words and signs that the rules ask for.
func (r *Rules) tokens() []string {
	out := append([]string{}, r.Tokens...)
	for _, op := range r.Joins {
		out = append(out, op)
	}
	for name := range r.Decisions {
		out = append(out, name)
	}
	return out
}

// nodes are the symbols of a node type. A name that is a keyword as well means
// the node.
func nodes(g *syntax.Grammar, name string) []uint16 {
	all := g.Symbols(name)
	var out []uint16
	for _, s := range all {
		if g.Named(s) {
			out = append(out, s)
		}
	}
	if out == nil {
		return all
	}
	return out
}

func setOf(g *syntax.Grammar, names []string) map[uint16]bool {
	out := map[uint16]bool{}
	for _, name := range names {
		for _, s := range nodes(g, name) {
			out[s] = true
		}
	}
	return out
}

// Missing lists what the rules name and the grammar does not have.
func (r *Rules) Missing() []string {
	g := r.ready().grammar
	var out []string
	node := func(names ...string) {
		for _, n := range names {
			if len(g.Symbols(n)) == 0 {
				out = append(out, n)
			}
		}
	}
	for n := range r.On {
		node(n)
	}
	node(r.Comments...)
	node(r.Annotations...)
	node(r.Leading...)
	node(r.Wrappers...)
	node(r.Tokens...)
	node(r.Supers...)
	field := func(names ...string) {
		for _, f := range names {
			if f != "" && g.Field(f) == 0 {
				out = append(out, f)
			}
		}
	}
	for n, c := range r.Calls {
		node(n)
		field(c.Function, c.Object, c.Arguments)
	}
	for n, fields := range r.Assigns {
		node(n)
		field(fields[0], fields[1])
	}
	for n, gaps := range r.Strings {
		node(append(gaps, n)...)
	}
	for n := range r.Joins {
		node(n)
	}
	for n := range r.Names {
		node(n)
	}
	for n := range r.Decisions {
		node(n)
	}
	for key := range r.Roles {
		n, field, _ := strings.Cut(key, ".")
		node(n)
		if field != "" && g.Field(field) == 0 {
			out = append(out, key)
		}
	}
	return out
}
