// Package javascript describes JavaScript to the survey, and gives TypeScript
// the rules that both share.
package javascript

import (
	"github.com/smacker/go-tree-sitter/javascript"

	"juxtagram/core/lang"
)

// Language is JavaScript, with JSX.
var Language = lang.Language{
	Name:       "JavaScript",
	Extensions: []string{".js", ".mjs", ".cjs", ".jsx"},
	Filenames:  []string{"Jakefile"},
	Shebangs:   []string{"node", "nodejs"},
	Syntax:     syntaxOf(),
}

func syntaxOf() *lang.Rules {
	r := Shared()
	r.Grammar = javascript.GetLanguage
	r.On["field_definition"] = Field
	r.Roles["assignment_pattern.left"] = lang.Up
	r.Roles["formal_parameters."] = lang.Bind
	return r
}

// Shared are the rules that hold for JavaScript and TypeScript alike; the
// grammar is missing.
func Shared() *lang.Rules {
	return &lang.Rules{
		Comments: []string{"comment", "hash_bang_line"},
		Tokens:   []string{"static", "get", "set", "const"},
		On: map[string]lang.Handler{
			"function_declaration":           function,
			"generator_function_declaration": function,
			"class_declaration":              class,
			"class":                          anonymousClass,
			"method_definition":              method,
			"variable_declarator":            variable,
			"pair":                           pair,
			"function_expression":            steps,
			"generator_function":             steps,
			"arrow_function":                 steps,
			"class_static_block":             steps,
			"export_statement":               export,
			"import_statement":               imports,
			"call_expression":                call,
			"assignment_expression":          assignment,
		},
		Strings: map[string][]string{"string": nil, "template_string": {"template_substitution"}},
		Joins:   map[string]string{"binary_expression": "+", "parenthesized_expression": ""},
		Names: map[string]lang.Role{
			"identifier": lang.Read, "property_identifier": lang.Read, "private_property_identifier": lang.Read, "shorthand_property_identifier": lang.Read,
			"shorthand_property_identifier_pattern": lang.Bind,
		},
		Roles: map[string]lang.Role{
			"call_expression.function":             lang.Call,
			"new_expression.constructor":           lang.Call,
			"member_expression.property":           lang.OnOwner | lang.Up,
			"pair.key":                             lang.Write | lang.OnOwner | lang.InLiteral,
			"assignment_expression.left":           lang.Write,
			"augmented_assignment_expression.left": lang.Write,
			"update_expression.argument":           lang.Write,
			"variable_declarator.name":             lang.Bind,
			"array_pattern.":                       lang.Up,
			"object_pattern.":                      lang.Up,
			"pair_pattern.value":                   lang.Up,
			"rest_pattern.":                        lang.Up,
			"object_assignment_pattern.left":       lang.Up,
			"arrow_function.parameter":             lang.Bind,
			"catch_clause.parameter":               lang.Bind,
			"for_in_statement.left":                lang.Bind,
			"import_clause.":                       lang.Imports,
			"namespace_import.":                    lang.Imports,
			"import_specifier.name":                lang.Imports,
			"import_specifier.alias":               lang.Imports,
		},
		Calls: map[string]lang.CallShape{
			"call_expression": {Function: "function", Arguments: "arguments"},
			"new_expression":  {Function: "constructor", Arguments: "arguments"},
		},
		Assigns: map[string][2]string{
			"variable_declarator": {"name", "value"}, "assignment_expression": {"left", "right"}, "assignment_pattern": {"left", "right"},
		},
		Supers:  []string{"class_heritage"},
		Effects: effects,
		Watch:   watch,
		Decisions: map[string]lang.Decision{
			"if_statement": lang.Branch, "for_statement": lang.Branch, "for_in_statement": lang.Branch, "while_statement": lang.Branch, "do_statement": lang.Branch,
			"catch_clause": lang.Branch, "ternary_expression": lang.Branch, "switch_statement": lang.Deeper, "switch_case": lang.Arm,
			"&&": lang.Arm, "||": lang.Arm, "??": lang.Arm,
		},
		Annotations: []string{"decorator"},
		Wrappers:    []string{"export_statement"},
		End:         end,
	}
}
