// Package c describes C to the survey.
package c

import (
	"github.com/smacker/go-tree-sitter/c"

	"juxtagram/core/lang"
)

// Language is C.
var Language = lang.Language{
	Name:       "C",
	Extensions: []string{".c", ".h"},
	Grammar:    c.GetLanguage,
	Query: `(comment) @comment
(function_definition declarator: (function_declarator declarator: (identifier) @function))`,
	Starts: starts,
}

func starts(captures []lang.Capture) []lang.Start { return lang.MainFunctions(captures) }
