package server

import (
	"fmt"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What is kept never takes more than its room, and what was used least lately goes.
func TestMemoryIsBounded(t *testing.T) {
	m := newMemory(1000)
	key := func(i int) memoryKey { return memoryKey{"whole", int64(i % 7), fmt.Sprint(i)} }
	r := rand.New(rand.NewSource(3))
	for range 5000 {
		i := r.Intn(60)
		if _, ok := m.get(key(i)); !ok {
			m.keep(key(i), i, int64(1+r.Intn(300)))
		}
		assert.LessOrEqual(t, m.held(), int64(1000))
		sum := int64(0)
		for _, k := range m.kept.Keys() {
			v, _ := m.kept.Peek(k)
			sum += v.bytes
		}
		assert.Equal(t, sum, m.held())
	}
	m = newMemory(100)
	m.keep(key(1), 1, 40)
	m.keep(key(2), 2, 40)
	m.get(key(1))
	m.keep(key(3), 3, 40)
	_, one := m.get(key(1))
	_, two := m.get(key(2))
	assert.Equal(t, []bool{true, false}, []bool{one, two}, "the one used last stays")
	m.keep(key(4), 4, 5000)
	_, four := m.get(key(4))
	assert.True(t, four, "one that is larger than the room is kept alone")
	m.keep(memoryKey{"chart", 4, ""}, 0, 10)
	m.keep(memoryKey{"log", 4, ""}, 0, 10)
	m.forget(4, "chart")
	_, chart := m.get(memoryKey{"chart", 4, ""})
	_, log := m.get(memoryKey{"log", 4, ""})
	assert.Equal(t, []bool{false, true}, []bool{chart, log})
	m.forget(4)
	assert.Zero(t, m.kept.Len())
	assert.Zero(t, m.held())
}
