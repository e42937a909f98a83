package tagged_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/listing"
	"juxtagram/core/tagged"
)

const dayLong = 86_400

func some() *listing.List {
	now := int64(10_000 * dayLong)
	return tagged.NewList([]tagged.Item{
		{Path: "a/x.c", Word: "TODO", Said: "TODO: one", Who: "kip", Person: "Oona", Symbol: "f", BornAt: now - 5*dayLong, State: tagged.Open},
		{Path: "a/b/y.c", Word: "FIXME", Said: "FIXME: two", Person: "Tam", BornAt: now - 400*dayLong, State: tagged.Open},
		{Path: "z.c", Word: "TODO", Said: "TODO: three", Person: "Oona", State: tagged.Aside},
		{Path: "a/x.c", Word: "NOTE", Said: "NOTE: four", Whole: "A long text\nNOTE: four", BornAt: now - 2000*dayLong, State: tagged.Gone},
	}, tagged.Standard, now)
}

func TestFind(t *testing.T) {
	open := map[listing.Key][]string{tagged.ByState: {"open"}}
	for _, c := range []struct {
		name   string
		filter listing.Filter
		by     listing.Key
		items  []int
		groups []listing.Count
	}{
		{"words by urgency", listing.Filter{}, tagged.ByWord, []int{1, 0, 2, 3}, []listing.Count{{Value: "FIXME", Count: 1}, {Value: "TODO", Count: 2}, {Value: "NOTE", Count: 1}}},
		{"ages as they follow", listing.Filter{}, tagged.ByAge, []int{0, 1, 3, 2}, []listing.Count{{Value: "month", Count: 1}, {Value: "two-years", Count: 1}, {Value: "older", Count: 1}, {Value: "unknown", Count: 1}}},
		{"nobody stands last", listing.Filter{}, tagged.ByPerson, []int{0, 2, 1, 3}, []listing.Count{{Value: "Oona", Count: 2}, {Value: "Tam", Count: 1}, {Value: "", Count: 1}}},
		{"open ones", listing.Filter{Values: open}, tagged.ByFolder, []int{0, 1}, []listing.Count{{Value: "a", Count: 1}, {Value: "a/b", Count: 1}}},
		{"below a folder", listing.Filter{Values: map[listing.Key][]string{tagged.ByFolder: {"a"}}}, tagged.ByFile, []int{0, 3, 1}, []listing.Count{{Value: "a/x.c", Count: 2}, {Value: "a/b/y.c", Count: 1}}},
		{"the root alone", listing.Filter{Values: map[listing.Key][]string{tagged.ByFolder: {"."}}}, tagged.ByFile, []int{2}, []listing.Count{{Value: "z.c", Count: 1}}},
		{"a text of the whole comment", listing.Filter{Text: " LONG text "}, tagged.ByWord, []int{3}, []listing.Count{{Value: "NOTE", Count: 1}}},
		{"nothing", listing.Filter{Text: "zzz"}, tagged.ByWord, []int{}, []listing.Count{}},
	} {
		t.Run(c.name, func(t *testing.T) {
			f := some().Find(c.filter, c.by)
			assert.Equal(t, c.items, f.Items)
			assert.Equal(t, c.groups, f.Groups)
		})
	}
}

func TestHiddenAreCounted(t *testing.T) {
	f := some().Find(listing.Filter{Values: map[listing.Key][]string{tagged.ByState: {"open"}}, Hidden: func(i int) bool { return i != 0 }}, tagged.ByWord)
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
