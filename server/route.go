package server

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/store"
)

// Access says who may use a route.
type Access string

// The kinds of access. The last three are a part in the repository that the
// path names.
const (
	Unasked  Access = "unasked" // nobody is asked who they are
	Anybody  Access = "anybody"
	SignedIn Access = "signed-in"
	TakeIn   Access = "take-in" // whom the owner lets take in repositories
	Owner    Access = "owner"
	Read     Access = "reader"
	Write    Access = "writer"
	Keep     Access = "keeper"
)

func (a Access) role() store.Role { return store.Role(a) }

// route is one line of the table: where, who may, what for, and how.
type route struct {
	method, path string
	access       Access
	summary      string
	register     func(huma.API)
}

// handle makes a route of a handler. Errors go through one place. options
// change the description.
func handle[I, O any](s *Server, method, path string, access Access, summary string, do func(context.Context, *who, *I) (*O, error), options ...func(*huma.Operation)) route {
	op := operation(method, path, access, summary)
	for _, o := range options {
		o(&op)
	}
	return route{method, path, access, summary, func(api huma.API) {
		huma.Register(api, op, func(ctx context.Context, in *I) (*O, error) {
			w, _ := ctx.Value(whoKey{}).(*who)
			out, err := do(ctx, w, in)
			if err != nil {
				return nil, s.explain(err)
			}
			return out, nil
		})
	}}
}

func operation(method, path string, access Access, summary string) huma.Operation {
	op := huma.Operation{
		OperationID: operationID(method, path), Method: method, Path: path, Summary: summary,
		Metadata: map[string]any{"access": access}, Tags: []string{tag(path)},
		Extensions: map[string]any{"x-access": string(access)},
	}
	if access != Anybody && access != Unasked {
		op.Security = []map[string][]string{{"session": {}}}
		op.Errors = append(op.Errors, http.StatusUnauthorized)
		if access != SignedIn {
			op.Errors = append(op.Errors, http.StatusForbidden, http.StatusNotFound)
		}
		op.Errors = append(op.Errors, http.StatusTooManyRequests)
	}
	return op
}

// operationID is made from method and path: "get-repositories-repository-files".
func operationID(method, path string) string {
	words := strings.Trim(strings.NewReplacer("/api/", "", "{", "", "}", "", "/", "-").Replace(path), "-")
	return strings.ToLower(method) + "-" + words
}

func tag(path string) string {
	parts := strings.Split(strings.TrimPrefix(strings.TrimPrefix(path, "/api/"), "/"), "/")
	if len(parts) > 2 && parts[0] == "repositories" {
		return parts[2]
	}
	return parts[0]
}

// body wraps an answer's content.
type body[T any] struct{ Body T }

func answer[T any](v T) *body[T] { return &body[T]{v} }

// none is an answer without content.
type none struct{}

// RepositoryPath is the part of a path that names a repository.
type RepositoryPath struct {
	Repository int64 `path:"repository" doc:"Id of the repository"`
}
