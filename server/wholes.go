package server

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"sync"

	"golang.org/x/sync/singleflight"

	"juxtagram/core/summary"
	"juxtagram/store"
)

// kept keeps what was brought together of surveys in the server's memory: a survey is
// loaded once for all who ask meanwhile.
type kept[T any] struct {
	kind   string
	memory *memory
	load   func(context.Context, *store.Survey) (T, error)
	bytes  func(T) int64 // about as many as a value takes
	once   singleflight.Group
	stop   context.CancelFunc
	ctx    context.Context
	work   sync.WaitGroup
}

func newKept[T any](m *memory, kind string, load func(context.Context, *store.Survey) (T, error), bytes func(T) int64) *kept[T] {
	ctx, stop := context.WithCancel(context.Background())
	return &kept[T]{kind: kind, memory: m, load: load, bytes: bytes, ctx: ctx, stop: stop}
}

// close ends what is being loaded.
func (h *kept[T]) close() {
	h.stop()
	h.work.Wait()
}

// of brings a survey together; whoever stops waiting does not stop it. Only
// complete surveys stay in memory: the others still grow.
func (h *kept[T]) of(ctx context.Context, v *store.Survey) (T, error) {
	key := memoryKey{h.kind, v.RepositoryID, strconv.FormatInt(v.ID, 10)}
	if held, ok := h.memory.get(key); ok {
		return held.(T), nil
	}
	loaded := h.once.DoChan(key.id+v.State, func() (any, error) {
		h.work.Add(1)
		defer h.work.Done()
		t, err := h.load(h.ctx, v)
		if err == nil && v.State == store.Complete {
			h.memory.keep(key, t, h.bytes(t))
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
