package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go/openapi31"

	"ubiquant/core/change"
	"ubiquant/core/jsonread"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/server/store"
)

// Everyone is the role of operations that need no session.
const Everyone store.Role = ""

// Problem is an error as RFC 9457 problem details.
type Problem struct {
	Type   string `json:"type"`
	Title  string `json:"title"`
	Status int    `json:"status"`
	Detail string `json:"detail,omitempty"`
	Where  string `json:"where,omitempty"` // pointer, element or field the problem is at
}

func (p *Problem) Error() string { return p.Title + ": " + p.Detail }

func problem(status int, title, detail string) *Problem {
	return &Problem{Type: "about:blank", Title: title, Status: status, Detail: detail}
}

func missing(what string) *Problem { return problem(404, "Not found", "there is no "+what) }

func bad(format string, args ...any) *Problem {
	return problem(422, "This cannot be done", fmt.Sprintf(format, args...))
}

// asProblem turns an error into what the client is told. What is nobody's
// business (a lost database, a defect) is told as such, without detail.
func asProblem(err error) *Problem {
	var p *Problem
	var refusal *screen.Refusal
	var read *jsonread.Error
	var fe *fiber.Error
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &refusal):
		p = problem(409, "The edit was refused", refusal.Reason)
		p.Where = refusal.Element
	case errors.As(err, &read):
		p = problem(422, "This cannot be read", read.Error())
		p.Where = read.Pointer
	case errors.Is(err, store.ErrNotFound):
		p = problem(404, "Not found", "")
	case errors.Is(err, store.ErrSignIn):
		p = problem(401, "Not signed in", err.Error())
	case errors.As(err, &fe):
		p = problem(fe.Code, fe.Message, "")
	case store.Away(err):
		p = problem(503, "The database does not answer", store.Why(err)+"; nothing was changed")
	default:
		p = problem(500, "Something went wrong here", "it was logged; nothing was changed")
	}
	return p
}

// Call is one request with who makes it.
type Call struct {
	fiber.Ctx
	User store.User
}

// Route describes an operation; the table of all of them is the API.
type Route struct {
	Method, Path string
	Role         store.Role
	Summary      string
	in, out      any
	handler      fiber.Handler
}

// op makes a route of a typed function. Fields of In with a path or query tag come
// from the address, the others from the JSON body.
func op[In, Out any](
	s *Server,
	method, path string,
	role store.Role,
	summary string,
	fn func(c *Call, in *In) (*Out, error),
) Route {
	return Route{
		Method:  method,
		Path:    path,
		Role:    role,
		Summary: summary,
		in:      new(In),
		out:     new(Out),
		handler: func(c fiber.Ctx) error {
			in := new(In)
			if err := decode(c, in); err != nil {
				return err
			}
			call := &Call{Ctx: c}
			call.User, _ = c.Locals("user").(store.User)
			out, err := fn(call, in)
			if err != nil {
				return err
			}
			if out == nil {
				return c.SendStatus(204)
			}
			return c.JSON(out)
		},
	}
}

func decode(c fiber.Ctx, in any) error {
	v := reflect.ValueOf(in).Elem()
	t := v.Type()
	if body := c.Body(); len(body) > 0 && c.Method() != "GET" {
		if !strings.HasPrefix(c.Get("Content-Type"), "application/json") {
			return problem(415, "Unsupported content type", "accepted: application/json")
		}
		dec := json.NewDecoder(strings.NewReader(string(body)))
		dec.DisallowUnknownFields()
		if err := dec.Decode(in); err != nil {
			var own *jsonread.Error
			if errors.As(err, &own) {
				return own
			}
			return problem(422, "This cannot be read", strings.TrimPrefix(err.Error(), "json: "))
		}
	}
	for i := range t.NumField() {
		f := t.Field(i)
		text := ""
		if name := f.Tag.Get("path"); name != "" {
			text = strings.Clone(c.Params(name)) // fiber reuses the string after the handler
			if plain, err := url.PathUnescape(text); err == nil {
				text = plain // a piece's name holds a colon
			}
		} else if name := f.Tag.Get("query"); name != "" {
			text = strings.Clone(c.Query(name))
		} else {
			continue
		}
		if text == "" {
			continue
		}
		switch f.Type.Kind() {
		case reflect.String:
			v.Field(i).SetString(text)
		case reflect.Int, reflect.Int64:
			n, err := strconv.ParseInt(text, 10, 64)
			if err != nil {
				return problem(422, "This cannot be read", fmt.Sprintf("%s is a whole number, not %q", f.Name, text))
			}
			v.Field(i).SetInt(n)
		case reflect.Bool:
			v.Field(i).SetBool(text == "true" || text == "1")
		}
	}
	return nil
}

// Spec describes all routes as OpenAPI 3.1.
func (s *Server) Spec() ([]byte, error) {
	r := openapi31.NewReflector()
	r.Spec.Info.WithTitle("Ubiquant").
		WithVersion("1").
		WithDescription("Screens, kit and census of a workspace. Errors are problem details (RFC 9457).")
	r.JSONSchemaReflector().DefaultOptions = append(r.JSONSchemaReflector().DefaultOptions,
		// A field without omitempty is always sent, and a nil list is sent as none.
		jsonschema.InterceptProp(func(p jsonschema.InterceptPropParams) error {
			if p.Processed && !strings.Contains(p.Field.Tag.Get("json"), "omitempty") &&
				!slices.Contains(p.ParentSchema.Required, p.Name) {
				p.ParentSchema.Required = append(p.ParentSchema.Required, p.Name)
			}
			return nil
		}),
		jsonschema.InterceptNullability(func(p jsonschema.InterceptNullabilityParams) {
			if p.NullAdded && p.Type.Kind() != reflect.Pointer {
				p.Schema.RemoveType(jsonschema.Null)
			}
		}))
	for _, route := range s.routes {
		path := route.Path
		for _, part := range strings.Split(path, "/") {
			if strings.HasPrefix(part, ":") {
				path = strings.Replace(path, part, "{"+part[1:]+"}", 1)
			}
		}
		oc, err := r.NewOperationContext(route.Method, path)
		if err != nil {
			return nil, fmt.Errorf("%s %s: %w", route.Method, route.Path, err)
		}
		oc.SetSummary(route.Summary)
		role := string(route.Role)
		if route.Role == Everyone {
			role = "everyone"
		}
		oc.SetDescription("Needs the role " + role + ".")
		oc.AddReqStructure(route.in)
		oc.AddRespStructure(route.out)
		if err := r.AddOperation(oc); err != nil {
			return nil, fmt.Errorf("%s %s: %w", route.Method, route.Path, err)
		}
	}
	return withStored(r.Spec)
}

// onScene gives fn what screens look like now. It holds nobody up, however long it takes.
func (s *Server) onScene(ctx context.Context, fn func(l *live.Scene) error) error {
	scene, _, err := s.Live.Scene(ctx)
	if err != nil {
		return err
	}
	return fn(scene)
}

// Routes lists the operations, for tests that go over all of them.
func (s *Server) Routes() []Route { return s.routes }

// refusedByCore tells errors of the core's checks from failures of the database
// or the network: the former are plain errors made by the core, the latter have
// types of their own.
func refusedByCore(err error) error {
	var refusal *screen.Refusal
	var read *jsonread.Error
	if errors.As(err, &refusal) || errors.As(err, &read) {
		return err
	}
	var core *change.StepError
	if errors.As(err, &core) {
		return problem(422, "This cannot be done", core.Error())
	}
	return err
}
