package kit

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
	"unicode/utf16"

	"github.com/andybalholm/brotli"
)

// Font is a font file of the team's own.
type Font struct {
	Family string
	Weight int // 1 to 1000
	Italic bool
	Data   []byte // WOFF2
	By     string
	When   string // YYYY-MM-DD
}

// File is the name that the font's file goes by.
func (f *Font) File() string {
	name := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return '-'
	}, f.Family)
	style := ""
	if f.Italic {
		style = "-italic"
	}
	return fmt.Sprintf("%s-%d%s.woff2", name, f.Weight, style)
}

var facePattern = regexp.MustCompile(`@font-face\s*\{[^}]*?font-family:\s*(?:'([^']+)'|"([^"]+)"|([^;'"}]+))`)

// Families lists the fonts that a style sheet brings, by family.
func Families(sheet []byte) []string {
	out := []string{}
	for _, m := range facePattern.FindAllSubmatch(sheet, -1) {
		family := strings.TrimSpace(string(m[1]) + string(m[2]) + string(m[3]))
		if !slices.Contains(out, family) {
			out = append(out, family)
		}
	}
	return out
}

// Face is the style rule that makes the font known; base is where its file is.
func (f *Font) Face(base string) string {
	style := "normal"
	if f.Italic {
		style = "italic"
	}
	return fmt.Sprintf(
		"@font-face { font-family: '%s'; font-weight: %d; font-style: %s; font-display: swap; src: url('%s%s') format('woff2'); }\n",
		f.Family,
		f.Weight,
		style,
		base,
		f.File(),
	)
}

// MissingFonts lists the families that a theme asks for first and that neither a style sheet nor
// fonts bring, nor the usual machine has: on one without them another is shown.
func (k *Kit) MissingFonts(theme string, sheet []byte, fonts []Font) []string {
	out, brought := []string{}, Families(sheet)
	is := func(family string) func(string) bool {
		return func(other string) bool { return strings.EqualFold(other, family) }
	}
	for _, t := range k.Tokens.List {
		if t.Type != "fontFamily" {
			continue
		}
		first, _, _ := strings.Cut(t.Values[theme], ",")
		family := strings.Trim(strings.TrimSpace(first), `'"`)
		if family == "" || there[strings.ToLower(family)] || strings.Contains(family, "(") || slices.ContainsFunc(out, is(family)) {
			continue
		}
		own := slices.ContainsFunc(fonts, func(f Font) bool { return strings.EqualFold(f.Family, family) })
		if !own && !slices.ContainsFunc(brought, is(family)) {
			out = append(out, family)
		}
	}
	return out
}

// there are the families that every browser knows (CSS Fonts 4), and those that a system brings
// and that stand before others for that.
var there = map[string]bool{
	"serif":              true,
	"sans-serif":         true,
	"monospace":          true,
	"cursive":            true,
	"fantasy":            true,
	"system-ui":          true,
	"ui-serif":           true,
	"ui-sans-serif":      true,
	"ui-monospace":       true,
	"ui-rounded":         true,
	"math":               true,
	"inherit":            true,
	"initial":            true,
	"-apple-system":      true,
	"blinkmacsystemfont": true,
	"segoe ui":           true,
	"arial":              true,
	"helvetica":          true,
	"helvetica neue":     true,
	"times new roman":    true,
	"courier new":        true,
	"menlo":              true,
	"monaco":             true,
	"consolas":           true,
	"sfmono-regular":     true,
}

// maxFont bounds a font file, maxFontOpen what it holds once decompressed.
const (
	maxFont     = 1 << 20
	maxFontOpen = 16 << 20
)

// knownTables are the tags that WOFF2 writes as a number (section 5.2).
var knownTables = strings.Fields(
	"cmap head hhea hmtx maxp name OS/2 post cvt_ fpgm glyf loca prep CFF_ VORG EBDT EBLC gasp hdmx kern LTSH PCLT VDMX vhea vmtx BASE GDEF GPOS GSUB EBSC JSTF MATH CBDT CBLC COLR CPAL SVG_ sbix acnt avar bdat bloc bsln cvar fdsc feat fmtx fvar gvar hsty just lcar mort morx opbd prop trak Zapf Silf Glat Gloc Feat Sill",
)

