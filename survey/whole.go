package survey

import (
	"context"
	"sync"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/leads"
	"juxtagram/core/links"
	"juxtagram/core/summary"
)

// Whole brings the files of a survey together, for summaries and names. The
// survey must be complete. Without people, nobody is named.
func (r *Result) Whole(ctx context.Context, memory Memory, people bool) (*summary.Whole, error) {
	files := make([]summary.File, len(r.Files))
	keys := make([]FactKey, len(r.Files))
	starts := map[string][]leads.EntryPoint{}
	for _, e := range r.EntryPoints {
		starts[e.Path] = append(starts[e.Path], e)
	}
	for i := range r.Files {
		files[i] = r.told(&r.Files[i])
		if !people {
			files[i].People = nil
		}
		files[i].Starts = starts[r.Files[i].Path]
		keys[i] = r.Files[i].Key
	}
	source := NewSource(ctx, memory, keys)
	for i := range files {
		if err := source.Fill(i, &files[i]); err != nil {
			return nil, err
		}
	}
	w, err := summary.NewWhole(files, r.Links, links.NewGraph(r.Links), r.Figures.Centrality, source)
	if err != nil {
		return nil, err
	}
	if r.People != nil && people {
		for _, p := range r.People.List {
			w.LastSeen[text(p.Name)] = max(w.LastSeen[text(p.Name)], p.LastAt)
		}
	}
	if r.Log != nil {
		for _, c := range r.Log.Commits {
			if c.ID == r.Commit {
				w.PinAt = c.CommitTime
			}
		}
	}
	return w, nil
}

// told is what summaries draw on of one file.
func (r *Result) told(f *File) summary.File {
	t := summary.File{Path: f.Path, Language: f.LanguageName(), Role: f.Role.Name, RoleEvidence: f.Role.Evidence, Depth: lang.Listed}
	if x := f.Facts; x != nil {
		t.Depth, t.Reason = x.Depth, x.Reason
		if x.Lines != nil {
			t.Lines, t.Code = x.Lines.Total, x.Lines.Code
		}
		for _, c := range x.Tagged {
			t.Tagged = append(t.Tagged, summary.Tagged{Word: c.Word, Text: leads.Excerpt(c), Line: c.Line})
		}
	}
	if h := f.History; h != nil {
		t.Commits, t.FirstAt, t.LastAt, t.Recent = h.Commits, h.FirstAt, h.LastAt, h.Recent
		for _, s := range h.People {
			t.People = append(t.People, summary.Share{Name: text(r.People.List[s.Person].Name), Commits: s.Commits})
		}
	}
	return t
}

// Source reads what files say out of a memory, many at a time. It may be used
// by several goroutines as far as the memory may.
type Source struct {
	ctx    context.Context
	memory Memory
	keys   []FactKey
	mu     sync.Mutex
	chunk  int // number of the chunk that is held; -1: none
	held   map[FactKey]facts.Linked
}

// NewSource makes the source of some files, by the keys of their facts.
func NewSource(ctx context.Context, memory Memory, keys []FactKey) *Source {
	return &Source{ctx: ctx, memory: memory, keys: keys, chunk: -1}
}

// chunkSize is how many files are read at once.
const chunkSize = 500

// at gives what a file offers and asks. Files are read in chunks; each is let
// go of before the next.
func (s *Source) at(file int) (facts.Linked, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if c := file / chunkSize; c != s.chunk {
		keys := s.keys[c*chunkSize : min(len(s.keys), (c+1)*chunkSize)]
		asked := make([]FactKey, 0, len(keys))
		for _, k := range keys {
			if k.Blob != "" {
				asked = append(asked, k)
			}
		}
		held, err := s.memory.Linked(s.ctx, asked)
		if err != nil {
			return facts.Linked{}, err
		}
		s.chunk, s.held = c, held
	}
	return s.held[s.keys[file]], nil
}

// Fill gives a file its package, imports and terms.
func (s *Source) Fill(file int, f *summary.File) error {
	l, err := s.at(file)
	if err != nil {
		return err
	}
	h, err := facts.UnpackHead(l.Head)
	f.Package, f.Imports, f.Terms = h.Package, h.Imports, l.Terms
	return err
}

// Matter implements summary.Source.
func (s *Source) Matter(file int) (*facts.Matter, error) {
	l, err := s.at(file)
	if err != nil || len(l.Matter) == 0 {
		return nil, err
	}
	m, err := facts.UnpackMatter(l.Matter)
	return &m, err
}

// Details implements summary.Source: outline, names and blocks.
func (s *Source) Details(file int) (*facts.Details, error) {
	if s.keys[file].Blob == "" {
		return nil, nil
	}
	raw, err := s.memory.Details(s.ctx, s.keys[file])
	if err != nil {
		return nil, err
	}
	return facts.UnpackNames(raw)
}
