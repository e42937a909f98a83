package survey

import (
	"context"
	"maps"
	"path"
	"runtime"
	"sync"

	"golang.org/x/sync/errgroup"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/links/origin"
	"juxtagram/core/reader"
	"juxtagram/core/recipe"
)

// keepEvery is how many blobs' facts are computed before they are kept: what
// is lost when the process is ended.
const keepEvery = 1000

// task is one blob to be read, with the files that hold it.
type task struct {
	id    string
	files []int
	keys  []FactKey // one for each language the files' names give it
}

// contents reads every blob that is not known yet and takes its facts.
func (s *run) contents(ctx context.Context) error {
	files := s.result.Files
	s.sink.Begin(ctx, StageContents, len(files))
	tasks, err := s.recalled()
	s.recalled = nil
	if err != nil {
		return err
	}
	var missing []*task
	for _, t := range tasks {
		if !s.complete(t) {
			missing = append(missing, t)
		}
	}
	done := len(files) - holders(missing)
	s.sink.Progress(StageContents, done, len(files))
	if err := s.read(ctx, missing, done); err != nil {
		return err
	}
	for i := range files {
		// the text may say more than the path did
		if f := &files[i]; f.Facts != nil && (f.Facts.Generated != "" || f.Facts.Minified || f.Facts.Binary || f.Language == nil || f.Key.Language == "") {
			f.Role = s.role(f)
		}
	}
	s.options.Reader.Rest()
	if err := s.ownWords(ctx); err != nil {
		return err
	}
	s.recipes()
	s.unread()
	return nil
}

func holders(tasks []*task) int {
	n := 0
	for _, t := range tasks {
		n += len(t.files)
	}
	return n
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

// recall begins to take from memory what is known of the blobs; the history is
// read meanwhile.
func (s *run) recall(ctx context.Context) {
	tasks := s.plan()
	var keys []FactKey
	for _, t := range tasks {
		keys = append(keys, t.keys...)
	}
	remembered := begin(func() (map[FactKey]*facts.Facts, error) { return s.memory.Facts(ctx, keys) })
	s.recalled = func() ([]*task, error) {
		known, err := remembered()
		if err != nil {
			return nil, err
		}
		for _, t := range tasks {
			for _, i := range t.files {
				f := &s.result.Files[i]
				if got := known[f.Key]; got != nil {
					s.give(f, got)
				}
			}
		}
		return tasks, nil
	}
}

// give hands facts to a file. A first line may name the language that the
// file's name does not.
func (s *run) give(f *File, got *facts.Facts) {
	f.Facts = got
	if f.Language == nil && got.Shebang != "" {
		f.Language = all.Of(f.Path, []byte(got.Shebang))
	}
}

func (s *run) complete(t *task) bool {
	for _, i := range t.files {
		f := &s.result.Files[i]
		if f.Facts == nil || s.manifests[f.Path] != "" {
			return false // build files are small and are read each time
		}
	}
	return true
}

// read streams blobs out of git into as many readers as there are processors,
// and keeps their facts in batches.
func (s *run) read(ctx context.Context, tasks []*task, done int) error {
	total := len(s.result.Files)
	ids := make([]string, len(tasks))
	for i, t := range tasks {
		ids[i] = t.id
	}
	blobs := make(chan blob, waitingBlobs)
	group, ctx := errgroup.WithContext(ctx)
	group.Go(func() error {
		defer close(blobs)
		next := 0
		return s.git.EachBlob(ctx, ids, func(_ string, content []byte) error {
			t := tasks[next]
			next++
			select {
			case blobs <- blob{t, content}:
				return nil
			case <-ctx.Done():
				return ctx.Err()
			}
		})
	})
	var mu sync.Mutex
	batch := map[FactKey]*facts.Facts{}
	for range runtime.GOMAXPROCS(0) {
		group.Go(func() error {
			for first := range blobs {
				taken := more(first, blobs)
				got := s.factsOf(ctx, taken)
				if err := ctx.Err(); err != nil {
					return err
				}
				mu.Lock()
				for i, b := range taken {
					for key, f := range got[i] {
						batch[key] = f
						if len(f.Linked.Head) > 0 {
							s.heads[key] = f.Linked.Head
						}
					}
					s.apply(b.task, b.content, got[i])
					done += len(b.task.files)
				}
				s.sink.Progress(StageContents, done, total)
				var full map[FactKey]*facts.Facts
				if len(batch) >= keepEvery {
					full, batch = batch, map[FactKey]*facts.Facts{}
				}
				mu.Unlock()
				if full != nil {
					if err := s.keep(ctx, full); err != nil {
						return err
					}
				}
			}
			return nil
		})
	}
	if err := group.Wait(); err != nil {
		return err
	}
	return s.keep(context.WithoutCancel(ctx), batch)
}

// keep hands facts to memory and lets go of their details.
func (s *run) keep(ctx context.Context, batch map[FactKey]*facts.Facts) error {
	maps.DeleteFunc(batch, func(_ FactKey, f *facts.Facts) bool { return f.Passing })
	if err := s.memory.KeepFacts(ctx, batch); err != nil {
		return err
	}
	for _, f := range batch {
		f.Packed, f.Linked = nil, facts.Linked{}
	}
	return nil
}

// blob is a content with what it is read for.
type blob struct {
	task    *task
	content []byte
}

// waitingBlobs is how many blobs wait to be read.
const waitingBlobs = 24

// more are a blob and those that wait behind it, as many as are best read at once.
func more(first blob, blobs <-chan blob) []blob {
	out := []blob{first}
	for size := len(first.content); size < reader.AtOnce; {
		select {
		case b, ok := <-blobs:
			if !ok {
				return out
			}
			size += len(b.content)
			out = append(out, b)
		default:
			return out
		}
	}
	return out
}

// factsOf computes what is not known of blobs, of each for every language that its names
// give it.
func (s *run) factsOf(ctx context.Context, list []blob) []map[FactKey]*facts.Facts {
	out := make([]map[FactKey]*facts.Facts, len(list))
	var asked []reader.Blob
	var of []int
	var keys []FactKey
	for i, b := range list {
		out[i] = map[FactKey]*facts.Facts{}
		for _, key := range b.task.keys {
			known := false
			for _, n := range b.task.files {
				f := &s.result.Files[n]
				known = known || (f.Facts != nil && f.Key == key)
			}
			if !known {
				asked, of, keys = append(asked, reader.Blob{Language: key.Language, Content: b.content}), append(of, i), append(keys, key)
			}
		}
	}
	for n, f := range s.options.Reader.FactsOf(ctx, asked) {
		out[of[n]][keys[n]] = f
	}
	return out
}

func (s *run) apply(t *task, content []byte, got map[FactKey]*facts.Facts) {
	for _, i := range t.files {
		f := &s.result.Files[i]
		if g := got[f.Key]; g != nil {
			s.give(f, g)
		}
		if s.manifests[f.Path] != "" {
			if recipe.Wanted(f.Path) {
				s.found[f.Path] = recipe.Find(f.Path, content)
			}
			if origin.IsManifest(path.Base(f.Path)) {
				s.manifestTexts[f.Path] = content
			}
		}
	}
}
