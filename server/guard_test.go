package server

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"runtime"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestGuessesWaitLongerEachTime(t *testing.T) {
	now := time.Unix(0, 0)
	g := newGuard()
	g.now = func() time.Time { return now }
	try := func(names map[string]int) (func(), error) { return g.begin(names) }
	one := map[string]int{"a": 3}
	for range 3 {
		_, err := try(one)
		require.NoError(t, err)
	}
	last := time.Duration(0)
	for range 12 {
		begun := now
		for {
			if _, err := try(one); err == nil {
				break
			}
			now = now.Add(time.Second)
		}
		waited := now.Sub(begun)
		assert.GreaterOrEqual(t, waited, last)
		last = waited
	}
	assert.Equal(t, longestWait, last)
	passed, err := try(map[string]int{"b": 3})
	require.NoError(t, err, "another name does not wait")
	passed()
	now = now.Add(longestWait)
	passed, err = try(one)
	require.NoError(t, err)
	passed()
	for range 3 {
		_, err = try(one)
		assert.NoError(t, err, "a right one forgets those before")
	}
}

// Guesses that are made at once count before any of them is answered.
func TestGuessesAtOnceAreCounted(t *testing.T) {
	g := newGuard()
	var let atomic.Int64
	var all sync.WaitGroup
	for range 200 {
		all.Go(func() {
			if _, err := g.begin(map[string]int{"a": freeTries}); err == nil {
				let.Add(1)
			}
		})
	}
	all.Wait()
	assert.EqualValues(t, freeTries, let.Load())
}

func TestNamesOfGuessesAreForgotten(t *testing.T) {
	now := time.Unix(0, 0)
	g := newGuard()
	g.now = func() time.Time { return now }
	for i := range guardNames {
		_, _ = g.begin(map[string]int{fmt.Sprint(i): 3})
	}
	now = now.Add(2 * forgetTries)
	_, err := g.begin(map[string]int{"one more": 3})
	require.NoError(t, err)
	assert.Len(t, g.tries, 1)
}

// As many hashes are made at once as there are processors; the others wait, or leave.
func TestHashesTakeTurns(t *testing.T) {
	p := newPasswords()
	for range cap(p.turn) {
		require.NoError(t, p.begin(context.Background()))
	}
	assert.LessOrEqual(t, cap(p.turn), runtime.GOMAXPROCS(0))
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := p.hash(ctx, "a long enough password")
	assert.ErrorIs(t, err, context.Canceled)
	done := make(chan error)
	go func() { _, err := p.same(context.Background(), "x", ""); done <- err }()
	select {
	case <-done:
		t.Fatal("it did not wait")
	default:
	}
	<-p.turn
	require.NoError(t, <-done)
}

func TestASlowSenderIsGivenUp(t *testing.T) {
	r, w := io.Pipe()
	var until time.Time
	p := &pacedReader{in: r, extend: func(t time.Time) error { until = t; return nil }, began: time.Now()}
	go func() { _, _ = w.Write([]byte("x")) }()
	_, err := p.Read(make([]byte, 10))
	require.NoError(t, err)
	assert.WithinDuration(t, time.Now().Add(pauseOfSender), until, time.Second)
	p.began = time.Now().Add(-2 * slowAfter)
	_, err = p.Read(make([]byte, 10))
	assert.ErrorIs(t, err, errSlow)
	p.bytes = 1 << 30
	go func() { _ = w.Close() }()
	_, err = p.Read(make([]byte, 10))
	assert.ErrorIs(t, err, io.EOF, "one that sent much may go on")
}

func TestWhatAPersonHasOpenIsBounded(t *testing.T) {
	c := newQuotas()
	var leave []func()
	for range 3 {
		l, err := c.enter("streams", 1, 3)
		require.NoError(t, err)
		leave = append(leave, l)
	}
	_, err := c.enter("streams", 1, 3)
	assert.ErrorContains(t, err, "you have 3 of these open")
	_, err = c.enter("streams", 2, 3)
	assert.NoError(t, err, "another person")
	leave[0]()
	_, err = c.enter("streams", 1, 3)
	assert.NoError(t, err)
}

// deadlines is a connection that notes until when it may be written to.
type deadlines struct {
	*httptest.ResponseRecorder
	until time.Time
}

func (d *deadlines) SetWriteDeadline(t time.Time) error { d.until = t; return nil }

func TestAnAnswerThatNobodyReadsEnds(t *testing.T) {
	d := &deadlines{ResponseRecorder: httptest.NewRecorder()}
	withWriteDeadline(http.HandlerFunc(func(http.ResponseWriter, *http.Request) {
		assert.WithinDuration(t, time.Now().Add(answerPatience), d.until, time.Minute)
	})).ServeHTTP(d, httptest.NewRequest("GET", "/", nil))
	assert.False(t, d.until.IsZero())
}
