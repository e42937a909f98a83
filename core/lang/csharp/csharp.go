// Package csharp describes C# to the survey.
package csharp

import (
	"github.com/smacker/go-tree-sitter/csharp"

	"juxtagram/core/lang"
)

// Language is C#.
var Language = lang.Language{
	Name:       "C#",
	Extensions: []string{".cs"},
	Grammar:    csharp.GetLanguage,
	Query:      `(comment) @comment`,
}
