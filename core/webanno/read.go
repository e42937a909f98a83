package webanno

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"strings"
	"time"
)

// MaxItems is how many annotations of one document are read.
const MaxItems = 100_000

// MaxFiles is how many files of one document are read.
const MaxFiles = 2000

// PassedOver is an annotation that was passed over.
type PassedOver struct {
	Item int    `json:"item"` // its place in the document, from 1
	ID   string `json:"id"`
	Why  string `json:"why"`
}

// maxProblems is how many problems are told.
const maxProblems = 200

// Document is what was read.
type Document struct {
	Threads  []Thread
	Problems []PassedOver // the first 200
	Passed   int          // annotations passed over, all of them
	Files    []File       // that texts use, at most MaxFiles
	Foreign  []string     // contexts that are not the model's; they were not fetched
}

// ErrNotAnnotations tells that a document holds no annotations at all.
var ErrNotAnnotations = errors.New("this is no document of Web Annotations")

// loose is an item as anybody may write it.
type loose struct {
	Context    json.RawMessage `json:"@context"`
	ID         string          `json:"id"`
	Type       json.RawMessage `json:"type"`
	Motivation json.RawMessage `json:"motivation"`
	Created    string          `json:"created"`
	Modified   string          `json:"modified"`
	Creator    json.RawMessage `json:"creator"`
	Body       json.RawMessage `json:"body"`
	BodyValue  string          `json:"bodyValue"`
	Target     json.RawMessage `json:"target"`
	Ours       *ours           `json:"juxtagram:note"`
}

// reader gathers a document.
type reader struct {
	doc     *Document
	threads map[string]int // uid → place among the threads
	waiting []reply        // whose thread comes later
	foreign map[string]bool
	n       int
}

type reply struct {
	item int
	to   string
	note Note
}

// Read reads an AnnotationPage, an AnnotationCollection with its first page, a
// list of annotations, or a single one. It never fetches anything.
func Read(r io.Reader) (*Document, error) {
	x := &reader{doc: &Document{}, threads: map[string]int{}, foreign: map[string]bool{}}
	dec := json.NewDecoder(r)
	if err := x.value(dec, 0); err != nil {
		return nil, err
	}
	for _, w := range x.waiting {
		if i, ok := x.threads[w.to]; ok {
			x.doc.Threads[i].Replies = append(x.doc.Threads[i].Replies, w.note)
		} else {
			x.pass(w.item, w.note.UID, "what it replies to is not in this document")
		}
	}
	if x.n == 0 {
		return nil, ErrNotAnnotations
	}
	return x.doc, nil
}

// value reads a page or a list item by item; anything else is one annotation.
func (x *reader) value(dec *json.Decoder, depth int) error {
	if depth > 3 {
		return ErrNotAnnotations
	}
	t, err := dec.Token()
	if err != nil {
		return fmt.Errorf("%w: %w", ErrNotAnnotations, err)
	}
	switch t {
	case json.Delim('['):
		return x.list(dec)
	case json.Delim('{'):
	default:
		return ErrNotAnnotations
	}
	// the members of a page that count come one by one; those of a single
	// annotation are put together again
	single := map[string]json.RawMessage{}
	for dec.More() {
		key, err := dec.Token()
		if err != nil {
			return fmt.Errorf("%w: %w", ErrNotAnnotations, err)
		}
		switch key {
		case "items":
			if t, err := dec.Token(); err != nil || t != json.Delim('[') {
				return ErrNotAnnotations
			}
			if err := x.list(dec); err != nil {
				return err
			}
			continue
		case "first":
			if err := x.value(dec, depth+1); err != nil {
				return err
			}
			continue
		case filesTerm:
			if err := x.files(dec); err != nil {
				return err
			}
			continue
		}
		var raw json.RawMessage
		if err := dec.Decode(&raw); err != nil {
			return fmt.Errorf("the document is cut short or damaged: %w", err)
		}
		if key == "@context" {
			x.context(raw)
		}
		if name, ok := key.(string); ok && len(single) < 40 {
			single[name] = raw
		}
	}
	if _, err := dec.Token(); err != nil {
		return fmt.Errorf("the document is cut short or damaged: %w", err)
	}
	if single["target"] != nil {
		raw, err := json.Marshal(single)
		if err != nil {
			return err
		}
		x.item(raw)
	}
	return nil
}

