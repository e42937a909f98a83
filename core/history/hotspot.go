package history

import (
	"fmt"
	"math"
	"sort"
	"strconv"
)

// Hotspot is a file that is both intricate and often changed, recent changes
// weighing more.
type Hotspot struct {
	Path   string
	Score  float64 // 0..1
	Reason string
}

// Candidate is a file that may be a hotspot.
type Candidate struct {
	Path    string
	Weight  float64 // its intricacy, or what stands in for it: see Substance
	Told    string  // the same in words: "an intricacy of 34"
	Recent  float64 // as in File
	Commits int
}

// Hotspots scores files, best first, at most limit of them: see Score. Files
// changed only once, and files whose recent weight has faded below 0.05, are
// no hotspots.
func Hotspots(files []Candidate, limit int) []Hotspot {
	var maxRecent, maxWeight float64
	for _, f := range files {
		maxRecent = math.Max(maxRecent, f.Recent)
		maxWeight = math.Max(maxWeight, f.Weight)
	}
	var out []Hotspot
	for _, f := range files {
		score := Score(f.Recent, maxRecent, f.Weight, maxWeight)
		if f.Commits < 2 || f.Recent < 0.05 || score == 0 {
			continue
		}
		out = append(out, Hotspot{
			Path: f.Path, Score: score,
			Reason: fmt.Sprintf("%s changes, weighing %.1f by age, on %s", grouped(f.Commits), f.Recent, f.Told),
		})
	}
	sort.SliceStable(out, func(a, b int) bool {
		if out[a].Score != out[b].Score {
			return out[a].Score > out[b].Score
		}
		return out[a].Path < out[b].Path
	})
	if len(out) > limit {
		out = out[:limit]
	}
	return out
}

// Score is how hot a file is, 0 to 1, to four digits:
//
//	sqrt( recent / most recent  ×  log(1+weight) / log(1+most weight) )
//
// the geometric mean of how much it moves and how intricate it is, each beside
// the greatest among the files that count: either alone is not enough.
// Intricacy counts by its logarithm, since twice as much of it is not twice as
// hard.
func Score(recent, maxRecent, weight, maxWeight float64) float64 {
	if maxRecent <= 0 || maxWeight <= 0 || weight <= 0 {
		return 0
	}
	return math.Round(math.Sqrt(recent/maxRecent*math.Log1p(weight)/math.Log1p(maxWeight))*1e4) / 1e4
}

// Substance is what intricacy of each file counts in a score. Where a file is
// not parsed (intricacy below 0), its code lines stand in, times what the parsed
// files of the same repository have of intricacy on a line, at the median.
func Substance(intricacy, code []int32) []float64 {
	var shares []float64
	for i := range intricacy {
		if intricacy[i] >= 0 && code[i] >= 20 {
			shares = append(shares, float64(intricacy[i])/float64(code[i]))
		}
	}
	share := usualShare
	if len(shares) > 0 {
		sort.Float64s(shares)
		share = shares[len(shares)/2]
	}
	out := make([]float64, len(intricacy))
	for i := range out {
		switch {
		case intricacy[i] >= 0:
			out[i] = float64(intricacy[i])
		case code[i] > 0:
			out[i] = float64(code[i]) * share
		}
	}
	return out
}

// usualShare is the intricacy on a line where no file is parsed.
const usualShare = 0.1

// grouped writes a number with commas: 12,345.
func grouped(n int) string {
	s := strconv.Itoa(n)
	for i := len(s) - 3; i > 0; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}
