package server

import (
	"bytes"
	"context"
	"encoding/xml"
	"fmt"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/note"
	"juxtagram/core/place"
	"juxtagram/store"
)

func (s *Server) noteDigest(ctx context.Context, w *who, in *NotesQuery) (*huma.StreamResponse, error) {
	m, firsts, err := s.foundNotes(ctx, w, in)
	if err != nil {
		return nil, err
	}
	threads, err := s.threads(ctx, m.lore, firsts)
	if err != nil {
		return nil, err
	}
	return download("text/markdown; charset=utf-8", plainName(w.repository.Name)+"-notes.md", func(b *bytes.Buffer) error {
		fmt.Fprintf(b, "# Notes on %s\n", w.repository.Name)
		for i := range threads {
			digest(b, &threads[i])
		}
		return nil
	}), nil
}

// digest writes one thread.
func digest(b *bytes.Buffer, t *ThreadInfo) {
	fmt.Fprintf(b, "\n## %s\n\n", note.Line(t.Text, 80))
	at := t.Placed.Path
	switch {
	case t.Placed.What == string(place.Gone):
		at = "no place at the pin; it was about `" + t.Target.Path + "`"
	case t.Placed.Start > 0:
		at = fmt.Sprintf("`%s:%d-%d`", at, t.Placed.Start, t.Placed.End)
	case at != "":
		at = "`" + at + "`"
	case t.Target.Kind == store.OnCommit:
		at = "commit `" + t.Target.Commit + "`"
	default:
		at = "the repository"
	}
	fmt.Fprintf(b, "%s · %s · %s · %s\n", at, t.By, t.CreatedAt.UTC().Format(time.DateOnly), t.State)
	fmt.Fprintf(b, "\n%s\n", strings.TrimSpace(t.Text))
	for _, f := range t.FollowUps {
		fmt.Fprintf(b, "\nFollowed up by `%s` %s\n", f.Commit, f.Subject)
	}
	for _, r := range t.Replies {
		fmt.Fprintf(b, "\n> **%s**, %s:\n>\n> %s\n", r.By, r.CreatedAt.UTC().Format(time.DateOnly), strings.ReplaceAll(strings.TrimSpace(r.Text), "\n", "\n> "))
	}
}

func (s *Server) threadFeed(ctx context.Context, _ *who, in *struct {
	Token string `path:"token" minLength:"20" maxLength:"100"`
}) (*huma.StreamResponse, error) {
	w, err := s.reader(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	threads, err := s.store.Threads(ctx, w.repository.ID, w.person.ID)
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		page := fmt.Sprintf("%s/r/%d/notes", s.address(), w.repository.ID)
		f := atomFeed{ID: page, Title: w.repository.Name + ": new threads", Updated: time.Unix(0, 0).UTC().Format(time.RFC3339), Link: []atomLink{{"alternate", page}}, Author: atomName{w.repository.Name}}
		for i := len(threads) - 1; i >= 0 && len(f.Entries) < feedEntries; i-- {
			a := &threads[i]
			e := atomEntry{ID: "urn:x-juxtagram:annotation:" + a.UID, Title: note.Line(a.Body, 100), Updated: a.ChangedAt.UTC().Format(time.RFC3339), Link: []atomLink{{"alternate", page}}, Summary: a.Body}
			if a.AuthorName != "" {
				e.Author = &atomName{a.AuthorName}
			}
			f.Entries = append(f.Entries, e)
			f.Updated = max(f.Updated, e.Updated)
		}
		hc.SetHeader("Content-Type", "application/atom+xml; charset=utf-8")
		hc.SetHeader("Cache-Control", revalidate)
		_, _ = hc.BodyWriter().Write([]byte(xml.Header))
		_ = xml.NewEncoder(hc.BodyWriter()).Encode(f)
	}}, nil
}
