package server

import (
	"context"
	"strings"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"

	"juxtagram/core/repo"
	"juxtagram/jobs"
)

// readers keeps one git process for single objects open for each of the
// repositories used last.
type readers struct {
	jobs *jobs.Runner
	mu   sync.Mutex
	open *lru.Cache[int64, *repo.Blobs]
}

const openReaders = 24

func newReaders(r *jobs.Runner) *readers {
	cache, err := lru.NewWithEvict(openReaders, func(_ int64, b *repo.Blobs) { b.Close() })
	if err != nil {
		panic(err) // the size is a constant above zero
	}
	return &readers{jobs: r, open: cache}
}

func (r *readers) blobs(repository int64) *repo.Blobs {
	r.mu.Lock()
	defer r.mu.Unlock()
	if b, ok := r.open.Get(repository); ok {
		return b
	}
	b := r.jobs.Git(repository).Blobs()
	r.open.Add(repository, b)
	return b
}

// forget ends the process of a repository that goes away.
func (r *readers) forget(repository int64) { r.open.Remove(repository) }

func (r *readers) close() { r.open.Purge() }

// read returns a blob's content, at most limit bytes of it.
func (r *readers) read(repository int64, id string, limit int64) ([]byte, error) {
	return r.blobs(repository).Read(id, limit)
}

// blobAt finds the blob of a raw path at a commit that may not be surveyed.
func (r *readers) blobAt(ctx context.Context, repository int64, commit, path string) (string, error) {
	out, err := r.jobs.Git(repository).Run(ctx, "rev-parse", "--verify", "--quiet", "--end-of-options", commit+":"+path)
	return strings.TrimSpace(string(out)), err
}
