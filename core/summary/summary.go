package summary

import (
	"fmt"
	"sort"
	"strconv"
	"strings"
)

// Depth is how deep a sentence looked.
type Depth string

// The depths, as in the survey document.
const (
	Names   Depth = "names"   // at names, paths and imports
	Read    Depth = "read"    // into comments and bodies
	History Depth = "history" // at what happened
)

// Cite is a line that bears a sentence; Line 0: the file, or folder, as a whole.
type Cite struct {
	Path string
	Line int
}

// Sentence is one thing to say.
type Sentence struct {
	Kind   string // what it is about: purpose, start, effect, offer, used, twin, alive, test, loose, lean, shape
	Text   string
	Depth  Depth
	Cites  []Cite
	weight float64
}

// maxSentences is how many a summary has at most.
const maxSentences = 6

// maxCites is how many lines one sentence names.
const maxCites = 8

// best orders sentences, the most telling first, and cuts them.
func best(all []Sentence) []Sentence {
	out := all[:0]
	for _, s := range all {
		if s.Text != "" && len(s.Cites) > 0 {
			s.Cites = s.Cites[:min(len(s.Cites), maxCites)]
			out = append(out, s)
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].weight > out[j].weight })
	return out[:min(len(out), maxSentences)]
}

// list joins words as a sentence does: "a", "a and b", "a, b and c".
func list(items []string) string {
	switch len(items) {
	case 0:
		return ""
	case 1:
		return items[0]
	}
	return strings.Join(items[:len(items)-1], ", ") + " and " + items[len(items)-1]
}

// some joins the first few of many: "a, b and 3 more".
func some(items []string, most int) string {
	if len(items) <= most {
		return list(items)
	}
	return strings.Join(items[:most], ", ") + " and " + fmt.Sprint(len(items)-most) + " more"
}

func code(s string) string { return "`" + strings.ReplaceAll(s, "`", "'") + "`" }

func codes(items []string) []string {
	out := make([]string, len(items))
	for i, s := range items {
		out[i] = code(s)
	}
	return out
}

// grouped is a number with its thousands set apart.
func grouped(n int) string {
	s := strconv.Itoa(n)
	for at := len(s) - 3; at > 0; at -= 3 {
		s = s[:at] + "," + s[at:]
	}
	return s
}

// count is a number with its noun.
func count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	switch {
	case strings.HasSuffix(noun, "y") && !strings.HasSuffix(noun, "ay"):
		noun = noun[:len(noun)-1] + "ies"
	case strings.HasSuffix(noun, "s"), strings.HasSuffix(noun, "x"), strings.HasSuffix(noun, "ch"):
		noun += "es"
	default:
		noun += "s"
	}
	return grouped(n) + " " + noun
}
