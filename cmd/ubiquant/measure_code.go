package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/live"
	"ubiquant/internal/generate"
	"ubiquant/internal/written"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
)

// code measures how long a repository takes: read for the first time, against its files parsed and
// nothing more; read again after one file changed; and judged.
func (m *meter) code(ctx context.Context, k *kit.Kit, screens int, seed uint64) error {
	team := generate.NewTeam(generate.Options{Screens: screens, Slips: 0.03, Seed: seed})
	dir, err := os.MkdirTemp("", "ubq-code-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	files := written.Repository(team.Workspace, k, "react")
	// Code around the screens that has no markup, as most of a repository is.
	for i := range screens {
		files[fmt.Sprintf("src/data/part%d.ts", i)] = fmt.Appendf(nil, "export interface Part%[1]d { id: string; name: string }\n\nexport async function load%[1]d(id: string): Promise<Part%[1]d> {\n  const answer = await fetch(`/api/parts/${id}`)\n  if (!answer.ok) throw new Error('part %[1]d')\n  return answer.json()\n}\n", i)
	}
	repository := filepath.Join(dir, "repository")
	if err := writeFiles(repository, files); err != nil {
		return err
	}
	o := repo.Options{Dir: repository, Cache: filepath.Join(dir, "cache"), Known: map[string]*describe.Catalog{written.Package: written.Catalog(k, "react")}}
	if o.Markup, err = assets.Markup(); err != nil {
		return err
	}
	var read *repo.Repository
	cold := timed(func() { read, err = repo.Read(ctx, o) })
	if err != nil {
		return err
	}
	bare, err := parsedBare(ctx, o.Markup, files)
	if err != nil {
		return err
	}
	n := len(files) - 1
	m.add(figure{What: fmt.Sprintf("%d files read for the first time", n), Value: cold, Unit: "s", Budget: 15, Details: several(read.Report.Elements, "element") + " of the kit"})
	m.add(figure{What: "the same against the files parsed by one process, and nothing more", Value: cold / bare, Unit: "x", Budget: 1.5})
	for name := range files {
		if strings.HasSuffix(name, "/routes.tsx") || !strings.HasSuffix(name, ".tsx") {
			continue
		}
		if err := os.WriteFile(filepath.Join(repository, filepath.FromSlash(name)), append(files[name], "\n// saved\n"...), 0o600); err != nil {
			return err
		}
		break
	}
	again := timed(func() { read, err = repo.Read(ctx, o) })
	if err != nil {
		return err
	}
	m.add(figure{What: "the same again, after one file changed", Value: again, Unit: "s", Budget: 1})
	judged := timed(func() { live.Open(read.W, read.Kit, today()) })
	m.add(figure{What: "and judged", Value: judged, Unit: "s", Budget: 0.2 * max(1, float64(read.Report.Elements)/3000)})
	return nil
}

// parsedBare is how long one process takes to parse files and do nothing with them, in seconds.
func parsedBare(ctx context.Context, script []byte, files map[string][]byte) (float64, error) {
	dir, err := os.MkdirTemp("", "ubq-bare-")
	if err != nil {
		return 0, err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "markup.cjs")
	if err := os.WriteFile(file, script, 0o600); err != nil {
		return 0, err
	}
	var ask bytes.Buffer
	e := json.NewEncoder(&ask)
	for name, text := range files {
		if strings.HasSuffix(name, ".ts") || strings.HasSuffix(name, ".tsx") {
			if err := e.Encode(map[string]string{"file": name, "text": string(text), "as": "parse"}); err != nil {
				return 0, err
			}
		}
	}
	cmd := exec.CommandContext(ctx, "node", file)
	cmd.Stdin = &ask
	start := time.Now()
	if out, err := cmd.CombinedOutput(); err != nil {
		return 0, fmt.Errorf("%w: %s", err, out[:min(len(out), 200)])
	}
	return time.Since(start).Seconds(), nil
}
