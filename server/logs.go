package server

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"juxtagram/core/gitlog"
	"juxtagram/core/history"
	"juxtagram/core/plan/health"
	"juxtagram/store"
)

// logs keeps the logs of repositories in the server's memory.
type logs struct {
	memory *memory
	once   singleflight.Group
	// of what is loaded before it is asked for
	ctx     context.Context
	stop    context.CancelFunc
	warming sync.WaitGroup
}

// heldLog is a log as of one version of the history, with what was narrowed and
// laid in lanes last.
type heldLog struct {
	*gitlog.Log
	version  string
	hidden   bool // what people did is told nowhere
	narrowed *lru.Cache[string, *gitlog.Selection]
	lanes    *lru.Cache[string, *gitlog.Lanes]
	symbols  *lru.Cache[string, []int32]
	places   *lru.Cache[string, []health.Finding] // commit and target → what became of it there
}

const (
	heldSelections = 32
	heldPlaces     = 20_000
)

func newLogs(m *memory) *logs {
	l := &logs{memory: m}
	l.ctx, l.stop = context.WithCancel(context.Background())
	return l
}

func (l *logs) get(repository int64) (*heldLog, bool) {
	held, ok := l.memory.get(memoryKey{"log", repository, ""})
	if !ok {
		return nil, false
	}
	return held.(*heldLog), true
}

func (l *logs) keep(repository int64, held *heldLog) {
	l.memory.keep(memoryKey{"log", repository, ""}, held, logBytes(held))
}

func (l *logs) close() {
	l.stop()
	l.warming.Wait()
}

// person is who wrote a commit, joined; "" where people are not told.
func (l *heldLog) person(i int32) string {
	if l.hidden {
		return ""
	}
	return l.People.List[l.Authors[i]].Name
}

// logVersion is what a log that is held must be of to be true: it changes with
// the history that is kept, with what is told of its people, and with the pin.
func logVersion(p *store.Repository) string { return fmt.Sprintf("%d %s", p.HistoryVersion, p.Pin) }

// log is the log of the repository that a request is about. Where the history
// is not read yet, that is asked for and told.
func (s *Server) log(ctx context.Context, w *who) (*heldLog, error) {
	p := w.repository
	version := logVersion(p)
	if held, ok := s.logs.get(p.ID); ok && held.version == version {
		return held, nil
	}
	made, err, _ := s.logs.once.Do(fmt.Sprintf("%d %s", p.ID, version), func() (any, error) {
		l, err := s.loadLog(s.logs.ctx, p)
		if err != nil {
			return nil, err
		}
		held := &heldLog{l, version, p.PeopleHidden, newCache[string, *gitlog.Selection](heldSelections), newCache[string, *gitlog.Lanes](heldSelections), newCache[string, []int32](heldSelections), newCache[string, []health.Finding](heldPlaces)}
		s.logs.keep(p.ID, held)
		return held, nil
	})
	if err != nil {
		return nil, err
	}
	held := made.(*heldLog)
	if held.Unread > 0 || held.Len() == 0 {
		if err := s.askHistory(ctx, p); err != nil {
			return nil, err
		}
	}
	if held.Len() == 0 {
		return nil, problem(http.StatusConflict, "history-unread", "the history of this repository is being read; it stands here in a moment")
	}
	return held, nil
}

// askHistory asks for the commits that are not read yet, unless a survey is
// reading them.
func (s *Server) askHistory(ctx context.Context, p *store.Repository) error {
	v, err := s.store.SurveyAt(ctx, p.ID, p.Pin)
	if err == nil && (v.State == store.Waiting || v.State == store.Running) {
		return nil // it asks for the rest when it is done
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	return s.jobs.QueueHistory(ctx, p.ID)
}

// warmLog loads the log of a repository that somebody opens, before they ask for
// it. What goes wrong is told to whoever asks.
func (s *Server) warmLog(w *who) {
	p := w.repository
	if held, ok := s.logs.get(p.ID); p.Pin == "" || p.HistoryVersion == 0 || ok && held.version == logVersion(p) {
		return
	}
	s.logs.warming.Go(func() { _, _ = s.log(s.logs.ctx, w) })
}

func (s *Server) loadLog(ctx context.Context, p *store.Repository) (*gitlog.Log, error) {
	b := gitlog.NewBuilder()
	if err := s.store.Entries(ctx, p.ID, b.Add); err != nil {
		return nil, err
	}
	g := s.jobs.Git(p.ID)
	refs, err := g.Refs(ctx)
	if err != nil {
		return nil, err
	}
	idents := b.Idents()
	mapped, err := g.Mailmap(ctx, p.Pin, slices.Collect(maps.Keys(idents)))
	if err != nil {
		return nil, err
	}
	joins, err := s.store.Joins(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	history.Follow(mapped, store.Joined(joins))
	shallow, err := g.Shallow()
	if err != nil {
		return nil, err
	}
	return b.Log(refs, p.Pin, history.Join(idents, mapped), shallow), nil
}
