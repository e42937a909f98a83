// Package protobuf describes Protocol Buffers to the survey.
package protobuf

import (
	"strings"

	"github.com/smacker/go-tree-sitter/protobuf"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is the language of Protocol Buffers' schemas.
var Language = lang.Language{Name: "Protocol Buffers", Extensions: []string{".proto"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  protobuf.GetLanguage,
	Comments: []string{"comment"},
	Tokens:   []string{"public", "{"},
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
		"package":     func(w *lang.Walk, n uint32) { w.Package(w.Word(w.ChildOf(n, "full_ident"))) },
	},
	Strings: map[string][]string{"string": nil},
	Names:   map[string]lang.Role{"identifier": lang.Read},
	Roles: map[string]lang.Role{
		"message_or_enum_type.": lang.AsType,
	},
}

func block(kind lang.Kind, name string) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		body := w.ChildOf(n, "message_body", "enum_body", "{")
		w.Declare(lang.Decl{Node: n, Name: w.ChildOf(w.ChildOf(n, name), "identifier"), Kind: kind, Body: body, Inside: lang.Struct})
		if w.Is(body, "{") {
			w.Fold(lang.BodyBlock, n)
		}
	}
}

func member(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		name := w.ChildOf(n, "identifier")
		d := lang.Decl{Node: n, Name: name, Kind: kind, Body: w.ChildOf(n, "{"), Leaf: !w.Is(n, "oneof")}
		if w.Has(n, "type") && name != syntax.None { // "repeated Level", "map<string, Level>"
			d.TypeText = strings.TrimPrefix(w.Before(n, name), "optional ")
		}
		w.Declare(d)
		if !d.Leaf {
			w.Fold(lang.BodyBlock, n)
		}
	}
}

func imports(w *lang.Walk, n uint32) {
	w.Import(n, lang.Import{Text: strings.Trim(w.Word(w.Child(n, "path")), "\"'"), Reexport: w.HasWord(n, "public")})
}
