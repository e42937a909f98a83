package repo

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
)

// Entry is one path of a tree: a blob, a symbolic link or a submodule.
type Entry struct {
	Path string // raw bytes as git has them, '/' between parts
	Mode string // "file" | "executable" | "symlink" | "submodule"; "folder" from Folder alone
	Blob string // full id; of a commit for a submodule
}

// Folder lists what lies right below a folder ("" for the root) of a commit's
// tree, in git's order; folders have the mode "folder" and their
// tree's id. A *TreeLimitError: it is beyond the DefaultTreeLimits.
func (g *Git) Folder(ctx context.Context, commit, dir string) ([]Entry, error) {
	args := []string{"--literal-pathspecs", "ls-tree", "-z", "--full-tree", commit}
	if dir != "" {
		args = append(args, "--", strings.TrimSuffix(dir, "/")+"/")
	}
	list := []Entry{}
	err := g.eachEntry(ctx, commit, args, func(e Entry, _ bool) { list = append(list, e) })
	return list, err
}

// eachEntry calls do with what git ls-tree lists, within the DefaultTreeLimits; renamed
// says that SafePath rewrote the path.
func (g *Git) eachEntry(ctx context.Context, commit string, args []string, do func(e Entry, renamed bool)) error {
	limits := DefaultTreeLimits
	return g.stream(ctx, nil, func(r io.Reader) error {
		br := bufio.NewReaderSize(r, 1<<18)
		for {
			e, err := readEntry(br, commit)
			if err == io.EOF {
				return nil
			}
			if err == nil {
				err = limits.count(e.Path)
			}
			if err != nil {
				return err
			}
			renamed := false
			e.Path, renamed = SafePath(e.Path)
			do(e, renamed)
		}
	}, args...)
}

// TreeLimits bound what a tree may unfold to: a few objects can stand for more paths
// than a disk holds.
type TreeLimits struct {
	Entries int   // files, links and submodules
	Depth   int   // parts of a path
	Bytes   int64 // of all paths together
}

// DefaultTreeLimits are far beyond any real repository.
var DefaultTreeLimits = TreeLimits{Entries: 2_000_000, Depth: 200, Bytes: 512 << 20}

// TreeLimitError tells that a tree is beyond the limits.
type TreeLimitError struct{ Reason string }

func (e *TreeLimitError) Error() string { return e.Reason }

// count adds a path.
func (l *TreeLimits) count(path string) error {
	switch l.Entries, l.Bytes = l.Entries-1, l.Bytes-int64(len(path)); {
	case l.Entries < 0:
		return &TreeLimitError{fmt.Sprintf("its tree unfolds to more than %d files", DefaultTreeLimits.Entries)}
	case l.Bytes < 0:
		return &TreeLimitError{fmt.Sprintf("the paths of its tree have more than %d MB together", DefaultTreeLimits.Bytes>>20)}
	case strings.Count(path, "/") >= l.Depth:
		return &TreeLimitError{fmt.Sprintf("its folders lie more than %d deep", l.Depth)}
	}
	return nil
}

// Listing is every path of a tree, in git's path order, each once.
type Listing struct {
	Entries []Entry
	Renamed int // entries whose path SafePath rewrote
	Doubled int // entries left out: another has their path, or it is a folder too
	Damaged []Damage
}

// Damage is a folder that could not be listed.
type Damage struct{ Path, Object string }

// Tree is the entries of List.
func (g *Git) Tree(ctx context.Context, commit, prefix string) ([]Entry, error) {
	l, err := g.List(ctx, commit, prefix)
	if err != nil {
		return nil, err
	}
	return l.Entries, nil
}

// List lists every path below prefix ("" for all) of a commit's tree. A
// *TreeLimitError: it is beyond the DefaultTreeLimits.
func (g *Git) List(ctx context.Context, commit, prefix string) (*Listing, error) {
	args := []string{"--literal-pathspecs", "ls-tree", "-r", "-z", "--full-tree", commit}
	if prefix != "" {
		args = append(args, "--", strings.TrimSuffix(prefix, "/")+"/")
	}
	l := &Listing{Entries: []Entry{}}
	sorted := true
	err := g.eachEntry(ctx, commit, args, func(e Entry, renamed bool) {
		if renamed {
			l.Renamed++
		}
		if n := len(l.Entries); n > 0 && l.Entries[n-1].Path >= e.Path {
			sorted = false
		}
		l.Entries = append(l.Entries, e)
	})
	if git := (*Error)(nil); errors.As(err, &git) {
		if l, err = g.listAround(ctx, commit, prefix, err); err == nil {
			sorted = false
		}
	}
	if err != nil {
		return nil, err
	}
	if !sorted {
		slices.SortStableFunc(l.Entries, func(a, b Entry) int { return strings.Compare(a.Path, b.Path) })
	}
	l.single()
	return l, nil
}

// single leaves out entries that have the path of another, or of a folder.
func (l *Listing) single() {
	folders := map[string]bool{}
	last := ""
	for i := range l.Entries {
		p := l.Entries[i].Path
		end := strings.LastIndexByte(p, '/')
		if end < 0 || p[:end] == last {
			continue
		}
		last = p[:end]
		for dir := range Folders(p) {
			if folders[dir] {
				break
			}
			folders[dir] = true
		}
	}
	kept := l.Entries[:0]
	for _, e := range l.Entries {
		if folders[e.Path] || len(kept) > 0 && kept[len(kept)-1].Path == e.Path {
			l.Doubled++
			continue
		}
		kept = append(kept, e)
	}
	l.Entries = kept
}

