package javascript

import (
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

func steps(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") }

// Top tells a module's visibility: what is exported is public, all else is the
// module's own. Names that an export list offers are mended at the end.
func Top(w *lang.Walk, n uint32) lang.Visibility {
	for p := w.Parent(n); p != syntax.None; p = w.Parent(p) {
		if w.Is(p, "export_statement") {
			return lang.Public
		}
		if !w.Is(p, "lexical_declaration", "variable_declaration", "ambient_declaration", "expression_statement") {
			break
		}
	}
	if w.Within() == "" {
		return lang.Private
	}
	return ""
}

func function(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Function, Visibility: Top(w, n), Body: w.Child(n, "body"), Type: TypeOf(w, n, "return_type")}
	if w.Local() {
		d.Visibility = ""
	}
	w.Declare(d)
}

// TypeOf is the type of an annotation ": T".
func TypeOf(w *lang.Walk, n uint32, name string) uint32 {
	a := w.Child(n, name)
	if a == syntax.None || !w.Is(a, "type_annotation") {
		return a
	}
	last := a
	for c := range w.Children(a) {
		last = c
	}
	return last
}

func class(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Class, Visibility: Top(w, n), Body: w.Child(n, "body")})
}

// anonymousClass is a class expression; a variable or an export gives it its
// name, and has declared it already. All others are steps.
func anonymousClass(w *lang.Walk, n uint32) {
	if p := w.Parent(n); w.Is(p, "variable_declarator", "export_statement", "assignment_expression") && !w.Local() {
		return
	}
	w.Enter(n, lang.Function, "")
}

// member is the visibility of a class's member, and whether it is static.
func member(w *lang.Walk, n uint32) (lang.Visibility, bool) {
	v, static := lang.Public, w.Has(n, "static")
	switch word := w.Word(w.ChildOf(n, "accessibility_modifier")); {
	case word == "private" || w.Is(w.Child(n, "name"), "private_property_identifier") || w.Is(w.Child(n, "property"), "private_property_identifier"):
		v = lang.Private
	case word == "protected":
		v = lang.Protected
	}
	return v, static
}

// nameOf is a member's name as it is called: quotes are not part of it.
func nameOf(w *lang.Walk, name uint32) string {
	text := w.Word(name)
	switch {
	case w.Is(name, "string"):
		return strings.Trim(text, "\"'")
	case w.Is(name, "computed_property_name"):
		return strings.Join(strings.Fields(text), " ")
	}
	return text
}

// inClass tells whether a node stands directly in the body of a class that is
// in the outline.
func inClass(w *lang.Walk, n uint32) bool {
	return w.Is(w.Parent(n), "class_body") && w.Within() == lang.Class
}

// inObject tells whether a node stands directly in an object that is a
// declared thing's value.
func inObject(w *lang.Walk, n uint32) bool {
	o := w.Parent(n)
	return w.Is(o, "object") && !w.Local() && w.Is(w.Parent(o), "variable_declarator", "export_statement", "assignment_expression") && w.Within() == lang.Object
}

func method(w *lang.Walk, n uint32) {
	if !inClass(w, n) && !inObject(w, n) {
		steps(w, n)
		return
	}
	d := Member(w, n, lang.Method)
	d.Body, d.Type = w.Child(n, "body"), TypeOf(w, n, "return_type")
	switch {
	case d.Text == "constructor" && w.Within() == lang.Class && !d.Static:
		d.Kind = lang.Constructor
	case w.Has(n, "get", "set"):
		d.Kind, d.Inside = lang.Property, lang.Method
	}
	w.Declare(d)
	if d.Kind == lang.Constructor {
		parameterProperties(w, w.Child(n, "parameters"))
	}
}

// Member is a member of a class or interface, without type and body.
func Member(w *lang.Walk, n uint32, kind lang.Kind) lang.Decl {
	name := w.Child(n, "name")
	if name == syntax.None {
		name = w.Child(n, "property")
	}
	v, static := member(w, n)
	return lang.Decl{Node: n, Name: name, Text: nameOf(w, name), Kind: kind, Visibility: v, Static: static}
}

