package document

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"strings"

	"juxtagram/core/plan"
)

// MaxSize is how large a document may be, in bytes.
const MaxSize = 64 << 20

// ItemProblem is something of a document that could not be taken as it is.
type ItemProblem struct {
	Where string `json:"where" doc:"Such as chapters[2].passages[0] “The frame”"`
	What  string `json:"what" doc:"What is wrong with it, and what was done"`
}

// maxProblems is how many problems are told one by one.
const maxProblems = 500

// Unreadable tells that a document cannot be read at all.
type Unreadable struct{ Reason string }

func (e *Unreadable) Error() string { return e.Reason }

func unreadable(format string, args ...any) error { return &Unreadable{fmt.Sprintf(format, args...)} }

// reader takes a document item by item.
type reader struct {
	state    *plan.State
	problems []ItemProblem
	more     int               // problems that are not told one by one
	ids      map[string]string // id in the document → in the plan
	left     map[string]bool   // ids of passages that were left out
}

// Read reads a document, JSON or Markdown. What cannot be taken is left out and told,
// item by item; a document that is cut short, too large, of another format, or no
// document at all is an *Unreadable.
func Read(content []byte, in Setting) (*plan.State, []ItemProblem, error) {
	if len(content) > MaxSize {
		return nil, nil, unreadable("it is larger than %d MB", MaxSize>>20)
	}
	r := &reader{state: plan.New(), ids: map[string]string{}, left: map[string]bool{}}
	d, err := r.decode(content, in)
	if err != nil {
		return nil, nil, err
	}
	r.head(d)
	r.name(d)
	keys := plan.Keys(len(d.Chapters))
	for i := range d.Chapters {
		r.chapter(i, keys[i], &d.Chapters[i])
	}
	for i, x := range d.Ideas {
		if x.By != "" && r.state.Passages[r.ids[x.By]] == nil {
			r.problem(x.where(i), "the passage that introduces it, %q, is not in the plan: that is left out", clipped(x.By))
			x.By = ""
		}
		r.apply(x.where(i), plan.Op{Kind: plan.AddIdea, NewIdea: &plan.Idea{ID: r.ids[x.ID], Name: x.Name, Text: x.Text, By: r.ids[x.By]}})
	}
	r.needs(d)
	for i, a := range d.SetAside {
		r.apply(fmt.Sprintf("set_aside[%d] “%s”", i, clipped(a.Key)), plan.Op{Kind: plan.SetAside, ID: a.Key, To: a.Reason})
	}
	if r.more > 0 {
		r.problems = append(r.problems, ItemProblem{"the document", fmt.Sprintf("%d more problems of the same kinds", r.more)})
	}
	return r.state, r.problems, nil
}

// Setting is what a document does not say where it is written by hand.
type Setting struct {
	Commit string // full id of the commit that passages are read at; "": they must say so
	Folder string // of the repository, that Markdown stands in
}

// decode reads either form.
func (r *reader) decode(content []byte, in Setting) (*document, error) {
	content = bytes.TrimPrefix(content, []byte("\ufeff"))
	if start := bytes.TrimSpace(content); len(start) > 0 && (start[0] == '#' || start[0] == '<') {
		return r.markdown(string(content), in)
	}
	d, strange, err := decodeJSON(content)
	if strange != "" {
		r.problem("the document", "%s is not known to this version: it is left out, as is all else that is not known", strange)
	}
	return d, err
}

// checkFormat tells what is wrong with the format that a document names.
func checkFormat(format string) error {
	family, _, _ := strings.Cut(Format, "/")
	switch {
	case format == "":
		return unreadable("it does not say that it is a plan: “format” should be %q", Format)
	case format != Format && strings.HasPrefix(format, family+"/"):
		return unreadable("its format is %q; this version reads %q", clipped(format), Format)
	case format != Format:
		return unreadable("its format is %q, which is no plan", clipped(format))
	}
	return nil
}

// decodeJSON reads the JSON, and tells the first field that it does not know; "": it
// knows all.
func decodeJSON(content []byte) (*document, string, error) {
	var head struct{ Format string }
	if err := json.Unmarshal(content, &head); err != nil {
		var syntax *json.SyntaxError
		switch {
		case len(bytes.TrimSpace(content)) == 0:
			return nil, "", unreadable("it is empty")
		case errors.As(err, &syntax) && int(syntax.Offset) >= len(bytes.TrimRight(content, " \n\r\t")):
			return nil, "", unreadable("it is cut short: it ends after %d bytes, in the middle of something", len(content))
		}
		return nil, "", unreadable("it is neither JSON nor Markdown of a plan: %s", err)
	}
	if err := checkFormat(head.Format); err != nil {
		return nil, "", err
	}
	var d document
	dec := json.NewDecoder(bytes.NewReader(content))
	dec.DisallowUnknownFields()
	strict := dec.Decode(&d)
	if strict == nil {
		return &d, "", nil
	}
	d = document{}
	if err := json.Unmarshal(content, &d); err != nil {
		return nil, "", unreadable("it cannot be read: %s", err)
	}
	return &d, strings.TrimPrefix(strict.Error(), "json: unknown "), nil
}

