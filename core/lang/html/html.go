// Package html describes HTML to the survey: its headings and named elements,
// and the scripts and styles inside.
package html

import (
	"strings"

	"github.com/smacker/go-tree-sitter/html"

	"juxtagram/core/lang"
	"juxtagram/core/lang/css"
	"juxtagram/core/lang/javascript"
	"juxtagram/core/syntax"
)

// Language is HTML.
var Language = lang.Language{Name: "HTML", Extensions: []string{".html", ".htm", ".xhtml"}, Syntax: &rules}

var rules = lang.Rules{
	Grammar:    html.GetLanguage,
	Comments:   []string{"comment"},
	MarkedDocs: true, // none of a page's comments documents
	On: map[string]lang.Handler{
		"element":          element,
		"script_element":   script,
		"style_element":    style,
		"start_tag":        tag,
		"self_closing_tag": tag,
	},
}

// attributes of an opening tag; values without quotes.
func attributes(w *lang.Walk, start uint32) map[string]string {
	out := map[string]string{}
	for a := range w.Children(start) {
		if w.Is(a, "attribute") {
			value := w.ChildOf(a, "attribute_value")
			if q := w.ChildOf(a, "quoted_attribute_value"); q != syntax.None {
				value = w.ChildOf(q, "attribute_value")
			}
			out[strings.ToLower(w.Word(w.ChildOf(a, "attribute_name")))] = w.Word(value)
		}
	}
	return out
}

// element enters headings by their text and elements by their id.
func element(w *lang.Walk, n uint32) {
	start := w.ChildOf(n, "start_tag")
	if start == syntax.None {
		return
	}
	name := strings.ToLower(w.Word(w.ChildOf(start, "tag_name")))
	switch {
	case len(name) == 2 && name[0] == 'h' && name[1] >= '1' && name[1] <= '6', name == "title":
		if text := words(w, n); text != "" {
			w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: text, Kind: lang.Section, Leaf: true})
		}
	default:
		if id := attributes(w, start)["id"]; id != "" {
			w.Declare(lang.Decl{Node: n, Name: syntax.None, Text: "#" + id, Kind: lang.Object, Body: afterTag(w, start)})
		}
	}
}

// afterTag is what follows an opening tag: the signature ends there.
func afterTag(w *lang.Walk, start uint32) uint32 {
	if next := w.Nodes[start].Next; int(next) < len(w.Nodes) {
		return next
	}
	return syntax.None
}

// words is the text inside an element.
func words(w *lang.Walk, n uint32) string {
	var out []string
	for i := n; i < w.Nodes[n].Next; i++ {
		if w.Is(i, "text") {
			out = append(out, strings.Fields(w.Word(i))...)
		}
	}
	return strings.Join(out, " ")
}

func script(w *lang.Walk, n uint32) {
	a := attributes(w, w.ChildOf(n, "start_tag"))
	raw := w.ChildOf(n, "raw_text")
	if t := a["type"]; raw != syntax.None && (t == "" || t == "module" || strings.HasSuffix(t, "javascript")) {
		w.Embed(&javascript.Language, raw)
	}
}

func style(w *lang.Walk, n uint32) {
	if raw := w.ChildOf(n, "raw_text"); raw != syntax.None {
		w.Embed(&css.Language, raw)
	}
}

// tag finds what a page takes in: scripts and style sheets.
func tag(w *lang.Walk, n uint32) {
	switch strings.ToLower(w.Word(w.ChildOf(n, "tag_name"))) {
	case "script":
		w.Import(n, lang.Import{Text: attributes(w, n)["src"]})
	case "link":
		if a := attributes(w, n); strings.Contains(strings.ToLower(a["rel"]), "stylesheet") {
			w.Import(n, lang.Import{Text: a["href"]})
		}
	}
}
