package repo

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os/exec"
	"path"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"time"
)

// gitTime bounds one question to git.
const gitTime = 60 * time.Second

// git asks git something about a folder. Nothing that the repository's own settings could
// start is started.
func git(ctx context.Context, dir string, in []byte, args ...string) ([]byte, error) {
	ctx, cancel := context.WithTimeout(ctx, gitTime)
	defer cancel()
	all := append([]string{
		"-C", dir, "--no-optional-locks", "--no-pager", "-c", "core.fsmonitor=false", "-c", "core.hooksPath=/dev/null", "-c", "protocol.allow=never", "-c", "diff.external=",
	}, args...)
	cmd := exec.CommandContext(ctx, "git", all...)
	cmd.Stdin = bytes.NewReader(in)
	var said bytes.Buffer
	cmd.Stderr = &said
	out, err := cmd.Output()
	if errors.Is(err, exec.ErrNotFound) {
		return nil, errors.New("git is not installed here")
	}
	if err != nil {
		return nil, fmt.Errorf("git %s: %s", args[0], strings.TrimSpace(said.String()))
	}
	return out, nil
}

// Revision lists the files of a folder as they stood at a revision of git: those that are read
// of a repository, by their paths within the folder.
func Revision(ctx context.Context, dir, revision string) (files map[string][]byte, err error) {
	if strings.HasPrefix(revision, "-") {
		return nil, fmt.Errorf("%q is no revision", revision)
	}
	if real, err := filepath.EvalSymlinks(dir); err == nil {
		dir = real
	}
	if _, err := git(ctx, dir, nil, "rev-parse", "--verify", "--quiet", revision+"^{commit}"); err != nil {
		return nil, fmt.Errorf("%q is neither a file, a folder nor a revision of git in %s", revision, dir)
	}
	list, err := git(ctx, dir, nil, "ls-tree", "-r", "-z", "-l", "--full-tree", revision)
	if err != nil {
		return nil, err
	}
	prefix, err := git(ctx, dir, nil, "rev-parse", "--show-prefix")
	if err != nil {
		return nil, err
	}
	within := strings.TrimSpace(string(prefix))
	var names, hashes []string
	for entry := range strings.SplitSeq(string(list), "\x00") {
		head, name, ok := strings.Cut(entry, "\t")
		fields := strings.Fields(head)
		if !ok || len(fields) != 4 || fields[1] != "blob" || !strings.HasPrefix(name, within) || strings.HasPrefix(fields[0], "12") {
			continue
		}
		name = strings.TrimPrefix(name, within)
		size, _ := strconv.Atoi(fields[3])
		if base := path.Base(name); size > maxFile || !inside(name) || !languages[path.Ext(name)] && path.Ext(name) != ".json" && base != "CODEOWNERS" {
			continue
		}
		names, hashes = append(names, name), append(hashes, fields[2])
	}
	if len(names) > maxFiles {
		return nil, fmt.Errorf("%s has more than %d files", revision, maxFiles)
	}
	out, err := git(ctx, dir, []byte(strings.Join(hashes, "\n")+"\n"), "cat-file", "--batch")
	if err != nil {
		return nil, err
	}
	files = map[string][]byte{}
	for _, name := range names {
		line, rest, ok := bytes.Cut(out, []byte("\n"))
		fields := strings.Fields(string(line))
		if !ok || len(fields) != 3 {
			return nil, fmt.Errorf("git cat-file answered %q for %s", line, name)
		}
		size, err := strconv.Atoi(fields[2])
		if err != nil || size+1 > len(rest) {
			return nil, fmt.Errorf("git cat-file answered too little for %s", name)
		}
		files[name], out = rest[:size], rest[size+1:]
	}
	return files, nil
}

// FileAt is one file as it stood at a revision.
func FileAt(ctx context.Context, file, revision string) ([]byte, error) {
	if strings.HasPrefix(revision, "-") {
		return nil, fmt.Errorf("%q is no revision", revision)
	}
	return git(ctx, filepath.Dir(file), nil, "cat-file", "blob", revision+":./"+filepath.Base(file))
}

// historyTime bounds how long git may look for when files were added.
const historyTime = 5 * time.Second

// ages keeps what git said of a folder, for as long as it stands at the same commit.
var ages sync.Map // of aged, by folder

type aged struct {
	head string
	made map[string]string
}

// made tells on which day each file of a folder was added to its repository, by its path within
// the folder, renamed or not. Without git nothing is known; why says what git could not tell of a
// repository that there is.
func made(ctx context.Context, dir string) (out map[string]string, why string) {
	head, err := git(ctx, dir, nil, "rev-parse", "--verify", "--quiet", "HEAD")
	if err != nil {
		return nil, "" // no repository of git, or one without a commit
	}
	if known, ok := ages.Load(dir); ok && known.(aged).head == string(head) {
		return known.(aged).made, ""
	}
	ctx, cancel := context.WithTimeout(ctx, historyTime)
	defer cancel()
	said, err := git(ctx, dir, nil, "-c", "core.quotePath=false", "-c", "diff.renameLimit=400", "log", "--relative", "--no-color",
		"--format=%x01%cs", "--name-status", "--find-renames", "--diff-filter=AR", "--no-ext-diff", "--", ".")
	if ctx.Err() != nil {
		return nil, fmt.Sprintf("its history is long: when files were added is not known after %s, so that no move from one way to another is told", historyTime)
	}
	if err != nil {
		return nil, err.Error()
	}
	out = map[string]string{}
	now := map[string]string{} // what a file is called today, by what it was called then
	day := ""
	for line := range strings.Lines(string(said)) {
		line = strings.TrimRight(line, "\r\n")
		if when, ok := strings.CutPrefix(line, "\x01"); ok {
			day = when
			continue
		}
		parts := strings.Split(line, "\t")
		today := func(name string) string {
			if to, ok := now[name]; ok {
				return to
			}
			return name
		}
		switch {
		case len(parts) == 2 && parts[0] == "A":
			out[today(parts[1])] = day // the first time counts, and the log begins with the last
		case len(parts) == 3 && strings.HasPrefix(parts[0], "R"):
			now[parts[1]] = today(parts[2])
			out[today(parts[2])] = day
		}
	}
	ages.Store(dir, aged{string(head), out})
	return out, ""
}
