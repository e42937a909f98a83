package history

import (
	"math"
	"sort"

	"juxtagram/core/repo"
)

// File is what happened to one file of the pin.
type File struct {
	Path         string
	Birth        string // the oldest path the file is known under
	Commits      int
	LinesAdded   int
	LinesDeleted int
	LinesKnown   bool    // false as long as some change has no counts
	Recent       float64 // commits, each halved once a half-life of age
	FirstAt      int64   // Unix seconds, committer dates; 0 with no commits
	LastAt       int64
	People       []Share // most commits first
}

// Share is how many commits of something one person made.
type Share struct {
	Person  int // index in People.List
	Commits int
}

// day in seconds.
const day = 24 * 60 * 60

// DefaultHalfLife is the number of days after which a change counts half.
const DefaultHalfLife = 180.0

// Recency weighs a change made at a time as seen from now (Unix seconds):
// 1/2^(age/half-life), ages below zero counting as none. halfLife is in days.
func Recency(at, now int64, halfLife float64) float64 {
	age := math.Max(0, float64(now-at)/day)
	return math.Exp2(-age / halfLife)
}

// Files follows each path of the pin back through the log. The result is in
// the order of paths. halfLife is in days, above zero.
func (l *Log) Files(paths []string, people *People, halfLife float64) []File {
	files := make([]File, len(paths))
	shares := make([]map[int]int, len(paths))
	at := make(map[string]int, len(paths)) // path at this point of the past → file
	for i, p := range paths {
		files[i] = File{Path: p, Birth: p, LinesKnown: true}
		at[p] = i
	}
	now := l.Time()
	last := make([]*Commit, len(paths))
	for _, c := range l.Commits {
		w := Recency(c.CommitTime, now, halfLife)
		person := people.Of(c)
		touched := resolve(at, c.Changes)
		for k, ch := range c.Changes {
			i := touched[k]
			if i < 0 {
				continue
			}
			f := &files[i]
			f.LinesAdded += int(ch.Added)
			f.LinesDeleted += int(ch.Deleted)
			f.LinesKnown = f.LinesKnown && ch.Known
			if last[i] == c {
				continue
			}
			last[i] = c
			f.Commits++
			f.Recent += w
			if f.LastAt == 0 || c.CommitTime > f.LastAt {
				f.LastAt = c.CommitTime
			}
			if f.FirstAt == 0 || c.CommitTime < f.FirstAt {
				f.FirstAt = c.CommitTime
			}
			if shares[i] == nil {
				shares[i] = map[int]int{}
			}
			shares[i][person]++
		}
		rename(at, files, c.Changes, touched)
	}
	for i := range files {
		files[i].People = sortShares(shares[i], people)
	}
	return files
}

// resolve says which file each change is of, -1 for files the pin no longer
// has. A commit's changes are all seen from the state after it.
func resolve(at map[string]int, changes []repo.Change) []int {
	out := make([]int, len(changes))
	for k, ch := range changes {
		if i, ok := at[ch.Path]; ok {
			out[k] = i
		} else {
			out[k] = -1
		}
	}
	return out
}

// rename steps behind a commit's renames, further into the past.
func rename(at map[string]int, files []File, changes []repo.Change, touched []int) {
	for _, ch := range changes {
		if ch.Status == 'R' {
			delete(at, ch.Path)
		}
	}
	for k, ch := range changes {
		if ch.Status != 'R' {
			continue
		}
		if i := touched[k]; i >= 0 {
			at[ch.OldPath] = i
			files[i].Birth = ch.OldPath
		} else {
			delete(at, ch.OldPath) // the old path belonged to a file that is gone
		}
	}
}

func sortShares(m map[int]int, people *People) []Share {
	out := make([]Share, 0, len(m))
	for p, n := range m {
		out = append(out, Share{Person: p, Commits: n})
	}
	sort.Slice(out, func(a, b int) bool {
		if out[a].Commits != out[b].Commits {
			return out[a].Commits > out[b].Commits
		}
		return people.List[out[a].Person].Email < people.List[out[b].Person].Email
	})
	return out
}
