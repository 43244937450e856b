package kit

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/jsonread"
)

// Value is a token's value as the Design Tokens format (DTCG, 2025.10) writes it:
// a text, a number, a list, an object of parts, or the alias of another token.
// The zero value is no value.
type Value struct {
	kind  byte    // '"', '0', '[', '{' as in JSON; '@' an alias
	text  string  // of a text; of a number, as written; of an alias, the path
	list  []Value // of a list
	parts []part  // of an object, in their order
}

type part struct {
	name string
	Value
}

func textValue(s string) Value   { return Value{kind: '"', text: s} }
func numberValue(s string) Value { return Value{kind: '0', text: s} }
func aliasValue(s string) Value  { return Value{kind: '@', text: s} }

func (v Value) part(name string) (Value, bool) {
	for _, p := range v.parts {
		if p.name == name {
			return p.Value, true
		}
	}
	return Value{}, false
}

// Alias is the path of the token that the value stands for, where it is one.
func (v Value) Alias() (string, bool) { return v.text, v.kind == '@' }

// tokenTypes are the types of DTCG 2025.10. An untyped token is taken as it is written.
var tokenTypes = []string{
	"border",
	"color",
	"cubicBezier",
	"dimension",
	"duration",
	"fontFamily",
	"fontWeight",
	"gradient",
	"number",
	"shadow",
	"strokeStyle",
	"transition",
	"typography",
}

// readValue reads a value as written, aliases unresolved.
func readValue(r *jsonread.Reader) (v Value, err error) {
	switch v.kind = r.Kind(); v.kind {
	case '"':
		v.text, err = r.String()
		if path, ok := strings.CutPrefix(v.text, "{"); ok && strings.HasSuffix(path, "}") {
			return aliasValue(path[:len(path)-1]), err
		}
		if err == nil && strings.ContainsAny(v.text, ";{}<>\\") {
			err = r.Fail("a value without ; { } < > \\", "the value %q could break out of the style sheet", v.text)
		}
	case '0':
		v.text, err = r.Number()
	case '[':
		err = r.Array(func(int) error {
			item, err := readValue(r)
			v.list = append(v.list, item)
			return err
		})
	case '{':
		err = r.Object(func(key string) error {
			if key == "$ref" {
				return r.Fail("an alias as {group.token}", "references by pointer are not read")
			}
			item, err := readValue(r)
			v.parts = append(v.parts, part{key, item})
			return err
		})
	case 't', 'f':
		var yes bool
		yes, err = r.Bool()
		v = textValue(strconv.FormatBool(yes))
	default:
		if err = r.Skip(); err == nil {
			err = r.Fail("a text, a number, a list or an object as DTCG defines it", "the value cannot be used")
		}
	}
	return v, err
}

// JSON is the value as DTCG writes it.
func (v Value) JSON() []byte { return v.append(nil) }

func (v Value) append(b []byte) []byte {
	quote := func(s string) { b, _ = jsontext.AppendQuote(b, s) } // the texts come from JSON or are checked
	switch v.kind {
	case '"':
		quote(v.text)
	case '@':
		quote("{" + v.text + "}")
	case '0':
		b = append(b, v.text...)
	case '[':
		b = append(b, '[')
		for i, item := range v.list {
			if i > 0 {
				b = append(b, ',')
			}
			b = item.append(b)
		}
		b = append(b, ']')
	case '{':
		b = append(b, '{')
		for i, p := range v.parts {
			if i > 0 {
				b = append(b, ',')
			}
			quote(p.name)
			b = append(b, ':')
			b = p.Value.append(b)
		}
		b = append(b, '}')
	default:
		b = append(b, "null"...)
	}
	return b
}

func (v Value) equal(o Value) bool { return string(v.JSON()) == string(o.JSON()) }

// valueError says what of a value cannot be used.
type valueError struct{ message, accepts string }

func (e *valueError) Error() string {
	if e.accepts == "" {
		return e.message
	}
	return e.message + "; accepted: " + e.accepts
}

func refuse(accepts, format string, args ...any) error {
	return &valueError{fmt.Sprintf(format, args...), accepts}
}

