package facts

import (
	"bytes"
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

var (
	proseLink   = regexp.MustCompile(`!?\[([^\[\]]*)\]\([^()]*\)`)
	proseMarks  = strings.NewReplacer("**", "", "__", "", "``", "", "`", "")
	proseSkips  = regexp.MustCompile(`^(?:#|[-*+] |\d+[.)] |\[?\s*\[|=+$|-+$|\[!|!\[|<|\||>|:\w|\.\. |\[\w+\]:|---|\* \* \*)`)
	proseFenced = regexp.MustCompile("^(?:```|~~~)")
)

// maxProseLines is how far down a document the first paragraph may begin.
const maxProseLines = 80

// proseDoc is the first sentence of a document's first paragraph, for the
// languages of prose.
func proseDoc(l *lang.Language, content []byte) lang.Doc {
	if l.Name != "Markdown" && l.Name != "reStructuredText" && l.Name != "AsciiDoc" {
		return lang.Doc{}
	}
	var words []string
	first, n, fenced := 0, 0, false
	for line := range bytes.Lines(content) {
		if n++; n > maxProseLines && first == 0 {
			break
		}
		text := strings.TrimSpace(lang.ValidText(line))
		if proseFenced.MatchString(text) {
			fenced = !fenced
			continue
		}
		text = strings.TrimSpace(proseMarks.Replace(withoutLinks(text)))
		switch {
		case text == "" && first > 0, n > first+12 && first > 0:
			return lang.Doc{Text: lang.FirstSentence(strings.Join(words, "\n")), Line: first}
		case text == "" || fenced || proseSkips.MatchString(text) || underlined(content, n):
			continue
		}
		if first == 0 {
			first = n
		}
		words = append(words, text)
	}
	if first == 0 {
		return lang.Doc{}
	}
	return lang.Doc{Text: lang.FirstSentence(strings.Join(words, "\n")), Line: first}
}

// withoutLinks puts the words of links in their place; a line of pictures alone
// keeps nothing.
func withoutLinks(text string) string {
	if strings.HasPrefix(text, "[![") || strings.HasPrefix(text, "![") {
		return ""
	}
	for range 3 {
		text = proseLink.ReplaceAllString(text, "$1")
	}
	return text
}

// underlined tells whether a line is a heading by the line below it.
func underlined(content []byte, n int) bool {
	k := 0
	for line := range bytes.Lines(content) {
		if k++; k == n+1 {
			text := bytes.TrimSpace(line)
			return len(text) > 2 && (len(bytes.Trim(text, "=")) == 0 || len(bytes.Trim(text, "-")) == 0 || len(bytes.Trim(text, "~")) == 0)
		}
		if k > n+1 {
			break
		}
	}
	return false
}
