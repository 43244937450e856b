package server_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/server/registry"
)

type fetchingOf struct {
	ID         int
	State, Why string
	Hash, By   string
	Steps      []string
}

// ended waits for the library that is fetched.
func ended(t *testing.T, p *person) fetchingOf {
	t.Helper()
	var out struct{ Fetching fetchingOf }
	require.Eventually(t, func() bool {
		require.Equal(t, 200, p.get("/api/registries", &out))
		return out.Fetching.State != "running"
	}, 60*time.Second, 50*time.Millisecond)
	return out.Fetching
}

// A builder fetches a library from what a keeper allowed, and from nowhere else; it waits as a
// packed one that somebody brought in.
func TestALibraryIsFetchedFromWhatAKeeperAllowed(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	const demo = "http://127.0.0.1:4785"
	var has struct {
		Latest   string
		Versions []string
		Here     []string
	}
	require.Equal(t, 200, noor.get("/api/registries/package?registry="+demo+"&package=%40fernhollow%2Fsorrel", &has))
	assert.Equal(t, "1.1.0", has.Latest)
	assert.Equal(t, []string{"1.1.0", "1.0.0"}, has.Versions)
	assert.ElementsMatch(t, []string{"1.1.0", "1.0.0"}, has.Here)

	var began fetchingOf
	require.Equal(t, 200, noor.post("/api/registries/fetch", object{"registry": demo, "package": "@meadowsweet/campion-hours"}, &began))
	assert.Equal(t, "running", began.State)
	is := ended(t, noor)
	require.Equal(t, "done", is.State, is.Why)
	assert.Equal(t, "noor", is.By)
	kit := stored(t, noor)["@meadowsweet/campion-hours 1.2.0"]
	assert.Equal(t, is.Hash, kit.Hash)
	assert.Equal(t, "waits", kit.State)

	asked := 0
	other := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, req *http.Request) {
		asked++
		<-req.Context().Done()
	}))
	defer other.Close()
	for what, in := range map[string]object{
		"that a keeper has allowed": {"registry": other.URL, "package": "fern"},
		"is no name":                {"registry": demo, "package": "../fern"},
	} {
		said, err := io.ReadAll(noor.do("POST", "/api/registries/fetch", in, nil).Body)
		require.NoError(t, err)
		assert.Contains(t, string(said), what)
	}
	assert.Zero(t, asked)
	require.Equal(t, 200, noor.post("/api/registries/fetch", object{"registry": demo, "package": "@acme/nothing"}, nil))
	is = ended(t, noor)
	assert.Equal(t, "failed", is.State)
	assert.Contains(t, is.Why, "the registry has no such package")

	// What hangs is stopped, and nothing else is fetched meanwhile.
	require.Equal(t, 200, ida.post("/api/registries", object{"address": other.URL + "/"}, nil))
	require.Equal(t, 200, noor.post("/api/registries/fetch", object{"registry": other.URL, "package": "fern"}, &began))
	assert.Equal(t, 409, ida.post("/api/registries/fetch", object{"registry": demo, "package": "fern"}, nil))
	assert.Equal(t, 422, ida.post("/api/registries/stop", object{"id": began.ID + 1}, nil))
	assert.Equal(t, 204, ida.post("/api/registries/stop", object{"id": began.ID}, nil))
	assert.Equal(t, "stopped", ended(t, ida).State)
	require.Equal(t, 200, ida.post("/api/registries/remove", object{"address": other.URL}, nil))
	assert.Equal(t, 404, ida.post("/api/registries/remove", object{"address": other.URL}, nil))
	assert.Equal(t, 422, noor.post("/api/registries/fetch", object{"registry": other.URL, "package": "fern"}, nil))
	for _, address := range []string{"http://169.254.169.254/latest", "file:///etc", "registry"} {
		assert.Equal(t, 422, ida.post("/api/registries", object{"address": address}, nil), address)
	}
}

// A token is given with a registry's address, told to it, and never shown again.
func TestARegistryThatWantsATokenIsAsked(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	stand := &registry.StandIn{}
	require.NoError(t, stand.Add(map[string][]byte{"package.json": []byte(`{"name":"fern","version":"1.0.0"}`)}))
	private := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, req *http.Request) {
		if req.Header.Get("Authorization") != "Bearer sesame" {
			w.WriteHeader(http.StatusUnauthorized)
			return
		}
		stand.ServeHTTP(w, req)
	}))
	defer private.Close()
	look := "/api/registries/package?package=fern&registry=" + private.URL
	require.Equal(t, 200, ida.post("/api/registries", object{"address": private.URL}, nil))
	_, said := noor.detail("GET", look, nil)
	assert.Contains(t, said, "it asks for a token, and none is given")

	assert.Equal(t, 403, noor.post("/api/registries", object{"address": private.URL, "token": "sesame"}, nil))
	assert.Equal(t, 422, ida.post("/api/registries", object{"address": private.URL, "token": "a\nb"}, nil))
	body, err := io.ReadAll(ida.do("POST", "/api/registries", object{"address": private.URL + "/", "token": " sesame "}, nil).Body)
	require.NoError(t, err)
	assert.Contains(t, string(body), `"known":true`)
	assert.NotContains(t, string(body), "sesame")
	require.Equal(t, 200, noor.get(look, nil))
	// Allowed again without one, the token stays; taken away, it is gone.
	require.Equal(t, 200, ida.post("/api/registries", object{"address": private.URL}, nil))
	require.Equal(t, 200, noor.get(look, nil))
	require.Equal(t, 200, ida.post("/api/registries/remove", object{"address": private.URL}, nil))
	require.Equal(t, 200, ida.post("/api/registries", object{"address": private.URL}, nil))
	_, said = noor.detail("GET", look, nil)
	assert.Contains(t, said, "none is given")
}
