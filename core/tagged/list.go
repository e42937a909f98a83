package tagged

import (
	"cmp"
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
	Items []Item
	words *Words
	now   int64
	lower []string // of what a text is looked for in
}

// NewList makes a list as seen from a time (Unix seconds).
func NewList(items []Item, words *Words, now int64) *List {
	l := &List{Items: items, words: words, now: now, lower: make([]string, len(items))}
	for i := range items {
		x := &items[i]
		l.lower[i] = strings.ToLower(x.Whole + "\n" + x.Said + "\n" + x.Path + "\n" + x.Symbol)
	}
	return l
}

// With is the list with other states; the rest is shared.
func (l *List) With(state func(i int) State) *List {
	with := *l
	with.Items = slices.Clone(l.Items)
	for i := range with.Items {
		with.Items[i].State = state(i)
	}
	return &with
}

// Value is what an item is by a key; "": nothing is known of it.
func (l *List) Value(key Key, i int) string {
	x := &l.Items[i]
	switch key {
	case ByWord:
		return x.Word
	case ByFolder:
		if dir := path.Dir(x.Path); dir != "." {
			return dir
		}
		return "."
	case ByFile:
		return x.Path
	case ByPerson:
		return x.Person
	case ByAge:
		return ageOf(x.BornAt, l.now)
	case ByOwner:
		return x.Who
	case BySymbol:
		return x.Symbol
	case ByState:
		return string(x.State)
	}
	return ""
}

// Filter narrows a list: an item stays that has, for each key, one of the
// values, and holds the text, letter case aside. Folders hold what is below.
type Filter struct {
	Values map[Key][]string
	Text   string
	Hidden func(i int) bool // by rules; nil: none
}

// fits tells whether an item has one of the values; no values fit all.
func (l *List) fits(key Key, i int, values []string) bool {
	if len(values) == 0 {
		return true
	}
	v := l.Value(key, i)
	for _, want := range values {
		if v == want || key == ByFolder && strings.HasPrefix(v, want+"/") {
			return true
		}
	}
	return false
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
	counts := make(map[Key]map[string]int, len(Keys))
	for _, k := range Keys {
		counts[k] = map[string]int{}
	}
	text := strings.ToLower(strings.TrimSpace(f.Text))
	for i := range l.Items {
		if text != "" && !strings.Contains(l.lower[i], text) {
			continue
		}
		missed, only := 0, Key("")
		for k, values := range f.Values {
			if !l.fits(k, i, values) {
				missed, only = missed+1, k
			}
		}
		if missed > 1 {
			continue
		}
		if f.Hidden != nil && f.Hidden(i) {
			if missed == 0 {
				out.Hidden++
			}
			continue
		}
		if missed == 1 {
			counts[only][l.Value(only, i)]++
			continue
		}
		for _, k := range Keys {
			counts[k][l.Value(k, i)]++
		}
		out.Items = append(out.Items, i)
	}
	for _, k := range Keys {
		out.Facets[k] = l.ordered(k, counts[k])
	}
	groups := map[string]int{}
	for _, i := range out.Items {
		groups[l.Value(by, i)]++
	}
	out.Groups = l.ordered(by, groups)
	at := make(map[string]int, len(out.Groups))
	for n, g := range out.Groups {
		at[g.Value] = n
	}
	slices.SortStableFunc(out.Items, func(a, b int) int { return at[l.Value(by, a)] - at[l.Value(by, b)] })
	return out
}

// ordered puts counts in the order of their key: words by urgency, ages and
// states as they follow each other, the rest by how many there are; what is not
// known stands last.
func (l *List) ordered(key Key, counts map[string]int) []Count {
	out := make([]Count, 0, len(counts))
	for v, n := range counts {
		out = append(out, Count{v, n})
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
