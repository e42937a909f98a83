package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/note"
	"juxtagram/core/place"
	"juxtagram/core/webanno"
	"juxtagram/store"
)

func (s *Server) exchangeRoutes() []route {
	const at = "/api/repositories/{repository}/notes"
	return []route{
		handle(s, "GET", at+"/annotations", Read, "Threads that fit as Web Annotations (JSON-LD)", s.exportNotes),
		handle(s, "POST", at+"/annotations", Write, "Take in Web Annotations, also of another copy of the repository; nothing they name is fetched", s.importNotes, slowBody(maxImport)),
		handle(s, "GET", at+"/digest", Read, "Threads that fit as a text in Markdown", s.noteDigest),
		atom(handle(s, "GET", "/api/feeds/{token}/threads", Anybody, "New threads as an Atom feed", s.threadFeed)),
	}
}

// maxImport is how large a document may be that is taken in, in bytes.
const maxImport = 64 << 20

// foundNotes are the threads that fit, in the order of the list.
func (s *Server) foundNotes(ctx context.Context, w *who, q *NotesQuery) (*mine, []store.Annotation, error) {
	commit, err := s.commitAt(ctx, w, "")
	if err != nil {
		return nil, nil, err
	}
	m, err := s.myNotes(ctx, w, commit)
	if err != nil {
		return nil, nil, err
	}
	found := m.find(q)
	firsts := make([]store.Annotation, len(found.Items))
	for n, i := range found.Items {
		firsts[n] = m.firsts[i]
	}
	return m, firsts, nil
}

func (s *Server) exportNotes(ctx context.Context, w *who, in *NotesQuery) (*huma.StreamResponse, error) {
	_, firsts, err := s.foundNotes(ctx, w, in)
	if err != nil {
		return nil, err
	}
	threads, err := s.exported(ctx, w, firsts)
	if err != nil {
		return nil, err
	}
	files, err := s.exportedFiles(ctx, w, threads)
	if err != nil {
		return nil, err
	}
	return download("application/ld+json; profile=\"http://www.w3.org/ns/anno.jsonld\"", plainName(w.repository.Name)+"-notes.jsonld", func(out *bytes.Buffer) error {
		return webanno.Write(out, threads, files)
	}), nil
}

// download answers with a document that a browser keeps.
func download(kind, name string, write func(*bytes.Buffer) error) *huma.StreamResponse {
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		var b bytes.Buffer
		if err := write(&b); err != nil {
			hc.SetStatus(http.StatusInternalServerError)
			return
		}
		hc.SetHeader("Content-Type", kind)
		hc.SetHeader("Content-Disposition", fmt.Sprintf("attachment; filename=%q", name))
		_, _ = hc.BodyWriter().Write(b.Bytes())
	}}
}

// exported are threads as the exchange format has them.
func (s *Server) exported(ctx context.Context, w *who, firsts []store.Annotation) ([]webanno.Thread, error) {
	p, err := s.placing(ctx, w, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(firsts))
	for i := range firsts {
		ids[i] = firsts[i].ID
	}
	replies, err := s.store.Replies(ctx, ids)
	if err != nil {
		return nil, err
	}
	followed, err := s.store.FollowUps(ctx, ids)
	if err != nil {
		return nil, err
	}
	of := map[int64][]store.Annotation{}
	for _, r := range replies {
		of[r.Thread] = append(of[r.Thread], r)
	}
	asNote := func(a *store.Annotation) webanno.Note {
		return webanno.Note{UID: a.UID, Author: a.AuthorName, Text: a.Body, Created: a.CreatedAt.UTC(), Edited: a.EditedAt, Rev: a.Rev}
	}
	out := make([]webanno.Thread, 0, len(firsts))
	for i := range firsts {
		a := &firsts[i]
		t := webanno.Thread{Note: asNote(a), Kind: a.Kind, State: a.State, StateBy: a.StateBy, Asked: a.AskedName, Private: a.Private, Tags: a.Tags,
			Target: webanno.Target{Kind: a.Target.Kind, Commit: a.Target.Commit, Path: a.Target.Path, Start: a.Target.Start, End: a.Target.End, Symbol: a.Target.Symbol, Quote: a.Target.Quote}}
		if a.Target.Start > 0 {
			text, err := p.Text(a.Target.Commit, a.Target.Path)
			if err != nil && !errors.Is(err, place.ErrNoText) {
				return nil, err
			}
			if text != nil {
				t.Target.From, t.Target.To = characters(text, a.Target.Start, a.Target.End)
			}
		}
		for _, f := range followed[a.ID] {
			t.Commits = append(t.Commits, f.Commit)
		}
		for k := range of[a.ID] {
			r := &of[a.ID][k]
			t.Replies = append(t.Replies, asNote(r))
			if r.ID == a.Answer {
				t.Answer = r.UID
			}
		}
		out = append(out, t)
	}
	return out, nil
}

