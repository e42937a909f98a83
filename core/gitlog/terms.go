package gitlog

import (
	"fmt"
	"slices"
	"strings"
)

// Term is one thing that commits are asked for, or, with Not, must not be.
type Term struct {
	Key, Value string
	Not        bool
}

// Problem is a term that cannot be understood here, with the reason in words.
type Problem struct {
	Term Term
	Why  string
}

func (p *Problem) Error() string { return p.Why }

// Key is a sort of term.
type Key struct {
	Name string
	// Says and SaysNot put a term into words, with %s for its value.
	Says, SaysNot string
	Doc           string // what can be asked with it, for one who does not know
	Example       string // of a value
	// Slow keys read the changes themselves: Narrow leaves them out.
	Slow bool
	set  func(l *Log, value string, outside Outside) (Set, error)
}

// Outside answers what the log itself does not hold.
type Outside interface {
	// Symbol finds the commits that touched a symbol of the pin, written
	// "path#name".
	Symbol(value string) ([]int32, error)
}

// KeyOf is the key of a name; nil: there is none.
func KeyOf(name string) *Key {
	for i := range Keys {
		if Keys[i].Name == name {
			return &Keys[i]
		}
	}
	return nil
}

// Selection is what some terms leave of a log.
type Selection struct {
	Commits []int32 // newest first
	// Closed tells that every ancestor of its commits is in it, so that lanes
	// can be drawn.
	Closed bool
	// First and Last are the earliest and the latest committer date in it, Unix
	// seconds; 0: it is empty.
	First, Last int64
	// Left tells, for each term but the slow ones, in order, how many commits it
	// keeps by itself, and how many the others keep without it.
	Left []Left
}

// Left counts the commits that a term keeps.
type Left struct{ Alone, Without int }

// Narrow keeps the commits that fit every term. Slow terms are left out. Every
// term that cannot be understood is told.
func (l *Log) Narrow(terms []Term, outside Outside) (*Selection, []*Problem) {
	var problems []*Problem
	var sets []Set
	var asked []Term
	closed := true
	for _, t := range terms {
		k := KeyOf(t.Key)
		if k == nil {
			problems = append(problems, &Problem{t, fmt.Sprintf("%q is nothing that commits can be asked for; %s are", t.Key, keyNames())})
			continue
		}
		if k.Slow {
			closed = false
			continue
		}
		set, err := k.set(l, strings.TrimSpace(t.Value), outside)
		if err != nil {
			problems = append(problems, &Problem{t, err.Error()})
			continue
		}
		if (t.Key != "branch" && t.Key != "tag") || t.Not {
			closed = false
		}
		sets, asked = append(sets, set), append(asked, t)
	}
	if len(problems) > 0 {
		return nil, problems
	}
	keep := l.every()
	for n, set := range sets {
		keep.keep(set, asked[n].Not)
	}
	sel := &Selection{Commits: keep.List(), Closed: closed}
	for n, i := range sel.Commits {
		if n == 0 {
			sel.First, sel.Last = l.Times[i], l.Times[i]
		}
		sel.First, sel.Last = min(sel.First, l.Times[i]), max(sel.Last, l.Times[i])
	}
	for n := range sets {
		alone, without := l.every(), l.every()
		alone.keep(sets[n], asked[n].Not)
		for m := range sets {
			if m != n {
				without.keep(sets[m], asked[m].Not)
			}
		}
		sel.Left = append(sel.Left, Left{alone.Count(), without.Count()})
	}
	return sel, nil
}

func keyNames() string {
	var names []string
	for _, k := range Keys {
		names = append(names, k.Name)
	}
	return strings.Join(names, ", ")
}

// Row finds a commit in a selection; ok is false where it is not in it, and n
// is then where it would stand.
func (s *Selection) Row(commit int32) (n int, ok bool) { return slices.BinarySearch(s.Commits, commit) }

// where is the set of commits for which a test holds.
func (l *Log) where(test func(i int32) bool) Set {
	s := NewSet(l.Len())
	for i := range int32(l.Len()) {
		if test(i) {
			s.Add(i)
		}
	}
	return s
}
