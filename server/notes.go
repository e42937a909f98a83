package server

import (
	"context"
	"fmt"
	"path"
	"slices"

	"juxtagram/core/listing"
	"juxtagram/core/place"
	"juxtagram/store"
)

func (s *Server) noteRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/notes", Read, "Threads, narrowed by any facts they carry", s.notes),
	}
}

// Keys by which threads are narrowed.
const (
	noteYours  listing.Key = "yours"
	noteState  listing.Key = "state"
	noteKind   listing.Key = "kind"
	notePlaced listing.Key = "placed"
	noteTag    listing.Key = "tag"
	noteBy     listing.Key = "by"
	noteOn     listing.Key = "on"
	noteFolder listing.Key = "folder"
)

var noteKeys = []listing.Key{noteYours, noteState, noteKind, notePlaced, noteTag, noteBy, noteOn, noteFolder}

// NotesQuery narrows threads.
type NotesQuery struct {
	RepositoryPath
	Yours  []string `query:"yours,explode" maxItems:"10" doc:"unread, mentioned, asked, written, told"`
	State  []string `query:"state,explode" maxItems:"10" doc:"open, resolved"`
	Kind   []string `query:"kind,explode" maxItems:"10" doc:"note, question, ask"`
	Placed []string `query:"placed,explode" maxItems:"10" doc:"same, moved, changed, gone, unknown"`
	Tag    []string `query:"tag,explode" maxItems:"60"`
	By     []string `query:"by,explode" maxItems:"60" doc:"Who wrote in it"`
	On     []string `query:"on,explode" maxItems:"10" doc:"lines, symbol, file, folder, commit, repository"`
	Folder []string `query:"folder,explode" maxItems:"60" doc:"With what is below; a full stop: the root alone"`
	Text   string   `query:"text" maxLength:"500"`
	Since  bool     `query:"since" doc:"Only what came since you were here"`
}

func (q *NotesQuery) values() map[listing.Key][]string {
	return narrowing(map[listing.Key][]string{noteYours: q.Yours, noteState: q.State, noteKind: q.Kind, notePlaced: q.Placed, noteTag: q.Tag, noteBy: q.By, noteOn: q.On, noteFolder: q.Folder})
}

// NotesPage is a page of threads, the last changed first.
type NotesPage struct {
	Total    int          `json:"total" doc:"Threads that fit"`
	All      int          `json:"all" doc:"Threads that you may see"`
	Unread   int          `json:"unread"`
	Unplaced int          `json:"unplaced" doc:"Whose place at the pin is not known"`
	Left     int          `json:"left" doc:"Whose place is still to be looked for"`
	Facets   []FacetInfo  `json:"facets"`
	Threads  []ThreadInfo `json:"threads"`
}

// heldNotes are all threads of a repository with their places at a commit, as
// lists narrow them. They are not changed once they are made.
type heldNotes struct {
	firsts []store.Annotation
	facts  []threadFacts
	places map[int64]store.Placed
	list   *listing.List // but for what is each person's own
	left   int           // whose place is still to be looked for
}

// threadFacts are what a thread is narrowed by.
type threadFacts struct {
	writers []string
	tags    []string
	said    []saidBy // also the first
}

