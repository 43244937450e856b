// Package api serves the application: typed operations described by OpenAPI, the
// sandboxed frames and the web application itself. Handlers decode, call the core,
// store and answer; nothing is computed here.
package api

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"html"
	"io"
	"io/fs"
	"log/slog"
	"mime"
	"net"
	"net/url"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/gofiber/fiber/v3/middleware/limiter"
	"github.com/gofiber/fiber/v3/middleware/recover"

	"ubiquant/core/kit/pack"
	"ubiquant/core/model"
	"ubiquant/core/picture"
	"ubiquant/core/render"
	"ubiquant/server/store"
	"ubiquant/server/stream"
)

// Server is the application on one workspace.
type Server struct {
	Store  *store.Store
	Live   *store.Live
	Hub    *stream.Hub
	found  searchable
	App    *fiber.App
	Log    *slog.Logger
	web    fs.FS
	frame  []byte
	sheets sync.Map // style sheets of layouts, by the kit's hash
	secret []byte
	trend  trend
	routes []Route

	sources  fetcher
	attempts attempts
	public   Public

	repositories map[string]string // folders that may be delivered into, by name
	fetchings    fetchings
	measuring    *behindScenes
	ends         context.Context // done when the server stops
	end          context.CancelFunc
	behind       sync.WaitGroup // what goes on without a request
}

// End ends what goes on without a request, and waits for it.
func (s *Server) End() {
	s.end()
	s.behind.Wait()
}

// cookieName is the session's cookie.
const cookieName = "ubiquant_session"

// Public says how the application is reached from outside.
type Public struct {
	Address string   // such as https://ubiquant.example; empty where it is loopback alone
	Proxies []string // addresses or networks whose word about a request is taken
}

// Parts are what a server is made of. Without a store only its description can be asked;
// web may be nil where only the API is needed.
type Parts struct {
	Store  *store.Store
	Live   *store.Live
	Web    fs.FS
	Frame  []byte
	Log    *slog.Logger
	Public Public
	// Repositories are folders on this machine that may be delivered into, by name.
	Repositories map[string]string
}

const (
	maxAnonymous = 16 << 10 // bytes of a body that anybody sends
	maxBody      = 32 << 20 // of one that somebody sends who is signed in
)

// New builds the server.
func New(ctx context.Context, p Parts) (*Server, error) {
	s := &Server{
		Store: p.Store, Live: p.Live, Hub: stream.NewHub(), web: p.Web, frame: p.Frame, Log: p.Log,
		public: p.Public, repositories: p.Repositories, measuring: &behindScenes{},
	}
	s.ends, s.end = context.WithCancel(ctx)
	if p.Store != nil {
		var err error
		if s.secret, err = p.Store.Secret(ctx); err != nil {
			return nil, err
		}
	}
	if p.Public.Address != "" {
		u, err := url.Parse(p.Public.Address)
		if err != nil || (u.Scheme != "http" && u.Scheme != "https") || u.Host == "" || strings.Trim(u.Path, "/") != "" {
			return nil, fmt.Errorf("%q is no public address; accepted: a scheme and a host, such as https://ubiquant.example",
				p.Public.Address)
		}
		s.public.Address = u.Scheme + "://" + u.Host
	}
	s.routes = s.table()
	s.App = fiber.New(
		fiber.Config{
			ErrorHandler: s.fail,
			JSONEncoder:  answered,
			BodyLimit:    maxBody,
			ReadTimeout:  30 * time.Second,
			IdleTimeout:  2 * time.Minute,
			// Bodies are read as they come, once it is known who sends them: the library
			// would set aside at once what a request announces.
			StreamRequestBody: true,
			TrustProxy:        len(p.Public.Proxies) > 0,
			TrustProxyConfig:  fiber.TrustProxyConfig{Proxies: p.Public.Proxies},
			ProxyHeader:       fiber.HeaderXForwardedFor,
		},
	)
	s.App.Use(recover.New())
	s.App.Use(s.headers)
	s.App.Use(
		compress.New(
			compress.Config{
				Level: compress.LevelBestSpeed,
				Next:  func(c fiber.Ctx) bool { return c.Path() == "/api/events" },
			},
		),
	)
	s.App.Use(s.rightHost)
	s.App.Use("/api", s.sameSite, fresh)
	for _, p := range []string{"/api/sign-in", "/api/sign-in/link"} {
		// Few attempts a minute from one address: guessing is slow.
		s.App.Post(
			p,
			limiter.New(limiter.Config{Max: 10, Expiration: time.Minute, LimitReached: func(fiber.Ctx) error {
				return problem(429, "Too many attempts", "wait a minute, then try again")
			}}),
		)
	}
	for _, r := range s.routes {
		s.App.Add([]string{r.Method}, r.Path, s.guard(r.Role), r.handler)
	}
	for _, r := range s.others() {
		s.App.Add([]string{r.Method}, r.Path, s.guard(r.Role), r.handler)
	}
	s.App.Use("/api", func(fiber.Ctx) error { return problem(404, "Not found", "there is no such operation") })
	for _, r := range s.everyones() {
		s.App.Add([]string{r.Method}, r.Path, r.handler)
	}
	return s, nil
}

