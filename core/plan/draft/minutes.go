package draft

import (
	"math"

	"juxtagram/core/role"
)

// Lines a minute, and what a passage takes besides its lines.
const (
	plainCode = 25.0 // lines a minute where nothing branches
	denseCode = 12.5 // where it branches as much as dense tells, or more
	dense     = 0.5  // intricacy for a line of code
	bearings  = 1.0  // minutes to find one's bearings at a new passage
)

// speeds are the lines a minute of what is not code.
var speeds = map[string]float64{
	role.Documentation: 30, role.Test: 30, role.Sample: 30, role.Build: 30, role.Schema: 40, role.Configuration: 40, role.Asset: 60,
}

// Minutes is how long so many lines take to read, at least 1; less than a quarter
// of a minute is left out. code and intricacy are those of the whole file;
// intricacy below 0 is not known.
//
//	minutes = bearings + lines / speed
//	speed   = plainCode − (plainCode − denseCode) · min(1, intricacy/code / dense)
func Minutes(role string, lines, code, intricacy int) int {
	speed := speeds[role]
	if speed == 0 {
		speed = plainCode
		if intricacy > 0 && code > 0 {
			speed -= (plainCode - denseCode) * min(1, float64(intricacy)/float64(code)/dense)
		}
	}
	return max(1, int(math.Ceil(bearings+float64(lines)/speed-0.25)))
}

// What of a file counts as read once its gist is, and how the rest grows.
const (
	met     = 0.35
	telling = 0.65
	gist    = 40 // lines
)

// Credit is the share of what a file has to tell that so many of its lines
// tell, the most telling first; 0..1. See the package.
func Credit(shown, lines int) float64 {
	if lines <= 0 || shown >= lines {
		return 1
	}
	return met*min(1, float64(shown)/float64(min(gist, lines))) + (1-met)*math.Pow(float64(shown)/float64(lines), telling)
}

// depths are how many lines of a file a passage may show, besides all.
var depths = []int{gist, 60, 90, 130, 200, 300, 450, 700, 1000}

// levels are the numbers of lines that a file of so many may be shown within,
// the last all of them.
func levels(lines int) []int {
	var out []int
	for _, n := range depths {
		if n*6/5 < lines {
			out = append(out, n)
		}
	}
	return append(out, lines)
}

// Within is a reading of up to so many lines of a file that takes no more than
// so many minutes; without lines where even one takes more.
func (g *Ground) Within(file, lines, minutes int) Reading {
	low, high := 0, lines
	for low < high {
		if mid := (low + high + 1) / 2; g.minutes(file, mid) <= minutes {
			low = mid
		} else {
			high = mid - 1
		}
	}
	return Reading{file, low, g.minutes(file, low)}
}
