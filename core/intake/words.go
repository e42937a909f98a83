package intake

import (
	"errors"
	"regexp"
	"strings"
	"syscall"

	"juxtagram/core/repo"
	"juxtagram/core/sandbox"
)

var objectID = regexp.MustCompile(`\b[0-9a-f]{40}(?:[0-9a-f]{24})?\b`)

// Words says what of a source cannot be read, for a person: nothing of this machine's
// paths, of git's own words or of what a hostile file says. ok is false where the error
// is not the source's.
func Words(err error) (words string, ok bool) {
	var (
		refused *Refused
		git     *repo.Error
		limit   *repo.TreeLimitError
		damaged *repo.DamagedError
		pin     *repo.UnknownPinError
		given   *sandbox.GivenUp
	)
	switch {
	case errors.As(err, &refused):
		return refused.Reason, true
	case IsDiskFull(err):
		return "the disk is full", false
	case errors.As(err, &limit):
		return "the repository is not read: " + limit.Reason, true
	case errors.As(err, &damaged):
		return "the repository is damaged: " + damaged.Error(), true
	case errors.As(err, &pin):
		return pin.Error(), true
	case errors.As(err, &given):
		return given.Reason, true
	case errors.Is(err, repo.ErrNoCommits):
		return "the repository is empty: it has no commits", true
	case errors.As(err, &git):
		if id := objectID.FindString(git.Stderr); id != "" {
			return "the repository is damaged: git cannot read object " + id, true
		}
		return "the repository is damaged: git cannot read it", true
	}
	return "", false
}

// IsDiskFull tells that something could not be written because its disk is full.
func IsDiskFull(err error) bool {
	return err != nil && (errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT) || strings.Contains(err.Error(), "No space left on device"))
}