// others are the routes that are no typed operations: they stream, take or send files.
func (s *Server) others() []Route {
	return []Route{
		{Method: "GET", Path: "/api/events", Role: store.Reader, handler: s.events},
		{Method: "POST", Path: "/api/deliver/archive", Role: store.Reader, handler: s.archive},
		{Method: "GET", Path: "/api/samples/:model/export", Role: store.Reader, handler: s.exportRecords},
		{Method: "GET", Path: "/api/themes/:id/take/:form", Role: store.Reader, handler: s.takeTheme},
		{Method: "GET", Path: "/api/pictures/:id/file", Role: store.Reader, handler: s.pictureFile},
		{Method: "GET", Path: "/api/texts/file", Role: store.Reader, handler: s.textFile},
		{Method: "GET", Path: "/api/export", Role: store.Reader, handler: s.export},
		{Method: "POST", Path: "/api/kits", Role: store.Builder, handler: s.uploadKit},
		{Method: "GET", Path: "/api/kits/:hash/mapping", Role: store.Reader, handler: s.mappingFile},
		{Method: "GET", Path: "/api/kits/:hash/file", Role: store.Reader, handler: s.kitFile},
		{Method: "GET", Path: "/api/openapi.json", Role: store.Reader, handler: s.sendSpec},
	}
}

// everyones are the routes that ask for no session.
func (s *Server) everyones() []Route {
	out := []Route{
		{Method: "GET", Path: "/workspace.schema.json", Role: Everyone, handler: func(c fiber.Ctx) error {
			c.Set("Content-Type", "application/schema+json")
			return c.SendString(schema)
		}},
		{Method: "GET", Path: "/frame/:ticket/*", Role: Everyone, handler: s.serveFrame},
	}
	if s.web != nil {
		out = append(out, Route{Method: "GET", Path: "/*", Role: Everyone, handler: s.serveWeb})
	}
	return out
}

// Everything lists all routes, with the role they need.
func (s *Server) Everything() []Route {
	return slices.Concat(s.Routes(), s.others(), s.everyones())
}

func (s *Server) sendSpec(c fiber.Ctx) error {
	spec, err := s.Spec()
	if err != nil {
		return err
	}
	c.Set("Content-Type", "application/json")
	return c.Send(spec)
}

func (s *Server) fail(c fiber.Ctx, err error) error {
	p := asProblem(err)
	if p.Status >= 500 {
		s.Log.Error("request failed", "method", c.Method(), "path", c.Path(), "error", err)
	}
	c.Status(p.Status)
	return c.JSON(p, "application/problem+json")
}

// headers sets what every answer carries; the frame replaces the policy.
func (s *Server) headers(c fiber.Ctx) error {
	c.Set("X-Content-Type-Options", "nosniff")
	c.Set("Referrer-Policy", "no-referrer")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Set(
		"Content-Security-Policy",
		"default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
	)
	return c.Next()
}

