// Package scala describes Scala to the survey.
package scala

import (
	"strings"

	"github.com/smacker/go-tree-sitter/scala"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Scala.
var Language = lang.Language{Name: "Scala", Extensions: []string{".scala", ".sc"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  scala.GetLanguage,
	Comments: []string{"comment", "block_comment"},
	Tokens:   []string{"val", "var", "case"},
	On: map[string]lang.Handler{
		"package_clause":       func(w *lang.Walk, n uint32) { w.Package(w.Word(w.Child(n, "name"))) },
		"class_definition":     class(lang.Class),
		"trait_definition":     class(lang.Trait),
		"object_definition":    class(lang.Object),
		"enum_definition":      class(lang.Enum),
		"simple_enum_case":     enumCase,
		"full_enum_case":       enumCase,
		"function_definition":  function,
		"function_declaration": function,
		"val_definition":       value,
		"var_definition":       value,
		"val_declaration":      value,
		"var_declaration":      value,
		"given_definition":     value,
		"type_definition":      alias,
		"lambda_expression":    func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"import_declaration":   imports,
	},
	Strings: map[string][]string{"string": nil, "interpolated_string": {"interpolation"}},
	Joins:   map[string]string{"infix_expression": "operator_identifier"},
	Names:   map[string]lang.Role{"identifier": lang.Read, "type_identifier": lang.AsType},
	Roles: map[string]lang.Role{
		"call_expression.function":   lang.Call,
		"field_expression.field":     lang.OnOwner | lang.Up,
		"assignment_expression.left": lang.Write,
		"parameter.name":             lang.Bind,
		"class_parameter.name":       lang.Bind,
		"val_definition.pattern":     lang.Bind,
		"var_definition.pattern":     lang.Bind,
		"import_declaration.path":    lang.Imports,
		"namespace_selectors.":       lang.Imports,
	},
	Decisions: map[string]lang.Decision{
		"if_expression": lang.Branch, "for_expression": lang.Branch, "while_expression": lang.Branch, "catch_clause": lang.Branch, "match_expression": lang.Deeper,
		"case_clause": lang.Arm,
	},
	Annotations: []string{"annotation"},
	MarkedDocs:  true,
}

func visibility(w *lang.Walk, n uint32) lang.Visibility {
	switch text := w.Word(w.ChildOf(w.ChildOf(n, "modifiers"), "access_modifier")); {
	case strings.HasPrefix(text, "private"):
		return lang.Private
	case strings.HasPrefix(text, "protected"):
		return lang.Protected
	}
	return lang.Public
}

func class(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: visibility(w, n), Body: w.Child(n, "body"), Static: kind == lang.Object})
		for p := range w.Children(w.Child(n, "class_parameters")) {
			if w.Is(p, "class_parameter") && (w.HasWord(p, "val", "var") || w.HasWord(n, "case")) {
				w.Declare(lang.Decl{Node: p, Name: w.Child(p, "name"), Kind: lang.Field, Visibility: visibility(w, p), Type: w.Child(p, "type"), Leaf: true})
			}
		}
	}
}

func enumCase(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.EnumMember, Visibility: lang.Public, Leaf: true})
}

func function(w *lang.Walk, n uint32) {
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Function, Visibility: visibility(w, n), Body: w.Child(n, "body"), Type: w.Child(n, "return_type")}
	if w.Within() != "" && !w.Local() {
		d.Kind = lang.Method
	}
	if w.Word(d.Name) == "this" {
		d.Kind = lang.Constructor
	}
	w.Declare(d)
}

func value(w *lang.Walk, n uint32) {
	kind := lang.Field
	if w.Within() == "" {
		kind = lang.Variable
	}
	name := w.Child(n, "pattern")
	if name == syntax.None {
		name = w.Child(n, "name")
	}
	if w.Is(name, "identifier") {
		w.Declare(lang.Decl{Node: n, Name: name, Kind: kind, Visibility: visibility(w, n), Type: w.Child(n, "type"), Value: w.Child(n, "value"), Inside: lang.Function})
	}
}

func alias(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.TypeName, Visibility: visibility(w, n), Type: w.Child(n, "type"), Leaf: true})
}

// imports reads one import for each name that a selector brings.
func imports(w *lang.Walk, n uint32) {
	var path []string
	for _, p := range w.InField(n, "path") {
		if w.Is(p, "identifier") {
			path = append(path, w.Word(p))
		}
	}
	text := strings.Join(path, ".")
	i := lang.Import{Text: text}
	for c := range w.Children(w.ChildOf(n, "namespace_selectors")) {
		switch {
		case w.Is(c, "identifier"):
			i.Names = append(i.Names, lang.Imported{Name: w.Word(c)})
		case w.Is(c, "arrow_renamed_identifier", "as_renamed_identifier"):
			i.Names = append(i.Names, lang.Imported{Name: w.Word(w.Child(c, "name")), As: w.Word(w.Child(c, "alias"))})
		}
	}
	if w.Has(n, "namespace_wildcard") {
		i.Names = []lang.Imported{{Name: "*"}}
	}
	w.Import(n, i)
}
