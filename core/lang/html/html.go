// Package html describes HTML to the survey.
package html

import (
	"github.com/smacker/go-tree-sitter/html"

	"juxtagram/core/lang"
)

// Language is HTML.
var Language = lang.Language{
	Name:       "HTML",
	Extensions: []string{".html", ".htm", ".xhtml"},
	Grammar:    html.GetLanguage,
	Query:      `(comment) @comment`,
}