// css writes a resolved value of a type as CSS text.
func (v Value) css(typ string) (string, error) {
	if write, ok := cssWriters[typ]; ok {
		return write(v)
	}
	// Untyped: by the way it is written.
	switch v.kind {
	case '"', '0':
		return v.text, nil
	case '[':
		return fontFamily(v)
	}
	for _, typ := range []string{"color", "dimension", "shadow"} {
		if s, err := v.css(typ); err == nil {
			return s, nil
		}
	}
	return "", refuse("a $type", "the value is an object, and its type is not said")
}

// cssWriters say how each type is written in CSS.
var cssWriters map[string]func(Value) (string, error)

func init() {
	cssWriters = map[string]func(Value) (string, error){
		"color": color, "dimension": func(v Value) (string, error) { return measured(v, "px", "rem", "em", "%") }, "duration": func(v Value) (string, error) { return measured(v, "ms", "s") },
		"fontFamily": fontFamily, "fontWeight": fontWeight, "number": plainNumber, "cubicBezier": cubicBezier, "strokeStyle": strokeStyle,
		"border":     joined("width", "dimension", "style", "strokeStyle", "color", "color"),
		"transition": joined("duration", "duration", "timingFunction", "cubicBezier", "delay", "duration"),
		"shadow":     listed(shadow), "gradient": gradient, "typography": typography,
	}
}

func plainNumber(v Value) (string, error) {
	if v.kind != '0' {
		return "", refuse("a number", "it is not a number")
	}
	return v.text, nil
}

func (v Value) float() (float64, bool) {
	f, err := strconv.ParseFloat(v.text, 64)
	return f, err == nil && v.kind == '0' && !math.IsInf(f, 0)
}

// measured writes a number with its unit, written as an object or as one text.
func measured(v Value, units ...string) (string, error) {
	accepts := "a number with a unit: " + strings.Join(units, ", ")
	number, unit := v, ""
	switch v.kind {
	case '{':
		number, _ = v.part("value")
		u, _ := v.part("unit")
		unit = u.text
	case '"':
		text := strings.TrimLeft(v.text, "+-.0123456789")
		number, unit = numberValue(v.text[:len(v.text)-len(text)]), text
	}
	f, ok := number.float()
	if !ok || (!slices.Contains(units, unit) && (f != 0 || v.kind == '{' || unit != "")) {
		return "", refuse(accepts, "it is no length that can be used")
	}
	return number.text + unit, nil
}

// color writes a colour: sRGB as #RRGGBB, with an alpha below 1 as #RRGGBBAA,
// other spaces by their CSS functions (CSS Color 4).
func color(v Value) (string, error) {
	if v.kind == '"' {
		if _, _, ok := hexParts(v.text); strings.HasPrefix(v.text, "#") && !ok {
			return "", refuse("#RRGGBB", "%q is no colour", v.text)
		}
		return v.text, nil // a name or function of CSS, as older files have it
	}
	accepts := "{colorSpace, components: three numbers, alpha, hex}"
	space, _ := v.part("colorSpace")
	list, _ := v.part("components")
	alpha := 1.0
	if a, ok := v.part("alpha"); ok {
		if alpha, ok = a.float(); !ok || alpha < 0 || alpha > 1 {
			return "", refuse("a number from 0 to 1", "the alpha is out of range")
		}
	}
	if list.kind != '[' {
		if hex, ok := v.part("hex"); ok && alpha == 1 {
			return color(hex)
		}
		return "", refuse(accepts, "the colour has no components")
	}
	if len(list.list) != 3 {
		return "", refuse(accepts, "the colour has %d components", len(list.list))
	}
	words := make([]string, 3)
	for i, c := range list.list {
		if c.kind == '"' && c.text == "none" {
			words[i] = "none"
		} else if _, ok := c.float(); ok {
			words[i] = c.text
		} else {
			return "", refuse(accepts, "a colour component is not a number")
		}
	}
	tail := ""
	if alpha < 1 {
		tail = " / " + strconv.FormatFloat(alpha, 'g', 4, 64)
	}
	switch space.text {
	case "srgb":
		var rgb [3]float64
		for i := range rgb {
			rgb[i], _ = list.list[i].float()
			if rgb[i] < 0 || rgb[i] > 1 {
				return "", refuse("three numbers from 0 to 1", "the colour component %s is out of range", words[i])
			}
		}
		if hex, ok := v.part("hex"); ok && alpha == 1 {
			return color(hex)
		}
		text := fmt.Sprintf("#%02X%02X%02X", byte255(rgb[0]), byte255(rgb[1]), byte255(rgb[2]))
		if alpha < 1 {
			text += fmt.Sprintf("%02X", byte255(alpha))
		}
		return text, nil
	case "srgb-linear", "display-p3", "a98-rgb", "prophoto-rgb", "rec2020", "xyz-d50", "xyz-d65":
		return "color(" + space.text + " " + strings.Join(words, " ") + tail + ")", nil
	case "hsl", "hwb":
		return fmt.Sprintf("%s(%s %s%% %s%%%s)", space.text, words[0], words[1], words[2], tail), nil
	case "lab", "lch", "oklab", "oklch":
		return space.text + "(" + strings.Join(words, " ") + tail + ")", nil
	}
	return "", refuse(
		"srgb, srgb-linear, display-p3, a98-rgb, prophoto-rgb, rec2020, xyz-d50, xyz-d65, hsl, hwb, lab, lch, oklab, oklch",
		"the colour space %q is not known",
		space.text,
	)
}

