package server

import (
	"context"
	"path"
	"slices"

	"juxtagram/core/listing"
	"juxtagram/core/note"
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
	out := map[listing.Key][]string{}
	for k, v := range map[listing.Key][]string{noteYours: q.Yours, noteState: q.State, noteKind: q.Kind, notePlaced: q.Placed, noteTag: q.Tag, noteBy: q.By, noteOn: q.On, noteFolder: q.Folder} {
		for _, x := range v {
			if x == nothing {
				x = ""
			}
			out[k] = append(out[k], x)
		}
	}
	return out
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

// held are the threads that somebody may see, as lists narrow them.
type heldNotes struct {
	firsts []store.Annotation
	lore   *noteLore
	facts  []threadFacts
	list   *listing.List
}

type threadFacts struct {
	yours   []string
	writers []string
	tags    []string
	text    string
}

func (s *Server) heldNotes(ctx context.Context, w *who, commit string) (*heldNotes, error) {
	h := &heldNotes{}
	var err error
	if h.firsts, err = s.store.Threads(ctx, w.repository.ID, w.person.ID); err != nil {
		return nil, err
	}
	if h.lore, err = s.noteLore(ctx, w, commit); err != nil {
		return nil, err
	}
	slices.SortStableFunc(h.firsts, func(a, b store.Annotation) int { return b.ChangedAt.Compare(a.ChangedAt) })
	ids := make([]int64, len(h.firsts))
	for i := range h.firsts {
		ids[i] = h.firsts[i].ID
	}
	replies, err := s.store.Replies(ctx, ids)
	if err != nil {
		return nil, err
	}
	of := map[int64][]*store.Annotation{}
	for i := range replies {
		of[replies[i].Thread] = append(of[replies[i].Thread], &replies[i])
	}
	h.facts = make([]threadFacts, len(h.firsts))
	for i := range h.firsts {
		h.facts[i] = h.lore.facts(&h.firsts[i], of[h.firsts[i].ID])
	}
	h.list = listing.New(listing.Build{Len: len(h.firsts), Keys: noteKeys, Below: []listing.Key{noteFolder}, Values: h.values, Text: func(i int) string { return h.facts[i].text }})
	return h, nil
}

// facts are what a thread is narrowed by.
func (l *noteLore) facts(a *store.Annotation, replies []*store.Annotation) threadFacts {
	me := l.w.person.ID
	r := l.readers[a.ID]
	f := threadFacts{writers: []string{a.AuthorName}, tags: slices.Clone(a.Tags), text: a.Body + "\n" + a.Target.Path + "\n" + a.Target.Symbol}
	written, unread := a.Author == me, a.Author != me && (r.SeenAt == nil || a.CreatedAt.After(*r.SeenAt))
	for _, x := range replies {
		f.text += "\n" + x.Body
		if !slices.Contains(f.writers, x.AuthorName) {
			f.writers = append(f.writers, x.AuthorName)
		}
		for _, t := range x.Tags {
			if !slices.Contains(f.tags, t) {
				f.tags = append(f.tags, t)
			}
		}
		written = written || x.Author == me
		unread = unread || x.Author != me && (r.SeenAt == nil || x.CreatedAt.After(*r.SeenAt))
	}
	told := written || a.Asked == me || r.Mentioned
	if r.Told != nil {
		told = *r.Told
	}
	for _, y := range []struct {
		name string
		is   bool
	}{{"unread", unread}, {"mentioned", r.Mentioned}, {"asked", a.Asked == me && a.State == "open"}, {"written", written}, {"told", told}} {
		if y.is {
			f.yours = append(f.yours, y.name)
		}
	}
	return f
}

func (h *heldNotes) values(key listing.Key, i int) []string {
	a, f := &h.firsts[i], &h.facts[i]
	switch key {
	case noteYours:
		return f.yours
	case noteState:
		return []string{a.State}
	case noteKind:
		return []string{a.Kind}
	case notePlaced:
		return []string{h.lore.placed(a.ID).What}
	case noteTag:
		return f.tags
	case noteBy:
		return f.writers
	case noteOn:
		return []string{a.Target.Kind}
	}
	p := h.lore.placed(a.ID)
	at := p.Path
	if p.What == string(place.Gone) || at == "" {
		at = a.Target.Path
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

func (s *Server) notes(ctx context.Context, w *who, in *struct {
	NotesQuery
	Offset int `query:"offset" minimum:"0"`
	Limit  int `query:"limit" minimum:"1" maximum:"200" default:"50"`
}) (*body[NotesPage], error) {
	commit, err := s.commitAt(ctx, w, "")
	if err != nil {
		return nil, err
	}
	left, err := s.ensurePlaced(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	h, err := s.heldNotes(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	values := in.values()
	if in.Since {
		values[noteYours] = append(values[noteYours], "unread")
	}
	found := h.list.Find(listing.Filter{Values: values, Text: note.Fold(in.Text)}, "")
	page := NotesPage{Total: len(found.Items), All: len(h.firsts), Left: left, Facets: []FacetInfo{}}
	for i := range h.firsts {
		if slices.Contains(h.facts[i].yours, "unread") {
			page.Unread++
		}
		if h.lore.placed(h.firsts[i].ID).What == string(place.Gone) {
			page.Unplaced++
		}
	}
	for _, k := range noteKeys {
		all := found.Facets[k]
		page.Facets = append(page.Facets, FacetInfo{string(k), counts(all[:min(len(all), maxFacet)]), len(all)})
	}
	from := min(in.Offset, len(found.Items))
	var firsts []store.Annotation
	for _, i := range found.Items[from:min(from+in.Limit, len(found.Items))] {
		firsts = append(firsts, h.firsts[i])
	}
	page.Threads, err = s.threads(ctx, h.lore, firsts)
	return answer(page), err
}
