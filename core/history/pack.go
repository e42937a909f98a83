package history

import (
	"encoding/binary"
	"errors"

	"juxtagram/core/repo"
)

// PackChanges writes a commit's changes as bytes for keeping: for each change
// its status and flags, the paths with their lengths, the counts, the hunks and
// the kept lines (negative numbers: taken away), all numbers as varints.
func PackChanges(changes []repo.Change) []byte {
	var b []byte
	b = binary.AppendUvarint(b, uint64(len(changes)))
	for _, c := range changes {
		var flags byte
		for i, on := range []bool{c.Link, c.Known, c.Binary} {
			if on {
				flags |= 1 << i
			}
		}
		b = append(b, c.Status, flags)
		b = appendString(b, c.Path)
		b = appendString(b, c.OldPath)
		b = binary.AppendVarint(b, int64(c.Added))
		b = binary.AppendVarint(b, int64(c.Deleted))
		b = binary.AppendUvarint(b, uint64(len(c.Hunks)))
		for _, h := range c.Hunks {
			for _, n := range []int32{h.OldStart, h.OldCount, h.NewStart, h.NewCount} {
				b = binary.AppendVarint(b, int64(n))
			}
		}
		b = binary.AppendUvarint(b, uint64(len(c.Kept)))
		for _, k := range c.Kept {
			line := int64(k.Line)
			if k.Removed {
				line = -line
			}
			b = binary.AppendVarint(b, line)
			b = appendString(b, k.Text)
		}
	}
	return b
}

func appendString(b []byte, s string) []byte {
	b = binary.AppendUvarint(b, uint64(len(s)))
	return append(b, s...)
}

var errPacked = errors.New("packed changes are damaged")

// UnpackChanges takes PackChanges back. Damaged bytes give an error, never a
// panic.
func UnpackChanges(b []byte) ([]repo.Change, error) {
	u := unpacker{b: b}
	n := u.uint()
	if n > uint64(len(b)) {
		return nil, errPacked
	}
	var changes []repo.Change
	if n > 0 {
		changes = make([]repo.Change, 0, n)
	}
	for ; n > 0 && !u.bad; n-- {
		c := repo.Change{Status: u.byte()}
		flags := u.byte()
		c.Link, c.Known, c.Binary = flags&1 != 0, flags&2 != 0, flags&4 != 0
		c.Path, c.OldPath = u.string(), u.string()
		c.Added, c.Deleted = u.int(), u.int()
		hunks := u.uint()
		if hunks > uint64(len(u.b)) {
			return nil, errPacked
		}
		if hunks > 0 {
			c.Hunks = make([]repo.Hunk, 0, hunks)
		}
		for ; hunks > 0 && !u.bad; hunks-- {
			c.Hunks = append(c.Hunks, repo.Hunk{OldStart: u.int(), OldCount: u.int(), NewStart: u.int(), NewCount: u.int()})
		}
		kept := u.uint()
		if kept > uint64(len(u.b)) {
			return nil, errPacked
		}
		for ; kept > 0 && !u.bad; kept-- {
			k := repo.Kept{Line: u.int()}
			if k.Line < 0 {
				k.Line, k.Removed = -k.Line, true
			}
			k.Text = u.string()
			c.Kept = append(c.Kept, k)
		}
		changes = append(changes, c)
	}
	if u.bad || len(u.b) > 0 {
		return nil, errPacked
	}
	return changes, nil
}

// Scanned is one change as it is passed over. The paths are valid until the next.
type Scanned struct {
	Status         byte
	Path, OldPath  []byte
	Known          bool // its lines were counted
	Added, Deleted int32
}

// ScanChanges passes over packed changes without their hunks and kept lines.
func ScanChanges(b []byte, do func(*Scanned)) error {
	u := unpacker{b: b}
	n := u.uint()
	var c Scanned
	for ; n > 0 && !u.bad; n-- {
		c.Status = u.byte()
		c.Known = u.byte()&2 != 0
		c.Path, c.OldPath = u.bytes(), u.bytes()
		c.Added, c.Deleted = u.int(), u.int()
		for hunks := u.uint(); hunks > 0 && !u.bad; hunks-- {
			for range 4 {
				u.int()
			}
		}
		for kept := u.uint(); kept > 0 && !u.bad; kept-- {
			u.int()
			u.bytes()
		}
		if !u.bad {
			do(&c)
		}
	}
	if u.bad || len(u.b) > 0 {
		return errPacked
	}
	return nil
}

type unpacker struct {
	b   []byte
	bad bool
}

func (u *unpacker) uint() uint64 {
	n, k := binary.Uvarint(u.b)
	if k <= 0 {
		u.bad, u.b = true, nil
		return 0
	}
	u.b = u.b[k:]
	return n
}

func (u *unpacker) int() int32 { return int32(u.long()) }

func (u *unpacker) long() int64 {
	n, k := binary.Varint(u.b)
	if k <= 0 {
		u.bad, u.b = true, nil
		return 0
	}
	u.b = u.b[k:]
	return n
}

func (u *unpacker) byte() byte {
	if len(u.b) == 0 {
		u.bad = true
		return 0
	}
	c := u.b[0]
	u.b = u.b[1:]
	return c
}

func (u *unpacker) bytes() []byte {
	n := u.uint()
	if n > uint64(len(u.b)) {
		u.bad, u.b = true, nil
		return nil
	}
	s := u.b[:n]
	u.b = u.b[n:]
	return s
}

func (u *unpacker) string() string { return string(u.bytes()) }
