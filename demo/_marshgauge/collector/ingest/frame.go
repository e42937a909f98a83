// Package ingest turns bytes from the radio into readings.
package ingest

import (
	"encoding/binary"
	"errors"
	"time"
)

// FrameSize is the length of a frame on the wire, in bytes.
const FrameSize = 12

const frameStart = 'M'

// Reading is what one frame carries.
type Reading struct {
	Station uint16
	Seq     uint16
	LevelMM int16
	Still   bool
	Battery uint8 // percent
	At      time.Time
}

// ErrChecksum tells that a frame was damaged on its way.
var ErrChecksum = errors.New("frame: checksum does not fit")

// ErrStart tells that the bytes are no frame.
var ErrStart = errors.New("frame: no start byte")

// Unpack reads one frame; firmware/frame.c packs it.
func Unpack(wire []byte, at time.Time) (Reading, error) {
	if len(wire) < FrameSize || wire[0] != frameStart {
		return Reading{}, ErrStart
	}
	if binary.BigEndian.Uint16(wire[10:]) != crc16(wire[:10]) {
		return Reading{}, ErrChecksum
	}
	return Reading{
		Station: binary.BigEndian.Uint16(wire[1:]),
		Seq:     binary.BigEndian.Uint16(wire[3:]),
		LevelMM: int16(binary.BigEndian.Uint16(wire[5:])),
		Still:   wire[7]&1 != 0,
		Battery: wire[8],
		At:      at,
	}, nil
}

// crc16 is CRC-16/CCITT-FALSE, bit by bit: a frame every few seconds does not
// need a table.
func crc16(data []byte) uint16 {
	crc := uint16(0xffff)
	for _, b := range data {
		crc ^= uint16(b) << 8
		for range 8 {
			if crc&0x8000 != 0 {
				crc = crc<<1 ^ 0x1021
			} else {
				crc <<= 1
			}
		}
	}
	return crc
}
