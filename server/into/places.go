package into

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"time"

	"ubiquant/server/assets"
)

// place is where something can be put into a file.
type place struct {
	What   string `json:"what"` // routes in a list, elements where they are such, entry of the application, or plugin
	Path   string `json:"path"`
	At     int    `json:"at"`
	Until  int    `json:"until"`  // where what is put around something ends; 0 for what stands by itself
	Import int    `json:"import"` // where an import statement can stand
	Before string `json:"before"` // what has to stand before it: a comma, say
	After  string `json:"after"`
	Double bool   `json:"double"` // texts stand in double quotes
	Semi   bool   `json:"semi"`
	Has    bool   `json:"has"` // it has settings of its own already
}

// places are those that Repo.Reader found.
type places struct {
	Places   []place  `json:"places"`
	Routes   []taken  `json:"routes"` // that the application has
	Problems []string `json:"problems"`
}

// taken is a route that the application has of its own.
type taken struct {
	Path string `json:"path"` // whole, each parameter as ":"
	Name string `json:"name,omitempty"`
	File string `json:"file"`
}

// find gives the first place of a kind; nil where there is none.
func (p *places) find(what string) *place {
	for i := range p.Places {
		if p.Places[i].What == what {
			return &p.Places[i]
		}
	}
	return nil
}

// node runs a script with a question in a process of its own.
func (r *Repo) node(ctx context.Context, question, answer any, script ...string) error {
	node := r.Node
	if node == "" {
		var err error
		if node, err = exec.LookPath("node"); err != nil {
			return fmt.Errorf("there is no Node here")
		}
	}
	in, err := json.Marshal(question)
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, 2*time.Minute)
	defer cancel()
	cmd := exec.CommandContext(ctx, node, append([]string{"--max-old-space-size=1024"}, script...)...)
	cmd.Dir = r.Dir
	cmd.Stdin = bytes.NewReader(in)
	var stdout, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &stdout, &stderr
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%w: %.300s", err, strings.TrimSpace(stderr.String()))
	}
	return json.Unmarshal(stdout.Bytes(), answer)
}

// places looks where the repository keeps its routes and settings, once.
func (r *Repo) places(ctx context.Context) *places {
	if r.found == nil {
		r.found = &places{}
		if err := r.look(ctx); err != nil {
			r.found.Problems = append(r.found.Problems, err.Error())
		}
	}
	return r.found
}

func (r *Repo) look(ctx context.Context) error {
	reader, err := assets.Places()
	if err != nil {
		return err
	}
	dir, err := filepath.Abs(r.Dir)
	if err != nil {
		return err
	}
	own, err := os.MkdirTemp("", "ubiquant-places-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(own)
	script := filepath.Join(own, "places.cjs")
	if err := os.WriteFile(script, reader, 0o600); err != nil {
		return err
	}
	err = r.node(ctx, map[string]string{"dir": dir, "target": r.Target, "skip": r.Folder}, r.found, script)
	if err != nil {
		return fmt.Errorf("the reader of repositories: %w", err)
	}
	return nil
}

// imports tells whether a file takes a name of a module.
func imports(src []byte, name, module string) bool {
	clause := regexp.MustCompile(`import\s*\{([^}]*)\}\s*from\s*['"]` + regexp.QuoteMeta(module) + `['"]`)
	for _, m := range clause.FindAllSubmatch(src, -1) {
		for one := range strings.SplitSeq(string(m[1]), ",") {
			if taken := strings.Fields(one); len(taken) > 0 && taken[0] == name {
				return true
			}
		}
	}
	return false
}
