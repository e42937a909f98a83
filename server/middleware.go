package server

import (
	"fmt"
	"net/http"
	"runtime/debug"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"juxtagram/store"
)

// recovery turns a panic into an answer without details and a log line with
// them.
func (s *Server) recovery() gin.HandlerFunc {
	return func(c *gin.Context) {
		defer func() {
			if p := recover(); p != nil {
				if p == http.ErrAbortHandler {
					panic(p)
				}
				s.config.Logger.Error("panic", "path", c.Request.URL.Path, "error", fmt.Sprint(p), "stack", string(debug.Stack()))
				c.AbortWithStatusJSON(http.StatusInternalServerError, problem(http.StatusInternalServerError, "internal", "something went wrong on the server"))
			}
		}()
		c.Next()
	}
}

func headers() gin.HandlerFunc {
	return func(c *gin.Context) {
		h := c.Writer.Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		c.Next()
	}
}

// sameSite refuses requests that change something and come from a page of
// another site, told by the headers browsers send.
func (s *Server) sameSite() gin.HandlerFunc {
	protect := http.NewCrossOriginProtection()
	return func(c *gin.Context) {
		if err := protect.Check(c.Request); err != nil {
			c.Header("Content-Type", "application/problem+json")
			c.AbortWithStatusJSON(http.StatusForbidden, problem(http.StatusForbidden, "cross-site", "this request comes from a page of another site"))
			return
		}
		c.Next()
	}
}

const cookieName = "juxtagram_session"

// permit finds out who asks, and holds the request to the route's access.
func (s *Server) permit(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		access, ok := ctx.Operation().Metadata["access"].(Access)
		if !ok {
			s.write(api, ctx, fmt.Errorf("route %s has no access", ctx.Operation().Path))
			return
		}
		who, err := s.who(ctx, access)
		if err != nil {
			s.write(api, ctx, err)
			return
		}
		next(huma.WithValue(ctx, whoKey{}, who))
	}
}

func (s *Server) write(api huma.API, ctx huma.Context, err error) {
	p := s.explain(err)
	_ = huma.WriteErr(api, ctx, p.Status, p.Detail, p)
}

type whoKey struct{}

// who is the person behind a request, with the part in the repository asked
// for.
type who struct {
	token      string // of the session
	person     *store.Person
	repository *store.Repository
	role       store.Role
}

func (s *Server) who(ctx huma.Context, access Access) (*who, error) {
	w := &who{}
	if cookie, err := huma.ReadCookie(ctx, cookieName); err == nil && cookie.Value != "" {
		session, err := s.sessions.Load(ctx.Context(), cookie.Value)
		if err != nil {
			return nil, err
		}
		if id := s.sessions.GetInt64(session, "person"); id != 0 {
			p, err := s.store.Person(ctx.Context(), id)
			if err == nil {
				w.token, w.person = cookie.Value, p
			} else if err != store.ErrNotFound {
				return nil, err
			}
		}
	}
	if access == Anybody {
		return w, nil
	}
	if w.person == nil {
		return nil, errSignIn
	}
	if access == SignedIn {
		return w, nil
	}
	if access == Owner {
		if !w.person.Owner {
			return nil, errNotAllowed
		}
		return w, nil
	}
	id, err := strconv.ParseInt(ctx.Param("repository"), 10, 64)
	if err != nil {
		return nil, store.ErrNotFound
	}
	if w.repository, err = s.store.Repository(ctx.Context(), id); err != nil {
		return nil, err
	}
	if w.role, err = s.store.RoleOf(ctx.Context(), id, w.person); err != nil {
		return nil, err
	}
	if w.role == store.NoRole || w.repository.State == store.Removing {
		return nil, store.ErrNotFound // strangers do not learn what there is
	}
	if !w.role.Includes(access.role()) {
		return nil, errNotAllowed
	}
	return w, nil
}

// startSession signs a person in: a new token, whatever was there before.
func (s *Server) startSession(ctx huma.Context, person int64) (*http.Cookie, error) {
	session, err := s.sessions.Load(ctx.Context(), "")
	if err != nil {
		return nil, err
	}
	if err := s.sessions.RenewToken(session); err != nil {
		return nil, err
	}
	s.sessions.Put(session, "person", person)
	token, expiry, err := s.sessions.Commit(session)
	if err != nil {
		return nil, err
	}
	return s.cookie(token, expiry), nil
}

func (s *Server) cookie(token string, expiry time.Time) *http.Cookie {
	return &http.Cookie{Name: cookieName, Value: token, Path: "/", HttpOnly: true, Secure: s.config.Secure, SameSite: http.SameSiteLaxMode, Expires: expiry}
}
