package survey

import (
	"context"

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
	t := summary.File{Path: f.Path, Blob: f.Blob, Language: f.LanguageName(), Role: f.Role.Name, RoleEvidence: f.Role.Evidence, Depth: lang.Listed}
	if x := f.Facts; x != nil {
		t.Depth, t.Reason = x.Depth, x.Reason
		if x.Lines != nil {
			t.Lines, t.Code = x.Lines.Total, x.Lines.Code
		}
		for _, c := range x.Tagged {
			t.Tagged = append(t.Tagged, summary.Tagged{Word: c.Word, Text: c.Said, Line: c.Line})
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

// Source reads what files say out of a memory. It may be used by several
// goroutines as far as the memory may.
type Source struct {
	ctx    context.Context
	memory Memory
	keys   []FactKey
}

// NewSource makes the source of some files, by the keys of their facts. It reads
// through ctx for as long as it is used.
func NewSource(ctx context.Context, memory Memory, keys []FactKey) *Source {
	return &Source{ctx, memory, keys}
}

// chunkSize is how many files Each reads at once.
const chunkSize = 500

// Each implements summary.Source.
func (s *Source) Each(each func(file int, l facts.Linked) error) error {
	for from := 0; from < len(s.keys); from += chunkSize {
		keys := s.keys[from:min(len(s.keys), from+chunkSize)]
		linked, err := s.memory.Linked(s.ctx, keys)
		if err != nil {
			return err
		}
		for k, key := range keys {
			if err := each(from+k, linked[key]); err != nil {
				return err
			}
		}
	}
	return nil
}

// Matter implements summary.Source.
func (s *Source) Matter(file int) (*facts.Matter, error) {
	key := s.keys[file]
	linked, err := s.memory.Linked(s.ctx, []FactKey{key})
	if err != nil || len(linked[key].Matter) == 0 {
		return nil, err
	}
	m, err := facts.UnpackMatter(linked[key].Matter)
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
