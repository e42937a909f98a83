package jobs

import (
	"context"
	"errors"

	"juxtagram/core/intake"
	"juxtagram/store"
	"juxtagram/survey"
)

// words tells a person why something failed: nothing of the server's paths, of the
// database or of what a hostile file says.
func words(err error) string {
	said, _ := intake.Words(err)
	var own *fault
	var folder *survey.NoFolderError
	switch {
	case said != "":
		return said
	case store.IsDiskFull(err):
		return "the disk is full"
	case errors.As(err, &folder):
		return folder.Error()
	case errors.As(err, &own):
		return own.Error()
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
