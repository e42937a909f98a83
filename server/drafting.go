package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"unicode/utf8"

	"juxtagram/core/lang"
	"juxtagram/core/plan/draft"
	"juxtagram/core/repo"
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
	switch in.Goal {
	case draft.Question:
		if asked.Goal.Hits, asked.Goal.More, err = s.hitsOf(ctx, w, asked.Goal.Words); err != nil {
			return nil, err
		}
	case draft.Since:
		if err := s.changedSince(ctx, w, in.Since, &asked.Goal); err != nil {
			return nil, err
		}
	}
	p, err := g.Propose(asked)
	var unknown *draft.Unknown
	if errors.As(err, &unknown) {
		return nil, problem(http.StatusUnprocessableEntity, "invalid", unknown.What)
	}
	if err != nil {
		return nil, err
	}
	return answer(*p), nil
}

// mostHits is how many lines of a question are looked at.
const mostHits = 5000

// hitsOf are the lines of the pin that hold what a question asks for: all of it,
// or where nothing does, any of its longer words. more: there are others.
func (s *Server) hitsOf(ctx context.Context, w *who, words string) (hits []draft.Hit, more bool, err error) {
	if utf8.RuneCountInString(words) < 2 {
		return nil, false, problem(http.StatusUnprocessableEntity, "invalid", "say what to look for, in two characters or more")
	}
	var single []string
	for word := range strings.FieldsSeq(words) {
		if utf8.RuneCountInString(word) >= 3 {
			single = append(single, word)
		}
	}
	for n, texts := range [][]string{{words}, single} {
		if len(texts) == 0 {
			continue
		}
		err = s.jobs.Git(w.repository.ID).Grep(ctx, w.repository.Pin, texts, repo.GrepOptions{IgnoreCase: true, Words: n > 0}, func(l repo.Line) bool {
			if more = len(hits) == mostHits; more {
				return false
			}
			path, _ := repo.EscapePath(l.Path)
			hits = append(hits, draft.Hit{Path: path, Line: l.Number, Text: lang.ValidText([]byte(snippet(l)))})
			return true
		})
		if err != nil || len(hits) > 0 {
			return hits, more, err
		}
	}
	return nil, false, nil
}

// changedSince fills in what changed since a commit.
func (s *Server) changedSince(ctx context.Context, w *who, since string, goal *draft.Goal) error {
	g := s.jobs.Git(w.repository.ID)
	if since == "" {
		return problem(http.StatusUnprocessableEntity, "invalid", "say since which commit, tag or branch")
	}
	var err error
	if goal.Base, err = g.Resolve(ctx, since); err != nil {
		return err
	}
	found, err := g.Differences(ctx, goal.Base, w.repository.Pin)
	for _, d := range found {
		path, _ := repo.EscapePath(d.Path)
		goal.Changed = append(goal.Changed, draft.Changed{Path: path, Changes: int(d.Added + d.Deleted), Gone: d.NewBlob == ""})
	}
	return err
}
