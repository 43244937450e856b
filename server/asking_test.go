package server_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type saidOf struct {
	ID, By, Value, Words, Why string
}

type askedOf struct {
	ID    string
	Spot  string
	Where string
	Prop  string
	Words string
	Rule  bool
	Sides []struct{ Value, Words string }
	Asked *struct {
		By, Due, Note string
		People        []string
	}
	Answers []saidOf
}

type heardOf struct {
	Questions []askedOf
	Asks      []struct {
		Key, What string
		Answers   []saidOf
	}
}

func questionsOf(t *testing.T, p *person) (out heardOf) {
	t.Helper()
	require.Equal(t, 200, p.get("/api/census", &out))
	return out
}

func wantsOf(t *testing.T, p *person, kind string) (out []string) {
	t.Helper()
	var w struct {
		Attention []struct{ Kind, Title, Detail string }
	}
	require.Equal(t, 200, p.get("/api/workspace", &w))
	for _, a := range w.Attention {
		if a.Kind == kind {
			out = append(out, a.Detail)
		}
	}
	return out
}

// A question is put to people; each says what they think, once, those who only read as well; who
// asked hears when all have. Settled it is asked no longer, and undone it is asked again.
func TestAQuestionIsDecidedTogether(t *testing.T) {
	r := start(t)
	ida, noor, lise := signIn(t, r, "ida"), signIn(t, r, "noor"), signIn(t, r, "lise")
	q := questionsOf(t, ida).Questions[0]
	require.True(t, q.Rule)
	require.Empty(t, q.Answers)
	put := object{"question": q.ID, "people": []string{"noor", "lise"}, "note": "Before the next round.", "due": "2099-01-31"}
	require.Equal(t, 200, ida.post("/api/questions/ask", put, nil))
	assert.Equal(t, []string{"asked by Ida Fenn, by 2099-01-31: Before the next round."}, wantsOf(t, noor, "asked"))
	assert.Empty(t, wantsOf(t, ida, "asked"), "nobody has answered yet")

	answer := func(p *person, value, why string) int {
		return p.post("/api/questions/answer", object{"question": q.ID, "value": value, "why": why}, nil)
	}
	require.Equal(t, 200, answer(noor, q.Sides[0].Value, "People know it."))
	assert.Empty(t, wantsOf(t, noor, "asked"))
	require.Equal(t, 200, answer(lise, q.Sides[0].Value, ""))
	require.Equal(t, 200, answer(lise, q.Sides[1].Value, "It is nearer."), "one thinks again")
	assert.Equal(t, []string{"all 2 have answered"}, wantsOf(t, ida, "asked"))
	now := questionsOf(t, ida).Questions[0]
	require.NotNil(t, now.Asked)
	assert.Equal(t, "ida", now.Asked.By)
	require.Len(t, now.Answers, 2)
	assert.Equal(t, saidOf{ID: now.Answers[1].ID, By: "lise", Value: q.Sides[1].Value, Words: q.Sides[1].Words, Why: "It is nearer."}, now.Answers[1])

	assert.Equal(t, 422, answer(noor, "no such side", ""))
	assert.Equal(t, 404, noor.post("/api/questions/answer", object{"question": "nowhere", "value": ""}, nil))
	assert.Equal(t, 404, ida.post("/api/questions/ask", object{"question": q.ID, "people": []string{"nobody"}}, nil))
	assert.Equal(t, 422, ida.post("/api/questions/ask", object{"question": q.ID, "people": []string{"noor"}, "due": "2001-01-01"}, nil))
	// Nobody speaks for another.
	step := object{"do": "answer", "answer": object{"id": now.Answers[1].ID, "key": q.ID, "words": "other"}}
	assert.Equal(t, 403, ida.post("/api/changes", object{"change": object{"title": "x", "steps": []object{step}}}, nil))

	var settled struct{ Seq int64 }
	require.Equal(t, 200, ida.post("/api/census/settle", object{
		"spot": q.Spot, "where": q.Where, "words": q.Words, "prop": q.Prop, "value": q.Sides[0].Value, "reason": "Most of us know it.",
	}, &settled))
	after := questionsOf(t, ida)
	assert.NotEqual(t, q.ID, after.Questions[0].ID)
	assert.Empty(t, after.Asks, "settled, it is asked no longer")
	require.Equal(t, 200, ida.post("/api/changes/"+fmt.Sprint(settled.Seq)+"/undo", nil, nil))
	back := questionsOf(t, ida).Questions[0]
	assert.Equal(t, now, back)
	require.Equal(t, 200, lise.post("/api/questions/answer", object{"question": q.ID, "value": "", "drop": true}, nil))
	assert.Len(t, questionsOf(t, ida).Questions[0].Answers, 1)
}
