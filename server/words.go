package server

import (
	"context"
	"net/http"

	"juxtagram/core/tagged"
)

func (s *Server) wordRoutes() []route {
	const at = "/api/repositories/{repository}/words"
	return []route{
		handle(s, "GET", at, Read, "The agreed words of tagged comments, with what they mean", s.words),
		handle(s, "PUT", at, Write, "Put down the team's own words; the pin is surveyed again where their spelling changes", s.setWords),
	}
}

func (s *Server) words(ctx context.Context, w *who, _ *RepositoryPath) (*body[[]WordInfo], error) {
	words, err := s.store.Words(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	return answer(wordInfos(words)), nil
}

func (s *Server) setWords(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Own []struct {
			Word    string `json:"word" maxLength:"80"`
			Meaning string `json:"meaning" maxLength:"400"`
			Urgency int    `json:"urgency"`
			Pattern string `json:"pattern,omitempty" maxLength:"400"`
			Done    bool   `json:"done,omitempty"`
		} `json:"own" maxItems:"60"`
	}
}) (*body[[]WordInfo], error) {
	own := make([]tagged.Word, len(in.Body.Own))
	for i, x := range in.Body.Own {
		own[i] = tagged.Word{Word: x.Word, Meaning: x.Meaning, Urgency: tagged.Urgency(x.Urgency), Pattern: x.Pattern, Done: x.Done}
	}
	words, err := tagged.Compile(own)
	if err != nil {
		return nil, problem(http.StatusUnprocessableEntity, "bad-words", err.Error())
	}
	before, err := s.store.Words(ctx, w.repository.ID)
	if err != nil {
		return nil, err
	}
	if err := s.store.SetOwnWords(ctx, w.repository.ID, own); err != nil {
		return nil, err
	}
	s.memory.forget(w.repository.ID, s.tagged.kind)
	if err := s.publishLeads(ctx, w); err != nil {
		return nil, err
	}
	if before.Print() != words.Print() && w.repository.Pin != "" {
		if err := s.surveyAgain(ctx, w); err != nil {
			return nil, err
		}
	}
	return answer(wordInfos(words)), nil
}
