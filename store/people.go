package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Person is somebody who can sign in.
type Person struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	Email        string
	Name         string
	PasswordHash string
	Owner        bool // of the installation: keeper of every repository
	MayTakeIn    bool
	SessionsFrom time.Time `gorm:"default:(-)"` // sessions that began before count no more
	CreatedAt    time.Time
}

// TableName names the table.
func (Person) TableName() string { return "person" }

// Role is a person's part in a repository.
type Role string

// The roles, each with all that the ones before it may do.
const (
	NoRole Role = ""
	Reader Role = "reader"
	Writer Role = "writer"
	Keeper Role = "keeper"
)

// Includes tells whether a role may do what another may.
func (r Role) Includes(other Role) bool {
	rank := map[Role]int{NoRole: 0, Reader: 1, Writer: 2, Keeper: 3}
	return rank[r] >= rank[other]
}

// HasPeople tells whether anybody has an account yet.
func (s *Store) HasPeople(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&Person{}).Limit(1).Count(&n).Error
	return n > 0, err
}

// AddPerson makes an account. ErrTaken when the address is in use. firstOwner
// makes the account only when there is none at all, else ErrTaken.
func (s *Store) AddPerson(ctx context.Context, p Person, firstOwner bool) (*Person, error) {
	p.Email = strings.TrimSpace(p.Email)
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if firstOwner {
			if err := tx.Exec("LOCK TABLE person IN EXCLUSIVE MODE").Error; err != nil {
				return err
			}
			var n int64
			if err := tx.Model(&Person{}).Count(&n).Error; err != nil {
				return err
			}
			if n > 0 {
				return ErrTaken
			}
			p.Owner = true
		}
		return tx.Create(&p).Error
	})
	if err != nil {
		return nil, known(err)
	}
	return &p, nil
}

// PersonByEmail finds an account by its address, letter case aside.
func (s *Store) PersonByEmail(ctx context.Context, email string) (*Person, error) {
	var p Person
	err := s.db.WithContext(ctx).Where("lower(email) = lower(?)", strings.TrimSpace(email)).First(&p).Error
	return &p, known(err)
}

// Person finds an account by id.
func (s *Store) Person(ctx context.Context, id int64) (*Person, error) {
	var p Person
	err := s.db.WithContext(ctx).First(&p, id).Error
	return &p, known(err)
}

// membership is one person's role in one repository.
type membership struct {
	RepositoryID int64 `gorm:"primaryKey"`
	PersonID     int64 `gorm:"primaryKey"`
	Role         Role
}

func (membership) TableName() string { return "membership" }

// Member is a person with the role in one repository.
type Member struct {
	PersonID int64
	Name     string
	Email    string
	Role     Role
}

// RoleOf is a person's role in a repository; NoRole for strangers. An owner of
// the installation is a keeper everywhere.
func (s *Store) RoleOf(ctx context.Context, repository int64, p *Person) (Role, error) {
	if p.Owner {
		return Keeper, nil
	}
	var m membership
	err := s.db.WithContext(ctx).Where("repository_id = ? AND person_id = ?", repository, p.ID).First(&m).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return NoRole, nil
	}
	return m.Role, err
}

// Members lists the people of a repository by name.
func (s *Store) Members(ctx context.Context, repository int64) ([]Member, error) {
	members := []Member{}
	err := s.db.WithContext(ctx).Table("membership m").Joins("JOIN person p ON p.id = m.person_id").
		Where("m.repository_id = ?", repository).Select("p.id AS person_id, p.name, p.email, m.role").Order("p.name, p.id").Scan(&members).Error
	return members, err
}

// SetRole gives a person a role in a repository; NoRole takes it away.
func (s *Store) SetRole(ctx context.Context, repository, person int64, role Role) error {
	m := membership{RepositoryID: repository, PersonID: person, Role: role}
	db := s.db.WithContext(ctx)
	if role == NoRole {
		return db.Where("repository_id = ? AND person_id = ?", repository, person).Delete(&membership{}).Error
	}
	return known(db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "repository_id"}, {Name: "person_id"}}, DoUpdates: clause.AssignmentColumns([]string{"role"})}).Create(&m).Error)
}

// Invitation lets somebody make an account, and join a repository.
type Invitation struct {
	ID           int64 `gorm:"primaryKey;default:(-)"`
	TokenHash    []byte
	RepositoryID *int64
	Role         Role
	CreatedBy    int64
	CreatedAt    time.Time
	ExpiresAt    time.Time
	UsedBy       *int64
	UsedAt       *time.Time
}

// TableName names the table.
func (Invitation) TableName() string { return "invitation" }

// Invite makes an invitation and returns its token, which is kept nowhere.
func (s *Store) Invite(ctx context.Context, repository *int64, role Role, by int64, valid time.Duration) (token string, err error) {
	raw := make([]byte, 24)
	_, _ = rand.Read(raw) // never fails
	token = base64.RawURLEncoding.EncodeToString(raw)
	inv := Invitation{TokenHash: hash(token), RepositoryID: repository, Role: role, CreatedBy: by, CreatedAt: time.Now(), ExpiresAt: time.Now().Add(valid)}
	return token, s.db.WithContext(ctx).Create(&inv).Error
}

func hash(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

// InvitationByToken finds an invitation that can still be used.
func (s *Store) InvitationByToken(ctx context.Context, token string) (*Invitation, error) {
	var inv Invitation
	err := s.db.WithContext(ctx).Where("token_hash = ? AND used_at IS NULL AND expires_at > now()", hash(token)).First(&inv).Error
	return &inv, known(err)
}

// Accept uses an invitation once: with a new account (person.ID 0) or for one
// that exists. ErrNotFound when it was used meanwhile, ErrTaken when the
// address is in use.
func (s *Store) Accept(ctx context.Context, token string, p *Person) error {
	return known(s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var inv Invitation
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("token_hash = ? AND used_at IS NULL AND expires_at > now()", hash(token)).First(&inv).Error; err != nil {
			return err
		}
		if p.ID == 0 {
			if err := tx.Create(p).Error; err != nil {
				return err
			}
		}
		if inv.RepositoryID != nil {
			m := membership{RepositoryID: *inv.RepositoryID, PersonID: p.ID, Role: inv.Role}
			// an invitation never takes away what somebody has
			var had membership
			err := tx.Where("repository_id = ? AND person_id = ?", m.RepositoryID, m.PersonID).First(&had).Error
			if err == nil && had.Role.Includes(m.Role) {
				m.Role = had.Role
			}
			if err := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "repository_id"}, {Name: "person_id"}}, DoUpdates: clause.AssignmentColumns([]string{"role"})}).Create(&m).Error; err != nil {
				return err
			}
		}
		now := time.Now()
		return tx.Model(&inv).Updates(map[string]any{"used_by": p.ID, "used_at": now}).Error
	}))
}
