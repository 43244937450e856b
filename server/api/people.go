package api

import (
	"context"
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
	cookie, u, err := s.Store.SignIn(c.Context(), in.Name, in.Password)
	if err != nil {
		return nil, err
	}
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
	return nil, err
}

type peopleOut struct {
	People []store.User `json:"people"`
}

func (s *Server) people(c *Call, _ *none) (*peopleOut, error) {
	list, err := s.Store.Users(c.Context())
	return &peopleOut{list}, err
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
	if err := s.Store.PutUser(c.Context(), store.User{Name: in.Name, FullName: in.FullName, Role: store.Role(in.Role)}, in.Password); err != nil {
		return nil, bad("%s", err)
	}
	return nil, nil
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
