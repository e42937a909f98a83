package gitlog

import (
	"bytes"
	"slices"
	"sort"

	"juxtagram/core/history"
	"juxtagram/core/repo"
)

// Entry is a commit as it was kept.
type Entry struct {
	repo.Commit
	Packed []byte // its changes; see history.PackChanges
}

// Ref is a branch or tag with the number of the commit that it leads to.
type Ref struct {
	Name   string
	Kind   string // "branch" | "tag"
	Commit int32
}

// Log is every commit that a repository's branches, tags and pin reach. It is
// not changed once it is made, and may be used by several goroutines. Columns
// are by the commit's number.
type Log struct {
	IDs            []string
	Subjects       []string
	Authors        []int32 // in People.List
	Times          []int64 // committer dates, Unix seconds
	AuthorTimes    []int64
	Files          []int32 // paths that it changed; 0 for merges
	Added, Deleted []int32 // lines; -1: not counted
	Refs           []Ref   // branches by name, then tags, the newest first
	Pin            int32   // -1: not among them
	People         *history.People
	// Cut are the commits whose parents this shallow repository does not hold.
	Cut map[int32]bool
	// Unread is how many of the refs lead to commits that are not read yet:
	// those refs are left out.
	Unread int

	parentAt []int32 // of each commit: where its parents begin; one more
	parents  []int32 // -1: cut off
	changeAt []int32
	changes  []change
	// commits that changed each path, or took it as a new name, the newest first
	touchAt, touches []int32
	paths            []string // as they are shown, sorted
	texts            [][]byte // subject and message in small letters
	byID             map[string]int32
	refsAt           map[int32][]Ref
}

// change is what a commit did to one path, by the numbers of paths.
type change struct {
	path, old int32 // old: the name before; -1: the same
	status    byte
}

// Len is the number of commits.
func (l *Log) Len() int { return len(l.IDs) }

// At is the number of a commit; -1: it is not here.
func (l *Log) At(id string) int32 {
	if i, ok := l.byID[id]; ok {
		return i
	}
	return -1
}

// Parents are the numbers of a commit's parents; -1: one that is cut off.
func (l *Log) Parents(i int32) []int32 { return l.parents[l.parentAt[i]:l.parentAt[i+1]] }

// IsMerge tells whether a commit has several parents.
func (l *Log) IsMerge(i int32) bool { return l.parentAt[i+1]-l.parentAt[i] > 1 }

// RefsAt are the refs that lead to a commit, in the order of Refs.
func (l *Log) RefsAt(i int32) []Ref { return l.refsAt[i] }

// Builder collects commits for a log.
type Builder struct {
	commits []repo.Commit
	idents  []int32
	identOf map[repo.Person]int32
	people  []repo.Person
	changes [][]change
	counts  [][2]int32
	texts   [][]byte
	byID    map[string]int32
	pathOf  map[string]int32
	paths   []string
}

// NewBuilder makes an empty one.
func NewBuilder() *Builder {
	return &Builder{identOf: map[repo.Person]int32{}, byID: map[string]int32{}, pathOf: map[string]int32{}}
}

// Add takes a commit. Packed is read, not kept.
func (b *Builder) Add(e *Entry) error {
	n := int32(len(b.commits))
	if _, twice := b.byID[e.ID]; twice {
		return nil
	}
	b.byID[e.ID] = n
	who := repo.Person{Name: e.AuthorName, Email: e.AuthorEmail}
	k, ok := b.identOf[who]
	if !ok {
		k = int32(len(b.people))
		b.identOf[who] = k
		b.people = append(b.people, who)
	}
	b.idents = append(b.idents, k)
	var changes []change
	var added, deleted int32
	err := history.ScanChanges(e.Packed, func(c *history.Scanned) {
		x := change{path: b.path(c.Path), old: -1, status: c.Status}
		if len(c.OldPath) > 0 {
			x.old = b.path(c.OldPath)
		}
		changes = append(changes, x)
		if !c.Known {
			added, deleted = -1, -1
		} else if added >= 0 {
			added, deleted = added+c.Added, deleted+c.Deleted
		}
	})
	if err != nil {
		return err
	}
	b.changes = append(b.changes, changes)
	b.counts = append(b.counts, [2]int32{added, deleted})
	text := make([]byte, 0, len(e.Subject)+1+len(e.Message))
	text = append(append(append(text, e.Subject...), '\n'), e.Message...)
	b.texts = append(b.texts, bytes.ToLower(text))
	c := e.Commit
	c.Message, c.AuthorName, c.AuthorEmail = "", "", ""
	b.commits = append(b.commits, c)
	return nil
}

func (b *Builder) path(p []byte) int32 {
	if n, ok := b.pathOf[string(p)]; ok {
		return n
	}
	n := int32(len(b.paths))
	b.pathOf[string(p)] = n
	shown, _ := repo.EscapePath(string(p))
	b.paths = append(b.paths, shown)
	return n
}

// Idents counts the commits of each author as written.
func (b *Builder) Idents() map[repo.Person]int {
	counts := make(map[repo.Person]int, len(b.people))
	for _, k := range b.idents {
		counts[b.people[k]]++
	}
	return counts
}

