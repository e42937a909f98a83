package ingest

import (
	"bytes"
	"testing"
)

func TestRepeatIsDropped(t *testing.T) {
	d := NewDedupe(4)
	if !d.First(1, 10) || d.First(1, 10) {
		t.Fatal("a repeat is not the first")
	}
	if !d.First(2, 10) {
		t.Fatal("stations count on their own")
	}
}

func TestOldNumbersAreForgotten(t *testing.T) {
	d := NewDedupe(2)
	for _, n := range []uint16{1, 2, 3} {
		d.First(1, n)
	}
	if !d.First(1, 1) {
		t.Fatal("1 should be forgotten")
	}
}

func TestLinkFindsFramesInNoise(t *testing.T) {
	var in bytes.Buffer
	in.WriteString("xxM")
	in.Write(pack(3, 1, 100))
	in.Write(pack(3, 1, 100))
	in.WriteString("noise")
	in.Write(pack(3, 2, 105))
	var got []Reading
	l := NewLink(&in, func(r Reading) { got = append(got, r) })
	l.Run()
	if len(got) != 2 || l.Repeats != 1 {
		t.Fatalf("got %d readings, %d repeats", len(got), l.Repeats)
	}
}
