package source

import (
	"bytes"
	"fmt"
	"regexp"
	"strings"
	"time"
)

// comment is how code lets a finding stand: "ubiquant: let stand emphasis until 2027-01-31:
// the reason". It speaks of the element that begins on the next line, or on its own.
var comment = regexp.MustCompile(`ubiquant:\s*let stand\s+([\w-]+)(?:\s+until\s+(\S+?))?(?::\s*(.*))?$`)

// Stand is a finding let stand by a comment.
type Stand struct {
	What   string // a rule, a prop, or "all"
	Until  string // date to look again; empty is never
	Reason string
}

// Covers reports whether the comment speaks of a finding of a rule about a prop.
func (s *Stand) Covers(rule, prop string) bool {
	return s.What == "all" || s.What == rule || prop != "" && plainName(s.What) == plainName(strings.TrimPrefix(prop, "@"))
}

// Comments finds the comments that speak of an element. Comments without a reason, or with a date
// that is none, let nothing stand and are told.
func (p *Place) Comments() (out []Stand, wrong []Left) {
	text := p.File.Text
	start := p.Node.Span[0]
	line := bytes.LastIndexByte(text[:start], '\n') + 1
	number := bytes.Count(text[:line], []byte("\n"))
	end := start + bytes.IndexByte(append(text[start:len(text):len(text)], '\n'), '\n')
	lines := []string{string(text[line:min(end, len(text))])}
	at := []int{number}
	// Comments above, one a line, with nothing between.
	for n := number - 1; line > 0 && n > number-6; n-- {
		above := bytes.LastIndexByte(text[:line-1], '\n') + 1
		s := strings.TrimSpace(string(text[above : line-1]))
		if !strings.HasPrefix(s, "//") && !strings.HasPrefix(s, "{/*") && !strings.HasPrefix(s, "/*") && !strings.HasPrefix(s, "<!--") && !strings.HasPrefix(s, "*") {
			break
		}
		lines, at = append(lines, s), append(at, n)
		line = above
	}
	for i, s := range lines {
		s = strings.TrimSpace(s)
		for _, mark := range []string{"*/}", "*/", "-->"} {
			if before, _, ok := strings.Cut(s, mark); ok {
				s = strings.TrimSpace(before)
			}
		}
		m := comment.FindStringSubmatch(s)
		if m == nil {
			continue
		}
		stand := Stand{m[1], m[2], strings.TrimSpace(m[3])}
		if stand.Reason == "" {
			wrong = append(wrong, Left{p.File.Path, at[i] + 1, "lets " + stand.What + " stand without a reason: write \"ubiquant: let stand " + stand.What + ": why\""})
			continue
		}
		if _, err := time.Parse(time.DateOnly, stand.Until); stand.Until != "" && err != nil {
			wrong = append(wrong, Left{p.File.Path, at[i] + 1, fmt.Sprintf("%q is no date; accepted: until 2027-01-31", stand.Until)})
			continue
		}
		out = append(out, stand)
	}
	return out, wrong
}
