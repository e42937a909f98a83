// Package vue describes Vue's single-file components to the survey: the script
// by TypeScript's or JavaScript's grammar, the styles by CSS's, the template by
// HTML's.
package vue

import (
	"bytes"
	"regexp"

	"juxtagram/core/lang"
	"juxtagram/core/lang/css"
	"juxtagram/core/lang/html"
	"juxtagram/core/lang/javascript"
	"juxtagram/core/lang/tsx"
	"juxtagram/core/lang/typescript"
)

// Language is Vue's single-file component.
var Language = lang.Language{Name: "Vue", Extensions: []string{".vue"}, Parts: blocks}

var (
	openTag  = regexp.MustCompile(`(?m)^<(script|template|style)((?:\s+[^<>"']+(?:=(?:"[^"]*"|'[^']*'|[^\s"'<>]+))?)*)\s*>`)
	langAttr = regexp.MustCompile(`\blang\s*=\s*["']?([A-Za-z]+)`)
)

// blocks finds the component's top-level blocks: each begins at the start of a
// line. Comments between them are HTML.
func blocks(text []byte) []lang.Part {
	var out []lang.Part
	for at := 0; at < len(text); {
		m := openTag.FindSubmatchIndex(text[at:])
		if m == nil {
			break
		}
		if between := (lang.Span{Start: at, End: at + m[0]}); bytes.Contains(text[between.Start:between.End], []byte("<!--")) {
			out = append(out, lang.Part{Language: &html.Language, Span: between})
		}
		name, start := string(text[at+m[2]:at+m[3]]), at+m[1]
		end := blockEnd(text, start, name)
		kind := ""
		if l := langAttr.FindSubmatch(text[at+m[4] : at+m[5]]); l != nil {
			kind = string(l[1])
		}
		if l := languageOf(name, kind); l != nil && end > start {
			out = append(out, lang.Part{Language: l, Span: lang.Span{Start: start, End: end}})
		}
		at = end
	}
	return out
}

// blockEnd is where a block's own end tag begins: the first one, but the last
// one before the next block for a template, since templates nest.
func blockEnd(text []byte, start int, name string) int {
	tag := []byte("</" + name)
	if name == "template" {
		limit := len(text)
		if next := openTag.FindIndex(text[start:]); next != nil {
			limit = start + next[0]
		}
		if i := bytes.LastIndex(text[start:limit], tag); i >= 0 {
			return start + i
		}
	}
	if i := bytes.Index(text[start:], tag); i >= 0 {
		return start + i
	}
	return len(text)
}

func languageOf(block, kind string) *lang.Language {
	switch {
	case block == "script" && kind == "ts":
		return &typescript.Language
	case block == "script" && (kind == "tsx" || kind == "jsx"):
		return &tsx.Language
	case block == "script":
		return &javascript.Language
	case block == "style" && kind == "" || kind == "css":
		return &css.Language
	case block == "template" && (kind == "" || kind == "html"):
		return &html.Language
	}
	return nil
}
