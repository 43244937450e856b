package repo

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"io"
	"os"
	"path/filepath"
	"syscall"
)

// mostKept is how many files' answers a repository's cache holds, those of texts that stood there
// before among them.
const mostKept = 20_000

// cache keeps what was read of files, by the hash of their texts, in one file a repository: a line
// each, the hash before the answer, compressed in parts that follow on each other. What is new is
// put behind the rest.
type cache struct {
	file   string
	known  map[string][]byte
	used   map[string]bool
	added  []string // of known, those that the file does not have
	broken bool     // the file is to be written anew
}

func hashOf(text []byte, as string) string {
	h := sha256.New()
	h.Write([]byte(as))
	h.Write([]byte{0})
	h.Write(text)
	return hex.EncodeToString(h.Sum(nil)[:16])
}

// openCache reads the cache of a name in a folder; without a folder nothing is kept. What is broken
// is left out, and made anew.
func openCache(dir, name string) *cache {
	c := &cache{known: map[string][]byte{}, used: map[string]bool{}}
	if dir == "" {
		return c
	}
	c.file = filepath.Join(dir, "markup-"+name+".lines.gz")
	f, err := os.Open(c.file)
	if err != nil {
		return c
	}
	defer f.Close()
	if syscall.Flock(int(f.Fd()), syscall.LOCK_SH) != nil { // until it is closed
		return c
	}
	z, err := gzip.NewReader(f)
	if err != nil {
		c.broken = !errors.Is(err, io.EOF) // nothing is in it yet
		return c
	}
	text, err := io.ReadAll(io.LimitReader(z, 512<<20))
	c.broken = err != nil
	for line := range bytes.Lines(text) {
		hash, answer, ok := bytes.Cut(line, []byte{' '})
		if ok && bytes.HasSuffix(answer, []byte{'\n'}) {
			c.known[string(hash)] = bytes.TrimSuffix(answer, []byte{'\n'})
		} else {
			c.broken = true
		}
	}
	return c
}

// add notes what was read anew.
func (c *cache) add(hash string, answer []byte) {
	c.used[hash] = true
	answer = bytes.TrimSpace(answer)
	if bytes.IndexByte(answer, '\n') < 0 { // as readers answer
		c.known[hash] = answer
		c.added = append(c.added, hash)
	}
}

// keep writes what is new; that it cannot be written costs time at most.
func (c *cache) keep() {
	if c.file == "" || len(c.added) == 0 && !c.broken || os.MkdirAll(filepath.Dir(c.file), 0o700) != nil {
		return
	}
	anew := c.broken || len(c.known) > mostKept
	hashes := c.added
	if anew {
		hashes = c.most()
	}
	if part, err := c.part(hashes); err == nil {
		c.broken = put(c.file, part, anew) != nil
	}
	c.added = nil
}

// put writes a part behind what a file holds, or in its place. Others that read or write wait; a file
// that is left half written is known to be broken.
func put(file string, part []byte, anew bool) error {
	f, err := os.OpenFile(file, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	if err = syscall.Flock(int(f.Fd()), syscall.LOCK_EX); err == nil && anew {
		err = f.Truncate(0)
	}
	if err == nil {
		_, err = f.Write(part)
	}
	return errors.Join(err, f.Close())
}

// most are what is used, and what else there is room for.
func (c *cache) most() []string {
	hashes := make([]string, 0, len(c.known))
	for hash := range c.known {
		if c.used[hash] {
			hashes = append(hashes, hash)
		}
	}
	for hash := range c.known {
		if !c.used[hash] && len(hashes) < mostKept/2 {
			hashes = append(hashes, hash)
		}
	}
	return hashes
}

// part is a piece of the file with some answers.
func (c *cache) part(hashes []string) ([]byte, error) {
	var out bytes.Buffer
	z, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err != nil {
		return nil, err
	}
	for _, hash := range hashes {
		for _, b := range [][]byte{[]byte(hash), {' '}, c.known[hash], {'\n'}} {
			if _, err := z.Write(b); err != nil {
				return nil, err
			}
		}
	}
	err = z.Close()
	return out.Bytes(), err
}