func byte255(f float64) int { return int(f*255 + 0.5) }

func fontFamily(v Value) (string, error) {
	list := v.list
	if v.kind == '"' {
		list = []Value{v}
	}
	if len(list) == 0 {
		return "", refuse("a name or a list of names", "no font is named")
	}
	names := make([]string, len(list))
	for i, n := range list {
		if n.kind != '"' || n.text == "" || strings.ContainsAny(n.text, ";{}<>'\"\\") {
			return "", refuse("plain names", "the name %q could break out of the style sheet", n.text)
		}
		names[i] = n.text
		if strings.ContainsAny(n.text, " ,") && v.kind == '[' {
			names[i] = "'" + n.text + "'"
		}
	}
	return strings.Join(names, ", "), nil
}

// weights are the names that DTCG gives weights.
var weights = map[string]string{
	"thin":        "100",
	"hairline":    "100",
	"extra-light": "200",
	"ultra-light": "200",
	"light":       "300",
	"normal":      "400",
	"regular":     "400",
	"book":        "400",
	"medium":      "500",
	"semi-bold":   "600",
	"demi-bold":   "600",
	"bold":        "700",
	"extra-bold":  "800",
	"ultra-bold":  "800",
	"black":       "900",
	"heavy":       "900",
	"extra-black": "950",
	"ultra-black": "950",
}

func fontWeight(v Value) (string, error) {
	if w, ok := weights[v.text]; ok && v.kind == '"' {
		return w, nil
	}
	if f, ok := v.float(); ok && f >= 1 && f <= 1000 {
		return v.text, nil
	}
	return "", refuse("a number from 1 to 1000 or a name such as bold", "%q is no weight", v.text)
}

func cubicBezier(v Value) (string, error) {
	if v.kind != '[' || len(v.list) != 4 {
		return "", refuse("four numbers", "it is no cubic Bézier curve")
	}
	words := make([]string, 4)
	for i, n := range v.list {
		f, ok := n.float()
		if !ok || (i%2 == 0 && (f < 0 || f > 1)) {
			return "", refuse("four numbers, the first and third from 0 to 1", "it is no cubic Bézier curve")
		}
		words[i] = n.text
	}
	return "cubic-bezier(" + strings.Join(words, ", ") + ")", nil
}

var strokes = []string{"solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset"}

func strokeStyle(v Value) (string, error) {
	if v.kind == '{' { // a pattern of dashes, which CSS borders do not have
		return "dashed", nil
	}
	if !slices.Contains(strokes, v.text) {
		return "", refuse(strings.Join(strokes, ", "), "%q is no stroke", v.text)
	}
	return v.text, nil
}

