// Package jsonread reads JSON as a stream of typed values, with limits and with
// errors that say where (JSON pointer, byte offset, line and column), what was
// found and what would be accepted. All readers of the core stand on it, so that
// a bad file is reported the same way whatever it holds.
package jsonread

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json/jsontext"
)

// Limits bound what a reader takes in. The zero value of a field means no bound.
type Limits struct {
	Bytes  int // size of the whole text
	Depth  int // nesting of objects and arrays
	Values int // number of values of any kind
}

// DefaultLimits are generous for a large team's workspace and small enough to
// refuse a hostile file quickly.
var DefaultLimits = Limits{Bytes: 512 << 20, Depth: 128, Values: 40_000_000}

// Error says where reading stopped and why.
type Error struct {
	Pointer string // JSON pointer (RFC 6901) of the value
	Offset  int64  // bytes from the start
	Line    int    // from 1
	Column  int    // from 1, in bytes
	Message string // what is wrong
	Accepts string // what would be accepted; may be empty
}

func (e *Error) Error() string {
	where := e.Pointer
	if where == "" {
		where = "the document"
	}
	s := fmt.Sprintf("%s (line %d, column %d): %s", where, e.Line, e.Column, e.Message)
	if e.Accepts != "" {
		s += "; accepted: " + e.Accepts
	}
	return s
}

// Reader walks one JSON text. Its methods read the next value; the first error
// ends the walk.
type Reader struct {
	src    []byte
	dec    *jsontext.Decoder
	limits Limits
	values int
	intern map[string]string
}

// New returns a reader of src.
func New(src []byte, limits Limits) (*Reader, error) {
	r := &Reader{src: src, limits: limits, intern: make(map[string]string, 256)}
	if limits.Bytes > 0 && len(src) > limits.Bytes {
		return nil, &Error{
			Line:    1,
			Column:  1,
			Message: fmt.Sprintf("the text has %d bytes", len(src)),
			Accepts: fmt.Sprintf("at most %d bytes", limits.Bytes),
		}
	}
	// A bytes.Buffer is read in place by the decoder, without a copy.
	r.dec = jsontext.NewDecoder(bytes.NewBuffer(src))
	return r, nil
}

// Position turns a byte offset into line and column, both from 1.
func Position(src []byte, offset int64) (line, column int) {
	if offset > int64(len(src)) {
		offset = int64(len(src))
	}
	if offset < 0 {
		offset = 0
	}
	before := src[:offset]
	line = bytes.Count(before, []byte{'\n'}) + 1
	column = int(offset) - bytes.LastIndexByte(before, '\n')
	return line, column
}

// Offset is where the next value begins.
func (r *Reader) Offset() int64 {
	o := r.dec.InputOffset()
	for o < int64(len(r.src)) {
		switch r.src[o] {
		case ' ', '\t', '\n', '\r', ',', ':':
			o++
			continue
		}
		break
	}
	return o
}

// Fail makes an error at the last value read.
func (r *Reader) Fail(accepts, format string, args ...any) error {
	return r.failAt(string(r.dec.StackPointer()), r.dec.InputOffset(), accepts, fmt.Sprintf(format, args...))
}

// FailAt makes an error at a place noted before, as Offset tells it.
func (r *Reader) FailAt(pointer string, offset int64, accepts, format string, args ...any) error {
	return r.failAt(pointer, offset, accepts, fmt.Sprintf(format, args...))
}

func (r *Reader) failAt(pointer string, offset int64, accepts, message string) error {
	line, column := Position(r.src, offset)
	return &Error{Pointer: pointer, Offset: offset, Line: line, Column: column, Message: message, Accepts: accepts}
}

func (r *Reader) wrap(err error) error {
	if err == nil {
		return nil
	}
	var own *Error
	if errors.As(err, &own) {
		return err
	}
	var syntactic *jsontext.SyntacticError
	if errors.As(err, &syntactic) {
		reason := "it is not valid JSON"
		if syntactic.Err != nil {
			reason = strings.TrimPrefix(syntactic.Err.Error(), "jsontext: ")
		}
		return r.failAt(string(syntactic.JSONPointer), syntactic.ByteOffset, "", reason)
	}
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return r.failAt(string(r.dec.StackPointer()), int64(len(r.src)), "", "the text ends too early")
	}
	return r.failAt(string(r.dec.StackPointer()), r.dec.InputOffset(), "", err.Error())
}

func (r *Reader) next() (jsontext.Token, error) {
	tok, err := r.dec.ReadToken()
	if err != nil {
		return tok, r.wrap(err)
	}
	if err := r.count(); err != nil {
		return tok, err
	}
	if r.limits.Depth > 0 && r.dec.StackDepth() > r.limits.Depth {
		return tok, r.Fail(fmt.Sprintf("at most %d levels", r.limits.Depth), "nested too deeply")
	}
	return tok, nil
}

func (r *Reader) count() error {
	r.values++
	if r.limits.Values > 0 && r.values > r.limits.Values {
		return r.Fail(fmt.Sprintf("at most %d values", r.limits.Values), "too many values")
	}
	return nil
}

func kindName(k jsontext.Kind) string {
	switch k {
	case 'n':
		return "null"
	case 't', 'f':
		return "a yes/no value"
	case '"':
		return "a text"
	case '0':
		return "a number"
	case '{':
		return "an object"
	case '[':
		return "a list"
	}
	return "something else"
}

