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

// place is where details stand in the file.
type place struct {
	offset int64
	length int
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
		n, err := s.file.WriteAt(f.Packed, s.end)
		if err != nil {
			return fmt.Errorf("keeping details: %w", err)
		}
		s.at[key] = place{s.end, n}
		s.end += int64(n)
	}
	return nil
}

// Details reads what KeepFacts wrote.
func (s *Scratch) Details(_ context.Context, key FactKey) ([]byte, error) {
	s.mu.Lock()
	p, ok := s.at[key]
	s.mu.Unlock()
	if !ok {
		return nil, nil
	}
	raw := make([]byte, p.length)
	_, err := s.file.ReadAt(raw, p.offset)
	return raw, err
}
