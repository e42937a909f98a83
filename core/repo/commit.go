package repo

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
)

// FullCommit is all that a commit says of itself, its message whole.
type FullCommit struct {
	ID, Tree          string
	Parents           []string
	Author, Committer Signature
	Subject, Message  string // the message without the subject
}

// Signature is who did something and when, in their own zone.
type Signature struct {
	Name, Email string
	At          time.Time
}

// ReadCommit reads one commit by its full id. A message over limit bytes is cut;
// cut tells how many bytes are left out.
func (g *Git) ReadCommit(ctx context.Context, id string, limit int) (c *FullCommit, cut int, err error) {
	out, err := g.Run(ctx, "log", "-1", "--no-decorate", "--no-notes", "--no-color", "--no-show-signature", "--encoding=UTF-8", "--date=raw",
		"--format=tformat:%H%x00%T%x00%P%x00%an%x00%ae%x00%ad%x00%cn%x00%ce%x00%cd%x00%s%n%b", "--end-of-options", id)
	if err != nil {
		return nil, 0, err
	}
	f := strings.SplitN(string(out), "\x00", 10)
	if len(f) < 10 {
		return nil, 0, fmt.Errorf("git log: cannot read commit %s", id)
	}
	c = &FullCommit{ID: f[0], Tree: f[1], Parents: strings.Fields(f[2]), Author: signature(f[3:6]), Committer: signature(f[6:9])}
	subject, body, _ := strings.Cut(f[9], "\n")
	body = strings.Trim(body, "\n")
	if len(body) > limit {
		body, cut = body[:limit], len(body)-limit
	}
	c.Subject, c.Message = clean(subject), clean(body)
	return c, cut, nil
}

// signature reads a name, an address and a raw date: "1700000000 +0100".
func signature(f []string) Signature {
	seconds, zone, _ := strings.Cut(f[2], " ")
	at := time.Unix(moment(seconds), 0).UTC()
	if t, err := time.Parse("-0700", zone); err == nil {
		_, offset := t.Zone()
		at = at.In(time.FixedZone("", offset))
	}
	return Signature{clean(f[0]), clean(f[1]), at}
}

// Difference is one path in which two commits differ.
type Difference struct {
	Change
	OldMode, NewMode string // as git writes them; "000000": not there
	OldBlob, NewBlob string // "": not there
}

// Differences compares two commits path by path, renames found, with lines
// counted; in git's order. old "" is nothing at all.
func (g *Git) Differences(ctx context.Context, old, new string) ([]Difference, error) {
	return g.differences(ctx, old, new, true, nil)
}

// DifferentPaths is Differences without lines: they are not counted, which takes most of
// the time.
func (g *Git) DifferentPaths(ctx context.Context, old, new string) ([]Difference, error) {
	return g.differences(ctx, old, new, false, nil)
}

// mostPathspec is how many bytes of paths git is given at once.
const mostPathspec = 100_000

// CountLines counts the lines of some differences between two commits, in place. Several
// hundred are counted in the time of one.
func (g *Git) CountLines(ctx context.Context, old, new string, list []Difference) error {
	var paths []string
	at := map[string]int{}
	size := 0
	count := func() error {
		counted, err := g.differences(ctx, old, new, true, paths)
		for _, d := range counted {
			if i, ok := at[d.Path]; ok {
				list[i].Added, list[i].Deleted, list[i].Binary = d.Added, d.Deleted, d.Binary
			}
		}
		paths, size = paths[:0], 0
		clear(at)
		return err
	}
	for i, d := range list {
		at[d.Path] = i
		paths = append(paths, d.Path)
		if d.OldPath != "" {
			paths = append(paths, d.OldPath)
		}
		if size += len(d.Path) + len(d.OldPath); size > mostPathspec {
			if err := count(); err != nil {
				return err
			}
		}
	}
	if len(paths) == 0 {
		return nil
	}
	return count()
}

// differences reads git's difference of two trees, of some paths alone where any are given.
func (g *Git) differences(ctx context.Context, old, new string, lines bool, paths []string) ([]Difference, error) {
	args := []string{"--literal-pathspecs", "diff-tree", "-r", "-z", "--raw"}
	if lines {
		args = append(args, "--numstat")
	}
	args = append(args, "--no-abbrev", "-M", "-l"+strconv.Itoa(RenameLimit), "--no-ext-diff", "--no-textconv", "--no-commit-id")
	if old == "" {
		args = append(args, "--root", new)
	} else {
		args = append(args, old, new)
	}
	if len(paths) > 0 {
		args = append(append(args, "--"), paths...)
	}
	var out []Difference
	err := g.stream(ctx, nil, func(r io.Reader) error {
		p := &rawParser{br: bufio.NewReaderSize(r, 1<<16), intern: map[string]string{}}
		counted := 0
		for {
			s, err := p.field()
			if err == io.EOF {
				return nil
			}
			if err != nil {
				return err
			}
			if strings.HasPrefix(s, ":") {
				d, err := p.difference(s)
				if err != nil {
					return err
				}
				out = append(out, d)
				continue
			}
			if counted >= len(out) {
				return fmt.Errorf("git diff-tree: more counts than changes: %.60q", s)
			}
			if err := p.counted(s, &out[counted]); err != nil {
				return err
			}
			counted++
		}
	}, args...)
	return out, err
}

func (p *rawParser) difference(head string) (Difference, error) {
	c, err := p.change(head)
	if err != nil {
		return Difference{}, err
	}
	f := strings.Fields(head)
	d := Difference{Change: c, OldMode: strings.TrimPrefix(f[0], ":"), NewMode: f[1], OldBlob: f[2], NewBlob: f[3]}
	for _, id := range []*string{&d.OldBlob, &d.NewBlob} {
		if strings.Trim(*id, "0") == "" {
			*id = ""
		}
	}
	return d, nil
}

// counted reads "added\tdeleted\tpath"; of a rename the paths follow.
func (p *rawParser) counted(s string, d *Difference) error {
	f := bytes.SplitN([]byte(s), []byte{'\t'}, 3)
	if len(f) < 3 {
		return fmt.Errorf("git diff-tree: cannot read %.60q", s)
	}
	if len(f[2]) == 0 {
		for range 2 {
			if _, err := p.field(); err != nil {
				return io.ErrUnexpectedEOF
			}
		}
	}
	d.Known = true
	if string(f[0]) == "-" {
		d.Binary = true
		return nil
	}
	added, err1 := strconv.ParseInt(string(f[0]), 10, 32)
	deleted, err2 := strconv.ParseInt(string(f[1]), 10, 32)
	if err1 != nil || err2 != nil {
		return fmt.Errorf("git diff-tree: cannot read %.60q", s)
	}
	d.Added, d.Deleted = int32(added), int32(deleted)
	return nil
}
