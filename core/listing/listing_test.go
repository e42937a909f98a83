package listing_test

import (
	"math/rand/v2"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/listing"
)

// thing is something with a single value and several.
type thing struct {
	sort string
	tags []string
	dir  string
}

func things(r *rand.Rand, n int) []thing {
	out := make([]thing, n)
	for i := range out {
		out[i] = thing{[]string{"a", "b", ""}[r.IntN(3)], nil, []string{"x", "x/y", "z"}[r.IntN(3)]}
		for k := range r.IntN(3) {
			out[i].tags = append(out[i].tags, "t"+strconv.Itoa(r.IntN(3)+3*k))
		}
	}
	return out
}

var keys = []listing.Key{"sort", "tag", "dir"}

func listed(all []thing) *listing.List {
	return listing.New(listing.Build{Len: len(all), Keys: keys, Below: []listing.Key{"dir"},
		Values: func(k listing.Key, i int) []string {
			switch k {
			case "sort":
				return []string{all[i].sort}
			case "tag":
				return all[i].tags
			}
			return []string{all[i].dir}
		},
		Text: func(i int) string { return strconv.Itoa(i) }})
}

// Facets say what each narrowing would leave: brute force finds the same.
func TestFacetsTellWhatNarrowingWouldLeave(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	all := things(r, 400)
	l := listed(all)
	hidden := func(i int) bool { return i%7 == 0 }
	values := map[listing.Key][]string{"sort": {"a", "b", ""}, "tag": {"t0", "t1", "t4", ""}, "dir": {"x", "z"}}
	for range 80 {
		f := listing.Filter{Values: map[listing.Key][]string{}, Hidden: hidden, Text: strconv.Itoa(r.IntN(4))}
		for _, k := range keys {
			if r.IntN(3) == 0 {
				f.Values[k] = []string{values[k][r.IntN(len(values[k]))]}
			}
		}
		found := l.Find(f, "tag")
		sum := 0
		for _, g := range found.Groups {
			sum += g.Count
		}
		assert.Equal(t, len(found.Items), sum)
		assert.Equal(t, len(found.Items), len(l.Find(f, "").Items))
		for _, k := range keys[:2] { // folders hold what is below them
			for _, c := range found.Facets[k] {
				narrower := f
				narrower.Values = map[listing.Key][]string{}
				for other, v := range f.Values {
					narrower.Values[other] = v
				}
				narrower.Values[k] = []string{c.Value}
				require.Len(t, l.Find(narrower, "").Items, c.Count, "%s=%s", k, c.Value)
			}
		}
	}
}

func TestFoldersHoldWhatIsBelow(t *testing.T) {
	l := listed([]thing{{dir: "x"}, {dir: "x/y"}, {dir: "xy"}, {dir: "z"}})
	assert.Equal(t, []int{0, 1}, l.Find(listing.Filter{Values: map[listing.Key][]string{"dir": {"x"}}}, "").Items)
	other := l.With("sort", func(i int) []string { return []string{strconv.Itoa(i % 2)} })
	assert.Equal(t, []int{1, 3}, other.Find(listing.Filter{Values: map[listing.Key][]string{"sort": {"1"}}}, "").Items)
	assert.Empty(t, l.Find(listing.Filter{Values: map[listing.Key][]string{"sort": {"1"}}}, "").Items, "the list itself is as it was")
}
