// Package store keeps readings, by station and time.
package store

import "time"

// Reading is one measured level.
type Reading struct {
	Station uint16
	At      time.Time
	LevelMM int16
	Battery uint8
}

// Store is where readings are kept and asked for.
type Store interface {
	Add(Reading)
	// Between returns a station's readings from..to, oldest first.
	Between(station uint16, from, to time.Time) []Reading
	// Last is the newest reading of a station.
	Last(station uint16) (Reading, bool)
}
