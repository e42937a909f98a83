package server

import (
	"fmt"
	"math"
	"net/http"
	"sync"
	"time"
)

// guard slows down guessing. A try counts as failed from its beginning until it is known
// to be right, so that many at once are no way around; after some free ones each has to
// wait twice as long as the one before.
type guard struct {
	mu    sync.Mutex
	now   func() time.Time
	tries map[string]*tries
}

type tries struct {
	failed int
	last   time.Time
	until  time.Time
}

const (
	freeTries   = 8
	longestWait = 15 * time.Minute
	forgetTries = time.Hour // after so long without one
	guardNames  = 100_000
)

func newGuard() *guard { return &guard{now: time.Now, tries: map[string]*tries{}} }

// begin counts a try for each of some names, with its number of free tries; passed takes
// them back. It is an error while one of the names has to wait.
func (g *guard) begin(free map[string]int) (passed func(), err error) {
	g.mu.Lock()
	defer g.mu.Unlock()
	now := g.now()
	g.tidy(now)
	for name := range free {
		if t := g.tries[name]; t != nil && now.Before(t.until) {
			return nil, wait(t.until.Sub(now))
		}
	}
	for name, n := range free {
		t := g.tries[name]
		if t == nil {
			t = &tries{}
			g.tries[name] = t
		}
		t.failed, t.last = t.failed+1, now
		if over := t.failed - n; over >= 0 {
			t.until = now.Add(min(longestWait, time.Duration(math.Pow(2, float64(min(over, 20))))*time.Second))
		}
	}
	return func() { g.passed(free) }, nil
}

func (g *guard) passed(names map[string]int) {
	g.mu.Lock()
	defer g.mu.Unlock()
	for name := range names {
		delete(g.tries, name)
	}
}

// tidy forgets what is long ago, and all of it where there are too many names: those who
// made them all up have gained some free tries each.
func (g *guard) tidy(now time.Time) {
	if len(g.tries) < guardNames {
		return
	}
	for name, t := range g.tries {
		if now.Sub(t.last) > forgetTries {
			delete(g.tries, name)
		}
	}
	if len(g.tries) >= guardNames {
		clear(g.tries)
	}
}

// wait tells somebody to come back later.
func wait(d time.Duration) error {
	seconds := max(1, int(math.Ceil(d.Seconds())))
	p := problem(http.StatusTooManyRequests, "too-many-tries", fmt.Sprintf("too many tries; try again in %s", spoken(seconds)))
	p.after = seconds
	return p
}

func spoken(seconds int) string {
	switch {
	case seconds == 1:
		return "a second"
	case seconds < 90:
		return fmt.Sprintf("%d seconds", seconds)
	}
	return fmt.Sprintf("%d minutes", (seconds+59)/60)
}
