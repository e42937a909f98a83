package repo

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"strconv"
	"strings"
)

// RenameLimit is how many added and how many removed files of one commit git
// compares in search of renames; larger commits show as additions and
// deletions.
const RenameLimit = 1000

// Change is one path that a commit changed against its only parent (or
// against nothing, for a root commit). Merges have none.
type Change struct {
	Status  byte   // A added, D deleted, M modified, R renamed, T changed its type
	Path    string // after the commit; before it for D
	OldPath string // for R only
	Link    bool   // a submodule's commit, not a file
	Counts         // filled by LineChanges
}

// Counts are the lines a change added and deleted, with the places. Binary
// content has no lines; Known tells that the counts were taken.
type Counts struct {
	Known, Binary  bool
	Added, Deleted int32
	Hunks          []Hunk
	Kept           []Kept // in the order of the patch
}

// Kept is a changed line that the reader of a patch asked to keep.
type Kept struct {
	Line    int32 // from 1; in the text before the change for one that was taken away
	Removed bool
	Text    string // at most MaxKept bytes
}

// MaxKept is how much of a line is kept, and looked at.
const MaxKept = 400

// Hunk is one changed run of lines, without context: line numbers from 1; a
// count of 0 means that the run lies behind that line.
type Hunk struct{ OldStart, OldCount, NewStart, NewCount int32 }

// Changes finds which paths each commit changed, renames included, and calls
// do for each commit that changed any, in the order of ids. Paths are raw.
func (g *Git) Changes(ctx context.Context, ids []string, do func(id string, changes []Change) error) error {
	return g.stream(ctx, lines(ids), func(r io.Reader) error {
		p := &rawParser{br: bufio.NewReaderSize(r, 1<<18), intern: map[string]string{}}
		return p.run(do)
	}, changeArgs...)
}

// changeArgs ask for the paths that the commits on standard input changed.
var changeArgs = []string{"diff-tree", "--stdin", "--root", "-r", "-z", "--raw", "--no-abbrev", "-M", "-l" + strconv.Itoa(RenameLimit), "--no-ext-diff"}

type rawParser struct {
	br     *bufio.Reader
	intern map[string]string
	odd    bool // SafePath rewrote a path
}

func (p *rawParser) field() (string, error) {
	b, err := p.br.ReadSlice(0)
	if err == bufio.ErrBufferFull {
		rest, err2 := p.br.ReadString(0)
		if err2 != nil {
			return "", io.ErrUnexpectedEOF
		}
		return string(b) + rest[:len(rest)-1], nil
	}
	if err == io.EOF && len(b) == 0 {
		return "", io.EOF
	}
	if err != nil {
		return "", io.ErrUnexpectedEOF
	}
	b = b[:len(b)-1]
	if s, ok := p.intern[string(b)]; ok {
		return s, nil
	}
	s := string(b)
	if !strings.HasPrefix(s, ":") {
		p.intern[s] = s
	}
	return s, nil
}

func (p *rawParser) run(do func(string, []Change) error) error {
	id := ""
	var changes []Change
	flush := func() error {
		if id == "" {
			return nil
		}
		return do(id, changes)
	}
	for {
		s, err := p.field()
		if err == io.EOF {
			return flush()
		}
		if err != nil {
			return err
		}
		if !strings.HasPrefix(s, ":") {
			if err := flush(); err != nil {
				return err
			}
			id, changes = s, nil
			continue
		}
		c, err := p.change(s)
		if err != nil {
			return err
		}
		if changes = append(changes, c); len(changes) > DefaultTreeLimits.Entries {
			return &TreeLimitError{fmt.Sprintf("commit %.12s changes more than %d files", id, DefaultTreeLimits.Entries)}
		}
	}
}

