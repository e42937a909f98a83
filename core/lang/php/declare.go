package php

import (
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

func steps(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") }

func namespace(w *lang.Walk, n uint32) {
	name, body := w.Child(n, "name"), w.Child(n, "body")
	w.Package(w.Word(name))
	w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Namespace, Visibility: lang.Public, Body: body, ToEnd: body == syntax.None})
}

// access is the visibility that a member's modifiers give it; without one it
// is public.
func access(w *lang.Walk, n uint32) lang.Visibility {
	switch w.Word(w.ChildOf(n, "visibility_modifier")) {
	case "private":
		return lang.Private
	case "protected":
		return lang.Protected
	}
	return lang.Public
}

func class(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: lang.Public, Body: w.Child(n, "body")})
	}
}

func enumCase(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.EnumMember, Visibility: lang.Public, Value: w.Child(n, "value"), Leaf: true})
}

func function(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Function, Visibility: lang.Public, Body: w.Child(n, "body"), Type: w.Child(n, "return_type")})
}

func method(w *lang.Walk, n uint32) {
	if w.Is(w.Parent(w.Parent(n)), "object_creation_expression") || w.Local() {
		steps(w, n) // a class without a name
		return
	}
	d := lang.Decl{
		Node: n, Name: w.Child(n, "name"), Kind: lang.Method, Visibility: access(w, n), Static: w.Has(n, "static_modifier"),
		Body: w.Child(n, "body"), Type: w.Child(n, "return_type"),
	}
	if w.Word(d.Name) == "__construct" {
		d.Kind = lang.Constructor
	}
	w.Declare(d)
}

func constants(w *lang.Walk, n uint32) {
	v := access(w, n)
	for c := range w.Children(n) {
		if w.Is(c, "const_element") {
			w.Declare(lang.Decl{Node: n, Name: w.ChildOf(c, "name"), Kind: lang.Constant, Visibility: v, Type: w.Child(n, "type"), Leaf: true})
		}
	}
}

func properties(w *lang.Walk, n uint32) {
	if w.Local() {
		return
	}
	for c := range w.Children(n) {
		if !w.Is(c, "property_element") {
			continue
		}
		name := w.ChildOf(w.ChildOf(c, "variable_name"), "name")
		w.Declare(lang.Decl{
			Node: n, Name: name, Kind: lang.Property, Visibility: access(w, n), Static: w.Has(n, "static_modifier"), Type: w.Child(n, "type"),
			Value: w.ChildOf(c, "property_initializer"), Leaf: true,
		})
	}
}

// promoted is a constructor's parameter that is a property as well.
func promoted(w *lang.Walk, n uint32) {
	name := w.ChildOf(w.Child(n, "name"), "name")
	if w.Within() == lang.Constructor {
		w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Property, Visibility: access(w, n), Type: w.Child(n, "type"), Leaf: true, Skip: true})
	}
}

// call finds constants that define() makes.
func call(w *lang.Walk, n uint32) {
	if w.Local() || w.Word(w.Child(n, "function")) != "define" {
		return
	}
	for c := range w.Children(w.Child(n, "arguments")) {
		if s := w.ChildOf(c, "string", "encapsed_string"); s != syntax.None {
			w.Declare(lang.Decl{Node: n, Name: s, Text: strings.Trim(w.Word(s), "\"'"), Kind: lang.Constant, Visibility: lang.Public, Leaf: true})
		}
		return
	}
}

// assignment finds the variables of a script's top level.
func assignment(w *lang.Walk, n uint32) {
	if within := w.Within(); within != "" && within != lang.Namespace || !w.Is(w.Parent(n), "expression_statement") {
		return
	}
	left, right := w.Child(n, "left"), w.Child(n, "right")
	if !w.Is(left, "variable_name") {
		return
	}
	d := lang.Decl{Node: n, Name: w.ChildOf(left, "name"), Kind: lang.Variable, Visibility: lang.Public, Value: right, Leaf: true, Once: true}
	if w.Is(right, "anonymous_function_creation_expression", "arrow_function") {
		d.Kind, d.Value, d.Body, d.Leaf = lang.Function, 0, w.Child(right, "body"), false
	}
	w.Declare(d)
}

func use(w *lang.Walk, n uint32) {
	prefix := w.Word(w.ChildOf(n, "namespace_name"))
	emit := func(c uint32, path string) {
		as := w.Word(w.ChildOf(w.ChildOf(c, "namespace_aliasing_clause"), "name"))
		w.Import(n, lang.Import{Text: path, Line: w.Line(c), EndLine: w.Line(c), Names: []lang.Imported{{Name: path[strings.LastIndexByte(path, '\\')+1:], As: as}}})
	}
	for c := range w.Children(n) {
		switch {
		case w.Is(c, "namespace_use_clause"):
			emit(c, w.Word(w.ChildOf(c, "qualified_name", "name")))
		case w.Is(c, "namespace_use_group"):
			for g := range w.Children(c) {
				if w.Is(g, "namespace_use_group_clause") {
					emit(g, prefix+"\\"+w.Word(w.ChildOf(g, "namespace_name")))
				}
			}
		}
	}
}

// include reads the path that a file is taken in by, as far as it is written.
func include(w *lang.Walk, n uint32) {
	text := ""
	for i := n; i < w.Nodes[n].Next; i++ {
		switch {
		case w.Is(i, "string", "encapsed_string"):
			text += strings.Trim(w.Word(i), "\"'")
		case w.Is(i, "name") && w.Word(i) == "__DIR__":
			text += "."
		}
	}
	w.Import(n, lang.Import{Text: text})
}
