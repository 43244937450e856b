package repo

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"
	"syscall"
	"time"

	"golang.org/x/sync/errgroup"

	"ubiquant/core/source"
)

// Limits of a process that reads markup.
const (
	workers      = 2
	workerMemory = "400" // megabytes of Node's heap
	fileTime     = 20 * time.Second
	maxAnswer    = 64 << 20
)

type job struct {
	name string
	hash string
	text []byte
}

// store is what was read of the repository before.
func (r *reader) store() *cache {
	if r.kept == nil {
		r.kept = openCache(r.Cache, hashOf([]byte(r.Dir), hashOf(r.Markup, "")))
	}
	return r.kept
}

// parse has files read, by name; what cannot be read has no module, and is told.
func (r *reader) parse(ctx context.Context, texts map[string][]byte, as string) (map[string]*source.Module, error) {
	out := map[string]*source.Module{}
	if len(texts) == 0 {
		return out, nil
	}
	c := r.store()
	var mu sync.Mutex
	var list []job
	var all errgroup.Group
	all.SetLimit(runtime.GOMAXPROCS(0))
	for _, name := range slices.Sorted(maps.Keys(texts)) {
		text := texts[name]
		all.Go(func() error {
			hash := hashOf(text, as+"|"+filepath.Base(name))
			raw, known := c.known[hash]
			var m *source.Module
			if known {
				var err error
				m, err = source.Parse(raw, len(text))
				known = err == nil
			}
			mu.Lock()
			defer mu.Unlock()
			if known {
				out[name], c.used[hash] = m, true
			} else {
				list = append(list, job{name, hash, text})
			}
			return nil
		})
	}
	_ = all.Wait() // none fails
	slices.SortFunc(list, func(a, b job) int { return strings.Compare(a.name, b.name) })
	if len(list) > 0 {
		if err := r.ask(ctx, list, as, c, out); err != nil {
			return nil, err
		}
	}
	c.keep()
	return out, nil
}

// ask shares files among workers.
func (r *reader) ask(ctx context.Context, list []job, as string, c *cache, out map[string]*source.Module) error {
	if len(r.Markup) == 0 {
		r.left = append(r.left, source.Left{File: list[0].name, What: fmt.Sprintf("and %d more: this program was built without its reader of markup", len(list)-1)})
		return nil
	}
	node := r.Node
	if node == "" {
		var err error
		if node, err = exec.LookPath("node"); err != nil {
			r.left = append(r.left, source.Left{File: list[0].name, What: fmt.Sprintf("and %d more: no Node is here, which reads them; install Node 20 or newer. HTML is read without it", len(list)-1)})
			return nil
		}
	}
	dir, err := os.MkdirTemp("", "ubiquant-markup-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	script := filepath.Join(dir, "markup.cjs")
	if err := os.WriteFile(script, r.Markup, 0o600); err != nil {
		return err
	}
	jobs := make(chan job)
	var mu sync.Mutex
	done := func(j job, raw []byte, why string) {
		var m *source.Module
		if why == "" {
			var err error
			if m, err = source.Parse(raw, len(j.text)); err != nil {
				why = err.Error()
			}
		}
		mu.Lock()
		defer mu.Unlock()
		if why == "" {
			out[j.name] = m
			c.add(j.hash, raw)
			return
		}
		r.left = append(r.left, source.Left{File: j.name, What: why})
	}
	var wg sync.WaitGroup
	var failed error
	n := min(workers, 1+len(list)/40)
	for range n {
		wg.Go(func() {
			w := &worker{node: node, script: script, dir: dir}
			defer w.end()
			for j := range jobs {
				raw, why, err := w.ask(ctx, j, as)
				if err != nil {
					mu.Lock()
					failed = errors.Join(failed, err)
					mu.Unlock()
					continue
				}
				done(j, raw, why)
			}
		})
	}
	for _, j := range list {
		select {
		case jobs <- j:
		case <-ctx.Done():
		}
		if ctx.Err() != nil {
			break
		}
	}
	close(jobs)
	wg.Wait()
	slices.SortFunc(r.left, func(a, b source.Left) int { return bytes.Compare([]byte(a.File), []byte(b.File)) })
	return errors.Join(failed, ctx.Err())
}

// worker is a process that reads files, one after the other.
type worker struct {
	node, script, dir string
	cmd               *exec.Cmd
	in                io.WriteCloser
	answers           chan []byte
	said              *bytes.Buffer
}

func (w *worker) start() error {
	cmd := exec.Command(w.node, "--max-old-space-size="+workerMemory, w.script)
	cmd.Dir = w.dir
	cmd.Env = []string{"PATH=" + os.Getenv("PATH"), "HOME=" + w.dir, "NODE_NO_WARNINGS=1"}
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	in, err := cmd.StdinPipe()
	if err != nil {
		return err
	}
	out, err := cmd.StdoutPipe()
	if err != nil {
		return err
	}
	w.said = &bytes.Buffer{}
	cmd.Stderr = w.said
	if err := cmd.Start(); err != nil {
		return err
	}
	w.cmd, w.in, w.answers = cmd, in, make(chan []byte)
	go func(answers chan []byte) {
		defer close(answers)
		lines := bufio.NewReaderSize(out, 1<<16)
		for {
			line, err := readLine(lines)
			if err != nil {
				return
			}
			answers <- line
		}
	}(w.answers)
	return nil
}

func readLine(r *bufio.Reader) ([]byte, error) {
	var out []byte
	for {
		part, err := r.ReadSlice('\n')
		out = append(out, part...)
		if err == nil {
			return out, nil
		}
		if !errors.Is(err, bufio.ErrBufferFull) || len(out) > maxAnswer {
			return nil, errors.Join(err, io.EOF)
		}
	}
}

// ask has one file read. why is set where it cannot be; err where no file can.
func (w *worker) ask(ctx context.Context, j job, as string) (raw []byte, why string, err error) {
	if w.cmd == nil {
		if err := w.start(); err != nil {
			return nil, "", fmt.Errorf("the reader of markup cannot be started: %w", err)
		}
	}
	q, err := json.Marshal(map[string]string{"file": j.name, "text": string(bytes.ToValidUTF8(j.text, []byte("?"))), "as": as})
	if err != nil {
		return nil, "", err
	}
	answers := w.answers
	go func(in io.Writer) { _, _ = in.Write(append(q, '\n')) }(w.in)
	timer := time.NewTimer(fileTime)
	defer timer.Stop()
	select {
	case raw, ok := <-answers:
		if !ok {
			said := bytes.TrimSpace(w.said.Bytes())
			w.end()
			return nil, "the reader ended at it: " + string(said[max(0, len(said)-200):]), nil
		}
		return raw, "", nil
	case <-timer.C:
		w.end()
		return nil, fmt.Sprintf("the reader was ended after %s", fileTime), nil
	case <-ctx.Done():
		w.end()
		return nil, "", ctx.Err()
	}
}

func (w *worker) end() {
	if w.cmd == nil {
		return
	}
	w.in.Close()
	_ = syscall.Kill(-w.cmd.Process.Pid, syscall.SIGKILL)
	go func(answers chan []byte) {
		for range answers { // so that its reader ends too
		}
	}(w.answers)
	_ = w.cmd.Wait()
	w.cmd = nil
}

// Parse reads the markup of single files, by their names: "template" reads them as templates of
// Angular. left are those that cannot be read, and why.
func Parse(ctx context.Context, o Options, texts map[string][]byte, as string) (out map[string]*source.Module, left []source.Left, err error) {
	r := &reader{Options: o}
	out, err = r.parse(ctx, texts, as)
	return out, r.left, err
}
