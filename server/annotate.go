package server

import (
	"context"
	"errors"
	"net/http"

	"juxtagram/core/note"
	"juxtagram/core/place"
	"juxtagram/store"
)

// WrittenInfo is a thread after something was written in it.
type WrittenInfo struct {
	Thread ThreadInfo `json:"thread"`
	// Untold are mentions that tell nobody.
	Untold []string `json:"untold" doc:"Mentions of whom nobody here is called, or who may not read this: they are not told"`
}

func (s *Server) annotate(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Target  TargetIn `json:"target"`
		Text    string   `json:"text" maxLength:"200000"`
		Kind    string   `json:"kind,omitempty" enum:"note,question,ask"`
		Private bool     `json:"private,omitempty"`
		Asked   int64    `json:"asked,omitempty" doc:"Who is asked to act"`
	}
}) (*body[WrittenInfo], error) {
	if err := note.Check(in.Body.Text); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", err.Error())
	}
	t, err := s.target(ctx, w, &in.Body.Target)
	if err != nil {
		return nil, err
	}
	a := &store.Annotation{Repository: w.repository.ID, Author: w.person.ID, AuthorName: w.person.Name, Kind: in.Body.Kind, Private: in.Body.Private, Body: in.Body.Text,
		Tags: note.Read(in.Body.Text).Tags, Target: t}
	if in.Body.Asked != 0 {
		role, err := s.roleOf(ctx, w, in.Body.Asked)
		if err != nil || role == store.NoRole {
			return nil, problem(http.StatusUnprocessableEntity, "not-here", "who is asked to act cannot read this repository")
		}
		a.Kind, a.Asked = "ask", in.Body.Asked
	}
	if err := s.store.AddAnnotation(ctx, a); err != nil {
		return nil, err
	}
	if err := s.placedHere(ctx, a.ID, t); err != nil {
		return nil, err
	}
	if t.Plan != 0 && !a.Private {
		if err := s.tellWriters(ctx, w, a.ID); err != nil {
			return nil, err
		}
	}
	return s.written(ctx, w, a.ID, a)
}

// tellWriters tells those who write plans of a thread.
func (s *Server) tellWriters(ctx context.Context, w *who, thread int64) error {
	members, err := s.store.Members(ctx, w.repository.ID)
	if err != nil {
		return err
	}
	var told []int64
	for _, m := range members {
		if m.Role.Includes(store.Writer) && m.PersonID != w.person.ID {
			told = append(told, m.PersonID)
		}
	}
	return s.store.Mention(ctx, thread, told)
}

// placedHere keeps that a thread stands where it was written.
func (s *Server) placedHere(ctx context.Context, id int64, t *store.NoteTarget) error {
	return s.store.KeepPlaces(ctx, t.Commit, []store.Placed{{Annotation: id, What: string(place.Same), Path: t.Path, Start: t.Start, End: t.End, Like: 1}})
}

func (s *Server) roleOf(ctx context.Context, w *who, person int64) (store.Role, error) {
	p, err := s.store.Person(ctx, person)
	if err != nil {
		return store.NoRole, err
	}
	return s.store.RoleOf(ctx, w.repository.ID, p)
}

// written tells people of what was written in a thread, and answers with it.
func (s *Server) written(ctx context.Context, w *who, thread int64, a *store.Annotation) (*body[WrittenInfo], error) {
	members, err := s.store.Members(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	if err := s.store.UseAttachments(ctx, w.repository.ID, w.person.ID, store.UsesOf(a)); err != nil {
		return nil, err
	}
	info := WrittenInfo{Untold: []string{}}
	var told []int64
	for _, mention := range note.Read(a.Body).Mentions {
		m := memberOf(members, mention)
		if m == nil || a.Private && m.PersonID != a.Author {
			info.Untold = append(info.Untold, mention)
		} else if m.PersonID != w.person.ID {
			told = append(told, m.PersonID)
		}
	}
	if len(told) > 0 {
		if err := s.store.Mention(ctx, thread, told); err != nil {
			return nil, err
		}
	}
	// whoever writes in a thread has seen it
	if err := s.store.SeeThreads(ctx, w.person.ID, []int64{thread}); err != nil {
		return nil, err
	}
	if err := s.publishNotes(ctx, w, thread); err != nil {
		return nil, err
	}
	t, err := s.threadInfo(ctx, w, thread, "")
	if err != nil {
		return nil, err
	}
	info.Thread = *t
	return answer(info), nil
}

func (s *Server) reply(ctx context.Context, w *who, in *struct {
	NotePath
	Body struct {
		Text string `json:"text" maxLength:"200000"`
	}
}) (*body[WrittenInfo], error) {
	if err := note.Check(in.Body.Text); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", err.Error())
	}
	t, err := s.threadOf(ctx, w, in.Annotation)
	if err != nil {
		return nil, err
	}
	a := &store.Annotation{Repository: w.repository.ID, Thread: t.ID, Author: w.person.ID, AuthorName: w.person.Name, Private: t.Private, Body: in.Body.Text, Tags: note.Read(in.Body.Text).Tags}
	if err := s.store.AddAnnotation(ctx, a); err != nil {
		return nil, err
	}
	return s.written(ctx, w, t.ID, a)
}

func (s *Server) editNote(ctx context.Context, w *who, in *struct {
	NotePath
	Body struct {
		Rev  int    `json:"rev" doc:"The revision that it replaces"`
		Text string `json:"text" maxLength:"200000"`
	}
}) (*body[WrittenInfo], error) {
	if err := note.Check(in.Body.Text); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", err.Error())
	}
	a, err := s.store.Annotation(ctx, w.repository.ID, w.person.ID, in.Annotation)
	if err != nil {
		return nil, err
	}
	if a.Author != w.person.ID || a.Deleted {
		return nil, errNotAllowed
	}
	err = s.store.EditAnnotation(ctx, a.ID, in.Body.Rev, in.Body.Text, note.Read(in.Body.Text).Tags)
	if errors.Is(err, store.ErrChanged) {
		return nil, problem(http.StatusConflict, "text-changed", "the text was changed elsewhere meanwhile; yours is not lost: compare both and save again")
	}
	if err != nil {
		return nil, err
	}
	a.Body = in.Body.Text
	return s.written(ctx, w, a.First(), a)
}

// PreviewInfo is a text as it would be shown.
type PreviewInfo struct {
	HTML     string   `json:"html"`
	Tags     []string `json:"tags"`
	Mentions []string `json:"mentions" doc:"Who would be told"`
	Untold   []string `json:"untold" doc:"Mentions that tell nobody"`
}

func (s *Server) previewNote(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Text string `json:"text" maxLength:"200000"`
	}
}) (*body[PreviewInfo], error) {
	if len(in.Body.Text) > note.MaxText {
		return nil, problem(http.StatusUnprocessableEntity, "bad-text", note.Check(in.Body.Text).Error())
	}
	l, err := s.noteLore(ctx, w, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	if err := l.loadFiles(ctx, in.Body.Text); err != nil {
		return nil, err
	}
	said := note.Read(in.Body.Text)
	info := PreviewInfo{HTML: note.HTML(in.Body.Text, l.links()), Tags: append([]string{}, said.Tags...), Mentions: []string{}, Untold: []string{}}
	for _, m := range said.Mentions {
		if who := memberOf(l.members, m); who != nil {
			info.Mentions = append(info.Mentions, who.Name)
		} else {
			info.Untold = append(info.Untold, m)
		}
	}
	return answer(info), nil
}
