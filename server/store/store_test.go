package store_test

import (
	"context"
	"errors"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/internal/testkit/steps"
	"ubiquant/server/store"
)

func TestMain(m *testing.M) { os.Exit(database.Main(m)) }

// empty opens a database of its own.
func empty(t *testing.T) (*store.Store, string) {
	t.Helper()
	url := database.Empty(t)
	return open(t, url), url
}

func open(t *testing.T, url string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), url)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s
}

func load(t *testing.T, s *store.Store) *store.Live {
	t.Helper()
	l, err := s.Load(context.Background(), 0, testkit.Sorrel(t), func() string { return "2026-11-26" })
	require.NoError(t, err)
	return l
}

func demo(t *testing.T) *model.Workspace {
	t.Helper()
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return w
}

// take makes a change of one step by somebody, and tells its number.
func take(t *testing.T, l *store.Live, author, title string, s change.Step) int64 {
	t.Helper()
	var seq int64
	require.NoError(t, l.Take(context.Background(), author, 0, func(*live.Live) (change.Change, error) {
		return change.Change{Title: title, Steps: []change.Step{s}}, nil
	}, func(_ *live.Live, o store.Outcome) error { seq = o.Seq; return nil }))
	return seq
}

func text(element, words string) change.Step {
	return &change.Edit{
		Doc:   "screen:sign-in",
		Edits: []screen.Edit{{Op: screen.SetText, ID: element, Value: screen.Lit(words)}},
	}
}

// written is the workspace as a process holds it.
func written(t *testing.T, l *store.Live) string {
	t.Helper()
	var out string
	require.NoError(
		t,
		l.Read(
			context.Background(),
			func(w *live.Live, _ int64) error { out = string(wsfile.Write(w.W)); return nil },
		),
	)
	return out
}

// What is taken is there for another process, and after a new start, byte for byte; what
// is refused, at whatever point, leaves nothing behind.
func TestWhatIsTakenIsKeptAndWhatIsRefusedIsNot(t *testing.T) {
	ctx := context.Background()
	s, url := empty(t)
	empty, err := s.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty)
	_, err = s.Import(ctx, demo(t))
	require.NoError(t, err)
	empty, err = s.Empty(ctx)
	require.NoError(t, err)
	assert.False(t, empty)

	here, there := load(t, s), load(t, open(t, url))
	before := written(t, here)
	assert.Equal(t, before, written(t, there))
	first := written(t, here)
	d, _ := demo(t).Doc("screen:sign-in")
	id := ""
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if id == "" && e.Type == "sorrel-button" {
			id = e.ID
		}
		return true
	})
	assert.EqualValues(t, 1, take(t, here, "ida", "One", text(id, "Come in")))
	assert.EqualValues(
		t,
		2,
		take(t, there, "noor", "Two", text(id, "Let me in")),
		"the other process has caught up before it took its own",
	)
	here.Heard(2)
	assert.Equal(t, written(t, there), written(t, here))
	assert.NotEqual(t, first, written(t, here))
	assert.Contains(t, written(t, here), "Let me in")

	kept := written(t, here)
	broken := errors.New("not today")
	for _, build := range []func(*live.Live) (change.Change, error){
		func(*live.Live) (change.Change, error) { return change.Change{}, broken },
		func(*live.Live) (change.Change, error) {
			return change.Change{Title: "half", Steps: []change.Step{text(id, "Never"), text("not-there", "x")}}, nil
		},
	} {
		assert.Error(
			t,
			here.Take(
				ctx,
				"ida",
				0,
				build,
				func(*live.Live, store.Outcome) error { t.Fatal("it was taken"); return nil },
			),
		)
	}
	assert.Equal(t, kept, written(t, here))
	assert.Equal(t, kept, written(t, load(t, open(t, url))), "a new start reads the same")

	// Models and records stand in the head, and come back with it.
	take(
		t,
		here,
		"ida",
		"Rows",
		&change.Records{
			Rows: change.Rows{
				Set:   "usual",
				Model: "volunteers",
				Put: []sample.Record{
					{
						"id":     "v99",
						"name":   "Zoe Ardent",
						"skill":  "moss",
						"active": true,
						"days":   sample.ListOf("Sunday", "Monday, late"),
					},
				},
			},
		},
	)
	assert.Equal(t, written(t, here), written(t, load(t, open(t, url))))
}

