package server

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/highlight"
	"juxtagram/core/lang/all"
)

func TestALongFileIsColouredAtOnceAndThenAsAWhole(t *testing.T) {
	c := newColours(newMemory(0))
	defer c.close()
	text := []byte("package a\n\n/*\n" + strings.Repeat("func inside() {}\n", 5000) + "*/\nfunc outside() {}\n")
	whole, err := highlight.Lines(context.Background(), all.ByName("Go"), text)
	require.NoError(t, err)
	got, rough, why := c.lines(context.Background(), "blob", all.ByName("Go"), text, 3000, 3009)
	require.NoError(t, why)
	assert.True(t, rough)
	assert.Len(t, got, 10)
	require.Eventually(t, func() bool {
		got, rough, why = c.lines(context.Background(), "blob", all.ByName("Go"), text, 3000, 3009)
		return why == nil && !rough
	}, 30*time.Second, 10*time.Millisecond)
	assert.Equal(t, whole[2999:3009], got, "as a whole it is known to lie in a comment")
	past, _, why := c.lines(context.Background(), "blob", all.ByName("Go"), text, 99999, 100000)
	assert.NoError(t, why)
	assert.Empty(t, past)
	short, rough, why := c.lines(context.Background(), "other", all.ByName("Go"), []byte("package a\n"), 1, 400)
	assert.True(t, why == nil && !rough)
	assert.NotEmpty(t, short)
}
