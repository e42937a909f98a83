// Package config reads the stations there are.
package config

import (
	"encoding/json"
	"fmt"
	"os"

	"marshgauge.test/collector/level"
)

// Station is one gauge.
type Station struct {
	ID      uint16 `json:"id"`
	Name    string `json:"name"`
	DatumMM int    `json:"datum_mm"` // chart datum above the gauge's zero
	AlarmMM int    `json:"alarm_mm"` // above datum; 0: none
}

// standard are the stations of the first winter.
var standard = []Station{
	{ID: 1, Name: "Marsh Lane", AlarmMM: 3200},
	{ID: 2, Name: "Saltern", AlarmMM: 3050},
	{ID: 3, Name: "Outer Perch"},
}

// Load reads a station file; "" means the standard ones.
func Load(file string) ([]Station, error) {
	if file == "" {
		return standard, nil
	}
	b, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	var list []Station
	if err := json.Unmarshal(b, &list); err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	for _, s := range list {
		if !level.Plausible(s.AlarmMM) {
			return nil, fmt.Errorf("%s: no gauge reaches %s, the alarm of %s", file, level.Metres(s.AlarmMM), s.Name)
		}
	}
	return list, nil
}
