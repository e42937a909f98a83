package api

import (
	"encoding/json"
	"log"
	"net/http"
	"time"
)

type stationJSON struct {
	ID      uint16     `json:"id"`
	Name    string     `json:"name"`
	LevelMM *int16     `json:"level_mm"`
	At      *time.Time `json:"at"`
}

type readingJSON struct {
	At      time.Time `json:"at"`
	LevelMM int16     `json:"level_mm"`
}

func write(w http.ResponseWriter, v any) {
	w.Header().Set("Content-Type", "application/json")
	if err := json.NewEncoder(w).Encode(v); err != nil {
		log.Print(err)
	}
}
