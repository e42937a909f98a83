// Package cpp describes C++ to the survey.
package cpp

import (
	"strings"

	"github.com/smacker/go-tree-sitter/cpp"

	"juxtagram/core/lang"
	"juxtagram/core/lang/c"
	"juxtagram/core/syntax"
)

// Language is C++.
var Language = lang.Language{
	Name:       "C++",
	Extensions: []string{".cpp", ".cc", ".cxx", ".hpp", ".hh", ".hxx", ".ipp", ".inl"},
	Syntax:     syntaxOf(),
}

func syntaxOf() *lang.Rules {
	r := c.Shared()
	r.Grammar = cpp.GetLanguage
	r.Separator = "::"
	r.Supers = []string{"base_class_clause"}
	r.Calls["new_expression"] = lang.CallShape{Function: "type", Arguments: "arguments"}
	for name, h := range map[string]lang.Handler{
		"class_specifier":      func(w *lang.Walk, n uint32) { c.Record(w, n, lang.Class, lang.Private) },
		"namespace_definition": namespace,
		"access_specifier":     access,
		"alias_declaration":    named(lang.TypeName),
		"concept_definition":   named(lang.Interface),
		"friend_declaration":   func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"lambda_expression":    func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
	} {
		r.On[name] = h
	}
	r.Strings["raw_string_literal"] = nil
	r.Names["namespace_identifier"] = lang.Read
	for name, role := range map[string]lang.Role{
		"qualified_identifier.name":                 lang.OnOwner | lang.Up,
		"template_function.name":                    lang.Up,
		"reference_declarator.":                     lang.Up,
		"new_expression.type":                       lang.Call,
		"optional_parameter_declaration.declarator": lang.Bind,
		"for_range_loop.declarator":                 lang.Bind,
		"structured_binding_declarator.":            lang.Bind,
		"type_parameter_declaration.":               lang.Bind,
	} {
		r.Roles[name] = role
	}
	for name, d := range map[string]lang.Decision{"for_range_loop": lang.Branch, "catch_clause": lang.Branch, "and": lang.Arm, "or": lang.Arm} {
		r.Decisions[name] = d
	}
	r.Annotations = []string{"attribute_declaration"}
	r.Wrappers = []string{"template_declaration"}
	return r
}

// namespace: what is in one without a name is the file's own.
func namespace(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	if name == syntax.None {
		w.Enter(n, lang.Namespace, "")
		w.SetAccess(lang.Private)
		return
	}
	w.Declare(lang.Decl{Node: n, Name: name, Text: strings.Join(strings.Fields(w.Word(name)), ""), Kind: lang.Namespace, Visibility: lang.Public, Body: w.Child(n, "body")})
}

func access(w *lang.Walk, n uint32) {
	switch word := w.Word(n); {
	case strings.HasPrefix(word, "public"):
		w.SetAccess(lang.Public)
	case strings.HasPrefix(word, "protected"):
		w.SetAccess(lang.Protected)
	case strings.HasPrefix(word, "private"):
		w.SetAccess(lang.Private)
	}
}

func named(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: lang.Public, Type: w.Child(n, "type"), Leaf: true}
		if a := w.Access(); a != "" {
			d.Visibility = a
		}
		if !w.Local() {
			w.Declare(d)
		}
	}
}