// characters is where lines start..end stand in a text, in characters from 0,
// a line's end being one.
func characters(t *place.Text, start, end int) (from, to int) {
	for i, l := range t.Lines {
		if i == start-1 {
			from = to
		}
		to += utf8.RuneCountInString(l)
		if i == end-1 {
			break
		}
		to++
	}
	return from, to
}

// BroughtInfo tells what became of a document.
type BroughtInfo struct {
	Added    int                  `json:"added" doc:"Threads"`
	There    int                  `json:"there" doc:"Threads that were here already"`
	Passed   int                  `json:"passed" doc:"Annotations passed over"`
	Problems []webanno.PassedOver `json:"problems" doc:"Why, of the first 200"`
	Foreign  []string             `json:"foreign" doc:"Contexts that are not the model's; they were not fetched"`
	Files    int                  `json:"files" doc:"Attachments taken in"`
	Untold   bool                 `json:"untold" doc:"Nobody was told of what was taken in"`
}

func (s *Server) importNotes(ctx context.Context, w *who, in *struct {
	RepositoryPath
	RawBody []byte `contentType:"application/ld+json"`
}) (*body[BroughtInfo], error) {
	doc, err := webanno.Read(bytes.NewReader(in.RawBody))
	if err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "not-annotations", err.Error())
	}
	info := BroughtInfo{Problems: append([]webanno.PassedOver{}, doc.Problems...), Foreign: append([]string{}, doc.Foreign...), Passed: doc.Passed, Untold: true}
	var threads []store.Imported
	for i := range doc.Threads {
		t := &doc.Threads[i]
		if err := note.Check(t.Text); err != nil {
			info.Passed++
			info.tell(t.UID, err.Error())
			continue
		}
		threads = append(threads, s.imported(w, t))
	}
	if info.Added, err = s.store.ImportThreads(ctx, w.repository.ID, threads); err != nil {
		return nil, err
	}
	info.There = len(threads) - info.Added
	if err := s.importFiles(ctx, w, doc, threads, &info); err != nil {
		return nil, err
	}
	return answer(info), s.store.Publish(ctx, store.Event{Kind: "notes", Repository: w.repository.ID})
}

// cap200 is how many problems are told.
const cap200 = 200

// tell notes why something was not taken in.
func (b *BroughtInfo) tell(id, why string) {
	if len(b.Problems) < cap200 {
		b.Problems = append(b.Problems, webanno.PassedOver{ID: id, Why: why})
	}
}

// imported is a thread as it is kept. Nobody writes in another's name: an author
// is a name alone, but for whoever takes the document in.
func (s *Server) imported(w *who, t *webanno.Thread) store.Imported {
	as := func(n *webanno.Note) store.Annotation {
		a := store.Annotation{UID: n.UID, AuthorName: n.Author, Kind: "note", State: "open", Private: t.Private, Body: n.Text, Rev: n.Rev, Tags: note.Read(n.Text).Tags, CreatedAt: n.Created, EditedAt: n.Edited}
		if n.Author == w.person.Name || t.Private {
			a.Author = w.person.ID
		}
		if a.CreatedAt.IsZero() {
			a.CreatedAt = time.Now()
		}
		return a
	}
	x := store.Imported{First: as(&t.Note), Answer: t.Answer, Commits: t.Commits}
	x.First.Kind, x.First.State, x.First.StateBy, x.First.AskedName = t.Kind, t.State, t.StateBy, t.Asked
	x.First.Target = &store.NoteTarget{Kind: t.Target.Kind, Commit: t.Target.Commit, Path: t.Target.Path, Start: t.Target.Start, End: t.Target.End, Symbol: t.Target.Symbol, Quote: t.Target.Quote}
	if x.First.Target.Commit == "" {
		x.First.Target.Commit = w.repository.Pin
		if t.Target.Start > 0 || t.Target.Quote.Exact != "" {
			x.First.Target.Commit = "unknown" // it is found by what it quotes
		}
	}
	for i := range t.Replies {
		x.Replies = append(x.Replies, as(&t.Replies[i]))
	}
	return x
}
