package api

import (
	"sync"
	"time"
)

// attempts slows down who tries passwords: after a few that fail, each waits twice as long
// as the one before.
type attempts struct {
	mu   sync.Mutex
	made map[string]tried
}

type tried struct {
	failed int
	last   time.Time
}

const (
	freeAttempts = 5
	firstWait    = 2 * time.Second
	longestWait  = 5 * time.Minute
	forgetAfter  = 30 * time.Minute
	mostTried    = 10_000 // keys remembered
)

// wait is how long a key must wait before the next attempt.
func (a *attempts) wait(key string, now time.Time) time.Duration {
	a.mu.Lock()
	defer a.mu.Unlock()
	t := a.made[key]
	if t.failed < freeAttempts {
		return 0
	}
	wait := longestWait
	if doubled := t.failed - freeAttempts; doubled < 8 {
		wait = min(firstWait<<doubled, longestWait)
	}
	return max(0, t.last.Add(wait).Sub(now))
}

func (a *attempts) failed(key string, now time.Time) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.made == nil || len(a.made) >= mostTried {
		a.made = map[string]tried{}
	}
	t := a.made[key]
	if now.Sub(t.last) > forgetAfter {
		t.failed = 0
	}
	a.made[key] = tried{t.failed + 1, now}
}

func (a *attempts) forget(key string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	delete(a.made, key)
}
