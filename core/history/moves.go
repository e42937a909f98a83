package history

import (
	"cmp"
	"encoding/binary"
	"slices"
	"sort"
)

// Moves are the changes of the pin's files as columns, the oldest commit first:
// what any span of the history is reckoned from. Merges are left out. A commit
// counts once for a file, whatever it did to it.
type Moves struct {
	Time   []int64 // of each commit: its committer date in Unix seconds, ascending
	Person []int32 // of each commit: index in People.List
	From   []int32 // of each commit: its first row; one more stands at the end
	// of each row, by commit, then by file
	File           []int32 // number of the file among the paths
	Added, Deleted []int32 // lines; -1: not counted
}

// Moves follows each path of the pin back through the log. births are the
// oldest paths that the files are known under, in the order of paths.
func (l *Log) Moves(paths []string, people *People) (m *Moves, births []string) {
	type row struct{ file, added, deleted int32 }
	all := make([]row, 0, 2*len(l.Commits))
	ends := make([]int32, len(l.Commits)) // of each commit's rows in all
	births = l.follow(paths, func(k int, c *Commit, touched []int) {
		from := len(all)
		for n := range c.Changes {
			if touched[n] < 0 {
				continue
			}
			ch := &c.Changes[n]
			r := row{int32(touched[n]), ch.Added, ch.Deleted}
			if !ch.Known {
				r.added, r.deleted = -1, -1
			}
			all = append(all, r)
		}
		rows := all[from:]
		slices.SortStableFunc(rows, func(a, b row) int { return cmp.Compare(a.file, b.file) })
		kept := rows[:0]
		for _, r := range rows {
			if last := len(kept) - 1; last >= 0 && kept[last].file == r.file {
				if kept[last].added < 0 || r.added < 0 {
					kept[last].added, kept[last].deleted = -1, -1
				} else {
					kept[last].added += r.added
					kept[last].deleted += r.deleted
				}
				continue
			}
			kept = append(kept, r)
		}
		all = all[:from+len(kept)]
		ends[k] = int32(len(all))
	})
	order := make([]int, 0, len(l.Commits))
	for k := len(l.Commits) - 1; k >= 0; k-- {
		if !l.Commits[k].IsMerge() {
			order = append(order, k)
		}
	}
	sort.SliceStable(order, func(a, b int) bool { return l.Commits[order[a]].CommitTime < l.Commits[order[b]].CommitTime })
	m = &Moves{Time: make([]int64, 0, len(order)), Person: make([]int32, 0, len(order)), From: make([]int32, 0, len(order)+1),
		File: make([]int32, 0, len(all)), Added: make([]int32, 0, len(all)), Deleted: make([]int32, 0, len(all))}
	for _, k := range order {
		c := l.Commits[k]
		m.Time = append(m.Time, c.CommitTime)
		m.Person = append(m.Person, int32(people.Of(c)))
		m.From = append(m.From, int32(len(m.File)))
		from := int32(0)
		if k > 0 {
			from = ends[k-1]
		}
		for _, r := range all[from:ends[k]] {
			m.File, m.Added, m.Deleted = append(m.File, r.file), append(m.Added, r.added), append(m.Deleted, r.deleted)
		}
	}
	m.From = append(m.From, int32(len(m.File)))
	return m, births
}

// movesVersion begins every packed form.
const movesVersion = 1

// Pack writes the moves as bytes for keeping, all numbers as varints, each
// commit's time and each row's file as what it is more than the one before.
func (m *Moves) Pack() []byte {
	b := make([]byte, 0, 8*len(m.Time)+5*len(m.File))
	b = append(b, movesVersion)
	b = binary.AppendUvarint(b, uint64(len(m.Time)))
	b = binary.AppendUvarint(b, uint64(len(m.File)))
	last := int64(0)
	for c := range m.Time {
		b = binary.AppendVarint(b, m.Time[c]-last)
		last = m.Time[c]
		b = binary.AppendUvarint(b, uint64(m.Person[c]))
		b = binary.AppendUvarint(b, uint64(m.From[c+1]-m.From[c]))
		file := int32(0)
		for row := m.From[c]; row < m.From[c+1]; row++ {
			b = binary.AppendUvarint(b, uint64(m.File[row]-file))
			file = m.File[row]
			b = binary.AppendUvarint(b, uint64(m.Added[row]+1))
			b = binary.AppendUvarint(b, uint64(m.Deleted[row]+1))
		}
	}
	return b
}

// UnpackMoves takes Pack back; files and people are how many there are of each.
// nil: kept by another version. Damaged bytes give an error, never a panic.
func UnpackMoves(b []byte, files, people int) (*Moves, error) {
	if len(b) == 0 || b[0] != movesVersion {
		return nil, nil
	}
	u := unpacker{b: b[1:]}
	commits, rows := u.uint(), u.uint()
	if u.bad || commits > uint64(len(b)) || rows > uint64(len(b)) {
		return nil, errPacked
	}
	m := &Moves{Time: make([]int64, commits), Person: make([]int32, commits), From: make([]int32, commits+1),
		File: make([]int32, 0, rows), Added: make([]int32, 0, rows), Deleted: make([]int32, 0, rows)}
	last := int64(0)
	for c := range m.Time {
		last += u.long()
		person := u.uint()
		if person >= uint64(people) {
			return nil, errPacked
		}
		m.Time[c], m.Person[c] = last, int32(person)
		m.From[c] = int32(len(m.File))
		n, file := u.uint(), uint64(0)
		if u.bad || n > rows-uint64(len(m.File)) {
			return nil, errPacked
		}
		for range n {
			file += u.uint()
			if file >= uint64(files) {
				return nil, errPacked
			}
			m.File = append(m.File, int32(file))
			m.Added, m.Deleted = append(m.Added, int32(u.uint())-1), append(m.Deleted, int32(u.uint())-1)
		}
	}
	m.From[commits] = int32(len(m.File))
	if u.bad || len(u.b) > 0 || uint64(len(m.File)) != rows {
		return nil, errPacked
	}
	return m, nil
}
