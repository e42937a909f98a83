package server

import (
	"context"
	"errors"
	"time"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/repo"
)

// maxSymbols is how many symbols one answer holds.
const maxSymbols = 20_000

// Symbol is one symbol of an outline. Lines count from 1, both ends included.
type Symbol struct {
	Name       string `json:"name"`
	Qualified  string `json:"qualified" doc:"With its owners in this file"`
	Kind       string `json:"kind"`
	Visibility string `json:"visibility" enum:"public,protected,internal,private," doc:"By the language's own rule; empty: it has none"`
	Static     bool   `json:"static"`
	Signature  string `json:"signature" doc:"As written, on one line"`
	Type       string `json:"type" doc:"As written; empty: none"`
	Doc        string `json:"doc" doc:"First sentence of the doc comment; empty: none"`
	Start      int    `json:"start"`
	End        int    `json:"end"`
	NameLine   int    `json:"name_line"`
	Parent     int    `json:"parent" doc:"Index in the outline; -1: none"`
	Intricacy  int    `json:"intricacy" doc:"Of a function; grows with branching and nesting"`
}

// ImportInfo is one import as written.
type ImportInfo struct {
	Text     string   `json:"text"`
	Line     int      `json:"line"`
	Names    []string `json:"names"`
	Reexport bool     `json:"reexport" doc:"Handed on to whoever imports this file"`
}

// TaggedInfo is one tagged comment.
type TaggedInfo struct {
	Word    string `json:"word"`
	Meaning string `json:"meaning"`
	Text    string `json:"text"`
	Line    int    `json:"line"`
	EndLine int    `json:"end_line"`
	Who     string `json:"who" doc:"Named in it; empty: nobody"`
	Issue   string `json:"issue" doc:"Referred to; empty: none"`
	Said    string `json:"said" doc:"Its line, from the word on"`
	Symbol  string `json:"symbol" doc:"The nearest; empty: none"`
	// What follows is known at the pin alone.
	Lead     string     `json:"lead" doc:"Id of the lead; empty: not known"`
	BornAt   *time.Time `json:"born_at" doc:"When it was first written; null: not known"`
	Person   string     `json:"person" doc:"Who wrote it; empty: not known, or not told"`
	Outlived int        `json:"outlived" doc:"People who wrote it or changed its file since, and are gone"`
	State    string     `json:"state" enum:"open,done,kept,aside"`
	Reason   string     `json:"reason" doc:"Why it was set aside or is kept"`
}

// OutlineInfo is what a file says by itself.
type OutlineInfo struct {
	Commit    string       `json:"commit"`
	Path      string       `json:"path"`
	Language  string       `json:"language"`
	Depth     string       `json:"depth" enum:"parsed,lexed,listed"`
	Reason    string       `json:"reason" doc:"Why it is only listed; empty otherwise"`
	Encoding  string       `json:"encoding" doc:"Empty: UTF-8"`
	Generated string       `json:"generated" doc:"The sentence by which it calls itself generated; empty: none"`
	Minified  bool         `json:"minified"`
	Vendored  string       `json:"vendored" doc:"The library's name and version in its banner; empty: none"`
	Intricacy *int         `json:"intricacy" doc:"Null where not parsed"`
	Total     int          `json:"total" doc:"Symbols in all; more than are sent of a very long outline"`
	Symbols   []Symbol     `json:"symbols"`
	Imports   []ImportInfo `json:"imports"`
	Tagged    []TaggedInfo `json:"tagged"`
}

func (s *Server) outline(ctx context.Context, w *who, in *AtPath) (*body[OutlineInfo], error) {
	f, err := s.find(ctx, w, in)
	if err != nil {
		return nil, err
	}
	got, err := s.factsOf(ctx, w, f)
	if err != nil {
		return nil, err
	}
	details, err := facts.Unpack(got.Packed)
	if err != nil {
		return nil, err
	}
	info := OutlineInfo{
		Commit: f.commit, Path: in.Path, Depth: string(got.Depth), Reason: got.Reason, Encoding: got.Encoding, Generated: got.Generated, Minified: got.Minified,
		Vendored: got.Vendored, Intricacy: got.Intricacy, Symbols: []Symbol{}, Imports: []ImportInfo{},
	}
	if f.language != nil {
		info.Language = f.language.Name
	}
	if info.Tagged, err = s.taggedIn(ctx, w, f, in.Path, got, details); err != nil {
		return nil, err
	}
	if details == nil {
		return answer(info), nil
	}
	info.Total = len(details.Outline)
	for _, x := range details.Outline[:min(len(details.Outline), maxSymbols)] {
		info.Symbols = append(info.Symbols, Symbol{
			x.Name, x.Qualified, string(x.Kind), string(x.Visibility), x.Static, x.Signature, x.Type, x.Doc, x.Start, x.End, x.NameLine, x.Parent, x.Intricacy,
		})
	}
	for _, x := range details.Imports {
		i := ImportInfo{Text: lang.ValidText([]byte(x.Text)), Line: x.Line, Names: []string{}, Reexport: x.Reexport}
		for _, n := range x.Names {
			i.Names = append(i.Names, n.Name)
		}
		info.Imports = append(info.Imports, i)
	}
	return answer(info), nil
}

// factsOf are a blob's facts: kept ones, or else read now.
func (s *Server) factsOf(ctx context.Context, w *who, f *found) (*facts.Facts, error) {
	name := ""
	if f.language != nil {
		name = f.language.Name
	}
	got, err := s.store.FactsOf(ctx, f.blob, name)
	if err != nil || got != nil {
		return got, err
	}
	return s.readFacts(ctx, w, f.blob, name)
}

// readFacts reads what a blob says as a language, by its name; "": none is known.
func (s *Server) readFacts(ctx context.Context, w *who, blob, name string) (*facts.Facts, error) {
	content, err := s.readers.read(w.repository.ID, blob, facts.MaxRead)
	var large *repo.TooLargeError
	if errors.As(err, &large) {
		x := facts.TooLarge()
		return &x, nil
	}
	if err != nil {
		return nil, err
	}
	if len(content) == 0 {
		x := facts.Empty(all.ByName(name))
		return &x, nil
	}
	return s.facts.Facts(ctx, name, content), ctx.Err()
}
