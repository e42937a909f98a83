package intake

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
)

// foreign is a folder of somebody else's. All that is read of it is opened below its
// descriptor: a link that leads out of it, or a name that is changed to one meanwhile,
// reaches nothing. Pipes, sockets and devices are never opened for reading.
type foreign struct {
	*os.Root
	path string // for messages
}

// openForeign opens a folder that lies below one of roots (nil: anywhere). The path may
// lead through links, but not out of the root.
func openForeign(source string, roots []string) (*foreign, error) {
	real, root, err := within(source, roots)
	if err != nil {
		return nil, err
	}
	top, err := os.OpenRoot(root)
	if err != nil {
		return nil, refuse("%s cannot be read", source)
	}
	defer top.Close()
	rel, err := filepath.Rel(root, real)
	if err != nil {
		return nil, refuse("%s cannot be read", source)
	}
	folder, err := top.OpenRoot(rel)
	if err != nil {
		return nil, refuse("%s: no such folder, or it may not be read", source)
	}
	return &foreign{folder, real}, nil
}

// sub opens a folder of it, which must not be a link; fs.ErrNotExist: there is none.
func (f *foreign) sub(name string) (*foreign, error) {
	info, err := f.Lstat(name)
	switch {
	case err != nil:
		return nil, err
	case info.Mode()&fs.ModeSymlink != 0:
		return nil, refuse("%s is a symbolic link, which is not followed", name)
	case !info.IsDir():
		return nil, refuse("%s is no folder", name)
	}
	below, err := f.OpenRoot(name)
	if err != nil {
		return nil, refuse("%s may not be read", name)
	}
	return &foreign{below, filepath.Join(f.path, name)}, nil
}

// maxSmall is how large a file of refs or settings may be.
const maxSmall = 64 << 20

// read reads a small file; fs.ErrNotExist: there is none.
func (f *foreign) read(name string) ([]byte, error) {
	in, size, err := f.open(name)
	if err != nil {
		return nil, err
	}
	defer in.Close()
	if size > maxSmall {
		return nil, refuse("%s has more than %d MB", name, maxSmall>>20)
	}
	return io.ReadAll(io.LimitReader(in, maxSmall))
}

// open opens a file, and tells its size now.
func (f *foreign) open(name string) (*os.File, int64, error) {
	info, err := f.Lstat(name)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil, 0, fmt.Errorf("%s: %w", name, fs.ErrNotExist)
	case err != nil:
		return nil, 0, refuse("%s cannot be read", name)
	case info.Mode()&fs.ModeSymlink != 0:
		return nil, 0, refuse("%s is a symbolic link, which is not followed", name)
	case !info.Mode().IsRegular():
		return nil, 0, refuse("%s is no file (a pipe, socket, device or folder)", name)
	}
	// it may have become something else meanwhile, whose opening would wait
	in, err := f.OpenFile(name, os.O_RDONLY|syscall.O_NONBLOCK, 0)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, 0, fmt.Errorf("%s: %w", name, fs.ErrNotExist)
	}
	if err != nil {
		return nil, 0, refuse("%s cannot be read", name)
	}
	now, err := in.Stat()
	if err != nil || !now.Mode().IsRegular() {
		_ = in.Close()
		return nil, 0, refuse("%s is no file (a pipe, socket, device or folder)", name)
	}
	return in, now.Size(), nil
}

// is tells whether there is something of a name, whatever it is.
func (f *foreign) is(name string) bool {
	_, err := f.Lstat(name)
	return err == nil
}
