package tagged

import (
	"path"
	"slices"

	"juxtagram/core/listing"
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

// The keys.
const (
	ByWord   listing.Key = "word"
	ByFolder listing.Key = "folder"
	ByFile   listing.Key = "file"
	ByPerson listing.Key = "person"
	ByAge    listing.Key = "age"
	ByOwner  listing.Key = "owner"
	BySymbol listing.Key = "symbol"
	ByState  listing.Key = "state"
)

// Keys are all keys, in the order they are offered.
var Keys = []listing.Key{ByWord, ByFolder, ByFile, ByPerson, ByAge, ByOwner, BySymbol, ByState}

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

// NewList makes a list of items as seen from a time (Unix seconds).
func NewList(items []Item, words *Words, now int64) *listing.List {
	value := func(key listing.Key, x *Item) string {
		switch key {
		case ByWord:
			return x.Word
		case ByFolder:
			return path.Dir(x.Path) // a full stop: the root
		case ByFile:
			return x.Path
		case ByPerson:
			return x.Person
		case ByAge:
			return ageOf(x.BornAt, now)
		case ByOwner:
			return x.Who
		case BySymbol:
			return x.Symbol
		}
		return string(x.State)
	}
	return listing.New(listing.Build{
		Len: len(items), Keys: Keys, Below: []listing.Key{ByFolder},
		Values: func(key listing.Key, i int) []string { return []string{value(key, &items[i])} },
		Text: func(i int) string {
			x := &items[i]
			return x.Whole + "\n" + x.Said + "\n" + x.Path + "\n" + x.Symbol
		},
		Order: func(key listing.Key, v string) int {
			switch key {
			case ByWord:
				if w := words.Of(v); w != nil {
					return -int(w.Urgency)
				}
			case ByAge:
				return slices.IndexFunc(Ages, func(a Age) bool { return a.Name == v }) - len(Ages)
			case ByState:
				return slices.Index(States, State(v)) - len(States)
			}
			return 0
		},
	})
}
