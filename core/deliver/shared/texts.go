package shared

import (
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/texts"
)

// Loaded is code that brings a module in: only once its texts are there, where they have files.
func Loaded(p *lower.Program, module emit.Expr) emit.Expr {
	if p.In.Texts == nil {
		return module
	}
	return emit.Call{Fn: emit.Name("spoken"), Args: []emit.Expr{module}}
}

// Awaited is what a module gives, as code that has waited for it.
func Awaited(p *lower.Program, module string) emit.Expr {
	load := "import(" + emit.Plain.Quote(module) + ")"
	if p.In.Texts != nil {
		load = "spoken(" + load + ")"
	}
	return emit.Name("(await " + load + ")")
}

// LoadedFrom is the statement that Loaded asks for in the file of routes; none where it asks for none.
func LoadedFrom(p *lower.Program) []emit.Stmt {
	if p.In.Texts == nil {
		return nil
	}
	return []emit.Stmt{emit.Text("import { spoken } from './lib/texts'")}
}

// textsInfo is what the module of texts speaks of.
func textsInfo(t *deliver.Texts) any {
	type other struct{ Key, ID string }
	info := struct {
		Written, Languages, RightToLeft string
		Others                          []other
	}{Written: t.Written, RightToLeft: "'ltr'"}
	var list, right []string
	for _, id := range append([]string{t.Written}, t.Others...) {
		list = append(list, emit.Plain.Quote(id))
		if texts.Direction(id) == "rtl" {
			right = append(right, emit.Plain.Quote(id))
		}
	}
	for _, id := range t.Others {
		info.Others = append(info.Others, other{Key(id), id})
	}
	info.Languages = strings.Join(list, ", ")
	switch {
	case len(right) == len(list):
		info.RightToLeft = "'rtl'"
	case len(right) > 0:
		info.RightToLeft = "[" + strings.Join(right, ", ") + "].includes(language) ? 'rtl' : 'ltr'"
	}
	return info
}
