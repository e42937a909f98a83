// Package css describes CSS to the survey.
package css

import (
	"strings"

	"github.com/smacker/go-tree-sitter/css"

	"juxtagram/core/lang"
	"juxtagram/core/syntax"
)

// Language is CSS.
var Language = lang.Language{Name: "CSS", Extensions: []string{".css"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:  css.GetLanguage,
	Comments: []string{"comment"},
	On: map[string]lang.Handler{
		"rule_set":            rule,
		"media_statement":     section,
		"supports_statement":  section,
		"at_rule":             section,
		"keyframes_statement": keyframes,
		"declaration":         property,
		"import_statement":    imports,
	},
	Strings: map[string][]string{"string_value": nil},
	Names:   map[string]lang.Role{"class_name": lang.Read, "id_name": lang.Read, "function_name": lang.Call, "keyframes_name": lang.Read},
}

// rule is named by its selectors.
func rule(w *lang.Walk, n uint32) {
	selectors := w.ChildOf(n, "selectors")
	if selectors == syntax.None {
		return
	}
	w.Declare(lang.Decl{Node: n, Name: selectors, Text: w.OneLine(selectors), Kind: lang.Class, Body: w.ChildOf(n, "block")})
}

// section is what an at-rule holds.
func section(w *lang.Walk, n uint32) {
	body := w.ChildOf(n, "block")
	end := w.Nodes[n].End
	if body != syntax.None {
		end = w.Nodes[body].Start
	}
	name := strings.TrimRight(strings.Join(strings.Fields(string(w.Text[w.Nodes[n].Start:end])), " "), " ;")
	w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: name, Kind: lang.Section, Body: body})
}

func keyframes(w *lang.Walk, n uint32) {
	w.Declare(lang.Decl{Node: n, Name: w.ChildOf(n, "keyframes_name"), Kind: lang.Object, Body: w.ChildOf(n, "keyframe_block_list"), Leaf: true})
}

// property enters the custom properties, which others name.
func property(w *lang.Walk, n uint32) {
	if name := w.ChildOf(n, "property_name"); strings.HasPrefix(w.Word(name), "--") {
		w.Declare(lang.Decl{Node: n, Name: name, Kind: lang.Variable, Leaf: true, Once: true})
	}
}

func imports(w *lang.Walk, n uint32) {
	for i := n; i < w.Nodes[n].Next; i++ {
		if w.Is(i, "string_value", "plain_value") {
			w.Import(n, lang.Import{Text: strings.Trim(w.Word(i), "\"'")})
			return
		}
	}
}
