package note

import (
	"fmt"
	"html"
	"slices"
	"strings"

	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/renderer"
	ghtml "github.com/yuin/goldmark/renderer/html"
	"github.com/yuin/goldmark/util"
)

// What the addresses of attachments, and of a plan's ideas, begin with in a text.
const (
	attachedAt = "attachment:"
	ideaAt     = "idea:"
)

// MayAttach tells at a glance whether a text may show or link to an attachment.
func MayAttach(source string) bool { return strings.Contains(source, attachedAt) }

// Attach is what to write in a text to show an attachment, or to link to it.
func Attach(id, name string, picture bool) string {
	mark := ""
	if picture {
		mark = "!"
	}
	return mark + "[" + plainly.Replace(name) + "](" + attachedAt + id + ")"
}

// plainly keeps the signs of a name from acting in a text.
var plainly = strings.NewReplacer(`\`, `\\`, "[", `\[`, "]", `\]`, "`", "\\`", "*", `\*`, "_", `\_`, "#", `\#`, "@", `\@`, "<", `\<`, "!", `\!`)

// addresses leads pictures and links of a text to where they are: attachments to
// this installation, links to what they name. Pictures of elsewhere are never
// fetched: their words stand in their place.
type addresses struct{ links Links }

// RegisterFuncs implements renderer.NodeRenderer.
func (a addresses) RegisterFuncs(r renderer.NodeRendererFuncRegisterer) {
	r.Register(ast.KindImage, a.image)
	r.Register(ast.KindLink, a.link)
}

func (a addresses) attached(address []byte) (at *Attached, ours bool) {
	id, ours := strings.CutPrefix(string(address), attachedAt)
	if ours && a.links.Attached != nil {
		at = a.links.Attached(id)
	}
	return at, ours
}

func (a addresses) image(w util.BufWriter, source []byte, n ast.Node, entering bool) (ast.WalkStatus, error) {
	if !entering {
		return ast.WalkContinue, nil
	}
	x := n.(*ast.Image)
	alt := html.EscapeString(words(x, source))
	switch at, _ := a.attached(x.Destination); {
	case at == nil:
		_, _ = w.WriteString(`<em>` + alt + `</em>`)
	case at.Picture:
		address := html.EscapeString(at.Address)
		_, _ = fmt.Fprintf(w, `<a class="attached" href="%s"><img src="%s" alt="%s" width="%d" height="%d"></a>`, address, address, alt, at.Width, at.Height)
	default:
		_, _ = w.WriteString(`<a class="attached" href="` + html.EscapeString(at.Address) + `">` + alt + `</a>`)
	}
	return ast.WalkSkipChildren, nil
}

func (a addresses) link(w util.BufWriter, _ []byte, n ast.Node, entering bool) (ast.WalkStatus, error) {
	x := n.(*ast.Link)
	at, ours := a.attached(x.Destination)
	idea, isIdea := strings.CutPrefix(string(x.Destination), ideaAt)
	term, isTerm := strings.CutPrefix(string(x.Destination), ideaTerm)
	open, end := `<a href="`+string(util.EscapeHTML(util.URLEscape(x.Destination, true)))+`">`, `</a>`
	switch {
	case at != nil:
		open = `<a class="attached" href="` + html.EscapeString(at.Address) + `">`
	case isTerm && isTermOf(a.links.Terms, term):
		open = `<a class="idea" href="` + html.EscapeString(term) + `">`
	case isIdea && a.links.Idea != nil:
		open = `<a class="idea" href="` + html.EscapeString(a.links.Idea(idea)) + `">`
	case ours || isIdea || isTerm || ghtml.IsDangerousURL(x.Destination):
		open, end = `<em>`, `</em>`
	}
	if !entering {
		open = end
	}
	_, _ = w.WriteString(open)
	return ast.WalkContinue, nil
}

// isTermOf tells whether an address is a term's: a text cannot make one up.
func isTermOf(terms []Term, address string) bool {
	return slices.ContainsFunc(terms, func(t Term) bool { return t.Address == address })
}
