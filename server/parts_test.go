package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/server"
)

type storedKit struct{ Hash, Name, Version, State, Kind string }

func stored(t *testing.T, p *person) map[string]storedKit {
	t.Helper()
	var out struct{ Kits []storedKit }
	require.Equal(t, 200, p.get("/api/kits", &out))
	by := map[string]storedKit{}
	for _, k := range out.Kits {
		by[k.Name+" "+k.Version] = k
	}
	return by
}

const clover, sorrel = "@meadowsweet/clover-day 2.1.0", "@fernhollow/sorrel "

// takesClover puts the part beside the kit, and an element of it onto a screen.
func takesClover(t *testing.T, r *server.Running) (p *person, part string, seqs []int64) {
	p = signIn(t, r, "ida")
	part = "/api/kits/" + stored(t, p)[clover].Hash + "/beside"
	use := object{"components": []string{"clover-day"}, "ties": []object{{"property": "--clover-accent", "token": "color.accent"}}}
	var took struct{ Seq int64 }
	require.Equal(t, 200, p.post(part+"/take", use, &took))
	seqs = append(seqs, took.Seq)
	require.Equal(t, 200, p.post("/api/changes", object{"view": "screen:new-ticket", "change": object{"title": "a day", "steps": []object{{
		"do": "edit", "doc": "screen:new-ticket", "edits": []object{{"op": "insert", "parent": "new-ticket-1", "tree": object{"id": "day", "type": "clover-day"}}}}}}}, &took))
	return p, part, append(seqs, took.Seq)
}

// A newer version of the kit comes with the part that stands beside it; and taking all of it back
// leaves what was.
func TestAPartComesAlongWithANewerVersion(t *testing.T) {
	r := start(t)
	ida := signIn(t, r, "ida")
	var before struct{ Docs []object }
	require.Equal(t, 200, ida.get("/api/workspace", &before))
	p, part, seqs := takesClover(t, r)
	kits := stored(t, p)
	assert.Equal(t, "in use", kits[sorrel+"1.0.0+cloverday.2.1.0"].State)
	assert.NotContains(t, kits, sorrel+"1.0.0", "which is in use, with its part")
	assert.Equal(t, "beside", kits[clover].State)

	// It is the same kit again, however often it is asked for.
	res := p.do("POST", part+"/take", object{"components": []string{"clover-day"}, "ties": []object{{"property": "--clover-accent", "token": "color.accent"}}}, nil)
	assert.Equal(t, 422, res.StatusCode, "it stands there so already")

	// The next version of the kit comes with the part: nothing on screens is lost by that.
	next := kits[sorrel+"1.1.0"].Hash
	var carried struct {
		Result struct{ Lost []struct{ Element string } }
	}
	res = p.do("POST", "/api/kits/"+next+"/carry", object{}, nil)
	require.Equal(t, 200, res.StatusCode)
	decode(t, res, &carried)
	for _, l := range carried.Result.Lost {
		assert.NotEqual(t, "day", l.Element)
	}
	var took struct{ Seq int64 }
	require.Equal(t, 200, p.post("/api/kits/"+next+"/take", object{}, &took))
	kits = stored(t, p)
	assert.Equal(t, "in use", kits[sorrel+"1.1.0+cloverday.2.1.0"].State)
	assert.Equal(t, "beside", kits[clover].State)

	for _, seq := range slices.Backward(append(seqs, took.Seq)) {
		require.Equal(t, 200, p.post(fmt.Sprintf("/api/changes/%d/undo", seq), object{}, nil))
	}
	kits = stored(t, p)
	assert.Equal(t, "in use", kits[sorrel+"1.0.0"].State)
	assert.Equal(t, "waits", kits[clover].State)
	assert.Len(t, kits, 5, "what was made on the way waits for nobody")
	var after struct{ Docs []object }
	require.Equal(t, 200, p.get("/api/workspace", &after))
	assert.Len(t, after.Docs, len(before.Docs))
}

// What does not go together is refused with words, by whoever may ask at all.
func TestWhatCannotStandBesideIsSaid(t *testing.T) {
	r := start(t)
	p, part, _ := takesClover(t, r)
	kits := stored(t, p)
	for name, c := range map[string]struct {
		path string
		use  object
		why  string
	}{
		"the kit itself":   {"/api/kits/" + kits[sorrel+"1.1.0"].Hash + "/beside", object{"components": []string{"sorrel-card"}}, "the kit in use itself"},
		"unknown":          {part, object{"components": []string{"clover-week"}}, "no component"},
		"an unknown token": {part, object{"components": []string{"clover-day"}, "ties": []object{{"property": "--clover-accent", "token": "color.none"}}}, "color.none"},
		"no property":      {part, object{"components": []string{"clover-day"}, "ties": []object{{"property": "a{}", "token": "color.accent"}}}, "no custom property"},
	} {
		t.Run(name, func(t *testing.T) {
			res := p.do("POST", c.path, c.use, nil)
			assert.Equal(t, 422, res.StatusCode)
			var said struct{ Detail string }
			decode(t, res, &said)
			assert.Contains(t, said.Detail, c.why)
		})
	}
	// Taken out, what stood on a screen is told before, and carried over as any other kit's.
	var look struct {
		Lost  []struct{ Element string }
		Sheet string
	}
	res := p.do("POST", part, object{"components": []string{}}, nil)
	require.Equal(t, 200, res.StatusCode)
	decode(t, res, &look)
	lost := []string{}
	for _, l := range look.Lost {
		lost = append(lost, l.Element)
	}
	assert.Contains(t, lost, "day")
	assert.Empty(t, look.Sheet)
	assert.Equal(t, 403, signIn(t, r, "noor").post(part+"/take", object{"components": []string{}}, nil))
	var told struct {
		Properties []struct{ Name, Token string }
		Taken      []string
	}
	require.Equal(t, 200, p.get(part, &told))
	assert.Equal(t, []string{"clover-day"}, told.Taken)
	proposed := []string{}
	for _, c := range told.Properties {
		proposed = append(proposed, strings.TrimPrefix(c.Name, "--clover-")+"="+c.Token)
	}
	assert.Contains(t, proposed, "accent=color.accent")
	assert.Contains(t, proposed, "on-accent=color.on-accent")
}

func decode(t *testing.T, res *http.Response, into any) {
	t.Helper()
	require.NoError(t, json.NewDecoder(res.Body).Decode(into))
}
