package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"

	"juxtagram/core/note"
	"juxtagram/core/plan"
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
	Seq      int64             `json:"seq" doc:"The newest operation"`
	Title    string            `json:"title"`
	Purpose  string            `json:"purpose"`
	Budget   int               `json:"budget"`
	Goal     *plan.Goal        `json:"goal,omitempty" doc:"What it was drafted for; left out: it was not"`
	Aside    map[string]string `json:"aside" doc:"What it leaves out on purpose: key of the thing, and why"`
	Chapters []plan.Chapter    `json:"chapters"`
	Passages []plan.Passage    `json:"passages"`
	Ideas    []plan.Idea       `json:"ideas"`
	Done     []DoneInfo        `json:"done" doc:"What others did, in order; the newest two thousand at most"`
}

// DoneInfo is an operation that somebody else carried out.
type DoneInfo struct {
	Kind  string `json:"kind" doc:"Of the operation"`
	ID    string `json:"id" doc:"The chapter, passage or idea; empty: the plan"`
	Field string `json:"field,omitempty" doc:"That was set"`
	By    string `json:"by" doc:"Who did it; empty: an account that is gone"`
}

// mostDone is how many operations of others a change names.
const mostDone = 2000

// changeSince tells a person what changed in a plan.
func (s *Server) changeSince(ctx context.Context, w *who, p *store.Plan, since int64) (*body[PlanChange], error) {
	c := PlanChange{Seq: p.Seq, Title: p.State.Title, Purpose: p.State.Purpose, Budget: p.State.Budget, Goal: p.State.Goal, Aside: p.State.Asides(), Chapters: []plan.Chapter{}, Passages: []plan.Passage{}, Ideas: []plan.Idea{}}
	done, err := s.store.OpsSince(ctx, p.ID, since)
	if err != nil {
		return nil, err
	}
	ops := make([]plan.Op, len(done))
	c.Done = []DoneInfo{}
	for i, o := range done {
		ops[i] = o.Op
		if o.Actor != w.person.ID {
			c.Done = append(c.Done, DoneInfo{Kind: o.Kind, ID: o.ID, Field: o.Field, By: o.Name})
		}
	}
	c.Done = c.Done[max(0, len(c.Done)-mostDone):]
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
	return s.changeSince(ctx, w, p, in.Since)
}

// ClientOp is an operation with the id its client gave it.
type ClientOp struct {
	ClientID string  `json:"client_id" minLength:"8" maxLength:"64" doc:"Sent twice, an operation is carried out once"`
	Op       plan.Op `json:"op"`
}

func (s *Server) applyOps(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Since int64      `json:"since,omitempty" minimum:"0" doc:"The newest operation you know of: the answer tells what changed after it; left out: what this request changed"`
		Ops   []ClientOp `json:"ops" minItems:"1" maxItems:"2000"`
	}
}) (*body[PlanChange], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	ops := make([]store.ClientOp, len(in.Body.Ops))
	attached := []string{}
	var targets []*plan.Target
	for i, o := range in.Body.Ops {
		ops[i] = store.ClientOp{ClientID: o.ClientID, Op: o.Op}
		if t := targetOf(&o.Op); t != nil {
			targets = append(targets, t)
		}
		if o.Op.Kind == plan.AddPassage && o.Op.NewPs != nil {
			attached = append(attached, note.Read(o.Op.NewPs.Text).Attached...)
		} else if o.Op.Field == "text" {
			attached = append(attached, note.Read(o.Op.To).Attached...)
		}
	}
	if err := s.checkTargets(ctx, w, targets); err != nil {
		return nil, err
	}
	changed, err := s.store.ApplyOps(ctx, p.ID, w.person.ID, ops)
	var conflict *plan.Conflict
	if errors.As(err, &conflict) {
		q := s.explain(conflict)
		if q.By, err = s.store.LastWriter(ctx, p.ID, conflict.ID, conflict.Field); err == nil {
			err = q
		}
	}
	if err != nil {
		return nil, err
	}
	if err := s.store.UseInPlan(ctx, w.repository.ID, w.person.ID, p.ID, attached); err != nil {
		return nil, err
	}
	if err := s.publishPlan(ctx, changed); err != nil {
		return nil, err
	}
	return s.changeSince(ctx, w, changed, cmp.Or(in.Body.Since, p.Seq))
}

// targetOf is what an operation would have one read; nil: nothing, or nothing that
// can be read at all, which the plan itself refuses.
func targetOf(op *plan.Op) *plan.Target {
	switch {
	case op.Kind == plan.AddPassage && op.NewPs != nil:
		return &op.NewPs.Target
	case op.Kind == plan.SetPassage && op.Field == "target":
		t := new(plan.Target)
		if json.Unmarshal([]byte(op.To), t) == nil {
			return t
		}
	}
	return nil
}

// checkTargets holds targets to what is really there.
func (s *Server) checkTargets(ctx context.Context, w *who, targets []*plan.Target) error {
	lore := s.planLore(ctx, w)
	lore.load(targets)
	for _, t := range targets {
		if err := lore.check(t); err != nil {
			return err
		}
	}
	return lore.err
}

// check holds a target to what is there: commits, paths of a commit, and lines a
// file has.
func (l *planLore) check(t *plan.Target) error {
	invalid := func(format string, args ...any) error {
		return problem(http.StatusUnprocessableEntity, "invalid", fmt.Sprintf(format, args...))
	}
	for _, id := range []string{t.Commit, t.Base} {
		if id != "" && !l.commit(id) {
			return invalid("there is no commit %.12s in this repository", id)
		}
	}
	switch t.Kind {
	case plan.Folder:
		if !l.folder(t.Commit, t.Path) {
			return invalid("there is no folder %q at this commit", t.Path)
		}
		return nil
	case plan.Planned:
		if l.Lines(t.Commit, t.Path) != -1 {
			return invalid("%s is there already; a passage may be about the file itself", t.Path)
		}
		if t.Pattern != "" && l.Lines(t.Commit, t.Pattern) == -1 {
			return invalid("there is no file %s to go by at this commit", t.Pattern)
		}
		return nil
	}
	for _, x := range t.Stretches() {
		switch n := l.Lines(x.Commit, x.Path); {
		case n == -1:
			return invalid("there is no file %q at this commit", x.Path)
		case n >= 0 && x.End > n:
			return invalid("%s has %d lines, not %d", x.Path, n, x.End)
		}
	}
	return nil
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
	return s.changeSince(ctx, w, changed, cmp.Or(in.Body.Since, p.Seq))
}

func (s *Server) planProblems(ctx context.Context, w *who, in *PlanPath) (*body[[]plan.Fault], error) {
	p, err := s.writable(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	lore := s.planLore(ctx, w)
	var targets []*plan.Target
	for _, x := range p.State.Passages {
		targets = append(targets, &x.Target)
	}
	lore.load(targets)
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