// origin is the address that the application is reached at by a request.
func (s *Server) origin(c fiber.Ctx) string {
	if s.public.Address != "" {
		return s.public.Address
	}
	return c.Scheme() + "://" + c.Host()
}

// rightHost refuses requests for another host: a name that somebody else owns may lead to
// this machine.
func (s *Server) rightHost(c fiber.Ctx) error {
	if c.Host() == "" { // a broken request, which is answered as such
		return c.Next()
	}
	u, err := url.Parse("//" + c.Host())
	if err == nil {
		ip := net.ParseIP(u.Hostname())
		public, _ := url.Parse(s.public.Address) // checked at the start
		if u.Hostname() == "localhost" || ip != nil && ip.IsLoopback() || public.Host != "" && u.Host == public.Host {
			return c.Next()
		}
	}
	return problem(421, "Misdirected request", "this server does not serve "+c.Host()+"; --address names its public address")
}

// fresh keeps answers with data out of caches.
func fresh(c fiber.Ctx) error {
	c.Set("Cache-Control", "no-store")
	return c.Next()
}

// sameSite refuses writes that another site makes the browser send.
func (s *Server) sameSite(c fiber.Ctx) error {
	if c.Method() == "GET" || c.Method() == "HEAD" {
		return c.Next()
	}
	if site := c.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
		return problem(403, "Refused", "writes come from this application only")
	}
	if origin := c.Get("Origin"); origin != "" && origin != s.origin(c) {
		return problem(403, "Refused", "writes come from this application only")
	}
	return c.Next()
}

// readBody reads a body of at most so many bytes; a longer one is refused as soon as that
// is seen.
func readBody(c fiber.Ctx, most int) error {
	r := c.Request()
	tooLong := problem(413, "Too large", fmt.Sprintf("a body has at most %d bytes here", most))
	if r.Header.ContentLength() > most {
		return tooLong
	}
	from := r.BodyStream()
	if from == nil {
		if len(r.Body()) > most {
			return tooLong
		}
		return nil
	}
	body, err := io.ReadAll(io.LimitReader(from, int64(most)+1))
	if err != nil {
		return problem(400, "This cannot be read", "the body broke off")
	}
	if len(body) > most {
		return tooLong
	}
	r.SetBody(body)
	return nil
}

func (s *Server) guard(need store.Role) fiber.Handler {
	return func(c fiber.Ctx) error {
		if need == Everyone {
			if err := readBody(c, maxAnonymous); err != nil {
				return err
			}
			return c.Next()
		}
		cookie := c.Cookies(cookieName)
		if cookie == "" {
			return problem(401, "Not signed in", "sign in first")
		}
		u, err := machine, error(nil)
		if !s.ofMachine(cookie) {
			u, err = s.Store.Session(c.Context(), cookie)
		} else if need != store.Reader && !slices.Contains(machineMay, c.Path()) {
			return problem(403, "Not allowed", "the server looks at screens, and changes nothing by itself")
		}
		if errors.Is(err, store.ErrNotFound) {
			return problem(401, "Not signed in", "the session has ended; sign in again")
		}
		if err != nil {
			return err
		}
		if u.Role.Rank() < need.Rank() {
			return problem(403, "Not allowed", fmt.Sprintf("this needs the role %s; yours is %s", need, u.Role))
		}
		if err := readBody(c, maxBody); err != nil {
			return err
		}
		c.Locals("user", u)
		return c.Next()
	}
}

func (s *Server) setCookie(c fiber.Ctx, value string, life time.Duration) {
	c.Cookie(
		&fiber.Cookie{
			Name:     cookieName,
			Value:    value,
			Path:     "/",
			HTTPOnly: true,
			SameSite: fiber.CookieSameSiteStrictMode,
			Secure:   strings.HasPrefix(s.origin(c), "https:"),
			MaxAge:   int(life.Seconds()),
		},
	)
}

