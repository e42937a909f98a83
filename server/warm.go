package server

import (
	"context"
	"errors"
	"time"

	"juxtagram/core/plan/draft"
	"juxtagram/core/summary"
	"juxtagram/store"
)

// What a value takes in memory, in bytes for each file, commit, tagged comment or note:
// estimates, about twice as high as repositories of sixty files were seen to take.
const (
	wholeFileBytes   = 10_000
	chartFileBytes   = 3_000
	groundFileBytes  = 600
	taggedItemBytes  = 900
	logCommitBytes   = 1_200
	noteBytes        = 2_000
	everyEntityBytes = 64_000 // of an empty one
)

func wholeBytes(w *summary.Whole) int64 {
	return everyEntityBytes + int64(len(w.Files))*wholeFileBytes
}
func chartBytes(c *store.Chart) int64 { return everyEntityBytes + int64(len(c.Files))*chartFileBytes }
func groundBytes(g *draft.Ground) int64 {
	return everyEntityBytes + int64(len(g.Intricacy))*groundFileBytes
}
func taggedBytes(h *heldTagged) int64 { return everyEntityBytes + int64(len(h.rows))*taggedItemBytes }
func logBytes(l *heldLog) int64       { return everyEntityBytes + int64(l.Len())*logCommitBytes }

// Warm brings together what the screens of a repository at its pin ask for, so that the
// first request is answered like the tenth. A survey that is about to be complete may be
// given; nil is the newest.
func (s *Server) Warm(ctx context.Context, p *store.Repository, v *store.Survey) error {
	if p.Pin == "" {
		return nil
	}
	if v == nil {
		var err error
		v, err = s.store.SurveyAt(ctx, p.ID, p.Pin)
		if errors.Is(err, store.ErrNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
	}
	if v.OID != p.Pin || v.State != store.Complete {
		return nil
	}
	log := make(chan error, 1)
	go func() {
		_, err := s.log(ctx, &who{repository: p})
		log <- err
	}()
	_, err := s.charts.of(ctx, v)
	if err == nil {
		_, err = s.grounds.of(ctx, v) // and what it rests on
	}
	if err == nil {
		_, err = s.tagged.of(ctx, v)
	}
	return errors.Join(err, <-log)
}

// warmedAtStart is how many repositories are warmed before a server is ready.
const warmedAtStart = 3

// WarmLatest warms the repositories that were surveyed last, as far as there is time.
func (s *Server) WarmLatest(ctx context.Context, most time.Duration) error {
	ctx, cancel := context.WithTimeout(ctx, most)
	defer cancel()
	latest, err := s.store.LatestRepositories(ctx, warmedAtStart)
	if err != nil {
		return err
	}
	for i := range latest {
		if err := s.Warm(ctx, &latest[i], nil); err != nil {
			return err
		}
	}
	return nil
}

// Surveyed warms a survey that is about to be complete. An error is logged; whoever asks
// for the same gets it as an answer.
func (s *Server) Surveyed(ctx context.Context, v *store.Survey) {
	p, err := s.store.Repository(ctx, v.RepositoryID)
	if err == nil {
		done := *v
		done.State = store.Complete
		err = s.Warm(ctx, p, &done)
	}
	if err != nil && ctx.Err() == nil {
		s.config.Logger.Warn("warming a survey", "survey", v.ID, "error", err)
	}
}

// warmLater warms a repository in the background.
func (s *Server) warmLater(repository int64) {
	s.logs.warming.Go(func() {
		ctx := s.logs.ctx
		p, err := s.store.Repository(ctx, repository)
		if err == nil {
			err = s.Warm(ctx, p, nil)
		}
		if err != nil && ctx.Err() == nil && !errors.Is(err, store.ErrNotFound) {
			s.config.Logger.Warn("warming", "repository", repository, "error", err)
		}
	})
}
