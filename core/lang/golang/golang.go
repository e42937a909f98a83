// Package golang describes Go to the survey.
package golang

import (
	"github.com/smacker/go-tree-sitter/golang"

	"juxtagram/core/lang"
)

// Language is Go.
var Language = lang.Language{
	Name:       "Go",
	Extensions: []string{".go"},
	Grammar:    golang.GetLanguage,
	Query: `(comment) @comment
(source_file (package_clause (package_identifier) @package))
(source_file (function_declaration name: (identifier) @function))`,
	Starts: starts,
}

// starts: a program is package main with a function main.
func starts(captures []lang.Capture) []lang.Start {
	pkg := lang.Find(captures, "package")
	if len(pkg) == 0 || pkg[0].Text != "main" {
		return nil
	}
	for _, f := range lang.Find(captures, "function") {
		if f.Text == "main" {
			return []lang.Start{{Kind: "program", Line: f.Line, Evidence: "package main with func main"}}
		}
	}
	return nil
}
