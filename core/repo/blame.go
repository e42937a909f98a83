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

// Blame tells which commit each line of a file comes from.
type Blame struct {
	Commits []string   `json:"commits"`
	Paths   []string   `json:"paths"` // of the file in each commit, raw
	Runs    []BlameRun `json:"runs"`  // of lines, in their order
}

// BlameRun are lines in a row that come from one commit and stood in a row there.
type BlameRun struct {
	Commit int32 `json:"c"` // index in Commits
	Count  int32 `json:"n"`
	Line   int32 `json:"l"` // of the first of them in that commit, from 1
}

// Blame reads the line history of a file, by its raw path, at a commit. Changes
// by the commits in ignored are passed over where it can be told what stood
// there before.
func (g *Git) Blame(ctx context.Context, commit, path string, ignored []string) (*Blame, error) {
	args := []string{"--literal-pathspecs", "blame", "--porcelain", "--root"}
	for _, id := range ignored {
		args = append(args, "--ignore-rev", id)
	}
	args = append(args, commit, "--", path)
	b := &Blame{Commits: []string{}, Paths: []string{}, Runs: []BlameRun{}}
	err := g.stream(ctx, nil, func(r io.Reader) error { return b.read(bufio.NewReaderSize(r, 1<<16)) }, args...)
	return b, err
}

// read takes porcelain lines: a head for each line of the file, with the
// number of lines in its group on the first of a group; facts of a commit once;
// and the line itself behind a tab.
func (b *Blame) read(r *bufio.Reader) error {
	type source struct{ id, path string }
	known := map[source]int32{}
	paths := map[string]string{} // commit → path, as told last
	var head []string
	for {
		line, err := readHead(r)
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		switch {
		case len(line) > 0 && line[0] == '\t':
			if len(head) < 3 {
				return fmt.Errorf("git blame: a line without a head: %.40q", line)
			}
			at, err := strconv.ParseInt(head[1], 10, 32)
			if err != nil {
				return fmt.Errorf("git blame: cannot read %.60q", head)
			}
			from := source{strings.Clone(head[0]), paths[head[0]]}
			n, ok := known[from]
			if !ok {
				n = int32(len(b.Commits))
				known[from] = n
				b.Commits, b.Paths = append(b.Commits, from.id), append(b.Paths, from.path)
			}
			if k := len(b.Runs) - 1; k >= 0 && b.Runs[k].Commit == n && b.Runs[k].Line+b.Runs[k].Count == int32(at) {
				b.Runs[k].Count++
			} else {
				b.Runs = append(b.Runs, BlameRun{n, 1, int32(at)})
			}
		case bytes.HasPrefix(line, []byte("filename ")):
			if len(head) > 0 {
				paths[head[0]] = unquoted(string(line[len("filename "):]))
			}
		default:
			if f := bytes.Fields(line); len(f) >= 3 && isID(f[0]) {
				head = strings.Fields(string(line))
			}
		}
	}
}

// readHead reads one line without its end; of long ones the beginning.
func readHead(r *bufio.Reader) ([]byte, error) {
	line, err := r.ReadSlice('\n')
	if err == bufio.ErrBufferFull {
		head := append([]byte(nil), line[:256]...)
		for err == bufio.ErrBufferFull {
			_, err = r.ReadSlice('\n')
		}
		if err == io.EOF {
			err = nil
		}
		return head, err
	}
	if err == io.EOF && len(line) > 0 {
		return line, nil
	}
	return bytes.TrimSuffix(line, []byte{'\n'}), err
}

// unquoted takes back git's quotes around an odd path.
func unquoted(p string) string {
	if len(p) < 2 || p[0] != '"' {
		return p
	}
	var out []byte
	for i := 1; i < len(p)-1; i++ {
		if p[i] != '\\' {
			out = append(out, p[i])
			continue
		}
		i++
		if i+2 < len(p) && p[i] >= '0' && p[i] <= '3' {
			if n, err := strconv.ParseUint(p[i:i+3], 8, 8); err == nil {
				out = append(out, byte(n))
				i += 2
				continue
			}
		}
		if k := strings.IndexByte("abfnrtv", p[i]); k >= 0 {
			out = append(out, "\a\b\f\n\r\t\v"[k])
		} else {
			out = append(out, p[i])
		}
	}
	return string(out)
}
