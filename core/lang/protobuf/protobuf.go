// Package protobuf describes Protocol Buffers to the survey.
package protobuf

import (
	"strings"

	"github.com/smacker/go-tree-sitter/protobuf"

	"juxtagram/core/lang"
)

// Language is the language of Protocol Buffers' schemas.
var Language = lang.Language{Name: "Protocol Buffers", Extensions: []string{".proto"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  protobuf.GetLanguage,
	Comments: []string{"comment"},
	Tokens:   []string{"public"},
	On: map[string]lang.Handler{
		"message":     block(lang.Struct, "message_name"),
		"enum":        block(lang.Enum, "enum_name"),
		"service":     block(lang.Interface, "service_name"),
		"rpc":         block(lang.Method, "rpc_name"),
		"oneof":       member(lang.Field),
		"field":       member(lang.Field),
		"map_field":   member(lang.Field),
		"oneof_field": member(lang.Field),
		"enum_field":  member(lang.EnumMember),
		"import":      imports,
	},
	Strings: map[string][]string{"string": nil},
	Names:   map[string]lang.Role{"identifier": lang.Read},
	Roles: map[string]lang.Role{
		"message_or_enum_type.": lang.AsType,
	},
}

func block(kind lang.Kind, name string) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		w.Declare(lang.Decl{
			Node: n, Name: w.ChildOf(w.ChildOf(n, name), "identifier"), Kind: kind, Body: w.ChildOf(n, "message_body", "enum_body"), Inside: lang.Struct,
		})
	}
}

func member(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "identifier"), Kind: kind, Type: w.ChildOf(n, "type"), Leaf: !w.Is(n, "oneof")})
	}
}

func imports(w *lang.Walk, n uint32) {
	w.Import(n, lang.Import{Text: strings.Trim(w.Word(w.Child(n, "path")), "\"'"), Reexport: w.HasWord(n, "public")})
}
