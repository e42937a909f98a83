// Package typescript describes TypeScript to the survey.
package typescript

import (
	"github.com/smacker/go-tree-sitter/typescript/typescript"

	"juxtagram/core/lang"
)

// Language is TypeScript.
var Language = lang.Language{
	Name:       "TypeScript",
	Extensions: []string{".ts", ".mts", ".cts"},
	Shebangs:   []string{"deno", "ts-node"},
	Grammar:    typescript.GetLanguage,
	Query:      `(comment) @comment`,
}
