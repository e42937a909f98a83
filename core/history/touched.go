package history

import "juxtagram/core/repo"

// Touched tells, for some lines (from 1) of each file of the pin, when a commit
// last touched them: Unix seconds, 0 where no change says so. It steps back
// through the hunks of every change, newest commit first, and moves the lines
// along. Where branches changed a file side by side, lines may be taken for
// their neighbours; lines that a merge brought are not known.
func (l *Log) Touched(paths []string, lines [][]int) [][]int64 {
	out := make([][]int64, len(paths))
	type pending struct{ line, n int }
	left := make([][]pending, len(paths))
	for i := range paths {
		out[i] = make([]int64, len(lines[i]))
		for n, line := range lines[i] {
			left[i] = append(left[i], pending{line, n})
		}
	}
	l.follow(paths, func(_ int, c *Commit, touched []int) {
		for k := range c.Changes {
			i := touched[k]
			if i < 0 || len(left[i]) == 0 {
				continue
			}
			still := left[i][:0]
			for _, p := range left[i] {
				before, made := stepBack(c.Changes[k].Hunks, p.line)
				if made {
					out[i][p.n] = c.CommitTime
					continue
				}
				still = append(still, pending{before, p.n})
			}
			left[i] = still
		}
	})
	return out
}

// stepBack says whether a line was made by one of the hunks, or which line it
// was before them. Hunks stand in the order of lines.
func stepBack(hunks []repo.Hunk, line int) (before int, made bool) {
	shift := int32(0)
	for _, h := range hunks {
		first := h.NewStart
		if h.NewCount == 0 {
			first++ // the run lies behind this line
		}
		if int32(line) < first {
			break
		}
		if int32(line) < first+h.NewCount {
			return 0, true
		}
		shift += h.NewCount - h.OldCount
	}
	return line - int(shift), false
}
