package react

import (
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/deliver/shared"
)

// routesOf writes the routes as the application around has its own.
func routesOf(in deliver.Input) func(p *lower.Program, at map[string]string) []deliver.File {
	if in.Home.Elements {
		return routeElements
	}
	return shared.Routes(routes)
}

// routeElements writes the routes as elements that stand among others in <Routes>. A router of
// elements loads nothing by itself, so that each screen is loaded where it is shown first; these
// stand in a file of their own, since what is no component is not exported beside one.
func routeElements(p *lower.Program, at map[string]string) []deliver.File {
	loaded := append([]emit.Stmt{emit.Text("import { lazy } from 'react'")}, append(shared.LoadedFrom(p), emit.Blank{})...)
	seen := map[string]bool{}
	component := func(c *lower.Component) emit.Doc {
		if !seen[c.Name] {
			seen[c.Name] = true
			module := "./" + strings.TrimSuffix(at[c.Name], ".tsx")
			loaded = append(loaded, emit.Const{Export: true, Name: c.Name, Is: emit.Call{Fn: emit.Name("lazy"), Args: []emit.Expr{
				emit.Arrow{Async: true, Of: emit.Object{Fields: []emit.Field{{
					Key: "default", Value: emit.Member{Of: shared.Awaited(p, module), Name: c.Name},
				}}}},
			}}})
		}
		return emit.JSX{Name: "loaded." + c.Name}.Doc()
	}
	element := func(d emit.Doc) emit.Doc { return style.JSXAttr("element", emit.Markup{Doc: d}) }
	around := func(name string, d emit.Doc, attrs ...emit.Doc) emit.Doc {
		return emit.JSX{Name: name, Attrs: attrs, Kids: []emit.JSXKid{{Doc: d, Element: true}}}.Doc()
	}
	shells := false
	var list func(routes []*lower.Route) []emit.JSXKid
	list = func(routes []*lower.Route) (out []emit.JSXKid) {
		for _, r := range routes {
			route := emit.JSX{Name: "Route"}
			if r.Screen != nil {
				shown := around("Shown", component(r.Screen), style.JSXAttr("title", emit.Str(r.Screen.Named())))
				route.Attrs = []emit.Doc{style.JSXAttr("path", emit.Str(r.Path)), element(shown)}
			} else {
				shells = true
				route.Attrs = []emit.Doc{element(around("Suspense", component(r.Shell), style.JSXAttr("fallback", emit.Name("null"))))}
				route.Kids = list(r.Inside)
			}
			out = append(out, emit.JSXKid{Doc: route.Doc(), Element: true})
		}
		return out
	}
	all := emit.JSX{Name: "Route", Attrs: []emit.Doc{element(emit.JSX{Name: "GroundFrame"}.Doc())}, Kids: list(p.Routes)}
	begin := []emit.Stmt{}
	if shells {
		begin = append(begin, emit.Text("import { Suspense } from 'react'"))
	}
	begin = append(begin,
		emit.Text("import { Navigate, Route } from "+emit.Plain.Quote(shared.Router(p.In))),
		emit.Text("import { GroundFrame } from './GroundFrame'"),
		emit.Text("import * as loaded from './loaded'"),
		emit.Text("import { Shown } from './Shown'"),
		emit.Blank{},
	)
	lost := emit.JSX{Name: "Navigate", Attrs: []emit.Doc{"replace", style.JSXAttr("to", emit.Str(elsewhere(p)))}}
	text := emit.Lines(emit.Statements(append(begin,
		emit.Remark("They stand among the other routes: <Routes>{routes}</Routes>."),
		emit.Const{Export: true, Name: "routes", Is: emit.Markup{Doc: all.Doc()}},
		emit.Blank{},
		emit.Remark("Where one comes to that leads nowhere."),
		emit.Const{Export: true, Name: "missing", Is: emit.Markup{Doc: emit.JSX{Name: "Route", Attrs: []emit.Doc{
			style.JSXAttr("path", emit.Str("*")), element(lost.Doc()),
		}}.Doc()}},
	)...))
	return []deliver.File{{Path: "routes.tsx", Data: []byte(text)}, {Path: "loaded.ts", Data: []byte(emit.Lines(emit.Statements(loaded...)))}}
}
