// Package javascript describes JavaScript to the survey.
package javascript

import (
	"github.com/smacker/go-tree-sitter/javascript"

	"juxtagram/core/lang"
)

// Language is JavaScript.
var Language = lang.Language{
	Name:       "JavaScript",
	Extensions: []string{".js", ".mjs", ".cjs", ".jsx"},
	Filenames:  []string{"Jakefile"},
	Shebangs:   []string{"node", "nodejs"},
	Grammar:    javascript.GetLanguage,
	Query:      `(comment) @comment`,
}
