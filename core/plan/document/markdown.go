package document

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/url"
	"path"
	"path/filepath"
	"regexp"
	"strings"

	"juxtagram/core/plan"
)

// WriteMarkdown writes a plan for people, as a file that stands in a folder of the
// repository ("": the root): links lead to the code from there. Comments hold what
// the text does not say, such as ids.
func WriteMarkdown(w io.Writer, s *plan.State, folder string) error {
	m := &markdown{folder: folder, number: map[string]int{}, titles: map[string]string{}, state: s}
	chapters := s.InOrder()
	minutes, n := 0, 0
	commits := map[string]bool{}
	commit := ""
	for _, c := range chapters {
		for _, p := range c.Passages {
			n++
			m.number[p.ID], m.titles[p.ID] = n, p.Title
			minutes += p.Minutes
			commits[p.Target.Commit] = true
			commit = p.Target.Commit
		}
	}
	m.comment(Format, struct {
		Folder   string     `json:"folder,omitempty"`
		Budget   int        `json:"budget,omitempty"`
		Goal     *plan.Goal `json:"goal,omitempty"`
		SetAside []aside    `json:"set_aside,omitempty"`
	}{folder, s.Budget, s.Goal, asides(s)})
	m.line("# %s\n", heading(s.Title))
	m.paragraph(s.Purpose)
	told := Many(n, "passage") + ", " + Many(minutes, "minute")
	if s.Budget > 0 {
		told += fmt.Sprintf("; readers have %d", s.Budget)
	}
	switch len(commits) {
	case 0:
	case 1:
		told += fmt.Sprintf(". Read at commit `%.10s`", commit)
	default:
		told += ". Read at " + Many(len(commits), "commit")
	}
	m.line("*%s.*\n", told)
	for i, c := range chapters {
		m.comment("chapter", struct {
			ID string `json:"id"`
		}{c.ID})
		m.line("## %s. %s\n", Numeral(i+1), heading(c.Title))
		m.paragraph(c.Intent)
		for k := range c.Passages {
			m.passage(&c.Passages[k])
		}
	}
	m.ideas()
	_, err := w.Write(m.out.Bytes())
	return err
}

type markdown struct {
	out    bytes.Buffer
	folder string
	state  *plan.State
	number map[string]int
	titles map[string]string
}

func (m *markdown) line(format string, args ...any) { fmt.Fprintf(&m.out, format+"\n", args...) }

// paragraph writes words as one paragraph: empty lines have no place in it.
func (m *markdown) paragraph(text string) { m.labelled("", text) }

// labelled writes words as one paragraph behind a label.
func (m *markdown) labelled(label, text string) {
	if text = words(text); text != "" {
		m.line("%s%s\n", label, text)
	}
}

// text writes Markdown that people wrote between two comments, so that it is found
// again whatever it holds.
func (m *markdown) text(text string) {
	if text = strings.TrimSpace(text); text == "" {
		return
	}
	mark := "text"
	for n := 2; strings.Contains(text, "<!-- /"+mark+" -->"); n++ {
		mark = fmt.Sprintf("text %d", n)
	}
	m.line("<!-- %s -->\n\n%s\n\n<!-- /%s -->\n", mark, text, mark)
}

// comment puts a value into a comment, whatever it holds.
func (m *markdown) comment(what string, v any) {
	raw, err := json.Marshal(v)
	if err != nil {
		panic(err) // plain structures of strings and numbers
	}
	m.line("<!-- %s %s -->", what, strings.ReplaceAll(string(raw), "--", `-\u002d`))
}

// heading is text of one line that means nothing to Markdown.
func heading(s string) string { return inline(strings.Join(strings.Fields(s), " ")) }

// words is text of several lines that mean nothing to Markdown; empty lines go.
func words(s string) string {
	var out []string
	for l := range strings.Lines(s) {
		if l = heading(l); l != "" {
			out = append(out, startOfItem.ReplaceAllString(startOfBlock.ReplaceAllString(l, `\$0`), `$1\$2`))
		}
	}
	return strings.Join(out, "\n")
}

