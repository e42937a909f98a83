package page

import (
	"context"
	"errors"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/highlight"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/repo"
	"juxtagram/core/skim"
)

// Source is where the code of a page comes from.
type Source struct {
	Git   *repo.Git
	Blobs *repo.Blobs
	// Skim cuts a file at a commit into regions; nil where it has none.
	Skim func(ctx context.Context, commit, path string) (*skim.Skim, error)
}

// text is a file at a commit.
type text struct {
	lines  []string
	pieces [][]highlight.Piece // nil: it has no colours
}

// missing tells why something is not shown.
type missing struct{ why string }

func (m *missing) Error() string { return m.why }

// raw reads a file of at most limit bytes.
func (s *Source) raw(commit, path string, limit int64) ([]byte, error) {
	id, err := s.Blobs.FindShown(commit, path)
	if errors.Is(err, repo.ErrNoFile) {
		return nil, &missing{"there is no such file at this commit"}
	}
	if err != nil {
		return nil, err
	}
	content, err := s.Blobs.Read(id, limit)
	if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
		return nil, &missing{"the file is too large to be shown"}
	}
	return content, err
}

func (s *Source) text(ctx context.Context, commit, path string) (*text, error) {
	content, err := s.raw(commit, path, facts.MaxRead)
	if err != nil {
		return nil, err
	}
	content, _ = facts.Text(content)
	shown := lang.ValidText(content)
	if strings.IndexByte(shown[:min(len(shown), 8000)], 0) >= 0 {
		return nil, &missing{"the file is binary"}
	}
	t := &text{}
	for l := range strings.Lines(shown) {
		t.lines = append(t.lines, strings.TrimRight(l, "\r\n"))
	}
	t.pieces, _ = highlight.Lines(ctx, all.Of(path, content), content)
	return t, ctx.Err()
}
