package api

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"marshgauge.test/collector/config"
	"marshgauge.test/collector/store"
)

func TestStations(t *testing.T) {
	m := store.NewMemory(store.KeepDays(1))
	m.Add(store.Reading{Station: 2, At: time.Now(), LevelMM: 1250})
	h := New(m, []config.Station{{ID: 2, Name: "Saltern"}})
	w := httptest.NewRecorder()
	h.ServeHTTP(w, httptest.NewRequest(http.MethodGet, "/stations", nil))
	if !strings.Contains(w.Body.String(), `"level_mm":1250`) {
		t.Fatal(w.Body.String())
	}
}

func TestUnknownStationIsEmpty(t *testing.T) {
	h := New(store.NewMemory(store.KeepDays(1)), nil)
	w := httptest.NewRecorder()
	h.ServeHTTP(w, httptest.NewRequest(http.MethodGet, "/stations/9/readings", nil))
	if got := strings.TrimSpace(w.Body.String()); got != "[]" {
		t.Fatal(got)
	}
}
