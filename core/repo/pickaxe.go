package repo

import (
	"bufio"
	"context"
	"io"
	"regexp"
	"runtime"
	"sync"
)

// LineSearch asks for commits by the lines that they added or took away.
// Capitals do not count.
type LineSearch struct {
	Texts []LineText // a commit must fit each
	Paths []string   // raw; lines of these files or folders alone; none: of all
}

// LineText is a text that a changed line must hold, or none may.
type LineText struct {
	Text string
	Not  bool
}

const (
	firstPart = 40  // commits read before the first hits are told
	laterPart = 400 // and at once from then on
)

// ChangedLines reads the changes of commits, in order and several parts side by
// side, and calls do with each that fits, and with "" now and then, with how
// many have been read. It ends early where do returns false.
func (g *Git) ChangedLines(ctx context.Context, ids []string, search LineSearch, do func(id string, read int) bool) error {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	type part struct {
		ids   []string
		found []string
		err   error
		done  chan struct{}
	}
	var parts []*part
	for at, n := 0, firstPart; at < len(ids); at, n = at+n, laterPart {
		parts = append(parts, &part{ids: ids[at:min(at+n, len(ids))], done: make(chan struct{})})
	}
	var wait sync.WaitGroup
	defer wait.Wait()
	defer cancel()
	next := make(chan *part)
	for range min(runtime.GOMAXPROCS(0), len(parts)) {
		wait.Go(func() {
			for p := range next {
				p.found, p.err = g.fitting(ctx, p.ids, search)
				close(p.done)
			}
		})
	}
	wait.Go(func() {
		defer close(next)
		for _, p := range parts {
			select {
			case next <- p:
			case <-ctx.Done():
				return
			}
		}
	})
	read := 0
	for _, p := range parts {
		select {
		case <-p.done:
		case <-ctx.Done():
			return ctx.Err()
		}
		if p.err != nil {
			return p.err
		}
		read += len(p.ids)
		for _, id := range p.found {
			if !do(id, read) {
				return nil
			}
		}
		if !do("", read) {
			return nil
		}
	}
	return nil
}

// fitting are those of some commits that fit a search, in order.
func (g *Git) fitting(ctx context.Context, ids []string, search LineSearch) ([]string, error) {
	for _, t := range search.Texts {
		if len(ids) == 0 {
			return nil, nil
		}
		has := make(map[string]bool)
		args := append([]string{"--literal-pathspecs"}, changeArgs...)
		args = append(args, "--no-textconv", "--extended-regexp", "--regexp-ignore-case", "-G"+regexp.QuoteMeta(t.Text))
		if len(search.Paths) > 0 {
			args = append(append(args, "--"), search.Paths...)
		}
		err := g.stream(ctx, lines(ids), func(r io.Reader) error {
			p := &rawParser{br: bufio.NewReaderSize(r, 1<<16), intern: map[string]string{}}
			return p.run(func(id string, changes []Change) error {
				if len(changes) > 0 {
					has[id] = true
				}
				return nil
			})
		}, args...)
		if err != nil {
			return nil, err
		}
		var kept []string
		for _, id := range ids {
			if has[id] != t.Not {
				kept = append(kept, id)
			}
		}
		ids = kept
	}
	return ids, nil
}
