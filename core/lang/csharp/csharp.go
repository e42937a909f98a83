// Package csharp describes C# to the survey.
package csharp

import (
	"github.com/smacker/go-tree-sitter/csharp"

	"juxtagram/core/lang"
)

// Language is C#.
var Language = lang.Language{Name: "C#", Extensions: []string{".cs", ".csx"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  csharp.GetLanguage,
	Comments: []string{"comment"},
	Tokens:   []string{"struct", "global", "static", "+", "-", "*", "/", "%", "&", "|", "^", "!", "~", "==", "!=", "<", ">", "<=", ">=", "++", "--", "<<", ">>", "true", "false"},
	On: map[string]lang.Handler{
		"namespace_declaration":             namespace,
		"file_scoped_namespace_declaration": namespace,
		"class_declaration":                 class(lang.Class),
		"record_declaration":                class(lang.Class),
		"struct_declaration":                class(lang.Struct),
		"interface_declaration":             class(lang.Interface),
		"enum_declaration":                  class(lang.Enum),
		"enum_member_declaration":           enumMember,
		"method_declaration":                method(lang.Method),
		"constructor_declaration":           method(lang.Constructor),
		"destructor_declaration":            method(lang.Method),
		"operator_declaration":              method(lang.Operator),
		"conversion_operator_declaration":   method(lang.Operator),
		"local_function_statement":          method(lang.Function),
		"property_declaration":              property,
		"indexer_declaration":               property,
		"event_declaration":                 property,
		"field_declaration":                 fields,
		"event_field_declaration":           fields,
		"delegate_declaration":              delegate,
		"lambda_expression":                 steps,
		"anonymous_method_expression":       steps,
		"using_directive":                   using,
	},
	Strings: map[string][]string{"string_literal": nil, "verbatim_string_literal": nil, "raw_string_literal": nil, "interpolated_string_expression": {"interpolation"}},
	Joins:   map[string]string{"binary_expression": "+", "parenthesized_expression": ""},
	Names:   map[string]lang.Role{"identifier": lang.Read},
	Roles: map[string]lang.Role{
		"invocation_expression.function":  lang.Call,
		"member_access_expression.name":   lang.OnOwner | lang.Up,
		"conditional_access_expression.":  lang.Read,
		"object_creation_expression.type": lang.Call,
		"assignment_expression.left":      lang.Write,
		"variable_declarator.name":        lang.Bind,
		"parameter.name":                  lang.Bind,
		"foreach_statement.left":          lang.Bind,
		"catch_declaration.name":          lang.Bind,
		"variable_declaration.type":       lang.AsType,
		"parameter.type":                  lang.AsType,
		"property_declaration.type":       lang.AsType,
		"method_declaration.returns":      lang.AsType,
		"base_list.":                      lang.AsType,
		"generic_name.":                   lang.Up,
		"type_argument_list.":             lang.AsType,
		"type_parameter.name":             lang.Bind,
		"nullable_type.type":              lang.AsType,
		"array_type.type":                 lang.AsType,
		"cast_expression.type":            lang.AsType,
		"attribute.name":                  lang.AsType,
		"using_directive.":                lang.Imports,
		"qualified_name.":                 lang.Up,
		"qualified_name.name":             lang.OnOwner | lang.Up,
	},
	Calls: map[string]lang.CallShape{
		"invocation_expression":      {Function: "function", Arguments: "arguments"},
		"object_creation_expression": {Function: "type", Arguments: "arguments"},
	},
	Assigns: map[string][2]string{"assignment_expression": {"left", "right"}},
	Supers:  []string{"base_list"},
	Effects: effects,
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "for_statement": lang.Branch, "foreach_statement": lang.Branch, "while_statement": lang.Branch, "do_statement": lang.Branch,
		"catch_clause": lang.Branch, "conditional_expression": lang.Branch, "switch_statement": lang.Deeper, "switch_expression": lang.Deeper, "switch_section": lang.Arm,
		"switch_expression_arm": lang.Arm, "&&": lang.Arm, "||": lang.Arm, "??": lang.Arm,
	},
	Annotations: []string{"attribute_list"},
	MarkedDocs:  true,
}
