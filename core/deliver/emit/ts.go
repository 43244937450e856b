package emit

import (
	"encoding/json"
	"regexp"
	"slices"
	"strings"
)

// Style is how code is written where a formatter lets one choose.
type Style struct {
	Semi   bool // statements end in a semicolon
	Double bool // texts stand in double quotes
	Parens bool // one parameter of a function stands in parentheses
	Width  int
	// Markup says that the code stands in a template: in an attribute in double quotes, or
	// between braces. Texts are written so that they end neither.
	Markup bool
}

// Plain is the style of delivered applications.
var Plain = Style{Width: 100}

func (s Style) end() string {
	if s.Semi {
		return ";"
	}
	return ""
}

// Quote writes a text as a literal: in the style's quotes, or in the others where it holds
// more of the style's.
func (s Style) Quote(text string) string {
	if s.Markup {
		return "'" + strings.ReplaceAll(inMarkup(strings.ReplaceAll(inner(text), `\"`, `\u0022`)), "'", `\u0027`) + "'"
	}
	single := !s.Double
	if one, two := strings.Count(text, "'"), strings.Count(text, `"`); single && one > two || !single && two > one {
		single = !single
	}
	quoted := inScript(inner(text))
	if single {
		return "'" + strings.ReplaceAll(strings.ReplaceAll(quoted, `\"`, `"`), "'", `\'`) + "'"
	}
	return `"` + quoted + `"`
}

// Expr is an expression.
type Expr interface{ isExpr() }

type (
	// Name is an identifier, or a literal that is written as it is: true, 12, undefined.
	Name string
	// Str is a text.
	Str string
	// Member is a field of something, which may be missing.
	Member struct {
		Of    Expr
		Name  string
		Maybe bool
	}
	// Index is what stands in something at a key.
	Index struct{ Of, At Expr }
	// Call calls, where there is something to call.
	Call struct {
		Fn    Expr
		Args  []Expr
		Maybe bool
	}
	// Arrow is a function: of an expression, or of statements.
	Arrow struct {
		Params []string // with their types, where they need some
		Of     Expr
		Body   []Stmt
		Async  bool
	}
	// Cond chooses.
	Cond struct{ If, Then, Else Expr }
	// Binary joins two by an operator.
	Binary struct {
		Op   string
		L, R Expr
	}
	// Unary is an operator before an expression.
	Unary struct {
		Op string
		Of Expr
	}
	// Object has fields in their order.
	Object struct{ Fields []Field }
	// List is an array.
	List struct{ Of []Expr }
	// Template is a text with values in it; texts are Str.
	Template struct{ Parts []Expr }
	// As says what type something is of.
	As struct {
		Of   Expr
		Type string
	}
	// Read is something that a program knows by what it is, not yet by a name: a target
	// says how it is read.
	Read struct{ What, Name string }
	// Taken is something that a module gives.
	Taken struct{ Module, Name string }
	// Markup is an element of JSX.
	Markup struct{ Doc Doc }
	// Note is an expression with a remark before it.
	Note struct {
		Text string
		Of   Expr
	}
)

// Field is one of an object. Without a value it is a spread of the key; At is a key that is
// computed.
type Field struct {
	Key   string
	Value Expr
	At    Expr
}

func (Name) isExpr()     {}
func (Str) isExpr()      {}
func (Member) isExpr()   {}
func (Index) isExpr()    {}
func (Call) isExpr()     {}
func (Arrow) isExpr()    {}
func (Cond) isExpr()     {}
func (Binary) isExpr()   {}
func (Unary) isExpr()    {}
func (Object) isExpr()   {}
func (List) isExpr()     {}
func (Template) isExpr() {}
func (As) isExpr()       {}
func (Read) isExpr()     {}
func (Taken) isExpr()    {}
func (Note) isExpr()     {}
func (Markup) isExpr()   {}

// Stmt is a statement.
type Stmt interface{ isStmt() }

type (
	// Do evaluates.
	Do struct{ Of Expr }
	// Const names a value.
	Const struct {
		Name, Type string
		Is         Expr
		Export     bool
	}
	// Return gives back.
	Return struct{ Of Expr }
	// If does something under a condition.
	If struct {
		If         Expr
		Then, Else []Stmt
	}
	// Text is code as it is, line by line.
	Text string
	// Blank is an empty line.
	Blank struct{}
	// Remark is a comment.
	Remark string
)

