// Package pg finds Debian's PostgreSQL and runs a private cluster of it on loopback, for
// a server, a command or a test that has no database of its own. Of those who use a data
// folder at the same time one owns the cluster, the others are guests: they never stop it.
package pg

import (
	"errors"
	"fmt"
	"net"
	"os"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
)

// ErrMissing says that PostgreSQL is not installed, and how to get it.
var ErrMissing = errors.New(
	"PostgreSQL is not installed; as root run: apt-get install -y --no-install-recommends postgresql",
)

// Find returns the folder with the newest PostgreSQL's programs.
func Find() (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	if err != nil || len(found) == 0 {
		return "", ErrMissing
	}
	version := func(p string) int {
		n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(p)))) // a name that is no number sorts first
		return n
	}
	slices.SortFunc(found, func(a, b string) int { return version(b) - version(a) })
	return filepath.Dir(found[0]), nil
}

// owner is who runs the cluster: postgres where root starts it, for PostgreSQL
// refuses to run as root.
func owner() (*syscall.Credential, error) {
	if os.Getuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, fmt.Errorf("PostgreSQL does not run as root, and there is no user postgres: %w", err)
	}
	uid, err := strconv.ParseUint(u.Uid, 10, 32)
	if err != nil {
		return nil, err
	}
	gid, err := strconv.ParseUint(u.Gid, 10, 32)
	if err != nil {
		return nil, err
	}
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
}

func tail(s string) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	return strings.Join(lines[max(0, len(lines)-6):], "\n")
}

// reachable checks that the cluster's user can enter the folders above dir.
func reachable(dir string, cred *syscall.Credential) error {
	if cred == nil {
		return nil
	}
	for p := filepath.Dir(dir); ; p = filepath.Dir(p) {
		info, err := os.Stat(p)
		if err == nil && info.Mode().Perm()&0o001 == 0 {
			return fmt.Errorf(
				"the data folder %s cannot be used as root: the user postgres cannot enter %s; choose another with --data, for example /var/lib/ubiquant",
				dir,
				p,
			)
		}
		if p == "/" {
			return nil
		}
	}
}

// running reads postmaster.pid: its first line is the process, its fourth the port.
func running(data string) (pid, port int, ok bool) {
	text, err := os.ReadFile(filepath.Join(data, "postmaster.pid"))
	if err != nil {
		return 0, 0, false
	}
	lines := strings.Split(string(text), "\n")
	if len(lines) < 4 {
		return 0, 0, false
	}
	pid, err = strconv.Atoi(strings.TrimSpace(lines[0]))
	if err != nil || syscall.Kill(pid, 0) == syscall.ESRCH {
		return 0, 0, false
	}
	port, err = strconv.Atoi(strings.TrimSpace(lines[3]))
	return pid, port, err == nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}
