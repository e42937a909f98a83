package ingest

import (
	"errors"
	"testing"
	"time"
)

func pack(station, seq uint16, level int16) []byte {
	w := make([]byte, FrameSize)
	w[0] = frameStart
	w[1], w[2] = byte(station>>8), byte(station)
	w[3], w[4] = byte(seq>>8), byte(seq)
	w[5], w[6] = byte(uint16(level)>>8), byte(uint16(level))
	c := crc16(w[:10])
	w[10], w[11] = byte(c>>8), byte(c)
	return w
}

func TestCheckString(t *testing.T) {
	if got := crc16([]byte("123456789")); got != 0x29b1 {
		t.Fatalf("crc = %#x", got)
	}
}

func TestUnpack(t *testing.T) {
	r, err := Unpack(pack(7, 65535, -1234), time.Unix(0, 0))
	if err != nil || r.Station != 7 || r.Seq != 65535 || r.LevelMM != -1234 {
		t.Fatalf("got %+v, %v", r, err)
	}
}

func TestDamaged(t *testing.T) {
	w := pack(7, 1, 20)
	w[6] ^= 4
	if _, err := Unpack(w, time.Now()); !errors.Is(err, ErrChecksum) {
		t.Fatalf("got %v", err)
	}
}
