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

// contents reads every blob that is not known yet and takes its facts.
func (s *run) contents(ctx context.Context) error {
	files := s.result.Files
	s.sink.Begin(ctx, StageContents, len(files))
	got, err := s.recalled()
	s.recalled = nil
	if err != nil {
		return err
	}
	for i := range files {
		if known := got.known[files[i].Key]; known != nil && files[i].Facts == nil {
			s.give(&files[i], known)
		}
	}
	done := len(files) - holders(got.missing)
	s.sink.Progress(StageContents, done, len(files))
	if err := s.read(ctx, got, done); err != nil {
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

// give hands facts to a file. A first line may name the language that the
// file's name does not.
func (s *run) give(f *File, got *facts.Facts) {
	f.Facts = got
	if f.Language == nil && got.Shebang != "" {
		f.Language = all.Of(f.Path, []byte(got.Shebang))
	}
}

// eachBlob reads the blobs of tasks out of git.
func (s *run) eachBlob(ctx context.Context, tasks []*task, do func(blob) error) error {
	ids := make([]string, len(tasks))
	for i, t := range tasks {
		ids[i] = t.id
	}
	next := 0
	return s.git.EachBlob(ctx, ids, func(_ string, content []byte, damaged error) error {
		t := tasks[next]
		next++
		return do(blob{task: t, content: content, damaged: damaged})
	})
}

// read streams blobs out of git into as many readers as there are processors,
// and keeps their facts in batches.
func (s *run) read(ctx context.Context, r *recalled, done int) error {
	total := len(s.result.Files)
	batch := map[FactKey]*facts.Facts{}
	for i := range r.early {
		s.apply(ctx, &r.early[i], batch)
	}
	if len(r.early) > 0 || len(r.missing) == 0 {
		s.sink.Progress(StageContents, total, total)
		return s.keep(ctx, batch)
	}
	blobs := make(chan blob, waitingBlobs)
	group, ctx := errgroup.WithContext(ctx)
	group.Go(func() error {
		defer close(blobs)
		return s.eachBlob(ctx, r.missing, func(b blob) error {
			select {
			case blobs <- b:
				return nil
			case <-ctx.Done():
				return ctx.Err()
			}
		})
	})
	var mu sync.Mutex
	for range runtime.GOMAXPROCS(0) {
		group.Go(func() error {
			for first := range blobs {
				taken := more(first, blobs)
				s.answer(ctx, taken, r.known)
				if err := ctx.Err(); err != nil {
					return err
				}
				mu.Lock()
				for i := range taken {
					s.apply(ctx, &taken[i], batch)
					done += len(taken[i].task.files)
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
	damaged error                    // why there is no content
	got     map[FactKey]*facts.Facts // what it was found to say
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

// answer computes what is not known of blobs, of each for every language that its names
// give it.
func (s *run) answer(ctx context.Context, list []blob, known map[FactKey]*facts.Facts) {
	var asked []reader.Blob
	var of []int
	var keys []FactKey
	for i := range list {
		b := &list[i]
		b.got = map[FactKey]*facts.Facts{}
		for _, key := range b.task.keys {
			switch {
			case b.damaged != nil:
				b.got[key] = &facts.Facts{Depth: lang.Listed, Reason: b.damaged.Error(), Passing: true}
			case known[key] == nil:
				asked, of, keys = append(asked, reader.Blob{Language: key.Language, Content: b.content}), append(of, i), append(keys, key)
			}
		}
	}
	for n, f := range s.options.Reader.FactsOf(ctx, asked) {
		list[of[n]].got[keys[n]] = f
	}
}

// apply gives what a blob says to the files that hold it, and to a batch that is to be
// kept.
func (s *run) apply(ctx context.Context, b *blob, batch map[FactKey]*facts.Facts) {
	for key, f := range b.got {
		batch[key] = f
		if len(f.Linked.Head) > 0 {
			s.heads[key] = f.Linked.Head
		}
	}
	for _, i := range b.task.files {
		f := &s.result.Files[i]
		if b.damaged != nil {
			s.damaged = append(s.damaged, f.Path+": "+b.damaged.Error())
		}
		if g := b.got[f.Key]; g != nil {
			s.give(f, g)
		}
		if s.manifests[f.Path] != "" && b.damaged == nil {
			if recipe.Wanted(f.Path) {
				s.found[f.Path] = recipe.Find(ctx, f.Path, b.content)
			}
			if origin.IsManifest(path.Base(f.Path)) {
				s.manifestTexts[f.Path] = b.content
			}
		}
	}
}
