// Package php describes PHP to the survey.
package php

import (
	"github.com/smacker/go-tree-sitter/php"

	"juxtagram/core/lang"
)

// Language is PHP.
var Language = lang.Language{
	Name:       "PHP",
	Extensions: []string{".php", ".phtml"},
	Shebangs:   []string{"php"},
	Grammar:    php.GetLanguage,
	Query:      `(comment) @comment`,
}
