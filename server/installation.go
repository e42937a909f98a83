package server

import (
	"context"
	"net/http"

	"juxtagram/store"
)

func (s *Server) installationRoutes() []route {
	return []route{
		handle(s, "GET", "/api/people", Owner, "Everybody with an account, and what they may take in", s.people),
		handle(s, "PUT", "/api/people/{person}/rights", Owner, "Let a person take in repositories, and open folders of the server to them", s.setRights),
	}
}

// PersonLimits are what one person may take in and have at work; 0: not limited.
type PersonLimits struct {
	Repositories int
	Bytes        int64 // of all that they took in
	Jobs         int   // repositories that are worked on at once
}

// Installation is what its owner manages.
type Installation struct {
	Roots  []string     `json:"roots" doc:"Folders of the server that can be opened to people"`
	People []PersonInfo `json:"people" doc:"By name"`
}

// PersonInfo is somebody with an account.
type PersonInfo struct {
	ID           int64    `json:"id"`
	Name         string   `json:"name"`
	Email        string   `json:"email"`
	Owner        bool     `json:"owner" doc:"May take in from everywhere"`
	MayTakeIn    bool     `json:"may_take_in"`
	Roots        []string `json:"roots" doc:"Folders of the server from below which they may take in"`
	Parts        int      `json:"parts" doc:"Repositories in which they have a part"`
	Repositories int      `json:"repositories" doc:"That they took in"`
	Bytes        int64    `json:"bytes" doc:"That those take"`
}

func (s *Server) people(ctx context.Context, _ *who, _ *struct{}) (*body[Installation], error) {
	rows, err := s.store.RightsOfAll(ctx)
	out := Installation{Roots: append([]string{}, s.config.Roots...), People: []PersonInfo{}}
	for i := range rows {
		out.People = append(out.People, personInfo(&rows[i]))
	}
	return answer(out), err
}

func personInfo(r *store.Rights) PersonInfo {
	return PersonInfo{r.Person, r.Name, r.Email, r.Owner, r.MayTake, r.Roots, r.Parts, r.TakenIn, r.UsedByte}
}

func (s *Server) setRights(ctx context.Context, _ *who, in *struct {
	Person int64 `path:"person"`
	Body   struct {
		MayTakeIn bool     `json:"may_take_in"`
		Roots     []string `json:"roots" maxItems:"50" doc:"Each as the installation lists it; they replace those before"`
	}
}) (*body[PersonInfo], error) {
	for _, root := range in.Body.Roots {
		if !s.jobs.IsRoot(root) {
			return nil, problem(http.StatusUnprocessableEntity, "invalid", "this is none of the folders that the server was started with (--roots)")
		}
	}
	if err := s.store.SetRights(ctx, in.Person, in.Body.MayTakeIn, in.Body.Roots); err != nil {
		return nil, err
	}
	r, err := s.store.RightsOf(ctx, in.Person)
	if err != nil {
		return nil, err
	}
	return answer(personInfo(r)), nil
}
