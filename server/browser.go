package server

import (
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"net/http"
	"net/netip"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"juxtagram/store"
)

// A browser in which somebody has signed in keeps a sealed word of it: guesses made
// elsewhere do not make them wait.
const (
	browserCookie = "juxtagram_browser"
	browserKnown  = 180 * 24 * time.Hour
)

// browserWord ends to be true when the password changes.
func browserWord(p *store.Person) string {
	sum := sha256.Sum256([]byte(p.PasswordHash))
	return fmt.Sprintf("%d %s", p.ID, hex.EncodeToString(sum[:8]))
}

func (s *Server) browserCookie(p *store.Person) (*http.Cookie, error) {
	sealed, err := s.jobs.SealBytes([]byte(browserWord(p)))
	if err != nil {
		return nil, err
	}
	c := s.cookie(browserCookie, base64.RawURLEncoding.EncodeToString(sealed), time.Now().Add(browserKnown))
	return c, nil
}

// knows tells whether a person has signed in in this browser before.
func (s *Server) knows(ctx huma.Context, p *store.Person) bool {
	cookie, err := huma.ReadCookie(ctx, s.cookieName(browserCookie))
	if err != nil {
		return false
	}
	sealed, err := base64.RawURLEncoding.DecodeString(cookie.Value)
	if err != nil {
		return false
	}
	word, err := s.jobs.OpenBytes(sealed)
	return err == nil && string(word) == browserWord(p)
}

// networkOf is where a request comes from, as far as somebody cannot have many of it;
// "": from this machine, where a proxy that is not named hides everybody.
func networkOf(ctx huma.Context) string {
	a, err := netip.ParseAddr(humagin.Unwrap(ctx).ClientIP())
	switch a = a.Unmap(); {
	case err != nil || a.IsLoopback():
		return ""
	case a.Is6():
		if p, err := a.Prefix(64); err == nil {
			return p.String()
		}
	}
	return a.String()
}
