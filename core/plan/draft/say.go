package draft

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"juxtagram/core/lang"
	"juxtagram/core/plan"
	"juxtagram/core/summary"
)

// count is a number with its noun.
func count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// tellPurpose puts into a passage what its file's summary says: the first
// sentence as what one will know, the others as its text, each with the lines
// that bear it. A file of which nothing is known has neither.
func tellPurpose(p *plan.Passage, said []summary.Sentence) {
	var rest []string
	for _, s := range said {
		text := s.Text + cited(s.Cites, p.Target.Path)
		switch {
		case s.Kind == "alive" || s.Kind == "loose":
			continue // evidence, and no more true tomorrow
		case p.Purpose == "" && (s.Kind == "purpose" || s.Kind == "start" || s.Kind == "offer" || s.Kind == "effect" || s.Kind == "test"):
			p.Purpose = text
		default:
			rest = append(rest, "- "+text)
		}
	}
	p.Text = strings.Join(rest, "\n")
}

// tellSymbol is what a symbol says of itself, or how it is written.
func tellSymbol(s *lang.Symbol) string {
	if s.Doc != "" {
		return fmt.Sprintf("%s (line %d)", s.Doc, s.NameLine)
	}
	return fmt.Sprintf("`%s` (line %d)", strings.ReplaceAll(s.Signature, "`", "'"), s.NameLine)
}

// cited names the first three lines that bear a sentence: " (line 12, other.go:3)";
// lines of the passage's own file go without its name.
func cited(cites []summary.Cite, own string) string {
	var out []string
	for _, c := range cites[:min(len(cites), 3)] {
		switch {
		case c.Line == 0 && c.Path == own:
		case c.Path == own:
			out = append(out, fmt.Sprintf("line %d", c.Line))
		case c.Line == 0:
			out = append(out, c.Path)
		default:
			out = append(out, fmt.Sprintf("%s:%d", c.Path, c.Line))
		}
	}
	if len(out) == 0 {
		return ""
	}
	return " (" + strings.Join(out, ", ") + ")"
}

// why tells what speaks for a file, the weightiest first, and why it stands
// where it does: led is the passage that leads to it, needs are those that it
// leans on, in the plan, by their titles.
func (g *Ground) why(file int, goal string, led string, needs []string) string {
	f := &g.Whole.Files[file]
	var out []string
	if goal != "" {
		out = append(out, goal)
	}
	for _, e := range f.Starts {
		if text := fmt.Sprintf("%s %s starts here", e.Kind, e.Name); len(out) < 3 && !slices.Contains(out, text) {
			out = append(out, text)
		}
	}
	if g.Hot[file] > 0 {
		out = append(out, fmt.Sprintf("a hotspot (%.2f; %s)", g.Hot[file], count(f.Commits, "change")))
	}
	if n := len(g.leaned[file]); n >= 3 {
		out = append(out, fmt.Sprintf("%d files lean on it", n))
	}
	if len(out) == 0 {
		out = append(out, "it shows what is in "+orRoot(strings.TrimSuffix(path.Dir(f.Path), ".")))
	}
	text := strings.Join(out, "; ")
	switch {
	case led != "":
		text += ". Here, because " + led + " leans on it"
	case len(needs) > 0:
		text += ". Here, because what it leans on came before: " + strings.Join(needs, ", ")
	}
	return text
}
