package server

import (
	"context"
	"net/http"
	"path"
	"sort"
	"strings"
	"time"

	"juxtagram/core/history"
	"juxtagram/core/repo"
	"juxtagram/store"
)

func (s *Server) knowingRoutes() []route {
	const at = "/api/repositories/{repository}"
	return []route{
		handle(s, "GET", at+"/knowers", Read, "Whom to ask about a file or folder", s.knowers),
		handle(s, "GET", at+"/little-known", Read, "Folders that one person knows, or nobody", s.littleKnown),
		handle(s, "GET", at+"/people-joined", Read, "People of the history whom a keeper joined", s.joined),
		handle(s, "POST", at+"/people-joined", Keep, "Say that somebody of the history is the same person as another", s.join, status(http.StatusCreated)),
		handle(s, "DELETE", at+"/people-joined/{join}", Keep, "Take that back", s.unjoin),
	}
}

// hidden refuses what tells of people where a keeper turned that off.
func hidden(w *who) error {
	if w.repository.PeopleHidden {
		return problem(http.StatusForbidden, "people-hidden", "a keeper has turned people's figures off in this repository")
	}
	return nil
}

// KnowersInfo are the people to ask about a place.
type KnowersInfo struct {
	Path   string      `json:"path"`
	People []KnowerTo  `json:"people" doc:"Who knows it best now first; at most 100"`
	Total  int         `json:"total"`
	From   *time.Time  `json:"from" doc:"Start of the span of activity"`
	To     *time.Time  `json:"to" doc:"The pin"`
	Others []OtherName `json:"others" doc:"Others of the history, by name, at most 2,000; for joining"`
}

// KnowerTo is one person to ask.
type KnowerTo struct {
	OtherName
	Weight   float64    `json:"weight" doc:"Their changes of the place, each halved once a half-life of age"`
	Changes  int        `json:"changes"`
	LastHere *time.Time `json:"last_here"`
	LastAt   *time.Time `json:"last_at" doc:"Their last change anywhere"`
	Gone     bool       `json:"gone" doc:"Silent everywhere for the time that was set"`
	Activity []int      `json:"activity" doc:"Commits to the place in equal parts of the span"`
}

// OtherName names a person of the history.
type OtherName struct {
	Name  string `json:"name"`
	Email string `json:"email"`
}

const (
	maxKnowers    = 100
	maxOthers     = 2000
	activityParts = 36
)

func (s *Server) knowers(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Path     string  `query:"path" maxLength:"5000" doc:"A file or folder; empty: the root"`
	HalfLife float64 `query:"half_life" minimum:"1" maximum:"100000" default:"180"`
	Silent   int     `query:"silent" minimum:"1" maximum:"100000" default:"365" doc:"Days of silence before the pin after which somebody has left"`
	Days     int     `query:"days" minimum:"0" maximum:"100000" doc:"Span of the activity that is told, in days before the pin; 0: all time"`
}) (*body[KnowersInfo], error) {
	if err := hidden(w); err != nil {
		return nil, err
	}
	c, l, err := s.reckoned(ctx, w)
	if err != nil {
		return nil, err
	}
	row := int32(-1)
	if p := strings.Trim(in.Path, "/"); p != "" {
		if row = c.RowOf(p); row < 0 {
			return nil, store.ErrNotFound
		}
	}
	files := c.Table.FilesOf(row)
	info := KnowersInfo{Path: in.Path, People: []KnowerTo{}, Others: []OtherName{}, To: moment(l.Now)}
	from := int64(0)
	if len(l.Time) > 0 {
		from = l.Time[0]
	}
	if in.Days > 0 {
		from = max(from, l.Now-int64(in.Days)*24*60*60)
	}
	info.From = moment(from)
	activity := l.Activity(from, l.Now+1, activityParts, files...)
	known := map[int]bool{}
	all := l.Knowers(in.HalfLife, files...)
	info.Total = len(all)
	for _, k := range all {
		known[k.Person] = true
		if len(info.People) == maxKnowers {
			continue
		}
		p := c.People[k.Person]
		x := KnowerTo{OtherName: OtherName{p.Name, p.Email}, Weight: k.Weight, Changes: k.Changes, LastHere: moment(k.Last), LastAt: p.LastAt, Activity: activity[k.Person]}
		x.Gone = gone(p, l.Now, in.Silent)
		if x.Activity == nil {
			x.Activity = make([]int, activityParts)
		}
		info.People = append(info.People, x)
	}
	for i, p := range c.People {
		if !known[i] && len(info.Others) < maxOthers {
			info.Others = append(info.Others, OtherName{p.Name, p.Email})
		}
	}
	sort.Slice(info.Others, func(a, b int) bool { return info.Others[a].Name < info.Others[b].Name })
	return answer(info), nil
}

func gone(p store.MovesPerson, now int64, silent int) bool {
	return p.LastAt == nil || now-p.LastAt.Unix() > int64(silent)*24*60*60
}

// LittleKnownInfo are the folders that hardly anybody knows.
type LittleKnownInfo struct {
	Folders []LittleKnown `json:"folders" doc:"The largest first; of one folder in another, the outer alone; at most 200"`
	Total   int           `json:"total"`
	Of      int           `json:"of" doc:"Folders that hold code and were looked at"`
}

