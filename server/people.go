package server

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/store"
)

func (s *Server) peopleRoutes() []route {
	return []route{
		handle(s, "GET", "/api/me", Anybody, "Who is signed in, and whether the first account is still to be made", s.me),
		handle(s, "POST", "/api/first-account", Anybody, "Make the installation's first account, its owner's", s.firstAccount),
		handle(s, "POST", "/api/sign-in", Anybody, "Sign in", s.signIn),
		handle(s, "POST", "/api/sign-out", Anybody, "Sign out", s.signOut),
		handle(s, "GET", "/api/invitations/{token}", Anybody, "What an invitation is for", s.invitation),
		handle(s, "POST", "/api/invitations/{token}", Anybody, "Accept an invitation, with a new account or as who you are", s.accept),
		handle(s, "GET", "/api/repositories/{repository}/members", Read, "The people of a repository", s.members),
		handle(s, "PUT", "/api/repositories/{repository}/members/{person}", Keep, "Give a person another part", s.setMember),
		handle(s, "DELETE", "/api/repositories/{repository}/members/{person}", Keep, "Take a person out of the repository", s.removeMember),
		handle(s, "POST", "/api/repositories/{repository}/invitations", Keep, "Make an invitation by link", s.invite),
	}
}

// Me is who is signed in.
type Me struct {
	Person       *MePerson `json:"person,omitempty" doc:"Left out: nobody"`
	FirstAccount bool      `json:"first_account" doc:"No account exists yet: whoever comes first becomes the owner"`
}

// MePerson is the person who is signed in.
type MePerson struct {
	ID        int64  `json:"id"`
	Name      string `json:"name"`
	Email     string `json:"email"`
	Owner     bool   `json:"owner" doc:"Keeper of every repository"`
	MayTakeIn bool   `json:"may_take_in" doc:"May take in repositories"`
}

func mePerson(p *store.Person) *MePerson {
	return &MePerson{p.ID, p.Name, p.Email, p.Owner, p.Owner || p.MayTakeIn}
}

func (s *Server) me(ctx context.Context, w *who, _ *struct{}) (*body[Me], error) {
	me := Me{}
	if w.person != nil {
		me.Person = mePerson(w.person)
		return answer(me), nil
	}
	has, err := s.store.HasPeople(ctx)
	me.FirstAccount = !has
	return answer(me), err
}

// account is what somebody gives for a new account.
type account struct {
	Name     string `json:"name" minLength:"1" maxLength:"100"`
	Email    string `json:"email" format:"email" maxLength:"200"`
	Password string `json:"password" minLength:"10" maxLength:"200" doc:"Ten characters at least"`
}

// signedIn is an answer that sets the session's cookie.
type signedIn struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      Me
}

// carrier hands huma's context to a handler that sets cookies.
type carrier struct{ hctx huma.Context }

// Resolve implements huma.Resolver.
func (c *carrier) Resolve(ctx huma.Context) []error {
	c.hctx = ctx
	return nil
}

func (s *Server) begin(in *carrier, p *store.Person) (*signedIn, error) {
	cookie, err := s.startSession(in.hctx, p.ID)
	if err != nil {
		return nil, err
	}
	browser, err := s.browserCookie(p)
	if err != nil {
		return nil, err
	}
	return &signedIn{SetCookie: []http.Cookie{*cookie, *browser}, Body: Me{Person: mePerson(p)}}, nil
}

func (s *Server) newPerson(ctx context.Context, a account) (store.Person, error) {
	name := strings.TrimSpace(a.Name)
	if name == "" {
		return store.Person{}, problem(http.StatusUnprocessableEntity, "invalid", "a name is needed")
	}
	hash, err := s.passwords.hash(ctx, a.Password)
	return store.Person{Name: name, Email: a.Email, PasswordHash: hash, CreatedAt: time.Now()}, err
}

func (s *Server) firstAccount(ctx context.Context, _ *who, in *struct {
	carrier
	Body account
}) (*signedIn, error) {
	taken := problem(http.StatusConflict, "taken", "there is an account already; ask its owner for an invitation")
	if has, err := s.store.HasPeople(ctx); err != nil || has {
		return nil, cmp.Or[error](err, taken) // before anything costly is done
	}
	p, err := s.newPerson(ctx, in.Body)
	if err != nil {
		return nil, err
	}
	made, err := s.store.AddPerson(ctx, p, true)
	if errors.Is(err, store.ErrTaken) {
		return nil, taken
	}
	if err != nil {
		return nil, err
	}
	return s.begin(&in.carrier, made)
}

