package jobs

import (
	"bytes"
	"errors"
	"log/slog"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAPanicEndsTheWorkWithAWord(t *testing.T) {
	var logged bytes.Buffer
	r := &Runner{config: Config{Logger: slog.New(slog.NewTextHandler(&logged, nil))}}
	err := r.safely(func() error {
		var none []int
		_ = none[len(none)]
		return nil
	})
	assert.ErrorContains(t, err, "index out of range")
	assert.NotContains(t, err.Error(), "goroutine", "the stack is for the log")
	assert.Contains(t, logged.String(), "safely_test.go")
	plain := errors.New("plain")
	assert.Equal(t, plain, r.safely(func() error { return plain }))
}
