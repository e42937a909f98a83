package history

import (
	"context"
	"sort"
	"strings"

	"juxtagram/core/repo"
)

// Person is an author of commits, after the pin's mailmap.
type Person struct {
	Name, Email     string
	Commits         int // merges included
	Files           int // files of the pin the person changed
	FirstAt, LastAt int64
}

// goneAfter is how long before the pin, in seconds, somebody must have changed
// nothing to count as gone: a year.
const goneAfter = 365 * day

// Gone tells whether somebody whose last change was made then (Unix seconds)
// counts as gone at the pin.
func Gone(last, pin int64) bool { return pin-last > goneAfter }

// People are the authors of a log, most commits first.
type People struct {
	List []Person
	of   map[repo.Person]int
}

// ReadPeople collects the authors of a log. The pin's mailmap joins several
// names and addresses of one person; idents that share an address (letter
// case aside) are one person, called by the name used most.
func ReadPeople(ctx context.Context, g *repo.Git, l *Log) (*People, error) {
	counts := map[repo.Person]int{}
	for _, c := range l.Commits {
		counts[ident(c)]++
	}
	idents := make([]repo.Person, 0, len(counts))
	for p := range counts {
		idents = append(idents, p)
	}
	sort.Slice(idents, func(a, b int) bool {
		if idents[a].Email != idents[b].Email {
			return idents[a].Email < idents[b].Email
		}
		return idents[a].Name < idents[b].Name
	})
	mapped, err := g.Mailmap(ctx, l.Pin, idents)
	if err != nil {
		return nil, err
	}
	return join(l, idents, mapped, counts), nil
}

func ident(c *Commit) repo.Person { return repo.Person{Name: c.AuthorName, Email: c.AuthorEmail} }

func join(l *Log, idents []repo.Person, mapped map[repo.Person]repo.Person, counts map[repo.Person]int) *People {
	type group struct {
		names   map[string]int
		email   string
		commits int
	}
	groups := map[string]*group{}
	for _, p := range idents {
		m := mapped[p]
		key := personKey(m)
		if groups[key] == nil {
			groups[key] = &group{names: map[string]int{}, email: m.Email}
		}
		groups[key].names[m.Name] += counts[p]
		groups[key].commits += counts[p]
	}
	keys := make([]string, 0, len(groups))
	for k := range groups {
		keys = append(keys, k)
	}
	sort.Slice(keys, func(a, b int) bool {
		if groups[keys[a]].commits != groups[keys[b]].commits {
			return groups[keys[a]].commits > groups[keys[b]].commits
		}
		return keys[a] < keys[b]
	})
	people := &People{of: make(map[repo.Person]int, len(idents))}
	index := map[string]int{}
	for i, k := range keys {
		index[k] = i
		people.List = append(people.List, Person{Name: mostUsed(groups[k].names), Email: groups[k].email})
	}
	for _, p := range idents {
		people.of[p] = index[personKey(mapped[p])]
	}
	for _, c := range l.Commits {
		p := &people.List[people.Of(c)]
		p.Commits++
		if p.FirstAt == 0 || c.CommitTime < p.FirstAt {
			p.FirstAt = c.CommitTime
		}
		if c.CommitTime > p.LastAt {
			p.LastAt = c.CommitTime
		}
	}
	return people
}

// personKey joins by address; people without one are told apart by name.
func personKey(p repo.Person) string {
	if p.Email == "" {
		return "\x00" + p.Name
	}
	return strings.ToLower(p.Email)
}

func mostUsed(names map[string]int) string {
	best := ""
	for n, k := range names {
		if best == "" || k > names[best] || (k == names[best] && n < best) {
			best = n
		}
	}
	return best
}

// Of is the index in List of a commit's author.
func (p *People) Of(c *Commit) int { return p.of[ident(c)] }

// CountFiles fills in how many of files each person changed.
func (p *People) CountFiles(files []File) {
	for i := range p.List {
		p.List[i].Files = 0
	}
	for _, f := range files {
		for _, s := range f.People {
			p.List[s.Person].Files++
		}
	}
}
