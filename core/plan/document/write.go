package document

import (
	"bytes"
	"encoding/json"
	"io"
	"maps"
	"slices"

	"juxtagram/core/plan"
)

// Format names the version of the document.
const Format = "juxtagram-plan/1"

// document is how a plan is written.
type document struct {
	Format   string     `json:"format"`
	Title    string     `json:"title"`
	Purpose  string     `json:"purpose"`
	Budget   int        `json:"budget,omitempty"`
	Goal     *plan.Goal `json:"goal,omitempty"`
	Chapters []chapter  `json:"chapters"`
	Ideas    []idea     `json:"ideas"`
	SetAside []aside    `json:"set_aside"`
}

type chapter struct {
	at       string    // where it stands, for problems; "": by its place in the list
	ID       string    `json:"id"`
	Title    string    `json:"title"`
	Intent   string    `json:"intent,omitempty"`
	Passages []passage `json:"passages"`
}

type passage struct {
	at        string          // as of a chapter
	ID        string          `json:"id"`
	Title     string          `json:"title"`
	Purpose   string          `json:"purpose"`
	Target    plan.Target     `json:"target"`
	Minutes   int             `json:"minutes"`
	Text      string          `json:"text,omitempty"`
	Needs     []string        `json:"needs,omitempty"`
	Caution   string          `json:"caution,omitempty"`
	Optional  bool            `json:"optional,omitempty"`
	Questions []plan.Question `json:"questions,omitempty"`
	Why       string          `json:"why,omitempty"`
	Drafted   string          `json:"drafted,omitempty"`
}

type idea struct {
	at   string // as of a chapter
	ID   string `json:"id"`
	Name string `json:"name"`
	Text string `json:"text,omitempty"`
	By   string `json:"by,omitempty"`
}

type aside struct {
	Key    string `json:"key"`
	Reason string `json:"reason"`
}

// Write writes all of a plan that is there. What was removed is not written.
func Write(w io.Writer, s *plan.State) error {
	d := document{Format: Format, Title: s.Title, Purpose: s.Purpose, Budget: s.Budget, Goal: s.Goal, Chapters: []chapter{}, Ideas: []idea{}}
	for _, c := range s.InOrder() {
		out := chapter{ID: c.ID, Title: c.Title, Intent: c.Intent, Passages: []passage{}}
		for _, p := range c.Passages {
			out.Passages = append(out.Passages, passage{"", p.ID, p.Title, p.Purpose, p.Target, p.Minutes, p.Text, p.Needs, p.Caution, p.Optional, p.Questions, p.Why, p.Drafted})
		}
		d.Chapters = append(d.Chapters, out)
	}
	for _, i := range s.IdeasInOrder() {
		d.Ideas = append(d.Ideas, idea{"", i.ID, i.Name, i.Text, i.By})
	}
	d.SetAside = asides(s)
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", " ")
	if err := enc.Encode(d); err != nil {
		return err
	}
	_, err := w.Write(b.Bytes())
	return err
}

// asides are what a plan sets aside, by key.
func asides(s *plan.State) []aside {
	out := []aside{}
	for _, key := range slices.Sorted(maps.Keys(s.Aside)) {
		out = append(out, aside{key, s.Aside[key]})
	}
	return out
}
