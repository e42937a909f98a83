// Package python describes Python to the survey.
package python

import (
	"regexp"

	"github.com/smacker/go-tree-sitter/python"

	"juxtagram/core/lang"
)

// Language is Python.
var Language = lang.Language{
	Name:       "Python",
	Extensions: []string{".py", ".pyi", ".pyw"},
	Filenames:  []string{"SConstruct", "SConscript", "wscript"},
	Shebangs:   []string{"python", "python2", "python3", "pypy", "pypy3"},
	Grammar:    python.GetLanguage,
	Query: `(comment) @comment
(module (if_statement condition: (comparison_operator) @guard))`,
	Starts: starts,
}

var guard = regexp.MustCompile(`^(__name__\s*==\s*["']__main__["']|["']__main__["']\s*==\s*__name__)$`)

// starts: a module that may be run guards its start by its own name.
func starts(captures []lang.Capture) []lang.Start {
	for _, c := range lang.Find(captures, "guard") {
		if guard.MatchString(c.Text) {
			return []lang.Start{{Kind: "script", Line: c.Line, Evidence: `if __name__ == "__main__"`}}
		}
	}
	return nil
}
