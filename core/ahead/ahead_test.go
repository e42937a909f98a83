package ahead_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/ahead"
)

func TestBegin(t *testing.T) {
	started, finish := make(chan bool), make(chan bool)
	runs := 0
	wait := ahead.Begin(func() (int, error) {
		runs++
		started <- true
		<-finish
		return 7, errors.New("seven")
	})
	<-started // nobody asked yet
	close(finish)
	for range 2 {
		n, err := wait()
		assert.Equal(t, 7, n)
		assert.EqualError(t, err, "seven")
	}
	assert.Equal(t, 1, runs)
}

func TestAPanicMeetsWhoeverWaits(t *testing.T) {
	wait := ahead.Begin(func() (int, error) { panic("broken") })
	for range 2 {
		assert.PanicsWithValue(t, "broken", func() { _, _ = wait() })
	}
}
