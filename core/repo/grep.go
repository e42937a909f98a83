package repo

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os/exec"
	"strconv"
)

// Line is a line of a file that holds a text.
type Line struct {
	Path    string // raw
	Number  int    // from 1
	Column  int    // bytes before the first place, from 0
	Text    []byte // of the line, around that place: up to 1,024 bytes before it and 4,096 in all
	Skipped int    // bytes of the line before Text
}

// GrepOptions say what counts as holding a text.
type GrepOptions struct {
	IgnoreCase bool
	Words      bool   // as a word by itself
	Below      string // only in files below this folder; "": in all
}

// errStop ends a search that has enough.
var errStop = errors.New("enough")

// Grep finds the lines of a commit's text files that hold one of some texts, in
// the order of paths, and calls do for each until it returns false.
func (g *Git) Grep(ctx context.Context, commit string, texts []string, o GrepOptions, do func(Line) bool) error {
	args := []string{"--literal-pathspecs", "grep", "-n", "-I", "-F", "-z", "--column", "--full-name", "--no-color", "--no-recurse-submodules", "--threads=2"}
	if o.IgnoreCase {
		args = append(args, "-i")
	}
	if o.Words {
		args = append(args, "-w")
	}
	for _, t := range texts {
		args = append(args, "-e", t)
	}
	args = append(args, commit)
	if o.Below != "" {
		args = append(args, "--", o.Below)
	}
	err := g.stream(ctx, nil, func(r io.Reader) error {
		p := &grepParser{br: bufio.NewReaderSize(r, 1<<16), skip: len(commit) + 1}
		for {
			l, err := p.line()
			if err == io.EOF {
				return nil
			}
			if err != nil {
				return err
			}
			if !do(l) {
				return errStop
			}
		}
	}, args...)
	var status *exec.ExitError
	if errors.Is(err, errStop) || errors.As(err, &status) && status.ExitCode() == 1 {
		return nil // it was ended, or nothing was found
	}
	return err
}

// grepParser reads "commit:path NUL number NUL column NUL text LF".
type grepParser struct {
	br   *bufio.Reader
	skip int // bytes before the path
}

// How much of a line is kept, and how much of that before the place.
const (
	maxGrepLine = 4096
	leadIn      = 1024
)

func (p *grepParser) line() (Line, error) {
	path, err := p.br.ReadString(0)
	if err == io.EOF && path == "" {
		return Line{}, io.EOF
	}
	if err != nil || len(path) <= p.skip {
		return Line{}, io.ErrUnexpectedEOF
	}
	l := Line{Path: path[p.skip : len(path)-1]}
	for _, into := range []*int{&l.Number, &l.Column} {
		field, err := p.br.ReadSlice(0)
		if err != nil {
			return l, io.ErrUnexpectedEOF
		}
		if *into, err = strconv.Atoi(string(field[:len(field)-1])); err != nil {
			return l, fmt.Errorf("git grep: cannot read %.40q", field)
		}
	}
	l.Column--
	l.Skipped = max(0, l.Column-leadIn)
	for at := 0; ; {
		part, err := p.br.ReadSlice('\n')
		if from := max(0, l.Skipped-at); from < len(part) && len(l.Text) < maxGrepLine {
			l.Text = append(l.Text, part[from:min(len(part), from+maxGrepLine-len(l.Text))]...)
		}
		at += len(part)
		if err == bufio.ErrBufferFull {
			continue
		}
		if err != nil && err != io.EOF {
			return l, err
		}
		break
	}
	l.Text = bytes.TrimRight(l.Text, "\r\n")
	return l, nil
}
