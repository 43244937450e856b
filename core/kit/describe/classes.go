package describe

import (
	"bytes"
	"maps"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// MaxClasses bounds how many classes of an application are known, maxClass how long one may be.
const (
	MaxClasses = 20_000
	maxClass   = 200
)

// ClassesOf lists the classes that the selectors of a style sheet speak of, in order, as code writes them.
// What cannot be read is passed over, as a browser does.
func ClassesOf(sheet []byte) []string {
	found := map[string]bool{}
	p := css.NewParser(parse.NewInputBytes(bytes.ToValidUTF8(sheet, nil)), false)
	for {
		kind, _, _ := p.Next()
		switch kind {
		case css.ErrorGrammar:
			if !p.HasParseError() {
				return slices.Sorted(maps.Keys(found))
			}
		case css.QualifiedRuleGrammar, css.BeginRulesetGrammar:
			dot := false
			for _, v := range p.Values() {
				if dot && v.TokenType == css.IdentToken && len(v.Data) <= maxClass && len(found) < MaxClasses {
					found[unescaped(string(v.Data))] = true
				}
				dot = v.TokenType == css.DelimToken && string(v.Data) == "."
			}
		}
	}
}

// unescaped is a name of a style sheet without what it is written with there: "md\\:flex" is "md:flex".
// Source: CSS Syntax Module Level 3, "Consume an escaped code point".
func unescaped(name string) string {
	if !strings.Contains(name, `\`) {
		return name
	}
	var b strings.Builder
	for i := 0; i < len(name); i++ {
		if name[i] != '\\' || i+1 == len(name) {
			b.WriteByte(name[i])
			continue
		}
		i++
		end := i
		for end < len(name) && end < i+6 && strings.IndexByte("0123456789abcdefABCDEF", name[end]) >= 0 {
			end++
		}
		if end == i {
			b.WriteByte(name[i])
			continue
		}
		point, _ := strconv.ParseUint(name[i:end], 16, 32)
		b.WriteRune(rune(point))
		if i = end - 1; end < len(name) && name[end] == ' ' {
			i = end
		}
	}
	return b.String()
}
