package intake

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/flate"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"strings"
)

// Limits bound what an archive may unfold to.
type Limits struct {
	Entries int64 // number of entries
	Bytes   int64 // of all entries together
	Ratio   int64 // unfolded to packed size, once past 64 MB
}

// DefaultLimits suit repositories with large files and long histories.
var DefaultLimits = Limits{Entries: 300_000, Bytes: 8 << 30, Ratio: 200}

const ratioFrom = 64 << 20

// entry is one entry of an archive; body is valid until the next one.
type entry struct {
	name       string // cleaned: relative, no ".." and no empty parts
	mode       string // "100644" | "100755" | "120000"
	size       int64  // as the archive says
	unixTime   int64
	body       io.Reader
	linkTarget string
}

// File takes in an archive (zip, tar, tar.gz) or a bundle, told apart by its
// first bytes.
func File(ctx context.Context, dir, file string, o Options) (_ Taken, err error) {
	defer clean(dir, &err)
	head := make([]byte, 512)
	f, err := os.Open(file)
	if err != nil {
		return Taken{}, refuse("the file cannot be read")
	}
	n, _ := io.ReadFull(f, head)
	_ = f.Close()
	head = head[:n]
	switch {
	case bytes.HasPrefix(head, []byte("# v2 git bundle")), bytes.HasPrefix(head, []byte("# v3 git bundle")):
		return bundle(ctx, dir, file, o)
	case bytes.HasPrefix(head, []byte("PK\x03\x04")), bytes.HasPrefix(head, []byte("PK\x05\x06")),
		bytes.HasPrefix(head, []byte{0x1f, 0x8b}), len(head) > 262 && string(head[257:262]) == "ustar":
		return archive(ctx, dir, file, o)
	}
	return Taken{}, refuse("neither an archive (zip, tar, tar.gz) nor a git bundle")
}

// each calls do for every file and link of an archive. Anything that could
// reach outside, or is not a file, is refused by name.
func each(ctx context.Context, file string, limits Limits, do func(entry) error) error {
	if limits == (Limits{}) {
		limits = DefaultLimits
	}
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return err
	}
	m := &meter{limits: limits, packed: info.Size(), ctx: ctx}
	magic := make([]byte, 2)
	if _, err := f.ReadAt(magic, 0); err != nil {
		return damaged(err)
	}
	if string(magic) == "PK" {
		return eachZip(f, info.Size(), m, do)
	}
	var r io.Reader = f
	if magic[0] == 0x1f {
		gz, err := gzip.NewReader(f)
		if err != nil {
			return damaged(err)
		}
		r = gz
	}
	in := &metered{r, m}
	if err := eachTar(tar.NewReader(in), m, do); err != nil {
		return err
	}
	_, err = io.Copy(io.Discard, in) // what follows the end says whether all of it arrived
	return damaged(err)
}

// meter counts what was unfolded against the limits.
type meter struct {
	ctx            context.Context
	limits         Limits
	packed         int64
	entries, bytes int64
}

func (m *meter) entry() error {
	if m.entries++; m.entries > m.limits.Entries {
		return refuse("the archive has more than %d entries", m.limits.Entries)
	}
	return m.ctx.Err()
}

func (m *meter) add(n int64) error {
	m.bytes += n
	if m.bytes > m.limits.Bytes {
		return refuse("the archive unfolds to more than %d MB", m.limits.Bytes>>20)
	}
	if m.bytes > ratioFrom && m.bytes/max(1, m.packed) > m.limits.Ratio {
		return refuse("the archive unfolds to more than %d times its size", m.limits.Ratio)
	}
	return m.ctx.Err()
}

type metered struct {
	r io.Reader
	m *meter
}

func (x *metered) Read(p []byte) (int, error) {
	n, err := x.r.Read(p)
	if over := x.m.add(int64(n)); over != nil {
		return n, over
	}
	return n, err
}

