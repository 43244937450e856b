package intake

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"time"

	"ubiquant/core/kit/describe"
)

// Limits of a process that reads declarations.
const (
	readerTime   = 150 * time.Second
	readerLooks  = 80     // seconds after which it says what it knows
	readerMemory = "1800" // megabytes of Node's heap
	readerAnswer = 64 << 20
)

// reason is a line in which Node says why it ended.
var reason = regexp.MustCompile(`^\s*(\w*Error\b|FATAL ERROR)`)

// limited keeps what a process writes, up to a size.
type limited struct {
	bytes.Buffer
	most int
	over bool
}

func (l *limited) Write(b []byte) (int, error) {
	if l.Len()+len(b) > l.most {
		l.over = true
		return 0, errors.New("too much")
	}
	return l.Buffer.Write(b)
}

// runNode runs a script with a question on its standard input. It gets no more of the
// environment than it needs, and ends with its time.
func (l *library) runNode(ctx context.Context, script string, question any) ([]byte, error) {
	node := l.Node
	if node == "" {
		var err error
		if node, err = exec.LookPath("node"); err != nil {
			return nil, errors.New("no Node is here: what its parsers read is left out; install Node 20 or newer to have it")
		}
	}
	ask, err := json.Marshal(question)
	if err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, readerTime)
	defer cancel()
	cmd := exec.CommandContext(ctx, node, "--max-old-space-size="+readerMemory, script)
	cmd.Dir = l.Dir
	cmd.Env = []string{"PATH=" + os.Getenv("PATH"), "HOME=" + os.TempDir(), "NODE_NO_WARNINGS=1"}
	cmd.Stdin = bytes.NewReader(ask)
	out, said := &limited{most: readerAnswer}, &limited{most: 64 << 10}
	cmd.Stdout, cmd.Stderr = out, said
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL) }
	cmd.WaitDelay = 2 * time.Second
	err = cmd.Run()
	switch {
	case errors.Is(ctx.Err(), context.DeadlineExceeded):
		return nil, fmt.Errorf("the reader was ended after %s", readerTime)
	case out.over:
		return nil, fmt.Errorf("the reader answered with more than %d MB and was ended", readerAnswer>>20)
	case err != nil:
		lines := strings.Split(strings.TrimSpace(said.String()), "\n")
		for _, line := range lines {
			if reason.MatchString(line) {
				return nil, fmt.Errorf("the reader ended with %w: %s", err, strings.TrimSpace(line))
			}
		}
		return nil, fmt.Errorf("the reader ended with %w: %s", err, lines[len(lines)-1])
	}
	return out.Bytes(), nil
}

// script writes a script into a folder of its own and says where; the function returned
// removes it.
func script(src []byte, name string) (string, func(), error) {
	dir, err := os.MkdirTemp("", "ubiquant-reader-")
	if err != nil {
		return "", nil, err
	}
	file := filepath.Join(dir, name)
	if err := os.WriteFile(file, src, 0o600); err != nil {
		os.RemoveAll(dir)
		return "", nil, err
	}
	return file, func() { os.RemoveAll(dir) }, nil
}

// ask reads the type declarations of modules, or their code where none declare anything.
func (l *library) ask(ctx context.Context, specs []string, code bool) ([]byte, error) {
	file, done, err := script(l.Reader, "declarations.cjs")
	if err != nil {
		return nil, err
	}
	defer done()
	// A package looked at in its own folder is found under its name from there as well.
	dir := l.Dir
	specs = append([]string{}, specs...)
	files := []string{}
	if l.Drawn == describe.Elements {
		files = append(files, l.imports...)
		if len(files) > 400 {
			files = files[:400]
		}
	}
	if !l.underModules() {
		dir = l.root
		specs = l.own(specs)
	}
	if code {
		specs = l.own(specs)
	}
	begun := time.Now()
	out, err := l.runNode(ctx, file, map[string]any{
		"dir": dir, "package": l.pkg.Name, "drawn": l.Drawn, "specs": specs, "files": files, "code": code,
		"drawing": l.drawing(), "names": l.catalog.Unsaid(), "seconds": readerLooks,
	})
	l.cut = l.cut || time.Since(begun).Seconds() >= readerLooks
	return out, err
}

// maxDrawing bounds the modules whose code is read for what may stand in elements.
const maxDrawing = 1000

// drawing are the modules that have the code of one element each, as far as a first look tells.
func (l *library) drawing() []string {
	out := []string{}
	if l.Drawn != describe.Elements {
		return out
	}
	l.walk(func(rel string, _ fs.DirEntry) {
		if len(out) == maxDrawing || strings.HasSuffix(rel, ".min.js") || !strings.HasSuffix(rel, ".js") && !strings.HasSuffix(rel, ".mjs") {
			return
		}
		file := filepath.Join(l.root, filepath.FromSlash(rel))
		src, err := readFile(file, 1<<20)
		says := func(words string) bool { return bytes.Contains(src, []byte(words)) }
		if err == nil && says("slot") && (says("static get is()") || says("customElement")) {
			out = append(out, file)
		}
	})
	return out
}

// underModules tells whether the package is found under its name from the folder.
func (l *library) underModules() bool {
	for at := l.Dir; ; at = filepath.Dir(at) {
		if real, err := filepath.EvalSymlinks(filepath.Join(at, "node_modules", filepath.FromSlash(l.pkg.Name))); err == nil && real == l.root {
			return true
		}
		if filepath.Dir(at) == at {
			return false
		}
	}
}

// own turns what imports the package into paths of its files, for a package that is not
// installed anywhere: its own repository.
func (l *library) own(specs []string) []string {
	out := make([]string, 0, len(specs))
	for _, s := range specs {
		rest := strings.TrimPrefix(s, l.pkg.Name)
		file := l.exported["."+rest]
		if rest == "" && file == "" {
			for _, name := range []string{l.pkg.Module, l.pkg.Main, "index.js"} {
				if name != "" {
					file = name
					break
				}
			}
		}
		if file == "" {
			file = "." + rest
		}
		if in := l.inside(file); in != "" {
			out = append(out, in)
		} else {
			out = append(out, s)
		}
	}
	return out
}
