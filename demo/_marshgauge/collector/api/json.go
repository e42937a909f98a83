package api

import (
	"encoding/json"
	"log"
	"net/http"
	"time"

	"marshgauge.test/collector/level"
)

type stationJSON struct {
	ID      uint16     `json:"id"`
	Name    string     `json:"name"`
	LevelMM *int16     `json:"level_mm"`
	Level   string     `json:"level,omitempty"` // as people say it
	At      *time.Time `json:"at"`
}

type readingJSON struct {
	At      time.Time `json:"at"`
	LevelMM int16     `json:"level_mm"`
}

// measured fills in what a station measured last.
func (j *stationJSON) measured(mm int16, at time.Time) {
	j.LevelMM, j.Level, j.At = &mm, level.Metres(int(mm)), &at
}

func write(w http.ResponseWriter, v any) {
	w.Header().Set("Content-Type", "application/json")
	if err := json.NewEncoder(w).Encode(v); err != nil {
		log.Print(err)
	}
}
