package server

import (
	"bytes"
	"context"
	"errors"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/plan/page"
	"juxtagram/core/repo"
	"juxtagram/core/skim"
)

// planPage is a plan as one HTML page. It is kept by the browser, not shown from here.
func (s *Server) planPage(ctx context.Context, w *who, v *planView) (*huma.StreamResponse, error) {
	from := &page.Source{Git: s.jobs.Git(w.repository.ID), Blobs: s.readers.blobs(w.repository.ID), Skim: func(ctx context.Context, commit, path string) (*skim.Skim, error) {
		f, err := s.findIn(ctx, w, commit, path)
		if f == nil {
			return nil, err
		}
		got, err := s.skimOf(ctx, w, f, path)
		if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
			return nil, nil
		}
		return got, err
	}}
	var b bytes.Buffer
	if err := page.Write(ctx, &b, v.state, from, page.About{Repository: w.repository.Name, Edition: v.edition}); err != nil {
		return nil, err
	}
	return download("text/html; charset=utf-8", plainName(v.state.Title)+".html", func(out *bytes.Buffer) error {
		_, err := out.Write(b.Bytes())
		return err
	}), nil
}
