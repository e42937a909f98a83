package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"

	"juxtagram/core/note"
	"juxtagram/core/plan"
	"juxtagram/core/repo"
	"juxtagram/store"
)

func (s *Server) composingRoutes() []route {
	const at = plansAt + "/{plan}"
	return []route{
		handle(s, "POST", at+"/ops", Read, "Change a plan by operations: all of them, or none", s.applyOps),
		handle(s, "POST", at+"/undo", Read, "Take back what you did last", s.undo),
		handle(s, "POST", at+"/redo", Read, "Do again what you took back last", s.redo),
		handle(s, "GET", at+"/changes", Read, "What has changed in the draft since an operation", s.planChanges),
		handle(s, "GET", at+"/problems", Read, "What is wrong with the draft", s.planProblems),
		handle(s, "PUT", at+"/composing", Read, "Tell other writers which passage you are working on", s.composing),
	}
}

// PlanChange is what changed in a draft since an operation. Parts that were
// removed are told, too.
type PlanChange struct {
	Seq      int64          `json:"seq" doc:"The newest operation"`
	Title    string         `json:"title"`
	Purpose  string         `json:"purpose"`
	Budget   int            `json:"budget"`
	Chapters []plan.Chapter `json:"chapters"`
	Passages []plan.Passage `json:"passages"`
	Ideas    []plan.Idea    `json:"ideas"`
}

// changeSince tells what changed in a plan.
func (s *Server) changeSince(ctx context.Context, p *store.Plan, since int64) (*body[PlanChange], error) {
	c := PlanChange{Seq: p.Seq, Title: p.State.Title, Purpose: p.State.Purpose, Budget: p.State.Budget, Chapters: []plan.Chapter{}, Passages: []plan.Passage{}, Ideas: []plan.Idea{}}
	ops, err := s.store.OpsSince(ctx, p.ID, since)
	if err != nil {
		return nil, err
	}
	touched := plan.Touches(ops)
	for _, id := range touched.Chapters {
		if x := p.State.Chapters[id]; x != nil {
			c.Chapters = append(c.Chapters, *x)
		}
	}
	for _, id := range touched.Passages {
		if x := p.State.Passages[id]; x != nil {
			c.Passages = append(c.Passages, *x)
		}
	}
	for _, id := range touched.Ideas {
		if x := p.State.Ideas[id]; x != nil {
			c.Ideas = append(c.Ideas, *x)
		}
	}
	return answer(c), nil
}

func (s *Server) planChanges(ctx context.Context, w *who, in *struct {
	PlanPath
	Since int64 `query:"since" minimum:"0"`
}) (*body[PlanChange], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	return s.changeSince(ctx, p, in.Since)
}

// ClientOp is an operation with the id its client gave it.
type ClientOp struct {
	ClientID string  `json:"client_id" minLength:"8" maxLength:"64" doc:"Sent twice, an operation is carried out once"`
	Op       plan.Op `json:"op"`
}

func (s *Server) applyOps(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Since int64      `json:"since,omitempty" minimum:"0" doc:"The newest operation you know of: the answer tells what changed after it"`
		Ops   []ClientOp `json:"ops" minItems:"1" maxItems:"2000"`
	}
}) (*body[PlanChange], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	ops := make([]store.ClientOp, len(in.Body.Ops))
	attached := []string{}
	for i, o := range in.Body.Ops {
		if err := s.checkOp(ctx, w, &o.Op); err != nil {
			return nil, err
		}
		if o.Op.Kind == plan.AddPassage && o.Op.NewPs != nil {
			attached = append(attached, note.Read(o.Op.NewPs.Text).Attached...)
		} else if o.Op.Field == "text" {
			attached = append(attached, note.Read(o.Op.To).Attached...)
		}
		ops[i] = store.ClientOp{ClientID: o.ClientID, Op: o.Op}
	}
	changed, err := s.store.ApplyOps(ctx, p.ID, w.person.ID, ops)
	if err != nil {
		return nil, err
	}
	if err := s.store.UseInPlan(ctx, w.repository.ID, w.person.ID, p.ID, attached); err != nil {
		return nil, err
	}
	if err := s.publishPlan(ctx, changed); err != nil {
		return nil, err
	}
	return s.changeSince(ctx, changed, in.Body.Since)
}