func (p *rawParser) change(head string) (Change, error) {
	f := strings.Fields(head)
	if len(f) != 5 || f[4] == "" {
		return Change{}, fmt.Errorf("git diff-tree: cannot read %.100q", head)
	}
	c := Change{Status: f[4][0], Link: f[0] == ":160000" || f[1] == "160000"}
	var err error
	if c.Status == 'R' || c.Status == 'C' {
		if c.OldPath, err = p.field(); err != nil {
			return c, io.ErrUnexpectedEOF
		}
	}
	if c.Path, err = p.field(); err != nil {
		return c, io.ErrUnexpectedEOF
	}
	var odd [2]bool
	c.Path, odd[0] = SafePath(c.Path)
	if c.OldPath != "" {
		c.OldPath, odd[1] = SafePath(c.OldPath)
	}
	p.odd = p.odd || odd[0] || odd[1]
	return c, nil
}

// LineChanges counts the lines that each change of each commit added and
// deleted. known gives a commit's changes as Changes found them, in order; do
// gets the counts in the same order. Bytes of the patches are only counted
// and passed over, so hostile content cannot pose as structure. Lines for which
// keep says so are kept with the counts; nil: none.
func (g *Git) LineChanges(ctx context.Context, ids []string, known func(id string) []Change, keep func(line []byte) bool, do func(id string, counts []Counts) error) error {
	return g.stream(ctx, lines(ids), func(r io.Reader) error {
		p := &patchParser{br: bufio.NewReaderSize(r, 1<<18), keep: keep}
		for {
			id, err := p.commit()
			if err == io.EOF {
				return nil
			}
			if err != nil {
				return err
			}
			counts, err := p.counts(known(id))
			if err != nil {
				return fmt.Errorf("changes of %s: %w", id, err)
			}
			if err := do(id, counts); err != nil {
				return err
			}
		}
	}, "diff-tree", "--stdin", "--root", "-r", "-p", "-U0", "-M", "-l"+strconv.Itoa(RenameLimit),
		"--no-ext-diff", "--no-textconv", "--no-color", "--submodule=short", "--src-prefix=a/", "--dst-prefix=b/")
}

type patchParser struct {
	br     *bufio.Reader
	peeked []byte // a line read ahead; nil: none
	keep   func(line []byte) bool
}

// line reads one line without its end; long lines are cut at the buffer.
func (p *patchParser) line() ([]byte, error) {
	if p.peeked != nil {
		l := p.peeked
		p.peeked = nil
		return l, nil
	}
	b, err := p.br.ReadSlice('\n')
	switch err {
	case nil:
		return b[:len(b)-1], nil
	case bufio.ErrBufferFull:
		head := append([]byte(nil), b[:min(len(b), 4096)]...)
		return head, p.skipLine()
	case io.EOF:
		if len(b) == 0 {
			return nil, io.EOF
		}
		return b, nil
	}
	return nil, err
}

func (p *patchParser) skipLine() error {
	for {
		_, err := p.br.ReadSlice('\n')
		if err == bufio.ErrBufferFull {
			continue
		}
		return err
	}
}

func (p *patchParser) commit() (string, error) {
	for {
		l, err := p.line()
		if err != nil {
			return "", err
		}
		if len(l) == 0 {
			continue // diff-tree sets an empty line between commit and patch
		}
		if !isID(l) {
			return "", fmt.Errorf("git diff-tree: expected a commit, got %.60q", l)
		}
		return string(l), nil
	}
}

func isID(l []byte) bool {
	if len(l) != 40 && len(l) != 64 {
		return false
	}
	for _, c := range l {
		if (c < '0' || c > '9') && (c < 'a' || c > 'f') {
			return false
		}
	}
	return true
}

// counts reads the patches of one commit: one for each change, two where the
// type changed.
func (p *patchParser) counts(changes []Change) ([]Counts, error) {
	out := make([]Counts, len(changes))
	for i, c := range changes {
		patches := 1
		if c.Status == 'T' {
			patches = 2
		}
		for range patches {
			if err := p.patch(&out[i], c); err != nil {
				return nil, err
			}
		}
		out[i].Known = true
	}
	return out, nil
}

var diffGit = []byte("diff --git ")

