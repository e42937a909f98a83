// Package tsx describes TSX to the survey.
package tsx

import (
	"github.com/smacker/go-tree-sitter/typescript/tsx"

	"juxtagram/core/lang"
)

// Language is TSX.
var Language = lang.Language{
	Name:       "TSX",
	Extensions: []string{".tsx"},
	Grammar:    tsx.GetLanguage,
	Query:      `(comment) @comment`,
}
