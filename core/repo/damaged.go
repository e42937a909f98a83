package repo

import (
	"bufio"
	"context"
	"crypto/sha1" //nolint:gosec // how git names objects
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"hash"
	"io"
	"strconv"
)

// DamagedError tells that an object is missing, cannot be read, or does not have the
// content that its id stands for.
type DamagedError struct{ Object string }

func (e *DamagedError) Error() string {
	return fmt.Sprintf("object %s is missing or damaged", e.Object)
}

// isContent tells whether a blob's content is the one that its id stands for.
func isContent(id string, content []byte) bool {
	var h hash.Hash
	if len(id) == 2*sha256.Size {
		h = sha256.New()
	} else {
		h = sha1.New() //nolint:gosec // how git names objects
	}
	h.Write([]byte("blob " + strconv.Itoa(len(content)) + "\x00"))
	h.Write(content)
	return hex.EncodeToString(h.Sum(nil)) == id
}

// EachBlob reads blobs in one process and calls do with each, in the order of
// ids, which must be full. The content is do's to keep; the error of one that is
// missing or damaged is a *DamagedError, and the others are read nevertheless.
func (g *Git) EachBlob(ctx context.Context, ids []string, do func(id string, content []byte, damaged error) error) error {
	for len(ids) > 0 {
		done, err := g.someBlobs(ctx, ids, do)
		var git *Error
		if err == nil || done == len(ids) || !errors.As(err, &git) {
			return err
		}
		// git ends over an object that it cannot read; what came before it may be lost in
		// its buffer, so that the next one is asked for alone
		id := ids[done]
		alone, err := g.someBlobs(ctx, ids[done:done+1], do)
		if err != nil && !errors.As(err, &git) {
			return err
		}
		if alone == 0 {
			if err := do(id, nil, &DamagedError{id}); err != nil {
				return err
			}
		}
		ids = ids[done+1:]
	}
	return nil
}

// someBlobs reads blobs until git ends, and tells how many it has handed on.
func (g *Git) someBlobs(ctx context.Context, ids []string, do func(id string, content []byte, damaged error) error) (done int, err error) {
	err = g.stream(ctx, lines(ids), func(r io.Reader) error {
		br := bufio.NewReaderSize(r, 1<<18)
		for _, id := range ids {
			content, err := readBatch(br, id)
			var damaged *DamagedError
			if err != nil && !errors.As(err, &damaged) {
				return err
			}
			if err := do(id, content, err); err != nil {
				return err
			}
			done++
		}
		return nil
	}, "cat-file", "--batch", "--buffer")
	return done, err
}

// mostFolders is how many folders of a damaged tree are listed, each by a process.
const mostFolders = 20_000

// listAround lists a tree folder by folder, and goes around those that cannot be read;
// the error is why the tree could not be listed as a whole.
func (g *Git) listAround(ctx context.Context, commit, prefix string, why error) (*Listing, error) {
	type folder struct{ path, object string }
	root := commit + "^{tree}"
	if prefix != "" {
		root = commit + ":" + prefix
	}
	l := &Listing{Entries: []Entry{}}
	limits := DefaultTreeLimits
	for n, waiting := 0, []folder{{prefix, root}}; len(waiting) > 0; n++ {
		at := waiting[0]
		waiting = waiting[1:]
		list, err := g.Folder(ctx, at.object, "")
		var git *Error
		switch {
		case errors.As(err, &git) && n == 0 || n > mostFolders:
			return nil, why
		case errors.As(err, &git):
			l.Damaged = append(l.Damaged, Damage{at.path, at.object})
			continue
		case err != nil:
			return nil, err
		}
		for _, e := range list {
			if at.path != "" {
				e.Path = at.path + "/" + e.Path
			}
			if err := limits.count(e.Path); err != nil {
				return nil, err
			}
			if e.Mode == "folder" {
				waiting = append(waiting, folder{e.Path, e.Blob})
			} else {
				l.Entries = append(l.Entries, e)
			}
		}
	}
	return l, nil
}
