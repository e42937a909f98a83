package reader

import (
	"bufio"
	"context"
	"io"
	"runtime/debug"

	"github.com/fxamacker/cbor/v2"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/sandbox"
)

// maxData is how much memory a reader may take, in bytes.
const maxData = 3 << 30

// collectAbove is how much of Go's memory makes a reader tidy up sooner, in bytes.
const collectAbove = 160 << 20

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

// Kind is the kind of child that reads by Read.
var Kind = KindOf(Read)

const kindName = "reader"

// KindOf is the kind of child that reads by another function, for tests.
func KindOf(read ReadFunc) sandbox.Kind {
	return sandbox.Kind{Name: kindName, Serve: func(in io.Reader, out io.Writer) error {
		debug.SetGCPercent(400) // little lives from one blob to the next
		debug.SetMemoryLimit(collectAbove)
		return serve(in, out, read)
	}}
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
		name, err := sandbox.Receive(requests)
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		content, err := sandbox.Receive(requests)
		if err != nil {
			return err
		}
		got := read(context.Background(), string(name), content)
		brief, err := cbor.Marshal(got)
		if err != nil {
			return err
		}
		if err := sandbox.Send(answers, brief, got.Packed, got.Linked.Head, got.Linked.Matter, got.Linked.Terms); err != nil {
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

// givenUp are the facts of a blob that could not be read. Passing: another
// attempt may well read it.
func givenUp(reason string, passing bool) *facts.Facts {
	return &facts.Facts{Depth: lang.Listed, Reason: reason, Passing: passing}
}
