package kit

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/jsonread"
)

// OwnIcon is a vector icon or logo that the team added to the kit's.
type OwnIcon struct {
	Name     string
	Meanings []string
	SVG      string // as ReadSVG gives it
	By       string
	When     string // YYYY-MM-DD
}

var iconName = regexp.MustCompile(`^[a-z][a-z0-9-]{0,39}$`)

// Check says what keeps an icon from being taken.
func (i *OwnIcon) Check(k *Kit) error {
	if !iconName.MatchString(i.Name) {
		return fmt.Errorf("%q cannot be an icon's name; accepted: lower-case letters, digits and dashes", i.Name)
	}
	if slices.ContainsFunc(k.Icons, func(o Icon) bool { return o.Name == i.Name }) {
		return fmt.Errorf("%s has an icon %q already; choose another name", k.Title, i.Name)
	}
	_, err := ReadSVG([]byte(i.SVG))
	return err
}

// maxSVG bounds a picture: an icon is small.
const maxSVG = 64 << 10

// svgElements are what may stand in an icon: shapes and what colours them. Scripts,
// styles, links, embedded pictures and foreign content may not.
var svgElements = []string{
	"svg",
	"g",
	"path",
	"circle",
	"ellipse",
	"rect",
	"line",
	"polyline",
	"polygon",
	"defs",
	"linearGradient",
	"radialGradient",
	"stop",
	"clipPath",
	"mask",
	"title",
	"desc",
}

// svgAttributes are those that place, shape and colour.
var svgAttributes = []string{
	"viewBox",
	"width",
	"height",
	"d",
	"cx",
	"cy",
	"r",
	"rx",
	"ry",
	"x",
	"y",
	"x1",
	"y1",
	"x2",
	"y2",
	"fx",
	"fy",
	"points",
	"fill",
	"fill-opacity",
	"fill-rule",
	"clip-rule",
	"stroke",
	"stroke-width",
	"stroke-linecap",
	"stroke-linejoin",
	"stroke-miterlimit",
	"stroke-dasharray",
	"stroke-dashoffset",
	"stroke-opacity",
	"opacity",
	"transform",
	"id",
	"offset",
	"stop-color",
	"stop-opacity",
	"gradientUnits",
	"gradientTransform",
	"spreadMethod",
	"clip-path",
	"mask",
	"clipPathUnits",
	"maskUnits",
	"maskContentUnits",
	"vector-effect",
	"color",
	"preserveAspectRatio",
	"pathLength",
}

// dropped are attributes that say nothing here and do no harm: they are left out.
func dropped(name xml.Name) bool {
	return name.Space == "xmlns" || name.Local == "xmlns" || strings.HasPrefix(name.Local, "data-") ||
		strings.HasPrefix(name.Local, "aria-") ||
		slices.Contains([]string{"class", "version", "role", "focusable", "baseProfile", "space"}, name.Local)
}

// reference is the only form in which one part may speak of another.
var reference = regexp.MustCompile(`^url\(#[A-Za-z_][\w-]*\)$`)

// ReadSVG reads an icon and writes it back in one plain form: shapes only, nothing
// that runs, loads or styles anything outside. What may not stand in it is refused
// with its line and column.
func ReadSVG(src []byte) (string, error) {
	fail := func(offset int64, accepts, format string, args ...any) error {
		line, column := jsonread.Position(src, offset)
		return &jsonread.Error{
			Pointer: "the picture",
			Offset:  offset,
			Line:    line,
			Column:  column,
			Message: fmt.Sprintf(format, args...),
			Accepts: accepts,
		}
	}
	if len(src) > maxSVG {
		return "", fail(0, fmt.Sprintf("at most %d KB", maxSVG>>10), "the picture has %d KB", len(src)>>10)
	}
	dec := xml.NewDecoder(bytes.NewReader(src))
	var out strings.Builder
	depth, shapes, hasBox := 0, 0, false
	var open []string
	for {
		at := dec.InputOffset()
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			var syntax *xml.SyntaxError
			reason := err.Error()
			if errors.As(err, &syntax) {
				reason = syntax.Msg
			}
			return "", fail(dec.InputOffset(), "an SVG document", "it is not well formed: %s", reason)
		}
		switch t := token.(type) {
		case xml.Directive:
			return "", fail(at, "plain SVG", "a document type may not stand in an icon")
		case xml.ProcInst:
			if t.Target != "xml" {
				return "", fail(at, "plain SVG", "the instruction %q may not stand in an icon", t.Target)
			}
		case xml.StartElement:
			name := t.Name.Local
			if depth++; depth > 32 {
				return "", fail(at, "at most 32 levels", "nested too deeply")
			}
			if depth == 1 && out.Len() > 0 {
				return "", fail(at, "one svg element", "a second picture follows the first")
			}
			if (depth == 1) != (name == "svg") {
				return "", fail(at, "one svg element with shapes", "the element %q stands where an icon begins or inside it", name)
			}
			if t.Name.Space != "" && t.Name.Space != "http://www.w3.org/2000/svg" || !slices.Contains(svgElements, name) {
				return "", fail(at, strings.Join(svgElements, ", "), "the element %q may not stand in an icon", name)
			}
			out.WriteString("<" + name)
			if depth == 1 {
				out.WriteString(` xmlns="http://www.w3.org/2000/svg"`)
			}
			for _, a := range t.Attr {
				if dropped(a.Name) {
					continue
				}
				value := strings.TrimSpace(a.Value)
				low := strings.ToLower(value)
				switch {
				case a.Name.Space != "" || !slices.Contains(svgAttributes, a.Name.Local):
					return "", fail(at, "attributes that place, shape and colour", "the attribute %q of %s may not stand in an icon", a.Name.Local, name)
				case strings.Contains(low, "url(") && !reference.MatchString(value), strings.ContainsAny(value, "<>\\@"), strings.Contains(low, "script:"):
					return "", fail(at, "values that speak of this picture only", "the value %q of %s may not stand in an icon", a.Value, a.Name.Local)
				}
				if depth == 1 && (a.Name.Local == "width" || a.Name.Local == "height") {
					continue // the place it stands in says how large it is
				}
				hasBox = hasBox || depth == 1 && a.Name.Local == "viewBox"
				out.WriteString(" " + a.Name.Local + `="`)
				_ = xml.EscapeText(&out, []byte(value)) // a Builder does not fail
				out.WriteString(`"`)
			}
			out.WriteString(">")
			open = append(open, name)
			if slices.Contains([]string{"path", "circle", "ellipse", "rect", "line", "polyline", "polygon"}, name) {
				shapes++
			}
		case xml.EndElement:
			out.WriteString("</" + open[len(open)-1] + ">")
			open = open[:len(open)-1]
			depth--
		case xml.CharData:
			if text := strings.TrimSpace(string(t)); text != "" {
				if depth == 0 || !slices.Contains([]string{"title", "desc"}, open[len(open)-1]) {
					return "", fail(at, "text in title and desc", "text stands outside of title and desc")
				}
				_ = xml.EscapeText(&out, []byte(text))
			}
		}
	}
	switch {
	case out.Len() == 0:
		return "", fail(0, "an SVG document", "the picture is empty")
	case shapes == 0:
		return "", fail(0, "an svg element with shapes", "the picture shows nothing")
	case !hasBox:
		return "", fail(
			0,
			`viewBox="0 0 24 24" or another box`,
			"the svg element has no viewBox, so that it cannot be sized",
		)
	}
	return out.String(), nil
}
