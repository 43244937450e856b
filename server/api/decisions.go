package api

import (
	"fmt"
	"maps"
	"slices"

	"ubiquant/core/deliver/record"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/server/repo"
)

// CodeDecisions is what was decided here of screens that stand in a repository, as a patch of its
// settings: from then on its build holds to it.
type CodeDecisions struct {
	Repository string   `json:"repository"`
	File       string   `json:"file"`
	Diff       string   `json:"diff"`    // empty where the file says all of it
	Brings     []string `json:"brings"`  // decisions, in words, that the file does not have, or not so
	Lifts      []string `json:"lifts"`   // that it has, and that were lifted here
	Left       []string `json:"left"`    // what does not go there, and why
	Both       []string `json:"both"`    // decided otherwise in both; what the file says stays
	Problem    string   `json:"problem"` // why there is no patch
}

type decisionsOut struct {
	InCode       int             `json:"inCode"` // screens that were read from code
	Repositories []CodeDecisions `json:"repositories"`
}

// decisions are what was decided here, for each repository that the screens were read from.
func (s *Server) decisions(c *Call, _ *none) (*decisionsOut, error) {
	out := &decisionsOut{Repositories: []CodeDecisions{}}
	files := map[string]bool{}
	read := map[string]bool{}
	var here source.Settings
	var left []string
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		for _, d := range l.W.Docs {
			if d.Source == "" {
				continue
			}
			files[d.Source], read[d.Address()] = true, true
			if d.Kind == screen.ScreenDoc {
				out.InCode++
			}
		}
		here, left = source.DecidedIn(l.W, func(doc string) bool { return read[doc] })
		return nil
	})
	if err != nil || out.InCode == 0 {
		return out, err
	}
	for _, name := range slices.Sorted(maps.Keys(s.repositories)) {
		file, text, there, err := repo.Settings(s.repositories[name], slices.Sorted(maps.Keys(files)))
		if there*2 < len(files) {
			continue // these screens are another's
		}
		v := CodeDecisions{Repository: name, File: repo.SettingsFile, Brings: []string{}, Lifts: []string{}, Left: []string{}, Both: []string{}}
		v.Left = append(v.Left, left...)
		was, unknown := s.Store.CodeSettings(c.Context(), name)
		switch {
		case err != nil:
			v.Problem = err.Error()
		case unknown != nil:
			return nil, unknown
		default:
			merged, both := file.Merge(source.SettingsBefore(was), &here)
			for _, b := range both {
				v.Both = append(v.Both, fmt.Sprintf("%s: the file says otherwise since it was read, and that stays; start the server anew to see it here", b))
			}
			brings, lifts := merged.Since(file)
			v.Brings, v.Lifts = append(v.Brings, brings...), append(v.Lifts, lifts...)
			if len(brings)+len(lifts) > 0 {
				v.Diff = record.Patch([]record.Change{{Path: v.File, Was: text, Is: merged.Write()}}, "")
			}
		}
		out.Repositories = append(out.Repositories, v)
	}
	return out, nil
}