func (Do) isStmt()     {}
func (Const) isStmt()  {}
func (Return) isStmt() {}
func (If) isStmt()     {}
func (Text) isStmt()   {}
func (Blank) isStmt()  {}
func (Remark) isStmt() {}

// Map writes an expression with every part replaced by what f makes of it; f is given
// parts whose own parts are done, and gives them back where it has nothing to say.
func Map(e Expr, f func(Expr) Expr) Expr {
	all := func(list []Expr) []Expr {
		out := make([]Expr, len(list))
		for i, e := range list {
			out[i] = Map(e, f)
		}
		return out
	}
	switch x := e.(type) {
	case nil:
		return nil
	case Member:
		x.Of = Map(x.Of, f)
		return f(x)
	case Index:
		return f(Index{Map(x.Of, f), Map(x.At, f)})
	case Call:
		return f(Call{Map(x.Fn, f), all(x.Args), x.Maybe})
	case Arrow:
		x.Of = Map(x.Of, f)
		x.Body = MapAll(x.Body, f)
		return f(x)
	case Cond:
		return f(Cond{Map(x.If, f), Map(x.Then, f), Map(x.Else, f)})
	case Binary:
		return f(Binary{x.Op, Map(x.L, f), Map(x.R, f)})
	case Unary:
		return f(Unary{x.Op, Map(x.Of, f)})
	case Object:
		fields := slices.Clone(x.Fields)
		for i := range fields {
			fields[i].Value = Map(fields[i].Value, f)
			fields[i].At = Map(fields[i].At, f)
		}
		return f(Object{fields})
	case List:
		return f(List{all(x.Of)})
	case Template:
		return f(Template{all(x.Parts)})
	case As:
		return f(As{Map(x.Of, f), x.Type})
	case Note:
		return f(Note{x.Text, Map(x.Of, f)})
	}
	return f(e)
}

// MapAll is Map for statements.
func MapAll(list []Stmt, f func(Expr) Expr) []Stmt {
	if list == nil {
		return nil
	}
	out := make([]Stmt, len(list))
	for i, s := range list {
		switch s := s.(type) {
		case Do:
			out[i] = Do{Map(s.Of, f)}
		case Const:
			s.Is = Map(s.Is, f)
			out[i] = s
		case Return:
			out[i] = Return{Map(s.Of, f)}
		case If:
			out[i] = If{Map(s.If, f), MapAll(s.Then, f), MapAll(s.Else, f)}
		default:
			out[i] = s
		}
	}
	return out
}

// Any tells whether a part of an expression is such.
func Any(e Expr, is func(Expr) bool) bool {
	found := false
	Map(e, func(e Expr) Expr {
		found = found || is(e)
		return e
	})
	return found
}

// Precedence of operators, as far as they are used here (ECMA-262).
var precedence = map[string]int{
	"=": 1, "??": 3, "||": 3, "&&": 4, "===": 8, "!==": 8, "==": 8, "!=": 8,
	"<": 9, "<=": 9, ">": 9, ">=": 9, "+": 11, "-": 11, "*": 12, "/": 12, "%": 12,
}

func level(e Expr) int {
	switch e := e.(type) {
	case Arrow:
		return 1
	case Cond:
		return 2
	case Binary:
		return precedence[e.Op]
	case As:
		return 9
	case Unary:
		return 14
	case Note:
		return level(e.Of)
	case Object:
		return 1 // where a statement could begin
	}
	return 20
}

// Doc lays an expression out.
func (s Style) Doc(e Expr) Doc { return s.expr(e, 0) }

func (s Style) expr(e Expr, at int) Doc {
	d := s.bare(e)
	if _, object := e.(Object); level(e) < at && (!object || at >= 19) {
		return cat("(", d, ")")
	}
	return d
}

