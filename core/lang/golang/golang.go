// Package golang describes Go to the survey.
package golang

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/smacker/go-tree-sitter/golang"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Go.
var Language = lang.Language{Name: "Go", Extensions: []string{".go"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  golang.GetLanguage,
	Comments: []string{"comment"},
	On: map[string]lang.Handler{
		"function_declaration": function,
		"method_declaration":   method,
		"type_spec":            typeSpec,
		"type_alias":           typeSpec,
		"const_spec":           values(lang.Constant),
		"var_spec":             values(lang.Variable),
		"field_declaration":    field,
		"method_elem":          member,
		"func_literal":         func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"package_clause":       func(w *lang.Walk, n uint32) { w.Package(w.Word(w.ChildOf(n, "package_identifier"))) },
		"import_spec":          importSpec,
		"type_elem":            embedded,
		"keyed_element":        key,
		"import_declaration":   func(w *lang.Walk, n uint32) { w.Fold(lang.ImportBlock, n) },
	},
	Strings: map[string][]string{"interpreted_string_literal": nil, "raw_string_literal": nil},
	Joins:   map[string]string{"binary_expression": "+", "parenthesized_expression": ""},
	Names: map[string]lang.Role{
		"identifier": lang.Read, "type_identifier": lang.AsType, "field_identifier": lang.Read, "package_identifier": lang.Read,
	},
	Roles: map[string]lang.Role{
		"call_expression.function":            lang.Call,
		"selector_expression.field":           lang.OnOwner | lang.Up,
		"qualified_type.name":                 lang.OnOwner,
		"expression_list.":                    lang.Up,
		"short_var_declaration.left":          lang.Bind,
		"range_clause.left":                   lang.Bind,
		"assignment_statement.left":           lang.Write,
		"inc_statement.":                      lang.Write,
		"dec_statement.":                      lang.Write,
		"parameter_declaration.name":          lang.Bind,
		"variadic_parameter_declaration.name": lang.Bind,
		"type_parameter_declaration.name":     lang.Bind,
		"var_spec.name":                       lang.Bind,
		"const_spec.name":                     lang.Bind,
		"keyed_element.":                      lang.Up,
		"import_spec.name":                    lang.Imports,
	},
	Calls: map[string]lang.CallShape{
		"call_expression":   {Function: "function", Arguments: "arguments"},
		"composite_literal": {Function: "type", Arguments: "body"},
	},
	Assigns: map[string][2]string{
		"short_var_declaration": {"left", "right"}, "assignment_statement": {"left", "right"}, "const_spec": {"name", "value"}, "var_spec": {"name", "value"},
	},
	Effects: effects,
	Watch:   watch,
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "for_statement": lang.Branch, "expression_switch_statement": lang.Deeper, "type_switch_statement": lang.Deeper,
		"select_statement": lang.Deeper, "expression_case": lang.Arm, "type_case": lang.Arm, "communication_case": lang.Arm, "&&": lang.Arm, "||": lang.Arm,
	},
}

// visibility: what begins with a capital letter is exported.
func visibility(name string) lang.Visibility {
	if r, _ := utf8.DecodeRuneInString(name); unicode.IsUpper(r) {
		return lang.Public
	}
	return lang.Internal
}

func function(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	if w.Word(name) == "_" {
		w.Enter(n, lang.Function, "")
		return
	}
	if w.Word(name) == "main" && packageName(w) == "main" {
		s := lang.Start{Kind: "program", Line: w.Line(name), Evidence: "package main with func main"}
		if ignored.Match(w.Text[:w.Nodes[w.ChildOf(0, "package_clause")].Start]) {
			s.Kind, s.Evidence = "script", "func main in a file that the build leaves out"
		}
		w.Start(s)
	}
	w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Function, Visibility: visibility(w.Word(name)), Body: w.Child(n, "body"), Type: w.Child(n, "result")})
}

// ignored is the constraint by which a file is left out of every build.
var ignored = regexp.MustCompile(`(?m)^//(?:go:build|\s*\+build) ignore\s*$`)

func packageName(w *lang.Walk) string {
	return w.Word(w.ChildOf(w.ChildOf(0, "package_clause"), "package_identifier"))
}

