// Package rust describes Rust to the survey.
package rust

import (
	"github.com/smacker/go-tree-sitter/rust"

	"juxtagram/core/lang"
)

// Language is Rust.
var Language = lang.Language{
	Name:       "Rust",
	Extensions: []string{".rs"},
	Grammar:    rust.GetLanguage,
	Query: `(line_comment) @comment
(block_comment) @comment
(source_file (function_item name: (identifier) @function))`,
	Starts: starts,
}

// starts: a function main at the top of a file. Whether the file is the root of
// a program is for its path to say.
func starts(captures []lang.Capture) []lang.Start {
	for _, f := range lang.Find(captures, "function") {
		if f.Text == "main" {
			return []lang.Start{{Kind: "program", Line: f.Line, Evidence: "fn main at the crate's root"}}
		}
	}
	return nil
}
