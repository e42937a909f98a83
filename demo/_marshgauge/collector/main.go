// Command collector receives frames from the radio, keeps the readings and
// serves them to the board.
package main

import (
	"flag"
	"log"
	"net/http"
	"os"

	"marshgauge.test/collector/alarm"
	"marshgauge.test/collector/api"
	"marshgauge.test/collector/config"
	"marshgauge.test/collector/ingest"
	"marshgauge.test/collector/store"
)

func main() {
	listen := flag.String("listen", ":8300", "address to serve on")
	file := flag.String("config", "", "station file (JSON)")
	flag.Parse()

	stations, err := config.Load(*file)
	if err != nil {
		log.Fatal(err)
	}
	readings := store.NewMemory(store.KeepDays(30))
	alarms := alarm.NewWatch(stations)
	link := ingest.NewLink(os.Stdin, func(r ingest.Reading) {
		readings.Add(store.Reading{Station: r.Station, At: r.At, LevelMM: r.LevelMM, Battery: r.Battery})
		if a, raised := alarms.See(r.Station, r.LevelMM, r.At); raised {
			log.Printf("alarm at %s: %d mm above datum", a.Name, a.LevelMM)
		}
	})
	go link.Run()
	log.Printf("serving %d stations on %s", len(stations), *listen)
	log.Fatal(http.ListenAndServe(*listen, api.New(readings, stations)))
}
