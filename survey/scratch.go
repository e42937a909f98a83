package survey

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"sync"

	"juxtagram/core/facts"
)

// Scratch is a memory for one survey without a database: it keeps the packed
// details in a file, and forgets all else.
type Scratch struct {
	Forget
	mu   sync.Mutex
	file *os.File
	end  int64
	at   map[FactKey]place
}

// place is where the parts of one blob's facts stand in the file: details,
// head, matter, terms.
type place struct {
	offset  int64
	lengths [4]int
}

// NewScratch makes the file in a folder; Close removes it.
func NewScratch(folder string) (*Scratch, error) {
	f, err := os.Create(filepath.Join(folder, "details"))
	if err != nil {
		return nil, err
	}
	return &Scratch{file: f, at: map[FactKey]place{}}, nil
}

// Close removes the file.
func (s *Scratch) Close() error {
	if err := s.file.Close(); err != nil {
		return err
	}
	return os.Remove(s.file.Name())
}

// KeepFacts writes the details down.
func (s *Scratch) KeepFacts(_ context.Context, found map[FactKey]*facts.Facts) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	for key, f := range found {
		if len(f.Packed) == 0 {
			continue
		}
		p := place{offset: s.end}
		for k, part := range [][]byte{f.Packed, f.Linked.Head, f.Linked.Matter, f.Linked.Terms} {
			if _, err := s.file.WriteAt(part, s.end); err != nil {
				return fmt.Errorf("keeping details: %w", err)
			}
			p.lengths[k] = len(part)
			s.end += int64(len(part))
		}
		s.at[key] = p
	}
	return nil
}

// Details reads what KeepFacts wrote.
func (s *Scratch) Details(_ context.Context, key FactKey) ([]byte, error) {
	parts, err := s.read(key, 0, 1)
	if parts == nil || err != nil {
		return nil, err
	}
	return parts[0], nil
}

// Heads reads what KeepFacts wrote.
func (s *Scratch) Heads(_ context.Context, keys []FactKey) (map[FactKey][]byte, error) {
	out := make(map[FactKey][]byte, len(keys))
	for _, key := range keys {
		parts, err := s.read(key, 1, 2)
		if err != nil {
			return nil, err
		}
		if parts != nil {
			out[key] = parts[0]
		}
	}
	return out, nil
}

// Linked reads what KeepFacts wrote.
func (s *Scratch) Linked(_ context.Context, keys []FactKey) (map[FactKey]facts.Linked, error) {
	out := make(map[FactKey]facts.Linked, len(keys))
	for _, key := range keys {
		parts, err := s.read(key, 1, 4)
		if err != nil {
			return nil, err
		}
		if parts != nil {
			out[key] = facts.Linked{Head: parts[0], Matter: parts[1], Terms: parts[2]}
		}
	}
	return out, nil
}

// read reads some of the parts kept under a key, one after the other; nil:
// nothing is kept.
func (s *Scratch) read(key FactKey, from, to int) ([][]byte, error) {
	s.mu.Lock()
	p, ok := s.at[key]
	s.mu.Unlock()
	if !ok {
		return nil, nil
	}
	offset, length := p.offset, 0
	for k, n := range p.lengths {
		if k < from {
			offset += int64(n)
		} else if k < to {
			length += n
		}
	}
	raw := make([]byte, length)
	if _, err := s.file.ReadAt(raw, offset); err != nil && length > 0 {
		return nil, fmt.Errorf("reading details: %w", err)
	}
	out := make([][]byte, 0, to-from)
	for _, n := range p.lengths[from:to] {
		out = append(out, raw[:n])
		raw = raw[n:]
	}
	return out, nil
}
