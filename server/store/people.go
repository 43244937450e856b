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
	"unicode"

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
	Active   bool   `json:"active"` // may sign in
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

// maxName bounds what a person is called in full, in bytes.
const maxName = 100

// PutUser adds or changes a person; an empty password leaves it as it is. by is who does
// it, for the log. Who gets another role or password is signed out everywhere.
func (s *Store) PutUser(ctx context.Context, u User, password, by string) error {
	if !userName.MatchString(u.Name) {
		return fmt.Errorf("%q cannot be a user name; accepted: lower-case letters, digits, dots and dashes", u.Name)
	}
	if u.Role.Rank() == 0 {
		return fmt.Errorf("the role %q is not known; accepted: keeper, builder, reader", u.Role)
	}
	if len(u.FullName) > maxName || strings.ContainsFunc(u.FullName, unicode.IsControl) {
		return fmt.Errorf("a full name has up to %d letters, and no line breaks", maxName)
	}
	if password != "" {
		if err := CheckPassword(password, u); err != nil {
			return err
		}
		var err error
		if u.Hash, err = hashPassword(password); err != nil {
			return err
		}
	}
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var old User
		err := tx.Where("name = ?", u.Name).First(&old).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			u.Active = true
			if err := tx.Create(&u).Error; err != nil {
				return err
			}
			return note(tx, u.Name, by, "added as "+string(u.Role))
		}
		if err != nil {
			return err
		}
		if old.Role == Keeper && u.Role != Keeper {
			if err := notLast(tx, u.Name); err != nil {
				return err
			}
		}
		updates := map[string]any{"full_name": u.FullName, "role": u.Role}
		if password != "" {
			updates["hash"] = u.Hash
		}
		if err := tx.Model(&User{}).Where("name = ?", u.Name).Updates(updates).Error; err != nil {
			return err
		}
		var what []string
		if old.FullName != u.FullName {
			what = append(what, "called "+u.FullName)
		}
		if old.Role != u.Role {
			what = append(what, "made "+string(u.Role))
		}
		if password != "" {
			what = append(what, "given a password")
		}
		if old.Role != u.Role || password != "" {
			if err := endSessions(tx, u.Name, ""); err != nil {
				return err
			}
		}
		if len(what) == 0 {
			return nil
		}
		return note(tx, u.Name, by, strings.Join(what, ", "))
	})
}

// SetActive lets a person in or out. Who is let out is signed out everywhere, and keeps
// name and history.
func (s *Store) SetActive(ctx context.Context, name string, active bool, by string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if !active {
			if err := notLast(tx, name); err != nil {
				return err
			}
			if err := endSessions(tx, name, ""); err != nil {
				return err
			}
		}
		done := tx.Model(&User{}).Where("name = ?", name).Update("active", active)
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return ErrNotFound
		}
		return note(tx, name, by, map[bool]string{true: "let in again", false: "let out"}[active])
	})
}

// SetPassword changes a person's own password, where the old one is right. All sessions
// but that of the cookie end.
func (s *Store) SetPassword(ctx context.Context, u User, old, password, cookie string) error {
	if u.Hash != "" && !passwordFits(old, u.Hash) {
		return ErrSignIn
	}
	if err := CheckPassword(password, u); err != nil {
		return err
	}
	hash, err := hashPassword(password)
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Model(&User{}).Where("name = ?", u.Name).Update("hash", hash).Error; err != nil {
			return err
		}
		if err := endSessions(tx, u.Name, cookie); err != nil {
			return err
		}
		return note(tx, u.Name, u.Name, "changed the own password")
	})
}

// ErrLastKeeper says that nobody could change anything any more.
var ErrLastKeeper = errors.New("this is the only keeper; make somebody else one first")

// notLast refuses to take the last keeper away.
func notLast(tx *gorm.DB, name string) error {
	var u User
	if err := tx.Where("name = ?", name).First(&u).Error; err != nil {
		return ErrNotFound
	}
	var others int64
	err := tx.Model(&User{}).Where("role = ? AND active AND name <> ?", Keeper, name).Count(&others).Error
	if err == nil && u.Role == Keeper && others == 0 {
		err = ErrLastKeeper
	}
	return err
}

// endSessions signs a person out everywhere, but for the session of a cookie.
func endSessions(tx *gorm.DB, name, cookie string) error {
	for _, table := range []string{"sessions", "links"} {
		err := tx.Table(table).Where("user_name = ? AND hash <> ?", name, hashOf(cookie)).Delete(&sessionRow{}).Error
		if err != nil {
			return err
		}
	}
	return nil
}

// PersonEvent is an entry of the log of people.
type PersonEvent struct {
	At   time.Time `json:"at"`
	Name string    `json:"name"`
	By   string    `json:"by"`
	What string    `json:"what"`
}

func note(tx *gorm.DB, name, by, what string) error {
	return tx.Table("people_log").Create(&PersonEvent{time.Now(), name, by, what}).Error
}

// PeopleLog lists sign-ins and changes of people, the newest first.
func (s *Store) PeopleLog(ctx context.Context, most int) ([]PersonEvent, error) {
	out := []PersonEvent{}
	err := s.db.WithContext(ctx).Table("people_log").Order("id desc").Limit(most).Find(&out).Error
	return out, err
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
	if !passwordFits(password, u.Hash) || !u.Active {
		return "", u, ErrSignIn
	}
	cookie, err = s.open(ctx, u.Name, "signed in")
	return cookie, u, err
}

func (s *Store) open(ctx context.Context, name, how string) (string, error) {
	text, hash, err := token()
	if err != nil {
		return "", err
	}
	return text, s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Table("sessions").Create(&sessionRow{hash, name, time.Now().Add(sessionLife)}).Error; err != nil {
			return err
		}
		return note(tx, name, name, how)
	})
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
	if !u.Active {
		return "", u, ErrSignIn
	}
	cookie, err = s.open(ctx, u.Name, "signed in by a link")
	return cookie, u, err
}

// Session finds who a cookie belongs to.
func (s *Store) Session(ctx context.Context, cookie string) (User, error) {
	var u User
	err := s.db.WithContext(ctx).
		Joins("JOIN sessions ON sessions.user_name = users.name AND sessions.hash = ? AND sessions.expires_at > now() AND users.active", hashOf(cookie)).
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
