package alarm

import (
	"testing"
	"time"

	"marshgauge.test/collector/config"
)

func TestRaisesOncePerHighWater(t *testing.T) {
	w := NewWatch([]config.Station{{ID: 1, Name: "Marsh Lane", AlarmMM: 3000}})
	levels := []int16{2900, 3010, 3050, 2950, 3010, 2700, 3100}
	var raised int
	for _, l := range levels {
		if _, yes := w.See(1, l, time.Unix(0, 0)); yes {
			raised++
		}
	}
	if raised != 2 {
		t.Fatalf("raised %d times", raised)
	}
}
