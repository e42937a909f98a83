// Package hcl describes HCL configuration to the survey.
package hcl

import (
	"strings"

	"github.com/smacker/go-tree-sitter/hcl"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is HCL.
var Language = lang.Language{Name: "HCL", Extensions: []string{".hcl", ".tf", ".tfvars"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  hcl.GetLanguage,
	Comments: []string{"comment"},
	On:       map[string]lang.Handler{"block": block, "attribute": attribute},
	Strings:  map[string][]string{"quoted_template": gaps, "string_lit": nil, "heredoc_template": gaps},
	Decisions: map[string]lang.Decision{
		"conditional": lang.Branch, "for_expr": lang.Branch, "for_cond": lang.Arm, "template_for": lang.Branch, "template_if": lang.Branch, "&&": lang.Arm, "||": lang.Arm,
	},
	Names: map[string]lang.Role{"identifier": lang.Read},
}

// gaps are what a template's text holds for what only running can tell.
var gaps = []string{"template_interpolation", "template_directive"}

// block is named by its type and labels: resource "kind" "name".
func block(w *lang.Walk, n uint32) {
	var words []string
	name := uint32(syntax.None)
	for c := range w.Children(n) {
		if w.Is(c, "identifier", "string_lit") {
			if name == syntax.None {
				name = c
			}
			words = append(words, strings.Trim(w.Word(c), "\""))
		}
	}
	w.Declare(lang.Decl{Node: n, Name: name, Text: strings.Join(words, " "), Kind: lang.Object, Body: w.ChildOf(n, "block_start")})
	if body := w.ChildOf(n, "body"); body != syntax.None {
		w.Fold(lang.BodyBlock, body)
	}
}

func attribute(w *lang.Walk, n uint32) {
	if parent := w.Parent(w.Parent(n)); w.Is(parent, "block", "config_file") {
		w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "identifier"), Kind: lang.Property, Value: w.ChildOf(n, "expression"), Leaf: true})
	}
}
