package jobs

import (
	"context"
	"crypto/rand"
	"errors"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"gocloud.dev/blob"
	"gocloud.dev/blob/fileblob"
	"gocloud.dev/gcerrors"

	"juxtagram/core/attach"
	"juxtagram/store"
)

// attachedFor is how long an attachment is kept that no text uses: drafts wait
// in people's browsers.
const attachedFor = 60 * 24 * time.Hour

// openAttached opens the folder with the bytes of attachments.
func openAttached(data string) (*blob.Bucket, error) {
	dir := filepath.Join(data, "attachments")
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	return fileblob.OpenBucket(dir, &fileblob.Options{Metadata: fileblob.MetadataDontWrite, NoTempDir: true})
}

// KeepAttached keeps a file for the texts of a repository; its uid is made where
// it is "". One whose uid is there already is left as it is.
func (r *Runner) KeepAttached(ctx context.Context, repository, person int64, uid string, k *attach.Kept) (*store.Attachment, error) {
	f := &store.Attachment{UID: uid, Repository: repository, Person: person, Name: k.Name, Type: k.Type, Size: int64(len(k.Bytes)), Picture: k.Picture, Width: k.Width, Height: k.Height,
		Blob: strconv.FormatInt(repository, 10) + "/" + rand.Text()}
	if err := r.attached.WriteAll(ctx, f.Blob, k.Bytes, &blob.WriterOptions{ContentType: "application/octet-stream"}); err != nil {
		return nil, err
	}
	added, err := r.store.AddAttachment(ctx, f)
	if err != nil || !added {
		err = errors.Join(err, r.dropBlob(context.WithoutCancel(ctx), f.Blob))
	}
	return f, err
}

// Attached reads the bytes of an attachment.
func (r *Runner) Attached(ctx context.Context, f *store.Attachment) ([]byte, error) {
	b, err := r.attached.ReadAll(ctx, f.Blob)
	if gcerrors.Code(err) == gcerrors.NotFound {
		return nil, store.ErrNotFound
	}
	return b, err
}

// dropWaiting takes away attachments that no text has used for long.
func (r *Runner) dropWaiting(ctx context.Context) error {
	keys, err := r.store.DropWaiting(ctx, time.Now().Add(-attachedFor))
	for _, key := range keys {
		err = errors.Join(err, r.dropBlob(ctx, key))
	}
	return err
}

// dropAttached takes away the bytes of a repository's attachments.
func (r *Runner) dropAttached(ctx context.Context, repository int64) error {
	list := r.attached.List(&blob.ListOptions{Prefix: strconv.FormatInt(repository, 10) + "/"})
	for {
		o, err := list.Next(ctx)
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		if err := r.dropBlob(ctx, o.Key); err != nil {
			return err
		}
	}
}

func (r *Runner) dropBlob(ctx context.Context, key string) error {
	err := r.attached.Delete(ctx, key)
	if gcerrors.Code(err) == gcerrors.NotFound {
		return nil
	}
	return err
}
