package tagged_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/tagged"
)

const dayLong = 86_400

func some() *tagged.List {
	now := int64(10_000 * dayLong)
	return tagged.NewList([]tagged.Item{
		{Path: "a/x.c", Word: "TODO", Said: "TODO: one", Who: "kip", Person: "Oona", Symbol: "f", BornAt: now - 5*dayLong, State: tagged.Open},
		{Path: "a/b/y.c", Word: "FIXME", Said: "FIXME: two", Person: "Tam", BornAt: now - 400*dayLong, State: tagged.Open},
		{Path: "z.c", Word: "TODO", Said: "TODO: three", Person: "Oona", State: tagged.Aside},
		{Path: "a/x.c", Word: "NOTE", Said: "NOTE: four", Whole: "A long text\nNOTE: four", BornAt: now - 2000*dayLong, State: tagged.Gone},
	}, tagged.Standard, now)
}

func TestFind(t *testing.T) {
	open := map[tagged.Key][]string{tagged.ByState: {"open"}}
	for _, c := range []struct {
		name   string
		filter tagged.Filter
		by     tagged.Key
		items  []int
		groups []tagged.Count
	}{
		{"words by urgency", tagged.Filter{}, tagged.ByWord, []int{1, 0, 2, 3}, []tagged.Count{{"FIXME", 1}, {"TODO", 2}, {"NOTE", 1}}},
		{"ages as they follow", tagged.Filter{}, tagged.ByAge, []int{0, 1, 3, 2}, []tagged.Count{{"month", 1}, {"two-years", 1}, {"older", 1}, {"unknown", 1}}},
		{"nobody stands last", tagged.Filter{}, tagged.ByPerson, []int{0, 2, 1, 3}, []tagged.Count{{"Oona", 2}, {"Tam", 1}, {"", 1}}},
		{"open ones", tagged.Filter{Values: open}, tagged.ByFolder, []int{0, 1}, []tagged.Count{{"a", 1}, {"a/b", 1}}},
		{"below a folder", tagged.Filter{Values: map[tagged.Key][]string{tagged.ByFolder: {"a"}}}, tagged.ByFile, []int{0, 3, 1}, []tagged.Count{{"a/x.c", 2}, {"a/b/y.c", 1}}},
		{"the root alone", tagged.Filter{Values: map[tagged.Key][]string{tagged.ByFolder: {"."}}}, tagged.ByFile, []int{2}, []tagged.Count{{"z.c", 1}}},
		{"a text of the whole comment", tagged.Filter{Text: " LONG text "}, tagged.ByWord, []int{3}, []tagged.Count{{"NOTE", 1}}},
		{"nothing", tagged.Filter{Text: "zzz"}, tagged.ByWord, nil, []tagged.Count{}},
	} {
		t.Run(c.name, func(t *testing.T) {
			f := some().Find(c.filter, c.by)
			assert.Equal(t, c.items, f.Items)
			assert.Equal(t, c.groups, f.Groups)
		})
	}
}

// Facets say what each narrowing would leave: brute force finds the same.
func TestFacetsTellWhatNarrowingWouldLeave(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	var items []tagged.Item
	for range 400 {
		items = append(items, tagged.Item{Path: fmt.Sprintf("d%d/f%d.c", r.IntN(4), r.IntN(9)), Word: []string{"TODO", "FIXME", "NOTE"}[r.IntN(3)], Person: []string{"", "A", "B"}[r.IntN(3)],
			State: tagged.States[r.IntN(5)], BornAt: int64(r.IntN(900)) * dayLong, Said: strings.Repeat("x", r.IntN(4))})
	}
	l := tagged.NewList(items, tagged.Standard, 1000*dayLong)
	hidden := func(i int) bool { return i%7 == 0 }
	for range 60 {
		f := tagged.Filter{Values: map[tagged.Key][]string{}, Hidden: hidden}
		for _, k := range tagged.Keys {
			if r.IntN(3) == 0 {
				f.Values[k] = []string{l.Value(k, r.IntN(len(items)))}
			}
		}
		found := l.Find(f, tagged.ByWord)
		assert.Equal(t, len(found.Items), len(l.Find(f, tagged.ByAge).Items))
		for _, k := range tagged.Keys {
			if k == tagged.ByFolder {
				continue // folders hold what is below them
			}
			for _, c := range found.Facets[k] {
				narrower := tagged.Filter{Values: map[tagged.Key][]string{}, Hidden: hidden}
				for other, v := range f.Values {
					narrower.Values[other] = v
				}
				narrower.Values[k] = []string{c.Value}
				require.Len(t, l.Find(narrower, tagged.ByWord).Items, c.Count, "%s=%s", k, c.Value)
			}
		}
	}
}

func TestHiddenAreCounted(t *testing.T) {
	f := some().Find(tagged.Filter{Values: map[tagged.Key][]string{tagged.ByState: {"open"}}, Hidden: func(i int) bool { return i != 0 }}, tagged.ByWord)
	assert.Equal(t, []any{[]int{0}, 1}, []any{f.Items, f.Hidden})
}

func TestRules(t *testing.T) {
	for _, c := range []struct {
		pattern, path string
		want          bool
	}{
		{"vendor", "vendor/a/b.go", true},
		{"vendor", "x/vendor/b.go", true},
		{"vendor", "vendors/b.go", false},
		{"/vendor/", "vendor/b.go", true},
		{"a/b", "a/b/c", true},
		{"a/b", "x/a/b/c", false},
		{"*.min.js", "web/x.min.js", true},
		{"*.min.js", "web/x.js", false},
		{"a/*.c", "a/b/x.c", false},
		{"a/**/x.c", "a/x.c", true},
		{"a/**/x.c", "a/b/c/x.c", true},
		{"?.c", "x.c", true},
		{"x+(.c", "x+(.c", true},
	} {
		r, err := tagged.PathRule(c.pattern)
		require.NoError(t, err)
		assert.Equal(t, c.want, r.Hides(&tagged.Item{Path: c.path}), "%s on %s", c.pattern, c.path)
	}
	r, err := tagged.TextRule("^todo: (add|write) tests")
	require.NoError(t, err)
	assert.True(t, r.Hides(&tagged.Item{Said: "TODO: add tests"}))
	assert.False(t, r.Hides(&tagged.Item{Said: "TODO: mend"}))
	for _, bad := range []string{"", " ", "(", `(a)\1`, strings.Repeat("x", 301)} {
		_, err := tagged.TextRule(bad)
		assert.Error(t, err, bad)
	}
	_, err = tagged.PathRule(" / ")
	assert.Error(t, err)
}
