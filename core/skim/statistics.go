package skim

import (
	"math"

	"juxtagram/core/facts"
)

// Statistics tell in how many files of a repository a word stands that names
// are made of.
type Statistics struct {
	files int
	in    map[uint32]int32
}

// NewStatistics knows no files yet.
func NewStatistics() *Statistics { return &Statistics{in: map[uint32]int32{}} }

// Add counts the words of one file.
func (s *Statistics) Add(m *facts.Matter) {
	if len(m.Vocabulary) == 0 {
		return
	}
	s.files++
	m.EachSubword(func(hash uint32) { s.in[hash]++ })
}

// Rare is how much a word tells, 0..1: 0 stands in every file, 1 in one.
func (s *Statistics) Rare(word string) float64 {
	if s.files < 2 {
		return 0.5
	}
	n := max(1, s.in[facts.SubwordHash(word)])
	return math.Log2(float64(s.files)/float64(n)) / math.Log2(float64(s.files))
}