// checkOp holds what an operation would have one read to what is really there.
func (s *Server) checkOp(ctx context.Context, w *who, op *plan.Op) error {
	switch {
	case op.Kind == plan.AddPassage && op.NewPs != nil:
		return s.checkTarget(ctx, w, &op.NewPs.Target)
	case op.Kind == plan.SetPassage && op.Field == "target":
		var t plan.Target
		if json.Unmarshal([]byte(op.To), &t) == nil {
			return s.checkTarget(ctx, w, &t)
		}
	}
	return nil
}

// checkTarget holds a target to what is really there: commits, paths of a commit,
// and lines a file has.
func (s *Server) checkTarget(ctx context.Context, w *who, t *plan.Target) error {
	invalid := func(format string, args ...any) error {
		return problem(http.StatusUnprocessableEntity, "invalid", fmt.Sprintf(format, args...))
	}
	g := s.jobs.Git(w.repository.ID)
	for _, id := range []string{t.Commit, t.Base} {
		if id == "" {
			continue
		}
		if _, err := g.Resolve(ctx, id); err != nil {
			var unknown *repo.UnknownPinError
			if errors.As(err, &unknown) {
				return invalid("there is no commit %.12s in this repository", id)
			}
			return err
		}
	}
	lore := s.planLore(ctx, w)
	switch t.Kind {
	case plan.Folder:
		entries, err := g.Folder(ctx, t.Commit, t.Path)
		if err != nil || len(entries) == 0 && t.Path != "" {
			return invalid("there is no folder %q at this commit", t.Path)
		}
		return nil
	case plan.Planned:
		if lore.Lines(t.Commit, t.Path) != -1 {
			return invalid("%s is there already; a passage may be about the file itself", t.Path)
		}
		if t.Pattern != "" && lore.Lines(t.Commit, t.Pattern) == -1 {
			return invalid("there is no file %s to go by at this commit", t.Pattern)
		}
		return nil
	}
	for _, x := range t.Stretches() {
		switch n := lore.Lines(x.Commit, x.Path); {
		case n == -1:
			return invalid("there is no file %q at this commit", x.Path)
		case n >= 0 && x.End > n:
			return invalid("%s has %d lines, not %d", x.Path, n, x.End)
		}
	}
	return lore.err
}

func (s *Server) undo(ctx context.Context, w *who, in *turnIn) (*body[PlanChange], error) {
	return s.turn(ctx, w, in, false)
}

func (s *Server) redo(ctx context.Context, w *who, in *turnIn) (*body[PlanChange], error) {
	return s.turn(ctx, w, in, true)
}

type turnIn struct {
	PlanPath
	Body struct {
		ClientID string `json:"client_id" minLength:"8" maxLength:"60"`
		Since    int64  `json:"since,omitempty" minimum:"0"`
	}
}

func (s *Server) turn(ctx context.Context, w *who, in *turnIn, redo bool) (*body[PlanChange], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	changed, err := s.store.Turn(ctx, p.ID, w.person.ID, in.Body.ClientID, redo)
	var cannot *plan.CannotUndo
	if errors.As(err, &cannot) {
		q := problem(http.StatusConflict, "cannot-undo", cannot.Reason)
		if by, err := s.store.Person(ctx, cannot.By); err == nil {
			q.By = by.Name
			q.Detail = by.Name + " changed this since; your change stays"
		}
		return nil, q
	}
	if err != nil {
		return nil, err
	}
	if err := s.publishPlan(ctx, changed); err != nil {
		return nil, err
	}
	return s.changeSince(ctx, changed, in.Body.Since)
}

func (s *Server) planProblems(ctx context.Context, w *who, in *PlanPath) (*body[[]plan.Fault], error) {
	p, err := s.writable(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	lore := s.planLore(ctx, w)
	lore.load(p.State)
	list := []plan.Fault{}
	for _, x := range p.State.Faults(lore) {
		if x.Passages == nil {
			x.Passages = []string{}
		}
		list = append(list, x)
	}
	return answer(list), lore.err
}

func (s *Server) composing(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Passage string `json:"passage" maxLength:"64" doc:"Empty: none"`
	}
}) (*none, error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil || p.Private {
		return &none{}, err
	}
	return &none{}, s.store.Publish(ctx, store.Event{Kind: "composing", Repository: p.RepositoryID, Plan: p.ID, Person: w.person.ID, Name: w.person.Name, Passage: in.Body.Passage})
}
