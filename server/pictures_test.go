package server_test

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A picture that somebody adds is drawn in the frame by who holds a ticket, stays where a screen
// shows it, and goes along with what is delivered.
func TestAPictureIsKeptShownAndDelivered(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, image.NewNRGBA(image.Rect(0, 0, 30, 20))))
	var added struct {
		Picture struct{ ID, Address string }
		Change  *struct{ Seq int64 }
	}
	give := object{"title": "Old oak.png", "data": base64.StdEncoding.EncodeToString(file.Bytes())}
	require.Equal(t, 200, ida.post("/api/pictures", give, &added))
	require.NotNil(t, added.Change)
	assert.Regexp(t, `^/pictures/old-oak-[0-9a-f]{16}\.png$`, added.Picture.Address)
	again := added
	require.Equal(t, 200, ida.post("/api/pictures", give, &again))
	assert.Nil(t, again.Change, "the same one is kept once")

	for why, body := range map[string]object{
		"not sent as base64":      {"data": "§"},
		"accepted: PNG, JPEG":     {"data": base64.StdEncoding.EncodeToString([]byte("<svg onload=alert(1)>"))},
		"is damaged":              {"data": base64.StdEncoding.EncodeToString(file.Bytes()[:60])},
		"no picture that can be ": {"data": ""},
	} {
		status, detail := ida.detail("POST", "/api/pictures", body)
		assert.Equal(t, 422, status)
		assert.Contains(t, detail, why)
	}

	set := object{"client": "w", "change": object{"title": "Picture", "steps": []object{{"do": "edit", "doc": "screen:specimen", "edits": []object{
		{"op": "set", "id": "specimen-picture", "prop": "src", "value": added.Picture.Address},
	}}}}}
	require.Equal(t, 200, ida.post("/api/changes", set, nil))
	var list struct {
		Pictures []struct {
			ID            string
			Width, Height int
			Shown         []string
		}
	}
	require.Equal(t, 200, noor.get("/api/pictures", &list))
	require.Len(t, list.Pictures, 1)
	assert.Equal(t, []string{"the screen Specimen"}, list.Pictures[0].Shown)
	assert.Equal(t, 30, list.Pictures[0].Width)
	_, detail := ida.detail("POST", "/api/pictures/remove", object{"id": added.Picture.ID})
	assert.Contains(t, detail, "the screen Specimen shows this picture")

	// The page is drawn from beside it, with a ticket; nobody else gets it.
	var pages struct{ Pages []struct{ HTML string } }
	require.Equal(t, 200, noor.post("/api/pages", object{"docs": []string{"screen:specimen"}}, &pages))
	assert.Contains(t, pages.Pages[0].HTML, `src="`+added.Picture.Address[1:]+`"`)
	var ws struct{ Frame string }
	require.Equal(t, 200, noor.get("/api/workspace", &ws))
	require.NotEmpty(t, ws.Frame)
	beside := ws.Frame + added.Picture.Address[1:]
	nobody := &person{t: t, url: r.URL}
	shown := nobody.do("GET", beside, nil, nil)
	assert.Equal(t, 200, shown.StatusCode)
	assert.Equal(t, "image/png", shown.Header.Get("Content-Type"))
	assert.Equal(t, 404, nobody.do("GET", strings.Replace(beside, "old-oak", "x", 1)+"x", nil, nil).StatusCode)
	assert.Equal(t, 401, nobody.do("GET", "/api/pictures/"+added.Picture.ID+"/file", nil, nil).StatusCode)
	assert.Equal(t, 200, noor.do("GET", "/api/pictures/"+added.Picture.ID+"/file", nil, nil).StatusCode)

	for target, where := range map[string]string{"html": "pictures", "vue": "public/pictures", "react": "public/pictures", "angular": "public/pictures"} {
		var out struct{ Files []struct{ Path, Text string } }
		require.Equal(t, 200, noor.post("/api/deliver", object{"target": target}, &out))
		var paths []string
		for _, f := range out.Files {
			paths = append(paths, f.Path)
		}
		assert.Contains(t, paths, where+strings.TrimPrefix(added.Picture.Address, "/pictures"), target)
	}

	// Taken back, nothing shows it, and it can go.
	var done struct{ Seq int64 }
	require.Equal(t, 200, ida.post("/api/changes", object{"client": "w", "change": object{"title": "Picture", "steps": []object{{"do": "edit", "doc": "screen:specimen", "edits": []object{
		{"op": "set", "id": "specimen-picture", "prop": "src", "value": object{"expr": "record.picture"}},
	}}}}}, &done))
	require.Equal(t, 200, ida.post("/api/pictures/remove", object{"id": added.Picture.ID}, nil))
	require.Equal(t, 200, noor.get("/api/pictures", &list))
	assert.Empty(t, list.Pictures)
}
