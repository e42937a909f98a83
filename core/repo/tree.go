package repo

import (
	"bufio"
	"bytes"
	"context"
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
// tree, in git's order; folders have the mode "folder" and their tree's id.
func (g *Git) Folder(ctx context.Context, commit, dir string) ([]Entry, error) {
	args := []string{"--literal-pathspecs", "ls-tree", "-z", "--full-tree", commit}
	if dir != "" {
		args = append(args, "--", strings.TrimSuffix(dir, "/")+"/")
	}
	out, err := g.Run(ctx, args...)
	if err != nil {
		return nil, err
	}
	return entries(commit, out)
}

// Tree lists every path below prefix ("" for all) of a commit's tree, in git's
// path order.
func (g *Git) Tree(ctx context.Context, commit, prefix string) ([]Entry, error) {
	args := []string{"--literal-pathspecs", "ls-tree", "-r", "-z", "--full-tree", commit}
	if prefix != "" {
		args = append(args, "--", strings.TrimSuffix(prefix, "/")+"/")
	}
	out, err := g.Run(ctx, args...)
	if err != nil {
		return nil, err
	}
	return entries(commit, out)
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

// entries reads what git ls-tree -z printed.
func entries(commit string, out []byte) ([]Entry, error) {
	entries := make([]Entry, 0, bytes.Count(out, []byte{0}))
	for len(out) > 0 {
		end := bytes.IndexByte(out, 0)
		tab := bytes.IndexByte(out, '\t')
		if end < 0 || tab < 0 || tab > end {
			return nil, fmt.Errorf("git ls-tree %s: cannot read its output", commit)
		}
		f := bytes.Fields(out[:tab])
		if len(f) != 3 {
			return nil, fmt.Errorf("git ls-tree %s: cannot read %q", commit, out[:tab])
		}
		entries = append(entries, Entry{Path: string(out[tab+1 : end]), Mode: modeName(string(f[0])), Blob: string(f[2])})
		out = out[end+1:]
	}
	return entries, nil
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

// Sizes asks for the sizes in bytes of blobs, by id, in one process, or none for none. A missing
// object is an error that names it.
func (g *Git) Sizes(ctx context.Context, ids []string) (map[string]int64, error) {
	sizes := make(map[string]int64, len(ids))
	if len(ids) == 0 {
		return sizes, nil
	}
	err := g.stream(ctx, lines(ids), func(r io.Reader) error {
		sc := bufio.NewScanner(r)
		for sc.Scan() {
			id, rest, _ := strings.Cut(sc.Text(), " ")
			n, err := strconv.ParseInt(rest, 10, 64)
			if err != nil {
				return fmt.Errorf("object %s is missing or damaged", id)
			}
			sizes[id] = n
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

// EachBlob reads blobs in one process and calls do with each, in the order of
// ids. The content is do's to keep. Ids must be full and known to exist.
func (g *Git) EachBlob(ctx context.Context, ids []string, do func(id string, content []byte) error) error {
	if len(ids) == 0 {
		return nil
	}
	return g.stream(ctx, lines(ids), func(r io.Reader) error {
		br := bufio.NewReaderSize(r, 1<<18)
		for range ids {
			id, content, err := readBatch(br)
			if err != nil {
				return err
			}
			if err := do(id, content); err != nil {
				return err
			}
		}
		return nil
	}, "cat-file", "--batch", "--buffer")
}

// readBatch reads one answer of cat-file --batch.
func readBatch(br *bufio.Reader) (id string, content []byte, err error) {
	head, err := br.ReadString('\n')
	if err != nil {
		return "", nil, io.ErrUnexpectedEOF
	}
	f := strings.Fields(head)
	if len(f) != 3 {
		return "", nil, fmt.Errorf("object %s is missing or damaged", strings.TrimSpace(head))
	}
	n, err := strconv.Atoi(f[2])
	if err != nil {
		return "", nil, fmt.Errorf("object %s: size %q", f[0], f[2])
	}
	content = make([]byte, n)
	if _, err := io.ReadFull(br, content); err != nil {
		return "", nil, io.ErrUnexpectedEOF
	}
	if _, err := br.Discard(1); err != nil {
		return "", nil, io.ErrUnexpectedEOF
	}
	return f[0], content, nil
}
