package survey

import (
	"context"

	"juxtagram/core/facts"
	"juxtagram/core/history"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

// ownWords finds the tagged comments anew where a team's own words may stand,
// or took the place of an agreed one. The facts that are kept know the agreed
// words alone: a team's words are looked for in each survey.
func (s *run) ownWords(ctx context.Context) error {
	words := s.options.Words
	if !words.Own() {
		return nil
	}
	files := map[string][]int{} // blob → files
	var ids []string
	for i := range s.result.Files {
		f := &s.result.Files[i]
		if f.Facts == nil || f.Facts.Depth == lang.Listed || f.Size <= 0 {
			continue
		}
		if files[f.Blob] == nil {
			ids = append(ids, f.Blob)
		}
		files[f.Blob] = append(files[f.Blob], i)
	}
	return s.git.EachBlob(ctx, ids, func(id string, content []byte, damaged error) error {
		if damaged != nil {
			return nil // its facts say so
		}
		content, _ = facts.Text(content)
		may := words.OwnMay(content)
		for _, i := range files[id] {
			f := &s.result.Files[i]
			if !may && !s.replaced(f) {
				continue
			}
			packed, err := s.memory.Details(ctx, f.Key)
			if err != nil {
				return err
			}
			d, err := facts.Unpack(packed)
			if err != nil || d == nil {
				return err
			}
			found := *f.Facts // facts are shared: what this team calls a word is its own matter
			found.Tagged = facts.Tagged(content, d.Comments, d.Docstrings, d.Outline, words)
			f.Facts = &found
		}
		return nil
	})
}

// replaced tells whether a file has a comment with an agreed word whose place
// a team's own has taken.
func (s *run) replaced(f *File) bool {
	for _, t := range f.Facts.Tagged {
		if s.options.Words.IsOwn(t.Word) {
			return true
		}
	}
	return false
}

// lives asks the history when each tagged comment was written, and which are
// gone.
func (s *run) lives() {
	r := s.result
	paths, comments := []string{}, [][]history.Comment{}
	r.Lives = make([][]history.Life, len(r.Files))
	var of []int
	for i := range r.Files {
		f := r.Files[i].Facts
		if f == nil || len(f.Tagged) == 0 {
			continue
		}
		at := make([]history.Comment, len(f.Tagged))
		for n, t := range f.Tagged {
			at[n] = history.Comment{Line: t.Line, Word: t.Word, Said: t.Said}
		}
		paths, comments, of = append(paths, r.Files[i].Path), append(comments, at), append(of, i)
	}
	language := map[string]string{}
	there, gone := r.Log.Lives(paths, comments, s.options.Words, func(path string) string {
		name, known := language[path]
		if !known {
			if l := all.OfPath(path); l != nil {
				name = l.Name
			}
			language[path] = name
		}
		return name
	})
	for n, lives := range there {
		r.Lives[of[n]] = lives
	}
	r.Gone = gone
	r.outlived(of)
}

// outlived counts for each tagged comment the people who wrote it, or changed
// its file since, and who are gone at the pin.
func (r *Result) outlived(files []int) {
	wanted := make(map[int32]int, len(files))
	for _, i := range files {
		wanted[int32(i)] = i
	}
	type change struct {
		at     int64
		person int32
	}
	changes := map[int][]change{} // by file, the oldest first
	m := r.Moves
	for c := range m.Time {
		if !history.Gone(r.People.List[m.Person[c]].LastAt, r.Log.Time()) {
			continue
		}
		for row := m.From[c]; row < m.From[c+1]; row++ {
			if i, ok := wanted[m.File[row]]; ok {
				changes[i] = append(changes[i], change{m.Time[c], m.Person[c]})
			}
		}
	}
	r.Outlived = make([][]int, len(r.Files))
	for _, i := range files {
		r.Outlived[i] = make([]int, len(r.Lives[i]))
		for n, life := range r.Lives[i] {
			if life.Born == nil {
				continue
			}
			gone := map[int32]bool{}
			for _, c := range changes[i] {
				if c.at >= life.Born.CommitTime {
					gone[c.person] = true
				}
			}
			r.Outlived[i][n] = len(gone)
		}
	}
}