func (s *Server) events(c fiber.Ctx) error {
	c.Set("Content-Type", "text/event-stream")
	c.Set("Cache-Control", "no-cache, no-transform")
	c.Set("X-Accel-Buffering", "no")
	u, _ := c.Locals("user").(store.User)
	cookie := strings.Clone(c.Cookies(cookieName)) // fiber reuses the text after the handler
	write, err := s.Hub.Join(u.Name, func() bool {
		ctx, cancel := context.WithTimeout(context.Background(), healthWait)
		defer cancel()
		if s.ofMachine(cookie) {
			return true
		}
		_, err := s.Store.Session(ctx, cookie)
		return err == nil || !errors.Is(err, store.ErrNotFound) // a lost database ends no session
	})
	if err != nil {
		return problem(429, "Too many windows", err.Error())
	}
	return c.SendStreamWriter(write)
}

// ticketLife is how long a frame's address works.
const ticketLife = 12 * time.Hour

// frameOf is where a kit's frame is.
func (s *Server) frameOf(b *pack.Bundle) string {
	return "/frame/" + s.ticket(time.Now()) + "/" + b.Hash + "/"
}

// ticket makes the unguessable, expiring part of a frame's address.
func (s *Server) ticket(now time.Time) string {
	// Rounded, so that addresses stay the same, and cached, for an hour.
	expires := uint64(now.Truncate(time.Hour).Add(ticketLife).Unix())
	b := binary.BigEndian.AppendUint64(nil, expires)
	return base64.RawURLEncoding.EncodeToString(append(b, s.seal(b)...))
}

func (s *Server) seal(b []byte) []byte {
	mac := hmac.New(sha256.New, s.secret)
	mac.Write([]byte("frame"))
	mac.Write(b)
	return mac.Sum(nil)[:18]
}

func (s *Server) ticketHolds(text string, now time.Time) bool {
	raw, err := base64.RawURLEncoding.DecodeString(text)
	if err != nil || len(raw) != 8+18 {
		return false
	}
	return hmac.Equal(raw[8:], s.seal(raw[:8])) && int64(binary.BigEndian.Uint64(raw[:8])) > now.Unix()
}

// frameSheet keeps the frame's own page out of what kits say of theirs: tiles stand in it by their
// places, and a body that a kit gives a place or a height of its own would cut them off.
const frameSheet = "html,body{margin:0!important;background:transparent}html{background:transparent!important;overflow:hidden!important}" +
	"body{position:static!important;overflow:visible!important;transform:none!important;contain:none!important}u-part{display:contents}"

// serveFrame serves the frame's page, its agent and the kit's files. The page
// runs in an origin of its own: it has no cookies and may connect to nothing.
func (s *Server) serveFrame(c fiber.Ctx) error {
	if !s.ticketHolds(c.Params("ticket"), time.Now()) {
		return problem(404, "Not found", "the address of the frame has expired")
	}
	hash, name, _ := strings.Cut(c.Params("*"), "/")
	base := fmt.Sprintf("%s/frame/%s/%s/", s.origin(c), c.Params("ticket"), hash)
	c.Set("Access-Control-Allow-Origin", "*")
	c.Set("Cross-Origin-Resource-Policy", "cross-origin")
	b, err := s.Store.Kit(c.Context(), model.KitRef{Hash: hash})
	if err != nil {
		return problem(404, "Not found", "no such kit is stored here")
	}
	switch {
	case name == "page":
		return s.framePage(c, b, base)
	case name == "kit.css": // the kit's sheet, which the frame takes as text
		c.Set("Content-Type", "text/css; charset=utf-8")
		c.Set("Cache-Control", "private, max-age=3600")
		return c.Send(b.Sheet())
	case name == "agent.js":
		c.Set("Content-Type", "text/javascript; charset=utf-8")
		return c.Send(s.frame)
	case name == "frame.css":
		c.Set("Content-Type", "text/css; charset=utf-8")
		return c.SendString(frameSheet)
	case name == "layout.css": // of this program, under the kit's address: another version has another
		c.Set("Content-Type", "text/css; charset=utf-8")
		c.Set("Cache-Control", "no-cache")
		return c.SendString(s.layout(b))
	case strings.HasPrefix("/"+name, picture.Folder):
		return s.framePicture(c, "/"+name)
	case strings.HasPrefix(name, "font/"):
		data, err := s.fontFile(c.Context(), strings.TrimPrefix(name, "font/"))
		if err != nil {
			return err
		}
		c.Set("Content-Type", "font/woff2")
		c.Set("Cache-Control", "private, max-age=3600")
		return c.Send(data)
	case strings.HasSuffix(name, ".js") && !strings.Contains(name, "/") || strings.HasPrefix(name, pack.Assets):
		data, ok := b.Files[name]
		if !ok {
			return problem(404, "Not found", "the kit has no such file")
		}
		c.Set("Content-Type", contentType(name))
		c.Set("Cache-Control", "private, max-age=3600")
		return c.Send(data)
	}
	return problem(404, "Not found", "")
}

