// Package level knows what a water level is. Everything that measures, keeps or
// shows one leans on it.
package level

import "fmt"

// Lowest and Highest are what a gauge on this coast can mean, in millimetres
// above its own zero.
const (
	Lowest  = -2500
	Highest = 6500
)

// Plausible tells whether a gauge can have measured it.
func Plausible(mm int) bool { return mm >= Lowest && mm <= Highest }

// Above is a measured level above a datum, both in millimetres.
func Above(mm int16, datumMM int) int { return int(mm) - datumMM }

// Metres writes millimetres as the board does: 1250 is "1.25 m".
func Metres(mm int) string { return fmt.Sprintf("%.2f m", float64(mm)/1000) }
