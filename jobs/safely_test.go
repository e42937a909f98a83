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
	assert.Contains(t, words(err), "a fault of Juxtagram itself")
	assert.NotContains(t, err.Error(), "index out of range", "what and where are for the log")
	assert.Contains(t, logged.String(), "index out of range")
	assert.Contains(t, logged.String(), "safely_test.go")
	plain := errors.New("plain")
	assert.Equal(t, plain, r.safely(func() error { return plain }))
}
