// Package java describes Java to the survey.
package java

import (
	"strings"

	"github.com/smacker/go-tree-sitter/java"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Java.
var Language = lang.Language{Name: "Java", Extensions: []string{".java"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  java.GetLanguage,
	Comments: []string{"line_comment", "block_comment"},
	Tokens:   []string{"public", "protected", "private", "static", "final", "abstract", "default"},
	On: map[string]lang.Handler{
		"class_declaration":                   class(lang.Class),
		"interface_declaration":               class(lang.Interface),
		"enum_declaration":                    class(lang.Enum),
		"record_declaration":                  class(lang.Class),
		"annotation_type_declaration":         class(lang.Interface),
		"method_declaration":                  method,
		"annotation_type_element_declaration": method,
		"constructor_declaration":             method,
		"compact_constructor_declaration":     method,
		"field_declaration":                   fields,
		"constant_declaration":                fields,
		"enum_constant":                       enumConstant,
		"class_body":                          anonymous,
		"static_initializer":                  steps,
		"lambda_expression":                   steps,
		"method_invocation":                   invocation,
		"import_declaration":                  imports,
		"package_declaration":                 func(w *lang.Walk, n uint32) { w.Package(tight(w, w.ChildOf(n, "scoped_identifier", "identifier"))) },
		"module_declaration":                  module,
	},
	Strings: map[string][]string{"string_literal": nil, "character_literal": nil},
	Joins:   map[string]string{"binary_expression": "+", "parenthesized_expression": ""},
	Names:   map[string]lang.Role{"identifier": lang.Read, "type_identifier": lang.AsType},
	Roles: map[string]lang.Role{
		"method_invocation.name":          lang.Call,
		"field_access.field":              lang.OnOwner | lang.Up,
		"scoped_identifier.name":          lang.OnOwner | lang.Up,
		"scoped_identifier.scope":         lang.Up,
		"import_declaration.":             lang.Imports,
		"object_creation_expression.type": lang.Call,
		"generic_type.":                   lang.Up,
		"scoped_type_identifier.":         lang.Up,
		"assignment_expression.left":      lang.Write,
		"update_expression.":              lang.Write,
		"variable_declarator.name":        lang.Bind,
		"formal_parameter.name":           lang.Bind,
		"catch_formal_parameter.name":     lang.Bind,
		"enhanced_for_statement.name":     lang.Bind,
		"inferred_parameters.":            lang.Bind,
		"lambda_expression.parameters":    lang.Bind,
		"resource.name":                   lang.Bind,
		"annotation.name":                 lang.AsType,
		"marker_annotation.name":          lang.AsType,
		"method_reference.":               lang.Read,
	},
	Calls: map[string]lang.CallShape{
		"method_invocation":          {Function: "name", Object: "object", Arguments: "arguments"},
		"object_creation_expression": {Function: "type", Arguments: "arguments"},
		"annotation":                 {Function: "name", Arguments: "arguments"},
	},
	Assigns: map[string][2]string{"variable_declarator": {"name", "value"}, "assignment_expression": {"left", "right"}},
	Supers:  []string{"superclass", "super_interfaces", "extends_interfaces"},
	Effects: effects,
	Watch:   watch,
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "for_statement": lang.Branch, "enhanced_for_statement": lang.Branch, "while_statement": lang.Branch, "do_statement": lang.Branch,
		"catch_clause": lang.Branch, "ternary_expression": lang.Branch, "switch_expression": lang.Deeper, "switch_rule": lang.Arm,
		"switch_block_statement_group": lang.Arm, "&&": lang.Arm, "||": lang.Arm,
	},
	Annotations: []string{"annotation", "marker_annotation"},
	MarkedDocs:  true,
}

func steps(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") }

// invocation: with an object before it, a method is that object's.
func invocation(w *lang.Walk, n uint32) {
	if name := w.Child(n, "name"); name != syntax.None && w.Child(n, "object") != syntax.None {
		w.Owned(name)
	}
}

// anonymous: the members of a class without a name are steps of the code
// around it.
func anonymous(w *lang.Walk, n uint32) {
	if w.Is(w.Parent(n), "object_creation_expression", "enum_constant") {
		w.Enter(n, lang.Object, "")
	}
}

// modifiers are the words before a declaration.
func modifiers(w *lang.Walk, n uint32) map[string]bool {
	out := map[string]bool{}
	if m := w.ChildOf(n, "modifiers"); m != syntax.None {
		for c := range w.Children(m) {
			if !w.Is(c, "annotation", "marker_annotation") {
				out[w.Word(c)] = true
			}
		}
	}
	return out
}

func visibility(w *lang.Walk, mods map[string]bool) lang.Visibility {
	switch {
	case mods["public"]:
		return lang.Public
	case mods["protected"]:
		return lang.Protected
	case mods["private"]:
		return lang.Private
	case w.Within() == lang.Interface:
		return lang.Public
	}
	return lang.Internal
}

func class(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		mods := modifiers(w, n)
		d := lang.Decl{
			Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: visibility(w, mods), Body: w.Child(n, "body"),
			Static: mods["static"],
		}
		w.Declare(d)
		if !w.Is(n, "record_declaration") {
			return
		}
		for p := range w.Children(w.Child(n, "parameters")) {
			if name := w.Child(p, "name"); name != syntax.None {
				w.Declare(lang.Decl{Node: p, Name: name, Kind: lang.Field, Visibility: lang.Private, Type: w.Child(p, "type"), Leaf: true})
			}
		}
	}
}

func method(w *lang.Walk, n uint32) {
	if w.Within() == lang.Object {
		steps(w, n)
		return
	}
	mods := modifiers(w, n)
	d := lang.Decl{
		Node: n, Name: w.Child(n, "name"), Kind: lang.Method, Visibility: visibility(w, mods), Static: mods["static"],
		Body: w.Child(n, "body"), Type: w.Child(n, "type"),
	}
	if w.Is(n, "constructor_declaration", "compact_constructor_declaration") {
		d.Kind = lang.Constructor
		if w.Within() == lang.Enum {
			d.Visibility = lang.Private
		}
	}
	if w.Is(n, "annotation_type_element_declaration") {
		d.Body = 0
	}
	if w.Word(d.Name) == "main" && mods["public"] && mods["static"] && w.Word(d.Type) == "void" && strings.Contains(w.Word(w.Child(n, "parameters")), "String") {
		w.Start(lang.Start{Kind: "program", Line: w.Line(d.Name), Evidence: "public static void main"})
	}
	w.Declare(d)
}

func fields(w *lang.Walk, n uint32) {
	if w.Within() == lang.Object {
		return
	}
	mods := modifiers(w, n)
	inInterface := w.Within() == lang.Interface
	kind := lang.Field
	if inInterface || mods["static"] && mods["final"] {
		kind = lang.Constant
	}
	for _, v := range w.InField(n, "declarator") {
		w.Declare(lang.Decl{
			Node: n, Name: w.Child(v, "name"), Kind: kind, Visibility: visibility(w, mods), Static: mods["static"] || inInterface,
			Type: w.Child(n, "type"), Value: w.Child(v, "value"), Leaf: true,
		})
	}
}

func enumConstant(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.EnumMember, Visibility: lang.Public, Body: w.Child(n, "body"), Leaf: true})
}

func imports(w *lang.Walk, n uint32) {
	text := strings.Join(strings.Fields(w.Word(w.ChildOf(n, "scoped_identifier", "identifier"))), "")
	i := lang.Import{Text: text, Names: []lang.Imported{{Name: text[strings.LastIndexByte(text, '.')+1:]}}}
	if w.Has(n, "asterisk") {
		i.Text, i.Names = text+".*", []lang.Imported{{Name: "*"}}
	}
	w.Import(n, i)
}

func module(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Module, Body: w.Child(n, "body")})
}

// tight is a dotted name without the space that may stand inside.
func tight(w *lang.Walk, n uint32) string { return strings.Join(strings.Fields(w.OneLine(n)), "") }
