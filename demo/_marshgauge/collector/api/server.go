// Package api serves readings to the board.
package api

import (
	"net/http"
	"strconv"
	"time"

	"marshgauge.test/collector/config"
	"marshgauge.test/collector/store"
)

type server struct {
	readings store.Store
	stations []config.Station
	now      func() time.Time
}

// New is the handler of all routes.
func New(readings store.Store, stations []config.Station) http.Handler {
	s := &server{readings, stations, time.Now}
	mux := http.NewServeMux()
	mux.HandleFunc("GET /stations", s.listStations)
	mux.HandleFunc("GET /stations/{id}/readings", s.listReadings)
	return mux
}

func (s *server) listStations(w http.ResponseWriter, _ *http.Request) {
	out := make([]stationJSON, 0, len(s.stations))
	for _, st := range s.stations {
		j := stationJSON{ID: st.ID, Name: st.Name}
		if r, ok := s.readings.Last(st.ID); ok {
			j.measured(r.LevelMM, r.At)
		}
		out = append(out, j)
	}
	write(w, out)
}

// listReadings answers the last hours of one station, two days at most.
func (s *server) listReadings(w http.ResponseWriter, r *http.Request) {
	id, err := strconv.ParseUint(r.PathValue("id"), 10, 16)
	if err != nil {
		http.Error(w, "no such station", http.StatusNotFound)
		return
	}
	hours, err := strconv.Atoi(r.URL.Query().Get("hours"))
	if err != nil || hours < 1 || hours > 48 {
		hours = 24
	}
	to := s.now()
	list := s.readings.Between(uint16(id), to.Add(-time.Duration(hours)*time.Hour), to)
	out := make([]readingJSON, len(list))
	for i, x := range list {
		out[i] = readingJSON{x.At, x.LevelMM}
	}
	write(w, out)
}
