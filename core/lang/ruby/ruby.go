// Package ruby describes Ruby to the survey.
package ruby

import (
	"github.com/smacker/go-tree-sitter/ruby"

	"juxtagram/core/lang"
)

// Language is Ruby.
var Language = lang.Language{
	Name:       "Ruby",
	Extensions: []string{".rb", ".rake", ".gemspec"},
	Filenames:  []string{"Rakefile", "Gemfile", "Guardfile", "Vagrantfile"},
	Shebangs:   []string{"ruby"},
	Syntax:     &rules,
}

var rules = lang.Rules{
	Grammar:  ruby.GetLanguage,
	Comments: []string{"comment"},
	On: map[string]lang.Handler{
		"module":           module(lang.Module),
		"class":            module(lang.Class),
		"singleton_class":  singleton,
		"method":           method,
		"singleton_method": method,
		"assignment":       assignment,
		"alias":            alias,
		"call":             call,
		"identifier":       bareWord,
		"block":            steps,
		"do_block":         steps,
		"lambda":           steps,
	},
	Strings:    map[string][]string{"string": {"interpolation"}, "heredoc_body": {"interpolation"}},
	Apostrophe: lang.Quoted,
	Joins:      map[string]string{"chained_string": "", "binary": "+", "parenthesized_statements": ""},
	Names: map[string]lang.Role{
		"identifier": lang.Read, "constant": lang.Read, "instance_variable": lang.Read, "class_variable": lang.Read, "global_variable": lang.Read,
	},
	Roles: map[string]lang.Role{
		"call.method":               lang.Call | lang.OnOwner,
		"scope_resolution.name":     lang.OnOwner,
		"assignment.left":           lang.Write,
		"operator_assignment.left":  lang.Write,
		"left_assignment_list.":     lang.Write,
		"method_parameters.":        lang.Bind,
		"block_parameters.":         lang.Bind,
		"lambda_parameters.":        lang.Bind,
		"optional_parameter.name":   lang.Bind,
		"splat_parameter.name":      lang.Bind,
		"keyword_parameter.name":    lang.Bind,
		"hash_splat_parameter.name": lang.Bind,
		"block_parameter.name":      lang.Bind,
		"exception_variable.":       lang.Bind,
		"superclass.":               lang.AsType,
	},
	Calls:   map[string]lang.CallShape{"call": {Function: "method", Object: "receiver", Arguments: "arguments"}},
	Assigns: map[string][2]string{"assignment": {"left", "right"}},
	Supers:  []string{"superclass"},
	Effects: effects,
	Watch:   watch,
	Decisions: map[string]lang.Decision{
		"if": lang.Branch, "unless": lang.Branch, "elsif": lang.Chained, "while": lang.Branch, "until": lang.Branch, "for": lang.Branch,
		"if_modifier": lang.Branch, "unless_modifier": lang.Branch, "while_modifier": lang.Branch, "until_modifier": lang.Branch, "rescue": lang.Branch,
		"rescue_modifier": lang.Branch, "conditional": lang.Branch, "case": lang.Deeper, "case_match": lang.Deeper, "when": lang.Arm, "in_clause": lang.Arm, "&&": lang.Arm,
		"||": lang.Arm, "and": lang.Arm, "or": lang.Arm,
	},
}
