// Package listing narrows and groups things in memory by what they are: each
// narrowing leaves what fits all keys, and each key tells what a further
// narrowing by it would leave.
package listing

import (
	"cmp"
	"maps"
	"slices"
	"strings"
)

// Key is something that a list is grouped and narrowed by.
type Key string

// List is some things by number, with their values. It is not changed once it is
// made, and may be used by several goroutines.
type List struct {
	keys    []Key
	columns map[Key]*column
	lower   []string // of what a text is looked for in
	below   map[Key]bool
	order   func(key Key, value string) int
}

// column has a key's values by number, in the order of the things.
type column struct {
	from   []int32 // of each thing: where its values begin in of; one more
	of     []int32
	values []string
}

// Build says how a list is made.
type Build struct {
	Len    int
	Keys   []Key
	Values func(key Key, i int) []string // of a thing; none is the same as ""
	Text   func(i int) string            // in which words are looked for
	Below  []Key                         // whose values are folders: one holds what is below it
	Order  func(key Key, value string) int
}

// New makes a list.
func New(b Build) *List {
	l := &List{keys: b.Keys, columns: map[Key]*column{}, lower: make([]string, b.Len), below: map[Key]bool{}, order: b.Order}
	for i := range l.lower {
		l.lower[i] = strings.ToLower(b.Text(i))
	}
	for _, k := range b.Keys {
		l.columns[k] = columnOf(b.Len, func(i int) []string { return b.Values(k, i) })
	}
	for _, k := range b.Below {
		l.below[k] = true
	}
	return l
}

func columnOf(n int, values func(i int) []string) *column {
	c := &column{from: make([]int32, n+1), of: make([]int32, 0, n)}
	known := map[string]int32{}
	add := func(v string) {
		k, ok := known[v]
		if !ok {
			k = int32(len(c.values))
			known[v] = k
			c.values = append(c.values, v)
		}
		c.of = append(c.of, k)
	}
	for i := range n {
		all := values(i)
		for _, v := range all {
			add(v)
		}
		if len(all) == 0 {
			add("")
		}
		c.from[i+1] = int32(len(c.of))
	}
	return c
}

// With is the list with other values for one key; the rest is shared.
func (l *List) With(key Key, values func(i int) []string) *List {
	with := *l
	with.columns = maps.Clone(l.columns)
	with.columns[key] = columnOf(len(l.lower), values)
	return &with
}

func (c *column) at(i int) []int32 { return c.of[c.from[i]:c.from[i+1]] }

// fitting tells which values of a column a narrowing leaves.
func (c *column) fitting(wanted []string, below bool) []bool {
	out := make([]bool, len(c.values))
	for n, v := range c.values {
		for _, w := range wanted {
			if v == w || below && strings.HasPrefix(v, w+"/") {
				out[n] = true
				break
			}
		}
	}
	return out
}

func (c *column) fits(i int, fit []bool) bool {
	for _, v := range c.at(i) {
		if fit[v] {
			return true
		}
	}
	return false
}

// Filter narrows a list: a thing stays that has, for each key, one of the
// values, and holds the text, letter case aside.
type Filter struct {
	Values map[Key][]string
	Text   string
	Hidden func(i int) bool // by rules; nil: none
}

// Count is how many things have a value.
type Count struct {
	Value string
	Count int
}

// Found is a list narrowed and put in order.
type Found struct {
	Items  []int   // in the order of the groups; one with several values stands in the first
	Groups []Count // that have any, in order; by the key asked for
	// Facets count for each key what narrowing by it would leave, the other
	// narrowings kept.
	Facets map[Key][]Count
	Hidden int // by rules, of those that fit
}

// Find narrows a list and groups what is left; by "": it is left in its order.
func (l *List) Find(f Filter, by Key) *Found {
	out := &Found{Items: []int{}, Groups: []Count{}, Facets: make(map[Key][]Count, len(l.keys))}
	columns, counts, fits := make([]*column, len(l.keys)), make([][]int, len(l.keys)), make([][]bool, len(l.keys))
	for n, k := range l.keys {
		columns[n] = l.columns[k]
		counts[n] = make([]int, len(columns[n].values))
		if wanted := f.Values[k]; len(wanted) > 0 {
			fits[n] = columns[n].fitting(wanted, l.below[k])
		}
	}
	text := strings.ToLower(strings.TrimSpace(f.Text))
	for i := range l.lower {
		missed, only := 0, 0
		for n, fit := range fits {
			if fit != nil && !columns[n].fits(i, fit) {
				missed, only = missed+1, n
			}
		}
		if missed > 1 || text != "" && !strings.Contains(l.lower[i], text) {
			continue
		}
		switch hidden := f.Hidden != nil && f.Hidden(i); {
		case hidden && missed == 0:
			out.Hidden++
		case hidden:
		case missed == 1:
			for _, v := range columns[only].at(i) {
				counts[only][v]++
			}
		default:
			for n, c := range columns {
				for _, v := range c.at(i) {
					counts[n][v]++
				}
			}
			out.Items = append(out.Items, i)
		}
	}
	for n, k := range l.keys {
		out.Facets[k] = l.ordered(k, counts[n])
	}
	if by != "" {
		l.group(out, by)
	}
	return out
}

// group puts what was found in the order of its groups.
func (l *List) group(out *Found, by Key) {
	c := l.columns[by]
	sums := make([]int, len(c.values))
	for _, i := range out.Items {
		sums[c.at(i)[0]]++
	}
	out.Groups = l.ordered(by, sums)
	rank := make(map[string]int, len(out.Groups))
	for n, g := range out.Groups {
		rank[g.Value] = n
	}
	at := make([]int, len(c.values))
	for n, v := range c.values {
		at[n] = rank[v]
	}
	slices.SortStableFunc(out.Items, func(a, b int) int { return at[c.at(a)[0]] - at[c.at(b)[0]] })
}

// ordered puts counts in the order of their key, then by how many there are;
// what is not known stands last.
func (l *List) ordered(key Key, counts []int) []Count {
	out := []Count{}
	for n, v := range l.columns[key].values {
		if counts[n] > 0 {
			out = append(out, Count{v, counts[n]})
		}
	}
	rank := func(v string) int {
		if l.order != nil {
			if r := l.order(key, v); r != 0 {
				return r
			}
		}
		if v == "" {
			return 1
		}
		return 0
	}
	slices.SortFunc(out, func(a, b Count) int {
		return cmp.Or(cmp.Compare(rank(a.Value), rank(b.Value)), b.Count-a.Count, cmp.Compare(a.Value, b.Value))
	})
	return out
}
