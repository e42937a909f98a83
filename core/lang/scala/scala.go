// Package scala describes Scala to the survey.
package scala

import (
	"github.com/smacker/go-tree-sitter/scala"

	"juxtagram/core/lang"
)

// Language is Scala.
var Language = lang.Language{
	Name:       "Scala",
	Extensions: []string{".scala", ".sc"},
	Grammar:    scala.GetLanguage,
	Query:      `(comment) @comment`,
}
