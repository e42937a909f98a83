package server

import (
	"net/http"
	"sync"
	"time"
)

// guard slows down guessing: after some failures for one name, further tries
// are refused for a while.
type guard struct {
	mu    sync.Mutex
	tries map[string]*tries
}

type tries struct {
	failed int
	until  time.Time
}

const (
	freeTries  = 8
	guardPause = 30 * time.Second
	guardNames = 10_000
)

func newGuard() *guard { return &guard{tries: map[string]*tries{}} }

func (g *guard) check(name string) error {
	g.mu.Lock()
	defer g.mu.Unlock()
	if t := g.tries[name]; t != nil && time.Now().Before(t.until) {
		return problem(http.StatusTooManyRequests, "too-many-tries", "too many tries; wait half a minute")
	}
	return nil
}

func (g *guard) failed(name string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if len(g.tries) > guardNames {
		g.tries = map[string]*tries{}
	}
	t := g.tries[name]
	if t == nil {
		t = &tries{}
		g.tries[name] = t
	}
	if t.failed++; t.failed >= freeTries {
		t.failed, t.until = freeTries/2, time.Now().Add(guardPause)
	}
}

func (g *guard) passed(name string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	delete(g.tries, name)
}
