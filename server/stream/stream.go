// Package stream tells browsers what changed, by server-sent events. A hub holds
// the listeners of one process; changes of other processes reach it through the
// database's notifications.
package stream

import (
	"bufio"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"
)

// Event is something that happened.
type Event struct {
	Seq    int64    `json:"seq"`
	Docs   []string `json:"docs,omitempty"`
	Author string   `json:"author,omitempty"`
	Client string   `json:"client,omitempty"` // the window that did it
	Here   []Here   `json:"here,omitempty"`   // who looks where, in place of a change
}

// Hub fans events out to listeners.
type Hub struct {
	mu        sync.Mutex
	listeners map[chan Event]listener
	here      map[string]Here
	closed    chan struct{}
	once      sync.Once
	told      int64
}

// listener is a window that hears of events.
type listener struct {
	who   string
	check chan struct{} // asks whether it may still
}

// most is how many streams one person has open.
const most = 12

// NewHub returns a hub without listeners.
func NewHub() *Hub {
	return &Hub{listeners: map[chan Event]listener{}, here: map[string]Here{}, closed: make(chan struct{})}
}

// Tell sends an event to all listeners. An event that was told already, with
// more detail, is not told again. A listener that does not keep up loses events;
// it sees the gap in the sequence numbers and asks.
func (h *Hub) Tell(e Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if e.Seq <= h.told {
		return
	}
	h.told = e.Seq
	for l := range h.listeners {
		select {
		case l <- e:
		default:
		}
	}
}

// Here is where somebody is looking.
type Here struct {
	Client  string    `json:"client"` // the window
	Name    string    `json:"name"`
	Doc     string    `json:"doc"`
	Element string    `json:"element,omitempty"`
	at      time.Time // when it was last said
}

// Arrive notes where a window looks and tells all others who is where; an empty
// document says that it is gone. What was not said again for a while is forgotten.
func (h *Hub) Arrive(here Here, now time.Time) {
	h.mu.Lock()
	defer h.mu.Unlock()
	here.at = now
	h.here[here.Client] = here
	list := []Here{}
	for client, o := range h.here {
		if o.Doc == "" || now.Sub(o.at) > 3*heartbeat {
			delete(h.here, client)
			continue
		}
		list = append(list, o)
	}
	slices.SortFunc(list, func(a, b Here) int { return strings.Compare(a.Client, b.Client) })
	for l := range h.listeners {
		select {
		case l <- Event{Here: list}:
		default:
		}
	}
}

// Close ends all streams, so that a server can shut down.
func (h *Hub) Close() { h.once.Do(func() { close(h.closed) }) }

// heartbeat keeps proxies from closing a quiet stream, and lets a window tell one that
// is dead.
const heartbeat = 10 * time.Second

// ErrTooMany says that a person has more streams open than windows.
var ErrTooMany = fmt.Errorf("more than %d windows listen already", most)

// Check has every stream ask whether its session still holds, now rather than at its next
// heartbeat.
func (h *Hub) Check() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, l := range h.listeners {
		select {
		case l.check <- struct{}{}:
		default:
		}
	}
}

// Join opens a stream of a person; what it gives writes events until the connection, the
// hub or the session ends. may says whether the session holds.
func (h *Hub) Join(who string, may func() bool) (func(w *bufio.Writer), error) {
	l := make(chan Event, 64)
	of := listener{who, make(chan struct{}, 1)}
	h.mu.Lock()
	defer h.mu.Unlock()
	open := 0
	for _, o := range h.listeners {
		if o.who == who {
			open++
		}
	}
	if open >= most {
		return nil, ErrTooMany
	}
	h.listeners[l] = of
	return func(w *bufio.Writer) { h.stream(w, l, of, may) }, nil
}

func (h *Hub) stream(w *bufio.Writer, l chan Event, of listener, may func() bool) {
	defer func() {
		h.mu.Lock()
		delete(h.listeners, l)
		h.mu.Unlock()
	}()
	tick := time.NewTicker(heartbeat)
	defer tick.Stop()
	beat := 0
	fmt.Fprint(w, "retry: 1000\n: here\n\n")
	for w.Flush() == nil {
		select {
		case e := <-l:
			data, err := json.Marshal(e)
			if err != nil {
				return
			}
			if e.Here != nil {
				fmt.Fprintf(w, "event: here\ndata: %s\n\n", data)
				continue
			}
			fmt.Fprintf(w, "id: %d\nevent: change\ndata: %s\n\n", e.Seq, data)
		case <-of.check:
			if !may() {
				return
			}
		case <-tick.C:
			if !may() {
				return
			}
			beat++ // each differs, so that a window sees it come
			fmt.Fprintf(w, "event: beat\ndata: %d\n\n", beat)
		case <-h.closed:
			return
		}
	}
}