// files reads the files that texts use.
func (x *reader) files(dec *json.Decoder) error {
	var list []file
	if err := dec.Decode(&list); err != nil {
		return fmt.Errorf("the attachments of the document are cut short or damaged: %w", err)
	}
	if len(list) > MaxFiles {
		return fmt.Errorf("the document has more than %d attachments; take it apart first", MaxFiles)
	}
	for _, f := range list {
		x.doc.Files = append(x.doc.Files, File{strings.TrimPrefix(f.ID, urnOfFile), f.Name, f.Value})
	}
	return nil
}

func (x *reader) list(dec *json.Decoder) error {
	for dec.More() {
		var raw json.RawMessage
		if err := dec.Decode(&raw); err != nil {
			return fmt.Errorf("the document is cut short or damaged behind annotation %d: %w", x.n, err)
		}
		if x.n == MaxItems {
			return fmt.Errorf("the document has more than %d annotations; take it apart first", MaxItems)
		}
		x.item(raw)
	}
	_, err := dec.Token()
	return err
}

// context notes whose terms a document uses; none is fetched.
func (x *reader) context(raw json.RawMessage) {
	var one string
	var many []json.RawMessage
	switch {
	case json.Unmarshal(raw, &one) == nil:
		if one != contextURL && one != strings.Replace(contextURL, "http:", "https:", 1) && !x.foreign[one] && len(x.foreign) < 20 {
			x.foreign[one] = true
			x.doc.Foreign = append(x.doc.Foreign, one[:min(len(one), 200)])
		}
	case json.Unmarshal(raw, &many) == nil:
		for _, m := range many[:min(len(many), 20)] {
			x.context(m)
		}
	}
}

func (x *reader) pass(item int, id, why string) {
	x.doc.Passed++
	if len(x.doc.Problems) < maxProblems {
		x.doc.Problems = append(x.doc.Problems, PassedOver{item, strings.ToValidUTF8(id[:min(len(id), 200)], "?"), why})
	}
}

// item reads one annotation.
func (x *reader) item(raw json.RawMessage) {
	x.n++
	var l loose
	if err := json.Unmarshal(raw, &l); err != nil {
		x.pass(x.n, "", "it is not written as an annotation: "+err.Error())
		return
	}
	if l.Context != nil {
		x.context(l.Context)
	}
	n := Note{UID: strings.TrimPrefix(l.ID, urnOfNote), Author: nameOf(l.Creator), Text: l.BodyValue, Rev: 1}
	if n.UID == "" || len(n.UID) > 200 {
		x.pass(x.n, l.ID, "it has no id that can be kept")
		return
	}
	var tags []string
	if l.Body != nil {
		n.Text, tags = bodies(l.Body)
	}
	if strings.TrimSpace(n.Text) == "" {
		x.pass(x.n, l.ID, "it has no text")
		return
	}
	if at, err := time.Parse(time.RFC3339Nano, l.Created); err == nil {
		n.Created = at
	}
	if at, err := time.Parse(time.RFC3339Nano, l.Modified); err == nil {
		n.Edited = &at
	}
	if l.Ours != nil && l.Ours.Rev > 0 {
		n.Rev = l.Ours.Rev
	}
	x.place(&l, n, tags)
}

// place adds a note as a thread or a reply.
func (x *reader) place(l *loose, n Note, tags []string) {
	var to string
	if json.Unmarshal(l.Target, &to) == nil {
		if uid, ok := strings.CutPrefix(to, urnOfNote); ok {
			x.waiting = append(x.waiting, reply{x.n, uid, n})
			return
		}
	}
	t := Thread{Note: n, Kind: "note", State: "open", Tags: tags}
	source, list, err := target(l.Target, to)
	if err == nil {
		err = readSource(source, &t.Target)
	}
	if err == nil {
		err = readSelectors(list, &t.Target)
	}
	if err != nil {
		x.pass(x.n, l.ID, err.Error())
		return
	}
	if string(l.Motivation) == `"questioning"` {
		t.Kind = "question"
	}
	if o := l.Ours; o != nil {
		t.take(o)
	}
	if _, twice := x.threads[n.UID]; twice {
		x.pass(x.n, l.ID, "an annotation with this id came before")
		return
	}
	x.threads[n.UID] = len(x.doc.Threads)
	x.doc.Threads = append(x.doc.Threads, t)
}

