package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
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
	ID    int64  `json:"id"`
	Name  string `json:"name"`
	Email string `json:"email"`
	Owner bool   `json:"owner" doc:"Keeper of every repository"`
}

func (s *Server) me(ctx context.Context, w *who, _ *struct{}) (*body[Me], error) {
	me := Me{}
	if w.person != nil {
		me.Person = &MePerson{w.person.ID, w.person.Name, w.person.Email, w.person.Owner}
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
	SetCookie http.Cookie `header:"Set-Cookie"`
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
	return &signedIn{SetCookie: *cookie, Body: Me{Person: &MePerson{p.ID, p.Name, p.Email, p.Owner}}}, nil
}

func newPerson(a account) (store.Person, error) {
	name := strings.TrimSpace(a.Name)
	if name == "" {
		return store.Person{}, problem(http.StatusUnprocessableEntity, "invalid", "a name is needed")
	}
	hash, err := argon2id.CreateHash(a.Password, argon2id.DefaultParams)
	return store.Person{Name: name, Email: a.Email, PasswordHash: hash, CreatedAt: time.Now()}, err
}

func (s *Server) firstAccount(ctx context.Context, _ *who, in *struct {
	carrier
	Body account
}) (*signedIn, error) {
	p, err := newPerson(in.Body)
	if err != nil {
		return nil, err
	}
	made, err := s.store.AddPerson(ctx, p, true)
	if errors.Is(err, store.ErrTaken) {
		return nil, problem(http.StatusConflict, "taken", "there is an account already; ask its owner for an invitation")
	}
	if err != nil {
		return nil, err
	}
	return s.begin(&in.carrier, made)
}

// noSuchPerson takes as long to compare with as a real hash, so that the time
// does not tell whether an address has an account.
var noSuchPerson = sync.OnceValue(func() string {
	hash, _ := argon2id.CreateHash("nobody's password", argon2id.DefaultParams) // none compares with nothing
	return hash
})

func (s *Server) signIn(ctx context.Context, _ *who, in *struct {
	carrier
	Body struct {
		Email    string `json:"email" maxLength:"200"`
		Password string `json:"password" maxLength:"200"`
	}
}) (*signedIn, error) {
	name := strings.ToLower(strings.TrimSpace(in.Body.Email))
	if err := s.guard.check(name); err != nil {
		return nil, err
	}
	p, err := s.store.PersonByEmail(ctx, in.Body.Email)
	hash := noSuchPerson()
	if err == nil {
		hash = p.PasswordHash
	} else if !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	same, hashErr := argon2id.ComparePasswordAndHash(in.Body.Password, hash)
	if err != nil || hashErr != nil || !same {
		s.guard.failed(name)
		return nil, problem(http.StatusUnauthorized, "sign-in", "no account has this address and password")
	}
	s.guard.passed(name)
	return s.begin(&in.carrier, p)
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
	}
	gone := s.cookie("", time.Unix(1, 0))
	gone.MaxAge = -1
	return &signedIn{SetCookie: *gone}, nil
}

// InvitationInfo is what an invitation is for.
type InvitationInfo struct {
	Repository string     `json:"repository" doc:"Name of the repository"`
	ID         int64      `json:"repository_id"`
	Role       store.Role `json:"role"`
	InvitedBy  string     `json:"invited_by"`
}

// TokenPath names an invitation.
type TokenPath struct {
	Token string `path:"token" maxLength:"100"`
}

func (s *Server) invitation(ctx context.Context, _ *who, in *TokenPath) (*body[InvitationInfo], error) {
	inv, err := s.store.InvitationByToken(ctx, in.Token)
	if errors.Is(err, store.ErrNotFound) {
		return nil, problem(http.StatusNotFound, "not-found", "this invitation has been used, has run out, or never was")
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
		p, err = newPerson(*in.Body.Account)
	case w.person != nil:
		p = *w.person
	default:
		err = errSignIn
	}
	if err != nil {
		return nil, err
	}
	if err := s.store.Accept(ctx, in.Token, &p); err != nil {
		switch {
		case errors.Is(err, store.ErrNotFound):
			return nil, problem(http.StatusNotFound, "not-found", "this invitation has been used, has run out, or never was")
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
	return &none{}, s.store.SetRole(ctx, in.Repository, in.Person, store.NoRole)
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
