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

// kept keeps what was brought together of the surveys asked for last in memory:
// a survey is loaded once for all who ask meanwhile.
type kept[T any] struct {
	load  func(context.Context, *store.Survey) (T, error)
	cache *lru.Cache[int64, T]
	once  singleflight.Group
	stop  context.CancelFunc
	ctx   context.Context
	work  sync.WaitGroup
}

// heldSurveys is how many are kept of each kind; what names and summaries need
// of a survey of 10,000 files takes about 100 MB.
const heldSurveys = 4

func newKept[T any](load func(context.Context, *store.Survey) (T, error)) *kept[T] {
	cache, err := lru.New[int64, T](heldSurveys)
	if err != nil {
		panic(err) // the size is a constant above zero
	}
	ctx, stop := context.WithCancel(context.Background())
	return &kept[T]{load: load, cache: cache, ctx: ctx, stop: stop}
}

// close ends what is being loaded.
func (h *kept[T]) close() {
	h.stop()
	h.work.Wait()
}

// of brings a survey together; whoever stops waiting does not stop it. Only
// complete surveys stay in memory: the others still grow.
func (h *kept[T]) of(ctx context.Context, v *store.Survey) (T, error) {
	if held, ok := h.cache.Get(v.ID); ok {
		return held, nil
	}
	loaded := h.once.DoChan(strconv.FormatInt(v.ID, 10)+v.State, func() (any, error) {
		h.work.Add(1)
		defer h.work.Done()
		t, err := h.load(h.ctx, v)
		if err == nil && v.State == store.Complete {
			h.cache.Add(v.ID, t)
		}
		return t, err
	})
	var none T
	select {
	case r := <-loaded:
		if r.Err != nil {
			return none, r.Err
		}
		return r.Val.(T), nil
	case <-ctx.Done():
		return none, ctx.Err()
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