// parameterProperties are a constructor's parameters that are fields as well.
func parameterProperties(w *lang.Walk, list uint32) {
	for p := range w.Children(list) {
		name := w.Child(p, "pattern")
		if w.Is(name, "identifier") && (w.Has(p, "accessibility_modifier", "readonly", "override_modifier")) {
			v, _ := member(w, p)
			w.Declare(lang.Decl{Node: p, Name: name, Kind: lang.Property, Visibility: v, Type: TypeOf(w, p, "type"), Leaf: true, Skip: true})
		}
	}
}

// Field reads a class's field: "name = value", or one that holds a function.
func Field(w *lang.Walk, n uint32) {
	if !inClass(w, n) {
		return
	}
	d := Member(w, n, lang.Property)
	d.Type, d.Value = TypeOf(w, n, "type"), w.Child(n, "value")
	if held := w.Child(n, "value"); isFunction(w, held) {
		d.Kind, d.Body, d.Value, d.Type = lang.Method, w.Child(held, "body"), 0, TypeOf(w, held, "return_type")
	}
	w.Declare(d)
}

func isFunction(w *lang.Walk, n uint32) bool {
	return w.Is(n, "arrow_function", "function_expression", "generator_function")
}

// pair is "name: function" in an object that is a declared thing's value.
func pair(w *lang.Walk, n uint32) {
	held := w.Child(n, "value")
	if !inObject(w, n) || !isFunction(w, held) {
		return
	}
	key := w.Child(n, "key")
	w.Declare(lang.Decl{Node: n, Name: key, Text: nameOf(w, key), Kind: lang.Method, Body: w.Child(held, "body"), Type: TypeOf(w, held, "return_type")})
}

// variable reads one name of a declaration, or the names of a pattern.
func variable(w *lang.Walk, v uint32) {
	n := w.Parent(v)
	if !w.Is(n, "lexical_declaration", "variable_declaration") || w.Is(w.Parent(n), "for_statement") {
		return
	}
	kind := lang.Variable
	if w.Has(n, "const") {
		kind = lang.Constant
	}
	around := n
	if w.Is(w.Parent(n), "export_statement") {
		around = w.Parent(n)
	}
	if w.Nodes[v].Row != w.Nodes[n].Row {
		around = v // one of several, on a line of its own
	}
	value := w.Child(v, "value")
	visibility := Top(w, n)
	names(w, w.Child(v, "name"), func(name uint32) {
		d := lang.Decl{Node: v, Around: around, Name: name, Kind: kind, Visibility: visibility, Value: value, Type: TypeOf(w, v, "type"), Leaf: true}
		if name == w.Child(v, "name") {
			held(w, &d, value)
		}
		w.Declare(d)
	})
}

// held looks at what a name holds: a function or a class makes it one.
func held(w *lang.Walk, d *lang.Decl, value uint32) {
	switch {
	case isFunction(w, value):
		d.Kind, d.Value, d.Body, d.Type, d.Leaf = lang.Function, 0, w.Child(value, "body"), TypeOf(w, value, "return_type"), false
	case w.Is(value, "class"):
		d.Kind, d.Value, d.Body, d.Leaf = lang.Class, 0, w.Child(value, "body"), false
	case w.Is(value, "object") && !w.Local():
		d.Inside, d.Leaf = lang.Object, false
	}
}

// names are the plain names that a pattern binds.
func names(w *lang.Walk, n uint32, each func(uint32)) {
	switch {
	case w.Is(n, "identifier", "shorthand_property_identifier_pattern"):
		each(n)
	case w.Is(n, "object_pattern", "array_pattern", "rest_pattern"):
		for c := range w.Children(n) {
			names(w, c, each)
		}
	case w.Is(n, "pair_pattern"):
		names(w, w.Child(n, "value"), each)
	case w.Is(n, "object_assignment_pattern", "assignment_pattern"):
		names(w, w.Child(n, "left"), each)
	}
}