func (r *Reader) expect(kind jsontext.Kind, accepts string) (jsontext.Token, error) {
	got := r.dec.PeekKind()
	tok, err := r.next()
	if err != nil {
		return tok, err
	}
	if got != kind && !(kind == 't' && got == 'f') {
		return tok, r.Fail(accepts, "found %s", kindName(got))
	}
	return tok, nil
}

// Kind peeks at the next value: 'n', 't', 'f', '"', '0', '{', '['; 0 at the end
// or on an error, which the next read reports.
func (r *Reader) Kind() byte { return byte(r.dec.PeekKind()) }

// Object reads an object and calls each for every key; each must read the value.
func (r *Reader) Object(each func(key string) error) error {
	if _, err := r.expect('{', "an object"); err != nil {
		return err
	}
	for r.dec.PeekKind() != '}' {
		key, err := r.text()
		if err != nil {
			return err
		}
		if err := each(key); err != nil {
			return r.wrap(err)
		}
	}
	_, err := r.next()
	return err
}

// Array reads a list and calls each for every item; each must read the value.
func (r *Reader) Array(each func(i int) error) error {
	if _, err := r.expect('[', "a list"); err != nil {
		return err
	}
	for i := 0; r.dec.PeekKind() != ']'; i++ {
		if k := r.dec.PeekKind(); k == 0 || k == '}' {
			_, err := r.next()
			if err == nil {
				err = r.Fail("", "the list is not closed")
			}
			return err
		}
		if err := each(i); err != nil {
			return r.wrap(err)
		}
	}
	_, err := r.next()
	return err
}

// String reads a text.
func (r *Reader) String() (string, error) {
	if r.dec.PeekKind() != '"' {
		_, err := r.expect('"', "a text")
		return "", err
	}
	return r.text()
}

// text reads a key or text. Short ones are shared: the words of a workspace
// (types, props, values) repeat a thousandfold.
func (r *Reader) text() (string, error) {
	raw, err := r.dec.ReadValue()
	if err != nil {
		return "", r.wrap(err)
	}
	if err := r.count(); err != nil {
		return "", err
	}
	in := raw[1 : len(raw)-1]
	if bytes.IndexByte(in, '\\') >= 0 {
		if in, err = jsontext.AppendUnquote(nil, raw); err != nil {
			return "", r.wrap(err)
		}
	}
	return r.shared(in), nil
}

func (r *Reader) shared(text []byte) string {
	if len(text) > 40 {
		return string(text)
	}
	if t, ok := r.intern[string(text)]; ok { // looks up without making a string
		return t
	}
	t := string(text)
	r.intern[t] = t
	return t
}

// Bool reads a yes/no value.
func (r *Reader) Bool() (bool, error) {
	tok, err := r.expect('t', "true or false")
	if err != nil {
		return false, err
	}
	return tok.Kind() == 't', nil
}

// Int reads a whole number.
func (r *Reader) Int() (int, error) {
	tok, err := r.expect('0', "a whole number")
	if err != nil {
		return 0, err
	}
	n, err := strconv.Atoi(tok.String())
	if err != nil {
		return 0, r.Fail("a whole number", "found %s", tok.String())
	}
	return n, nil
}

// Number reads a number and returns it as written.
func (r *Reader) Number() (string, error) {
	tok, err := r.expect('0', "a number")
	if err != nil {
		return "", err
	}
	return r.shared([]byte(tok.String())), nil
}

// Strings reads a list of texts.
func (r *Reader) Strings() ([]string, error) {
	var out []string
	err := r.Array(func(int) error {
		s, err := r.String()
		out = append(out, s)
		return err
	})
	return out, err
}

// OneOf reads a text that must be one of those named.
func (r *Reader) OneOf(names ...string) (string, error) {
	s, err := r.String()
	if err != nil {
		return "", err
	}
	for _, n := range names {
		if s == n {
			return s, nil
		}
	}
	return "", r.Fail(strings.Join(names, ", "), "%q is not known here", s)
}

// Raw reads the next value as it stands.
func (r *Reader) Raw() ([]byte, error) {
	v, err := r.dec.ReadValue()
	if err != nil {
		return nil, r.wrap(err)
	}
	return bytes.Clone(v), nil
}

// Skip passes over the next value.
func (r *Reader) Skip() error { return r.wrap(r.dec.SkipValue()) }

// Ahead looks for a text in the object that comes next, without reading it; empty where
// there is none. What is wrong with the object is found when it is read.
func (r *Reader) Ahead(key string) string {
	dec := jsontext.NewDecoder(bytes.NewBuffer(r.src[min(r.Offset(), int64(len(r.src))):]))
	if t, err := dec.ReadToken(); err != nil || t.Kind() != '{' {
		return ""
	}
	for dec.PeekKind() == '"' {
		name, err := dec.ReadToken()
		if err != nil {
			return ""
		}
		if name.String() == key {
			if t, err := dec.ReadToken(); err == nil && t.Kind() == '"' {
				return t.String()
			}
			return ""
		}
		if dec.SkipValue() != nil {
			return ""
		}
	}
	return ""
}

// Unknown refuses a key, naming those that are accepted.
func (r *Reader) Unknown(key string, accepted ...string) error {
	return r.Fail(strings.Join(accepted, ", "), "the key %q is not known here", key)
}

// End checks that nothing follows.
func (r *Reader) End() error {
	_, err := r.dec.ReadToken()
	if errors.Is(err, io.EOF) {
		return nil
	}
	if err == nil {
		return r.Fail("", "more text follows the end of the document")
	}
	return r.wrap(err)
}
