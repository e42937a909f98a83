package history

import (
	"fmt"
	"math"
	"sort"
	"strconv"
)

// Hotspot is a file that is both large and often changed, recent changes
// weighing more.
type Hotspot struct {
	Path   string
	Score  float64 // 0..1
	Reason string
}

// Candidate is a file that may be a hotspot.
type Candidate struct {
	Path    string
	Size    float64 // code lines, or bytes where lines are not counted yet
	Unit    string  // "code lines" | "bytes"
	Recent  float64 // as in File
	Commits int
}

// Hotspots scores files, best first, at most limit of them. The score is
//
//	sqrt( recent / max recent  ×  log(1+size) / log(1+max size) )
//
// the geometric mean of how much a file moves and how much there is of it:
// either alone is not enough. Size stands in for intricacy and counts by its
// logarithm, since a file of twice the length is not twice as hard. Files
// changed only once, and files whose recent weight has faded below 0.05, are
// no hotspots.
func Hotspots(files []Candidate, limit int) []Hotspot {
	var maxRecent, maxSize float64
	for _, f := range files {
		maxRecent = math.Max(maxRecent, f.Recent)
		maxSize = math.Max(maxSize, f.Size)
	}
	if maxRecent == 0 || maxSize == 0 {
		return nil
	}
	var out []Hotspot
	for _, f := range files {
		if f.Commits < 2 || f.Recent < 0.05 || f.Size <= 0 {
			continue
		}
		score := math.Sqrt(f.Recent / maxRecent * math.Log1p(f.Size) / math.Log1p(maxSize))
		out = append(out, Hotspot{
			Path:   f.Path,
			Score:  math.Round(score*1e4) / 1e4,
			Reason: fmt.Sprintf("%s changes, weighing %.1f by age, on %s %s", grouped(f.Commits), f.Recent, grouped(int(f.Size)), f.Unit),
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

// grouped writes a number with commas: 12,345.
func grouped(n int) string {
	s := strconv.Itoa(n)
	for i := len(s) - 3; i > 0; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}