func (p *patchParser) patch(into *Counts, c Change) error {
	for {
		l, err := p.line()
		if err != nil {
			return io.ErrUnexpectedEOF
		}
		if len(l) == 0 {
			continue
		}
		if !bytes.HasPrefix(l, diffGit) {
			return fmt.Errorf("git diff-tree: expected a patch of %q, got %.60q", c.Path, l)
		}
		break
	}
	for {
		l, err := p.line()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		switch {
		case bytes.HasPrefix(l, []byte("@@ ")):
			if err := p.hunk(l, into, c.Link); err != nil {
				return err
			}
		case bytes.HasPrefix(l, []byte("Binary files ")):
			into.Binary = true
		case bytes.HasPrefix(l, diffGit), isID(l), len(l) == 0:
			p.peeked = append(make([]byte, 0, len(l)+1), l...)
			return nil
		}
	}
}

func (p *patchParser) hunk(head []byte, into *Counts, link bool) error {
	h, err := parseHunk(head)
	if err != nil {
		return err
	}
	for n := range h.OldCount + h.NewCount {
		line, err := p.pass()
		if err != nil {
			return io.ErrUnexpectedEOF
		}
		if p.keep != nil && !link && len(line) > 1 && p.keep(line[1:]) {
			k := Kept{Line: h.OldStart + n, Removed: true, Text: string(line[1:])}
			if n >= h.OldCount {
				k.Line, k.Removed = h.NewStart+n-h.OldCount, false
			}
			into.Kept = append(into.Kept, k)
		}
		if b, err := p.br.Peek(1); err == nil && b[0] == '\\' {
			if _, err := p.pass(); err != nil {
				return io.ErrUnexpectedEOF
			}
		}
	}
	if link {
		return nil
	}
	into.Added += h.NewCount
	into.Deleted += h.OldCount
	into.Hunks = append(into.Hunks, h)
	return nil
}

// pass reads a line of a hunk, with its sign; it is valid until the next, and
// cut at MaxKept bytes.
func (p *patchParser) pass() ([]byte, error) {
	b, err := p.br.ReadSlice('\n')
	if err == nil || err == io.EOF && len(b) > 0 {
		b = bytes.TrimSuffix(b, newline)
		return b[:min(len(b), MaxKept)], nil
	}
	if err == bufio.ErrBufferFull {
		head := bytes.Clone(b[:MaxKept])
		return head, p.skipLine()
	}
	return nil, err
}

var newline = []byte{'\n'}

// parseHunk reads "@@ -a,b +c,d @@"; a count left out is 1.
func parseHunk(l []byte) (Hunk, error) {
	f := bytes.Fields(l)
	if len(f) < 4 || len(f[1]) < 2 || len(f[2]) < 2 || f[1][0] != '-' || f[2][0] != '+' {
		return Hunk{}, fmt.Errorf("git diff-tree: cannot read %.60q", l)
	}
	var h Hunk
	var err1, err2 error
	h.OldStart, h.OldCount, err1 = span(f[1][1:])
	h.NewStart, h.NewCount, err2 = span(f[2][1:])
	if err1 != nil || err2 != nil {
		return Hunk{}, fmt.Errorf("git diff-tree: cannot read %.60q", l)
	}
	return h, nil
}

func span(b []byte) (start, count int32, err error) {
	s, c, found := strings.Cut(string(b), ",")
	n, err := strconv.ParseInt(s, 10, 32)
	if err != nil {
		return 0, 0, err
	}
	m := int64(1)
	if found {
		if m, err = strconv.ParseInt(c, 10, 32); err != nil {
			return 0, 0, err
		}
	}
	return int32(n), int32(m), nil
}

// ReadPatch reads the patch of one change, as `git diff-tree -p -U0` writes
// it, and counts its lines.
func ReadPatch(br *bufio.Reader, c Change) (Counts, error) {
	var counts Counts
	p := &patchParser{br: br}
	err := p.patch(&counts, c)
	return counts, err
}
