package jobs

import (
	"context"
	"errors"
	"regexp"
	"strings"
	"syscall"

	"juxtagram/core/intake"
	"juxtagram/core/repo"
	"juxtagram/core/sandbox"
	"juxtagram/store"
)

var objectID = regexp.MustCompile(`\b[0-9a-f]{40}(?:[0-9a-f]{24})?\b`)

// words tells a person why something failed: nothing of the server's paths, of the
// database or of what a hostile file says.
func words(err error) string {
	var (
		git   *repo.Error
		limit *repo.TreeLimitError
		bad   *repo.DamagedError
		given *sandbox.GivenUp
		own   *fault
	)
	switch {
	case intake.IsRefused(err):
		return err.Error()
	case errors.Is(err, syscall.ENOSPC), store.IsDiskFull(err), strings.Contains(err.Error(), "No space left on device"):
		return "the disk is full"
	case errors.As(err, &limit), errors.As(err, &bad), errors.As(err, &given), errors.As(err, &own):
		return err.Error()
	case errors.As(err, &git):
		if id := objectID.FindString(git.Stderr); id != "" {
			return "the repository is damaged: git cannot read object " + id
		}
		return "the repository is damaged: git cannot read it"
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return "it was interrupted"
	}
	return "something went wrong on the server; its log says what"
}

// fault is a panic of our own.
type fault struct{ what any }

func (*fault) Error() string {
	return "a fault of Juxtagram itself, not of the repository; the server's log says where"
}
