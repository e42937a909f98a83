package gitlog

import "slices"

// Lanes draws the commits of a selection as lines. The trunk, which is what the
// pin descends from by first parents, keeps lane 0; every other line takes the
// lowest lane that is free. Lines never change their lane: they begin in a
// commit, run straight down, and end in a commit.
type Lanes struct {
	l       *Log
	commits []int32 // the selection; it holds every parent of its commits
	trunk   Set
	checks  [][]int32 // of every checkEvery rows: what each lane waits for
}

// Row is one commit with the lines around it.
type Row struct {
	Lane  int32   // of the commit
	Trunk bool    // it is of the trunk
	Above []int32 // lanes from above that end in the commit
	Below []int32 // lanes downwards that begin in it, one for each parent
	Past  []int32 // lanes that run past it
}

const (
	checkEvery = 512
	free       = int32(-1)
)

// LanesOf lays the lanes of a selection that is closed: one that holds every
// ancestor of its commits.
func (l *Log) LanesOf(commits []int32) *Lanes {
	s := &Lanes{l: l, commits: commits, trunk: NewSet(l.Len())}
	for at := l.trunkTip(); at >= 0; {
		s.trunk.Add(at)
		parents := l.Parents(at)
		if len(parents) == 0 {
			break
		}
		at = parents[0]
	}
	lanes := []int32{free}
	for n := range commits {
		if n%checkEvery == 0 {
			s.checks = append(s.checks, slices.Clone(lanes))
		}
		lanes = s.step(lanes, commits[n], nil)
	}
	return s
}

// trunkTip is the newest commit of the trunk: the branch's that goes on from
// the pin by first parents, else the pin itself.
func (l *Log) trunkTip() int32 {
	if l.Pin < 0 {
		if len(l.Refs) > 0 {
			return l.Refs[0].Commit
		}
		return -1
	}
	for _, r := range l.Refs {
		if r.Kind != "branch" || r.Commit > l.Pin {
			continue
		}
		at := r.Commit
		for at >= 0 && at < l.Pin && l.parentAt[at] < l.parentAt[at+1] {
			at = l.Parents(at)[0]
		}
		if at == l.Pin {
			return r.Commit
		}
	}
	return l.Pin
}

// Rows are the rows from..to of the selection, to not included.
func (s *Lanes) Rows(from, to int) []Row {
	from, to = max(0, from), min(to, len(s.commits))
	if from >= to {
		return nil
	}
	lanes := slices.Clone(s.checks[from/checkEvery])
	for n := from / checkEvery * checkEvery; n < from; n++ {
		lanes = s.step(lanes, s.commits[n], nil)
	}
	out := make([]Row, to-from)
	for n := range out {
		lanes = s.step(lanes, s.commits[from+n], &out[n])
	}
	return out
}

// step moves the lanes past one commit and, if asked, tells its row.
func (s *Lanes) step(lanes []int32, c int32, row *Row) []int32 {
	lane := int32(-1)
	if s.trunk.Has(c) {
		lane = 0
	}
	for k, waits := range lanes {
		if waits != c {
			continue
		}
		if lane < 0 {
			lane = int32(k)
		}
		lanes[k] = free
		if row != nil {
			row.Above = append(row.Above, int32(k))
		}
	}
	if lane < 0 {
		lanes, lane = lowest(lanes)
		lanes[lane] = free
	}
	if row != nil {
		row.Lane, row.Trunk = lane, s.trunk.Has(c)
		for k, waits := range lanes {
			if waits != free {
				row.Past = append(row.Past, int32(k))
			}
		}
	}
	for n, p := range s.l.Parents(c) {
		if p < 0 {
			continue
		}
		to := int32(slices.Index(lanes, p))
		switch {
		case s.trunk.Has(p) && s.trunk.Has(c) && n == 0:
			to = 0 // whatever other line leads there
			lanes[0] = p
		case to >= 0:
		case n == 0 && lane > 0 && lanes[lane] == free:
			to = lane
			lanes[lane] = p
		default:
			lanes, to = lowest(lanes)
			lanes[to] = p
		}
		if row != nil && !slices.Contains(row.Below, to) {
			row.Below = append(row.Below, to)
		}
	}
	for len(lanes) > 1 && lanes[len(lanes)-1] == free {
		lanes = lanes[:len(lanes)-1]
	}
	return lanes
}

// lowest is the lowest free lane beside the trunk's.
func lowest(lanes []int32) ([]int32, int32) {
	for k := 1; k < len(lanes); k++ {
		if lanes[k] == free {
			return lanes, int32(k)
		}
	}
	return append(lanes, free), int32(len(lanes))
}
