// Package rust describes Rust to the survey.
package rust

import (
	"strings"

	"github.com/smacker/go-tree-sitter/rust"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Rust.
var Language = lang.Language{Name: "Rust", Extensions: []string{".rs"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  rust.GetLanguage,
	Comments: []string{"line_comment", "block_comment"},
	On: map[string]lang.Handler{
		"function_item":            function,
		"function_signature_item":  function,
		"struct_item":              item(lang.Struct),
		"union_item":               item(lang.Struct),
		"enum_item":                item(lang.Enum),
		"trait_item":               item(lang.Trait),
		"mod_item":                 item(lang.Module),
		"type_item":                item(lang.TypeName),
		"associated_type":          item(lang.TypeName),
		"macro_definition":         item(lang.Macro),
		"const_item":               item(lang.Constant),
		"static_item":              item(lang.Variable),
		"field_declaration":        item(lang.Field),
		"enum_variant":             item(lang.EnumMember),
		"impl_item":                implementation,
		"closure_expression":       func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"use_declaration":          use,
		"extern_crate_declaration": externCrate,
	},
	Strings: map[string][]string{"string_literal": nil, "raw_string_literal": nil},
	Names:   map[string]lang.Role{"identifier": lang.Read, "type_identifier": lang.AsType, "field_identifier": lang.Read, "shorthand_field_identifier": lang.Read},
	Roles: map[string]lang.Role{
		"call_expression.function":      lang.Call,
		"macro_invocation.macro":        lang.Call,
		"field_expression.field":        lang.OnOwner | lang.Up,
		"scoped_identifier.name":        lang.OnOwner | lang.Up,
		"scoped_type_identifier.name":   lang.OnOwner,
		"generic_function.function":     lang.Up,
		"assignment_expression.left":    lang.Write,
		"compound_assignment_expr.left": lang.Write,
		"let_declaration.pattern":       lang.Bind,
		"parameter.pattern":             lang.Bind,
		"for_expression.pattern":        lang.Bind,
		"closure_parameters.":           lang.Bind,
		"tuple_pattern.":                lang.Up,
		"mut_pattern.":                  lang.Up,
		"ref_pattern.":                  lang.Up,
		"use_declaration.argument":      lang.Imports,
		"use_list.":                     lang.Imports,
		"use_as_clause.path":            lang.Imports,
		"use_as_clause.alias":           lang.Imports,
		"scoped_use_list.path":          lang.Imports,
	},
	Calls:   map[string]lang.CallShape{"call_expression": {Function: "function", Arguments: "arguments"}},
	Assigns: map[string][2]string{"let_declaration": {"pattern", "value"}, "const_item": {"name", "value"}, "static_item": {"name", "value"}},
	Effects: effects,
	Decisions: map[string]lang.Decision{
		"if_expression": lang.Branch, "for_expression": lang.Branch, "while_expression": lang.Branch, "loop_expression": lang.Branch,
		"match_expression": lang.Deeper, "match_arm": lang.Arm, "&&": lang.Arm, "||": lang.Arm,
	},
	Annotations: []string{"attribute_item"},
	Leading:     []string{"attribute_item"},
	Separator:   "::",
	MarkedDocs:  true,
}

// visibility: without a word an item is its module's own; a trait's members,
// and those of its implementations, are as public as the trait.
func visibility(w *lang.Walk, n uint32) lang.Visibility {
	m := w.ChildOf(n, "visibility_modifier")
	switch {
	case m != syntax.None && w.Word(m) == "pub":
		return lang.Public
	case m != syntax.None:
		return lang.Internal
	case w.Within() == lang.Trait || w.Within() == lang.Enum || w.Within() == lang.EnumMember || w.Access() == lang.Public:
		return lang.Public
	}
	return lang.Private
}

func item(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		d := lang.Decl{
			Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: visibility(w, n), Body: w.Child(n, "body"), Type: w.Child(n, "type"), Value: w.Child(n, "value"),
		}
		if kind == lang.Macro {
			d.Body = w.ChildOf(n, "macro_rule")
			d.Leaf = true
		}
		if kind == lang.Struct || kind == lang.Enum || kind == lang.Trait || kind == lang.Module {
			d.Type = 0
		}
		if kind == lang.Module && d.Body == syntax.None {
			// the module's text is a file of its own
			w.Import(n, lang.Import{Text: "self::" + w.Word(d.Name), Names: []lang.Imported{{Name: w.Word(d.Name)}}})
		}
		if kind == lang.EnumMember || kind == lang.Struct && !w.Is(d.Body, "field_declaration_list") {
			d.Body = 0
		}
		w.Declare(d)
	}
}

func function(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Function, Visibility: visibility(w, n), Body: w.Child(n, "body"), Type: w.Child(n, "return_type")}
	if within := w.Within(); within == lang.Trait || within == lang.Class {
		d.Kind = lang.Method
		d.Static = w.ChildOf(w.Child(n, "parameters"), "self_parameter") == syntax.None
	}
	if w.Parent(n) == 0 && w.Word(d.Name) == "main" {
		w.Start(lang.Start{Kind: "program", Line: w.Line(d.Name), Evidence: "fn main at the crate's root"})
	}
	w.Declare(d)
}

