package c

import (
	"regexp"
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Named is a declarator taken apart.
type Named struct {
	Name     uint32 // None: none
	Function bool   // the name itself is called, it is no pointer to a function
	Marks    string // "*", "&", "[]" in reading order
}

// NameOf finds the name in a declarator.
func NameOf(w *lang.Walk, n uint32) Named {
	var out Named
	for hops := 0; n != syntax.None && hops < 64; hops++ {
		switch w.Type(n) {
		case "identifier", "field_identifier", "type_identifier", "qualified_identifier", "destructor_name", "operator_name", "operator_cast",
			"template_function", "template_method", "primitive_type":
			out.Name = n
			out.Function = out.Function || w.Is(n, "operator_cast")
			return out
		case "function_declarator":
			out.Function = true
		case "pointer_declarator":
			out.Marks, out.Function = out.Marks+"*", false
		case "reference_declarator":
			out.Marks, out.Function = out.Marks+"&", false
		case "array_declarator":
			out.Marks, out.Function = out.Marks+"[]", false
		}
		next := w.Child(n, "declarator")
		if next == syntax.None {
			for c := range w.Children(n) {
				if w.Grammar.Named(w.Nodes[c].Symbol) && !w.Is(c, "type_qualifier", "ms_call_modifier", "attribute_specifier", "attribute_declaration", "ERROR") {
					next = c
					break
				}
			}
		}
		n = next
	}
	out.Name = syntax.None
	return out
}

// visibility: what is static, or in a namespace without name, is the file's
// own; in a class, what the last access specifier said.
func visibility(w *lang.Walk, n uint32) lang.Visibility {
	if a := w.Access(); a != "" {
		return a
	}
	if static(w, n) && w.Within() != lang.Class && w.Within() != lang.Struct {
		return lang.Private
	}
	return lang.Public
}

func specifier(w *lang.Walk, n uint32, types []string, words ...string) bool {
	for c := range w.Children(n) {
		if w.Is(c, types...) {
			for _, word := range words {
				if w.Word(c) == word {
					return true
				}
			}
		}
	}
	return false
}

func static(w *lang.Walk, n uint32) bool {
	return specifier(w, n, []string{"storage_class_specifier"}, "static")
}

func constant(w *lang.Walk, n uint32) bool {
	return specifier(w, n, []string{"type_qualifier", "storage_class_specifier"}, "const", "constexpr", "constinit")
}

// typeText is the type as written, with the marks of the declarator.
func typeText(w *lang.Walk, n uint32, marks string) string {
	t := w.Child(n, "type")
	if t == syntax.None {
		return ""
	}
	if body := w.Child(t, "body"); body != syntax.None {
		return ""
	}
	text := w.OneLine(t)
	if specifier(w, n, []string{"type_qualifier"}, "const") {
		text = "const " + text
	}
	if marks != "" {
		text += " " + marks
	}
	return text
}

// Function reads a function's definition, of C or C++.
func Function(w *lang.Walk, n uint32) {
	d := NameOf(w, w.Child(n, "declarator"))
	decl := lang.Decl{
		Node: n, Name: d.Name, Kind: lang.Function, Visibility: visibility(w, n), Body: w.Child(n, "body"), TypeText: typeText(w, n, strings.TrimSuffix(d.Marks, "[]")),
	}
	if d.Name == syntax.None {
		w.Enter(n, lang.Function, "")
		return
	}
	if within := w.Within(); !d.Function && (within == lang.Class || within == lang.Struct) {
		// "static inline int n = 0" looks like a pure virtual function
		decl.Kind, decl.Static, decl.Leaf = lang.Field, static(w, n), true
		w.Declare(decl)
		return
	}
	if steps := w.ChildOf(n, "field_initializer_list"); steps != syntax.None {
		decl.Body = steps
	}
	decl.TypeText = trailing(w, w.Child(n, "declarator"), decl.TypeText)
	classify(w, n, &decl)
	switch decl.Text {
	case "main", "wmain", "WinMain", "wWinMain":
		if w.Within() == "" && decl.Owner == "" {
			w.Start(lang.Start{Kind: "program", Line: w.Line(d.Name), Evidence: "defines " + decl.Text})
		}
	}
	w.Declare(decl)
}

// trailing is the type behind "->", where a declarator has one.
func trailing(w *lang.Walk, declarator uint32, otherwise string) string {
	if t := w.ChildOf(declarator, "trailing_return_type"); t != syntax.None {
		return strings.TrimSpace(strings.TrimPrefix(w.OneLine(t), "->"))
	}
	return otherwise
}

// classify tells functions from methods, constructors and operators, and whom
// one that is defined outside of its class belongs to.
func classify(w *lang.Walk, n uint32, d *lang.Decl) {
	name := d.Name
	for w.Is(name, "qualified_identifier") {
		scope, inner := w.Child(name, "scope"), w.Child(name, "name")
		if scope != syntax.None {
			owner, _, _ := strings.Cut(w.OneLine(scope), "<")
			if d.Owner != "" {
				owner = d.Owner + "::" + owner
			}
			d.Owner = owner
		}
		if inner == syntax.None {
			break
		}
		name = inner
	}
	d.Name, d.Text = name, strings.Join(strings.Fields(w.Word(name)), " ")
	if w.Is(name, "template_function", "template_method") {
		d.Text, _, _ = strings.Cut(d.Text, "<")
	}
	if w.Is(name, "operator_cast") {
		d.Text, _, _ = strings.Cut(d.Text, "(")
	}
	owner := d.Owner
	if within := w.Within(); owner == "" && (within == lang.Class || within == lang.Struct) {
		owner = w.Owner()
	}
	if owner == "" {
		if strings.HasPrefix(d.Text, "operator") && w.Is(name, "operator_name") {
			d.Kind = lang.Operator
		}
		return
	}
	if d.Owner == "" {
		d.Static = static(w, n)
	}
	d.Kind = lang.Method
	short := owner[strings.LastIndex(owner, ":")+1:]
	switch {
	case w.Is(name, "operator_name", "operator_cast"):
		d.Kind = lang.Operator
	case d.Text == short:
		d.Kind = lang.Constructor
	}
}

// declaration reads prototypes and variables outside of functions.
func declaration(w *lang.Walk, n uint32) {
	if w.Local() {
		return
	}
	for _, c := range w.InField(n, "declarator") {
		d := NameOf(w, c)
		if d.Name == syntax.None || w.Is(d.Name, "primitive_type") {
			continue
		}
		decl := lang.Decl{
			Node: n, Name: d.Name, Kind: lang.Variable, Visibility: visibility(w, n), TypeText: typeText(w, n, d.Marks), Value: w.Child(c, "value"), Leaf: true,
		}
		switch {
		case d.Function:
			decl.Kind, decl.Value, decl.TypeText = lang.Function, 0, trailing(w, c, decl.TypeText)
			classify(w, n, &decl)
		case constant(w, n) && !strings.Contains(d.Marks, "*"):
			decl.Kind = lang.Constant
		}
		if !d.Function && w.Is(d.Name, "qualified_identifier") {
			classify(w, n, &decl)
			decl.Kind = lang.Field
		}
		w.Declare(decl)
	}
}

// typedef names a type; a struct without a name of its own is that name's.
func typedef(w *lang.Walk, n uint32) {
	of := w.Child(n, "type")
	var whole *lang.Decl // declared last: its members follow
	for i, c := range w.InField(n, "declarator") {
		d := NameOf(w, c)
		if d.Name == syntax.None {
			continue
		}
		decl := lang.Decl{Node: n, Name: d.Name, Kind: lang.TypeName, Visibility: lang.Public, TypeText: typeText(w, n, d.Marks), Leaf: true}
		if body := w.Child(of, "body"); body != syntax.None {
			if w.Word(w.Child(of, "name")) == w.Word(d.Name) {
				continue // typedef struct S { … } S
			}
			if i == 0 && w.Child(of, "name") == syntax.None {
				decl.Kind, decl.Body, decl.TypeText, decl.Leaf = kindOf(w, of), body, "", false
				whole = &decl
				continue
			}
		}
		w.Declare(decl)
	}
	if whole != nil {
		w.Declare(*whole)
	}
}

func kindOf(w *lang.Walk, of uint32) lang.Kind {
	if w.Is(of, "enum_specifier") {
		return lang.Enum
	}
	return lang.Struct
}

// record is a struct, union or enumeration with a body.
func record(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		Record(w, n, kind, lang.Public)
	}
}

