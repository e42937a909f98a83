package server

import (
	"context"
	"net/http"
	"time"
)

func (s *Server) readinessRoutes() []route {
	return []route{
		handle(s, "GET", "/healthz", Unasked, "Whether the process answers", s.healthz),
		handle(s, "GET", "/readyz", Unasked, "Whether it can serve: the database, its queue and the disk", s.readyz),
	}
}

// Readiness is what a process needs to serve, and how it is.
type Readiness struct {
	Ready    bool   `json:"ready"`
	Database string `json:"database" enum:"up,down" doc:"With the queue in it"`
	Disk     string `json:"disk" enum:"room,full" doc:"full: nothing more is taken in; what is there can be read"`
}

// Up is the answer of a process that answers.
type Up struct {
	Status string `json:"status" enum:"up"`
}

func (s *Server) healthz(context.Context, *who, *struct{}) (*body[Up], error) {
	return answer(Up{"up"}), nil
}

// readyPatience is how long the database may take to answer.
const readyPatience = 2 * time.Second

func (s *Server) readyz(ctx context.Context, _ *who, _ *struct{}) (*readinessAnswer, error) {
	ctx, cancel := context.WithTimeout(ctx, readyPatience)
	defer cancel()
	a := &readinessAnswer{Status: http.StatusOK, Body: Readiness{Ready: true, Database: "up", Disk: "room"}}
	if s.jobs.Room() != nil {
		a.Body.Disk = "full"
	}
	if s.store.Ready(ctx) != nil {
		a.Status, a.Body.Ready, a.Body.Database = http.StatusServiceUnavailable, false, "down"
	}
	return a, nil
}

// readinessAnswer carries its status.
type readinessAnswer struct {
	Status int
	Body   Readiness
}
