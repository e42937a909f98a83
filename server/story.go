package server

import (
	"context"
	"time"

	"juxtagram/core/history"
	"juxtagram/store"
)

// StoryInfo is what happened to a file or folder.
type StoryInfo struct {
	Commit      string        `json:"commit" doc:"The pin"`
	Changes     int           `json:"changes" doc:"Commits that changed it, merges aside"`
	Pulse       []int         `json:"pulse" doc:"Those commits in equal parts of the time from the first commit of all to the pin"`
	From        *time.Time    `json:"from" doc:"The first commit of all"`
	To          *time.Time    `json:"to" doc:"The pin"`
	FirstAt     *time.Time    `json:"first_at"`
	LastAt      *time.Time    `json:"last_at"`
	Lately      int           `json:"lately" doc:"Those commits within the last quarter of its own time"`
	People      []StoryPerson `json:"people" doc:"Most commits first, at most 8"`
	PeopleTotal int           `json:"people_total"`
	Partners    []PartnerInfo `json:"partners" doc:"Files outside it that changed in the same commits, at most 8"`
	PartnersOf  int           `json:"partners_of" doc:"Commits that partners are counted in: sweeping ones are left out"`
	Swept       int           `json:"swept" doc:"Sweeping commits among its changes, left out of partners"`
	Wide        int           `json:"wide" doc:"A commit that changed more files than this is left out of partners"`
}

// StoryPerson is one person's part.
type StoryPerson struct {
	Name    string     `json:"name"`
	Commits int        `json:"commits"`
	LastAt  *time.Time `json:"last_at" doc:"Their last change anywhere"`
	Gone    bool       `json:"gone" doc:"They have changed nothing for a year before the pin"`
}

// PartnerInfo is a file that keeps changing in the same commits.
type PartnerInfo struct {
	Path     string `json:"path"`
	Together int    `json:"together" doc:"Commits that changed both"`
	Changes  int    `json:"changes" doc:"Commits that changed it"`
}

const (
	storyPulse    = 48
	storyPeople   = 8
	storyPartners = 8
)

func (s *Server) story(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path string `query:"path" maxLength:"5000" doc:"A file or folder; empty: the root"`
}) (*body[StoryInfo], error) {
	c, v, err := s.chart(ctx, w)
	if err != nil {
		return nil, err
	}
	l, err := s.ledger(c)
	if err != nil {
		return nil, err
	}
	row := int32(-1)
	if in.Path != "" {
		if row = c.RowOf(in.Path); row < 0 {
			return nil, store.ErrNotFound
		}
	}
	files := c.Table.FilesOf(row)
	info := StoryInfo{Commit: v.OID, Pulse: []int{}, People: []StoryPerson{}, Partners: []PartnerInfo{}, Wide: history.WideCommit}
	if len(files) == 0 || len(l.Time) == 0 {
		return answer(info), nil
	}
	counts, first := l.Pulse(storyPulse, files...)
	info.Pulse, info.From, info.To = counts, moment(first), moment(l.Now)
	for _, n := range counts {
		info.Changes += n
	}
	h := l.Sweep(history.Everything).Of(files...)
	info.FirstAt, info.LastAt = moment(h.First), moment(h.Last)
	if h.First != 0 {
		info.Lately = l.CommitsOf(history.Span{From: l.Now - (l.Now-h.First)/4, To: l.Now + 1, Person: -1}, files...)
	}
	shares := l.Shares(files...)
	info.PeopleTotal = len(shares)
	if w.repository.PeopleHidden {
		shares = nil
	}
	for _, p := range shares[:min(len(shares), storyPeople)] {
		x := c.People[p.Person]
		info.People = append(info.People, StoryPerson{x.Name, p.Commits, x.LastAt, x.LastAt != nil && history.Gone(x.LastAt.Unix(), l.Now)})
	}
	partners, of := l.Partners(storyPartners, files...)
	info.PartnersOf, info.Swept = of, info.Changes-of
	for _, p := range partners {
		info.Partners = append(info.Partners, PartnerInfo{c.Files[p.File].Path, p.Together, p.Changes})
	}
	return answer(info), nil
}

func moment(unix int64) *time.Time {
	if unix == 0 {
		return nil
	}
	t := time.Unix(unix, 0).UTC()
	return &t
}