// Record declares a type with members; their visibility is the given one until
// an access specifier says otherwise.
func Record(w *lang.Walk, n uint32, kind lang.Kind, access lang.Visibility) {
	name, body := w.Child(n, "name"), w.Child(n, "body")
	if body == syntax.None {
		return
	}
	if name == syntax.None {
		// its members belong to what has this type, or else to what is around
		if p := w.Parent(n); w.Is(p, "field_declaration", "declaration") {
			if d := NameOf(w, w.Child(p, "declarator")); d.Name != syntax.None {
				w.Enter(n, lang.Struct, w.Word(d.Name))
			}
		}
		return
	}
	d := lang.Decl{Node: n, Name: name, Text: w.OneLine(name), Kind: kind, Visibility: lang.Public, Body: body}
	if a := w.Access(); a != "" {
		d.Visibility = a
	}
	if p := w.Parent(n); w.Is(p, "type_definition", "declaration", "field_declaration") && w.Nodes[p].Start == w.Nodes[n].Start {
		d.Around = p
	}
	w.Declare(d)
	w.SetAccess(access)
}

func field(w *lang.Walk, n uint32) {
	within := w.Within()
	if within != lang.Struct && within != lang.Class {
		return
	}
	for _, c := range w.InField(n, "declarator") {
		d := NameOf(w, c)
		if d.Name == syntax.None {
			continue
		}
		decl := lang.Decl{
			Node: n, Name: d.Name, Kind: lang.Field, Visibility: visibility(w, n), Static: static(w, n), TypeText: typeText(w, n, d.Marks),
			Value: w.Child(n, "default_value"), Leaf: true,
		}
		switch {
		case d.Function:
			decl.TypeText = trailing(w, c, decl.TypeText)
			classify(w, n, &decl)
		case static(w, n) && constant(w, n):
			decl.Kind = lang.Constant
		}
		w.Declare(decl)
	}
}

