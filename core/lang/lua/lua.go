// Package lua describes Lua to the survey.
package lua

import (
	"strings"

	"github.com/smacker/go-tree-sitter/lua"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is Lua.
var Language = lang.Language{Name: "Lua", Extensions: []string{".lua"}, Shebangs: []string{"lua", "luajit"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  lua.GetLanguage,
	Comments: []string{"comment", "emmy_header"},
	On: map[string]lang.Handler{
		"function_statement":   function,
		"variable_declaration": variables,
		"field":                field,
		"function":             func(w *lang.Walk, n uint32) { w.Enter(n, lang.Function, "") },
		"function_call":        call,
	},
	Strings: map[string][]string{"string": nil, "string_argument": nil},
	Joins:   map[string]string{"binary_operation": ".."},
	Names:   map[string]lang.Role{"identifier": lang.Read},
	Roles: map[string]lang.Role{
		"function_call.prefix": lang.Call,
		"variable_declarator.": lang.Write,
		"parameter_list.":      lang.Bind,
		"identifier_list.":     lang.Bind,
		"for_numeric.var":      lang.Bind,
	},
	Decisions: map[string]lang.Decision{
		"if_statement": lang.Branch, "if_elseif": lang.Chained, "for_statement": lang.Branch, "while_statement": lang.Branch, "repeat_statement": lang.Branch,
		"and": lang.Arm, "or": lang.Arm,
	},
}

// path is a dotted name with its last part taken off.
func path(w *lang.Walk, n uint32) (owner string, last uint32, colon bool) {
	last = syntax.None
	var parts []string
	for c := range w.Children(n) {
		if w.Is(c, "identifier") {
			if last != syntax.None {
				parts = append(parts, w.Word(last))
			}
			last = c
		}
		colon = colon || w.Is(c, "table_colon")
	}
	return strings.Join(parts, "."), last, colon
}

func function(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	d := lang.Decl{Node: n, Name: name, Kind: lang.Function, Visibility: lang.Public, Body: w.ChildOf(n, "function_body")}
	// the grammar counts the documentation as part of the function
	if doc := w.Child(n, "documentation"); doc != syntax.None {
		d.Doc, d.First = lang.CommentText(w.Source(doc)), w.ChildOf(n, "local", "function_start")
	}
	if w.Has(n, "local") {
		d.Visibility = lang.Private
	}
	if w.Is(name, "function_name") {
		owner, last, colon := path(w, name)
		d.Name, d.Owner = last, owner
		if owner != "" {
			d.Kind, d.Static = lang.Method, !colon
		}
	}
	w.Declare(d)
}

// variables reads the assignments of the file's top level.
func variables(w *lang.Walk, n uint32) {
	if w.Within() != "" {
		return
	}
	values := w.InField(n, "value")
	var last *lang.Decl // the one with an inside
	for i, v := range w.InField(n, "name") {
		owner, name, _ := path(w, v)
		d := lang.Decl{Node: n, Name: name, Kind: lang.Variable, Visibility: lang.Public, Owner: owner, Leaf: true, Once: owner == ""}
		if w.Has(n, "local") {
			d.Visibility = lang.Private
		}
		if i < len(values) {
			d.Value = values[i]
			switch {
			case w.Is(values[i], "function"):
				d.Kind, d.Value, d.Body, d.Leaf = lang.Function, 0, w.ChildOf(values[i], "function_body"), false
				if owner != "" {
					d.Kind = lang.Method
				}
			case w.Is(values[i], "tableconstructor"):
				d.Inside, d.Leaf = lang.Object, false
			}
		}
		if !d.Leaf && last == nil {
			last = &d
			continue
		}
		d.Leaf = true
		w.Declare(d)
	}
	if last != nil {
		w.Declare(*last)
	}
}

// field is a function in a table that is a variable's value.
func field(w *lang.Walk, n uint32) {
	value := w.Child(n, "value")
	if w.Within() == lang.Object && w.Is(value, "function") {
		w.Declare(lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: lang.Method, Visibility: lang.Public, Body: w.ChildOf(value, "function_body")})
	}
}

// call finds require "module".
func call(w *lang.Walk, n uint32) {
	if w.Word(w.Child(n, "prefix")) != "require" {
		return
	}
	for i := n; i < w.Nodes[n].Next; i++ {
		if w.Is(i, "string", "string_argument") {
			w.Import(n, lang.Import{Text: strings.Trim(w.Word(i), "\"'[]")})
			return
		}
	}
}
