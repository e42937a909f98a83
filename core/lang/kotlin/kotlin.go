// Package kotlin describes Kotlin to the survey.
package kotlin

import (
	"github.com/smacker/go-tree-sitter/kotlin"

	"juxtagram/core/lang"
)

// Language is Kotlin.
var Language = lang.Language{
	Name:       "Kotlin",
	Extensions: []string{".kt", ".kts"},
	Grammar:    kotlin.GetLanguage,
	Query: `(line_comment) @comment
(multiline_comment) @comment`,
}
