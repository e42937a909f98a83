// Package typescript describes TypeScript to the survey, and gives TSX its
// rules.
package typescript

import (
	"bytes"
	"regexp"
	"strings"

	"github.com/smacker/go-tree-sitter/typescript/typescript"

	"juxtagram/core/lang"
	"juxtagram/core/lang/javascript"
	"juxtagram/core/syntax"
)

// Language is TypeScript.
var Language = lang.Language{
	Name:       "TypeScript",
	Extensions: []string{".ts", ".mts", ".cts"},
	Shebangs:   []string{"deno", "ts-node"},
	Syntax:     syntaxOf(),
}

func syntaxOf() *lang.Rules {
	r := Shared()
	r.Grammar = typescript.GetLanguage
	return r
}

// Shared are the rules of TypeScript; the grammar is missing.
func Shared() *lang.Rules {
	r := javascript.Shared()
	for name, h := range map[string]lang.Handler{
		"function_signature":         r.On["function_declaration"],
		"abstract_class_declaration": r.On["class_declaration"],
		"public_field_definition":    javascript.Field,
		"abstract_method_signature":  signature,
		"method_signature":           signature,
		"property_signature":         property,
		"interface_declaration":      declared(lang.Interface),
		"enum_declaration":           declared(lang.Enum),
		"type_alias_declaration":     declared(lang.TypeName),
		"internal_module":            namespace,
		"module":                     namespace,
		"enum_assignment":            enumMember,
		"property_identifier":        bareMember,
		"string":                     bareMember,
		"ambient_declaration":        ambient,
	} {
		r.On[name] = h
	}
	r.Supers = []string{"class_heritage", "extends_type_clause"}
	r.Names["type_identifier"] = lang.AsType
	for name, role := range map[string]lang.Role{
		"required_parameter.pattern":  lang.Bind,
		"optional_parameter.pattern":  lang.Bind,
		"type_parameter.name":         lang.Bind,
		"nested_type_identifier.name": lang.OnOwner,
		"extends_clause.value":        lang.AsType,
		"type_query.":                 lang.Read,
	} {
		r.Roles[name] = role
	}
	r.Mask = maskImportTypes
	r.Tokens = append(r.Tokens, "readonly", "global")
	r.Wrappers = append(r.Wrappers, "ambient_declaration")
	return r
}

func declared(kind lang.Kind) lang.Handler {
	return func(w *lang.Walk, n uint32) {
		d := lang.Decl{Node: n, Name: w.Child(n, "name"), Kind: kind, Visibility: javascript.Top(w, n), Body: w.Child(n, "body")}
		if kind == lang.TypeName {
			d.Value = w.Child(n, "value")
		}
		w.Declare(d)
	}
}

// namespace is "namespace A.B" or "module 'name'".
func namespace(w *lang.Walk, n uint32) {
	name := w.Child(n, "name")
	kind := lang.Namespace
	if w.Is(name, "string") {
		kind = lang.Module
	}
	d := lang.Decl{Node: n, Name: name, Text: strings.Trim(w.Word(name), "\"'"), Kind: kind, Visibility: javascript.Top(w, n), Body: w.Child(n, "body")}
	if p := w.Parent(n); w.Is(p, "expression_statement") {
		d.Around = p
	}
	w.Declare(d)
}

// ambient: "declare global" is a scope of its own.
func ambient(w *lang.Walk, n uint32) {
	if w.Has(n, "global") {
		w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: "global", Kind: lang.Namespace, Visibility: lang.Public, Body: w.ChildOf(n, "statement_block")})
	}
}

// holds tells whether a node is a direct member of what is being declared.
func holds(w *lang.Walk, n uint32) bool {
	p := w.Parent(n)
	switch w.Within() {
	case lang.Class:
		return w.Is(p, "class_body")
	case lang.Interface:
		return w.Is(p, "interface_body")
	case lang.TypeName:
		return w.Is(p, "object_type") && w.Is(w.Parent(p), "type_alias_declaration")
	}
	return false
}

// signature is a method without body.
func signature(w *lang.Walk, n uint32) {
	if !holds(w, n) {
		return
	}
	d := javascript.Member(w, n, lang.Method)
	if w.Has(n, "get", "set") {
		d.Kind = lang.Property
	}
	d.Type = javascript.TypeOf(w, n, "return_type")
	w.Declare(d)
}

func property(w *lang.Walk, n uint32) {
	if holds(w, n) {
		d := javascript.Member(w, n, lang.Property)
		d.Type = javascript.TypeOf(w, n, "type")
		w.Declare(d)
	}
}

func enumMember(w *lang.Walk, n uint32) {
	if w.Within() == lang.Enum {
		d := javascript.Member(w, n, lang.EnumMember)
		d.Value, d.Leaf = w.Child(n, "value"), true
		w.Declare(d)
	}
}

// bareMember is an enum's member without a value: a name by itself.
func bareMember(w *lang.Walk, n uint32) {
	if w.Within() == lang.Enum && w.Is(w.Parent(n), "enum_body") {
		w.Declare(lang.Decl{Node: n, Name: n, Text: strings.Trim(w.Word(n), "\"'"), Kind: lang.EnumMember, Visibility: lang.Public, Leaf: true})
	}
}

// importType is a type taken out of a module on the spot, "import('x').T".
var importType = regexp.MustCompile(`\bimport[ \t]*\([ \t]*(?:"[^"\n]*"|'[^'\n]*')[ \t]*\)(\.[A-Za-z_$][\w$]*)?`)

// maskImportTypes hides types taken out of modules, which the grammar only
// reads in some places, behind names of the same length. Modules that are
// loaded while the program runs, "import('x').then(…)", stay.
func maskImportTypes(text []byte) []byte {
	if !bytes.Contains(text, []byte("import")) {
		return text
	}
	var out []byte
	for _, m := range importType.FindAllSubmatchIndex(text, -1) {
		end := m[1]
		if m[2] >= 0 {
			end = m[2]
			switch string(text[m[2]:m[3]]) {
			case ".then", ".catch", ".finally":
				continue
			}
		}
		if before := bytes.TrimRight(text[:m[0]], " \t\r\n"); m[2] < 0 && !bytes.HasSuffix(before, []byte("typeof")) || bytes.HasSuffix(before, []byte("await")) {
			continue
		}
		if out == nil {
			out = bytes.Clone(text)
		}
		for i := m[0] + len("import"); i < end; i++ {
			out[i] = '_'
		}
	}
	if out == nil {
		return text
	}
	return out
}