var special = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", `\<`, ">", `\>`, "#", `\#`, "|", `\|`, "~", `\~`, "!", `\!`, "&", `\&`)

// inline is plain text that means nothing to Markdown, but for `code` between
// backticks, which stays.
func inline(s string) string {
	parts := strings.Split(s, "`")
	for i := range parts {
		if i%2 == 0 || i == len(parts)-1 {
			parts[i] = special.Replace(parts[i])
		}
	}
	return strings.Join(parts, "`")
}

// What begins a list or a fence, or underlines a heading, at the start of a line.
var (
	startOfBlock = regexp.MustCompile("^([-+=]|```)")
	startOfItem  = regexp.MustCompile(`^(\d{1,9})([.)])`)
)

func (m *markdown) passage(p *plan.Passage) {
	m.comment("passage", struct {
		ID      string      `json:"id"`
		Target  plan.Target `json:"target"`
		Needs   []string    `json:"needs,omitempty"`
		Drafted string      `json:"drafted,omitempty"`
	}{p.ID, p.Target, p.Needs, p.Drafted})
	m.line("### %d. %s\n", m.number[p.ID], heading(p.Title))
	facts := []string{m.where(&p.Target), fmt.Sprintf("%d min", p.Minutes)}
	if p.Optional {
		facts = append(facts, "may be left out")
	}
	m.line("%s\n", strings.Join(facts, " · "))
	m.labelled("**After it:** ", p.Purpose)
	if before := m.before(p); before != "" {
		m.line("**Before it:** %s\n", before)
	}
	if p.Caution != "" {
		m.line("> **Caution:** %s\n", strings.ReplaceAll(words(p.Caution), "\n", "\n> "))
	}
	m.text(p.Text)
	m.try(p.Target.Try)
	if len(p.Questions) > 0 {
		m.line("**Ask yourself:**\n")
		for _, q := range p.Questions {
			m.line("- %s", heading(q.Ask))
			if q.Answer != "" {
				m.line("  *%s*", heading(q.Answer))
			}
		}
		m.line("")
	}
	if why := words(p.Why); why != "" {
		m.line("<sub>%s</sub>\n", why)
	}
}

// before tells what is to be known before a passage.
func (m *markdown) before(p *plan.Passage) string {
	var out []string
	for _, n := range p.Needs {
		if i := m.state.Ideas[n]; i != nil && !i.Removed {
			out = append(out, "the idea *"+heading(i.Name)+"*")
		} else if m.number[n] > 0 {
			out = append(out, fmt.Sprintf("%d. %s", m.number[n], heading(m.titles[n])))
		}
	}
	return strings.Join(out, "; ")
}

// where leads to what a passage has one read.
func (m *markdown) where(t *plan.Target) string {
	own := plan.Stretch{Path: t.Path, Start: t.Start, End: t.End}
	switch t.Kind {
	case plan.Folder:
		if t.Path == "" {
			return "the whole repository"
		}
		return m.link(plan.Stretch{Path: t.Path + "/"})
	case plan.Pair:
		return m.link(own) + " beside " + m.link(*t.Beside)
	case plan.Commit:
		return fmt.Sprintf("commit `%s`", t.Commit)
	case plan.Comparison:
		what := fmt.Sprintf("`git diff %.10s %.10s`", t.Base, t.Commit)
		if t.Path != "" {
			what += " of " + m.link(plan.Stretch{Path: t.Path})
		}
		return what
	case plan.Way:
		var hops []string
		for _, h := range t.Hops {
			hops = append(hops, m.link(h))
		}
		return strings.Join(hops, " → ")
	case plan.Planned:
		out := "`" + t.Path + "`, not there yet"
		if t.Pattern != "" {
			out += ", after " + m.link(plan.Stretch{Path: t.Pattern})
		}
		return out
	case plan.Try:
		return "something to try"
	case plan.Symbol:
		return fmt.Sprintf("`%s` in %s", strings.ReplaceAll(t.Symbol, "`", "'"), m.link(own))
	case plan.File:
		if t.Skim > 0 {
			return m.link(own) + fmt.Sprintf(", its %d most telling lines", t.Skim)
		}
	}
	return m.link(own)
}

