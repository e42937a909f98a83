// Package cpp describes C++ to the survey.
package cpp

import (
	"github.com/smacker/go-tree-sitter/cpp"

	"juxtagram/core/lang"
)

// Language is C++.
var Language = lang.Language{
	Name:       "C++",
	Extensions: []string{".cpp", ".cc", ".cxx", ".hpp", ".hh", ".hxx", ".ipp", ".inl"},
	Grammar:    cpp.GetLanguage,
	Query: `(comment) @comment
(function_definition declarator: (function_declarator declarator: (identifier) @function))`,
	Starts: starts,
}

func starts(captures []lang.Capture) []lang.Start { return lang.MainFunctions(captures) }
