// Package toml describes TOML to the survey.
package toml

import (
	"github.com/smacker/go-tree-sitter/toml"

	"juxtagram/core/lang"
)

// Language is TOML.
var Language = lang.Language{
	Name:       "TOML",
	Extensions: []string{".toml"},
	Filenames:  []string{"Cargo.lock", "poetry.lock"},
	Grammar:    toml.GetLanguage,
	Query:      `(comment) @comment`,
}
