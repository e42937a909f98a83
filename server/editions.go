package server

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"time"

	"juxtagram/core/plan"
	"juxtagram/store"
)

func (s *Server) editionRoutes() []route {
	const at = plansAt + "/{plan}"
	return []route{
		handle(s, "GET", at+"/editions", Read, "The editions of a plan, the newest first", s.editions),
		handle(s, "POST", at+"/editions", Read, "Publish the draft as the next edition", s.publishEdition, status(http.StatusCreated)),
		handle(s, "GET", at+"/differences", Read, "What changed from one edition to another, or to the draft", s.planDifferences),
	}
}

// EditionInfo is a published state of a plan.
type EditionInfo struct {
	Number int       `json:"number"`
	Pin    string    `json:"pin" doc:"The repository's, when it was published"`
	Note   string    `json:"note" doc:"What changed, by whoever published it"`
	By     string    `json:"by" doc:"Empty: an account that is gone"`
	At     time.Time `json:"at"`
}

func (s *Server) editions(ctx context.Context, w *who, in *PlanPath) (*body[[]EditionInfo], error) {
	p, err := s.planOf(ctx, w, *in)
	if err != nil {
		return nil, err
	}
	found, err := s.store.Editions(ctx, p.ID)
	list := []EditionInfo{}
	for _, e := range found {
		list = append(list, EditionInfo{e.Number, e.Pin, e.Note, e.By, e.At})
	}
	return answer(list), err
}

func (s *Server) publishEdition(ctx context.Context, w *who, in *struct {
	PlanPath
	Body struct {
		Seq  int64  `json:"seq" doc:"The newest operation you know of: what you publish is what you have seen"`
		Note string `json:"note" maxLength:"2000" doc:"What changed, for readers"`
	}
}) (*body[PlanInfo], error) {
	p, err := s.writable(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	if len(p.State.InOrder()) == 0 {
		return nil, problem(http.StatusUnprocessableEntity, "empty", "there is nothing in the plan to publish yet")
	}
	if p.Edition > 0 && p.EditionSeq == p.Seq {
		return nil, problem(http.StatusConflict, "published", "edition "+strconv.Itoa(p.Edition)+" says all this already")
	}
	_, err = s.store.PublishPlan(ctx, p.ID, w.person.ID, in.Body.Seq, w.repository.Pin, in.Body.Note)
	if errors.Is(err, store.ErrChanged) {
		return nil, problem(http.StatusConflict, "changed", "somebody changed the draft meanwhile; look at it, then publish")
	}
	if err != nil {
		return nil, err
	}
	if p, err = s.store.Plan(ctx, p.ID); err != nil {
		return nil, err
	}
	if err := s.publishPlan(ctx, p); err != nil {
		return nil, err
	}
	return s.told(ctx, w, p, "", false)
}

func (s *Server) planDifferences(ctx context.Context, w *who, in *struct {
	PlanPath
	From string `query:"from" maxLength:"10" doc:"An edition's number; left out: an empty plan"`
	To   string `query:"to" maxLength:"10" doc:"An edition's number, or draft; left out: the newest edition"`
}) (*body[[]plan.Change], error) {
	p, err := s.planOf(ctx, w, in.PlanPath)
	if err != nil {
		return nil, err
	}
	from := plan.New()
	if in.From != "" {
		v, err := s.view(ctx, w, p, in.From, nil)
		if err != nil {
			return nil, err
		}
		from = v.state
	}
	to, err := s.view(ctx, w, p, in.To, &store.Progress{})
	if err != nil {
		return nil, err
	}
	return answer(plan.Differ(from, to.state)), nil
}
