// Package c describes C to the survey, and gives C++ the rules both share.
package c

import (
	"github.com/smacker/go-tree-sitter/c"

	"juxtagram/core/lang"
)

// Language is C.
var Language = lang.Language{Name: "C", Extensions: []string{".c", ".h"}, Syntax: syntaxOf()}

func syntaxOf() *lang.Rules {
	r := Shared()
	r.Grammar = c.GetLanguage
	return r
}

// Shared are the rules that hold for C and C++ alike; the grammar is missing.
func Shared() *lang.Rules {
	return &lang.Rules{
		Comments: []string{"comment"},
		On: map[string]lang.Handler{
			"function_definition":   Function,
			"declaration":           declaration,
			"type_definition":       typedef,
			"struct_specifier":      record(lang.Struct),
			"union_specifier":       record(lang.Struct),
			"enum_specifier":        record(lang.Enum),
			"field_declaration":     field,
			"enumerator":            enumerator,
			"preproc_def":           macro,
			"preproc_function_def":  macro,
			"preproc_include":       include,
			"initializer_list":      registration,
			"parameter_declaration": func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		},
		Strings: map[string][]string{"string_literal": nil},
		Joins:   map[string]string{"concatenated_string": "", "parenthesized_expression": ""},
		Names:   map[string]lang.Role{"identifier": lang.Read, "type_identifier": lang.AsType, "field_identifier": lang.Read},
		Roles: map[string]lang.Role{
			"call_expression.function":         lang.Call,
			"field_expression.field":           lang.OnOwner | lang.Up,
			"assignment_expression.left":       lang.Write,
			"update_expression.argument":       lang.Write,
			"pointer_expression.argument":      lang.Read,
			"init_declarator.declarator":       lang.Bind,
			"declaration.declarator":           lang.Bind,
			"parameter_declaration.declarator": lang.Bind,
			"pointer_declarator.declarator":    lang.Up,
			"array_declarator.declarator":      lang.Up,
			"function_declarator.declarator":   lang.Up,
			"parenthesized_declarator.":        lang.Up,
			"preproc_params.":                  lang.Bind,
		},
		Calls:   map[string]lang.CallShape{"call_expression": {Function: "function", Arguments: "arguments"}},
		Assigns: map[string][2]string{"init_declarator": {"declarator", "value"}, "assignment_expression": {"left", "right"}, "preproc_def": {"name", "value"}},
		Effects: effects,
		Decisions: map[string]lang.Decision{
			"if_statement": lang.Branch, "for_statement": lang.Branch, "while_statement": lang.Branch, "do_statement": lang.Branch,
			"conditional_expression": lang.Branch, "switch_statement": lang.Deeper, "case_statement": lang.Arm, "goto_statement": lang.Arm,
			"&&": lang.Arm, "||": lang.Arm,
		},
	}
}
