package server

import "strconv"

// Column is a list with one number for each row. It writes itself, as lists of
// tens of thousands of numbers are most of what the Map is sent.
type Column []int32

// MarshalJSON implements json.Marshaler.
func (c Column) MarshalJSON() ([]byte, error) {
	b := append(make([]byte, 0, 2+4*len(c)), '[')
	for i, n := range c {
		if i > 0 {
			b = append(b, ',')
		}
		b = strconv.AppendInt(b, int64(n), 10)
	}
	return append(b, ']'), nil
}

// Times is a list with one moment for each row, in Unix seconds.
type Times []int64

// MarshalJSON implements json.Marshaler.
func (t Times) MarshalJSON() ([]byte, error) {
	b := append(make([]byte, 0, 2+11*len(t)), '[')
	for i, n := range t {
		if i > 0 {
			b = append(b, ',')
		}
		b = strconv.AppendInt(b, n, 10)
	}
	return append(b, ']'), nil
}
