// Package service is a small stand-in for the office's own data service at Fernhollow:
// it answers by HTTP what a real one would, refusals and failures too.
package service

import (
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"time"
)

// visit is one count at a gate, as the service writes it: in shapes of its own.
type visit struct {
	Key   string `json:"key"`
	When  string `json:"when"` // a point in time
	Place struct {
		Gate string `json:"gate"`
	} `json:"place"`
	People int `json:"people"`
}

// visits are thirty days of counts at both gates, the latest first.
func visits() []visit {
	last := time.Date(2026, 11, 22, 18, 0, 0, 0, time.UTC)
	var out []visit
	for i := range 30 {
		for j, gate := range []string{"North gate", "Lake gate"} {
			v := visit{
				Key:    fmt.Sprintf("v-%d-%d", i, j),
				When:   last.AddDate(0, 0, -i).Format(time.RFC3339),
				People: 120 + (i*83+j*41)%460,
			}
			v.Place.Gate = gate
			out = append(out, v)
		}
	}
	return out
}

// Handler answers /visits?gate=…&from=…&to=…, and /refused, /broken and /slow for what
// may go wrong.
func Handler() http.Handler {
	mux := http.NewServeMux()
	answer := func(w http.ResponseWriter, status int, v any) {
		w.Header().Set("Content-Type", "application/json")
		// Anyone's page may ask: it holds nothing that is not public.
		w.Header().Set("Access-Control-Allow-Origin", "*")
		w.WriteHeader(status)
		_ = json.NewEncoder(w).Encode(v) // who went away reads no answer
	}
	mux.HandleFunc("GET /visits", func(w http.ResponseWriter, r *http.Request) {
		q := r.URL.Query()
		for _, day := range []string{"from", "to"} {
			if _, err := time.Parse(time.DateOnly, q.Get(day)); q.Get(day) != "" && err != nil {
				answer(w, http.StatusBadRequest, map[string]string{"problem": day + " is no day as YYYY-MM-DD"})
				return
			}
		}
		list := []visit{}
		for _, v := range visits() {
			day := v.When[:10]
			if (q.Get("gate") == "" || q.Get("gate") == v.Place.Gate) &&
				(q.Get("from") == "" || day >= q.Get("from")) &&
				(q.Get("to") == "" || day <= q.Get("to")) {
				list = append(list, v)
			}
		}
		answer(w, http.StatusOK, map[string]any{"total": len(list), "visits": list})
	})
	mux.HandleFunc("GET /refused", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, http.StatusForbidden, map[string]string{"problem": "not for you"})
	})
	mux.HandleFunc("GET /broken", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, http.StatusInternalServerError, map[string]string{"problem": "it broke"})
	})
	mux.HandleFunc("GET /slow", func(w http.ResponseWriter, r *http.Request) {
		select {
		case <-time.After(20 * time.Second):
		case <-r.Context().Done():
		}
	})
	return mux
}

// Start serves on a loopback address, or on a free port where that one is taken.
func Start(address string) (at string, stop func(), err error) { return Serve(address, Handler()) }

// Serve does so with what stands in for another service.
func Serve(address string, h http.Handler) (at string, stop func(), err error) {
	listener, err := net.Listen("tcp", address)
	if err != nil {
		if listener, err = net.Listen("tcp", "127.0.0.1:0"); err != nil {
			return "", nil, err
		}
	}
	server := &http.Server{Handler: h, ReadHeaderTimeout: 5 * time.Second}
	done := make(chan struct{})
	go func() { _ = server.Serve(listener); close(done) }() // ends when it is closed
	return "http://" + listener.Addr().String(), func() { _ = server.Close(); <-done }, nil
}