func (r *reader) problem(where, format string, args ...any) {
	if len(r.problems) >= maxProblems {
		r.more++
		return
	}
	r.problems = append(r.problems, ItemProblem{where, fmt.Sprintf(format, args...)})
}

// apply carries out an operation, or tells why it cannot be.
func (r *reader) apply(where string, op plan.Op) bool {
	err := r.state.Apply(op)
	if err != nil {
		r.problem(where, "%s: it is left out", err)
	}
	return err == nil
}

func (r *reader) head(d *document) {
	set := func(field, from, to string) {
		if err := r.state.Apply(plan.Op{Kind: plan.SetPlan, Field: field, From: from, To: to}); err != nil {
			r.problem(field, "%s: it is left out", err)
		}
	}
	set("title", "", d.Title)
	if r.state.Title == "" {
		r.state.Title = "A plan without a title"
	}
	if d.Purpose != "" {
		set("purpose", "", d.Purpose)
	}
	if d.Budget != 0 {
		set("budget", "0", fmt.Sprint(d.Budget))
	}
	if d.Goal != nil {
		goal, err := json.Marshal(d.Goal)
		if err != nil {
			panic(err) // a plain structure of strings and numbers
		}
		set("goal", "null", string(goal))
	}
}

// name gives every part an id that a plan takes: its own, or where that is of
// another shape, one made of it. Parts without one are told where they are added.
func (r *reader) name(d *document) {
	give := func(where, id string) {
		if _, again := r.ids[id]; again || id == "" {
			return
		}
		r.ids[id] = id
		if !plan.ValidID(id) {
			sum := sha256.Sum256([]byte(where + "\x00" + id))
			r.ids[id] = "taken-" + hex.EncodeToString(sum[:8])
			r.problem(where, "the id %q cannot be used: it is replaced by %q", clipped(id), r.ids[id])
		}
	}
	for i, c := range d.Chapters {
		give(c.where(i), c.ID)
		for k, p := range c.Passages {
			give(p.where(i, k), p.ID)
		}
	}
	for i, x := range d.Ideas {
		give(x.where(i), x.ID)
	}
}

func (r *reader) chapter(i int, key string, c *chapter) {
	at := c.where(i)
	if !r.apply(at, plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: r.ids[c.ID], Order: key, Title: c.Title, Intent: c.Intent}}) {
		if len(c.Passages) > 0 {
			r.problem(at, "so are its %d passages", len(c.Passages))
		}
		for _, p := range c.Passages {
			r.left[p.ID] = true
		}
		return
	}
	keys := plan.Keys(len(c.Passages))
	for k, p := range c.Passages {
		in := p.where(i, k)
		if bad := outside(&p.Target); bad != "" {
			r.problem(in, "the path %q leads out of the repository: it is left out", clipped(bad))
			r.left[p.ID] = true
			continue
		}
		x := &plan.Passage{ID: r.ids[p.ID], Chapter: r.ids[c.ID], Order: keys[k], Target: p.Target, Title: p.Title, Purpose: p.Purpose, Text: p.Text, Minutes: p.Minutes,
			Caution: p.Caution, Optional: p.Optional, Questions: p.Questions, Why: p.Why, Drafted: p.Drafted}
		if !r.apply(in, plan.Op{Kind: plan.AddPassage, NewPs: x}) {
			r.left[p.ID] = r.state.Passages[x.ID] == nil
		}
	}
}

// needs are put in once all that can be needed is there.
func (r *reader) needs(d *document) {
	for i, c := range d.Chapters {
		for k, p := range c.Passages {
			if r.state.Passages[r.ids[p.ID]] == nil || r.left[p.ID] {
				continue
			}
			for _, n := range p.Needs {
				where := p.where(i, k)
				if r.ids[n] == "" {
					r.problem(where, "it needs %q, which is not in the document: that is left out", clipped(n))
					continue
				}
				r.apply(where, plan.Op{Kind: plan.AddNeed, ID: r.ids[p.ID], To: r.ids[n]})
			}
		}
	}
}

// outside is a path of a target that does not lie in a repository; "": there is none.
func outside(t *plan.Target) string {
	paths := []string{t.Path, t.Pattern}
	for _, s := range t.Places() {
		paths = append(paths, s.Path)
	}
	if t.Try != nil {
		paths = append(paths, t.Try.Folder)
	}
	for _, p := range paths {
		if p != "" && (path.Clean(p) != p || p == ".." || strings.HasPrefix(p, "../") || path.IsAbs(p)) {
			return p
		}
	}
	return ""
}

// named is where something stands, with its title.
func named(at, place, title string) string {
	if at == "" {
		at = place
	}
	return at + " “" + clipped(title) + "”"
}

func (c *chapter) where(i int) string { return named(c.at, fmt.Sprintf("chapters[%d]", i), c.Title) }

func (p *passage) where(i, k int) string {
	return named(p.at, fmt.Sprintf("chapters[%d].passages[%d]", i, k), p.Title)
}

func (x *idea) where(i int) string { return named(x.at, fmt.Sprintf("ideas[%d]", i), x.Name) }

// clipped cuts what is told of a document.
func clipped(s string) string {
	if r := []rune(s); len(r) > 80 {
		return string(r[:79]) + "…"
	}
	return s
}
