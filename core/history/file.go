package history

import (
	"cmp"
	"math"
	"slices"
	"strings"

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
	m, births := l.Moves(paths, people)
	return m.Files(paths, births, people, halfLife, l.Time())
}

// Files sums up the moves of every file: births are the oldest paths the files
// are known under, now is the pin's committer date.
func (m *Moves) Files(paths, births []string, people *People, halfLife float64, now int64) []File {
	files := make([]File, len(paths))
	for i := range paths {
		files[i] = File{Path: paths[i], Birth: births[i], LinesKnown: true}
	}
	for c := range m.Time {
		w := Recency(m.Time[c], now, halfLife)
		for row := m.From[c]; row < m.From[c+1]; row++ {
			i := m.File[row]
			f := &files[i]
			if m.Added[row] < 0 {
				f.LinesKnown = false
			} else {
				f.LinesAdded += int(m.Added[row])
				f.LinesDeleted += int(m.Deleted[row])
			}
			f.Commits++
			f.Recent += w
			if f.FirstAt == 0 {
				f.FirstAt = m.Time[c]
			}
			f.LastAt = m.Time[c]
		}
	}
	m.share(files, people)
	return files
}

// share tells who made each file's commits.
func (m *Moves) share(files []File, people *People) {
	at := make([]int, len(files)) // where the file's next author goes
	for i := 1; i < len(files); i++ {
		at[i] = at[i-1] + files[i-1].Commits
	}
	authors := make([]int32, len(m.File)) // of each file's commits, file by file
	for c, who := range m.Person {
		for _, i := range m.File[m.From[c]:m.From[c+1]] {
			authors[at[i]] = who
			at[i]++
		}
	}
	for i := range files {
		files[i].People = sharesOf(authors[at[i]-files[i].Commits:at[i]], people)
	}
}

// follow steps back through the log, newest commit first, and tells for each
// commit, by number, which file each of its changes is of, -1 for none. It
// returns the oldest paths that the files are known under.
func (l *Log) follow(paths []string, do func(k int, c *Commit, touched []int)) (births []string) {
	var touched []int
	births = slices.Clone(paths)
	at := make(map[string]int, len(paths)) // path at this point of the past → file
	for i, p := range paths {
		at[p] = i
	}
	for k, c := range l.Commits {
		touched = resolve(at, c.Changes, touched[:0])
		do(k, c, touched)
		rename(at, births, c.Changes, touched)
	}
	return births
}

// resolve says which file each change is of, -1 for files the pin no longer
// has, behind what out holds. A commit's changes are all seen from the state after it.
func resolve(at map[string]int, changes []repo.Change, out []int) []int {
	for k := range changes {
		i, ok := at[changes[k].Path]
		if !ok {
			i = -1
		}
		out = append(out, i)
	}
	return out
}

// rename steps behind a commit's renames, further into the past.
func rename(at map[string]int, births []string, changes []repo.Change, touched []int) {
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
			births[i] = ch.OldPath
		} else {
			delete(at, ch.OldPath) // the old path belonged to a file that is gone
		}
	}
}

// sharesOf counts the commits of each author, and sorts both authors and shares.
func sharesOf(authors []int32, people *People) []Share {
	slices.Sort(authors)
	out := []Share{}
	for _, who := range authors {
		if last := len(out) - 1; last >= 0 && out[last].Person == int(who) {
			out[last].Commits++
			continue
		}
		out = append(out, Share{Person: int(who), Commits: 1})
	}
	slices.SortStableFunc(out, func(a, b Share) int {
		return cmp.Or(b.Commits-a.Commits, strings.Compare(people.List[a.Person].Email, people.List[b.Person].Email))
	})
	return out
}
