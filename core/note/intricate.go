package note

import (
	"errors"
	"strings"
)

// A paragraph of Markdown is laid out by looking from each mark back to those before
// it, and each line by opening the blocks that its first marks open: the work grows
// with the square of their number. These bounds keep a text of MaxText below a second.
const (
	maxPairs  = 8_000_000 // of marks, in all paragraphs together
	maxBlocks = 60        // opened one within the other on one line
)

var errIntricate = errors.New("the text has too many marks (*, _, [, >, -) close together to be laid out; put it between lines of ``` to have it shown as written")

// intricate tells that a text would take too long to lay out. Lines between two empty
// ones count as one paragraph, items of lists apart.
func intricate(source string) bool {
	pairs, marks := 0, 0
	for l := range strings.Lines(source) {
		switch t := strings.TrimSpace(l); {
		case t == "":
			marks = 0
			continue
		case strings.HasPrefix(t, "- ") || strings.HasPrefix(t, "* ") || strings.HasPrefix(t, "+ "):
			marks = 0 // an item of a list begins a paragraph of its own
		}
		if opened(l) > maxBlocks {
			return true
		}
		for i := range len(l) {
			switch l[i] {
			case '*', '_', '~', '[', ']', '`', '<', '!':
				pairs += marks
				marks++
			}
		}
		if pairs > maxPairs {
			return true
		}
	}
	return false
}

// opened is how many blocks the beginning of a line may open: quotes and list items.
func opened(line string) (n int) {
	for i := range len(line) {
		switch c := line[i]; {
		case c == '>' || c == '-' || c == '*' || c == '+' || c == '.' || c == ')':
			n++
		case c == ' ' || c == '\t' || '0' <= c && c <= '9':
		default:
			return n
		}
	}
	return 0 // a rule, or nothing but signs: it is no longer than a line
}