// link leads to lines of a file from the folder that the document stands in.
func (m *markdown) link(s plan.Stretch) string {
	to, err := filepath.Rel("/"+m.folder, "/"+strings.TrimSuffix(s.Path, "/"))
	if err != nil {
		to = s.Path
	}
	parts := strings.Split(filepath.ToSlash(to), "/")
	for i := range parts {
		parts[i] = url.PathEscape(parts[i])
	}
	address := path.Join(parts...)
	switch {
	case s.Start > 0 && s.End > s.Start:
		address = fmt.Sprintf("%s#L%d-L%d", address, s.Start, s.End)
	case s.Start > 0:
		address = fmt.Sprintf("%s#L%d", address, s.Start)
	}
	if first, _, _ := strings.Cut(address, "/"); strings.Contains(first, ":") {
		address = "./" + address // else it would name a scheme
	}
	address = strings.NewReplacer("(", "%28", ")", "%29").Replace(address)
	return fmt.Sprintf("[%s](%s)", inline(strings.ReplaceAll(s.Name(), "`", "'")), address)
}

// try writes what is to be done.
func (m *markdown) try(t *plan.Trial) {
	if t == nil {
		return
	}
	for _, x := range []struct{ what, text string }{{"Where", t.Folder}, {"On", t.Platform}, {"Set up", t.SetUp}} {
		m.labelled("**"+x.what+":** ", x.text)
	}
	if t.Commands != "" {
		fence := "```"
		for strings.Contains(t.Commands, fence) {
			fence += "`"
		}
		m.line("%ssh\n%s\n%s\n", fence, strings.TrimRight(t.Commands, "\n"), fence)
	}
	for _, x := range []struct{ what, text string }{{"Give it", t.Inputs}, {"What should come", t.Outcome}} {
		m.labelled("**"+x.what+":** ", x.text)
	}
	if len(t.Pauses) > 0 {
		m.line("**Stop at:**\n")
		for _, p := range t.Pauses {
			m.line("- %s", strings.TrimSpace(m.link(p)+" "+heading(p.Says)))
		}
		m.line("")
	}
}

func (m *markdown) ideas() {
	list := m.state.IdeasInOrder()
	if len(list) == 0 {
		return
	}
	m.line("## Ideas\n")
	for _, i := range list {
		m.comment("idea", struct {
			ID string `json:"id"`
			By string `json:"by,omitempty"`
		}{i.ID, i.By})
		by := ""
		if n := m.number[i.By]; n > 0 {
			by = fmt.Sprintf(" (introduced in %d)", n)
		}
		m.line("**%s**%s\n", heading(i.Name), by)
		m.text(i.Text)
	}
}

// Many is a number with its noun.
func Many(n int, noun string) string {
	if n != 1 {
		noun += "s"
	}
	return fmt.Sprintf("%d %s", n, noun)
}

// Numeral is a number as chapters bear it: 4 is IV.
func Numeral(n int) string {
	var out strings.Builder
	for _, d := range []struct {
		n int
		s string
	}{{1000, "M"}, {900, "CM"}, {500, "D"}, {400, "CD"}, {100, "C"}, {90, "XC"}, {50, "L"}, {40, "XL"}, {10, "X"}, {9, "IX"}, {5, "V"}, {4, "IV"}, {1, "I"}} {
		for ; n >= d.n; n -= d.n {
			out.WriteString(d.s)
		}
	}
	return out.String()
}
