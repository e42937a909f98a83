package server

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestColumnsAreWrittenAsLists(t *testing.T) {
	for _, list := range [][]int32{{}, {0}, {-1, 7, math.MaxInt32, math.MinInt32}} {
		want, err := json.Marshal(list)
		require.NoError(t, err)
		got, err := json.Marshal(Column(list))
		require.NoError(t, err)
		assert.Equal(t, string(want), string(got))
	}
	got, err := json.Marshal(Times{0, 1 << 40})
	require.NoError(t, err)
	assert.Equal(t, "[0,1099511627776]", string(got))
}
