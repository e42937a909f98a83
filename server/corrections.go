package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"juxtagram/core/role"
	"juxtagram/store"
	"juxtagram/survey"
)

func (s *Server) correctionRoutes() []route {
	const at = "/api/repositories/{repository}/corrections"
	return []route{
		handle(s, "GET", at, Read, "What people said that a survey could not know", s.corrections),
		handle(s, "POST", at, Write, "Correct the survey: a path's role, an entry point or not, a source root", s.correct, status(http.StatusCreated)),
		handle(s, "DELETE", at+"/{correction}", Write, "Take a correction back", s.uncorrect),
	}
}

// CorrectionInfo is what a person said of a path.
type CorrectionInfo struct {
	ID    int64     `json:"id"`
	Kind  string    `json:"kind" enum:"role,start,no-start,root" doc:"The role of a path and all below it; an entry point of a kind; no entry point; a source root"`
	Path  string    `json:"path"`
	Value string    `json:"value" doc:"The role, or the kind of entry point; empty otherwise"`
	By    string    `json:"by" doc:"Empty: the person is gone"`
	At    time.Time `json:"at"`
}

func correctionInfo(c *store.Correction) CorrectionInfo {
	return CorrectionInfo{c.ID, c.Kind, c.Path, c.Value, c.Name, c.At}
}

func (s *Server) corrections(ctx context.Context, w *who, _ *RepositoryPath) (*body[[]CorrectionInfo], error) {
	rows, err := s.store.Corrections(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	out := []CorrectionInfo{}
	for i := range rows {
		out = append(out, correctionInfo(&rows[i]))
	}
	return answer(out), nil
}

// correctable are the values that each kind of correction may have.
var correctable = map[string][]string{
	survey.CorrectRole:  {role.Source, role.Test, role.Sample, role.Documentation, role.Build, role.Configuration, role.Schema, role.Asset, role.Generated, role.Vendored, role.Other},
	survey.CorrectStart: {"program", "command", "script", "service", "route", "job", "library", "sample", "test", "page", "container", "ci"},
	survey.NoStart:      {""},
	survey.SourceRoot:   {""},
}

func (s *Server) correct(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Kind  string `json:"kind" enum:"role,start,no-start,root"`
		Path  string `json:"path" maxLength:"5000"`
		Value string `json:"value,omitempty" maxLength:"50"`
	}
}) (*body[CorrectionInfo], error) {
	known := false
	for _, v := range correctable[in.Body.Kind] {
		known = known || v == in.Body.Value
	}
	if !known {
		return nil, problem(http.StatusUnprocessableEntity, "bad-correction", "a correction of this kind may say: "+strings.Join(correctable[in.Body.Kind], ", "))
	}
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	at, err := s.store.PathAt(ctx, v.ID, in.Body.Path)
	if errors.Is(err, store.ErrNotFound) {
		return nil, problem(http.StatusUnprocessableEntity, "bad-correction", "there is no "+in.Body.Path+" at the pin")
	}
	if err != nil {
		return nil, err
	}
	if (in.Body.Kind == survey.SourceRoot) != at.Folder && in.Body.Kind != survey.CorrectRole {
		return nil, problem(http.StatusUnprocessableEntity, "bad-correction", "a source root is a folder, an entry point a file")
	}
	c := &store.Correction{RepositoryID: w.repository.ID, Kind: in.Body.Kind, Path: in.Body.Path, Value: in.Body.Value, PersonID: &w.person.ID, Name: w.person.Name}
	if err := s.store.AddCorrection(ctx, c); err != nil {
		return nil, err
	}
	return answer(correctionInfo(c)), s.surveyAgain(ctx, w)
}

func (s *Server) uncorrect(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Correction int64 `path:"correction"`
}) (*none, error) {
	if err := s.store.UndoCorrection(ctx, w.repository.ID, in.Correction); err != nil {
		return nil, err
	}
	return &none{}, s.surveyAgain(ctx, w)
}

// surveyAgain surveys the pin anew, in place of a survey that is under way.
func (s *Server) surveyAgain(ctx context.Context, w *who) error {
	v, err := s.store.SurveyAt(ctx, w.repository.ID, w.repository.Pin)
	if err == nil && (v.State == store.Waiting || v.State == store.Running) {
		err = s.jobs.CancelSurvey(ctx, v)
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	_, err = s.jobs.QueueSurvey(ctx, w.repository)
	return err
}

// correctedSince tells whether a survey does not know all corrections.
func (s *Server) correctedSince(ctx context.Context, v *store.Survey) bool {
	since, err := s.store.CorrectedSince(ctx, v.RepositoryID, v.CreatedAt)
	return err == nil && since
}
