package tagged

import (
	"cmp"
	"maps"
	"path"
	"slices"
	"strings"
)

// State is what became of a tagged comment.
type State string

// The states, in the order they are told.
const (
	Open  State = "open"
	Done  State = "done"  // its word says that nothing is left to do
	Kept  State = "kept"  // somebody said that it is meant to be so
	Aside State = "aside" // somebody set it aside, for a reason
	Gone  State = "gone"  // it was there, and is no more
)

// States are all states in order.
var States = []State{Open, Done, Kept, Aside, Gone}

// Item is one tagged comment as a list knows it.
type Item struct {
	Path   string
	Word   string
	Said   string
	Whole  string // the whole comment's text
	Who    string // the owner named in it
	Person string // who wrote it; "": not known, or not told
	Symbol string
	BornAt int64 // Unix seconds; 0: not known
	State  State
}

// Key is something that lists are grouped and narrowed by.
type Key string

// The keys.
const (
	ByWord   Key = "word"
	ByFolder Key = "folder"
	ByFile   Key = "file"
	ByPerson Key = "person"
	ByAge    Key = "age"
	ByOwner  Key = "owner"
	BySymbol Key = "symbol"
	ByState  Key = "state"
)

// Keys are all keys, in the order they are offered.
var Keys = []Key{ByWord, ByFolder, ByFile, ByPerson, ByAge, ByOwner, BySymbol, ByState}

// Age is a span of ages before the pin.
type Age struct {
	Name string
	Days int64 // at most
}

// Ages are all spans, the youngest first; the last has no end.
var Ages = []Age{{"month", 30}, {"quarter", 91}, {"year", 365}, {"two-years", 730}, {"four-years", 1461}, {"older", 1 << 30}, {"unknown", -1}}

// ageOf is the span that a time lies in, as seen from now; both in Unix seconds.
func ageOf(at, now int64) string {
	if at == 0 {
		return "unknown"
	}
	days := (now - at) / 86_400
	for _, a := range Ages {
		if days <= a.Days {
			return a.Name
		}
	}
	return "unknown"
}

// List is tagged comments with what they are grouped by. It is not changed once
// it is made.
type List struct {
	Items   []Item
	words   *Words
	lower   []string // of what a text is looked for in
	columns map[Key]*column
}

// column has a key's values by number, in the order of the items.
type column struct {
	of     []int32
	values []string
}

func columnOf(items []Item, value func(x *Item) string) *column {
	c := &column{of: make([]int32, len(items))}
	known := map[string]int32{}
	for i := range items {
		v := value(&items[i])
		n, ok := known[v]
		if !ok {
			n = int32(len(c.values))
			known[v] = n
			c.values = append(c.values, v)
		}
		c.of[i] = n
	}
	return c
}

// NewList makes a list as seen from a time (Unix seconds).
func NewList(items []Item, words *Words, now int64) *List {
	l := &List{Items: items, words: words, lower: make([]string, len(items)), columns: map[Key]*column{}}
	for i := range items {
		x := &items[i]
		l.lower[i] = strings.ToLower(x.Whole + "\n" + x.Said + "\n" + x.Path + "\n" + x.Symbol)
	}
	for key, value := range map[Key]func(x *Item) string{
		ByWord:   func(x *Item) string { return x.Word },
		ByFolder: func(x *Item) string { return path.Dir(x.Path) },
		ByFile:   func(x *Item) string { return x.Path },
		ByPerson: func(x *Item) string { return x.Person },
		ByAge:    func(x *Item) string { return ageOf(x.BornAt, now) },
		ByOwner:  func(x *Item) string { return x.Who },
		BySymbol: func(x *Item) string { return x.Symbol },
		ByState:  func(x *Item) string { return string(x.State) },
	} {
		l.columns[key] = columnOf(items, value)
	}
	return l
}

// With is the list with other states; the rest is shared.
func (l *List) With(state func(i int) State) *List {
	with := *l
	with.columns = maps.Clone(l.columns)
	c := &column{of: make([]int32, len(l.Items))}
	for _, s := range States {
		c.values = append(c.values, string(s))
	}
	for i := range c.of {
		c.of[i] = int32(slices.Index(States, state(i)))
	}
	with.columns[ByState] = c
	return &with
}

