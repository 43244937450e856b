package stream_test

import (
	"bufio"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/server/stream"
)

// listen opens a stream and returns its lines.
func listen(t *testing.T, h *stream.Hub) <-chan string {
	r, w := io.Pipe()
	t.Cleanup(func() { r.Close() })
	write, err := h.Join("ida", func() bool { return true })
	require.NoError(t, err)
	go func() {
		write(bufio.NewWriter(w))
		w.Close()
	}()
	lines := make(chan string, 1000)
	go func() {
		defer close(lines)
		for s := bufio.NewScanner(r); s.Scan(); {
			if s.Text() != "" {
				lines <- s.Text()
			}
		}
	}()
	assert.Equal(t, "retry: 1000", next(t, lines))
	assert.Equal(t, ": here", next(t, lines), "it speaks at once, so that a proxy passes it on")
	return lines
}

func next(t *testing.T, lines <-chan string) string {
	t.Helper()
	select {
	case l, ok := <-lines:
		if !ok {
			return "(end)"
		}
		return l
	case <-time.After(10 * time.Second):
		require.Fail(t, "nothing came")
		return ""
	}
}

func TestEveryListenerHearsAnEventWithItsNumber(t *testing.T) {
	h := stream.NewHub()
	a, b := listen(t, h), listen(t, h)
	h.Tell(stream.Event{Seq: 7, Docs: []string{"screen:today"}, Author: "noor", Client: "w1"})
	for _, lines := range []<-chan string{a, b} {
		assert.Equal(t, "id: 7", next(t, lines))
		assert.Equal(t, "event: change", next(t, lines))
		assert.Equal(t, `data: {"seq":7,"docs":["screen:today"],"author":"noor","client":"w1"}`, next(t, lines))
	}
}

func TestWhatWasToldIsNotToldAgain(t *testing.T) {
	h := stream.NewHub()
	lines := listen(t, h)
	h.Tell(stream.Event{Seq: 3, Author: "noor"})
	h.Tell(stream.Event{Seq: 3}) // the database's echo, with less detail
	h.Tell(stream.Event{Seq: 2})
	h.Tell(stream.Event{Seq: 4})
	var told []string
	for len(told) < 2 {
		if l := next(t, lines); strings.HasPrefix(l, "id:") {
			told = append(told, l)
		}
	}
	assert.Equal(t, []string{"id: 3", "id: 4"}, told)
}

func TestAListenerThatDoesNotKeepUpHoldsNobodyUp(t *testing.T) {
	h := stream.NewHub()
	r, w := io.Pipe() // nobody reads
	defer r.Close()
	slow, err := h.Join("tam", func() bool { return true })
	require.NoError(t, err)
	go slow(bufio.NewWriter(w))
	quick := listen(t, h)
	done := make(chan struct{})
	go func() {
		defer close(done)
		for i := range 500 {
			h.Tell(stream.Event{Seq: int64(i + 1)})
		}
	}()
	select {
	case <-done:
	case <-time.After(10 * time.Second):
		require.Fail(t, "one slow listener stopped the hub")
	}
	assert.True(t, strings.HasPrefix(next(t, quick), "id: "))
}

func TestClosingEndsAllStreams(t *testing.T) {
	h := stream.NewHub()
	lines := listen(t, h)
	h.Close()
	h.Close()
	assert.Equal(t, "(end)", next(t, lines))
}

func TestWhoIsHereIsToldAndForgotten(t *testing.T) {
	h := stream.NewHub()
	lines := listen(t, h)
	now := time.Now()
	h.Arrive(stream.Here{Client: "a", Name: "Ida Fenn", Doc: "screen:beds", Element: "e1"}, now)
	assert.Equal(t, "event: here", next(t, lines))
	assert.Contains(t, next(t, lines), `"name":"Ida Fenn","doc":"screen:beds","element":"e1"`)
	h.Arrive(stream.Here{Client: "b", Name: "Noor Abadi", Doc: "screen:beds"}, now.Add(time.Minute))
	assert.Equal(t, "event: here", next(t, lines))
	said := next(t, lines)
	assert.Contains(t, said, "Noor Abadi")
	assert.NotContains(t, said, "Ida Fenn", "she was silent for a minute")
	h.Arrive(stream.Here{Client: "b"}, now.Add(time.Minute))
	next(t, lines)
	assert.Equal(t, `data: {"seq":0}`, next(t, lines), "nobody is here")
}

func TestAStreamEndsWithItsSession(t *testing.T) {
	h := stream.NewHub()
	held := make(chan bool, 1)
	held <- true
	write, err := h.Join("noor", func() bool { return <-held })
	require.NoError(t, err)
	r, w := io.Pipe()
	ended := make(chan struct{})
	go func() {
		write(bufio.NewWriter(w))
		close(ended)
	}()
	go func() { _, _ = io.Copy(io.Discard, r) }() // until the pipe closes
	h.Check()                                     // it still holds
	require.Eventually(t, func() bool { return len(held) == 0 }, 10*time.Second, time.Millisecond)
	select {
	case <-ended:
		require.Fail(t, "it ended with its session still there")
	default:
	}
	held <- false
	h.Check()
	select {
	case <-ended:
	case <-time.After(10 * time.Second):
		require.Fail(t, "it goes on")
	}
	require.NoError(t, w.Close())
}

func TestAPersonHasFewStreams(t *testing.T) {
	h := stream.NewHub()
	for range 12 {
		_, err := h.Join("tam", func() bool { return true })
		require.NoError(t, err)
	}
	_, err := h.Join("tam", func() bool { return true })
	require.ErrorIs(t, err, stream.ErrTooMany)
	_, err = h.Join("lise", func() bool { return true })
	assert.NoError(t, err, "others have their own")
}
