// Package java describes Java to the survey.
package java

import (
	"strings"

	"github.com/smacker/go-tree-sitter/java"

	"juxtagram/core/lang"
)

// Language is Java.
var Language = lang.Language{
	Name:       "Java",
	Extensions: []string{".java"},
	Grammar:    java.GetLanguage,
	Query: `(line_comment) @comment
(block_comment) @comment
(method_declaration (modifiers) @modifiers type: (void_type) name: (identifier) @method parameters: (formal_parameters) @parameters)`,
	Starts: starts,
}

// starts: public static void main(String[]).
func starts(captures []lang.Capture) []lang.Start {
	mods, names, params := lang.Find(captures, "modifiers"), lang.Find(captures, "method"), lang.Find(captures, "parameters")
	var out []lang.Start
	for i := range names {
		if names[i].Text == "main" && strings.Contains(mods[i].Text, "public") && strings.Contains(mods[i].Text, "static") &&
			strings.Contains(params[i].Text, "String") {
			out = append(out, lang.Start{Kind: "program", Line: names[i].Line, Evidence: "public static void main"})
		}
	}
	return out
}
