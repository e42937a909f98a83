package csharp

import (
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

func steps(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") }

func modifiers(w *lang.Walk, n uint32) map[string]bool {
	out := map[string]bool{}
	for c := range w.Children(n) {
		if w.Is(c, "modifier") {
			out[w.Word(c)] = true
		}
	}
	return out
}

// visibility: without a word, a type is its assembly's and a member its
// class's own; an interface's members are public.
func visibility(w *lang.Walk, mods map[string]bool) lang.Visibility {
	switch {
	case mods["public"]:
		return lang.Public
	case mods["protected"]:
		return lang.Protected
	case mods["internal"] || mods["file"]:
		return lang.Internal
	case mods["private"]:
		return lang.Private
	}
	switch w.Within() {
	case lang.Interface, lang.Enum:
		return lang.Public
	case lang.Class, lang.Struct:
		return lang.Private
	}
	return lang.Internal
}

func namespace(w *lang.Walk, n uint32) {
	w.Package(w.Word(w.Child(n, "name")))
	w.Declare(lang.Decl{
		Node: n, Name: w.Child(n, "name"), Kind: lang.Namespace, Visibility: lang.Public, Body: w.Child(n, "body"), ToEnd: w.Is(n, "file_scoped_namespace_declaration"),
	})
}

func class(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		mods := modifiers(w, n)
		d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: visibility(w, mods), Static: mods["static"], Body: w.Child(n, "body")}
		if w.Is(n, "record_declaration") && w.HasWord(n, "struct") {
			d.Kind = lang.Struct
		}
		w.Declare(d)
		if !w.Is(n, "record_declaration") {
			return
		}
		for p := range w.Children(w.ChildOf(n, "parameter_list")) {
			if name := w.Child(p, "name"); name != syntax.None {
				w.Declare(lang.Decl{Node: p, Name: name, Kind: lang.Property, Visibility: lang.Public, Type: w.Child(p, "type"), Leaf: true})
			}
		}
	}
}

func enumMember(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.EnumMember, Visibility: lang.Public, Value: w.Child(n, "value"), Leaf: true})
}

func method(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		mods := modifiers(w, n)
		d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: visibility(w, mods), Static: mods["static"], Body: w.Child(n, "body"), Type: w.Child(n, "returns")}
		if d.Type == syntax.None {
			d.Type = w.Child(n, "type")
		}
		switch {
		case w.Is(n, "destructor_declaration"):
			d.Text = "~" + w.Word(d.Name)
		case w.Is(n, "operator_declaration"):
			d.Text, d.Name = "operator "+w.Word(w.Child(n, "operator")), syntax.None
		case w.Is(n, "conversion_operator_declaration"):
			d.Text, d.Name = "operator "+w.OneLine(d.Type), syntax.None
		case w.Is(n, "local_function_statement"):
			d.Visibility = ""
		}
		if d.Static && d.Text == "" && w.Word(d.Name) == "Main" {
			w.Start(lang.Start{Kind: "program", Line: w.Line(d.Name), Evidence: "static Main"})
		}
		w.Declare(d)
	}
}

func property(w *lang.Walk, n uint32) {
	mods := modifiers(w, n)
	d := lang.Decl{
		Node: n, Name: w.Child(n, "name"), Kind: lang.Property, Visibility: visibility(w, mods), Static: mods["static"], Type: w.Child(n, "type"),
		Body: w.Child(n, "accessors"), Value: w.Child(n, "value"), Inside: lang.Method,
	}
	switch {
	case w.Is(n, "indexer_declaration"):
		d.Name, d.Text = syntax.None, "this[]"
	case w.Is(n, "event_declaration"):
		d.Kind = lang.Event
	}
	w.Declare(d)
}

func fields(w *lang.Walk, n uint32) {
	mods := modifiers(w, n)
	kind := lang.Field
	switch {
	case w.Is(n, "event_field_declaration"):
		kind = lang.Event
	case mods["const"] || mods["static"] && mods["readonly"]:
		kind = lang.Constant
	}
	list := w.ChildOf(n, "variable_declaration")
	for v := range w.Children(list) {
		if w.Is(v, "variable_declarator") {
			w.Declare(lang.Decl{
				Node: n, Name: w.Child(v, "name"), Kind: kind, Visibility: visibility(w, mods), Static: mods["static"] || mods["const"], Type: w.Child(list, "type"), Leaf: true,
			})
		}
	}
}

func delegate(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.TypeName, Visibility: visibility(w, modifiers(w, n)), Type: w.Child(n, "type"), Leaf: true})
}

// using reads "using A.B", "using static A.B" and "using X = A.B".
func using(w *lang.Walk, n uint32) {
	alias := w.Word(w.Child(n, "name"))
	text := ""
	for c := range w.Children(n) {
		if w.Grammar.Named(w.Nodes[c].Symbol) && c != w.Child(n, "name") {
			text = strings.Join(strings.Fields(w.Word(c)), "")
		}
	}
	i := lang.Import{Text: text, Reexport: w.HasWord(n, "global")}
	switch {
	case alias != "":
		i.Names = []lang.Imported{{Name: text[strings.LastIndexByte(text, '.')+1:], As: alias}}
	default:
		i.Names = []lang.Imported{{Name: "*"}}
	}
	w.Import(n, i)
}
