package server

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"juxtagram/core/intake"
	"juxtagram/jobs"
	"juxtagram/store"
)

func (s *Server) fetchRoutes() []route {
	const at = "/api/repositories/{repository}"
	return []route{
		handle(s, "GET", at+"/news", Read, "What the last fetch found, and how far the main branch is ahead of the pin", s.news),
		handle(s, "POST", at+"/fetch", Write, "Fetch new commits; the pin stays", s.fetch, status(http.StatusAccepted)),
		handle(s, "POST", at+"/hook", Keep, "Make a secret for signed calls that ask for a fetch; the one before stops to work", s.makeHook, status(http.StatusCreated)),
		handle(s, "DELETE", at+"/hook", Keep, "Take no such calls any more", s.endHook),
		handle(s, "POST", "/api/hooks/{repository}", Anybody, "A signed call: there are new commits to fetch", s.called, status(http.StatusAccepted)),
	}
}

// NewsInfo tells how the mirror stands beside its source.
type NewsInfo struct {
	CanFetch  bool          `json:"can_fetch" doc:"There is somewhere to fetch from"`
	Fetching  bool          `json:"fetching"`
	Problem   string        `json:"problem" doc:"Why the last fetch failed; empty: it did not"`
	FetchedAt *time.Time    `json:"fetched_at" doc:"Null: never since it was taken in"`
	News      []intake.News `json:"news" doc:"What the last fetch found otherwise"`
	Head      string        `json:"head" doc:"The main branch; empty: none"`
	HeadID    string        `json:"head_id"`
	Ahead     int           `json:"ahead" doc:"Commits that the main branch has and the pin has not"`
	Hooked    bool          `json:"hooked" doc:"Signed calls are taken"`
}

func (s *Server) news(ctx context.Context, w *who, _ *RepositoryPath) (*body[NewsInfo], error) {
	p := w.repository
	info := NewsInfo{CanFetch: p.SourceKind != "file", Fetching: p.Fetching, Problem: p.FetchProblem, FetchedAt: p.FetchedAt, News: []intake.News{}, Hooked: len(p.HookSecret) > 0}
	if len(p.News) > 0 {
		if err := json.Unmarshal(p.News, &info.News); err != nil {
			return nil, err
		}
	}
	var err error
	if info.HeadID, info.Head, err = s.jobs.Git(p.ID).Head(ctx); err != nil {
		return nil, err
	}
	if l, err := s.log(ctx, w); err == nil && l.Pin >= 0 {
		if head := l.At(info.HeadID); head >= 0 {
			_, ahead := l.Apart(l.Pin, head)
			info.Ahead = ahead.Count()
		}
	}
	return answer(info), nil
}

func (s *Server) fetch(ctx context.Context, w *who, _ *RepositoryPath) (*none, error) {
	return &none{}, s.askForFetch(ctx, w.repository)
}

func (s *Server) askForFetch(ctx context.Context, p *store.Repository) error {
	if p.State != store.Pinned && p.State != store.NeedsPin {
		return problem(http.StatusConflict, "not-taken-in", "the repository is not taken in yet")
	}
	err := s.jobs.QueueFetch(ctx, p)
	if errors.Is(err, jobs.ErrNowhere) {
		return problem(http.StatusConflict, "nowhere", err.Error())
	}
	return err
}

// HookInfo is what whoever calls needs to know. The secret is told once.
type HookInfo struct {
	Path      string `json:"path" doc:"To POST to"`
	Secret    string `json:"secret"`
	Signature string `json:"signature" doc:"The header that carries the signature, and what it is"`
}

const signatureHeader = "Juxtagram-Signature"

func (s *Server) makeHook(ctx context.Context, w *who, _ *RepositoryPath) (*body[HookInfo], error) {
	raw := make([]byte, 24)
	_, _ = rand.Read(raw) // never fails
	secret := hex.EncodeToString(raw)
	sealed, err := s.jobs.SealBytes([]byte(secret))
	if err != nil {
		return nil, err
	}
	if err := s.store.UpdateRepository(ctx, w.repository.ID, map[string]any{"hook_secret": sealed}); err != nil {
		return nil, err
	}
	return answer(HookInfo{fmt.Sprintf("/api/hooks/%d", w.repository.ID), secret, signatureHeader + ": t=TIME,sha256=DIGITS, where TIME is in seconds since 1970, at most five minutes from now, and DIGITS are the HMAC-SHA-256 of TIME, a dot and the request's body with the secret, in hexadecimal. Each call is taken once"}), nil
}

func (s *Server) endHook(ctx context.Context, w *who, _ *RepositoryPath) (*none, error) {
	return &none{}, s.store.UpdateRepository(ctx, w.repository.ID, map[string]any{"hook_secret": nil})
}

// Calls count for so long after the time they carry; each is taken once.
const callValid = 5 * time.Minute

// callTries is how many calls that are not signed are looked at from one network, before
// they have to wait.
const callTries = 60

// called takes a signed call. Whatever is wrong is answered the same.
func (s *Server) called(ctx context.Context, _ *who, in *struct {
	carrier
	Repository int64  `path:"repository"`
	Signature  string `header:"Juxtagram-Signature" maxLength:"200" doc:"t= and the time in seconds since 1970, a comma, sha256= and the HMAC-SHA-256 of that time, a dot and the body"`
	RawBody    []byte `contentType:"application/octet-stream"`
}) (*none, error) {
	passed, err := s.guard.begin(map[string]int{"calls from " + networkOf(in.hctx): callTries})
	if err != nil {
		return nil, err
	}
	p, err := s.store.Repository(ctx, in.Repository)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	secret := []byte{}
	if err == nil && len(p.HookSecret) > 0 {
		if secret, err = s.jobs.OpenBytes(p.HookSecret); err != nil {
			secret = nil
		}
	}
	mac := signed(secret, in.Signature, in.RawBody, time.Now())
	if mac == nil || len(secret) == 0 {
		return nil, errNotSigned
	}
	first, err := s.store.FirstCall(ctx, mac, 2*callValid)
	if err != nil {
		return nil, err
	}
	if !first {
		return nil, errNotSigned
	}
	passed()
	return &none{}, s.askForFetch(ctx, p)
}

var errNotSigned = problem(http.StatusUnauthorized, "not-signed", "this call is not signed with the repository's secret, is not of these minutes, or was taken before")

// signed is a call's signature where it is right and of now; nil: it is not.
func signed(secret []byte, header string, body []byte, now time.Time) []byte {
	at, digits, ok := strings.Cut(strings.TrimPrefix(header, "t="), ",sha256=")
	seconds, timeErr := strconv.ParseInt(at, 10, 64)
	got, err := hex.DecodeString(digits)
	mac := hmac.New(sha256.New, secret)
	mac.Write([]byte(at + "."))
	mac.Write(body)
	sum := mac.Sum(nil)
	if !ok || err != nil || timeErr != nil || !hmac.Equal(got, sum) || now.Sub(time.Unix(seconds, 0)).Abs() > callValid {
		return nil
	}
	return sum
}
