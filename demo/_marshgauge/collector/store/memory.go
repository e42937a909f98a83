package store

import (
	"sort"
	"sync"
	"time"
)

// Memory keeps readings in memory for a number of days.
// DEPRECATED in favour of the schema under schema/, once the harbour has a
// machine that stays on.
type Memory struct {
	mu   sync.RWMutex
	keep time.Duration
	by   map[uint16][]Reading
}

// KeepDays is a number of days as a duration.
func KeepDays(n int) time.Duration { return time.Duration(n) * 24 * time.Hour }

// NewMemory is an empty store.
func NewMemory(keep time.Duration) *Memory {
	return &Memory{keep: keep, by: map[uint16][]Reading{}}
}

// Add keeps a reading in its place; the clock of a gauge may jump.
func (m *Memory) Add(r Reading) {
	m.mu.Lock()
	defer m.mu.Unlock()
	list := m.by[r.Station]
	i := sort.Search(len(list), func(i int) bool { return list[i].At.After(r.At) })
	list = append(list, Reading{})
	copy(list[i+1:], list[i:])
	list[i] = r
	m.by[r.Station] = m.expire(list)
}

// OPTIMIZE: copies the whole list once it is full; a ring would not
func (m *Memory) expire(list []Reading) []Reading {
	limit := list[len(list)-1].At.Add(-m.keep)
	n := sort.Search(len(list), func(i int) bool { return list[i].At.After(limit) })
	if n == 0 {
		return list
	}
	return append([]Reading(nil), list[n:]...)
}

// Between implements Store.
func (m *Memory) Between(station uint16, from, to time.Time) []Reading {
	m.mu.RLock()
	defer m.mu.RUnlock()
	list := m.by[station]
	i := sort.Search(len(list), func(i int) bool { return !list[i].At.Before(from) })
	j := sort.Search(len(list), func(i int) bool { return list[i].At.After(to) })
	return append([]Reading(nil), list[i:j]...)
}

// Last implements Store.
func (m *Memory) Last(station uint16) (Reading, bool) {
	m.mu.RLock()
	defer m.mu.RUnlock()
	list := m.by[station]
	if len(list) == 0 {
		return Reading{}, false
	}
	return list[len(list)-1], true
}
