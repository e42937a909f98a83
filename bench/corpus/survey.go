package corpus

import (
	"context"
	"errors"
	"os"
	"runtime"

	"juxtagram/core/history"
	"juxtagram/core/reader"
	"juxtagram/core/repo"
	"juxtagram/core/summary"
	"juxtagram/survey"
)

// Surveyed is a survey of a repository's head, without database.
type Surveyed struct {
	Git    *repo.Git
	Result *survey.Result
	Whole  *summary.Whole
	Memory *survey.Scratch
}

// With surveys the bare repository in a folder, and hands it on; what it keeps on
// disk meanwhile is gone afterwards.
func With(ctx context.Context, dir string, do func(*Surveyed) error) (err error) {
	temp, err := os.MkdirTemp("", "juxtagram-corpus-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(temp)
	s := &Surveyed{Git: repo.At(dir)}
	commit, _, err := s.Git.Head(ctx)
	if err != nil {
		return err
	}
	if s.Memory, err = survey.NewScratch(temp); err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Memory.Close()) }()
	readers := reader.New(runtime.GOMAXPROCS(0))
	defer readers.Close()
	if s.Result, err = survey.Run(ctx, s.Git, survey.Options{Commit: commit, HalfLife: history.DefaultHalfLife, Reader: readers}, s.Memory, &survey.Quiet{}); err != nil {
		return err
	}
	if s.Whole, err = s.Result.Whole(ctx, s.Memory, false); err != nil {
		return err
	}
	return do(s)
}