// ReadFont reads a font file in WOFF2 (W3C Recommendation, 2022) and tells which
// family, weight and slant it says it has. What is no font is refused with the reason.
func ReadFont(data []byte) (*Font, error) {
	const accepts = "a font in WOFF2"
	if len(data) > maxFont {
		return nil, refuse(fmt.Sprintf("at most %d KB", maxFont>>10), "the file has %d KB", len(data)>>10)
	}
	if len(data) < 48 || string(data[:4]) != "wOF2" {
		found := "it is not one"
		for sign, what := range map[string]string{"wOFF": "it is WOFF of the first version", "OTTO": "it is an OpenType font that is not compressed", "\x00\x01\x00\x00": "it is a TrueType font that is not compressed", "ttcf": "it is a collection"} {
			if bytes.HasPrefix(data, []byte(sign)) {
				found = what
			}
		}
		return nil, refuse(accepts, "the file cannot be used as a font: %s", found)
	}
	u32 := func(at int) int { return int(binary.BigEndian.Uint32(data[at:])) }
	count, packed := int(binary.BigEndian.Uint16(data[12:])), u32(20)
	if u32(8) != len(data) {
		return nil, refuse(accepts, "the font says it has %d bytes, the file has %d", u32(8), len(data))
	}
	if count == 0 || count > 256 || string(data[4:8]) == "ttcf" {
		return nil, refuse(accepts, "the font has %d tables or is a collection", count)
	}
	// The directory: where each table begins in the decompressed stream.
	at, offset := 48, 0
	tables := map[string][2]int{}
	base128 := func() (int, bool) {
		n := 0
		for i := range 5 {
			if at >= len(data) || (i == 0 && data[at] == 0x80) || n > 1<<24 {
				return 0, false
			}
			b := data[at]
			at++
			n = n<<7 | int(b&0x7f)
			if b&0x80 == 0 {
				return n, true
			}
		}
		return 0, false
	}
	for i := range count {
		if at >= len(data) {
			return nil, refuse(accepts, "the font ends within its list of tables, at table %d", i+1)
		}
		flags := data[at]
		at++
		tag := ""
		if n := int(flags & 0x3f); n < len(knownTables) {
			tag = knownTables[n]
		} else if at+4 <= len(data) {
			tag = string(data[at : at+4])
			at += 4
		}
		length, ok := base128()
		if !ok {
			return nil, refuse(accepts, "table %d of the font has no length", i+1)
		}
		// glyf and loca are transformed unless said otherwise; all others the other way.
		version := flags >> 6
		if (tag == "glyf" || tag == "loca") == (version != 3) && (tag == "glyf" || tag == "loca" || version != 0) {
			if length, ok = base128(); !ok {
				return nil, refuse(accepts, "table %d of the font has no length", i+1)
			}
		}
		tables[tag] = [2]int{offset, length}
		offset += length
	}
	if at+packed > len(data) || offset > maxFontOpen {
		return nil, refuse(accepts, "the font's tables are larger than the file")
	}
	open, err := io.ReadAll(io.LimitReader(brotli.NewReader(bytes.NewReader(data[at:at+packed])), int64(offset)+1))
	if err != nil || len(open) != offset {
		return nil, refuse(accepts, "the font's tables cannot be decompressed")
	}
	table := func(tag string) []byte {
		t, ok := tables[tag]
		if !ok {
			return nil
		}
		return open[t[0] : t[0]+t[1]]
	}
	for _, tag := range []string{"cmap", "head", "name"} {
		if len(table(tag)) == 0 {
			return nil, refuse(accepts, "the font has no table %q", tag)
		}
	}
	f := &Font{Data: data, Weight: 400}
	if os2 := table("OS/2"); len(os2) >= 64 {
		f.Weight = min(1000, max(1, int(binary.BigEndian.Uint16(os2[4:]))))
		f.Italic = binary.BigEndian.Uint16(os2[62:])&1 != 0
	}
	names := fontNames(table("name"))
	// The typographic family (16) over the one that holds four styles at most (1).
	if f.Family = names[16]; f.Family == "" {
		// Without it, weights beyond regular and bold go by names of their own.
		f.Family = strings.TrimSpace(weightWord.ReplaceAllString(names[1], ""))
	}
	if _, err := fontFamily(textValue(f.Family)); err != nil {
		return nil, refuse(accepts, "the font's name %q cannot be used", f.Family)
	}
	return f, nil
}

var weightWord = regexp.MustCompile(
	`(?i) (thin|hairline|(extra|ultra) ?light|light|regular|book|medium|(semi|demi) ?bold|bold|(extra|ultra) ?bold|black|heavy)( italic)?$`,
)

// fontNames reads the name table (OpenType, "name"), names for Windows in UTF-16.
func fontNames(b []byte) map[int]string {
	out := map[int]string{}
	if len(b) < 6 {
		return out
	}
	u16 := func(at int) int { return int(binary.BigEndian.Uint16(b[at:])) }
	store := u16(4)
	for i := range u16(2) {
		at := 6 + 12*i
		if at+12 > len(b) {
			break
		}
		platform, language, id, length, from := u16(at), u16(at+4), u16(at+6), u16(at+8), store+u16(at+10)
		if platform != 3 || from+length > len(b) || (out[id] != "" && language != 0x409) {
			continue
		}
		units := make([]uint16, length/2)
		for j := range units {
			units[j] = binary.BigEndian.Uint16(b[from+2*j:])
		}
		out[id] = strings.TrimSpace(string(utf16.Decode(units)))
	}
	return out
}