// layout is the style sheet of layouts on a kit's steps of room.
func (s *Server) layout(b *pack.Bundle) string {
	if sheet, ok := s.sheets.Load(b.Hash); ok {
		return sheet.(string)
	}
	sheet := render.Sheet(b.Kit)
	s.sheets.Store(b.Hash, sheet)
	return sheet
}

// framePage is the page that a kit's code runs in. Its policy is as strict as this kit
// allows: what a kit cannot do without is loosened for it alone, and never where scripts
// come from or where anything may be sent.
func (s *Server) framePage(c fiber.Ctx, b *pack.Bundle, base string) error {
	styles, connect := base, "'none'"
	more := ""
	if b.Meta.Needs.StyleElements {
		styles += " 'unsafe-inline'"
	} else if b.Meta.Needs.StyleAttributes {
		more = " style-src-attr 'unsafe-inline';"
	}
	if b.Meta.Needs.DataFetch {
		connect = "data:"
	}
	c.Set("Content-Security-Policy", fmt.Sprintf(
		"sandbox allow-scripts allow-forms; default-src 'none'; script-src %[1]s; style-src %[2]s;%[4]s font-src %[1]s data:; img-src %[1]s data:; connect-src %[3]s; form-action 'none'; base-uri 'none'; frame-ancestors 'self'",
		base, styles, connect, more))
	c.Set("Content-Type", "text/html; charset=utf-8")
	said := []pack.Themes{b.Meta.Themes}
	for _, p := range b.Parts {
		said = append(said, p.Meta.Themes)
	}
	themes, err := json.Marshal(said)
	if err != nil {
		return err
	}
	return c.SendString(fmt.Sprintf(
		`<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Kit</title><link rel="stylesheet" href="%[1]sframe.css"><script type="module" crossorigin src="%[1]sagent.js" data-kit="%[1]s%[2]s" data-drawn="%[3]s" data-themes="%[4]s"></script></head><body></body></html>`,
		base, pack.ModuleFile, b.Meta.Drawn, html.EscapeString(string(themes))))
}

// kitOf is the kit that a workspace stands on, as it is served.
func (s *Server) kitOf(ctx context.Context, w *model.Workspace) (*pack.Bundle, error) {
	return s.Store.Kit(ctx, w.Kit)
}

func contentType(name string) string {
	if t := mime.TypeByExtension(path.Ext(name)); t != "" {
		return t
	}
	return "application/octet-stream"
}

func (s *Server) serveWeb(c fiber.Ctx) error {
	name := strings.TrimPrefix(path.Clean("/"+c.Params("*")), "/")
	data, err := fs.ReadFile(s.web, name)
	if err != nil || name == "" {
		if strings.HasPrefix(name, "assets/") {
			return problem(404, "Not found", "")
		}
		// Places, screens and elements have addresses of their own; the
		// application finds its way from them.
		name = "index.html"
		if data, err = fs.ReadFile(s.web, name); err != nil {
			return err
		}
	}
	c.Set("Content-Type", contentType(name))
	if strings.HasPrefix(name, "assets/") {
		c.Set("Cache-Control", "public, max-age=31536000, immutable")
	} else {
		c.Set("Cache-Control", "no-cache")
	}
	return c.Send(data)
}
