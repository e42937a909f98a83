package repo

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os/exec"
	"strings"
	"sync"
)

// Blobs answers single requests for objects from one long-lived process. It
// is safe for concurrent use; requests are served one after another. Close it.
type Blobs struct {
	mu   sync.Mutex
	git  *Git
	stop context.CancelFunc
	cmd  *exec.Cmd
	in   io.WriteCloser
	out  *bufio.Reader
}

// TooLargeError tells that an object is larger than the caller wants to hold.
type TooLargeError struct {
	ID          string
	Size, Limit int64
}

func (e *TooLargeError) Error() string {
	return fmt.Sprintf("object %s has %d bytes, more than the limit of %d", e.ID, e.Size, e.Limit)
}

// ErrNoFile tells that an object is there, but is not a file's content.
var ErrNoFile = errors.New("it is no file")

// Size is how many bytes a blob has.
func (b *Blobs) Size(id string) (int64, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if strings.ContainsAny(id, " \n\x00") || id == "" {
		return 0, fmt.Errorf("object id %q", id)
	}
	if err := b.start(); err != nil {
		return 0, err
	}
	return b.ask("info", id)
}

// Blobs prepares a reader of single objects; its process starts with the first
// request and is started anew when it has ended.
func (g *Git) Blobs() *Blobs { return &Blobs{git: g} }

// Read returns an object's content, at most limit bytes of size: a larger one
// gives *TooLargeError without being read.
func (b *Blobs) Read(id string, limit int64) ([]byte, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if strings.ContainsAny(id, " \n\x00") || id == "" {
		return nil, fmt.Errorf("object id %q", id)
	}
	if err := b.start(); err != nil {
		return nil, err
	}
	size, err := b.ask("info", id)
	if err != nil {
		return nil, err
	}
	if size > limit {
		return nil, &TooLargeError{ID: id, Size: size, Limit: limit}
	}
	if _, err := b.ask("contents", id); err != nil {
		return nil, err
	}
	content := make([]byte, size)
	if _, err := io.ReadFull(b.out, content); err != nil {
		b.end()
		return nil, err
	}
	if _, err := b.out.Discard(1); err != nil {
		b.end()
		return nil, err
	}
	if !isContent(id, content) {
		return nil, &DamagedError{id}
	}
	return content, nil
}

// Find is the id of the file at a raw path of a commit; ErrNoFile: there is
// none.
func (b *Blobs) Find(commit, path string) (string, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	relative := strings.HasPrefix(path, "./") || strings.HasPrefix(path, "../") // git would ask for a work tree, and end
	if !isID([]byte(commit)) || strings.ContainsAny(path, "\n\x00") || path == "" || relative {
		return "", fmt.Errorf("%q at %q: %w", path, commit, ErrNoFile)
	}
	if err := b.start(); err != nil {
		return "", err
	}
	head, err := b.answer("info " + commit + ":" + path)
	if err != nil {
		return "", fmt.Errorf("%s at %s: git ended: %w", path, commit, err)
	}
	id, rest, _ := strings.Cut(strings.TrimSuffix(head, "\n"), " ")
	if !isID([]byte(id)) || !strings.HasPrefix(rest, "blob ") {
		return "", fmt.Errorf("%s at %s: %w", path, commit, ErrNoFile)
	}
	return id, nil
}

// FindShown is Find by a path as EscapePath shows it: one that is valid UTF-8 stands for
// itself, and where no file has it, for the one that it escapes.
func (b *Blobs) FindShown(commit, shown string) (string, error) {
	id, err := b.Find(commit, shown)
	if !errors.Is(err, ErrNoFile) || !strings.Contains(shown, "%") {
		return id, err
	}
	raw, bad := UnescapePath(shown, true)
	if bad != nil {
		return "", err
	}
	return b.Find(commit, raw)
}

func (b *Blobs) ask(what, id string) (int64, error) {
	head, err := b.answer(what + " " + id)
	if err == io.EOF {
		return 0, &DamagedError{id} // git ends over one that it cannot read
	}
	if err != nil {
		return 0, err
	}
	var got, typ string
	var size int64
	if n, _ := fmt.Sscanf(head, "%s %s %d", &got, &typ, &size); n != 3 {
		return 0, &DamagedError{id}
	}
	if typ != "blob" {
		if what == "contents" {
			b.end() // what follows is not read
		}
		return 0, fmt.Errorf("object %s is a %s: %w", id, typ, ErrNoFile)
	}
	return size, nil
}

// answer asks git and reads the first line of what it says. A process that has ended,
// as the repository was made anew meanwhile, is started again once; io.EOF: it ended
// over the question.
func (b *Blobs) answer(question string) (head string, err error) {
	for range 2 {
		if err = b.start(); err != nil {
			return "", err
		}
		if _, err = io.WriteString(b.in, question+"\n"); err == nil {
			if head, err = b.out.ReadString('\n'); err == nil {
				return head, nil
			}
		}
		b.end()
	}
	return "", io.EOF
}

func (b *Blobs) start() error {
	if b.cmd != nil {
		return nil
	}
	ctx, stop := context.WithCancel(context.Background())
	cmd := b.git.Command(ctx, nil, "cat-file", "--batch-command")
	in, err := cmd.StdinPipe()
	if err != nil {
		stop()
		return err
	}
	out, err := cmd.StdoutPipe()
	if err != nil {
		stop()
		return err
	}
	if err := cmd.Start(); err != nil {
		stop()
		return err
	}
	b.cmd, b.in, b.out, b.stop = cmd, in, bufio.NewReaderSize(out, 1<<16), stop
	return nil
}

func (b *Blobs) end() {
	if b.cmd == nil {
		return
	}
	_ = b.in.Close()
	b.stop()
	_ = b.cmd.Wait()
	b.cmd = nil
}

// Close ends the process.
func (b *Blobs) Close() {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.end()
}