func (s *Server) signIn(ctx context.Context, _ *who, in *struct {
	carrier
	Body struct {
		Email    string `json:"email" maxLength:"200"`
		Password string `json:"password" maxLength:"200"`
	}
}) (*signedIn, error) {
	p, err := s.store.PersonByEmail(ctx, in.Body.Email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	there := err == nil
	passed, err := s.guard.begin(s.triesOf(in.hctx, strings.ToLower(strings.TrimSpace(in.Body.Email)), there && s.knows(in.hctx, p)))
	if err != nil {
		return nil, err
	}
	hash := ""
	if there {
		hash = p.PasswordHash
	}
	same, err := s.passwords.same(ctx, in.Body.Password, hash)
	if err != nil {
		passed() // nothing was learnt
		return nil, err
	}
	if !same {
		return nil, problem(http.StatusUnauthorized, "sign-in", "no account has this address and password")
	}
	passed()
	return s.begin(&in.carrier, p)
}

// Free tries to guess: for an account from anywhere, from one network, and for an account
// in a browser that knows it.
const (
	accountTries = 30
	networkTries = 20
)

// triesOf are the names under which a try to sign in counts. Guesses of strangers never
// make somebody wait in a browser that they have signed in with.
func (s *Server) triesOf(ctx huma.Context, account string, known bool) map[string]int {
	if known {
		return map[string]int{"known " + account: freeTries}
	}
	tries := map[string]int{"account " + account: accountTries}
	if network := networkOf(ctx); network != "" {
		tries["network "+network] = networkTries
		tries["account "+account+" from "+network] = freeTries
	} else {
		tries["account "+account+" from here"] = freeTries
	}
	return tries
}

func (s *Server) signOut(ctx context.Context, w *who, _ *struct{}) (*signedIn, error) {
	if w.token != "" {
		session, err := s.sessions.Load(ctx, w.token)
		if err != nil {
			return nil, err
		}
		if err := s.sessions.Destroy(session); err != nil {
			return nil, err
		}
		if err := s.endStreams(ctx, w.person.ID); err != nil {
			return nil, err
		}
	}
	gone := s.cookie(sessionCookie, "", time.Unix(1, 0))
	gone.MaxAge = -1
	return &signedIn{SetCookie: []http.Cookie{*gone}}, nil
}

// InvitationInfo is what an invitation is for.
type InvitationInfo struct {
	Repository string     `json:"repository" doc:"Name of the repository"`
	ID         int64      `json:"repository_id"`
	Role       store.Role `json:"role"`
	InvitedBy  string     `json:"invited_by"`
}

var errNoInvitation = problem(http.StatusNotFound, "not-found", "this invitation has been used, has run out, or never was")

// invitationTries are the names under which a look for an invitation counts.
func (s *Server) invitationTries(ctx huma.Context) map[string]int {
	return map[string]int{"invitations from " + networkOf(ctx): networkTries}
}

// TokenPath names an invitation.
type TokenPath struct {
	Token string `path:"token" maxLength:"100"`
}

func (s *Server) invitation(ctx context.Context, _ *who, in *TokenPath) (*body[InvitationInfo], error) {
	inv, err := s.store.InvitationByToken(ctx, in.Token)
	if errors.Is(err, store.ErrNotFound) {
		return nil, errNoInvitation
	}
	if err != nil {
		return nil, err
	}
	info := InvitationInfo{Role: inv.Role}
	if inv.RepositoryID != nil {
		r, err := s.store.Repository(ctx, *inv.RepositoryID)
		if err != nil {
			return nil, err
		}
		info.Repository, info.ID = r.Name, r.ID
	}
	if by, err := s.store.Person(ctx, inv.CreatedBy); err == nil {
		info.InvitedBy = by.Name
	}
	return answer(info), nil
}

func (s *Server) accept(ctx context.Context, w *who, in *struct {
	carrier
	TokenPath
	Body struct {
		Account *account `json:"account,omitempty" doc:"For a new account; left out when signed in"`
	}
}) (*signedIn, error) {
	var p store.Person
	var err error
	switch {
	case in.Body.Account != nil:
		var passed func()
		if passed, err = s.guard.begin(s.invitationTries(in.hctx)); err != nil {
			break
		}
		if _, err = s.store.InvitationByToken(ctx, in.Token); err != nil {
			break // before anything costly is done
		}
		passed()
		p, err = s.newPerson(ctx, *in.Body.Account)
	case w.person != nil:
		p = *w.person
	default:
		err = errSignIn
	}
	if errors.Is(err, store.ErrNotFound) {
		return nil, errNoInvitation
	}
	if err != nil {
		return nil, err
	}
	if err := s.store.Accept(ctx, in.Token, &p); err != nil {
		switch {
		case errors.Is(err, store.ErrNotFound):
			return nil, errNoInvitation
		case errors.Is(err, store.ErrTaken):
			return nil, problem(http.StatusConflict, "taken", "this address has an account already: sign in and open the link again")
		}
		return nil, err
	}
	return s.begin(&in.carrier, &p)
}

// Member is one person of a repository.
type Member struct {
	ID     int64      `json:"id"`
	Name   string     `json:"name"`
	Email  string     `json:"email"`
	Role   store.Role `json:"role"`
	Handle string     `json:"handle" doc:"How they are mentioned in a text, behind an @"`
}

func (s *Server) members(ctx context.Context, w *who, in *RepositoryPath) (*body[[]Member], error) {
	rows, err := s.store.Members(ctx, in.Repository)
	members := []Member{}
	known := handles(rows)
	for i, m := range rows {
		if w.role != store.Keeper {
			m.Email = "" // addresses are for those who manage people
		}
		members = append(members, Member{m.PersonID, m.Name, m.Email, m.Role, known[i]})
	}
	return answer(members), err
}

// MemberPath names a person of a repository.
type MemberPath struct {
	RepositoryPath
	Person int64 `path:"person"`
}

func (s *Server) setMember(ctx context.Context, _ *who, in *struct {
	MemberPath
	Body struct {
		Role store.Role `json:"role" enum:"reader,writer,keeper"`
	}
}) (*none, error) {
	if _, err := s.store.Person(ctx, in.Person); err != nil {
		return nil, err
	}
	if err := s.keepsOne(ctx, in.Repository, in.Person, in.Body.Role); err != nil {
		return nil, err
	}
	return &none{}, s.store.SetRole(ctx, in.Repository, in.Person, in.Body.Role)
}

func (s *Server) removeMember(ctx context.Context, _ *who, in *MemberPath) (*none, error) {
	if err := s.keepsOne(ctx, in.Repository, in.Person, store.NoRole); err != nil {
		return nil, err
	}
	if err := s.store.SetRole(ctx, in.Repository, in.Person, store.NoRole); err != nil {
		return nil, err
	}
	if _, err := s.store.RevokeWithoutPart(ctx, in.Person, time.Now()); err != nil {
		return nil, err
	}
	return &none{}, s.endStreams(ctx, in.Person)
}

// keepsOne refuses to leave a repository without a keeper.
func (s *Server) keepsOne(ctx context.Context, repository, person int64, role store.Role) error {
	members, err := s.store.Members(ctx, repository)
	if err != nil {
		return err
	}
	is, others := false, 0
	for _, m := range members {
		if m.Role == store.Keeper && m.PersonID == person {
			is = true
		} else if m.Role == store.Keeper {
			others++
		}
	}
	if is && role != store.Keeper && others == 0 {
		return problem(http.StatusConflict, "last-keeper", "a repository needs a keeper: make somebody else one first")
	}
	return nil
}

// NewInvitation is an invitation that was just made.
type NewInvitation struct {
	Token     string    `json:"token" doc:"Part of the link; shown this once"`
	ExpiresAt time.Time `json:"expires_at"`
}

// invitationValid is how long an invitation can be used.
const invitationValid = 14 * 24 * time.Hour

func (s *Server) invite(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Body struct {
		Role store.Role `json:"role" enum:"reader,writer,keeper"`
	}
}) (*body[NewInvitation], error) {
	token, err := s.store.Invite(ctx, &in.Repository, in.Body.Role, w.person.ID, invitationValid)
	return answer(NewInvitation{token, time.Now().Add(invitationValid)}), err
}
