package shared

import (
	"fmt"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/screen"
)

// Doing is how a framework's code does what happens at an event.
type Doing struct {
	Go, Open, State, Hold string                    // functions that are called
	Opened                string                    // what is open, before a name
	Read                  func(emit.Expr) emit.Expr // how the code reads what it knows
	Page                  func(name string) string  // local name of a function of lib/page
	Store                 func(name string) string  // local name of a function of data/store
}

// Acts are statements that do one thing after the other.
func (d Doing) Acts(list []lower.Act) []emit.Stmt {
	var out []emit.Stmt
	call := func(fn string, args ...emit.Expr) emit.Expr {
		return emit.Call{Fn: emit.Name(fn), Args: args}
	}
	for _, a := range list {
		var does emit.Expr
		switch a.Verb {
		case screen.GoTo:
			does = emit.Unary{Op: "void ", Of: call(d.Go, emit.Str(a.To))}
		case screen.Open, screen.Close:
			is := emit.Expr(emit.Name(fmt.Sprint(a.Verb == screen.Open)))
			if a.Flag != "" {
				is = emit.Binary{Op: "===", L: call(d.Page("held"), emit.Name("event"), emit.Str(a.Flag)), R: emit.Name("true")}
			}
			if a.Target.Each {
				is = emit.Object{Fields: []emit.Field{{Key: d.Opened + a.Target.Key}, {At: d.Read(a.Key), Value: is}}}
			}
			does = call(d.Open, emit.Str(a.Target.Key), is)
		case screen.Enter:
			does = call(d.State, emit.Str(a.To))
		case screen.SetControl:
			does = call(d.Hold, emit.Str(a.To), a.Value)
		case screen.ChangeField, screen.TickField:
			does = call(d.Store("change"), emit.Str(a.List), d.Read(a.Key), d.Read(a.Set))
		case screen.TakeAway:
			does = call(d.Store("remove"), emit.Str(a.List), d.Read(a.Key))
		case screen.AddRecord:
			does = call(d.Store("add"), emit.Str(a.List), call(d.Page("valuesOf"), emit.Name("event"), a.Set), a.Value)
		case screen.Submit:
			does = call(d.Page("submit"), emit.Name("event"))
		case screen.Theme:
			does = call(d.Page("theme"), emit.Str(a.To), emit.Name("event"))
		default:
			continue
		}
		out = append(out, emit.Do{Of: does})
	}
	return out
}