// Log orders the commits that refs and the pin reach. people must know every
// ident; shallow are the ids of commits whose parents are cut off.
func (b *Builder) Log(refs []repo.Ref, pin string, people *history.People, shallow []string) *Log {
	l := &Log{Pin: -1, People: people, Cut: map[int32]bool{}, refsAt: map[int32][]Ref{}}
	var tips []int32
	for _, r := range refs {
		if n, ok := b.byID[r.Commit]; ok {
			tips = append(tips, n)
			continue
		}
		l.Unread++
	}
	if n, ok := b.byID[pin]; ok {
		tips = append(tips, n)
	}
	parents := b.parents()
	order := b.order(tips, parents)
	b.fill(l, order, parents)
	if n, ok := l.byID[pin]; ok {
		l.Pin = n
	}
	for _, id := range shallow {
		if n, ok := l.byID[id]; ok {
			l.Cut[n] = true
		}
	}
	for _, r := range refs {
		if n, ok := l.byID[r.Commit]; ok {
			at := Ref{r.Name, r.Kind, n}
			l.Refs, l.refsAt[n] = append(l.Refs, at), append(l.refsAt[n], at)
		}
	}
	return l
}

func (b *Builder) parents() [][]int32 {
	out := make([][]int32, len(b.commits))
	for i := range b.commits {
		ids := b.commits[i].Parents
		if len(ids) == 0 {
			continue
		}
		list := make([]int32, 0, len(ids))
		for _, id := range ids {
			n, ok := b.byID[id]
			if !ok {
				n = -1
			}
			if !slices.Contains(list, n) || n < 0 {
				list = append(list, n)
			}
		}
		out[i] = list
	}
	return out
}

// fill writes the columns in order.
func (b *Builder) fill(l *Log, order []int32, parents [][]int32) {
	n := len(order)
	l.IDs, l.Subjects, l.Authors = make([]string, n), make([]string, n), make([]int32, n)
	l.Times, l.AuthorTimes = make([]int64, n), make([]int64, n)
	l.Files, l.Added, l.Deleted = make([]int32, n), make([]int32, n), make([]int32, n)
	l.texts = make([][]byte, n)
	l.byID = make(map[string]int32, n)
	l.parentAt, l.changeAt = make([]int32, n+1), make([]int32, n+1)
	number := make([]int32, len(b.commits))
	for i := range number {
		number[i] = -1
	}
	authors := make([]int32, len(b.people))
	for k, p := range b.people {
		authors[k] = int32(l.People.Ident(p))
	}
	total := 0
	for i, e := range order {
		number[e] = int32(i)
		total += len(b.changes[e])
	}
	sorted, rank := b.sortedPaths()
	l.paths, l.changes = sorted, make([]change, 0, total)
	for i, e := range order {
		c := &b.commits[e]
		l.IDs[i], l.Subjects[i], l.Authors[i] = c.ID, c.Subject, authors[b.idents[e]]
		l.Times[i], l.AuthorTimes[i] = c.CommitTime, c.AuthorTime
		l.Files[i], l.Added[i], l.Deleted[i] = int32(len(b.changes[e])), b.counts[e][0], b.counts[e][1]
		l.texts[i] = b.texts[e]
		l.byID[c.ID] = int32(i)
		for _, p := range parents[e] {
			if p >= 0 {
				p = number[p]
			}
			l.parents = append(l.parents, p)
		}
		l.parentAt[i+1] = int32(len(l.parents))
		for _, x := range b.changes[e] {
			x.path = rank[x.path]
			if x.old >= 0 {
				x.old = rank[x.old]
			}
			l.changes = append(l.changes, x)
		}
		l.changeAt[i+1] = int32(len(l.changes))
	}
	l.touch()
	// a parent's number was not known when its child was written
	at := 0
	for _, e := range order {
		for _, p := range parents[e] {
			if p >= 0 {
				l.parents[at] = number[p]
			}
			at++
		}
	}
}

// touch notes which commits changed each path.
func (l *Log) touch() {
	l.touchAt = make([]int32, len(l.paths)+1)
	each := func(do func(path int32, commit int32)) {
		for i := int32(0); i < int32(l.Len()); i++ {
			for _, c := range l.changes[l.changeAt[i]:l.changeAt[i+1]] {
				do(c.path, i)
				if c.old >= 0 && c.old != c.path {
					do(c.old, i)
				}
			}
		}
	}
	each(func(p, _ int32) { l.touchAt[p+1]++ })
	for p := range l.paths {
		l.touchAt[p+1] += l.touchAt[p]
	}
	l.touches = make([]int32, l.touchAt[len(l.paths)])
	next := slices.Clone(l.touchAt)
	each(func(p, i int32) {
		l.touches[next[p]] = i
		next[p]++
	})
}

// touching are the commits that touched a path, the newest first.
func (l *Log) touching(path int32) []int32 { return l.touches[l.touchAt[path]:l.touchAt[path+1]] }

func (b *Builder) sortedPaths() (sorted []string, rank []int32) {
	by := make([]int32, len(b.paths))
	for i := range by {
		by[i] = int32(i)
	}
	sort.Slice(by, func(x, y int) bool { return b.paths[by[x]] < b.paths[by[y]] })
	sorted, rank = make([]string, len(by)), make([]int32, len(by))
	for n, i := range by {
		sorted[n], rank[i] = b.paths[i], int32(n)
	}
	return sorted, rank
}
