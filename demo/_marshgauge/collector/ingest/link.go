package ingest

import (
	"bufio"
	"io"
	"log"
	"time"

	"marshgauge.test/collector/level"
)

// Link reads frames from the radio and hands each new reading on.
type Link struct {
	in    *bufio.Reader
	seen  *Dedupe
	hand  func(Reading)
	clock func() time.Time

	Frames, Damaged, Repeats int
}

// NewLink reads from in; hand is called from Run's goroutine.
func NewLink(in io.Reader, hand func(Reading)) *Link {
	return &Link{in: bufio.NewReader(in), seen: NewDedupe(window), hand: hand, clock: time.Now}
}

// Run reads until the radio goes away. After a damaged frame it looks for the
// next start byte, one byte on.
func (l *Link) Run() {
	for {
		wire, err := l.in.Peek(FrameSize)
		if err != nil {
			log.Printf("radio away after %d frames, %d damaged: %v", l.Frames, l.Damaged, err)
			return
		}
		r, err := Unpack(wire, l.clock())
		if err != nil || !level.Plausible(int(r.LevelMM)) {
			if err != ErrStart {
				l.Damaged++
			}
			l.in.Discard(1)
			continue
		}
		l.in.Discard(FrameSize)
		l.Frames++
		if !l.seen.First(r.Station, r.Seq) {
			l.Repeats++
			continue
		}
		l.hand(r)
	}
}
