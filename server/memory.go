package server

import (
	"slices"
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"
)

// defaultMemory is how many bytes a server keeps of all repositories together.
const defaultMemory = 512 << 20

// memory keeps what was brought together of repositories, up to a number of bytes over
// all of them: the least lately used goes first.
type memory struct {
	mu   sync.Mutex
	most int64
	used int64
	kept *simplelru.LRU[memoryKey, memoryValue]
}

// memoryKey names something that is kept: its kind, whose it is, and which it is.
type memoryKey struct {
	kind       string
	repository int64
	id         string
}

type memoryValue struct {
	value any
	bytes int64
}

func newMemory(most int64) *memory {
	if most <= 0 {
		most = defaultMemory
	}
	kept, err := simplelru.NewLRU[memoryKey, memoryValue](1<<31-1, nil) // bytes are the limit
	if err != nil {
		panic(err) // the size is a constant above zero
	}
	return &memory{most: most, kept: kept}
}

// get finds a value, which counts as used now.
func (m *memory) get(key memoryKey) (any, bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	v, ok := m.kept.Get(key)
	return v.value, ok
}

// keep keeps a value of about so many bytes. One that is larger than all there is room
// for is kept alone.
func (m *memory) keep(key memoryKey, value any, bytes int64) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.drop(key)
	m.kept.Add(key, memoryValue{value, bytes})
	m.used += bytes
	for m.used > m.most && m.kept.Len() > 1 {
		_, v, _ := m.kept.RemoveOldest()
		m.used -= v.bytes
	}
}

func (m *memory) drop(key memoryKey) {
	if v, ok := m.kept.Peek(key); ok {
		m.used -= v.bytes
		m.kept.Remove(key)
	}
}

// forget drops all of a repository that is of one of some kinds; none: of any.
func (m *memory) forget(repository int64, kinds ...string) {
	m.mu.Lock()
	defer m.mu.Unlock()
	for _, key := range m.kept.Keys() {
		if key.repository == repository && (len(kinds) == 0 || slices.Contains(kinds, key.kind)) {
			m.drop(key)
		}
	}
}

// held is how many bytes are kept.
func (m *memory) held() int64 {
	m.mu.Lock()
	defer m.mu.Unlock()
	return m.used
}