// implementation: what is inside belongs to the type.
func implementation(w *lang.Walk, n uint32) {
	owner, _, _ := strings.Cut(w.OneLine(w.Child(n, "type")), "<")
	w.Enter(n, lang.Class, strings.TrimSpace(owner))
	if trait := w.Child(n, "trait"); trait != syntax.None {
		name, _, _ := strings.Cut(w.OneLine(trait), "<")
		w.SuperOf(strings.TrimSpace(owner), name)
		w.SetAccess(lang.Public)
	}
	w.Fold(lang.BodyBlock, w.Child(n, "body"))
}

// use reads one import for each leaf of the tree of names.
func use(w *lang.Walk, n uint32) {
	reexport := w.Has(n, "visibility_modifier")
	leaves(w, w.Child(n, "argument"), "", func(at uint32, path string, as string) {
		name := path[strings.LastIndex(path, ":")+1:]
		w.Import(n, lang.Import{Text: path, Line: w.Line(at), EndLine: w.Line(at), Names: []lang.Imported{{Name: name, As: as}}, Reexport: reexport})
	})
}

func leaves(w *lang.Walk, n uint32, prefix string, each func(at uint32, path, as string)) {
	if n == syntax.None || w.Is(n, "line_comment", "block_comment") {
		return
	}
	path := func(part uint32) string {
		text := strings.Join(strings.Fields(w.Word(part)), "")
		switch {
		case prefix == "":
			return text
		case text == "self":
			return prefix
		case text == "":
			return prefix
		}
		return prefix + "::" + text
	}
	switch w.Type(n) {
	case "use_as_clause":
		each(n, path(w.Child(n, "path")), w.Word(w.Child(n, "alias")))
	case "use_wildcard":
		inner := ""
		for c := range w.Children(n) {
			if w.Grammar.Named(w.Nodes[c].Symbol) {
				inner = path(c)
			}
		}
		if inner == "" {
			inner = prefix
		}
		each(n, inner+"::*", "")
	case "use_list":
		for c := range w.Children(n) {
			if w.Grammar.Named(w.Nodes[c].Symbol) {
				leaves(w, c, prefix, each)
			}
		}
	case "scoped_use_list":
		leaves(w, w.Child(n, "list"), path(w.Child(n, "path")), each)
	default:
		each(n, path(n), "")
	}
}

func externCrate(w *lang.Walk, n uint32) {
	name := w.Word(w.Child(n, "name"))
	w.Import(n, lang.Import{Text: name, Names: []lang.Imported{{Name: name, As: w.Word(w.Child(n, "alias"))}}})
}