func enumerator(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.EnumMember, Visibility: lang.Public, Value: w.Child(n, "value"), Leaf: true})
}

// macro reads #define; a name that only guards its file against being included
// twice is none.
func macro(w *lang.Walk, n uint32) {
	name, value := w.Child(n, "name"), w.Child(n, "value")
	if p := w.Parent(n); value == syntax.None && w.Is(p, "preproc_ifdef") && w.Word(w.Child(p, "name")) == w.Word(name) {
		return
	}
	d := lang.Decl{Node: n, Name: name, Kind: lang.Macro, Visibility: lang.Public, Value: value, Leaf: true}
	if m := handsOn.FindStringSubmatch(w.Word(value)); m != nil && (m[2] != "" || w.Is(n, "preproc_def")) {
		d.Forwards = m[1]
	}
	w.Declare(d)
}

// handsOn is a macro's text that names another function, or calls one with
// plain names.
var handsOn = regexp.MustCompile(`^([A-Za-z_]\w*)(\(\s*(?:&?\w+\s*(?:,\s*&?\w+\s*)*)?\))?$`)

func include(w *lang.Walk, n uint32) {
	w.Import(n, lang.Import{Text: strings.TrimSpace(w.Word(w.Child(n, "path")))})
}

// registered is a name as a table gives it to another language.
var registered = regexp.MustCompile(`^"([A-Za-z_]\w*)"$`)

// registration reads an entry of a table at the top of a file: a name in quotes,
// then the function that it stands for. Such tables offer functions to other
// languages, or to whoever types a command.
func registration(w *lang.Walk, n uint32) {
	if w.Local() || !w.Is(w.Parent(n), "initializer_list") {
		return
	}
	var parts []uint32
	for c := range w.Children(n) {
		if w.Grammar.Named(w.Nodes[c].Symbol) && !w.Is(c, "comment") {
			parts = append(parts, c)
		}
	}
	if len(parts) < 2 {
		return
	}
	name := registered.FindStringSubmatch(w.Word(parts[0]))
	target := function(w, parts[1])
	if name == nil || target == "" {
		return
	}
	w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: name[1], Kind: lang.Key, Visibility: lang.Public, Leaf: true, Forwards: target})
	w.Defines(parts[0], name[1])
}

// function is the name that an expression takes a function by: the name alone,
// its address, or either behind a cast; "" for any other.
func function(w *lang.Walk, n uint32) string {
	for w.Is(n, "cast_expression", "parenthesized_expression", "pointer_expression") {
		inner := w.Child(n, "value")
		if inner == syntax.None {
			inner = w.Child(n, "argument")
		}
		if inner == syntax.None {
			inner = w.ChildOf(n, "identifier", "cast_expression", "pointer_expression")
		}
		if inner == syntax.None {
			return ""
		}
		n = inner
	}
	if w.Is(n, "identifier") && w.Word(n) != "NULL" && w.Word(n) != "nullptr" {
		return w.Word(n)
	}
	return ""
}
