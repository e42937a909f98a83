package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"juxtagram/core/place"
	"juxtagram/store"
)

// TargetIn is what somebody wants to write about.
type TargetIn struct {
	Kind    string `json:"kind" enum:"lines,symbol,file,folder,commit,repository"`
	At      string `json:"at,omitempty" maxLength:"300" doc:"A commit; left out: the pin"`
	Path    string `json:"path,omitempty" maxLength:"5000"`
	Start   int    `json:"start,omitempty" minimum:"0"`
	End     int    `json:"end,omitempty" minimum:"0"`
	Symbol  string `json:"symbol,omitempty" maxLength:"1000" doc:"Qualified"`
	Plan    int64  `json:"plan,omitempty" doc:"The plan in which it was asked"`
	Passage string `json:"passage,omitempty" maxLength:"64" doc:"The passage at which it was asked"`
}

// target takes down all signs of what somebody wants to write about.
func (s *Server) target(ctx context.Context, w *who, in *TargetIn) (*store.NoteTarget, error) {
	commit, err := s.commitAt(ctx, w, in.At)
	if err != nil {
		return nil, err
	}
	t := &store.NoteTarget{Kind: in.Kind, Commit: commit}
	if in.Plan != 0 {
		if _, err := s.followed(ctx, w, PlanPath{RepositoryPath{w.repository.ID}, in.Plan}, in.Passage); err != nil {
			return nil, err
		}
		t.Plan, t.Passage = in.Plan, in.Passage
	}
	no := func(why string) error { return problem(http.StatusUnprocessableEntity, "no-target", why) }
	switch in.Kind {
	case store.OnRepository, store.OnCommit:
		return t, nil
	case store.OnFolder:
		t.Path = strings.Trim(in.Path, "/")
		entries, err := s.jobs.Git(w.repository.ID).Folder(ctx, commit, t.Path)
		if err != nil || len(entries) == 0 {
			return nil, no("there is no folder " + in.Path + " at this commit")
		}
		return t, nil
	}
	t.Path = in.Path
	f, err := s.findIn(ctx, w, commit, in.Path)
	if err != nil {
		return nil, err
	}
	if f == nil {
		return nil, no("there is no file " + in.Path + " at this commit")
	}
	if in.Kind == store.OnFile {
		return t, nil
	}
	p, err := s.placing(ctx, w, commit)
	if err != nil {
		return nil, err
	}
	text, err := p.Text(commit, in.Path)
	if errors.Is(err, place.ErrNoText) {
		return nil, no("this file has no lines to write about; write about the file as a whole")
	}
	if err != nil {
		return nil, err
	}
	outline, err := s.outlineAt(ctx, w, commit, in.Path)
	if err != nil {
		return nil, err
	}
	t.Start, t.End = in.Start, in.End
	if in.Kind == store.OnSymbol {
		for _, x := range outline {
			if x.Qualified == in.Symbol && (in.Start == 0 || x.Start <= in.Start && in.Start <= x.End) {
				t.Symbol, t.Start, t.End = x.Qualified, x.Start, x.End
			}
		}
		if t.Symbol == "" {
			return nil, no("this file has no symbol " + in.Symbol)
		}
	}
	if t.Start < 1 || t.End < t.Start || t.End > len(text.Lines) {
		return nil, no(fmt.Sprintf("the file has %d lines; lines %d to %d are not among them", len(text.Lines), t.Start, t.End))
	}
	if t.Symbol == "" {
		for _, x := range outline { // the innermost comes last
			if x.Start <= t.Start && t.End <= x.End {
				t.Symbol = x.Qualified
			}
		}
	}
	t.Quote = place.QuoteOf(text, t.Start, t.End)
	return t, nil
}

func (s *Server) retarget(ctx context.Context, w *who, in *struct {
	NotePath
	Body TargetIn
}) (*body[ThreadInfo], error) {
	t, err := s.threadOf(ctx, w, in.Annotation)
	if err != nil {
		return nil, err
	}
	if t.Author != w.person.ID && !w.role.Includes(store.Writer) {
		return nil, errNotAllowed
	}
	target, err := s.target(ctx, w, &in.Body)
	if err != nil {
		return nil, err
	}
	if err := s.store.SetTarget(ctx, t.ID, w.person.ID, target); err != nil {
		return nil, err
	}
	if err := s.placedHere(ctx, t.ID, target); err != nil {
		return nil, err
	}
	return s.toldThread(ctx, w, t.ID)
}

// likelyEnough is the likeness from which a candidate is taken without looking
// at each.
const likelyEnough = 0.5

// AcceptInfo is what became of threads that were to be attached.
type AcceptInfo struct {
	Placed int `json:"placed"`
	Left   int `json:"left" doc:"Without a candidate that is half alike"`
}

func (s *Server) acceptPlaces(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Threads []int64 `json:"threads" minItems:"1" maxItems:"500"`
	}
}) (*body[AcceptInfo], error) {
	found, err := s.store.ThreadsAmong(ctx, w.repository.ID, w.person.ID, in.Body.Threads)
	if err != nil {
		return nil, err
	}
	places, err := s.store.PlacesAt(ctx, w.repository.ID, w.repository.Pin)
	if err != nil {
		return nil, err
	}
	var info AcceptInfo
	for i := range found {
		p := places[found[i].ID]
		if p.What != string(place.Gone) || len(p.Candidates) == 0 || p.Candidates[0].Like < likelyEnough {
			info.Left++
			continue
		}
		c := p.Candidates[0]
		target, err := s.target(ctx, w, &TargetIn{Kind: store.OnLines, Path: c.Path, Start: c.Start, End: c.End})
		if err != nil {
			return nil, err
		}
		if err := s.store.SetTarget(ctx, found[i].ID, w.person.ID, target); err != nil {
			return nil, err
		}
		if err := s.placedHere(ctx, found[i].ID, target); err != nil {
			return nil, err
		}
		info.Placed++
	}
	return answer(info), s.store.Publish(ctx, store.Event{Kind: "notes", Repository: w.repository.ID})
}
