// Package live tells browsers what changed, by server-sent events. A hub holds
// the listeners of one process; changes of other processes reach it through the
// database's notifications.
package live

import (
	"bufio"
	"encoding/json"
	"fmt"
	"sync"
	"time"
)

// Event is something that happened.
type Event struct {
	Seq    int64    `json:"seq"`
	Docs   []string `json:"docs,omitempty"`
	Author string   `json:"author,omitempty"`
	Client string   `json:"client,omitempty"` // the window that did it
}

// Hub fans events out to listeners.
type Hub struct {
	mu        sync.Mutex
	listeners map[chan Event]bool
	closed    chan struct{}
	once      sync.Once
	told      int64
}

// NewHub returns a hub without listeners.
func NewHub() *Hub { return &Hub{listeners: map[chan Event]bool{}, closed: make(chan struct{})} }

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

// Close ends all streams, so that a server can shut down.
func (h *Hub) Close() { h.once.Do(func() { close(h.closed) }) }

// heartbeat keeps proxies from closing a quiet stream and tells a dead one.
const heartbeat = 15 * time.Second

// Stream writes events until the connection or the hub ends.
func (h *Hub) Stream(w *bufio.Writer) {
	l := make(chan Event, 64)
	h.mu.Lock()
	h.listeners[l] = true
	h.mu.Unlock()
	defer func() {
		h.mu.Lock()
		delete(h.listeners, l)
		h.mu.Unlock()
	}()
	tick := time.NewTicker(heartbeat)
	defer tick.Stop()
	fmt.Fprint(w, "retry: 1000\n: here\n\n")
	for w.Flush() == nil {
		select {
		case e := <-l:
			data, err := json.Marshal(e)
			if err != nil {
				return
			}
			fmt.Fprintf(w, "id: %d\nevent: change\ndata: %s\n\n", e.Seq, data)
		case <-tick.C:
			fmt.Fprint(w, ": still here\n\n")
		case <-h.closed:
			return
		}
	}
}