func (s Style) args(list []Expr) Doc {
	if len(list) == 0 {
		return "()"
	}
	docs := make([]Doc, len(list))
	for i, a := range list {
		docs[i] = s.expr(a, 1)
	}
	all := grouped("(", nest(softline, joined(cat(",", space), docs), ifBreak{",", ""}), softline, ")")
	last := list[len(list)-1]
	if composes(list) {
		broken := all.(group)
		broken.broken = true
		return broken
	}
	if !hugs(last) || len(list) > 1 && alike(last, list[len(list)-2]) || breaks(concat(docs[:len(docs)-1])) {
		return all
	}
	// The last argument, a function or an object, may break by itself.
	inner := s.expanded(last)
	before := concat{"("}
	for _, d := range docs[:len(docs)-1] {
		before = append(before, d, ", ")
	}
	broken := all.(group)
	broken.broken = true
	return choice{
		cat(before, inner, ")"),
		cat(before, group{of: inner, broken: true}, ")"),
		broken,
	}
}

// links lays a chain of calls out, one a line where there are many; nil where x is no such
// chain.
func (s Style) links(x Call) Doc {
	var calls []Doc // the last first
	complicated, total := false, 0
	var of Expr = x
	for {
		c, ok := of.(Call)
		if !ok || c.Maybe {
			break
		}
		total++
		for _, a := range c.Args {
			fn, arrow := a.(Arrow)
			_, plain := fn.Of.(Name)
			complicated = complicated || arrow && !plain
		}
		m, ok := c.Fn.(Member)
		if !ok {
			break
		}
		dot := "."
		if m.Maybe {
			dot = "?."
		}
		calls = append(calls, cat(dot, m.Name, s.args(c.Args)))
		of = m.Of
	}
	if len(calls) < 2 {
		return nil
	}
	slices.Reverse(calls)
	head := s.expr(of, 19)
	apart := cat(head, nest(hardline, joined(hardline, calls)))
	if total > 2 && complicated {
		return group{of: apart, broken: true}
	}
	return choice{cat(head, concat(calls)), apart}
}

// hugs tells whether an argument may break by itself between the parentheses of a call.
func hugs(e Expr) bool {
	switch x := e.(type) {
	case Object:
		return len(x.Fields) > 0
	case List:
		return len(x.Of) > 0
	case Arrow:
		if x.Of == nil {
			return true
		}
		switch x.Of.(type) {
		case Object, List, As, Call, Cond, Arrow, Markup:
			return true
		}
	}
	return false
}

// composes tells whether functions are put together by a call: each argument has a line
// then.
func composes(list []Expr) bool {
	functions := 0
	for _, e := range list {
		switch x := e.(type) {
		case Arrow:
			functions++
		case Call:
			for _, a := range x.Args {
				if _, fn := a.(Arrow); fn && len(list) > 1 {
					return true
				}
			}
		}
	}
	return functions > 1
}

// tabular tells whether a list is one of objects, or of lists, of several things each: they stand
// below each other then, however short they are.
func tabular(list []Expr) bool {
	if len(list) < 2 {
		return false
	}
	object, lists := true, true
	for _, e := range list {
		o, isObject := e.(Object)
		l, isList := e.(List)
		object = object && isObject && len(o.Fields) > 1
		lists = lists && isList && len(l.Of) > 1
	}
	return object || lists
}

func alike(a, b Expr) bool {
	switch a.(type) {
	case Object:
		_, ok := b.(Object)
		return ok
	case List:
		_, list := b.(List)
		_, fn := b.(Arrow)
		return list || fn
	case Arrow:
		_, ok := b.(Arrow)
		return ok
	}
	return false
}

// expanded is an argument that breaks by itself.
func (s Style) expanded(e Expr) Doc {
	x, ok := e.(Arrow)
	if !ok || x.Of == nil {
		return s.expr(e, 1)
	}
	switch x.Of.(type) {
	case Call, As:
		return grouped(s.arrowHead(x), grouped(nest(space, s.expr(x.Of, 1))), ifBreak{",", ""}, softline)
	case Cond:
		return grouped(s.arrowHead(x), grouped(nest(space, ifBreak{"", "("}, s.expr(x.Of, 1), ifBreak{"", ")"})), ifBreak{",", ""}, softline)
	}
	return s.expr(e, 1)
}

func (s Style) arrowHead(x Arrow) string {
	head := "(" + strings.Join(x.Params, ", ") + ") =>"
	if len(x.Params) == 1 && IsIdentifier(x.Params[0]) && !s.Parens {
		head = x.Params[0] + " =>"
	}
	if x.Async {
		head = "async " + head
	}
	return head
}

