package pg

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"

	"github.com/jackc/pgx/v5"
)

// admin is the cluster's superuser, app the role that the application connects as: it
// owns the tables and nothing else.
const (
	admin = "ubiquant"
	app   = "ubiquant_app"
)

func dataDir(dir string) string { return filepath.Join(dir, "pg") }

// secretFile holds the password of a role.
func secretFile(dir, role string) string {
	if role == admin {
		return filepath.Join(dir, "pg.password")
	}
	return filepath.Join(dir, "pg.app.password")
}

// exists reports whether a folder has a cluster.
func exists(dir string) bool {
	_, err := os.Stat(filepath.Join(dataDir(dir), "PG_VERSION"))
	return err == nil
}

// secret reads the password of a role, or makes one.
func secret(dir, role string) (text string, made bool, err error) {
	old, err := os.ReadFile(secretFile(dir, role))
	if err == nil && len(old) > 0 {
		return string(old), false, nil
	}
	var key [16]byte
	if _, err := rand.Read(key[:]); err != nil {
		return "", false, err
	}
	text = hex.EncodeToString(key[:])
	return text, true, os.WriteFile(secretFile(dir, role), []byte(text), 0o600)
}

// create makes the cluster of a folder. It is made beside and renamed, so that one that
// was interrupted leaves nothing that looks whole.
func create(ctx context.Context, bin, dir string, cred *syscall.Credential) error {
	part := dataDir(dir) + ".part"
	if err := os.RemoveAll(part); err != nil {
		return err
	}
	if err := os.RemoveAll(secretFile(dir, admin)); err != nil {
		return err
	}
	if _, _, err := secret(dir, admin); err != nil {
		return err
	}
	if err := os.MkdirAll(part, 0o700); err != nil {
		return err
	}
	if cred != nil {
		for _, p := range []string{part, secretFile(dir, admin)} {
			if err := os.Chown(p, int(cred.Uid), int(cred.Gid)); err != nil {
				return err
			}
		}
	}
	cmd := exec.CommandContext(ctx, filepath.Join(bin, "initdb"),
		"-D", part, "-U", admin, "-A", "scram-sha-256", "--pwfile="+secretFile(dir, admin),
		"-E", "UTF8", "--locale=C.UTF-8", "--no-sync")
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: cred, Setpgid: true}
	cmd.Dir = "/"
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("initdb: %w: %s", err, strings.TrimSpace(string(out)))
	}
	return os.Rename(part, dataDir(dir))
}

// address is how a role connects.
func address(dir, role string, port int) (string, error) {
	password, err := os.ReadFile(secretFile(dir, role))
	if err != nil {
		return "", err
	}
	return fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/postgres?sslmode=disable", role, password, port), nil
}

// hand gives the application's role what is its own. Clusters of an earlier version, in
// which the superuser owned the tables, are brought up to date.
func hand(ctx context.Context, dir string, port int) error {
	url, err := address(dir, admin, port)
	if err != nil {
		return err
	}
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	password, fresh, err := secret(dir, app)
	if err != nil {
		return err
	}
	var known bool
	err = conn.QueryRow(ctx, "SELECT count(*) > 0 FROM pg_roles WHERE rolname = $1", app).Scan(&known)
	if err != nil {
		return err
	}
	verb := "CREATE"
	if known {
		verb = "ALTER"
	}
	if !known || fresh {
		// The password is hexadecimal, made here.
		if _, err := conn.Exec(ctx, verb+" ROLE "+app+" LOGIN NOSUPERUSER PASSWORD '"+password+"'"); err != nil {
			return err
		}
	}
	_, err = conn.Exec(ctx, `DO $$
DECLARE r record;
BEGIN
  ALTER SCHEMA public OWNER TO `+app+`;
  FOR r IN SELECT c.oid::regclass AS name, c.relkind FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE n.nspname = 'public' AND c.relkind IN ('r', 'S') AND c.relowner <> '`+app+`'::regrole
      AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('a', 'i') AND c.relkind = 'S')
  LOOP
    IF r.relkind = 'r' THEN EXECUTE format('ALTER TABLE %s OWNER TO `+app+`', r.name);
    ELSE EXECUTE format('ALTER SEQUENCE %s OWNER TO `+app+`', r.name); END IF;
  END LOOP;
END $$`)
	return err
}
