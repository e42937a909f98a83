package survey

import (
	"context"
	"path"

	"juxtagram/core/ahead"
	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/links/origin"
	"juxtagram/core/recipe"
)

// task is one blob to be read, with the files that hold it.
type task struct {
	id    string
	files []int
	keys  []FactKey // one for each language the files' names give it
}

// plan groups the files by blob, and picks the build files.
func (s *run) plan() []*task {
	byBlob := map[string]*task{}
	var tasks []*task
	s.manifests = map[string]string{}
	for i := range s.result.Files {
		f := &s.result.Files[i]
		switch {
		case f.Mode == "submodule":
			f.Facts = &facts.Facts{Depth: lang.Listed, Reason: "a submodule"}
			continue
		case f.Mode == "symlink":
			f.Facts = &facts.Facts{Depth: lang.Listed, Reason: "a symbolic link"}
			continue
		case f.Size > facts.MaxRead:
			large := facts.TooLarge()
			f.Facts = &large
			continue
		case f.Size == 0:
			empty := facts.Empty(f.Language)
			f.Facts = &empty
			continue
		}
		if (recipe.Wanted(f.Path) || origin.IsManifest(path.Base(f.Path))) && f.Size <= recipe.MaxSize {
			s.manifests[f.Path] = f.Blob
		}
		t := byBlob[f.Blob]
		if t == nil {
			t = &task{id: f.Blob}
			byBlob[f.Blob] = t
			tasks = append(tasks, t)
		}
		t.files = append(t.files, i)
		key := FactKey{Blob: f.Blob, Language: f.LanguageName()}
		f.Key = key
		known := false
		for _, k := range t.keys {
			known = known || k == key
		}
		if !known {
			t.keys = append(t.keys, key)
		}
	}
	return tasks
}

// recalled is what memory knows of the blobs.
type recalled struct {
	known   map[FactKey]*facts.Facts
	missing []*task // what is to be read
	early   []blob  // those that were read already, if they are few: all of them
}

// recall begins to take from memory what is known of the blobs, and to read the rest
// if it is little; the history is read meanwhile.
func (s *run) recall(ctx context.Context) {
	tasks := s.plan()
	var keys []FactKey
	for _, t := range tasks {
		keys = append(keys, t.keys...)
	}
	s.recalled = ahead.Begin(func() (*recalled, error) {
		known, err := s.memory.Facts(ctx, keys)
		if err != nil {
			return nil, err
		}
		r := &recalled{known: known}
		size := int64(0)
		for _, t := range tasks {
			if !s.complete(t, known) {
				r.missing = append(r.missing, t)
				size += s.result.Files[t.files[0]].Size
			}
		}
		if len(r.missing) > fewBlobs || size > fewBytes {
			return r, nil
		}
		err = s.eachBlob(ctx, r.missing, func(b blob) error {
			r.early = append(r.early, b)
			return nil
		})
		if err != nil {
			return nil, err
		}
		s.answer(ctx, r.early, known)
		return r, ctx.Err()
	})
}

// complete tells whether nothing of a blob is to be read.
func (s *run) complete(t *task, known map[FactKey]*facts.Facts) bool {
	for _, i := range t.files {
		f := &s.result.Files[i]
		if known[f.Key] == nil || s.manifests[f.Path] != "" {
			return false // build files are small and are read each time
		}
	}
	return true
}

// fewBlobs are so few, and fewBytes so little, that one reader has read them before
// the history is read.
const (
	fewBlobs = 40
	fewBytes = 4 << 20
)