func (s Style) bare(e Expr) Doc {
	switch x := e.(type) {
	case Name:
		return string(x)
	case Str:
		return s.Quote(string(x))
	case Read:
		return x.What + "." + x.Name // a target that left it says what it lacks
	case Taken:
		return x.Name
	case Member:
		dot := "."
		if x.Maybe {
			dot = "?."
		}
		if !IsIdentifier(x.Name) {
			return cat(s.expr(x.Of, 19), strings.TrimSuffix(dot, "."), ifMaybe(x.Maybe), "[", s.Quote(x.Name), "]")
		}
		if c, ok := x.Of.(Call); ok && len(c.Args) > 0 { // what is asked of an answer may begin a line
			return cat(s.expr(x.Of, 19), grouped(nest(softline, dot, x.Name)))
		}
		return cat(s.expr(x.Of, 19), dot, x.Name)
	case Index:
		return cat(s.expr(x.Of, 19), "[", s.expr(x.At, 0), "]")
	case Call:
		if x.Maybe {
			return cat(s.expr(x.Fn, 19), "?.", s.args(x.Args))
		}
		if d := s.links(x); d != nil {
			return d
		}
		return cat(s.expr(x.Fn, 19), s.args(x.Args))
	case Arrow:
		head := s.arrowHead(x)
		if x.Body != nil || x.Of == nil {
			return cat(head, " ", s.block(x.Body))
		}
		switch x.Of.(type) {
		case Object:
			return cat(head, " (", s.expr(x.Of, 0), ")")
		case List, Arrow, Markup:
			return cat(head, " ", s.expr(x.Of, 1))
		case Cond:
			return grouped(head, nest(space, ifBreak{"", "("}, s.expr(x.Of, 1), ifBreak{"", ")"}))
		}
		return grouped(head, nest(space, s.expr(x.Of, 1)))
	case Cond:
		return grouped(s.chain(x))
	case Binary:
		return grouped(s.binary(x))
	case Unary:
		return cat(x.Op, s.expr(x.Of, 14))
	case Object:
		if len(x.Fields) == 0 {
			return "{}"
		}
		list := make([]Doc, len(x.Fields))
		for i, f := range x.Fields {
			key := f.Key
			if f.At != nil {
				list[i] = cat("[", s.expr(f.At, 0), "]: ", s.expr(f.Value, 1))
				continue
			}
			if !IsIdentifier(key) {
				key = s.Quote(key)
			}
			switch v := f.Value.(type) {
			case nil:
				list[i] = "..." + f.Key
			case Name:
				if string(v) == key {
					list[i] = key
					continue
				}
				list[i] = cat(key, ": ", string(v))
			case Str:
				list[i] = grouped(key, ":", nest(space, s.expr(v, 1)))
			case Binary:
				list[i] = cat(key, ":", grouped(nest(space, s.expr(v, 1))))
			case Cond:
				if _, tests := v.If.(Binary); tests {
					list[i] = cat(key, ":", grouped(nest(space, s.expr(v, 1))))
					continue
				}
				list[i] = cat(key, ": ", s.expr(v, 1))
			default:
				list[i] = cat(key, ": ", s.expr(v, 1))
			}
		}
		return grouped("{", nest(space, joined(cat(",", space), list), ifBreak{",", ""}), space, "}")
	case List:
		if len(x.Of) == 0 {
			return "[]"
		}
		list := make([]Doc, len(x.Of))
		for i, v := range x.Of {
			list[i] = s.expr(v, 1)
		}
		if tabular(x.Of) {
			return cat("[", nest(Hard, joined(cat(",", Hard), list), ","), Hard, "]")
		}
		return grouped("[", nest(softline, joined(cat(",", space), list), ifBreak{",", ""}), softline, "]")
	case Template:
		var out concat
		out = append(out, "`")
		for _, p := range x.Parts {
			if t, ok := p.(Str); ok {
				text := templateText(string(t))
				if s.Markup {
					b, _ := json.Marshal(string(t))
					text = strings.ReplaceAll(inMarkup(strings.ReplaceAll(string(b[1:len(b)-1]), `\"`, `\u0022`)), "${", `\u0024{`)
				}
				out = append(out, literal(text))
				continue
			}
			out = append(out, "${"+Print(s.expr(p, 0), 1<<20)+"}")
		}
		return append(out, "`")
	case Markup:
		return grouped(ifBreak{"(", ""}, nest(softline, x.Doc), softline, ifBreak{")", ""})
	case As:
		return cat(s.expr(x.Of, 10), " as ", x.Type)
	case Note:
		return cat("/* ", x.Text, " */ ", s.bare(x.Of))
	}
	return "undefined"
}

