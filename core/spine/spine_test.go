package spine_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/history"
	"juxtagram/core/spine"
)

var paths = []string{"b.txt", "a/z.go", "a-b/x", "a/y/1", "a/y/2", "README", "a.b"}

func TestRowsStandAsTheTreeIsRead(t *testing.T) {
	table := spine.New(paths)
	var got []string
	for i, r := range table.Rows {
		p := table.Path(int32(i))
		if r.File < 0 {
			p += "/"
		} else {
			assert.Equal(t, paths[r.File], p)
			assert.Equal(t, int32(i), table.OfRow[r.File])
		}
		assert.Equal(t, r.Name, p[strings.LastIndexByte(strings.TrimSuffix(p, "/"), '/')+1:][:len(r.Name)])
		got = append(got, p)
	}
	assert.Equal(t, []string{"a/", "a/y/", "a/y/1", "a/y/2", "a/z.go", "a-b/", "a-b/x", "README", "a.b", "b.txt"}, got)
	assert.Equal(t, int32(4), table.Rows[0].Below)
	assert.Equal(t, int32(2), table.Rows[1].Below)
	assert.Equal(t, []int32{3, 4, 1}, table.FilesOf(0))
	assert.Len(t, table.FilesOf(-1), len(paths))
	assert.Empty(t, spine.New(nil).Rows)
}

func TestWingCountsPeopleOfAFolderOnce(t *testing.T) {
	// commits at 10, 20, 30 by persons 0, 1, 0
	m := &history.Moves{Time: []int64{10, 20, 30}, Person: []int32{0, 1, 0}, From: []int32{0, 2, 3, 4},
		File: []int32{3, 4, 1, 4}, Added: []int32{1, 2, 3, -1}, Deleted: []int32{0, 1, 0, -1}}
	table := spine.New(paths)
	l := history.NewLedger(m, len(paths), 30, 180)
	w := table.Wing(l, history.Everything)
	assert.Equal(t, []int32{2, 1, 1, 1, 1, 0, 0, 0, 0, 0}, w.People)
	assert.Equal(t, int32(2), w.Changes[table.OfRow[4]])
	assert.Equal(t, int32(-1), w.Churn[table.OfRow[4]])
	assert.Equal(t, 3, w.Commits)
	w = table.Wing(l, history.Span{From: 20, To: 30, Person: -1})
	assert.Equal(t, []int32{1, 0, 0, 0, 1, 0, 0, 0, 0, 0}, w.People)
	assert.Equal(t, int64(20), w.First[table.OfRow[1]])
	assert.Equal(t, 1, w.Commits)
	w = table.Wing(l, history.Span{From: 0, To: 100, Person: 0})
	assert.Equal(t, int32(0), w.Changes[table.OfRow[1]])
	assert.Equal(t, 2, w.Commits)
}

type arcs map[int][]int32

func (a arcs) Dependencies(f int) []int32 { return a[f] }
func (a arcs) Dependents(f int) []int32 {
	var out []int32
	for from, list := range a {
		for _, to := range list {
			if int(to) == f {
				out = append(out, int32(from))
			}
		}
	}
	return out
}

func TestTiesLeaveOutWhatIsInside(t *testing.T) {
	table := spine.New(paths)
	a := arcs{3: {4, 0}, 4: {0}, 2: {3}, 1: {5}}
	assert.Equal(t, []spine.Tie{{Row: table.OfRow[2], UsedBy: 1}, {Row: table.OfRow[5], LeansOn: 1}, {Row: table.OfRow[0], LeansOn: 2}}, table.Ties(0, a))
	assert.Equal(t, []spine.Tie{{Row: table.OfRow[3], UsedBy: 1}, {Row: table.OfRow[4], UsedBy: 1}}, table.Ties(table.OfRow[0], a))
	assert.Empty(t, table.Ties(table.OfRow[6], a))
}
