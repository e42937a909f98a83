package server

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"juxtagram/core/summary"
	"juxtagram/store"
)

// wholes keeps the surveys asked for last in memory, as names and summaries
// need them.
type wholes struct {
	store *store.Store
	cache *lru.Cache[int64, *summary.Whole]
	once  singleflight.Group
	stop  context.CancelFunc
	ctx   context.Context
	work  sync.WaitGroup
}

// heldSurveys is how many are kept; a survey of 10,000 files takes about 100 MB.
const heldSurveys = 4

func newWholes(s *store.Store) *wholes {
	cache, err := lru.New[int64, *summary.Whole](heldSurveys)
	if err != nil {
		panic(err) // the size is a constant above zero
	}
	ctx, stop := context.WithCancel(context.Background())
	return &wholes{store: s, cache: cache, ctx: ctx, stop: stop}
}

// close ends what is being loaded.
func (h *wholes) close() {
	h.stop()
	h.work.Wait()
}

// of brings a complete survey together, once for all who ask meanwhile; whoever
// stops waiting does not stop it.
func (h *wholes) of(ctx context.Context, v *store.Survey) (*summary.Whole, error) {
	if w, ok := h.cache.Get(v.ID); ok {
		return w, nil
	}
	loaded := h.once.DoChan(strconv.FormatInt(v.ID, 10), func() (any, error) {
		h.work.Add(1)
		defer h.work.Done()
		w, err := h.store.Whole(h.ctx, v)
		if err == nil {
			h.cache.Add(v.ID, w)
		}
		return w, err
	})
	select {
	case r := <-loaded:
		if r.Err != nil {
			return nil, r.Err
		}
		return r.Val.(*summary.Whole), nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// whole is the complete survey at a repository's pin.
func (s *Server) whole(ctx context.Context, w *who) (*summary.Whole, *store.Survey, error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, nil, err
	}
	if v.State != store.Complete {
		return nil, nil, problem(http.StatusConflict, "not-surveyed", "the survey of this commit is not complete: what files say to each other is told when it is")
	}
	whole, err := s.wholes.of(ctx, v)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil, problem(http.StatusConflict, "not-surveyed", "this survey was made before imports were resolved: survey the commit again")
	}
	return whole, v, err
}

// placed is a file of the survey, by the path that a request gives.
func placed(w *summary.Whole, p string) (int, error) {
	if i := w.Find(p); i >= 0 {
		return i, nil
	}
	return 0, store.ErrNotFound
}
