// Package record keeps what was delivered into a repository, and says what a delivery
// does to what stands there now. Nothing that the team wrote is ever overwritten: own
// files are written once, what is unchanged is renewed, what the team edited is merged with
// what is new, and where both changed the same lines theirs stays and the new text is put
// beside it.
package record

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"path"
	"slices"
	"strings"

	"ubiquant/core/deliver"
)

// Format is the version of the record's form.
const Format = "ubiquant.delivery/1"

// Names of what a delivery keeps of itself, below its folder.
const (
	File   = "delivery.json"        // the record
	Base   = "delivery.base.tar.gz" // the texts as they were delivered, to merge with
	Beside = ".delivered"           // ends the name of a new text that stands beside the team's
)

// Record is what was delivered.
type Record struct {
	Format  string           `json:"format"`
	Target  string           `json:"target"`
	App     string           `json:"application"`
	Kit     string           `json:"kit"`             // name and version: "@acme/ui 2.1.0"
	Screens map[string]int   `json:"screens"`         // revisions by id
	Texts   bool             `json:"texts,omitempty"` // in files of their own
	Files   map[string]Entry `json:"files"`           // by path below the folder
	// Pending are hashes of files that a delivery was about to write: one that was broken
	// off left some of them.
	Pending map[string]string `json:"pending,omitempty"`

	texts   map[string][]byte // as they were delivered, by hash
	settled map[string]string // hashes of texts of which all is in what is delivered, by path
}

// Entry is one delivered file.
type Entry struct {
	Hash string `json:"hash"` // of the text that was delivered last and taken, SHA-256
	Own  bool   `json:"own,omitempty"`
	Doc  string `json:"doc,omitempty"` // that it is the code of
	// Offered is the hash of a newer text that stands beside the team's, until they have
	// put it in.
	Offered string `json:"offered,omitempty"`
}

// HashOf is the SHA-256 of a text, in hexadecimal.
func HashOf(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// maxBase bounds what a base may unpack to, in bytes.
const maxBase = 256 << 20

// Read reads a record with its base; either may be missing.
func Read(record, base []byte) (*Record, error) {
	r := &Record{Format: Format, Files: map[string]Entry{}, texts: map[string][]byte{}}
	if record == nil {
		return r, nil
	}
	dec := json.NewDecoder(bytes.NewReader(record))
	dec.DisallowUnknownFields()
	if err := dec.Decode(r); err != nil {
		return nil, fmt.Errorf("%s cannot be read: %w; restore it from version control", File, err)
	}
	if r.Format != Format {
		return nil, fmt.Errorf("%s is of the format %q, this program knows %q", File, r.Format, Format)
	}
	for name := range r.Files {
		if !local(name) {
			return nil, fmt.Errorf("%s names the file %q, which leads out of the folder", File, name)
		}
	}
	if r.Files == nil {
		r.Files = map[string]Entry{}
	}
	if base == nil {
		return r, nil
	}
	zip, err := gzip.NewReader(bytes.NewReader(base))
	if err != nil {
		return nil, fmt.Errorf("%s cannot be read: %w", Base, err)
	}
	in := tar.NewReader(io.LimitReader(zip, maxBase))
	for {
		h, err := in.Next()
		if err == io.EOF {
			return r, nil
		}
		if err != nil {
			return nil, fmt.Errorf("%s cannot be read: %w", Base, err)
		}
		text, err := io.ReadAll(in)
		if err != nil {
			return nil, fmt.Errorf("%s cannot be read: %w", Base, err)
		}
		r.texts[HashOf(text)] = text // whatever it is called
		_ = h
	}
}

// Write writes the record and its base: the same bytes for the same content.
func (r *Record) Write() (record, base []byte, err error) {
	record, err = json.MarshalIndent(r, "", "  ")
	if err != nil {
		return nil, nil, err
	}
	needed := map[string]bool{}
	for _, e := range r.Files {
		needed[e.Hash], needed[e.Offered] = true, true
	}
	var buf bytes.Buffer
	zip, err := gzip.NewWriterLevel(&buf, gzip.BestCompression)
	if err != nil {
		return nil, nil, err
	}
	out := tar.NewWriter(zip)
	for _, hash := range slices.Sorted(maps.Keys(r.texts)) {
		if !needed[hash] {
			continue
		}
		text := r.texts[hash]
		if err := out.WriteHeader(&tar.Header{Name: hash, Mode: 0o644, Size: int64(len(text)), Format: tar.FormatUSTAR}); err != nil {
			return nil, nil, err
		}
		if _, err := out.Write(text); err != nil {
			return nil, nil, err
		}
	}
	if err := out.Close(); err != nil {
		return nil, nil, err
	}
	if err := zip.Close(); err != nil {
		return nil, nil, err
	}
	return append(record, '\n'), buf.Bytes(), nil
}

func local(name string) bool {
	return name != "" && path.Clean(name) == name && !path.IsAbs(name) && name != ".." && !strings.HasPrefix(name, "../") && !strings.Contains(name, `\`)
}

// Of says what a delivery is of, for the record.
func Of(in deliver.Input, target string) *Record {
	r := &Record{Format: Format, Target: target, App: in.Name, Kit: in.Kit.Name + " " + in.Kit.Version, Screens: map[string]int{}, Texts: in.Texts != nil}
	for _, d := range in.Screens {
		r.Screens[d.ID] = d.Revision
	}
	return r
}

// Settle says that all of a text that was edited by hand is in what is delivered now: nothing is
// lost when the file is renewed.
func (r *Record) Settle(path string, text []byte) {
	if r.settled == nil {
		r.settled = map[string]string{}
	}
	r.settled[path] = HashOf(text)
}

// Delivered is the text of a file as it was delivered last; nil where it is not known.
func (r *Record) Delivered(path string) []byte { return r.texts[r.Files[path].Hash] }

// Edited tells whether a delivered file stands there otherwise than a delivery left it.
func (r *Record) Edited(path string, text []byte) bool {
	e, ok := r.Files[path]
	return ok && !e.Own && text != nil && !r.ours(path, text)
}
