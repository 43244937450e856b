package shared

import (
	"fmt"
	"slices"
	"strings"

	"github.com/evanw/esbuild/pkg/api"
	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
)

// Sheet writes a style sheet as a formatter would, without the rules of classes that begin
// with "u-" and are not used.
func Sheet(src string, used func(class string) bool) (string, error) {
	out := api.Transform(src, api.TransformOptions{Loader: api.LoaderCSS, LegalComments: api.LegalCommentsNone})
	if len(out.Errors) > 0 {
		return "", fmt.Errorf("the style sheet: %s", out.Errors[0].Text)
	}
	w := sheet{used: used}
	// The parser knows rules within media queries, not within container queries; our sheet
	// has only the latter.
	src = strings.ReplaceAll(string(out.Code), "@container ", "@media ")
	p := css.NewParser(parse.NewInputString(src), false)
	var selectors []string
	for {
		kind, _, data := p.Next()
		switch kind {
		case css.ErrorGrammar:
			return strings.TrimLeft(w.b.String(), "\n"), nil
		case css.BeginAtRuleGrammar:
			w.open(strings.Replace(string(data), "@media", "@container", 1)+" "+strings.TrimSpace(text(p.Values())), true)
		case css.EndAtRuleGrammar, css.EndRulesetGrammar:
			w.close()
		case css.QualifiedRuleGrammar:
			selectors = append(selectors, w.selectors(p.Values())...)
		case css.BeginRulesetGrammar:
			selectors = append(selectors, w.selectors(p.Values())...)
			kept := selectors[:0]
			for _, s := range selectors {
				if s != "" {
					kept = append(kept, s)
				}
			}
			w.open(strings.Join(kept, ",\n"+strings.Repeat("  ", len(w.heads))), len(kept) > 0)
			selectors = nil
		case css.DeclarationGrammar, css.CustomPropertyGrammar:
			value := strings.TrimSpace(text(p.Values()))
			w.line(string(data) + ": " + value + ";")
		}
	}
}

// opens is 1 for what opens a bracket, -1 for what closes one, else 0.
func opens(t css.Token) int {
	switch t.TokenType {
	case css.FunctionToken, css.LeftParenthesisToken:
		return 1
	case css.RightParenthesisToken:
		return -1
	}
	return 0
}

func text(list []css.Token) string {
	var b strings.Builder
	depth := 0
	for i, t := range list {
		depth += opens(t)
		if s := string(t.Data); depth > 0 && (t.TokenType == css.DelimToken && s == "/" || t.TokenType == css.ColonToken) {
			text := strings.TrimRight(b.String(), " ")
			b.Reset()
			b.WriteString(text)
			if s == "/" {
				b.WriteString(" /")
			} else {
				b.WriteString(":")
			}
			if i+1 < len(list) && list[i+1].TokenType != css.WhitespaceToken {
				b.WriteString(" ")
			}
			continue
		}
		if t.TokenType == css.CommaToken {
			b.WriteString(",")
			if i+1 < len(list) && list[i+1].TokenType != css.WhitespaceToken {
				b.WriteString(" ")
			}
			continue
		}
		s := string(t.Data)
		if t.TokenType == css.CustomPropertyValueToken {
			s = commas.Replace(s)
		}
		b.WriteString(s)
	}
	return b.String()
}

var commas = strings.NewReplacer(", ", ", ", ",", ", ")

// sheet writes rules; one whose block stays empty is left away.
type sheet struct {
	b     strings.Builder
	used  func(string) bool
	heads []head
}

type head struct {
	text          string
	kept, written bool
}

func (w *sheet) open(text string, kept bool) { w.heads = append(w.heads, head{text: text, kept: kept}) }

func (w *sheet) line(text string) {
	for i := range w.heads {
		h := &w.heads[i]
		if !h.kept {
			return
		}
		if !h.written {
			h.written = true
			w.b.WriteString(strings.Repeat("  ", i) + h.text + " {\n")
		}
	}
	w.b.WriteString(strings.Repeat("  ", len(w.heads)) + text + "\n")
}

func (w *sheet) close() {
	if len(w.heads) == 0 {
		return
	}
	last := w.heads[len(w.heads)-1]
	w.heads = w.heads[:len(w.heads)-1]
	if last.written {
		w.b.WriteString(strings.Repeat("  ", len(w.heads)) + "}\n")
	}
}

// selectors are those of a list, each as it is written; empty where a class of it is not used.
func (w *sheet) selectors(list []css.Token) []string {
	var out []string
	for _, one := range commaParts(list) {
		out = append(out, w.selector(one))
	}
	return out
}

// commaParts takes a list apart at its commas; what stands in brackets stays together.
func commaParts(list []css.Token) [][]css.Token {
	var out [][]css.Token
	from, depth := 0, 0
	for i, t := range list {
		if depth += opens(t); depth == 0 && t.TokenType == css.CommaToken {
			out = append(out, list[from:i])
			from = i + 1
		}
	}
	return append(out, list[from:])
}

// selector is one as it is written; empty where a class of it is not used. Of those that stand
// beside each other in brackets, ":where(.a, .b)", the used ones stay.
func (w *sheet) selector(list []css.Token) string {
	var b strings.Builder
	for i := 0; i < len(list); i++ {
		t := list[i]
		s := string(t.Data)
		if i > 0 && t.TokenType == css.IdentToken && string(list[i-1].Data) == "." {
			name := strings.ReplaceAll(s, `\`, "")
			if strings.HasPrefix(name, "u-") && !w.used(name) {
				return ""
			}
		}
		if t.TokenType == css.FunctionToken && (s == "where(" || s == "is(") {
			end := i + 1
			for depth := 1; end < len(list); end++ {
				if depth += opens(list[end]); depth == 0 {
					break
				}
			}
			kept := slices.DeleteFunc(w.selectors(list[i+1:end]), func(s string) bool { return s == "" })
			if len(kept) == 0 {
				return ""
			}
			b.WriteString(s + strings.Join(kept, ", "))
			i = end - 1
			continue
		}
		if t.TokenType == css.DelimToken && (s == ">" || s == "+" || s == "~") {
			s = " " + s + " "
		}
		b.WriteString(s)
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

// classes are those of layouts that a delivery uses.
func classes(p *lower.Program) map[string]bool {
	out := map[string]bool{"u-screen": true, "u-contents": true, "u-told": true, "u-ground": true}
	add := func(e emit.Expr) {
		if e == nil {
			return
		}
		emit.Map(e, func(e emit.Expr) emit.Expr {
			if s, ok := e.(emit.Str); ok {
				for _, c := range strings.Fields(string(s)) {
					out[c] = true
				}
			}
			return e
		})
	}
	var walk func(list []lower.Node)
	walk = func(list []lower.Node) {
		for _, n := range list {
			switch x := n.(type) {
			case *lower.Each:
				walk(x.Body)
			case *lower.El:
				add(x.Class)
				walk(x.Kids)
				for _, f := range x.Fills {
					walk(f.Kids)
				}
			}
		}
	}
	for _, list := range [][]*lower.Component{p.Screens, p.Shells, p.Pieces} {
		for _, c := range list {
			walk(c.Root)
		}
	}
	return out
}