// Value is what an item is by a key; "": nothing is known of it. The root
// folder is a full stop.
func (l *List) Value(key Key, i int) string {
	c := l.columns[key]
	return c.values[c.of[i]]
}

// Filter narrows a list: an item stays that has, for each key, one of the
// values, and holds the text, letter case aside. Folders hold what is below.
type Filter struct {
	Values map[Key][]string
	Text   string
	Hidden func(i int) bool // by rules; nil: none
}

// fitting tells which values of a column a narrowing leaves.
func (c *column) fitting(key Key, wanted []string) []bool {
	out := make([]bool, len(c.values))
	for n, v := range c.values {
		for _, w := range wanted {
			if v == w || key == ByFolder && strings.HasPrefix(v, w+"/") {
				out[n] = true
				break
			}
		}
	}
	return out
}

// Count is how many items have a value.
type Count struct {
	Value string
	Count int
}

// Found is a list narrowed and put in order.
type Found struct {
	Items  []int   // in the order of the groups
	Groups []Count // that have any, in order; by the key asked for
	// Facets count for each key what narrowing by it would leave, the other
	// narrowings kept; the most first.
	Facets map[Key][]Count
	Hidden int // by rules, of those that fit
}

// Find narrows a list and groups what is left.
func (l *List) Find(f Filter, by Key) *Found {
	out := &Found{Facets: make(map[Key][]Count, len(Keys))}
	columns, counts, fits := make([]*column, len(Keys)), make([][]int, len(Keys)), make([][]bool, len(Keys))
	for n, k := range Keys {
		columns[n] = l.columns[k]
		counts[n] = make([]int, len(columns[n].values))
		if wanted := f.Values[k]; len(wanted) > 0 {
			fits[n] = columns[n].fitting(k, wanted)
		}
	}
	text := strings.ToLower(strings.TrimSpace(f.Text))
	for i := range l.Items {
		missed, only := 0, 0
		for n, fit := range fits {
			if fit != nil && !fit[columns[n].of[i]] {
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
			counts[only][columns[only].of[i]]++
		default:
			for n, c := range columns {
				counts[n][c.of[i]]++
			}
			out.Items = append(out.Items, i)
		}
	}
	for n, k := range Keys {
		out.Facets[k] = l.ordered(k, counts[n])
	}
	groups := l.columns[by]
	sums := make([]int, len(groups.values))
	for _, i := range out.Items {
		sums[groups.of[i]]++
	}
	out.Groups = l.ordered(by, sums)
	rank := make(map[string]int, len(out.Groups))
	for n, g := range out.Groups {
		rank[g.Value] = n
	}
	at := make([]int, len(groups.values))
	for n, v := range groups.values {
		at[n] = rank[v]
	}
	slices.SortStableFunc(out.Items, func(a, b int) int { return at[groups.of[a]] - at[groups.of[b]] })
	return out
}

// ordered puts counts in the order of their key: words by urgency, ages and
// states as they follow each other, the rest by how many there are; what is not
// known stands last.
func (l *List) ordered(key Key, counts []int) []Count {
	out := []Count{}
	for n, v := range l.columns[key].values {
		if counts[n] > 0 {
			out = append(out, Count{v, counts[n]})
		}
	}
	rank := func(v string) int {
		switch key {
		case ByWord:
			if w := l.words.Of(v); w != nil {
				return -int(w.Urgency)
			}
		case ByAge:
			return slices.IndexFunc(Ages, func(a Age) bool { return a.Name == v })
		case ByState:
			return slices.Index(States, State(v))
		default:
			if v == "" {
				return 1
			}
		}
		return 0
	}
	slices.SortFunc(out, func(a, b Count) int {
		return cmp.Or(cmp.Compare(rank(a.Value), rank(b.Value)), b.Count-a.Count, cmp.Compare(a.Value, b.Value))
	})
	return out
}