func method(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	w.Declare(lang.Decl{
		Node: n, Name: name, Kind: lang.Method, Visibility: visibility(w.Word(name)), Body: w.Child(n, "body"), Type: w.Child(n, "result"),
		Owner: receiver(w, w.Child(n, "receiver")),
	})
}

// receiver is the name of the type that a method belongs to.
func receiver(w *lang.Walk, list uint32) string {
	if list == syntax.None {
		return ""
	}
	for i := list; i < w.Nodes[list].Next; i++ {
		if w.Is(i, "type_identifier") {
			return w.Word(i)
		}
	}
	return ""
}

func typeSpec(w *lang.Walk, n uint32) {
	name, of := w.Child(n, "name"), w.Child(n, "type")
	if w.Word(name) == "_" {
		return
	}
	d := lang.Decl{Node: n, Name: name, Kind: lang.TypeName, Visibility: visibility(w.Word(name)), Type: of}
	switch {
	case w.Is(of, "struct_type"):
		d.Kind, d.Body, d.Type = lang.Struct, w.ChildOf(of, "field_declaration_list"), 0
	case w.Is(of, "interface_type"):
		d.Kind, d.Body, d.Type = lang.Interface, of, 0
	}
	d.Around = alone(w, n, "type_declaration")
	w.Declare(d)
}

// alone is the declaration around a spec, if it stands there by itself.
func alone(w *lang.Walk, n uint32, around string) uint32 {
	if p := w.Parent(n); w.Is(p, around) && w.Nodes[p].Row == w.Nodes[n].Row {
		return p
	}
	return n
}

func values(kind lang.Kind) lang.Handler {
	around := map[lang.Kind]string{lang.Constant: "const_declaration", lang.Variable: "var_declaration"}[kind]
	return func(w *lang.Walk, n uint32) {
		for _, name := range w.InField(n, "name") {
			if !w.Is(name, "identifier") || w.Word(name) == "_" {
				continue
			}
			w.Declare(lang.Decl{
				Node: n, Name: name, Kind: kind, Visibility: visibility(w.Word(name)), Type: w.Child(n, "type"), Value: w.Child(n, "value"),
				Around: alone(w, n, around), Leaf: true,
			})
		}
	}
}

func field(w *lang.Walk, n uint32) {
	if w.Within() != lang.Struct {
		return // an anonymous struct's
	}
	of := w.Child(n, "type")
	names := w.InField(n, "name")
	for _, name := range names {
		w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Field, Visibility: visibility(w.Word(name)), Type: of, Leaf: true})
	}
	if len(names) == 0 {
		embedded := w.Word(of)
		embedded, _, _ = strings.Cut(embedded, "[")
		embedded = embedded[strings.LastIndexByte(embedded, '.')+1:]
		w.Super(embeddedName(w.Word(of)))
		w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: embedded, Kind: lang.Field, Visibility: visibility(embedded), Type: of, Leaf: true})
	}
}

// embedded is an interface, or a set of types, named inside an interface.
func embedded(w *lang.Walk, n uint32) {
	if w.Within() == lang.Interface && !w.Local() && !strings.ContainsAny(w.Word(n), "|~") {
		w.Super(embeddedName(w.Word(n)))
	}
}

func embeddedName(of string) string {
	name, _, _ := strings.Cut(of, "[")
	return strings.TrimLeft(name, "*")
}

func member(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	if w.Within() == lang.Interface {
		w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Method, Visibility: visibility(w.Word(name)), Type: w.Child(n, "result"), Leaf: true})
	}
}

// key: the first part of "key: value" names a field, unless the literal is a
// map's; which of them it is, only types tell.
func key(w *lang.Walk, n uint32) {
	first := n + 1
	if w.Is(first, "literal_element") {
		first++
	}
	if w.Is(first, "identifier") && w.Nodes[first].Start == w.Nodes[n].Start {
		w.Keyed(first)
	}
}

func importSpec(w *lang.Walk, n uint32) {
	i := lang.Import{Text: strings.Trim(w.Word(w.Child(n, "path")), "\"`")}
	if as := w.Word(w.Child(n, "name")); as != "" {
		i.Names = []lang.Imported{{Name: i.Text[strings.LastIndexByte(i.Text, '/')+1:], As: as}}
	}
	w.Import(n, i)
}
