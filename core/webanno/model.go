package webanno

import (
	"fmt"
	"net/url"
	"strconv"
	"strings"
	"time"

	"juxtagram/core/place"
)

// Note is one text of a thread.
type Note struct {
	UID     string
	Author  string
	Text    string // Markdown
	Created time.Time
	Edited  *time.Time // nil: never
	Rev     int
}

// Target is what a thread is about.
type Target struct {
	Kind       string // lines, symbol, file, folder, commit, repository
	Commit     string // full id; "": the document does not tell
	Path       string
	Start, End int // lines from 1, both included; 0: the whole
	Symbol     string
	Quote      place.Quote
	From, To   int // in characters of the text, To not included; both 0: not told
}

// Thread is a first note with its replies.
type Thread struct {
	Note
	Kind    string // note, question, ask
	State   string // open, resolved
	StateBy string
	Asked   string // a name; "": nobody
	Answer  string // the uid of the reply that answers it
	Private bool
	Tags    []string
	Target  Target
	Replies []Note
	Commits []string // full ids of commits that follow it up
}

// File is a file that texts show or link to by its uid.
type File struct {
	UID     string
	Name    string
	Content []byte // nil: the document names it and does not hold it
}

// The terms of the model.
const (
	contextURL = "http://www.w3.org/ns/anno.jsonld"
	urnOfNote  = "urn:x-juxtagram:annotation:"
	urnOfFile  = "urn:x-juxtagram:attachment:"
	filesTerm  = "juxtagram:attachments"
	urnOfGit   = "urn:x-git:"
	rfc5147    = "http://tools.ietf.org/rfc/rfc5147"
)

type item struct {
	Context    any      `json:"@context,omitempty"`
	ID         string   `json:"id"`
	Type       string   `json:"type"`
	Motivation string   `json:"motivation,omitempty"`
	Created    string   `json:"created,omitempty"`
	Modified   string   `json:"modified,omitempty"`
	Creator    *creator `json:"creator,omitempty"`
	Body       any      `json:"body,omitempty"`
	Target     any      `json:"target"`
	Ours       *ours    `json:"juxtagram:note,omitempty"`
	_          struct{} `json:"-"`
}

// file is a File as documents hold it: the model has no word for bytes.
type file struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Value []byte `json:"value,omitempty"` // base64
}

type creator struct {
	Type string `json:"type,omitempty"`
	Name string `json:"name"`
}

type textualBody struct {
	Type    string `json:"type"`
	Purpose string `json:"purpose,omitempty"`
	Format  string `json:"format,omitempty"`
	Value   string `json:"value"`
}

type resource struct {
	Source   string     `json:"source"`
	Selector []selector `json:"selector,omitempty"`
}

type selector struct {
	Type       string `json:"type"`
	ConformsTo string `json:"conformsTo,omitempty"`
	Value      string `json:"value,omitempty"`
	Exact      string `json:"exact,omitempty"`
	Prefix     string `json:"prefix,omitempty"`
	Suffix     string `json:"suffix,omitempty"`
	Start      *int   `json:"start,omitempty"`
	End        *int   `json:"end,omitempty"`
}

// ours is what the model has no word for.
type ours struct {
	Kind    string `json:"kind,omitempty"`
	Target  string `json:"target,omitempty"`
	Symbol  string `json:"symbol,omitempty"`
	State   string `json:"state,omitempty"`
	StateBy string `json:"state_by,omitempty"`
	Asked   string `json:"asked,omitempty"`
	Answer  string `json:"answer,omitempty"`
	Private bool   `json:"private,omitempty"`
	Rev     int    `json:"rev,omitempty"`

	Commits []string `json:"follow_ups,omitempty"`
}

// sourceOf is the address of what a thread is about.
func sourceOf(t *Target) string {
	switch t.Kind {
	case "commit", "repository":
		return urnOfGit + t.Commit
	}
	parts := strings.Split(t.Path, "/")
	for i, p := range parts {
		parts[i] = url.PathEscape(p)
	}
	at := urnOfGit + t.Commit + ":" + strings.Join(parts, "/")
	if t.Kind == "folder" {
		at += "/"
	}
	return at
}

