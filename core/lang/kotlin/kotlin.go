// Package kotlin describes Kotlin to the survey.
package kotlin

import (
	"strings"

	"github.com/smacker/go-tree-sitter/kotlin"

	"juxtagram/core/lang"
)

// Language is Kotlin.
var Language = lang.Language{Name: "Kotlin", Extensions: []string{".kt", ".kts"}, Syntax: &rules}

// The grammar has no fields: children are told apart by their types.
var rules = lang.Rules{
	Grammar:  kotlin.GetLanguage,
	Comments: []string{"line_comment", "multiline_comment"},
	Tokens:   []string{"interface", "enum"},
	On: map[string]lang.Handler{
		"package_header": func(w *lang.Walk, n uint32) {
			w.Package(strings.Join(strings.Fields(w.Word(w.ChildOf(n, "identifier"))), ""))
		},
		"class_declaration":     class,
		"object_declaration":    object,
		"companion_object":      object,
		"function_declaration":  function,
		"secondary_constructor": constructor,
		"property_declaration":  property,
		"enum_entry":            enumEntry,
		"type_alias":            alias,
		"lambda_literal":        steps,
		"anonymous_function":    steps,
		"object_literal":        steps,
		"anonymous_initializer": steps,
		"import_header":         imports,
	},
	Strings: map[string][]string{"string_literal": {"interpolated_identifier", "interpolated_expression"}},
	Joins:   map[string]string{"additive_expression": "+", "parenthesized_expression": ""},
	Names:   map[string]lang.Role{"simple_identifier": lang.Read, "type_identifier": lang.AsType, "interpolated_identifier": lang.Read},
	Roles: map[string]lang.Role{
		"call_expression.":                lang.Call,
		"navigation_suffix.":              lang.OnOwner | lang.Up,
		"navigation_expression.":          lang.Up,
		"constructor_invocation.":         lang.Call,
		"directly_assignable_expression.": lang.Write,
		"variable_declaration.":           lang.Bind,
		"parameter.":                      lang.Bind,
		"class_parameter.":                lang.Bind,
		"catch_block.":                    lang.Bind,
		"identifier.":                     lang.Up,
		"import_header.":                  lang.Imports,
		"import_alias.":                   lang.Imports,
	},
	Decisions: map[string]lang.Decision{
		"if_expression": lang.Branch, "for_statement": lang.Branch, "while_statement": lang.Branch, "do_while_statement": lang.Branch, "catch_block": lang.Branch,
		"when_expression": lang.Deeper, "when_entry": lang.Arm, "&&": lang.Arm, "||": lang.Arm, "?:": lang.Arm,
	},
	Annotations: []string{"annotation"},
	MarkedDocs:  true,
}
