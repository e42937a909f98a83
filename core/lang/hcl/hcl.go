// Package hcl describes HCL to the survey.
package hcl

import (
	"github.com/smacker/go-tree-sitter/hcl"

	"juxtagram/core/lang"
)

// Language is HCL.
var Language = lang.Language{
	Name:       "HCL",
	Extensions: []string{".hcl", ".tf", ".tfvars"},
	Grammar:    hcl.GetLanguage,
	Query:      `(comment) @comment`,
}
