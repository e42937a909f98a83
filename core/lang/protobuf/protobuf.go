// Package protobuf describes Protocol Buffers to the survey.
package protobuf

import (
	"github.com/smacker/go-tree-sitter/protobuf"

	"juxtagram/core/lang"
)

// Language is Protocol Buffers.
var Language = lang.Language{
	Name:       "Protocol Buffers",
	Extensions: []string{".proto"},
	Grammar:    protobuf.GetLanguage,
	Query:      `(comment) @comment`,
}
