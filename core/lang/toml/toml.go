// Package toml describes TOML to the survey.
package toml

import (
	"github.com/smacker/go-tree-sitter/toml"

	"juxtagram/core/lang"
)

// Language is TOML.
var Language = lang.Language{Name: "TOML", Extensions: []string{".toml"}, Filenames: []string{"Cargo.lock", "poetry.lock"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  toml.GetLanguage,
	Comments: []string{"comment"},
	On:       map[string]lang.Handler{"table": table, "table_array_element": table, "pair": pair},
	Strings:  map[string][]string{"string": nil},

	Apostrophe:  lang.AsWritten,
	FoldedLines: true,
}

func table(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "bare_key", "dotted_key", "quoted_key"), Kind: lang.Object, Body: w.ChildOf(n, "pair")})
}

func pair(w *lang.Walk, n uint32) {
	if p := w.Parent(n); w.Is(p, "document", "table", "table_array_element") {
		w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "bare_key", "dotted_key", "quoted_key"), Kind: lang.Key, Leaf: true})
	}
}
