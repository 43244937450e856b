package pg

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"syscall"
)

// Holder is who owns the cluster of a data folder just now.
type Holder struct {
	PID   int    `json:"pid"`
	Serve bool   `json:"serve"`         // a server, that stays; else a command, that ends soon
	URL   string `json:"url,omitempty"` // where a server serves
}

// InUse says that a server runs on the data folder.
type InUse struct {
	Dir string
	Holder
}

func (e *InUse) Error() string {
	at := ""
	if e.URL != "" {
		at = " at " + e.URL
	}
	return fmt.Sprintf("the data folder %s is in use by a server%s (process %d); end it first, or choose another with --data",
		e.Dir, at, e.PID)
}

// lock is the right to own the cluster of a folder. The system gives it back when the
// process ends, however it ends.
type lock struct{ file *os.File }

func lockFile(dir string) string { return filepath.Join(dir, "owner") }

// acquire takes the lock of a folder; without it, it tells who has it.
func acquire(dir string) (*lock, *Holder, error) {
	f, err := os.OpenFile(lockFile(dir), os.O_RDWR|os.O_CREATE, 0o644)
	if err != nil {
		return nil, nil, err
	}
	err = syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB)
	if errors.Is(err, syscall.EWOULDBLOCK) {
		f.Close()
		h, _ := Owner(dir) // it may just be writing itself down; then nothing is known of it yet
		return nil, &h, nil
	}
	if err != nil {
		f.Close()
		return nil, nil, fmt.Errorf("locking %s: %w", dir, err)
	}
	return &lock{f}, nil, nil
}

// Owner reads who wrote himself down as the owner last. He may have ended since.
func Owner(dir string) (h Holder, ok bool) {
	text, err := os.ReadFile(lockFile(dir))
	if err != nil || json.Unmarshal(text, &h) != nil {
		return Holder{}, false
	}
	return h, h.PID > 0
}

// say writes down who has the lock.
func (l *lock) say(h Holder) error {
	text, err := json.Marshal(h)
	if err != nil {
		return err
	}
	if err := l.file.Truncate(0); err != nil {
		return err
	}
	_, err = l.file.WriteAt(text, 0)
	return err
}

func (l *lock) release() {
	_ = l.file.Truncate(0) // what stands there is a hint alone
	l.file.Close()
}