// inScript is a text of code that stands in a file of several parts: it ends none of them.
func inScript(text string) string { return parts.ReplaceAllString(text, `\u003c$1`) }

var parts = regexp.MustCompile(`(?i)<(/?(?:script|style|template)|!--)`)

// inMarkup is a text of code that markup reads as nothing else.
func inMarkup(text string) string {
	text = tags.ReplaceAllString(text, `\u003c$1`)
	return noTemplate.Replace(entities.ReplaceAllString(text, `\u0026$1`))
}

// inner is a text as it stands between double quotes of a script.
func inner(text string) string {
	var out strings.Builder
	write := json.NewEncoder(&out)
	write.SetEscapeHTML(false)
	_ = write.Encode(text) // texts cannot fail
	return strings.TrimSuffix(out.String(), "\"\n")[1:]
}

var (
	// noTemplate keeps a text from ending or opening what stands in a template.
	noTemplate = strings.NewReplacer("{{", `{\u007b`, "}}", `}\u007d`, "`", `\u0060`)

	// tags and entities are where HTML takes a sign for something.
	tags     = regexp.MustCompile(`<([/!?a-zA-Z])`)
	entities = regexp.MustCompile(`&([#a-zA-Z])`)
)

func ifMaybe(maybe bool) string {
	if maybe {
		return "."
	}
	return ""
}

func templateText(t string) string {
	text := strings.ReplaceAll(inScript(inner(t)), `\"`, `"`)
	return strings.ReplaceAll(strings.ReplaceAll(text, "`", "\\`"), "${", "\\${")
}

// chain lays a choice out: those within it break where it does.
func (s Style) chain(x Cond) Doc {
	branch := func(e Expr) Doc {
		if c, ok := e.(Cond); ok {
			return s.chain(c)
		}
		return s.expr(e, 2)
	}
	last := nest(branch(x.Else))
	if _, chained := x.Else.(Cond); chained {
		last = branch(x.Else)
	}
	return cat(s.expr(x.If, 3), nest(space, "? ", nest(branch(x.Then)), space, ": ", last))
}

// binary lays a row of equal operators out, each line beginning after one.
func (s Style) binary(x Binary) Doc {
	at := precedence[x.Op]
	if x.Op == "=" {
		return cat(s.expr(x.L, 2), " = ", s.expr(x.R, 1))
	}
	var l Doc
	if left, ok := x.L.(Binary); ok && left.Op == x.Op {
		l = s.binary(left)
	} else {
		l = s.operand(x.Op, x.L, at)
	}
	if m, ok := x.R.(Markup); ok {
		return cat(l, " "+x.Op+" ", s.bare(m))
	}
	return cat(l, " "+x.Op, space, s.operand(x.Op, x.R, at+1))
}

// operand puts parentheses where a reader would want them: && in ||, and ?? beside either.
func (s Style) operand(op string, e Expr, at int) Doc {
	if b, ok := e.(Binary); ok && b.Op != op {
		logical := func(op string) bool { return op == "&&" || op == "||" || op == "??" }
		if logical(op) && logical(b.Op) || op == "%" || b.Op == "%" {
			return cat("(", nest(s.expr(e, 0)), ")")
		}
	}
	if as, ok := e.(As); ok {
		return cat("(", s.expr(as, 0), ")")
	}
	return s.expr(e, at)
}

func (s Style) block(list []Stmt) Doc {
	if len(list) == 0 {
		return "{}"
	}
	return cat("{", nest(hardline, s.Stmts(list)), hardline, "}")
}

// Stmts lays statements out, one below the other.
func (s Style) Stmts(list []Stmt) Doc {
	var out concat
	for i, st := range list {
		if _, blank := st.(Blank); blank {
			continue
		}
		if len(out) > 0 {
			if _, blank := list[i-1].(Blank); blank {
				out = append(out, hard{blank: true})
			} else {
				out = append(out, hardline)
			}
		}
		out = append(out, s.stmt(st))
	}
	return out
}

