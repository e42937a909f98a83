package store

import (
	"testing"
	"time"
)

func at(minutes int) time.Time { return time.Unix(int64(minutes)*60, 0) }

func TestKeepsOrderWhenTheClockJumps(t *testing.T) {
	m := NewMemory(KeepDays(1))
	for _, n := range []int{6, 18, 12} {
		m.Add(Reading{Station: 1, At: at(n), LevelMM: int16(n)})
	}
	got := m.Between(1, at(0), at(60))
	if len(got) != 3 || got[1].LevelMM != 12 {
		t.Fatalf("got %+v", got)
	}
}

func TestForgetsOldReadings(t *testing.T) {
	m := NewMemory(time.Hour)
	m.Add(Reading{Station: 1, At: at(0)})
	m.Add(Reading{Station: 1, At: at(90)})
	if got := m.Between(1, at(0), at(100)); len(got) != 1 {
		t.Fatalf("got %+v", got)
	}
}

func TestLast(t *testing.T) {
	m := NewMemory(KeepDays(1))
	if _, ok := m.Last(4); ok {
		t.Fatal("there is none")
	}
}
