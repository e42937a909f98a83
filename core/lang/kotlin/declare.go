package kotlin

import (
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

func steps(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") }

func visibility(w *lang.Walk, n uint32) lang.Visibility {
	switch w.Word(w.ChildOf(w.ChildOf(n, "modifiers"), "visibility_modifier")) {
	case "private":
		return lang.Private
	case "protected":
		return lang.Protected
	case "internal":
		return lang.Internal
	}
	return lang.Public
}

func class(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.ChildOf(n, "type_identifier", "simple_identifier"), Kind: lang.Class, Visibility: visibility(w, n), Body: w.ChildOf(n, "class_body", "enum_class_body")}
	switch {
	case w.HasWord(n, "interface"):
		d.Kind = lang.Interface
	case w.HasWord(n, "enum") || w.Is(d.Body, "enum_class_body"):
		d.Kind = lang.Enum
	}
	w.Declare(d)
	for p := range w.Children(w.ChildOf(n, "primary_constructor")) {
		if !w.Is(p, "class_parameter") || !w.Has(p, "binding_pattern_kind") {
			continue
		}
		w.Declare(lang.Decl{Node: p, Name: w.ChildOf(p, "simple_identifier"), Kind: lang.Property, Visibility: visibility(w, p), Type: typeOf(w, p), Leaf: true})
	}
}

func typeOf(w *lang.Walk, n uint32) uint32 {
	return w.ChildOf(n, "user_type", "nullable_type", "function_type", "parenthesized_type")
}

// typeAfter is the type that a declaration gives behind the given child.
func typeAfter(w *lang.Walk, n, after uint32) uint32 {
	if after == syntax.None {
		return syntax.None
	}
	for c := range w.Children(n) {
		if c > after && w.Is(c, "user_type", "nullable_type", "function_type", "parenthesized_type") {
			return c
		}
	}
	return syntax.None
}

func object(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.ChildOf(n, "type_identifier", "simple_identifier"), Kind: lang.Object, Visibility: visibility(w, n), Body: w.ChildOf(n, "class_body"), Static: true}
	if d.Name == syntax.None {
		d.Text = "Companion"
	}
	w.Declare(d)
}

// receiver is the type that an extension belongs to: it stands before the name.
func receiver(w *lang.Walk, n, name uint32) string {
	for c := range w.Children(n) {
		if c < name && w.Is(c, "user_type", "nullable_type") {
			text, _, _ := strings.Cut(w.OneLine(c), "<")
			return strings.TrimSuffix(text, "?")
		}
	}
	return ""
}

func function(w *lang.Walk, n uint32) {
	name := w.ChildOf(n, "simple_identifier")
	if name == syntax.None {
		return
	}
	d := lang.Decl{Node: n, Name: name, Kind: lang.Function, Visibility: visibility(w, n), Body: w.ChildOf(n, "function_body"), Type: typeAfter(w, n, w.ChildOf(n, "function_value_parameters"))}
	d.Owner = receiver(w, n, name)
	if d.Owner != "" || w.Within() != "" && !w.Local() {
		d.Kind = lang.Method
	}
	if w.Word(name) == "main" && w.Within() == "" {
		w.Start(lang.Start{Kind: "program", Line: w.Line(name), Evidence: "fun main at the top of a file"})
	}
	w.Declare(d)
}

func constructor(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: "constructor", Kind: lang.Constructor, Visibility: visibility(w, n), Body: w.ChildOf(n, "statements")})
}

func property(w *lang.Walk, n uint32) {
	kind := lang.Property
	if strings.Contains(w.Word(w.ChildOf(n, "modifiers")), "const") {
		kind = lang.Constant
	} else if w.Within() == "" && receiver(w, n, w.ChildOf(n, "variable_declaration")) == "" {
		kind = lang.Variable
		if w.Word(w.ChildOf(n, "binding_pattern_kind")) == "val" {
			kind = lang.Constant
		}
	}
	list := n
	if m := w.ChildOf(n, "multi_variable_declaration"); m != syntax.None {
		list = m
	}
	for v := range w.Children(list) {
		if !w.Is(v, "variable_declaration") {
			continue
		}
		w.Declare(lang.Decl{
			Node: n, Name: w.ChildOf(v, "simple_identifier"), Kind: kind, Visibility: visibility(w, n), Type: typeOf(w, v), Owner: receiver(w, n, v),
			Body: w.ChildOf(n, "getter", "setter"), Inside: lang.Method, Leaf: list != n,
		})
	}
}

func enumEntry(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "simple_identifier"), Kind: lang.EnumMember, Visibility: lang.Public, Body: w.ChildOf(n, "class_body"), Inside: lang.Class})
}

func alias(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "type_identifier"), Kind: lang.TypeName, Visibility: visibility(w, n), Type: typeOf(w, n), Leaf: true})
}

func imports(w *lang.Walk, n uint32) {
	text := strings.Join(strings.Fields(w.Word(w.ChildOf(n, "identifier"))), "")
	i := lang.Import{Text: text, Names: []lang.Imported{{Name: text[strings.LastIndexByte(text, '.')+1:], As: w.Word(w.ChildOf(w.ChildOf(n, "import_alias"), "type_identifier"))}}}
	i.Line, i.EndLine = w.Line(n), w.Line(n)
	if w.Has(n, "wildcard_import") {
		i.Text, i.Names = text+".*", []lang.Imported{{Name: "*"}}
	}
	w.Import(n, i)
}