// joined writes parts of an object one after the other: name, type, name, type …
func joined(fields ...string) func(Value) (string, error) {
	return func(v Value) (string, error) {
		var words []string
		for i := 0; i < len(fields); i += 2 {
			p, ok := v.part(fields[i])
			if !ok && fields[i] != "delay" {
				return "", refuse("an object with "+fields[i], "%s is missing", fields[i])
			}
			if !ok {
				continue
			}
			s, err := p.css(fields[i+1])
			if err != nil {
				return "", fmt.Errorf("%s: %w", fields[i], err)
			}
			words = append(words, s)
		}
		return strings.Join(words, " "), nil
	}
}

func listed(one func(Value) (string, error)) func(Value) (string, error) {
	return func(v Value) (string, error) {
		if v.kind != '[' {
			return one(v)
		}
		var words []string
		for _, item := range v.list {
			s, err := one(item)
			if err != nil {
				return "", err
			}
			words = append(words, s)
		}
		return strings.Join(words, ", "), nil
	}
}

var shadowParts = joined(
	"offsetX",
	"dimension",
	"offsetY",
	"dimension",
	"blur",
	"dimension",
	"spread",
	"dimension",
	"color",
	"color",
)

func shadow(v Value) (string, error) {
	if v.kind == '"' {
		return v.text, nil
	}
	s, err := shadowParts(v)
	if inset, ok := v.part("inset"); ok && inset.text == "true" {
		s = "inset " + s
	}
	return s, err
}

func gradient(v Value) (string, error) {
	if v.kind != '[' || len(v.list) < 2 {
		return "", refuse("a list of {color, position}", "a gradient has two stops or more")
	}
	stops := make([]string, len(v.list))
	for i, s := range v.list {
		c, _ := s.part("color")
		at, _ := s.part("position")
		text, err := color(c)
		f, ok := at.float()
		if err != nil || !ok {
			return "", refuse("a list of {color, position}", "stop %d cannot be used", i+1)
		}
		stops[i] = fmt.Sprintf("%s %s%%", text, strconv.FormatFloat(100*min(1, max(0, f)), 'g', 5, 64))
	}
	return "linear-gradient(" + strings.Join(stops, ", ") + ")", nil
}

// typography writes the shorthand of CSS's font.
func typography(v Value) (string, error) {
	size, ok := v.part("fontSize")
	family, has := v.part("fontFamily")
	if !ok || !has {
		return "", refuse("an object with fontFamily and fontSize", "a font has a family and a size")
	}
	sizeText, err := size.css("dimension")
	if err != nil {
		return "", fmt.Errorf("fontSize: %w", err)
	}
	familyText, err := fontFamily(family)
	if err != nil {
		return "", fmt.Errorf("fontFamily: %w", err)
	}
	out := sizeText
	if line, ok := v.part("lineHeight"); ok {
		s, err := plainNumber(line)
		if err != nil {
			return "", fmt.Errorf("lineHeight: %w", err)
		}
		out += "/" + s
	}
	if weight, ok := v.part("fontWeight"); ok {
		s, err := fontWeight(weight)
		if err != nil {
			return "", fmt.Errorf("fontWeight: %w", err)
		}
		out = s + " " + out
	}
	return out + " " + familyText, nil
}

