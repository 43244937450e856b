package store

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"regexp"
	"strings"
	"time"

	"golang.org/x/crypto/argon2"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"ubiquant/core/model"
)

// Role is what a person may do.
type Role = model.Role

// The roles.
const (
	Keeper  = model.Keeper
	Builder = model.Builder
	Reader  = model.Reader
)

// User is a person with an account.
type User struct {
	Name     string `gorm:"primaryKey" json:"name"`
	FullName string `json:"fullName"`
	Role     Role   `json:"role"`
	Hash     string `json:"-"`
}

// argon2id's parameters, as RFC 9106 recommends for limited memory.
const (
	argonTime    = 3
	argonMemory  = 64 << 10 // KiB
	argonThreads = 2
)

func hashPassword(password string) (string, error) {
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return "", err
	}
	key := argon2.IDKey([]byte(password), salt, argonTime, argonMemory, argonThreads, 32)
	return base64.RawStdEncoding.EncodeToString(salt) + "$" + base64.RawStdEncoding.EncodeToString(key), nil
}

func passwordFits(password, hash string) bool {
	saltText, keyText, _ := strings.Cut(hash, "$")
	salt, err := base64.RawStdEncoding.DecodeString(saltText)
	key, err2 := base64.RawStdEncoding.DecodeString(keyText)
	if err != nil || err2 != nil || len(key) == 0 {
		// Takes as long as a real check, so that it does not tell who exists.
		salt, key = make([]byte, 16), make([]byte, 32)
	}
	got := argon2.IDKey([]byte(password), salt, argonTime, argonMemory, argonThreads, 32)
	return subtle.ConstantTimeCompare(got, key) == 1 && hash != ""
}

var userName = regexp.MustCompile(`^[a-z][a-z0-9._-]{0,31}$`)

// PutUser adds or changes a person; an empty password leaves it as it is.
func (s *Store) PutUser(ctx context.Context, u User, password string) error {
	if !userName.MatchString(u.Name) {
		return fmt.Errorf("%q cannot be a user name; accepted: lower-case letters, digits, dots and dashes", u.Name)
	}
	if u.Role.Rank() == 0 {
		return fmt.Errorf("the role %q is not known; accepted: keeper, builder, reader", u.Role)
	}
	columns := []string{"full_name", "role"}
	if password != "" {
		if len(password) < 10 {
			return fmt.Errorf("a password has at least 10 characters")
		}
		var err error
		if u.Hash, err = hashPassword(password); err != nil {
			return err
		}
		columns = append(columns, "hash")
	}
	return s.db.WithContext(ctx).
		Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "name"}}, DoUpdates: clause.AssignmentColumns(columns)}).
		Create(&u).
		Error
}

// Users lists all people.
func (s *Store) Users(ctx context.Context) ([]User, error) {
	var out []User
	err := s.db.WithContext(ctx).Order("name").Find(&out).Error
	return out, err
}

// ErrSignIn says that a name, password or link does not open a session.
var ErrSignIn = errors.New("the name and password do not fit")

type sessionRow struct {
	Hash      []byte `gorm:"primaryKey"`
	UserName  string
	ExpiresAt time.Time
}

// sessionLife is how long a session lasts.
const sessionLife = 30 * 24 * time.Hour

// SignIn checks a password and opens a session; the text goes into the cookie.
func (s *Store) SignIn(ctx context.Context, name, password string) (cookie string, u User, err error) {
	err = s.db.WithContext(ctx).Where("name = ?", name).First(&u).Error
	if err != nil && !errors.Is(err, gorm.ErrRecordNotFound) {
		return "", u, err
	}
	if !passwordFits(password, u.Hash) {
		return "", u, ErrSignIn
	}
	cookie, err = s.open(ctx, u.Name)
	return cookie, u, err
}

func (s *Store) open(ctx context.Context, name string) (string, error) {
	text, hash, err := token()
	if err != nil {
		return "", err
	}
	return text, s.db.WithContext(ctx).
		Table("sessions").
		Create(&sessionRow{hash, name, time.Now().Add(sessionLife)}).
		Error
}

// Link makes a one-time sign-in link's token, good for an hour.
func (s *Store) Link(ctx context.Context, name string) (string, error) {
	text, hash, err := token()
	if err != nil {
		return "", err
	}
	return text, s.db.WithContext(ctx).Table("links").Create(&sessionRow{hash, name, time.Now().Add(time.Hour)}).Error
}

// UseLink opens a session by a link, once.
func (s *Store) UseLink(ctx context.Context, text string) (cookie string, u User, err error) {
	var row sessionRow
	res := s.db.WithContext(ctx).
		Table("links").
		Clauses(clause.Returning{}).
		Where("hash = ? AND expires_at > now()", hashOf(text)).
		Delete(&row)
	if res.Error != nil {
		return "", u, res.Error
	}
	if res.RowsAffected == 0 {
		return "", u, ErrSignIn
	}
	if err := s.db.WithContext(ctx).Where("name = ?", row.UserName).First(&u).Error; err != nil {
		return "", u, err
	}
	cookie, err = s.open(ctx, u.Name)
	return cookie, u, err
}

// Session finds who a cookie belongs to.
func (s *Store) Session(ctx context.Context, cookie string) (User, error) {
	var u User
	err := s.db.WithContext(ctx).
		Joins("JOIN sessions ON sessions.user_name = users.name AND sessions.hash = ? AND sessions.expires_at > now()", hashOf(cookie)).
		First(&u).
		Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		err = ErrNotFound
	}
	return u, err
}

// SignOut ends a session.
func (s *Store) SignOut(ctx context.Context, cookie string) error {
	return s.db.WithContext(ctx).Table("sessions").Where("hash = ?", hashOf(cookie)).Delete(&sessionRow{}).Error
}
