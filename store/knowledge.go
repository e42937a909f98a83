package store

import (
	"sort"
	"strings"
	"time"

	"juxtagram/core/history"
	"juxtagram/survey"
)

// year in seconds.
const year = 365 * 24 * 60 * 60

// Pace is how fast the repository moves.
type Pace struct {
	Pulse       []int `json:"pulse" doc:"Commits in equal parts of the time from the first commit to the pin, merges aside"`
	Year        int   `json:"year" doc:"Commits in the year before the pin"`
	Month       int   `json:"month" doc:"Commits in the 30 days before the pin"`
	PeopleYear  int   `json:"people_year" doc:"People with commits in the year before the pin"`
	MonthsKnown int   `json:"months_known" doc:"Months that the year before the pin really holds, at least 1"`
}

func pace(l *history.Ledger) *Pace {
	p := &Pace{MonthsKnown: 12}
	p.Pulse, _ = l.Pulse(pulseParts)
	p.Year = l.Commits(history.Span{From: l.Now - year, To: l.Now + 1, Person: -1})
	p.Month = l.Commits(history.Span{From: l.Now - 30*24*60*60, To: l.Now + 1, Person: -1})
	seen := map[int32]bool{}
	for c, at := range l.Time {
		if at >= l.Now-year {
			seen[l.Person[c]] = true
		}
	}
	p.PeopleYear = len(seen)
	if len(l.Time) > 0 {
		p.MonthsKnown = int(min(12, max(1, (l.Now-l.Time[0])/(year/12))))
	}
	return p
}

// Knowledge is who knows a top folder.
type Knowledge struct {
	Folder  string     `json:"folder" doc:"Empty for the files at the root"`
	Commits int        `json:"commits" doc:"That changed anything in it, merges aside"`
	People  int        `json:"people"`
	Known   []Familiar `json:"known" doc:"Who changed it most, at most four"`
	Active  bool       `json:"active" doc:"Somebody who changed it has changed anything at all within a year before the pin"`
}

// Familiar is one person who changed something often.
type Familiar struct {
	Name    string     `json:"name"`
	Commits int        `json:"commits"`
	LastAt  *time.Time `json:"last_at" doc:"Their last change anywhere"`
	Gone    bool       `json:"gone" doc:"They have changed nothing for a year before the pin"`
}

// maxFamiliar is how many people a folder names.
const maxFamiliar = 4

func knowledge(r *survey.Result, l *history.Ledger) []Knowledge {
	files := map[string][]int32{}
	for i := range r.Files {
		top, _, nested := strings.Cut(r.Files[i].Path, "/")
		if !nested {
			top = ""
		}
		files[top] = append(files[top], int32(i))
	}
	out := []Knowledge{}
	for top, list := range files {
		k := Knowledge{Folder: valid(top), Known: []Familiar{}}
		shares := l.Shares(list...)
		k.People = len(shares)
		for n, s := range shares {
			p := r.People.List[s.Person]
			gone := history.Gone(p.LastAt, l.Now)
			k.Commits += s.Commits
			k.Active = k.Active || !gone
			if n < maxFamiliar {
				k.Known = append(k.Known, Familiar{clean(p.Name), s.Commits, instant(p.LastAt), gone})
			}
		}
		if k.Commits > 0 {
			out = append(out, k)
		}
	}
	sort.Slice(out, func(i, j int) bool {
		if out[i].Commits != out[j].Commits {
			return out[i].Commits > out[j].Commits
		}
		return out[i].Folder < out[j].Folder
	})
	return out[:min(len(out), overviewFolders)]
}
