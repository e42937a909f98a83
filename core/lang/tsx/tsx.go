// Package tsx describes TypeScript with JSX to the survey.
package tsx

import (
	"github.com/smacker/go-tree-sitter/typescript/tsx"

	"juxtagram/core/lang"
	"juxtagram/core/lang/typescript"
)

// Language is TSX.
var Language = lang.Language{Name: "TSX", Extensions: []string{".tsx"}, Syntax: syntaxOf()}

func syntaxOf() *lang.Rules {
	r := typescript.Shared()
	r.Grammar = tsx.GetLanguage
	return r
}
