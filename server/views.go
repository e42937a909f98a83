package server

import (
	"context"
	"net/http"
	"net/url"
	"strings"

	"juxtagram/store"
)

func (s *Server) viewRoutes() []route {
	const at = "/api/repositories/{repository}/views"
	return []route{
		handle(s, "GET", at, Read, "Lists that you or the team keep by a name", s.views),
		handle(s, "POST", at, Read, "Keep a list by a name; writers may keep it for everybody", s.addView, status(http.StatusCreated)),
		handle(s, "DELETE", at+"/{view}", Read, "Keep it no more: your own, or everybody's as a writer", s.endView),
	}
}

// ViewInfo is a list that is kept by a name.
type ViewInfo struct {
	ID     int64  `json:"id"`
	Name   string `json:"name"`
	Query  string `json:"query" doc:"Of the page's address"`
	Shared bool   `json:"shared" doc:"Everybody's"`
}

func (s *Server) views(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Page string `query:"page" enum:"leads,tagged,notes" required:"true"`
}) (*body[[]ViewInfo], error) {
	rows, err := s.store.KeptViews(ctx, w.repository.ID, w.person.ID, in.Page)
	out := make([]ViewInfo, len(rows))
	for i, v := range rows {
		out[i] = ViewInfo{v.ID, v.Name, v.Query, v.PersonID == nil}
	}
	return answer(out), err
}

// maxViews is how many lists of one page somebody may keep.
const maxViews = 50

func (s *Server) addView(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Page   string `json:"page" enum:"leads,tagged,notes"`
		Name   string `json:"name" minLength:"1" maxLength:"60"`
		Query  string `json:"query" maxLength:"2000"`
		Shared bool   `json:"shared,omitempty"`
	}
}) (*body[ViewInfo], error) {
	name := strings.TrimSpace(in.Body.Name)
	if name == "" {
		return nil, problem(http.StatusUnprocessableEntity, "no-name", "a list is kept by a name")
	}
	if _, err := url.ParseQuery(in.Body.Query); err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "not-understood", "this is no part of an address")
	}
	if in.Body.Shared && !w.role.Includes(store.Writer) {
		return nil, problem(http.StatusForbidden, "not-allowed", "readers keep lists for themselves")
	}
	rows, err := s.store.KeptViews(ctx, w.repository.ID, w.person.ID, in.Body.Page)
	if err != nil {
		return nil, err
	}
	if len(rows) >= maxViews {
		return nil, problem(http.StatusUnprocessableEntity, "too-many", "50 kept lists are the most; take one away first")
	}
	v := &store.KeptView{RepositoryID: w.repository.ID, PersonID: &w.person.ID, Page: in.Body.Page, Name: name, Query: in.Body.Query}
	if in.Body.Shared {
		v.PersonID = nil
	}
	if err := s.store.AddKeptView(ctx, v); err != nil {
		return nil, err
	}
	return answer(ViewInfo{v.ID, v.Name, v.Query, in.Body.Shared}), nil
}

func (s *Server) endView(ctx context.Context, w *who, in *struct {
	RepositoryPath
	View int64 `path:"view"`
}) (*none, error) {
	v, err := s.store.KeptView(ctx, w.repository.ID, in.View)
	switch {
	case err != nil:
		return nil, err
	case v.PersonID != nil && *v.PersonID != w.person.ID:
		return nil, store.ErrNotFound
	case v.PersonID == nil && !w.role.Includes(store.Writer):
		return nil, errNotAllowed
	}
	return &none{}, s.store.EndKeptView(ctx, v.ID)
}
