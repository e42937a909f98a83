package reach_test

import (
	"fmt"
	"math/rand"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/links/names"
	"juxtagram/core/links/origin"
	"juxtagram/core/reach"
)

// table is a repository of one file: who needs whom, and where they stand.
type table struct {
	symbols []lang.Symbol
	needs   map[int][]names.Need
}

func (t *table) Needs(_, symbol int) ([]names.Need, error) { return t.needs[symbol], nil }
func (t *table) Symbol(_, symbol int) (*lang.Symbol, error) {
	if symbol >= len(t.symbols) {
		return nil, nil
	}
	return &t.symbols[symbol], nil
}

func (t *table) Outline(int) ([]lang.Symbol, error) { return t.symbols, nil }

func (t *table) need(from, to int) {
	t.needs[from] = append(t.needs[from], names.Need{Name: t.symbols[to].Name, Line: t.symbols[from].Start, Definition: names.Definition{File: 0, Symbol: to, Line: t.symbols[to].Start, Certainty: names.Scope}})
}

func symbols(n int) *table {
	t := &table{needs: map[int][]names.Need{}}
	for i := range n {
		name := fmt.Sprintf("s%d", i)
		t.symbols = append(t.symbols, lang.Symbol{Name: name, Qualified: name, Kind: lang.Function, Start: 10*i + 1, End: 10*i + 5, NameLine: 10*i + 1, Parent: -1})
	}
	return t
}

func TestClosureIsBruteForceReachability(t *testing.T) {
	r := rand.New(rand.NewSource(3))
	for range 60 {
		n := 2 + r.Intn(40)
		world := symbols(n)
		reaches := make([][]bool, n)
		for i := range reaches {
			reaches[i] = make([]bool, n)
			reaches[i][i] = true
			for range r.Intn(4) {
				to := r.Intn(n)
				world.need(i, to)
				reaches[i][to] = true
			}
		}
		for k := range n {
			for i := range n {
				for j := range n {
					reaches[i][j] = reaches[i][j] || reaches[i][k] && reaches[k][j]
				}
			}
		}
		for i := range n {
			x, err := reach.Of(world, 0, i, reach.Limits{})
			require.NoError(t, err)
			var got, want []int
			for _, p := range x.Pieces {
				got = append(got, p.Symbol)
			}
			sort.Ints(got)
			for j := range n {
				if reaches[i][j] {
					want = append(want, j)
				}
			}
			assert.Equal(t, want, got)
			assert.Equal(t, 5*len(want), x.Lines)
			assert.Empty(t, x.Left)
			for k, p := range x.Pieces {
				if k > 0 {
					assert.Less(t, p.By, k, "whoever needs it stands before it")
					assert.Equal(t, x.Pieces[p.By].Depth+1, p.Depth)
				}
			}
		}
	}
}

func TestLimitsTellWhatTheyLeaveOut(t *testing.T) {
	world := symbols(4) // 0 → 1 → 2 → 3
	for i := range 3 {
		world.need(i, i+1)
	}
	x, err := reach.Of(world, 0, 0, reach.Limits{Depth: 2})
	require.NoError(t, err)
	assert.Len(t, x.Pieces, 3)
	assert.Equal(t, []reach.Left{{File: 0, Symbol: 3, Qualified: "s3", Lines: 5}}, x.Left)
	x, err = reach.Of(world, 0, 0, reach.Limits{Lines: 12})
	require.NoError(t, err)
	assert.Equal(t, 10, x.Lines)
	assert.Equal(t, "s2", x.Left[0].Qualified)
	x, err = reach.Of(world, 0, 0, reach.Limits{Lines: 1})
	require.NoError(t, err)
	assert.Len(t, x.Pieces, 1, "the symbol itself is always there")
}

func TestWhatLiesInsideIsNotToldTwice(t *testing.T) {
	world := symbols(3)
	world.symbols[2].Start, world.symbols[2].End = 12, 13 // inside of 1
	world.need(0, 2)
	world.need(2, 1)
	x, err := reach.Of(world, 0, 0, reach.Limits{})
	require.NoError(t, err)
	require.Len(t, x.Pieces, 2)
	assert.Equal(t, []string{"s0", "s1"}, []string{x.Pieces[0].Qualified, x.Pieces[1].Qualified})
}

func TestWhatComesFromElsewhereIsTold(t *testing.T) {
	world := symbols(1)
	from := func(name string, o *origin.Origin, through string) {
		world.needs[0] = append(world.needs[0], names.Need{Name: name, Definition: names.Definition{File: -1, Symbol: -1}, Origin: o, Through: through})
	}
	from("Println", &origin.Origin{To: origin.ToStandard, Name: "fmt"}, "fmt")
	from("Sprint", &origin.Origin{To: origin.ToStandard, Name: "fmt"}, "fmt")
	from("New", &origin.Origin{To: origin.ToDependency, Name: "tide.example/x", Version: "v1.2.3"}, "tide.example/x/y")
	from("lost", &origin.Origin{To: origin.Unresolved}, "gone")
	from("plain", nil, "")
	from("s0", nil, "") // a name that the piece itself makes
	x, err := reach.Of(world, 0, 0, reach.Limits{})
	require.NoError(t, err)
	require.Len(t, x.Elsewhere, 2)
	assert.Equal(t, []string{"Println", "Sprint"}, x.Elsewhere[0].Names)
	assert.Equal(t, "v1.2.3", x.Elsewhere[1].Origin.Version)
	assert.Equal(t, []string{"lost", "plain"}, x.Unresolved)
	none, err := reach.Of(world, 0, 9, reach.Limits{})
	require.NoError(t, err)
	assert.Empty(t, none.Pieces)
}