// cleanName checks an entry's name; "" for the archive's own root.
func cleanName(name string) (string, error) {
	if strings.HasPrefix(name, "/") || strings.HasPrefix(name, `\`) || (len(name) > 1 && name[1] == ':') {
		return "", refuse("the archive holds an absolute name")
	}
	for _, part := range strings.Split(name, "/") {
		if part == ".." {
			return "", refuse("the archive holds a name that leads out of it")
		}
	}
	if strings.ContainsRune(name, 0) || len(name) > 4096 {
		return "", refuse("the archive holds a name that cannot be used: it is too long, or holds a NUL")
	}
	c := path.Clean(name)
	if c == "." {
		return "", nil
	}
	return c, nil
}

func eachTar(tr *tar.Reader, m *meter, do func(entry) error) error {
	for {
		h, err := tr.Next()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			if IsRefused(err) || m.ctx.Err() != nil {
				return err
			}
			return damaged(err)
		}
		if err := m.entry(); err != nil {
			return err
		}
		if h.Typeflag == tar.TypeXGlobalHeader {
			continue
		}
		name, err := cleanName(h.Name)
		if err != nil {
			return err
		}
		e := entry{name: name, size: h.Size, unixTime: h.ModTime.Unix(), body: tr, mode: "100644"}
		switch h.Typeflag {
		case tar.TypeDir:
			continue
		case tar.TypeReg:
			if h.FileInfo().Mode()&0o100 != 0 {
				e.mode = "100755"
			}
		case tar.TypeSymlink:
			e.mode, e.linkTarget, e.size = "120000", h.Linkname, int64(len(h.Linkname))
			e.body = strings.NewReader(h.Linkname)
		case tar.TypeLink:
			return refuse("the archive holds a hard link, which is not followed")
		case tar.TypeChar, tar.TypeBlock, tar.TypeFifo:
			return refuse("the archive holds a device or pipe")
		default:
			return refuse("the archive holds an entry of an unknown kind")
		}
		if name == "" {
			continue
		}
		if err := do(e); err != nil {
			return damaged(err)
		}
	}
}

// damaged turns a reader's own errors into words.
func damaged(err error) error {
	if err == nil {
		return nil
	}
	var corrupt flate.CorruptInputError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		return refuse("the archive is cut short")
	case errors.Is(err, zip.ErrAlgorithm):
		return refuse("the archive is packed in a way that is not supported here; pack it as a plain zip or tar.gz")
	case errors.Is(err, zip.ErrChecksum), errors.Is(err, zip.ErrFormat), errors.Is(err, gzip.ErrChecksum), errors.Is(err, gzip.ErrHeader), errors.Is(err, tar.ErrHeader), errors.As(err, &corrupt):
		return refuse("the archive is damaged")
	}
	return err
}

func eachZip(f io.ReaderAt, size int64, m *meter, do func(entry) error) error {
	zr, err := zip.NewReader(f, size)
	if err != nil {
		return damaged(err)
	}
	if int64(len(zr.File)) > m.limits.Entries {
		return refuse("the archive has more than %d entries", m.limits.Entries)
	}
	for _, z := range zr.File {
		if err := m.entry(); err != nil {
			return err
		}
		name, err := cleanName(z.Name)
		if err != nil {
			return err
		}
		const encrypted = 1
		if z.Flags&encrypted != 0 {
			return refuse("the archive is encrypted; give one without a password")
		}
		mode := z.Mode()
		if strings.HasSuffix(z.Name, "/") || mode.IsDir() || name == "" {
			continue
		}
		if mode&(fs.ModeDevice|fs.ModeNamedPipe|fs.ModeSocket|fs.ModeCharDevice) != 0 {
			return refuse("the archive holds a device or pipe")
		}
		if z.UncompressedSize64 > uint64(m.limits.Bytes) {
			return refuse("the archive unfolds to more than %d MB", m.limits.Bytes>>20)
		}
		if err := zipEntry(z, name, m, do); err != nil {
			return damaged(err)
		}
	}
	return nil
}

func zipEntry(z *zip.File, name string, m *meter, do func(entry) error) error {
	body, err := z.Open()
	if err != nil {
		return damaged(err)
	}
	defer body.Close()
	r := &metered{body, m}
	e := entry{name: name, size: int64(z.UncompressedSize64), unixTime: z.Modified.Unix(), body: r, mode: "100644"}
	switch mode := z.Mode(); {
	case mode&fs.ModeSymlink != 0:
		to, err := io.ReadAll(io.LimitReader(r, 4097))
		if err != nil || len(to) > 4096 {
			return refuse("the archive holds a symbolic link that cannot be read")
		}
		e.mode, e.linkTarget, e.size, e.body = "120000", string(to), int64(len(to)), bytes.NewReader(to)
	case mode&0o100 != 0:
		e.mode = "100755"
	}
	return do(e)
}

func archive(ctx context.Context, dir, file string, o Options) (Taken, error) {
	o.say("looking through the archive")
	s, err := look(ctx, file, o.Limits)
	if err != nil {
		return Taken{}, err
	}
	if s.entries == 0 {
		return Taken{}, refuse("the archive is empty")
	}
	var taken Taken
	if s.isGit {
		taken, err = unpackRepository(ctx, dir, file, s, o)
	} else {
		taken, err = makeCommit(ctx, dir, file, s, o)
	}
	taken.Notes = append(taken.Notes, s.doubts...)
	return taken, err
}

// describe is what a file is called.
func (o *Options) describe(file string) string {
	if o.Name != "" {
		return fmt.Sprintf("%.80s", o.Name)
	}
	return fmt.Sprintf("%.80s", path.Base(file))
}
