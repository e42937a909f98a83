package ingest

// window is how many sequence numbers back a repeat is recognised.
const window = 64

// Dedupe remembers which sequence numbers each station has sent lately. The
// radio repeats a frame when it missed the acknowledgement.
type Dedupe struct {
	size  int
	seen  map[uint16]map[uint16]bool
	order map[uint16][]uint16
}

// NewDedupe remembers size numbers a station.
func NewDedupe(size int) *Dedupe {
	return &Dedupe{size: size, seen: map[uint16]map[uint16]bool{}, order: map[uint16][]uint16{}}
}

// First tells whether a number is new, and remembers it.
// BUG(kip): a gauge that restarts counts from 0 again; its first readings pass
// for repeats when it had sent fewer than 64 before. See #63.
func (d *Dedupe) First(station, seq uint16) bool {
	seen := d.seen[station]
	if seen == nil {
		seen = map[uint16]bool{}
		d.seen[station] = seen
	}
	if seen[seq] {
		return false
	}
	seen[seq] = true
	d.order[station] = append(d.order[station], seq)
	if len(d.order[station]) > d.size {
		delete(seen, d.order[station][0])
		d.order[station] = d.order[station][1:]
	}
	return true
}