// LittleKnown is one folder.
type LittleKnown struct {
	Path  string `json:"path"`
	Files int    `json:"files"`
	One   string `json:"one" doc:"The only one who knows it; empty: nobody"`
}

func (s *Server) littleKnown(ctx context.Context, w *who, in *struct {
	RepositoryPath
	HalfLife float64 `query:"half_life" minimum:"1" maximum:"100000" default:"180"`
	Silent   int     `query:"silent" minimum:"1" maximum:"100000" default:"365"`
}) (*body[LittleKnownInfo], error) {
	if err := hidden(w); err != nil {
		return nil, err
	}
	c, l, err := s.reckoned(ctx, w)
	if err != nil {
		return nil, err
	}
	// every folder is a place; a file lies in all above it
	number := map[string]int32{}
	var names []string
	var files []int
	above := make([][]int32, len(c.Files))
	for i := range c.Files {
		if ok, _ := (&HotRules{}).counts(&c.Files[i]); !ok {
			continue
		}
		for dir := range repo.Folders(c.Files[i].Path) {
			n, ok := number[dir]
			if !ok {
				n = int32(len(names))
				number[dir], names, files = n, append(names, dir), append(files, 0)
			}
			files[n]++
			above[i] = append(above[i], n)
		}
	}
	count, one := l.KnowersIn(in.HalfLife, len(names), func(f int32) []int32 { return above[f] }, func(p int32) bool { return gone(c.People[p], l.Now, in.Silent) })
	info := LittleKnownInfo{Folders: []LittleKnown{}, Of: len(names)}
	little := func(n int32) bool { return count[n] < 2 }
	var found []LittleKnown
	for n, name := range names {
		if !little(int32(n)) {
			continue
		}
		if up, ok := number[path.Dir(name)]; ok && little(up) && one[up] == one[n] {
			continue
		}
		x := LittleKnown{Path: name, Files: files[n]}
		if one[n] >= 0 {
			x.One = c.People[one[n]].Name
		}
		found = append(found, x)
	}
	sort.Slice(found, func(a, b int) bool {
		if found[a].Files != found[b].Files {
			return found[a].Files > found[b].Files
		}
		return found[a].Path < found[b].Path
	})
	info.Total = len(found)
	info.Folders = append(info.Folders, found[:min(len(found), 200)]...)
	return answer(info), nil
}

// JoinInfo tells that somebody is the same person as another.
type JoinInfo struct {
	ID   int64     `json:"id"`
	From OtherName `json:"from"`
	To   OtherName `json:"to"`
	At   time.Time `json:"at"`
}

func (s *Server) joined(ctx context.Context, w *who, _ *RepositoryPath) (*body[[]JoinInfo], error) {
	if err := hidden(w); err != nil {
		return nil, err
	}
	rows, err := s.store.Joins(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	out := []JoinInfo{}
	for _, j := range rows {
		out = append(out, JoinInfo{j.ID, OtherName{j.Name, j.Email}, OtherName{j.ToName, j.ToEmail}, j.MadeAt})
	}
	return answer(out), nil
}

func (s *Server) join(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		From OtherName `json:"from"`
		To   OtherName `json:"to"`
	}
}) (*none, error) {
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	from, to := in.Body.From, in.Body.To
	if from == to || strings.EqualFold(from.Email, to.Email) && from.Email != "" {
		return nil, problem(http.StatusUnprocessableEntity, "same-person", "these are one person already")
	}
	for _, p := range []OtherName{from, to} {
		if !isKnown(l.People, p) {
			return nil, problem(http.StatusUnprocessableEntity, "no-such-person", "nobody called "+p.Name+" wrote a commit here")
		}
	}
	err = s.store.AddJoin(ctx, &store.PersonJoin{RepositoryID: w.repository.ID, Name: from.Name, Email: from.Email, ToName: to.Name, ToEmail: to.Email, MadeBy: &w.person.ID})
	if err != nil {
		return nil, err
	}
	return &none{}, s.joinsTurned(ctx, w)
}

func isKnown(people *history.People, who OtherName) bool {
	for _, p := range people.List {
		if p.Email == who.Email && (p.Email != "" || p.Name == who.Name) {
			return true
		}
	}
	return false
}

func (s *Server) unjoin(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Join int64 `path:"join"`
}) (*none, error) {
	if err := s.store.UndoJoin(ctx, w.repository.ID, in.Join); err != nil {
		return nil, err
	}
	return &none{}, s.joinsTurned(ctx, w)
}

// joinsTurned surveys the pin again, which costs no more than what the people
// are counted anew for.
func (s *Server) joinsTurned(ctx context.Context, w *who) error {
	if w.repository.State == store.Pinned {
		if err := s.surveyAgain(ctx, w); err != nil {
			return err
		}
	}
	return s.historyTurned(ctx, w.repository.ID)
}

// historyTurned tells everybody that what is known of the history, or of its
// people, has changed.
func (s *Server) historyTurned(ctx context.Context, repository int64) error {
	s.memory.forget(repository)
	if err := s.store.TurnHistory(ctx, repository); err != nil {
		return err
	}
	return s.store.Publish(ctx, store.Event{Kind: "history", Repository: repository})
}
