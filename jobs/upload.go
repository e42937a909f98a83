package jobs

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"juxtagram/core/intake"
	"juxtagram/store"
)

// part ends the names of files that are still being received.
const part = ".part"

// receivedFor is how long a file that nobody writes to any more is kept while no
// repository is made of it.
const receivedFor = time.Hour

func (r *Runner) upload(repository int64) string {
	return filepath.Join(r.Uploads(), strconv.FormatInt(repository, 10))
}

// HasUpload tells whether the file is still there that a repository was to be made of.
func (r *Runner) HasUpload(repository int64) bool {
	_, err := os.Lstat(r.upload(repository))
	return err == nil
}

// TakeInUpload receives a file of at most limit bytes, more is refused, and queues the
// take-in of a repository from it. A repository is on the shelf only with its file and
// its job.
func (r *Runner) TakeInUpload(ctx context.Context, p store.Repository, body io.Reader, limit int64) (*store.Repository, error) {
	received, err := r.receive(body, limit)
	if err != nil {
		return nil, err
	}
	defer os.Remove(received) // nothing, once it has its own name
	p.State = store.TakingIn
	return &p, r.store.InTx(ctx, func(tx pgx.Tx) error {
		if err := r.store.AddRepositoryIn(ctx, tx, &p); err != nil {
			return err
		}
		if err := os.Rename(received, r.upload(p.ID)); err != nil {
			return err
		}
		return r.takeInBy(ctx, tx, p.ID)
	})
}

// TakeInUploadAgain is TakeInUpload for a repository that is on the shelf already, and whose
// file and copy are not there any more.
func (r *Runner) TakeInUploadAgain(ctx context.Context, id int64, body io.Reader, limit int64) error {
	received, err := r.receive(body, limit)
	if err != nil {
		return err
	}
	defer os.Remove(received) // nothing, once it has its own name
	return r.store.InTx(ctx, func(tx pgx.Tx) error {
		if err := os.Rename(received, r.upload(id)); err != nil {
			return err
		}
		return r.takeInBy(ctx, tx, id)
	})
}

// receive writes a file under a name of its own, and to the disk.
func (r *Runner) receive(body io.Reader, limit int64) (name string, err error) {
	f, err := os.CreateTemp(r.Uploads(), "*"+part)
	if err != nil {
		return "", err
	}
	defer func() {
		if err = errors.Join(err, f.Close()); err != nil {
			_ = os.Remove(f.Name())
		}
	}()
	n, err := io.Copy(f, io.LimitReader(body, limit+1))
	if err == nil && n > limit {
		err = &intake.Refused{Reason: fmt.Sprintf("the file is larger than %d MB", limit>>20)}
	}
	if err == nil {
		err = f.Sync()
	}
	return f.Name(), err
}

// dropUploads deletes files that were received and became no repository, or whose
// repository is taken in.
func (r *Runner) dropUploads(ctx context.Context) error {
	entries, err := os.ReadDir(r.Uploads())
	if err != nil {
		return err
	}
	for _, e := range entries {
		at := filepath.Join(r.Uploads(), e.Name())
		info, err := e.Info()
		if err != nil || time.Since(info.ModTime()) < receivedFor {
			continue // gone meanwhile, or young: it may be on its way
		}
		if !strings.HasSuffix(e.Name(), part) {
			id, err := strconv.ParseInt(e.Name(), 10, 64)
			if err != nil {
				continue
			}
			p, err := r.store.Repository(ctx, id)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				return err
			}
			if err == nil && (p.State == store.TakingIn || p.State == store.TakeFailed) {
				continue
			}
		}
		if err := os.Remove(at); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}
