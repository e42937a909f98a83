// Package bash describes Shell to the survey.
package bash

import (
	"github.com/smacker/go-tree-sitter/bash"

	"juxtagram/core/lang"
)

// Language is Shell.
var Language = lang.Language{
	Name:       "Shell",
	Extensions: []string{".sh", ".bash", ".ksh"},
	Filenames:  []string{".bashrc", ".profile", ".bash_profile"},
	Shebangs:   []string{"sh", "bash", "dash", "ksh", "ash"},
	Grammar:    bash.GetLanguage,
	Query:      `(comment) @comment`,
}