// The history tells who did what to which document, the newest first; what is taken back
// is marked so, and what takes it back names it.
func TestTheHistoryTellsWhoDidWhat(t *testing.T) {
	ctx := context.Background()
	s, _ := empty(t)
	_, err := s.Import(ctx, demo(t))
	require.NoError(t, err)
	l := load(t, s)
	d, _ := demo(t).Doc("screen:sign-in")
	id := d.Root.ID
	gap := func(v string) change.Step {
		return &change.Edit{
			Doc:   "screen:sign-in",
			Edits: []screen.Edit{{Op: screen.Set, ID: id, Prop: "gap", Value: screen.Lit(v)}},
		}
	}
	take(t, l, "ida", "Gap", gap("3"))
	take(
		t,
		l,
		"noor",
		"Title",
		&change.Meta{
			Doc: "screen:beds",
			Document: &screen.Document{
				ID:    "beds",
				Title: "All beds",
				Route: "/beds",
				Shell: "staff",
				Root:  &screen.Element{ID: "unused", Type: "section"},
			},
		},
	)
	row, err := l.Change(ctx, 1)
	require.NoError(t, err)
	inverse, err := change.Read(row.Inverse, true)
	require.NoError(t, err)
	require.NoError(
		t,
		l.Take(
			ctx,
			"ida",
			1,
			func(*live.Live) (change.Change, error) { return inverse, nil },
			func(*live.Live, store.Outcome) error { return nil },
		),
	)

	all, err := l.History(ctx, "", 10)
	require.NoError(t, err)
	require.Len(t, all, 3)
	var said []string
	for _, r := range all {
		said = append(said, r.Author+" "+r.Docs)
	}
	assert.Equal(t, []string{"ida screen:sign-in", "noor screen:beds", "ida screen:sign-in"}, said)
	assert.EqualValues(t, 1, all[0].Undoes)
	assert.True(t, all[2].Undone)
	assert.False(t, all[1].Undone)
	one, err := l.History(ctx, "screen:sign-in", 10)
	require.NoError(t, err)
	assert.Len(t, one, 2)
	newest, err := l.History(ctx, "", 1)
	require.NoError(t, err)
	assert.EqualValues(t, 3, newest[0].Seq)
	since, err := l.Since(ctx, "screen:sign-in", 1)
	require.NoError(t, err)
	require.Len(t, since, 1)
	assert.NotEmpty(t, since[0].Inverse, "with what takes it back")
	_, err = l.Change(ctx, 99)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// Processes on one database hear of each other's changes, and of what is said in passing,
// but not of what they said themselves.
func TestProcessesHearEachOther(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	s, url := empty(t)
	_, err := s.Import(ctx, demo(t))
	require.NoError(t, err)
	here, other := load(t, s), open(t, url)
	there := load(t, other)
	var mu sync.Mutex
	heard, own, said := map[int64]bool{}, map[int64]bool{}, ""
	ended := make(chan error, 1)
	go func() {
		ended <- s.Listen(ctx, func(_, seq int64, mine bool) {
			mu.Lock()
			defer mu.Unlock()
			heard[seq], own[seq] = true, mine
		}, func(text string) {
			mu.Lock()
			defer mu.Unlock()
			said += text + ";"
		})
	}()
	until := func(what string, is func() bool) {
		t.Helper()
		require.Eventually(
			t,
			func() bool { mu.Lock(); defer mu.Unlock(); return is() },
			20*time.Second,
			20*time.Millisecond,
			what,
		)
	}
	until("it listens, and is told where the numbers stand", func() bool { return heard[0] })
	d, _ := demo(t).Doc("screen:sign-in")
	gap := &change.Edit{
		Doc:   "screen:sign-in",
		Edits: []screen.Edit{{Op: screen.Set, ID: d.Root.ID, Prop: "gap", Value: screen.Lit("3")}},
	}
	take(t, here, "ida", "One", gap)
	gap.Edits[0].Value = screen.Lit("4")
	take(t, there, "noor", "Two", gap)
	until("both changes", func() bool { return heard[1] && heard[2] })
	mu.Lock()
	assert.True(t, own[1])
	assert.False(t, own[2])
	mu.Unlock()
	require.NoError(t, s.Say(ctx, "from here"))
	require.NoError(t, other.Say(ctx, `{"who": "there, with spaces; and 'quotes'"}`))
	until(
		"what the other said, as it was said",
		func() bool { return said == `{"who": "there, with spaces; and 'quotes'"};` },
	)
	assert.ErrorContains(t, s.Say(ctx, strings.Repeat("x", 5000)), "5000 bytes")
	cancel()
	assert.NoError(t, <-ended)
}

// A link opens one session, a session ends, and who is nobody gets none.
func TestSessionsOpenAndEnd(t *testing.T) {
	ctx := context.Background()
	s, url := empty(t)
	for why, u := range map[string]store.User{"cannot be a user name": {Name: "Ida Fenn", Role: store.Builder}, "is not known": {Name: "ida", Role: "queen"}} {
		assert.ErrorContains(t, s.PutUser(ctx, u, "", "x"), why)
	}
	assert.ErrorContains(t, s.PutUser(ctx, store.User{Name: "ida", Role: store.Keeper}, "short", "x"), "at least 12")
	require.NoError(
		t,
		s.PutUser(ctx, store.User{Name: "ida", FullName: "Ida Fenn", Role: store.Keeper}, "mossy gate under rain", "x"),
	)
	require.NoError(t, s.PutUser(ctx, store.User{Name: "ida", FullName: "Ida F. Fenn", Role: store.Keeper}, "", "x"))
	people, err := s.Users(ctx)
	require.NoError(t, err)
	require.Len(t, people, 1)
	assert.Equal(t, "Ida F. Fenn", people[0].FullName)

	cookie, u, err := s.SignIn(ctx, "ida", "mossy gate under rain")
	require.NoError(t, err, "the password stays where none is given")
	assert.Equal(t, store.Keeper, u.Role)
	for _, pair := range [][2]string{{"ida", "another one"}, {"nobody", "mossy gate under rain"}, {"ida", ""}} {
		_, _, err := s.SignIn(ctx, pair[0], pair[1])
		assert.ErrorIs(t, err, store.ErrSignIn)
	}
	who, err := s.Session(ctx, cookie)
	require.NoError(t, err)
	assert.Equal(t, "ida", who.Name)
	require.NoError(t, s.SignOut(ctx, cookie))
	_, err = s.Session(ctx, cookie)
	assert.ErrorIs(t, err, store.ErrNotFound)

	link, err := s.Link(ctx, "ida")
	require.NoError(t, err)
	_, u, err = s.UseLink(ctx, link)
	require.NoError(t, err)
	assert.Equal(t, "ida", u.Name)
	_, _, err = s.UseLink(ctx, link)
	assert.ErrorIs(t, err, store.ErrSignIn, "once")

	one, err := s.Secret(ctx)
	require.NoError(t, err)
	two, err := open(t, url).Secret(ctx)
	require.NoError(t, err)
	assert.Equal(t, one, two, "all processes share the key")
	assert.Len(t, one, 32)
}

// Whatever mix of steps is taken, what is read after a restart is what stood before it:
// each change writes all that it changed.
func TestARestartFindsWhatWasAcknowledged(t *testing.T) {
	s, _ := empty(t)
	_, err := s.Import(context.Background(), demo(t))
	require.NoError(t, err)
	l := load(t, s)
	rapid.Check(t, func(r *rapid.T) {
		var after []byte
		err := l.Take(context.Background(), "ida", 0, func(w *live.Live) (change.Change, error) {
			c := change.Change{Title: "mixed"}
			for range rapid.IntRange(1, 3).Draw(r, "steps") {
				c.Steps = append(c.Steps, steps.Draw(r, w))
			}
			return c, nil
		}, func(w *live.Live, _ store.Outcome) error {
			after = wsfile.Write(w.W)
			return nil
		})
		if err != nil {
			return
		}
		err = load(t, s).Read(context.Background(), func(w *live.Live, _ int64) error {
			require.Equal(r, string(after), string(wsfile.Write(w.W)))
			return nil
		})
		require.NoError(r, err)
	})
}

// Who is let out, given another role or another password is signed out everywhere, and
// links made before lead nowhere; the last keeper stays one.
func TestSessionsEndWithWhatTheyStoodOn(t *testing.T) {
	ctx := context.Background()
	s, _ := empty(t)
	ida := store.User{Name: "ida", FullName: "Ida Fenn", Role: store.Keeper}
	noor := store.User{Name: "noor", FullName: "Noor Abadi", Role: store.Builder}
	require.NoError(t, s.PutUser(ctx, ida, "mossy gate under rain", "x"))
	require.NoError(t, s.PutUser(ctx, noor, "seven ladders of chalk", "ida"))
	in := func() (cookie, link string) {
		cookie, _, err := s.SignIn(ctx, "noor", "seven ladders of chalk")
		require.NoError(t, err)
		link, err = s.Link(ctx, "noor")
		require.NoError(t, err)
		return cookie, link
	}
	out := func(cookie, link, why string) {
		_, err := s.Session(ctx, cookie)
		assert.ErrorIs(t, err, store.ErrNotFound, why)
		_, _, err = s.UseLink(ctx, link)
		assert.ErrorIs(t, err, store.ErrSignIn, why)
	}
	cookie, link := in()
	noor.FullName = "Noor A. Abadi"
	require.NoError(t, s.PutUser(ctx, noor, "", "ida"))
	_, err := s.Session(ctx, cookie)
	require.NoError(t, err, "another name ends nothing")
	noor.Role = store.Reader
	require.NoError(t, s.PutUser(ctx, noor, "", "ida"))
	out(cookie, link, "another role")
	cookie, link = in()
	require.NoError(t, s.SetActive(ctx, "noor", false, "ida"))
	out(cookie, link, "let out")
	_, _, err = s.SignIn(ctx, "noor", "seven ladders of chalk")
	assert.ErrorIs(t, err, store.ErrSignIn)
	require.NoError(t, s.SetActive(ctx, "noor", true, "ida"))
	cookie, link = in()
	own, _ := in()
	u, err := s.Session(ctx, own)
	require.NoError(t, err)
	assert.ErrorIs(t, s.SetPassword(ctx, u, "wrong", "twelve quiet lanterns", own), store.ErrSignIn)
	require.NoError(t, s.SetPassword(ctx, u, "seven ladders of chalk", "twelve quiet lanterns", own))
	out(cookie, link, "another password")
	_, err = s.Session(ctx, own)
	assert.NoError(t, err, "one's own window stays signed in")

	assert.ErrorIs(t, s.SetActive(ctx, "ida", false, "ida"), store.ErrLastKeeper)
	ida.Role = store.Builder
	assert.ErrorIs(t, s.PutUser(ctx, ida, "", "x"), store.ErrLastKeeper)
	assert.ErrorIs(t, s.SetActive(ctx, "nobody", true, "ida"), store.ErrNotFound)
	log, err := s.PeopleLog(ctx, 100)
	require.NoError(t, err)
	var said []string
	for _, e := range log {
		said = append(said, e.Name+" "+e.What+" by "+e.By)
	}
	for _, want := range []string{
		"noor made reader by ida", "noor let out by ida", "noor let in again by ida", "noor signed in by noor",
		"noor changed the own password by noor", "noor called Noor A. Abadi by ida", "ida added as keeper by x",
	} {
		assert.Contains(t, said, want)
	}
}

func TestPasswordsThatAreTriedFirstAreRefused(t *testing.T) {
	u := store.User{Name: "noor", FullName: "Noor Abadi"}
	for _, p := range []string{
		"short", "password1234", "123456789012", "qwertyuiopas", "aaaaaaaaaaaaaaaa", "iloveyou1234", "NoorAbadi2026!",
		"ubiquant-2026-x9", strings.Repeat("long ", 60),
	} {
		assert.Error(t, store.CheckPassword(p, u), p)
	}
	for _, p := range []string{"seven ladders of chalk", "V7q!x2Lm9#Tz", "mossy gate under rain"} {
		assert.NoError(t, store.CheckPassword(p, u), p)
	}
}
