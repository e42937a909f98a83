package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/follow"
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
			content, err := p.Content(a.Target.Commit, a.Target.Path)
			if err != nil && !errors.Is(err, place.ErrNoText) {
				return nil, err
			}
			if err == nil {
				t.Target.Quote, t.Target.From, t.Target.To = place.PieceOf(content, a.Target.Start, a.Target.End)
			}
			if q := t.Target.Quote; !utf8.ValidString(q.Before + q.Exact + q.After) {
				t.Target.Quote = place.Quote{} // JSON cannot hold these bytes: lines and characters tell
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
	p, err := s.placing(ctx, w, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	for i := range doc.Threads {
		t := &doc.Threads[i]
		err := note.Check(t.Text)
		if err == nil {
			err = p.selected(ctx, &t.Target)
		}
		if err != nil {
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

// selected finds the lines of a target that names text of a file and no lines, at its
// commit, or at this one where the repository does not have that. The error, for a
// person, says why it has no place.
func (p *placing) selected(ctx context.Context, t *webanno.Target) error {
	if t.Kind != store.OnFile || t.Quote.Exact == "" && t.To == 0 {
		return nil
	}
	commit := t.Commit
	if there, err := p.Has(ctx, commit); err != nil || !there || commit == "" {
		commit = p.Commit()
	}
	content, err := p.Content(commit, t.Path)
	if errors.Is(err, place.ErrNoText) {
		return fmt.Errorf("it selects text of %.200q, which has none in this repository", t.Path)
	}
	if err != nil {
		return err
	}
	start, end, ok := place.Quoted(content, t.Quote)
	if !ok && t.Quote.Exact != "" {
		list := place.Search(place.NewText(t.Path, content), t.Quote)
		if len(list) > 0 && list[0].Like > follow.Surely && (len(list) == 1 || list[1].Like < list[0].Like-0.1) {
			start, end, ok = list[0].Start, list[0].End, true
		}
	}
	if !ok && t.To > 0 && (t.Quote.Exact == "" || commit == t.Commit) {
		start, end, ok = place.LinesAt(content, t.From, t.To)
	}
	if !ok {
		return fmt.Errorf("the text that it selects is not found in %.200q, or stands there several times", t.Path)
	}
	t.Kind, t.Commit, t.Start, t.End = store.OnLines, commit, start, end
	t.Quote = place.QuoteOf(place.NewText(t.Path, content), start, end)
	return nil
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
	// a piece of a text has its line ends, a quote of lines has none around it
	q := &x.First.Target.Quote
	q.Before, q.After = strings.TrimSuffix(q.Before, "\n"), strings.TrimPrefix(q.After, "\n")
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
