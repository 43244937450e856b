// Package expr compiles and evaluates the expressions that bind screens to
// records: a typed subset of CEL (Common Expression Language). It checks them
// against models and translates them to TypeScript.
//
// What differs from full CEL, on purpose: all numbers are doubles; && and ||
// stop at the first operand that decides; a missing optional field is null, which
// joins to a text as nothing, compares as neither less nor greater, and is an
// error in arithmetic; of the comprehensions there is filter, on lists of records:
// loans.filter(l, l.state == 'out').
package expr

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"cel.dev/cel-go/common"
	"cel.dev/cel-go/common/ast"
	"cel.dev/cel-go/parser"

	"ubiquant/core/sample"
)

// Kind is the type of an expression's value.
type Kind uint8

const (
	Any Kind = iota
	Null
	Text
	Number
	Bool
	List   // records of Type.Model
	Record // one record of Type.Model
	Texts  // several texts
)

func (k Kind) String() string {
	return [...]string{"anything", "nothing", "a text", "a number", "yes/no", "a list", "a record", "a list of texts"}[k]
}

// Type is a kind, with the model for records and lists, and the currency for amounts.
type Type struct {
	Kind     Kind
	Model    *sample.Model
	Currency string // of money, by its ISO code; empty is the usual one, or no money
}

// Scope is what an expression may speak of.
type Scope struct {
	Record *sample.Model            // of "record"; nil where none is in scope
	Outer  *sample.Model            // of "outer", the record of the repeat around that one
	Models map[string]*sample.Model // lists of records by model id
	// Controls are what "controls" holds: the named controls of the screen.
	Controls map[string]Kind
	// Repeats are the names that "count" and "pages" know: elements that repeat.
	Repeats []string
	// Sources are what "sources" knows: models whose records come from a source.
	Sources []string
	// Route are what "route" knows: the parameters of the screen's route.
	Route []string
}

// Enter is the scope within a repeat, see sample.Over.
func (s Scope) Enter(repeat string) Scope {
	s.Record, s.Outer = sample.Over(repeat, s.Record, s.Models), s.Record
	return s
}

// Env holds the values during evaluation. Today is a date, YYYY-MM-DD.
type Env struct {
	Record   sample.Record
	Outer    sample.Record
	Lists    map[string][]sample.Record
	Today    string
	Controls map[string]any    // what each holds: string, float64 or bool
	Sources  map[string]string // the state of each source; "ready" where it is left out
	Route    map[string]string // what the parameters of the route are
	// Index finds records by their ids; it may be shared by evaluations over the same
	// lists, and is not safe for several at once. Without one, lists are walked.
	Index *Index
	// Count tells how many records a named repeat has, whatever page is shown, and on
	// how many pages they stand.
	Count func(repeat string) (records, pages int, err error)
	// Budget bounds the work; it is shared by what is computed together. Without one only
	// the length of each text is bounded.
	Budget *Budget
	vars   *binding // the records that filters walk over, the innermost first
}

// binding is what a name of a filter stands for.
type binding struct {
	name   string
	record sample.Record
	around *binding
}

func (b *binding) of(name string) sample.Record {
	for ; b != nil; b = b.around {
		if b.name == name {
			return b.record
		}
	}
	return nil
}

// Program is a checked expression.
type Program struct {
	Source string
	Type   Type
	root   *node
	info   *ast.SourceInfo
}

// Error says what is wrong in an expression and where (offset from 0, in characters).
type Error struct {
	Source  string
	Offset  int
	Message string
}

func (e *Error) Error() string {
	return fmt.Sprintf("%s (at %d in `%s`)", e.Message, e.Offset+1, e.Source)
}

type node struct {
	from   ast.Expr // what it was read from; nil of what stands for something else
	op     string   // "lit", "ident", "var", "field", "has", "control", "count", "?:", an operator, or a function
	text   string   // identifier, field
	value  any
	args   []*node
	typ    Type
	offset int
}

var celParser = sync.OnceValues(func() (*parser.Parser, error) {
	return parser.NewParser(
		parser.Macros(parser.HasMacro),
		parser.MaxRecursionDepth(60),
		parser.ExpressionSizeCodePointLimit(4000),
	)
})

// Compile parses and checks an expression in a scope.
func Compile(source string, scope Scope) (*Program, error) {
	p, err := celParser()
	if err != nil {
		return nil, err
	}
	tree, errs := p.Parse(common.NewTextSource(source))
	if len(errs.GetErrors()) > 0 {
		first := errs.GetErrors()[0]
		return nil, &Error{
			source,
			max(0, first.Location.Column()),
			"cannot be read: " + strings.TrimPrefix(first.Message, "Syntax error: "),
		}
	}
	c := compiler{source: source, scope: scope, info: tree.SourceInfo()}
	root, err := c.compile(tree.Expr())
	if err != nil {
		return nil, err
	}
	return &Program{Source: source, Type: root.typ, root: root, info: tree.SourceInfo()}, nil
}

// Speaks tells whether the program speaks of what controls hold, or of what follows
// from it: those change while somebody uses the screen.
func (p *Program) Speaks() bool { return speaks(p.root) }

func speaks(n *node) bool {
	return n.op == "control" || n.op == "count" || n.op == "pages" || slices.ContainsFunc(n.args, speaks)
}
