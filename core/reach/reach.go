// Package reach takes a symbol out of a repository with everything of it that
// it needs, to closure: what its text names, what their texts name, and so on.
package reach

import (
	"sort"

	"juxtagram/core/lang"
	"juxtagram/core/links/names"
	"juxtagram/core/links/origin"
)

// Source tells of symbols; names.Index is one.
type Source interface {
	Needs(file, symbol int) ([]names.Need, error)
	Symbol(file, symbol int) (*lang.Symbol, error)
	Outline(file int) ([]lang.Symbol, error)
}

// Limits bound an extract. Zero is no limit.
type Limits struct {
	Depth int // of needs; 1: only what the symbol itself names
	Lines int // of all pieces; the symbol itself is always there
}

// Piece is one symbol of an extract.
type Piece struct {
	File, Symbol int
	Qualified    string
	Kind         lang.Kind
	Start, End   int // lines from 1, both included
	Depth        int // 0: the symbol that was asked for
	By           int // the piece that names it first; -1: the one asked for
	Line         int // where that names it
	Certainty    names.Certainty
}

// Elsewhere is a module outside of the repository with what is used of it.
type Elsewhere struct {
	Origin  origin.Origin
	Through string // as written
	Names   []string
}

// Left is a symbol that a limit left out.
type Left struct {
	File, Symbol int
	Qualified    string
	Lines        int
}

// Extract is a symbol with what it needs. Pieces stand in the order in which a
// reader meets them: the symbol, what it names, what these name.
type Extract struct {
	Pieces     []Piece
	Elsewhere  []Elsewhere // by kind and name
	Unresolved []string    // names of which nothing more is known, sorted
	Left       []Left
	Lines      int // of all pieces
}

type ref struct{ file, symbol int }

// Of takes a symbol out. Symbols that lie inside of others which are taken out
// are not told by themselves.
func Of(src Source, file, symbol int, limits Limits) (*Extract, error) {
	x := &Extract{}
	first, err := src.Symbol(file, symbol)
	if err != nil || first == nil {
		return x, err
	}
	var all []Piece
	seen := map[ref]bool{{file, symbol}: true}
	elsewhere := map[string]*Elsewhere{}
	unresolved := map[string]bool{}
	left := map[ref]bool{}
	add := func(p Piece, s *lang.Symbol) {
		p.Qualified, p.Kind, p.Start, p.End = s.Qualified, s.Kind, s.Start, s.End
		all = append(all, p)
		x.Lines += s.End - s.Start + 1
	}
	add(Piece{File: file, Symbol: symbol, By: -1, Certainty: names.Scope}, first)
	for i := 0; i < len(all); i++ {
		p := all[i]
		needs, err := src.Needs(p.File, p.Symbol)
		if err != nil {
			return nil, err
		}
		for _, n := range needs {
			d := n.Definition
			if d.File < 0 {
				note(elsewhere, unresolved, &n)
				continue
			}
			to := ref{d.File, d.Symbol}
			if seen[to] {
				continue
			}
			s, err := src.Symbol(d.File, d.Symbol)
			if err != nil {
				return nil, err
			}
			if s == nil {
				continue
			}
			lines := s.End - s.Start + 1
			if limits.Depth > 0 && p.Depth+1 > limits.Depth || limits.Lines > 0 && x.Lines+lines > limits.Lines {
				if !left[to] {
					left[to] = true
					x.Left = append(x.Left, Left{d.File, d.Symbol, s.Qualified, lines})
				}
				continue
			}
			seen[to] = true
			add(Piece{File: d.File, Symbol: d.Symbol, Depth: p.Depth + 1, By: i, Line: n.Line, Certainty: d.Certainty}, s)
		}
	}
	x.keep(all)
	if err := x.forget(src, unresolved); err != nil {
		return nil, err
	}
	x.settle(elsewhere, unresolved, seen)
	return x, nil
}

// note files a name that is not of this repository.
func note(elsewhere map[string]*Elsewhere, unresolved map[string]bool, n *names.Need) {
	if n.Origin == nil || n.Origin.To == origin.Unresolved || n.Origin.To == origin.ToFile {
		unresolved[n.Name] = true
		return
	}
	key := string(n.Origin.To) + "\x00" + n.Origin.Name + "\x00" + n.Through
	e := elsewhere[key]
	if e == nil {
		e = &Elsewhere{Origin: *n.Origin, Through: n.Through}
		elsewhere[key] = e
	}
	for _, have := range e.Names {
		if have == n.Name {
			return
		}
	}
	e.Names = append(e.Names, n.Name)
}

// keep drops pieces that lie inside of others, and points By at what is kept.
func (x *Extract) keep(all []Piece) {
	x.Lines = 0
	at := make([]int, len(all))
	inside := make([]int, len(all)) // the piece around it; itself where there is none
	for i := range all {
		inside[i] = i
		for k := range all {
			a, b := &all[i], &all[k]
			if k != i && a.File == b.File && b.Start <= a.Start && a.End <= b.End && (b.End-b.Start > a.End-a.Start || k < i) && (inside[i] == i || all[inside[i]].End-all[inside[i]].Start < b.End-b.Start) {
				inside[i] = k
			}
		}
	}
	for i := range all {
		if inside[i] != i && i != 0 {
			continue
		}
		at[i] = len(x.Pieces)
		x.Pieces = append(x.Pieces, all[i])
		x.Lines += all[i].End - all[i].Start + 1
	}
	for i := range x.Pieces {
		if by := x.Pieces[i].By; by >= 0 {
			for inside[by] != by && by != 0 {
				by = inside[by]
			}
			x.Pieces[i].By = at[by]
		}
	}
}

// forget takes out of what is not resolved the names that the pieces make: their
// members and fields, whose owners could not be told.
func (x *Extract) forget(src Source, unresolved map[string]bool) error {
	for i := range x.Pieces {
		p := &x.Pieces[i]
		outline, err := src.Outline(p.File)
		if err != nil {
			return err
		}
		for k := range outline {
			if s := &outline[k]; s.Start >= p.Start && s.End <= p.End {
				delete(unresolved, s.Name)
			}
		}
	}
	return nil
}

func (x *Extract) settle(elsewhere map[string]*Elsewhere, unresolved map[string]bool, taken map[ref]bool) {
	for _, e := range elsewhere {
		sort.Strings(e.Names)
		x.Elsewhere = append(x.Elsewhere, *e)
	}
	sort.Slice(x.Elsewhere, func(i, j int) bool {
		a, b := &x.Elsewhere[i], &x.Elsewhere[j]
		switch {
		case a.Origin.To != b.Origin.To:
			return a.Origin.To > b.Origin.To // the standard library before dependencies
		case a.Origin.Name != b.Origin.Name:
			return a.Origin.Name < b.Origin.Name
		}
		return a.Through < b.Through
	})
	for n := range unresolved {
		x.Unresolved = append(x.Unresolved, n)
	}
	sort.Strings(x.Unresolved)
	still := x.Left[:0]
	for _, l := range x.Left {
		if !taken[ref{l.File, l.Symbol}] {
			still = append(still, l)
		}
	}
	x.Left = still
}
