package main

import (
	"context"
	"errors"
	"os"
	"path/filepath"

	"juxtagram/core/facts"
	"juxtagram/core/intake"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/reader"
	"juxtagram/core/repo"
	"juxtagram/core/skim"
)

// mirror is a repository that was taken in without being surveyed.
type mirror struct {
	git     *repo.Git
	blobs   *repo.Blobs
	readers *reader.Pool
}

// withMirror takes in a source and hands it on; what it keeps on disk meanwhile is gone
// afterwards.
func withMirror(ctx context.Context, source string, do func(*mirror) error) error {
	temp, err := os.MkdirTemp("", "juxtagram-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(temp)
	exe, _ := os.Executable()
	dir := filepath.Join(temp, "mirror.git")
	if _, err := intake.Source(ctx, dir, source, intake.Options{Protocols: []string{"https", "http", "ssh", "git", "file"}, AskPass: exe, Once: true}); err != nil {
		return err
	}
	m := &mirror{git: repo.At(dir), readers: reader.New(1)}
	m.blobs = m.git.Blobs()
	defer m.blobs.Close()
	defer m.readers.Close()
	return do(m)
}

// read reads what a file at a commit says, with its text; nil: there is no such file, or
// nothing can be read of it.
func (m *mirror) read(ctx context.Context, commit, path string) (*facts.Details, string, error) {
	id, err := m.blobs.FindShown(commit, path)
	if errors.Is(err, repo.ErrNoFile) {
		return nil, "", nil
	}
	if err != nil {
		return nil, "", err
	}
	content, err := m.blobs.Read(id, facts.MaxRead)
	if large := (*repo.TooLargeError)(nil); errors.As(err, &large) {
		return nil, "", nil
	}
	language := all.Of(path, content)
	if err != nil || language == nil || len(content) == 0 {
		return nil, "", err
	}
	d, err := facts.Unpack(m.readers.Facts(ctx, language.Name, content).Packed)
	if err != nil {
		return nil, "", err
	}
	text, _ := facts.Text(content)
	return d, lang.ValidText(text), ctx.Err()
}

// skim cuts a file into regions by what it says alone, without history or links.
func (m *mirror) skim(ctx context.Context, commit, path string) (*skim.Skim, error) {
	d, content, err := m.read(ctx, commit, path)
	if d == nil {
		return nil, err
	}
	return skim.Of(&skim.Input{Content: content, Details: d}), nil
}
