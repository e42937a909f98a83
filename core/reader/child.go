package reader

import (
	"bufio"
	"context"
	"encoding/binary"
	"fmt"
	"io"
	"os"
	"runtime/debug"
	"sync/atomic"
	"syscall"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

// asked is the environment variable that makes this program a reader.
const asked = "JUXTAGRAM_READER"

// maxData is how much memory a reader may take, in bytes.
const maxData = 3 << 30

// collectAbove is how much of Go's memory makes a reader tidy up sooner, in bytes.
const collectAbove = 160 << 20

var ready atomic.Bool

// ReadFunc takes the facts of one blob; the language is a name, "" for what the
// text itself says.
type ReadFunc func(ctx context.Context, language string, content []byte) *facts.Facts

// Read is the ReadFunc of this process: facts with their details packed.
func Read(ctx context.Context, language string, content []byte) *facts.Facts {
	l := all.ByName(language)
	if l == nil {
		l = all.Of("", content)
	}
	f := facts.Of(ctx, l, content)
	f.Pack()
	return &f
}

// Main serves and does not return if this process was started as a reader.
// Otherwise it tells the package that it may start such processes.
func Main(read ReadFunc) {
	if os.Getenv(asked) == "" {
		ready.Store(true)
		return
	}
	debug.SetGCPercent(400) // little lives from one blob to the next
	debug.SetMemoryLimit(collectAbove)
	if err := limitMemory(); err != nil {
		fmt.Fprintln(os.Stderr, "reader:", err)
	}
	if err := serve(os.Stdin, os.Stdout, read); err != nil {
		fmt.Fprintln(os.Stderr, "reader:", err)
		os.Exit(1)
	}
	os.Exit(0)
}

func limitMemory() error {
	return syscall.Setrlimit(syscall.RLIMIT_DATA, &syscall.Rlimit{Cur: maxData, Max: maxData})
}

// maxHeld is how many answers are held back at most: what was not sent is asked for
// again if the next blob ends the reader.
const maxHeld = 8

// serve answers requests until the input ends. A request is a language's name
// and a content, an answer the facts in CBOR, the packed details and the parts that other files may ask
// for, each with
// its length in four bytes before it.
func serve(in io.Reader, out io.Writer, read ReadFunc) error {
	requests, answers := bufio.NewReaderSize(in, 1<<16), bufio.NewWriterSize(out, 1<<16)
	for held := 0; ; {
		name, err := receive(requests)
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		content, err := receive(requests)
		if err != nil {
			return err
		}
		got := read(context.Background(), string(name), content)
		brief, err := cbor.Marshal(got)
		if err != nil {
			return err
		}
		if err := send(answers, brief, got.Packed, got.Linked.Head, got.Linked.Matter, got.Linked.Terms); err != nil {
			return err
		}
		if held++; held < maxHeld && requests.Buffered() > 0 {
			continue // more was asked at once, and is answered at once
		}
		held = 0
		if err := answers.Flush(); err != nil {
			return err
		}
	}
}

func send(w io.Writer, parts ...[]byte) error {
	for _, p := range parts {
		var size [4]byte
		binary.LittleEndian.PutUint32(size[:], uint32(len(p)))
		if _, err := w.Write(size[:]); err != nil {
			return err
		}
		if _, err := w.Write(p); err != nil {
			return err
		}
	}
	return nil
}

// maxPart bounds what one side believes of the other's lengths.
const maxPart = 1 << 30

func receive(r io.Reader) ([]byte, error) {
	var head [4]byte
	if _, err := io.ReadFull(r, head[:]); err != nil {
		return nil, err
	}
	size := binary.LittleEndian.Uint32(head[:])
	if size > maxPart {
		return nil, fmt.Errorf("a part of %d bytes", size)
	}
	if size == 0 {
		return nil, nil
	}
	part := make([]byte, size)
	_, err := io.ReadFull(r, part)
	return part, err
}

// givenUp are the facts of a blob that could not be read. Passing: another
// attempt may well read it.
func givenUp(reason string, passing bool) *facts.Facts {
	return &facts.Facts{Depth: lang.Listed, Reason: reason, Passing: passing}
}
