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
	z, err := gzip.NewReader(f)
	if err != nil {
		c.broken = true
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
	if c.broken || len(c.known) > mostKept {
		c.broken = c.anew() != nil
	} else if part, err := c.part(c.added); err == nil {
		c.broken = extend(c.file, part) != nil
	}
	c.added = nil
}

func extend(file string, part []byte) error {
	f, err := os.OpenFile(file, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = f.Write(part) // at once, so that others write before it or behind it
	return errors.Join(err, f.Close())
}

// anew writes the file with what is used, and what else there is room for.
func (c *cache) anew() error {
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
	part, err := c.part(hashes)
	if err != nil {
		return err
	}
	f, err := os.CreateTemp(filepath.Dir(c.file), "markup-*")
	if err != nil {
		return err
	}
	_, err = f.Write(part)
	if err = errors.Join(err, f.Close()); err == nil {
		err = os.Rename(f.Name(), c.file)
	}
	if err != nil {
		os.Remove(f.Name())
	}
	return err
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