// TreeAfter is Tree where the tree of another commit is known: git compares the two.
// entries, below the same prefix and in git's path order, are not changed. Where the
// difference does not fit them, or a commit is not there, it is an error.
func (g *Git) TreeAfter(ctx context.Context, before string, entries []Entry, commit, prefix string) ([]Entry, error) {
	args := []string{"--literal-pathspecs", "diff-tree", "-r", "-z", "--raw", "--no-abbrev", "--no-renames", "--no-commit-id", before, commit}
	if prefix != "" {
		args = append(args, "--", strings.TrimSuffix(prefix, "/")+"/")
	}
	out := make([]Entry, 0, len(entries))
	err := g.stream(ctx, nil, func(r io.Reader) error {
		p := &rawParser{br: bufio.NewReaderSize(r, 1<<16), intern: map[string]string{}}
		for {
			s, err := p.field()
			if err == io.EOF {
				return nil
			}
			if err != nil {
				return err
			}
			d, err := p.difference(s)
			if err != nil {
				return err
			}
			if p.odd {
				return fmt.Errorf("git diff-tree %s %s: a path is not as git writes it", before, commit)
			}
			n, was := slices.BinarySearchFunc(entries, d.Path, func(e Entry, path string) int { return strings.Compare(e.Path, path) })
			if was == (d.Status == 'A') || n == 0 && len(out) > 0 && out[len(out)-1].Path >= d.Path {
				return fmt.Errorf("git diff-tree %s %s: %q is not as it was listed", before, commit, d.Path)
			}
			out, entries = append(out, entries[:n]...), entries[n:]
			if was {
				entries = entries[1:]
			}
			if d.Status != 'D' {
				out = append(out, Entry{Path: d.Path, Mode: modeName(d.NewMode), Blob: d.NewBlob})
			}
		}
	}, args...)
	return append(out, entries...), err
}

// readEntry reads one line of git ls-tree -z; io.EOF: there is none.
func readEntry(br *bufio.Reader, commit string) (Entry, error) {
	line, err := br.ReadSlice(0)
	if err == bufio.ErrBufferFull {
		return Entry{}, &TreeLimitError{"a path of its tree is longer than any file system can hold"}
	}
	if err != nil {
		if len(line) > 0 {
			err = io.ErrUnexpectedEOF
		}
		return Entry{}, err
	}
	head, path, ok := bytes.Cut(line[:len(line)-1], []byte{'\t'})
	f := bytes.Fields(head)
	if !ok || len(f) != 3 {
		return Entry{}, fmt.Errorf("git ls-tree %s: cannot read %.100q", commit, head)
	}
	return Entry{Path: string(path), Mode: modeName(string(f[0])), Blob: string(f[2])}, nil
}

func modeName(mode string) string {
	switch mode {
	case "100755":
		return "executable"
	case "120000":
		return "symlink"
	case "160000":
		return "submodule"
	case "040000":
		return "folder"
	}
	return "file"
}

// Sizes asks for the sizes in bytes of blobs, by id, in one process, or none for none.
// Those that are missing or damaged have none.
func (g *Git) Sizes(ctx context.Context, ids []string) (map[string]int64, error) {
	sizes := make(map[string]int64, len(ids))
	if len(ids) == 0 {
		return sizes, nil
	}
	err := g.stream(ctx, lines(ids), func(r io.Reader) error {
		sc := bufio.NewScanner(r)
		for sc.Scan() {
			id, rest, _ := strings.Cut(sc.Text(), " ")
			if n, err := strconv.ParseInt(rest, 10, 64); err == nil {
				sizes[id] = n
			}
		}
		return sc.Err()
	}, "cat-file", "--buffer", "--batch-check=%(objectname) %(objectsize)")
	return sizes, err
}

func lines(ids []string) io.Reader {
	var b bytes.Buffer
	b.Grow(len(ids) * 41)
	for _, id := range ids {
		b.WriteString(id)
		b.WriteByte('\n')
	}
	return &b
}

// readBatch reads the answer of cat-file --batch to one id; *DamagedError: it is not there,
// or is something else.
func readBatch(br *bufio.Reader, id string) ([]byte, error) {
	head, err := br.ReadString('\n')
	if err != nil {
		return nil, io.ErrUnexpectedEOF
	}
	f := strings.Fields(head)
	if len(f) != 3 {
		return nil, &DamagedError{id}
	}
	n, err := strconv.Atoi(f[2])
	if err != nil || n < 0 {
		return nil, fmt.Errorf("object %s: size %q", f[0], f[2])
	}
	content := make([]byte, n)
	if _, err := io.ReadFull(br, content); err != nil {
		return nil, io.ErrUnexpectedEOF
	}
	if _, err := br.Discard(1); err != nil {
		return nil, io.ErrUnexpectedEOF
	}
	if f[0] != id || f[1] != "blob" || !isContent(id, content) {
		return nil, &DamagedError{id}
	}
	return content, nil
}
