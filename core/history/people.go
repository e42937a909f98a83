package history

import (
	"context"
	"maps"
	"slices"
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
// case aside) are one person, called by the name used most; joins come on top.
func ReadPeople(ctx context.Context, g *repo.Git, l *Log, joins []Joined) (*People, error) {
	counts := map[repo.Person]int{}
	for _, c := range l.Commits {
		counts[ident(c)]++
	}
	idents := slices.Collect(maps.Keys(counts))
	mapped, err := g.Mailmap(ctx, l.Pin, idents)
	if err != nil {
		return nil, err
	}
	Follow(mapped, joins)
	people := Join(counts, mapped)
	people.date(l)
	return people, nil
}

func ident(c *Commit) repo.Person { return repo.Person{Name: c.AuthorName, Email: c.AuthorEmail} }

// Joined is what a keeper said: that somebody is the same person as another.
type Joined struct{ From, To repo.Person }

// Follow sends what idents are mapped to on to the people they were joined with.
func Follow(mapped map[repo.Person]repo.Person, joins []Joined) {
	to := make(map[string]repo.Person, len(joins))
	for _, j := range joins {
		to[personKey(j.From)] = j.To
	}
	for who, m := range mapped {
		for range len(joins) {
			next, ok := to[personKey(m)]
			if !ok {
				break
			}
			m = next
		}
		mapped[who] = m
	}
}

// Join makes people of idents with how many commits each wrote. mapped is what
// each is called in truth.
func Join(counts map[repo.Person]int, mapped map[repo.Person]repo.Person) *People {
	type group struct {
		names   map[string]int
		email   string
		commits int
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
		people.List = append(people.List, Person{Name: mostUsed(groups[k].names), Email: groups[k].email, Commits: groups[k].commits})
	}
	for _, p := range idents {
		people.of[p] = index[personKey(mapped[p])]
	}
	return people
}

// date fills in when each person was first and last at work.
func (p *People) date(l *Log) {
	for _, c := range l.Commits {
		who := &p.List[p.Of(c)]
		if who.FirstAt == 0 || c.CommitTime < who.FirstAt {
			who.FirstAt = c.CommitTime
		}
		if c.CommitTime > who.LastAt {
			who.LastAt = c.CommitTime
		}
	}
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

// Ident is the index in List of an author as a commit writes it, who must be
// known.
func (p *People) Ident(who repo.Person) int { return p.of[who] }

// Called are the indexes of people whom some commit calls by a name or address,
// letter case aside, in order.
func (p *People) Called(name string) []int32 {
	found := map[int32]bool{}
	for who, i := range p.of {
		if strings.EqualFold(who.Name, name) || (who.Email != "" && strings.EqualFold(who.Email, name)) {
			found[int32(i)] = true
		}
	}
	return slices.Sorted(maps.Keys(found))
}

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