func (s Style) stmt(st Stmt) Doc {
	switch x := st.(type) {
	case Do:
		if _, object := x.Of.(Object); object {
			return cat("(", s.expr(x.Of, 0), ")", s.end())
		}
		return cat(s.expr(x.Of, 0), s.end())
	case Const:
		head := "const " + x.Name
		if x.Export {
			head = "export " + head
		}
		if x.Type != "" {
			head += ": " + x.Type
		}
		return cat(head, " =", s.right(x.Is), s.end())
	case Return:
		if x.Of == nil {
			return "return" + s.end()
		}
		return cat("return ", s.expr(x.Of, 0), s.end())
	case If:
		if len(x.Else) > 0 {
			var tail Doc = s.block(x.Else)
			if next, ok := x.Else[0].(If); ok && len(x.Else) == 1 {
				tail = s.stmt(next)
			}
			return cat("if (", s.expr(x.If, 0), ") ", s.block(x.Then), " else ", tail)
		}
		if len(x.Then) == 1 {
			switch x.Then[0].(type) {
			case Return, Do:
				return cat("if (", s.expr(x.If, 0), ") ", s.stmt(x.Then[0]))
			}
		}
		return cat("if (", s.expr(x.If, 0), ") ", s.block(x.Then))
	case Remark:
		var out []Doc
		for l := range strings.SplitSeq(string(x), "\n") {
			out = append(out, "// "+l)
		}
		return joined(hardline, out)
	case Text:
		var out concat
		for i, l := range strings.Split(strings.TrimSuffix(string(x), "\n"), "\n") {
			if i > 0 {
				out = append(out, hardline)
			}
			out = append(out, l)
		}
		return out
	}
	return nil
}

// stiff tells whether a chain of calls has no place where it could well break: all take
// nothing, or one short thing.
func (s Style) stiff(e Expr, deep bool) bool {
	switch x := e.(type) {
	case Call:
		if len(x.Args) > 1 {
			return false
		}
		for _, a := range x.Args {
			switch a := a.(type) {
			case Str:
				if len(s.Quote(string(a))) > s.Width/4 {
					return false
				}
			case Name:
				if len(a) > s.Width/4 {
					return false
				}
			default:
				return false
			}
		}
		if n, ok := x.Fn.(Name); ok {
			_, types, generic := strings.Cut(string(n), "<")
			return !generic || !strings.ContainsAny(types, "|{,")
		}
		return s.stiff(x.Fn, true)
	case Member:
		return s.stiff(x.Of, true)
	case Name:
		return deep
	}
	return false
}

// right is what stands after the sign of equality.
func (s Style) right(e Expr) Doc {
	switch x := e.(type) {
	case Binary, Str:
		return grouped(nest(space, s.expr(e, 1)))
	case Call:
		if s.stiff(x, false) {
			return grouped(nest(space, s.expr(e, 1)))
		}
	case Cond:
		if _, tests := x.If.(Binary); tests {
			return grouped(nest(space, s.expr(e, 1)))
		}
	}
	return cat(" ", s.expr(e, 1))
}

// Inline writes an expression on one line.
func (s Style) Inline(e Expr) string { return Print(s.expr(e, 0), 1<<20) }

// Statements lays statements out in the plain style.
func Statements(list ...Stmt) Doc { return Plain.Stmts(list) }

// Lines prints documents below each other in the plain style; an empty text is an empty line.
func Lines(list ...Doc) string {
	var b strings.Builder
	for _, d := range list {
		b.WriteString(Print(d, Plain.Width))
		b.WriteString("\n")
	}
	return Tidy(b.String())
}

// Tidy leaves one empty line where there are several, and none at the beginning.
func Tidy(code string) string {
	for strings.Contains(code, "\n\n\n") {
		code = strings.ReplaceAll(code, "\n\n\n", "\n\n")
	}
	return strings.TrimLeft(code, "\n")
}

// Broken is an object with each field on a line of its own.
func (s Style) Broken(o Object) Doc {
	d, ok := s.expr(o, 0).(group)
	if !ok {
		return s.expr(o, 0)
	}
	d.broken = true
	return d
}

// Field is a member of a class with its value.
func (s Style) Field(head string, is Expr) Doc { return cat(head, " =", s.right(is), s.end()) }