// readSource takes sourceOf back. Another source may be a path of the
// repository; an address of elsewhere is none.
func readSource(source string, t *Target) error {
	rest, ours := strings.CutPrefix(source, urnOfGit)
	path := rest
	if ours {
		t.Commit, path, _ = strings.Cut(rest, ":")
		if path == "" {
			t.Kind = "commit"
			return nil
		}
	} else if u, err := url.Parse(source); err != nil || u.Scheme != "" || u.Host != "" || strings.HasPrefix(source, "/") {
		return fmt.Errorf("its source %.80q is no file of a Git repository", source)
	}
	parts := strings.Split(path, "/")
	for i, p := range parts {
		plain, err := url.PathUnescape(p)
		if err != nil || plain == ".." || strings.ContainsRune(plain, 0) {
			return fmt.Errorf("its source %.80q has a path that leads nowhere", source)
		}
		parts[i] = plain
	}
	t.Path, t.Kind = strings.Join(parts, "/"), "file"
	if folder, ok := strings.CutSuffix(t.Path, "/"); ok {
		t.Path, t.Kind = folder, "folder"
	}
	return nil
}

// selectors tell where in a file a thread is.
func selectors(t *Target) []selector {
	if t.Start == 0 {
		return nil
	}
	// RFC 5147 counts the positions between lines, from 0
	out := []selector{{Type: "FragmentSelector", ConformsTo: rfc5147, Value: fmt.Sprintf("line=%d,%d", t.Start-1, t.End)}}
	if t.Quote.Exact != "" {
		out = append(out, selector{Type: "TextQuoteSelector", Exact: t.Quote.Exact, Prefix: t.Quote.Before, Suffix: t.Quote.After})
	}
	if t.To > 0 {
		from, to := t.From, t.To
		out = append(out, selector{Type: "TextPositionSelector", Start: &from, End: &to})
	}
	return out
}

// readSelectors reads where in a file a thread is. Selectors that say nothing which is
// understood are an error: the thread is not one on the file as a whole.
func readSelectors(list []selector, t *Target) error {
	understood := len(list) == 0
	for _, s := range list {
		switch s.Type {
		case "FragmentSelector":
			if kind, from, to, ok := fragment(s.Value); ok && kind == "line" {
				t.Kind, t.Start, t.End = "lines", from+1, to
				understood = true
			} else if ok {
				t.From, t.To = from, to
				understood = true
			}
		case "TextQuoteSelector":
			t.Quote = place.Quote{Exact: s.Exact, Before: s.Prefix, After: s.Suffix}
			understood = understood || strings.TrimSpace(s.Exact) != ""
		case "TextPositionSelector":
			if s.Start != nil && s.End != nil && *s.End > *s.Start && *s.Start >= 0 {
				t.From, t.To = *s.Start, *s.End
				understood = true
			}
		}
	}
	if !understood {
		return fmt.Errorf("its selector (%.60s) says no place that can be found", list[0].Type)
	}
	if t.Start == 0 && (t.To > 0 || t.Quote.Exact != "") && t.Kind != "file" {
		return fmt.Errorf("it selects text of something that is no file")
	}
	return nil
}

// fragment reads a fragment identifier of RFC 5147 ("line=3,5", "char=10,20"), whose
// positions lie between lines or characters and count from 0.
func fragment(value string) (kind string, from, to int, ok bool) {
	kind, rest, _ := strings.Cut(value, "=")
	rest, _, _ = strings.Cut(rest, ";") // checks of integrity follow
	a, b, _ := strings.Cut(rest, ",")
	from, err1 := strconv.Atoi(a)
	to, err2 := strconv.Atoi(b)
	return kind, from, to, (kind == "line" || kind == "char") && err1 == nil && err2 == nil && from >= 0 && to > from && to < 1<<30
}
