package server

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"juxtagram/core/plan/draft"
	"juxtagram/store"
)

func (s *Server) draftRoutes() []route {
	return []route{
		handle(s, "GET", "/api/repositories/{repository}/draft", Read, "A proposal of what to read for a goal within so many minutes; nothing is kept", s.draft),
		handle(s, "GET", plansAt+"/{plan}/coverage", Read, "What a plan covers of leads and folders, and what is not decided yet", s.coverage),
		handle(s, "GET", plansAt+"/{plan}/covered", Read, "What a plan covers, file by file, as columns", s.coveredPaths),
		handle(s, "GET", plansAt+"/{plan}/health", Read, "What became of a plan's passages at the pin, or another commit", s.health),
	}
}

// groundOf makes a survey ready for drafts.
func (s *Server) groundOf(ctx context.Context, v *store.Survey) (*draft.Ground, error) {
	whole, err := s.wholes.of(ctx, v)
	if err != nil {
		return nil, err
	}
	chart, err := s.charts.of(ctx, v)
	if errors.Is(err, store.ErrNotFound) {
		chart, err = &store.Chart{}, nil // made before the history was kept so
	}
	if err != nil {
		return nil, err
	}
	return s.store.Ground(ctx, v, whole, chart)
}

// ground is the complete survey at a repository's pin, ready for drafts.
func (s *Server) ground(ctx context.Context, w *who) (*draft.Ground, error) {
	_, v, err := s.whole(ctx, w)
	if err != nil {
		return nil, err
	}
	return s.grounds.of(ctx, v)
}

func (s *Server) draft(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Goal    string `query:"goal" default:"whole" enum:"whole,folder,symbol,question,since"`
	Path    string `query:"path" maxLength:"5000" doc:"The folder, or the symbol's file"`
	Line    int    `query:"line" minimum:"0" maximum:"100000000" doc:"The line on which the symbol's name stands"`
	Name    string `query:"name" maxLength:"1000" doc:"The symbol's name"`
	Words   string `query:"words" maxLength:"200" doc:"What a question asks for"`
	Since   string `query:"since" maxLength:"300" doc:"A commit, tag or branch"`
	Minutes int    `query:"minutes" default:"60" minimum:"5" maximum:"2400"`
	Order   string `query:"order" default:"outside-in" enum:"outside-in,inside-out"`
	Plan    int64  `query:"plan" minimum:"0" doc:"Draft for this plan: what people decided in it stays; 0: for a new one"`
}) (*body[draft.Proposal], error) {
	g, err := s.ground(ctx, w)
	if err != nil {
		return nil, err
	}
	asked := draft.Asked{Minutes: in.Minutes, Direction: draft.Direction(in.Order), Goal: draft.Goal{Kind: in.Goal, Path: in.Path, Line: in.Line, Name: in.Name, Words: strings.TrimSpace(in.Words)}}
	if in.Plan > 0 {
		p, err := s.writable(ctx, w, PlanPath{in.RepositoryPath, in.Plan})
		if err != nil {
			return nil, err
		}
		asked.Plan = p.State
	}
	var p *draft.Proposal
	if err = asked.Goal.Look(ctx, s.jobs.Git(w.repository.ID), g.Pin, in.Since); err == nil {
		p, err = g.Propose(asked)
	}
	var unknown *draft.Unknown
	if errors.As(err, &unknown) {
		return nil, problem(http.StatusUnprocessableEntity, "invalid", unknown.What)
	}
	if err != nil {
		return nil, err
	}
	return answer(*p), nil
}
