// Package css describes CSS to the survey.
package css

import (
	"github.com/smacker/go-tree-sitter/css"

	"juxtagram/core/lang"
)

// Language is CSS.
var Language = lang.Language{
	Name:       "CSS",
	Extensions: []string{".css"},
	Grammar:    css.GetLanguage,
	Query:      `(comment) @comment`,
}