// notesAt are the threads of a repository with their places at a commit.
func (s *Server) notesAt(ctx context.Context, w *who, commit string) (*heldNotes, error) {
	version, err := s.store.NotesVersion(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	key := func() memoryKey { return memoryKey{"notes", w.repository.ID, fmt.Sprint(version, commit)} }
	if h, ok := s.memory.get(key()); ok {
		return h.(*heldNotes), nil
	}
	h := &heldNotes{}
	if h.left, err = s.ensurePlaced(ctx, w, commit); err != nil {
		return nil, err
	}
	if version, err = s.store.NotesVersion(ctx, w.repository.ID); err != nil {
		return nil, err
	}
	if h.firsts, err = s.store.AllThreads(ctx, w.repository.ID); err != nil {
		return nil, err
	}
	if h.places, err = s.store.PlacesAt(ctx, w.repository.ID, commit); err != nil {
		return nil, err
	}
	ids := make([]int64, len(h.firsts))
	for i := range h.firsts {
		ids[i] = h.firsts[i].ID
	}
	replies, err := s.store.Replies(ctx, ids)
	if err != nil {
		return nil, err
	}
	h.gather(replies)
	if h.left == 0 {
		s.memory.keep(key(), h, int64(len(h.firsts)+len(replies))*noteBytes)
	}
	return h, nil
}

// gather brings together what threads are narrowed by.
func (h *heldNotes) gather(replies []store.Annotation) {
	of := map[int64][]*store.Annotation{}
	for i := range replies {
		of[replies[i].Thread] = append(of[replies[i].Thread], &replies[i])
	}
	h.facts = make([]threadFacts, len(h.firsts))
	texts := make([]string, len(h.firsts))
	for i := range h.firsts {
		a, f := &h.firsts[i], &h.facts[i]
		f.writers, f.tags = []string{a.AuthorName}, a.Tags
		f.said = append(f.said, saidBy{a.Author, a.CreatedAt})
		texts[i] = a.Body + "\n" + a.Target.Path + "\n" + a.Target.Symbol
		for _, x := range of[a.ID] {
			texts[i] += "\n" + x.Body
			f.said = append(f.said, saidBy{x.Author, x.CreatedAt})
			if !slices.Contains(f.writers, x.AuthorName) {
				f.writers = append(f.writers, x.AuthorName)
			}
			for _, t := range x.Tags {
				if !slices.Contains(f.tags, t) {
					f.tags = append(slices.Clip(f.tags), t)
				}
			}
		}
	}
	h.list = listing.New(listing.Build{Len: len(h.firsts), Keys: noteKeys, Below: []listing.Key{noteFolder}, Values: h.values, Text: func(i int) string { return texts[i] }})
}

func (h *heldNotes) values(key listing.Key, i int) []string {
	a, f := &h.firsts[i], &h.facts[i]
	switch key {
	case noteYours:
		return nil
	case noteState:
		return []string{a.State}
	case noteKind:
		return []string{a.Kind}
	case notePlaced:
		return []string{h.what(i)}
	case noteTag:
		return f.tags
	case noteBy:
		return f.writers
	case noteOn:
		return []string{a.Target.Kind}
	}
	at := a.Target.Path
	if p, ok := h.places[a.ID]; ok && p.Path != "" {
		at = p.Path
	}
	switch a.Target.Kind {
	case store.OnCommit, store.OnRepository:
		return nil
	case store.OnFolder:
		if at == "" {
			at = "."
		}
		return []string{at}
	}
	return []string{path.Dir(at)}
}

// what became of a thread's place.
func (h *heldNotes) what(i int) string {
	if p, ok := h.places[h.firsts[i].ID]; ok {
		return p.What
	}
	return "unknown"
}

// yoursNames are what threads can be to somebody, a bit each.
var yoursNames = []string{"unread", "mentioned", "asked", "written", "told"}

const unreadBit = 1

// yours are what each thread is to somebody, in bits.
func (h *heldNotes) yours(me int64, readers map[int64]store.ThreadReader) []uint8 {
	out := make([]uint8, len(h.firsts))
	for i := range h.firsts {
		a := &h.firsts[i]
		r := readers[a.ID]
		written, unread, told := partIn(me, a.Asked, h.facts[i].said, r)
		for bit, is := range []bool{unread, r.Mentioned, a.Asked == me && a.State == "open", written, told} {
			if is {
				out[i] |= 1 << bit
			}
		}
	}
	return out
}

// mine are the threads as somebody sees them.
type mine struct {
	*heldNotes
	lore  *noteLore
	yours []uint8
	list  *listing.List
}

func (s *Server) myNotes(ctx context.Context, w *who, commit string) (*mine, error) {
	h, err := s.notesAt(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	m := &mine{heldNotes: h}
	if m.lore, err = s.noteLore(ctx, w, ""); err != nil {
		return nil, err
	}
	m.lore.places = h.places
	m.yours = h.yours(w.person.ID, m.lore.readers)
	var words [1 << 5][]string
	for bits := range words {
		for bit, name := range yoursNames {
			if bits&(1<<bit) != 0 {
				words[bits] = append(words[bits], name)
			}
		}
	}
	m.list = h.list.With(noteYours, func(i int) []string { return words[m.yours[i]] })
	return m, nil
}

// hidden tells a private thread of somebody else.
func (m *mine) hidden(i int) bool {
	return m.firsts[i].Private && m.firsts[i].Author != m.lore.w.person.ID
}

// find are the threads that fit.
func (m *mine) find(q *NotesQuery) *listing.Found {
	values := q.values()
	if q.Since {
		values[noteYours] = append(values[noteYours], "unread")
	}
	return m.list.Find(listing.Filter{Values: values, Text: q.Text, Hidden: m.hidden}, "")
}

func (s *Server) notes(ctx context.Context, w *who, in *struct {
	NotesQuery
	Offset int `query:"offset" minimum:"0"`
	Limit  int `query:"limit" minimum:"1" maximum:"200" default:"50"`
}) (*body[NotesPage], error) {
	commit, err := s.commitAt(ctx, w, "")
	if err != nil {
		return nil, err
	}
	m, err := s.myNotes(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	found := m.find(&in.NotesQuery)
	page := NotesPage{Total: len(found.Items), Left: m.left, Facets: []FacetInfo{}}
	for i := range m.firsts {
		if m.hidden(i) {
			continue
		}
		page.All++
		if m.yours[i]&unreadBit != 0 {
			page.Unread++
		}
		if m.what(i) == string(place.Gone) {
			page.Unplaced++
		}
	}
	for _, k := range noteKeys {
		page.Facets = append(page.Facets, facetInfo(k, found))
	}
	from := min(in.Offset, len(found.Items))
	var firsts []store.Annotation
	for _, i := range found.Items[from:min(from+in.Limit, len(found.Items))] {
		firsts = append(firsts, m.firsts[i])
	}
	page.Threads, err = s.threads(ctx, m.lore, firsts)
	return answer(page), err
}
