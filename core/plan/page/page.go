package page

import (
	"context"
	_ "embed"
	"fmt"
	"html/template"
	"io"
	"strings"

	"juxtagram/core/note"
	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
)

// About is what a page tells beside the plan.
type About struct {
	Repository string // its name; "": not told
	Edition    int    // 0: a draft, or not known
}

//go:embed page.css
var style string

//go:embed page.html
var layout string

var page = template.Must(template.New("page").Funcs(template.FuncMap{
	"roman": document.Numeral,
	"short": func(id string) string { return id[:min(10, len(id))] },
	"prose": prose,
	"many":  document.Many,
}).Parse(layout))

// view is what the page shows.
type view struct {
	Title, Purpose    string
	Style             template.CSS
	About             About
	Passages, Minutes int
	Budget            int
	Commit            string // that all of it is read at; "": several
	Chapters          []chapterView
	Ideas             []ideaView
	Aside             int
	Pictures          int // in texts, which are not here
	Left              int // blocks that found no room
}

type chapterView struct {
	plan.Chapter
	Number   int
	Passages []passageView
}

type passageView struct {
	plan.Passage
	Number   int
	Text     template.HTML
	Before   []reference
	Blocks   []block
	Previous int // 0: there is none
	Next     int
}

type ideaView struct {
	plan.Idea
	Text template.HTML
	By   *reference
}

// reference leads to a passage or an idea of the page.
type reference struct {
	Address template.URL
	Title   string
}

// printer makes the view.
type printer struct {
	source *Source
	state  *plan.State
	number map[string]int // of a passage
	links  note.Links
	code   int // bytes of code so far
	left   int
	images int
}

// Write writes a plan as a page.
func Write(ctx context.Context, w io.Writer, s *plan.State, from *Source, about About) error {
	p := &printer{source: from, state: s, number: map[string]int{}}
	v, err := p.view(ctx, about)
	if err != nil {
		return err
	}
	return page.Execute(w, v)
}

func (p *printer) view(ctx context.Context, about About) (*view, error) {
	v := &view{Title: p.state.Title, Purpose: p.state.Purpose, Style: template.CSS(style), About: about, Budget: p.state.Budget, Aside: len(p.state.Aside)} //nolint:gosec // our own
	ideas := p.state.IdeasInOrder()
	p.links.Idea = func(id string) string { return "#idea-" + id }
	for _, i := range ideas {
		p.links.Terms = append(p.links.Terms, note.Term{Word: i.Name, Address: "#idea-" + i.ID})
	}
	chapters := p.state.InOrder()
	commits := map[string]bool{}
	for _, c := range chapters {
		for _, x := range c.Passages {
			v.Passages++
			v.Minutes += x.Minutes
			p.number[x.ID] = v.Passages
			commits[x.Target.Commit] = true
			v.Commit = x.Target.Commit
		}
	}
	if len(commits) > 1 {
		v.Commit = ""
	}
	for i, c := range chapters {
		cv := chapterView{Chapter: c.Chapter, Number: i + 1}
		for k := range c.Passages {
			x, err := p.passage(ctx, &c.Passages[k], v.Passages)
			if err != nil {
				return nil, fmt.Errorf("passage %q: %w", c.Passages[k].Title, err)
			}
			cv.Passages = append(cv.Passages, *x)
		}
		v.Chapters = append(v.Chapters, cv)
	}
	for _, i := range ideas {
		x := ideaView{Idea: i, Text: p.text(i.Text)}
		if p.number[i.By] > 0 {
			x.By = p.reference(i.By)
		}
		v.Ideas = append(v.Ideas, x)
	}
	v.Pictures, v.Left = p.images, p.left
	return v, nil
}

func (p *printer) passage(ctx context.Context, x *plan.Passage, of int) (*passageView, error) {
	out := &passageView{Passage: *x, Number: p.number[x.ID], Text: p.text(x.Text)}
	out.Previous = out.Number - 1
	if out.Number < of {
		out.Next = out.Number + 1
	}
	for _, id := range x.Needs {
		if r := p.reference(id); r != nil {
			out.Before = append(out.Before, *r)
		}
	}
	var err error
	out.Blocks, err = p.blocks(ctx, &x.Target)
	return out, err
}

// text is Markdown of people as HTML that does nothing but show.
func (p *printer) text(markdown string) template.HTML {
	p.images += len(note.Read(markdown).Attached)
	return template.HTML(note.HTML(markdown, p.links)) //nolint:gosec // cleaned by package note
}

// reference leads to a passage or an idea by its id; nil: neither is there.
func (p *printer) reference(id string) *reference {
	if n := p.number[id]; n > 0 {
		return &reference{template.URL(fmt.Sprintf("#p%d", n)), fmt.Sprintf("%d. %s", n, p.state.Passages[id].Title)} //nolint:gosec // a number
	}
	if i := p.state.Ideas[id]; i != nil && !i.Removed {
		return &reference{template.URL("#idea-" + i.ID), i.Name} //nolint:gosec // ids are letters, digits and dashes
	}
	return nil
}

// prose is words of several lines, `code` between backticks shown as such.
func prose(s string) template.HTML {
	var b strings.Builder
	parts := strings.Split(note.Visible(strings.TrimSpace(s)), "`")
	for i, part := range parts {
		escaped := strings.ReplaceAll(template.HTMLEscapeString(part), "\n", "<br>")
		switch {
		case i%2 == 0:
			b.WriteString(escaped)
		case i == len(parts)-1:
			b.WriteString("`" + escaped)
		default:
			b.WriteString("<code>" + escaped + "</code>")
		}
	}
	return template.HTML(b.String()) //nolint:gosec // escaped part by part
}
