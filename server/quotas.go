package server

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"sync"
	"time"
)

// What one person may have open at once.
const (
	requestsAtOnce = 64
	streamsAtOnce  = 16
	uploadsAtOnce  = 2
)

// quotas counts what each person has open.
type quotas struct {
	mu   sync.Mutex
	open map[quota]int
}

// quota is one kind of thing of one person.
type quota struct {
	kind   string
	person int64
}

func newQuotas() *quotas { return &quotas{open: map[quota]int{}} }

// enter counts one more of a kind until leave is called; an error where a person has as
// many open as they may.
func (c *quotas) enter(kind string, person int64, most int) (leave func(), err error) {
	key := quota{kind, person}
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.open[key] >= most {
		p := problem(http.StatusTooManyRequests, "too-many", fmt.Sprintf("you have %d of these open at once; close one, or wait until it is done (%s)", most, kind))
		p.after = 2
		return nil, p
	}
	c.open[key]++
	return func() {
		c.mu.Lock()
		defer c.mu.Unlock()
		if c.open[key]--; c.open[key] <= 0 {
			delete(c.open, key)
		}
	}, nil
}

// A body that nothing comes of for a while, or that comes too slowly, is given up.
const (
	pauseOfSender  = 30 * time.Second
	slowAfter      = time.Minute
	slowest        = 2048 // bytes a second, on average
	answerPatience = 10 * time.Minute
)

var errSlow = errors.New("the file comes too slowly; try again over a better line")

// pacedReader reads a body as long as it comes.
type pacedReader struct {
	in     io.Reader
	extend func(time.Time) error
	began  time.Time
	bytes  int64
}

// Read implements io.Reader.
func (p *pacedReader) Read(b []byte) (int, error) {
	now := time.Now()
	if took := now.Sub(p.began); took > slowAfter && float64(p.bytes)/took.Seconds() < slowest {
		return 0, errSlow
	}
	_ = p.extend(now.Add(pauseOfSender)) // without it the server's own deadline stands
	n, err := p.in.Read(b)
	p.bytes += int64(n)
	return n, err
}

// withWriteDeadline ends an answer that nobody reads.
func withWriteDeadline(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		_ = http.NewResponseController(w).SetWriteDeadline(time.Now().Add(answerPatience)) // streams set their own
		h.ServeHTTP(w, r)
	})
}
