package api

import (
	"context"
	"errors"
	"strconv"
	"time"

	"ubiquant/server/store"
)

type none struct{}

type healthOut struct {
	Status   string `json:"status"`   // ok, or what is wrong
	Database string `json:"database"` // ok, or what is wrong
}

// healthWait bounds how long the database may take to answer.
const healthWait = 2 * time.Second

// health answers 503 where the server serves and its database does not.
func (s *Server) health(c *Call, _ *none) (*healthOut, error) {
	ctx, cancel := context.WithTimeout(c.Context(), healthWait)
	defer cancel()
	if err := s.Store.Ping(ctx); err != nil {
		why := store.Why(err)
		if why == "" {
			why = "it does not answer"
		}
		return nil, problem(503, "The database does not answer", why)
	}
	return &healthOut{"ok", "ok"}, nil
}

type signInIn struct {
	Name     string `json:"name"`
	Password string `json:"password"`
}

func (s *Server) signIn(c *Call, in *signInIn) (*store.User, error) {
	// Whether there is such a person makes no difference here.
	if wait := s.attempts.wait("name "+in.Name, time.Now()); wait > 0 {
		c.Set("Retry-After", strconv.Itoa(int(wait.Seconds())+1))
		return nil, problem(429, "Too many attempts", "wait a while, then try again")
	}
	cookie, u, err := s.Store.SignIn(c.Context(), in.Name, in.Password)
	if errors.Is(err, store.ErrSignIn) {
		s.attempts.failed("name "+in.Name, time.Now())
	}
	if err != nil {
		return nil, err
	}
	s.attempts.forget("name " + in.Name)
	s.setCookie(c.Ctx, cookie, 30*24*time.Hour)
	return &u, nil
}

type linkIn struct {
	Token string `json:"token"`
}

func (s *Server) signInLink(c *Call, in *linkIn) (*store.User, error) {
	cookie, u, err := s.Store.UseLink(c.Context(), in.Token)
	if err != nil {
		return nil, err
	}
	s.setCookie(c.Ctx, cookie, 30*24*time.Hour)
	return &u, nil
}

func (s *Server) signOut(c *Call, _ *none) (*none, error) {
	err := s.Store.SignOut(c.Context(), c.Cookies(cookieName))
	s.setCookie(c.Ctx, "", -time.Second)
	s.Hub.Check()
	return nil, err
}

type passwordIn struct {
	Old string `json:"old"` // empty where none is set yet
	New string `json:"new"`
}

// ownPassword changes the password of who asks.
func (s *Server) ownPassword(c *Call, in *passwordIn) (*none, error) {
	key := "password " + c.User.Name
	if wait := s.attempts.wait(key, time.Now()); wait > 0 {
		return nil, problem(429, "Too many attempts", "wait a while, then try again")
	}
	err := s.Store.SetPassword(c.Context(), c.User, in.Old, in.New, c.Cookies(cookieName))
	if errors.Is(err, store.ErrSignIn) {
		s.attempts.failed(key, time.Now())
		return nil, bad("the old password is another")
	}
	if err != nil {
		return nil, known(err)
	}
	s.Hub.Check()
	return nil, nil
}

type peopleOut struct {
	People []store.User        `json:"people"`
	Log    []store.PersonEvent `json:"log"` // sign-ins and changes; for keepers alone
}

// logLength is how much of the log of people is shown.
const logLength = 100

func (s *Server) people(c *Call, _ *none) (*peopleOut, error) {
	list, err := s.Store.Users(c.Context())
	out := &peopleOut{list, []store.PersonEvent{}}
	if err == nil && c.User.Role == store.Keeper {
		out.Log, err = s.Store.PeopleLog(c.Context(), logLength)
	}
	return out, err
}

type personIn struct {
	Name     string `json:"name"`
	FullName string `json:"fullName"`
	Role     string `json:"role"`
	Password string `json:"password,omitempty"`
}

func (s *Server) putPerson(c *Call, in *personIn) (*none, error) {
	if in.Name == c.User.Name && store.Role(in.Role) != c.User.Role {
		return nil, bad("nobody changes their own role; ask another keeper")
	}
	u := store.User{Name: in.Name, FullName: in.FullName, Role: store.Role(in.Role)}
	if err := s.Store.PutUser(c.Context(), u, in.Password, c.User.Name); err != nil {
		return nil, known(err)
	}
	s.Hub.Check()
	return nil, nil
}

type activeIn struct {
	Name   string `json:"name"`
	Active bool   `json:"active"`
}

// setActive lets a person in or out.
func (s *Server) setActive(c *Call, in *activeIn) (*none, error) {
	if in.Name == c.User.Name {
		return nil, bad("nobody lets themselves out; ask another keeper")
	}
	if err := s.Store.SetActive(c.Context(), in.Name, in.Active, c.User.Name); err != nil {
		return nil, known(err)
	}
	s.Hub.Check()
	return nil, nil
}

// known tells what is wrong with what was asked from a database that does not answer.
func known(err error) error {
	if store.Away(err) || errors.Is(err, store.ErrNotFound) {
		return err
	}
	return bad("%s", err)
}

type personLinkIn struct {
	Name string `json:"name"`
}

type linkOut struct {
	Path string `json:"path"`
}

func (s *Server) personLink(c *Call, in *personLinkIn) (*linkOut, error) {
	token, err := s.Store.Link(c.Context(), in.Name)
	if err != nil {
		return nil, missing("person " + in.Name)
	}
	return &linkOut{"/sign-in#" + token}, nil
}
