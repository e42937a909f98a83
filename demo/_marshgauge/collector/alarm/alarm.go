// Package alarm watches levels and says when one is too high.
package alarm

import (
	"time"

	"marshgauge.test/collector/config"
	"marshgauge.test/collector/level"
)

// Alarm is a level that was too high.
type Alarm struct {
	Name    string
	LevelMM int
	At      time.Time
}

// hysteresisMM is how far the water must fall before a new alarm can be raised.
const hysteresisMM = 150

// Watch remembers which stations are in alarm.
type Watch struct {
	by     map[uint16]config.Station
	raised map[uint16]bool
}

// NewWatch watches some stations.
func NewWatch(stations []config.Station) *Watch {
	w := &Watch{by: map[uint16]config.Station{}, raised: map[uint16]bool{}}
	for _, s := range stations {
		w.by[s.ID] = s
	}
	return w
}

// See looks at one reading. raised is true once for each high water.
// TODO @ines: a falling gauge raises it too, when the datum is wrong (MG-112)
func (w *Watch) See(station uint16, levelMM int16, at time.Time) (a Alarm, raised bool) {
	s, ok := w.by[station]
	if !ok || s.AlarmMM == 0 {
		return Alarm{}, false
	}
	high := level.Above(levelMM, s.DatumMM)
	switch {
	case high >= s.AlarmMM && !w.raised[station]:
		w.raised[station] = true
		return Alarm{s.Name, high, at}, true
	case high < s.AlarmMM-hysteresisMM:
		w.raised[station] = false
	}
	return Alarm{}, false
}
