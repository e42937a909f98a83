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

// saysWhatItIs finds sentences that tell what something is: "X is a …".
var saysWhatItIs = regexp.MustCompile(`^(?:\S+ ){1,4}(?:is|are) (?:an?|the|not) `)

// proseDoc is the first sentence of a document's first paragraph, for the
// languages of prose; a paragraph that says what the thing under the first
// heading is goes before one that only stands above it, news for instance.
func proseDoc(l *lang.Language, content []byte) lang.Doc {
	if l.Name != "Markdown" && l.Name != "reStructuredText" && l.Name != "AsciiDoc" {
		return lang.Doc{}
	}
	title, paragraphs := proseParagraphs(content)
	if len(paragraphs) == 0 {
		return lang.Doc{}
	}
	name, _, _ := strings.Cut(strings.ToLower(title), " ")
	for _, p := range paragraphs {
		if name != "" && strings.HasPrefix(strings.ToLower(p.Text), name) && saysWhatItIs.MatchString(p.Text) {
			return p
		}
	}
	return paragraphs[0]
}

// proseParagraphs are the first sentences of the first paragraphs, with the
// document's title.
func proseParagraphs(content []byte) (title string, paragraphs []lang.Doc) {
	var words []string
	first, n, fenced := 0, 0, false
	end := func() {
		if first > 0 {
			paragraphs = append(paragraphs, lang.Doc{Text: lang.FirstSentence(strings.Join(words, "\n")), Line: first})
		}
		words, first = nil, 0
	}
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
		heading := strings.HasPrefix(text, "#") || text != "" && underlined(content, n)
		if heading && title == "" {
			title = strings.TrimSpace(strings.TrimLeft(text, "# "))
		}
		switch {
		case text == "" && first > 0, n > first+12 && first > 0:
			end()
			if len(paragraphs) == maxParagraphs {
				return title, paragraphs
			}
			continue
		case text == "" || fenced || heading || proseSkips.MatchString(text):
			continue
		}
		if first == 0 {
			first = n
		}
		words = append(words, text)
	}
	end()
	return title, paragraphs
}

// maxParagraphs is how many paragraphs are looked at.
const maxParagraphs = 5

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
