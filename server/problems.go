package server

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/intake"
	"juxtagram/core/plan"
	"juxtagram/core/repo"
	"juxtagram/store"
)

var errMayNotTakeIn = problem(http.StatusForbidden, "not-allowed", "you may not take in repositories here; the owner of this installation can let you")

var (
	errSignIn     = errors.New("sign in first")
	errNotAllowed = errors.New("your part in this repository does not allow this")
)

// Problem is an error as problem details (RFC 9457).
type Problem struct {
	Type    string              `json:"type" doc:"A word for the kind of problem, as a relative URI reference"`
	Title   string              `json:"title"`
	Status  int                 `json:"status"`
	Detail  string              `json:"detail" doc:"What happened, for a person"`
	Current *string             `json:"current,omitempty" doc:"For conflicts: what the text reads now"`
	Errors  []*huma.ErrorDetail `json:"errors,omitempty" doc:"For invalid requests: each fault with its place"`
	By      string              `json:"by,omitempty" doc:"For conflicts: who was there first"`
	after   int                 // seconds after which to try again; 0: not said
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus is the status the problem is answered with.
func (p *Problem) GetStatus() int { return p.Status }

// GetHeaders says when to try again.
func (p *Problem) GetHeaders() http.Header {
	h := http.Header{}
	if p.after > 0 {
		h.Set("Retry-After", strconv.Itoa(p.after))
	}
	return h
}

// ContentType is that of problem details.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

func problem(status int, kind, detail string) *Problem {
	return &Problem{Type: "problems/" + kind, Title: http.StatusText(status), Status: status, Detail: detail}
}

func init() {
	huma.DefaultArrayNullable = false // lists are empty, never null, unless tagged
	// huma makes every error of its own through this one place
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		for _, err := range errs {
			var p *Problem
			if errors.As(err, &p) {
				return p
			}
		}
		kind := "invalid"
		if status >= 500 {
			kind, message = "internal", "something went wrong on the server"
		}
		p := problem(status, kind, message)
		for _, err := range errs {
			var d huma.ErrorDetailer
			if errors.As(err, &d) {
				p.Errors = append(p.Errors, d.ErrorDetail())
			}
		}
		if len(p.Errors) > 0 {
			p.Detail = p.Errors[0].Message
			if at := p.Errors[0].Location; at != "" {
				p.Detail = at + ": " + p.Detail
			}
		}
		return p
	}
}

// explain maps every error a handler may return to a problem. What is not
// known here is our own failure: it is logged, and told without details.
func (s *Server) explain(err error) *Problem {
	var (
		p        *Problem
		refused  *intake.Refused
		conflict *plan.Conflict
		invalid  *plan.Invalid
		undo     *plan.CannotUndo
		damaged  *repo.DamagedError
		git      *repo.Error
		pin      *repo.UnknownPinError
		large    *repo.TooLargeError
	)
	switch {
	case errors.As(err, &p):
		return p
	case errors.Is(err, errSignIn):
		return problem(http.StatusUnauthorized, "sign-in", err.Error())
	case errors.Is(err, errNotAllowed):
		return problem(http.StatusForbidden, "not-allowed", err.Error())
	case errors.Is(err, store.ErrNotFound):
		return problem(http.StatusNotFound, "not-found", "there is nothing here, or nothing you may see")
	case errors.Is(err, store.ErrTaken):
		return problem(http.StatusConflict, "taken", "this is in use already")
	case errors.As(err, &refused):
		return problem(http.StatusUnprocessableEntity, "refused", refused.Reason)
	case errors.As(err, &conflict):
		q := problem(http.StatusConflict, "conflict", conflict.Error())
		q.Current = &conflict.Current
		return q
	case errors.As(err, &invalid):
		return problem(http.StatusUnprocessableEntity, "invalid", invalid.Reason)
	case errors.As(err, &undo):
		return problem(http.StatusConflict, "cannot-undo", undo.Reason)
	case errors.As(err, &pin):
		return problem(http.StatusNotFound, "unknown-pin", pin.Error())
	case errors.As(err, &large):
		return problem(http.StatusUnprocessableEntity, "too-large", large.Error())
	case errors.Is(err, errSlow):
		return problem(http.StatusRequestTimeout, "too-slow", errSlow.Error())
	case errors.As(err, &damaged):
		return problem(http.StatusUnprocessableEntity, "damaged", "the repository is damaged: "+damaged.Error())
	case errors.As(err, &git) && strings.Contains(git.Stderr, "not a git repository"):
		return problem(http.StatusConflict, "no-mirror", "the copy of this repository on the server is missing; it has to be taken in again")
	case store.IsUnkeepable(err):
		return problem(http.StatusBadRequest, "invalid", "the request holds a number or a text that no record can keep")
	case store.IsDiskFull(err) || intake.IsDiskFull(err):
		s.config.Logger.Error("the disk is full", "error", err)
		return problem(http.StatusInsufficientStorage, "disk-full", "the disk is full")
	case store.IsUnreachable(err):
		s.config.Logger.Error("the database does not answer", "error", err)
		p := problem(http.StatusServiceUnavailable, "no-database", "the database does not answer; try again in a few seconds")
		p.after = 5
		return p
	case errors.Is(err, context.Canceled):
		return problem(499, "cancelled", "the request was given up")
	}
	s.config.Logger.Error("answering a request", "error", err)
	return problem(http.StatusInternalServerError, "internal", "something went wrong on the server; its log says what")
}
