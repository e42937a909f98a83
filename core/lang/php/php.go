// Package php describes PHP to the survey.
package php

import (
	"github.com/smacker/go-tree-sitter/php"

	"juxtagram/core/lang"
)

// Language is PHP.
var Language = lang.Language{Name: "PHP", Extensions: []string{".php", ".phtml"}, Shebangs: []string{"php"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  php.GetLanguage,
	Comments: []string{"comment"},
	On: map[string]lang.Handler{
		"namespace_definition":                   namespace,
		"class_declaration":                      class(lang.Class),
		"interface_declaration":                  class(lang.Interface),
		"trait_declaration":                      class(lang.Trait),
		"enum_declaration":                       class(lang.Enum),
		"enum_case":                              enumCase,
		"function_definition":                    function,
		"method_declaration":                     method,
		"const_declaration":                      constants,
		"property_declaration":                   properties,
		"property_promotion_parameter":           promoted,
		"function_call_expression":               call,
		"assignment_expression":                  assignment,
		"anonymous_function_creation_expression": steps,
		"arrow_function":                         steps,
		"namespace_use_declaration":              use,
		"include_expression":                     include,
		"include_once_expression":                include,
		"require_expression":                     include,
		"require_once_expression":                include,
	},
	Strings:    map[string][]string{"string": nil, "encapsed_string": {"variable_name", "member_access_expression", "subscript_expression", "dynamic_variable_name"}, "heredoc_body": {"variable_name"}, "nowdoc_body": nil},
	Verbatim:   []string{"nowdoc_body"},
	Apostrophe: lang.Quoted,
	Joins:      map[string]string{"binary_expression": ".", "parenthesized_expression": ""},
	Names:      map[string]lang.Role{"name": lang.Read},
	Roles: map[string]lang.Role{
		"function_call_expression.function":    lang.Call,
		"member_call_expression.name":          lang.Call | lang.OnOwner,
		"scoped_call_expression.name":          lang.Call | lang.OnOwner,
		"object_creation_expression.":          lang.Call,
		"member_access_expression.name":        lang.OnOwner | lang.Up,
		"class_constant_access_expression.":    lang.Read,
		"variable_name.":                       lang.Up,
		"assignment_expression.left":           lang.Write,
		"augmented_assignment_expression.left": lang.Write,
		"update_expression.":                   lang.Write,
		"simple_parameter.name":                lang.Bind,
		"variadic_parameter.name":              lang.Bind,
		"catch_clause.name":                    lang.Bind,
		"static_variable_declaration.name":     lang.Bind,
		"named_type.":                          lang.AsType,
		"base_clause.":                         lang.AsType,
		"class_interface_clause.":              lang.AsType,
		"use_declaration.":                     lang.AsType,
		"attribute.":                           lang.AsType,
		"qualified_name.":                      lang.Up,
		"namespace_use_clause.":                lang.Imports,
		"namespace_aliasing_clause.":           lang.Imports,
		"namespace_name.":                      lang.Up,
		"namespace_use_group_clause.":          lang.Imports,
	},
	Calls: map[string]lang.CallShape{
		"function_call_expression": {Function: "function", Arguments: "arguments"},
		"member_call_expression":   {Function: "name", Object: "object", Arguments: "arguments"},
		"scoped_call_expression":   {Function: "name", Object: "scope", Arguments: "arguments"},
	},
	Assigns: map[string][2]string{"assignment_expression": {"left", "right"}},
	Supers:  []string{"base_clause", "class_interface_clause"},
	Effects: effects,
	Watch:   watch,
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "else_if_clause": lang.Chained, "for_statement": lang.Branch, "foreach_statement": lang.Branch, "while_statement": lang.Branch,
		"do_statement": lang.Branch, "catch_clause": lang.Branch, "conditional_expression": lang.Branch, "switch_statement": lang.Deeper, "case_statement": lang.Arm,
		"match_expression": lang.Deeper, "match_conditional_expression": lang.Arm, "&&": lang.Arm, "||": lang.Arm, "??": lang.Arm, "and": lang.Arm, "or": lang.Arm,
	},
	Annotations: []string{"attribute_list"},
	MarkedDocs:  true,
	Separator:   "::",
}
