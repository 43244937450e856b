// Package database gives every test a PostgreSQL database of its own out of one
// temporary cluster for each test process: the demo is loaded once and copied.
package database

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ubiquant/server"
	"ubiquant/server/pg"
	"ubiquant/server/store"
)

// template is the database that holds the demo and is copied.
const template = "demo"

var (
	begin   sync.Once
	cluster *pg.Cluster
	failed  error
	dir     string
	made    atomic.Int64
)

// Main runs a package's tests and ends the cluster after them:
//
//	func TestMain(m *testing.M) { os.Exit(database.Main(m)) }
func Main(m *testing.M) int {
	defer func() {
		if cluster != nil {
			cluster.Stop()
		}
		if dir != "" {
			os.RemoveAll(dir)
		}
	}()
	return m.Run()
}

// Demo is the address of a database with the demo and its people.
func Demo(t testing.TB) string { return create(t, " TEMPLATE "+template) }

// Empty is the address of a database without anything.
func Empty(t testing.TB) string { return create(t, "") }

func create(t testing.TB, how string) string {
	t.Helper()
	if testing.Short() {
		t.Skip("starts PostgreSQL")
	}
	begin.Do(start)
	require.NoError(t, failed)
	name := fmt.Sprintf("test%d", made.Add(1))
	require.NoError(t, execute("CREATE DATABASE "+name+how))
	return named(name)
}

func start() {
	failed = func() error {
		var err error
		if dir, err = os.MkdirTemp("", "ubq-test-"); err != nil {
			return err
		}
		if err = os.Chmod(dir, 0o711); err != nil { // the database's user enters it
			return err
		}
		ctx := context.Background()
		if cluster, err = pg.Start(ctx, pg.Options{Dir: dir, Make: true, Temporary: true}); err != nil {
			return err
		}
		if err = execute("CREATE DATABASE " + template); err != nil {
			return err
		}
		st, err := store.Open(ctx, named(template))
		if err != nil {
			return err
		}
		if err = server.Seed(ctx, st, nil); err != nil {
			return err
		}
		return st.Close()
	}()
}

func execute(sql string) error {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, cluster.Admin)
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, sql)
	return err
}

// named is the address of a database of the cluster.
func named(name string) string {
	u, err := url.Parse(cluster.Admin)
	if err != nil {
		panic(err) // the cluster's own address
	}
	u.Path = "/" + name
	return u.String()
}