// ParseValue reads what a person writes for a token of a type: "#55691E", "12px",
// "Alegreya Sans, sans-serif", "{color.ink}".
func ParseValue(typ, text string) (Value, error) {
	text = strings.TrimSpace(text)
	if path, ok := strings.CutPrefix(text, "{"); ok && strings.HasSuffix(path, "}") {
		return aliasValue(strings.TrimSpace(path[:len(path)-1])), nil
	}
	if text == "" || strings.ContainsAny(text, ";{}<>\\") {
		return Value{}, refuse("a value, or {another.token}", "%q cannot be a value", text)
	}
	v := textValue(text)
	switch typ {
	case "color":
		rgb, alpha, ok := hexParts(text)
		if !ok {
			return Value{}, refuse("#RRGGBB or #RRGGBBAA", "%q is no colour", text)
		}
		return srgb(rgb, alpha), nil
	case "dimension", "duration":
		written, err := v.css(typ)
		if err != nil {
			return Value{}, err
		}
		unit := strings.TrimLeft(written, "+-.0123456789")
		if unit == "" {
			unit = "px"
		}
		number, _ := strconv.ParseFloat(strings.TrimSuffix(written, unit), 64)
		return Value{
			kind: '{',
			parts: []part{
				{"value", numberValue(strconv.FormatFloat(number, 'g', -1, 64))},
				{"unit", textValue(unit)},
			},
		}, nil
	case "number", "fontWeight":
		if f, err := strconv.ParseFloat(text, 64); err == nil {
			v = numberValue(strconv.FormatFloat(f, 'g', -1, 64))
		}
	case "fontFamily":
		v = Value{kind: '['}
		for _, name := range strings.Split(text, ",") {
			v.list = append(v.list, textValue(strings.Trim(strings.TrimSpace(name), `'"`)))
		}
	case "cubicBezier":
		inner := strings.TrimSuffix(strings.TrimPrefix(text, "cubic-bezier("), ")")
		v = Value{kind: '['}
		for _, n := range strings.Split(inner, ",") {
			v.list = append(v.list, numberValue(strings.TrimSpace(n)))
		}
	case "shadow":
		return parseShadow(text)
	}
	if _, err := v.css(typ); err != nil {
		return Value{}, err
	}
	return v, nil
}

func parseShadow(text string) (Value, error) {
	words := strings.Fields(text)
	if len(words) != 5 {
		return Value{}, refuse("five words: across, down, blur, spread, colour", "%q is no shadow", text)
	}
	v := Value{kind: '{'}
	for i, name := range []string{"offsetX", "offsetY", "blur", "spread"} {
		d, err := ParseValue("dimension", words[i])
		if err != nil {
			return Value{}, err
		}
		v.parts = append(v.parts, part{name, d})
	}
	c, err := ParseValue("color", words[4])
	v.parts = append(v.parts, part{"color", c})
	return v, err
}

// ReadValue reads a value that a token of a type is set to: a JSON text as a person
// writes it (see ParseValue), or a value as DTCG has it.
func ReadValue(typ string, src []byte) (Value, error) {
	r, err := jsonread.New(src, tokenLimits)
	if err != nil {
		return Value{}, err
	}
	if r.Kind() == '"' {
		text, err := r.String()
		if err != nil {
			return Value{}, err
		}
		return ParseValue(typ, text)
	}
	v, err := readValue(r)
	if err == nil {
		err = r.End()
	}
	return v, err
}

// hexParts reads #RGB, #RGBA, #RRGGBB and #RRGGBBAA.
func hexParts(text string) (rgb [3]uint8, alpha float64, ok bool) {
	hex, ok := strings.CutPrefix(text, "#")
	if !ok {
		return rgb, 0, false
	}
	if len(hex) == 3 || len(hex) == 4 {
		var long strings.Builder
		for _, c := range hex {
			long.WriteRune(c)
			long.WriteRune(c)
		}
		hex = long.String()
	}
	if len(hex) == 6 {
		hex += "ff"
	}
	n, err := strconv.ParseUint(hex, 16, 32)
	if len(hex) != 8 || err != nil {
		return rgb, 0, false
	}
	return [3]uint8{uint8(n >> 24), uint8(n >> 16), uint8(n >> 8)}, float64(uint8(n)) / 255, true
}

// srgb is a colour as DTCG writes it, with the hex text that other tools read.
func srgb(rgb [3]uint8, alpha float64) Value {
	list := Value{kind: '['}
	for _, c := range rgb {
		list.list = append(
			list.list,
			numberValue(strconv.FormatFloat(math.Round(float64(c)/255*1e4)/1e4, 'g', -1, 64)),
		)
	}
	v := Value{kind: '{', parts: []part{{"colorSpace", textValue("srgb")}, {"components", list}}}
	if alpha < 1 {
		v.parts = append(
			v.parts,
			part{"alpha", numberValue(strconv.FormatFloat(math.Round(alpha*1e3)/1e3, 'g', -1, 64))},
		)
	}
	v.parts = append(v.parts, part{"hex", textValue(fmt.Sprintf("#%02X%02X%02X", rgb[0], rgb[1], rgb[2]))})
	return v
}
