package links

import (
	"fmt"
	"math"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
)

// drawn makes links of n files from pairs of numbers.
func drawn(n int, pairs ...[2]int) *Links {
	l := &Links{Of: make([][]int32, n)}
	for _, p := range pairs {
		l.Of[p[0]] = append(l.Of[p[0]], int32(len(l.Origins)))
		l.Origins = append(l.Origins, origin.Origin{To: origin.ToFile, Files: []int32{int32(p[1])}})
	}
	return l
}

func TestGraphKnowsBothEnds(t *testing.T) {
	g := NewGraph(drawn(4, [2]int{0, 1}, [2]int{0, 1}, [2]int{2, 1}, [2]int{1, 1}, [2]int{3, 0}))
	assert.Equal(t, []int32{0, 2}, g.Dependents(1), "each once, and not itself")
	assert.Equal(t, []int32{1}, g.Dependencies(0))
	assert.Empty(t, g.Dependencies(1))
	_, group := g.Cycles()
	assert.Equal(t, []int{1, 0, 1, 2}, g.Layers(group))
}

func TestCentralityAgreesWithADenseReckoning(t *testing.T) {
	r := rand.New(rand.NewSource(7))
	for n := 1; n < 40; n += 3 {
		var pairs [][2]int
		for range 2 * n {
			pairs = append(pairs, [2]int{r.Intn(n), r.Intn(n)})
		}
		g := NewGraph(drawn(n, pairs...))
		rank, sum := g.Centrality(), 0.0
		for _, x := range rank {
			sum += x
		}
		require.InDelta(t, 1, sum, 1e-6)
		// the fixed point: one dense step changes nothing
		for i := range n {
			want := (1 - damping) / float64(n)
			for j := range n {
				out := g.Dependencies(j)
				if len(out) == 0 {
					want += damping * rank[j] / float64(n)
				}
				for _, to := range out {
					if int(to) == i {
						want += damping * rank[j] / float64(len(out))
					}
				}
			}
			require.InDelta(t, want, rank[i], 1e-7)
		}
	}
	assert.Nil(t, NewGraph(drawn(0)).Centrality())
}

func TestCyclesAgreeWithReachability(t *testing.T) {
	r := rand.New(rand.NewSource(11))
	for range 60 {
		n := 1 + r.Intn(25)
		var pairs [][2]int
		for range r.Intn(2 * n) {
			pairs = append(pairs, [2]int{r.Intn(n), r.Intn(n)})
		}
		g := NewGraph(drawn(n, pairs...))
		reach := make([][]bool, n)
		for i := range n {
			reach[i] = make([]bool, n)
			for work := []int{i}; len(work) > 0; {
				at := work[0]
				work = work[1:]
				for _, to := range g.Dependencies(at) {
					if !reach[i][to] {
						reach[i][to] = true
						work = append(work, int(to))
					}
				}
			}
		}
		cycles, group := g.Cycles()
		for i := range n {
			for j := range n {
				together := i == j || reach[i][j] && reach[j][i]
				require.Equal(t, together, group[i] == group[j], "%d and %d of %v", i, j, pairs)
			}
			for _, to := range g.Dependencies(i) {
				require.GreaterOrEqual(t, group[i], group[to], "what is leaned on comes first")
			}
		}
		for _, c := range cycles {
			require.Greater(t, len(c), 1)
		}
	}
}

func TestFiveThousandFilesImportingOne(t *testing.T) {
	var pairs [][2]int
	for i := 1; i <= 5000; i++ {
		pairs = append(pairs, [2]int{i, 0})
	}
	g := NewGraph(drawn(5001, pairs...))
	assert.Len(t, g.Dependents(0), 5000)
	assert.InDelta(t, 0.459, g.Centrality()[0], 0.01)
}

func TestSnapshotsComeBack(t *testing.T) {
	files := []origin.File{{Path: "a.go", Package: "a"}, {Path: "b\xff.go"}, {Path: "c.go"}}
	l := &Links{Origins: []origin.Origin{{To: origin.ToStandard, Name: "fmt"}, {To: origin.ToFile, Files: []int32{1}, Guess: true, Reason: "r", Near: []string{"x"}}}, Of: [][]int32{{0, 1, 0}, nil, {1}}}
	s, err := UnpackSnapshot(Keep(files, []string{"1 Go", "2 Go", "3 Go"}, "m", l).Pack())
	require.NoError(t, err)
	assert.Equal(t, []string{"a.go", "b\xff.go", "c.go"}, s.Paths)
	back, err := s.Links()
	require.NoError(t, err)
	assert.Equal(t, l, back)
	none, err := UnpackSnapshot(nil)
	assert.Nil(t, none)
	require.NoError(t, err)
	for _, bad := range [][]byte{{1}, {0x80}, Keep(files, []string{"1"}, "", l).Pack()} {
		_, err := UnpackSnapshot(bad)
		assert.Error(t, err)
	}
	s.Of = s.Of[:1]
	_, err = s.Links()
	assert.Error(t, err)
}

func TestCollectJoinsEqualOrigins(t *testing.T) {
	std := origin.Origin{To: origin.ToStandard, Name: "fmt"}
	l := Collect(3, [][]origin.Origin{{std, std}, nil, {{To: origin.ToStandard, Name: "fmt", Guess: true}}}, func(i int) []origin.Origin { return []origin.Origin{std} })
	assert.Len(t, l.Origins, 2)
	assert.Equal(t, [][]int32{{0, 0}, {0}, {1}}, l.Of)
	assert.Equal(t, "fmt", l.Origin(1, 0).Name)
	assert.Nil(t, l.Origin(1, 1))
	assert.Nil(t, l.Origin(9, 0))
}

func TestMeets(t *testing.T) {
	moved := map[string]bool{"units": true}
	for text, want := range map[string]bool{"./units": true, "marsh.test/units": true, "a::units::B": true, `"units.h"`: true, "<x/units.h>": true, "test.Units": true, "unit": false, "": false} {
		assert.Equal(t, want, Meets(&lang.Import{Text: text}, moved), fmt.Sprintf("%q", text))
	}
	assert.True(t, Meets(&lang.Import{Text: ".", Names: []lang.Imported{{Name: "units"}}}, moved))
	assert.False(t, math.IsNaN(NewGraph(drawn(3)).Centrality()[0]))
}
