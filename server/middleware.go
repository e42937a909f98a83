package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"runtime/debug"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
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
				abort(c, problem(http.StatusInternalServerError, "internal", "something went wrong on the server"))
			}
		}()
		c.Next()
	}
}

// abort answers a request with a problem before it comes to a route.
func abort(c *gin.Context, p *Problem) {
	c.Header("Content-Type", p.ContentType(""))
	c.AbortWithStatusJSON(p.Status, p)
}

// headers are those of every answer. What a route does not say about being kept by
// browsers is not kept.
func (s *Server) headers(c *gin.Context) {
	h := c.Writer.Header()
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		h.Set("Cache-Control", "no-store")
	}
	if s.secure() {
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Next()
}

// sameSite refuses requests that change something and come from a page of
// another site, told by the headers browsers send.
func (s *Server) sameSite() gin.HandlerFunc {
	protect := http.NewCrossOriginProtection()
	return func(c *gin.Context) {
		asked := c.Request
		if s.config.PublicURL != nil { // what the request says of its host decides nothing
			asked = c.Request.Clone(c.Request.Context())
			asked.Host = s.config.PublicURL.Host
		}
		if err := protect.Check(asked); err != nil {
			abort(c, problem(http.StatusForbidden, "cross-site", "this request comes from a page of another site"))
			return
		}
		c.Next()
	}
}

const sessionCookie = "juxtagram_session"

// secure tells that the server is reached over https.
func (s *Server) secure() bool {
	return s.config.PublicURL != nil && s.config.PublicURL.Scheme == "https"
}

// cookieName is a cookie's name as browsers know it: with a prefix that keeps other hosts
// of the same domain, and plain connections, from setting it.
func (s *Server) cookieName(name string) string {
	if s.secure() {
		return "__Host-" + name
	}
	return name
}

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
		if mark, _ := ctx.Operation().Metadata[surveyedMark].(bool); mark {
			humagin.Unwrap(ctx).Set(surveyedMark, true)
		}
		if who.person != nil {
			kind, most := "requests", requestsAtOnce
			if ctx.Operation().Path == eventsPath {
				kind, most = "event streams", streamsAtOnce
			}
			leave, err := s.quotas.enter(kind, who.person.ID, most)
			if err != nil {
				s.write(api, ctx, err)
				return
			}
			defer leave()
		}
		next(huma.WithValue(ctx, whoKey{}, who))
	}
}

func (s *Server) write(api huma.API, ctx huma.Context, err error) {
	p := s.explain(err)
	for name, values := range p.GetHeaders() {
		ctx.SetHeader(name, values[0])
	}
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
	if access == Unasked {
		return w, nil
	}
	if cookie, err := huma.ReadCookie(ctx, s.cookieName(sessionCookie)); err == nil && cookie.Value != "" {
		p, err := s.signedInBy(ctx.Context(), cookie.Value)
		if err != nil {
			return nil, err
		}
		if p != nil {
			w.token, w.person = cookie.Value, p
		}
	}
	switch {
	case access == Anybody:
		return w, nil
	case w.person == nil:
		return nil, errSignIn
	case access == TakeIn && !w.person.Owner && !w.person.MayTakeIn:
		return nil, errMayNotTakeIn
	case access == Owner && !w.person.Owner:
		return nil, errNotAllowed
	case access == SignedIn, access == TakeIn, access == Owner:
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

// signedInBy is whose session a token is; nil: nobody's, or one that has ended.
func (s *Server) signedInBy(ctx context.Context, token string) (*store.Person, error) {
	session, err := s.sessions.Load(ctx, token)
	if err != nil {
		return nil, err
	}
	id := s.sessions.GetInt64(session, "person")
	if id == 0 {
		return nil, nil
	}
	p, err := s.store.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil || time.Unix(0, s.sessions.GetInt64(session, "began")).Before(p.SessionsFrom) {
		return nil, err
	}
	return p, nil
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
	s.sessions.Put(session, "began", time.Now().UnixNano())
	token, expiry, err := s.sessions.Commit(session)
	if err != nil {
		return nil, err
	}
	return s.cookie(sessionCookie, token, expiry), nil
}

func (s *Server) cookie(name, value string, expiry time.Time) *http.Cookie {
	return &http.Cookie{Name: s.cookieName(name), Value: value, Path: "/", HttpOnly: true, Secure: s.secure(), SameSite: http.SameSiteLaxMode, Expires: expiry}
}

// address is the one that people use, without a slash at its end.
func (s *Server) address() string {
	if s.config.PublicURL == nil {
		return "http://localhost"
	}
	return strings.TrimSuffix(s.config.PublicURL.String(), "/")
}
