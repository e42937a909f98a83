// Package bash describes shell scripts to the survey.
package bash

import (
	"strings"

	"github.com/smacker/go-tree-sitter/bash"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is the shell, in Bash's dialect.
var Language = lang.Language{
	Name:       "Shell",
	Extensions: []string{".sh", ".bash", ".ksh"},
	Filenames:  []string{".bashrc", ".profile", ".bash_profile"},
	Shebangs:   []string{"sh", "bash", "dash", "ksh", "ash"},
	Syntax:     &rules,
}

var rules = lang.Rules{
	Grammar:  bash.GetLanguage,
	Comments: []string{"comment"},
	Tokens:   []string{"readonly", "export", "declare", "typeset", "local"},
	On: map[string]lang.Handler{
		"function_definition": function,
		"variable_assignment": variable,
		"command":             command,
	},
	Strings: map[string][]string{"string": {"simple_expansion", "expansion", "command_substitution"}, "raw_string": nil, "heredoc_body": {"simple_expansion", "expansion", "command_substitution"}},
	Joins:   map[string]string{"concatenation": ""},
	Names:   map[string]lang.Role{"variable_name": lang.Read},
	Roles: map[string]lang.Role{
		"variable_assignment.name": lang.Write,
		"for_statement.variable":   lang.Bind,
	},
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "elif_clause": lang.Chained, "for_statement": lang.Branch, "while_statement": lang.Branch, "c_style_for_statement": lang.Branch,
		"case_statement": lang.Deeper, "case_item": lang.Arm, "&&": lang.Arm, "||": lang.Arm,
	},
}

func function(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Function, Body: w.Child(n, "body")})
	if name != syntax.None {
		w.Use(name, lang.Define)
	}
}

// variable reads the assignments outside of functions.
func variable(w *lang.Walk, n uint32) {
	if w.Local() || w.Is(w.Parent(n), "command") {
		return
	}
	around := w.Parent(n)
	d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Variable, Value: w.Child(n, "value"), Leaf: true, Once: true}
	if w.Is(around, "declaration_command") {
		d.Around = around
		first := w.Word(around + 1)
		if options := w.ChildOf(around, "word"); first == "readonly" || options != syntax.None && strings.Contains(w.Word(options), "r") {
			d.Kind = lang.Constant
		}
		if first == "export" {
			d.Visibility = lang.Public
		}
	}
	w.Declare(d)
}

// command notes what is called, and the scripts that are read in.
func command(w *lang.Walk, n uint32) {
	name := w.ChildOf(w.Child(n, "name"), "word")
	if name == syntax.None {
		return
	}
	w.Use(name, lang.Call)
	if text := w.Word(name); text == "source" || text == "." {
		if args := w.InField(n, "argument"); len(args) > 0 {
			w.Import(n, lang.Import{Text: strings.Trim(w.Word(args[0]), "\"'")})
		}
	}
}
