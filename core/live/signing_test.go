package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
	"ubiquant/internal/testkit/opened"
	"ubiquant/internal/testkit/translated"
)

// asks sets what a sign-off asks for.
func asks(t *testing.T, l *live.Live, settings map[string]string) {
	_, err := l.Take(one(&change.Tune{Tuning: audit.Tuning{Rule: rules.Signing.ID, Settings: settings}}))
	require.NoError(t, err)
}

// What a sign-off asks for is what the team says: each condition names what is open, and more
// asked for never lets more through. Unless the team says otherwise it is that no error is open.
func TestASignOffAsksForWhatTheTeamSays(t *testing.T) {
	l := opened.Demo(t)
	unmet := func() map[string]int {
		out := map[string]int{}
		for _, d := range l.W.Docs {
			if d.Kind == screen.ScreenDoc {
				out[d.Address()] = len(l.Unmet(d.Address()))
			}
		}
		return out
	}
	errors := map[string]int{}
	for doc := range unmet() {
		findings, _ := l.Of(doc)
		errors[doc] = 0
		for _, f := range findings {
			if f.Severity == audit.Error {
				errors[doc]++
			}
		}
	}
	assert.Equal(t, errors, unmet())
	last := unmet()
	said := "errors"
	for _, more := range []string{"warnings", "strays", "missing states", "no owner", "work given"} {
		said += ", " + more
		asks(t, l, map[string]string{"asks": said, "certainty": "50"})
		now := unmet()
		grew := false
		for doc, n := range now {
			assert.GreaterOrEqual(t, n, last[doc], doc)
			grew = grew || n > last[doc]
		}
		if more != "no owner" && more != "work given" { // of which the demo has none
			assert.True(t, grew, more)
		}
		last = now
	}
	findings, _ := l.Findings()
	_, err := l.Take(one(&change.PutAssignment{Assignment: audit.Assignment{ID: "a", Key: findings[0].Key(), To: "noor"}}))
	require.NoError(t, err)
	assert.Contains(t, l.Unmet(findings[0].Doc), "something is still given to noor")

	_, err = l.Take(one(&change.Tune{Tuning: audit.Tuning{Rule: rules.Signing.ID, Settings: map[string]string{"asks": "errors, luck"}}}))
	assert.ErrorContains(t, err, `does not know "luck"; accepted: errors, warnings`)
}

// A sign-off may ask that a screen is said in every language: what is missing, or was said of other
// words, is open.
func TestASignOffMayAskForTexts(t *testing.T) {
	l := opened.Demo(t)
	asks(t, l, map[string]string{"asks": "missing texts"})
	assert.Empty(t, l.Unmet("screen:forgot"), "there is one language")
	translated.Into(l.W, l.Cat, "de", func(key string) bool { return key == "screens.forgot.title" })
	_, err := l.Take(one(&change.PutLanguage{Language: texts.Language{ID: "fr"}}))
	require.NoError(t, err)
	open := l.Unmet("screen:forgot")
	require.Len(t, open, 2)
	assert.Equal(t, "1 text is not said in German (Deutsch)", open[0])
	assert.Regexp(t, `^\d+ texts are not said in French \(français\)$`, open[1])
	assert.Len(t, l.Unmet("screen:sign-in"), 1)
	_, err = l.Take(one(&change.Translate{Said: texts.Said{Language: "de", Key: "screens.forgot.title", Is: "Vergessen", Of: "Something else"}}))
	require.NoError(t, err)
	assert.Len(t, l.Unmet("screen:forgot"), 2, "it was said of other words")
}

// A team may deliver only what is signed off as it stands: an edit afterwards counts.
func TestOnlyWhatIsSignedOffIsDelivered(t *testing.T) {
	l := opened.Demo(t)
	var doc *screen.Document
	for _, d := range l.W.Docs {
		if d.Kind == screen.ScreenDoc {
			doc = d
			break
		}
	}
	deliver := func() error {
		_, err := l.DeliverInput(doc.App, []string{doc.ID}, nil)
		return err
	}
	require.NoError(t, deliver())
	asks(t, l, map[string]string{"delivery": "only what is signed off"})
	assert.ErrorContains(t, deliver(), doc.Title+" is not signed off")
	signed := change.SignOff(doc)
	_, err := l.Take(signed)
	require.NoError(t, err)
	require.NoError(t, deliver())
	_, err = l.Take(one(&change.Edit{Doc: doc.Address(), Edits: []screen.Edit{{Op: screen.Rename, ID: doc.Root.ID, Name: "all"}}}))
	require.NoError(t, err)
	assert.ErrorContains(t, deliver(), "is not signed off")
}
