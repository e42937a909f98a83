// Package lua describes Lua to the survey.
package lua

import (
	"github.com/smacker/go-tree-sitter/lua"

	"juxtagram/core/lang"
)

// Language is Lua.
var Language = lang.Language{
	Name:       "Lua",
	Extensions: []string{".lua"},
	Shebangs:   []string{"lua", "luajit"},
	Grammar:    lua.GetLanguage,
	Query:      `(comment) @comment`,
}
