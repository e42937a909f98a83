package server

import (
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/gitlog"
	"juxtagram/store"
)

func (s *Server) feedRoutes() []route {
	const at = "/api/repositories/{repository}/feed"
	return []route{
		handle(s, "POST", at, Read, "Make the address of your feed of new commits; the one before stops to work", s.makeFeed, status(http.StatusCreated)),
		handle(s, "DELETE", at, Read, "Stop your feed", s.endFeed),
		atom(handle(s, "GET", "/api/feeds/{token}", Anybody, "New commits as an Atom feed, narrowed by any terms, as by watched paths", s.feed)),
	}
}

// atom says of a route that it answers with a feed.
func atom(r route) route {
	register := r.register
	r.register = func(api huma.API) {
		register(api)
		api.OpenAPI().Paths[r.path].Get.Responses["200"] = &huma.Response{Description: "OK", Content: map[string]*huma.MediaType{"application/atom+xml": {Schema: &huma.Schema{Type: "string"}}}}
	}
	return r
}

// FeedAddress is where a feed is read.
type FeedAddress struct {
	Path string `json:"path" doc:"To GET; add keep and drop as in the log's address. Whoever has it reads what you may read"`
}

func (s *Server) makeFeed(ctx context.Context, w *who, _ *RepositoryPath) (*body[FeedAddress], error) {
	token, err := s.store.MakeFeed(ctx, w.repository.ID, w.person.ID)
	return answer(FeedAddress{"/api/feeds/" + token}), err
}

func (s *Server) endFeed(ctx context.Context, w *who, _ *RepositoryPath) (*none, error) {
	return &none{}, s.store.EndFeed(ctx, w.repository.ID, w.person.ID)
}

// The elements of RFC 4287.
type atomFeed struct {
	XMLName xml.Name    `xml:"http://www.w3.org/2005/Atom feed"`
	ID      string      `xml:"id"`
	Title   string      `xml:"title"`
	Updated string      `xml:"updated"`
	Link    []atomLink  `xml:"link"`
	Author  atomName    `xml:"author"`
	Entries []atomEntry `xml:"entry"`
}

type atomLink struct {
	Rel  string `xml:"rel,attr"`
	Href string `xml:"href,attr"`
}

type atomName struct {
	Name string `xml:"name"`
}

type atomEntry struct {
	ID      string     `xml:"id"`
	Title   string     `xml:"title"`
	Updated string     `xml:"updated"`
	Link    []atomLink `xml:"link"`
	Author  *atomName  `xml:"author"`
	Summary string     `xml:"summary"`
}

// feedEntries is how many commits a feed holds.
const feedEntries = 60

func (s *Server) feed(ctx context.Context, _ *who, in *struct {
	Token string `path:"token" minLength:"20" maxLength:"100"`
	Terms
}) (*huma.StreamResponse, error) {
	w, err := s.reader(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	l, err := s.log(ctx, w)
	if err != nil {
		return nil, err
	}
	for _, t := range in.terms() {
		if k := gitlog.KeyOf(t.Key); k != nil && k.Slow {
			return nil, problem(http.StatusUnprocessableEntity, "not-understood", "a feed cannot be narrowed by words in changed lines")
		}
	}
	sel, problems := s.narrowed(ctx, w, l, in.terms())
	if problems != nil {
		return nil, problem(http.StatusUnprocessableEntity, "not-understood", problems[0].Why)
	}
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		base := s.address()
		f := l.feed(w.repository, base, sel)
		hc.SetHeader("Content-Type", "application/atom+xml; charset=utf-8")
		hc.SetHeader("Cache-Control", revalidate)
		_, _ = hc.BodyWriter().Write([]byte(xml.Header))
		_ = xml.NewEncoder(hc.BodyWriter()).Encode(f)
	}}, nil
}

// reader is the person whose feed a token leads to, as long as they may read
// the repository.
func (s *Server) reader(ctx context.Context, token string) (*who, error) {
	nothing := problem(http.StatusNotFound, "not-found", "there is no such feed, or it was stopped")
	repository, person, err := s.store.FeedOf(ctx, token)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nothing
	}
	if err != nil {
		return nil, err
	}
	w := &who{}
	if w.person, err = s.store.Person(ctx, person); err != nil {
		return nil, err
	}
	if w.repository, err = s.store.Repository(ctx, repository); err != nil {
		return nil, err
	}
	if w.role, err = s.store.RoleOf(ctx, repository, w.person); err != nil {
		return nil, err
	}
	if !w.role.Includes(store.Reader) {
		return nil, nothing
	}
	return w, nil
}

// feed writes the newest commits of a selection.
func (l *heldLog) feed(p *store.Repository, base string, sel *gitlog.Selection) atomFeed {
	at := func(unix int64) string { return time.Unix(unix, 0).UTC().Format(time.RFC3339) }
	page := fmt.Sprintf("%s/r/%d", base, p.ID)
	f := atomFeed{ID: page + "/history", Title: p.Name + ": new commits", Updated: at(0), Link: []atomLink{{"alternate", page + "/history"}}, Author: atomName{p.Name}}
	for _, i := range sel.Commits[:min(len(sel.Commits), feedEntries)] {
		link := page + "/commit/" + l.IDs[i]
		e := atomEntry{ID: link, Title: l.Subjects[i], Updated: at(l.Times[i]), Link: []atomLink{{"alternate", link}}}
		if e.Title == "" {
			e.Title = "(no message)"
		}
		if name := l.person(i); name != "" {
			e.Author = &atomName{name}
		}
		e.Summary = fmt.Sprintf("%d files", l.Files[i])
		if l.IsMerge(i) {
			e.Summary = "a merge"
		} else if l.Added[i] >= 0 {
			e.Summary += fmt.Sprintf(", %d lines added, %d taken away", l.Added[i], l.Deleted[i])
		}
		f.Entries = append(f.Entries, e)
	}
	if len(f.Entries) > 0 {
		f.Updated = f.Entries[0].Updated
	}
	return f
}