// commitShape is a full id, and maxCommits how many follow-ups a thread may have.
var commitShape = regexp.MustCompile(`^[0-9a-f]{40}(?:[0-9a-f]{24})?$`)

const maxCommits = 200

// take takes over what the model has no word for, as far as it fits.
func (t *Thread) take(o *ours) {
	switch o.Kind {
	case "note", "question", "ask":
		t.Kind = o.Kind
	}
	if o.State == "resolved" {
		t.State = o.State
	}
	t.StateBy, t.Asked, t.Answer, t.Private = o.StateBy, o.Asked, o.Answer, o.Private
	t.Target.Symbol = o.Symbol
	for _, c := range o.Commits {
		if commitShape.MatchString(c) && len(t.Commits) < maxCommits {
			t.Commits = append(t.Commits, c)
		}
	}
	switch {
	case o.Target == "symbol" && t.Target.Kind == "lines", o.Target == "repository" && t.Target.Kind == "commit", o.Target == "folder" && t.Target.Path == "" && t.Target.Kind == "file":
		t.Target.Kind = o.Target
	}
}

// target reads what an annotation is about.
func target(raw json.RawMessage, plain string) (source string, list []selector, err error) {
	if plain != "" {
		return plain, nil, nil
	}
	var r struct {
		Source   json.RawMessage `json:"source"`
		ID       string          `json:"id"`
		Selector json.RawMessage `json:"selector"`
	}
	var many []json.RawMessage
	if json.Unmarshal(raw, &many) == nil && len(many) > 0 {
		raw = many[0]
		if json.Unmarshal(raw, &plain) == nil {
			return plain, nil, nil
		}
	}
	if json.Unmarshal(raw, &r) != nil {
		return "", nil, errors.New("it is about nothing that could be read")
	}
	if json.Unmarshal(r.Source, &source) != nil {
		var named struct {
			ID string `json:"id"`
		}
		_ = json.Unmarshal(r.Source, &named)
		source = named.ID
	}
	if source == "" {
		source = r.ID
	}
	if source == "" {
		return "", nil, errors.New("it does not say what it is about")
	}
	if len(r.Selector) == 0 || string(r.Selector) == "null" {
		return source, nil, nil
	}
	var one selector
	if json.Unmarshal(r.Selector, &list) != nil {
		if json.Unmarshal(r.Selector, &one) != nil {
			return "", nil, errors.New("its selector cannot be read")
		}
		list = []selector{one}
	}
	return source, list, nil
}

// bodies are the text and the tags of an annotation's body, which may be one or
// several.
func bodies(raw json.RawMessage) (text string, tags []string) {
	var plain string
	if json.Unmarshal(raw, &plain) == nil {
		return plain, nil
	}
	var list []json.RawMessage
	if json.Unmarshal(raw, &list) != nil {
		list = []json.RawMessage{raw}
	}
	for _, r := range list {
		var b textualBody
		if json.Unmarshal(r, &b) != nil || b.Value == "" {
			continue
		}
		if b.Purpose == "tagging" {
			tags = append(tags, b.Value)
			continue
		}
		if text != "" {
			text += "\n\n"
		}
		text += b.Value
	}
	return text, tags
}

// nameOf is the name of whoever made an annotation.
func nameOf(raw json.RawMessage) string {
	var name string
	if json.Unmarshal(raw, &name) == nil {
		return name[:min(len(name), 200)]
	}
	var list []json.RawMessage
	if json.Unmarshal(raw, &list) == nil && len(list) > 0 {
		return nameOf(list[0])
	}
	var c creator
	_ = json.Unmarshal(raw, &c)
	return strings.ToValidUTF8(c.Name[:min(len(c.Name), 200)], "?")
}
