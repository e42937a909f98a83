// Package pgtest gives each test a PostgreSQL database of its own: one server
// for the test process, one migrated template, one copy of it a test.
package pgtest

import (
	"context"
	"fmt"
	"os"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"

	"juxtagram/localpg"
	"juxtagram/store"
)

var (
	server *localpg.Server
	made   atomic.Int64
)

var finally []func()

// Finally does something after the last test of the package.
func Finally(do func()) { finally = append(finally, do) }

// Main runs a package's tests with a server beside them; call it from TestMain.
func Main(m *testing.M) {
	os.Exit(run(m))
}

func run(m *testing.M) int {
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "juxtagram-pg-")
	if err == nil {
		err = os.Chmod(dir, 0o755)
	}
	if err == nil {
		server, err = localpg.Start(ctx, dir, localpg.Options{Careless: true})
	}
	if err == nil {
		err = template(ctx)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "pgtest:", err)
		return 1
	}
	defer func() {
		if err := server.Stop(); err != nil {
			fmt.Fprintln(os.Stderr, "pgtest:", err)
		}
		_ = os.RemoveAll(dir)
	}()
	code := m.Run()
	for _, do := range finally {
		do()
	}
	return code
}

func admin(ctx context.Context, sql string) error {
	conn, err := pgx.Connect(ctx, server.URL)
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, sql)
	return err
}

func template(ctx context.Context) error {
	if err := admin(ctx, "CREATE DATABASE migrated"); err != nil {
		return err
	}
	s, err := store.Open(ctx, server.Database("migrated"))
	if err != nil {
		return err
	}
	defer s.Close()
	return s.Migrate(ctx)
}

// URL is the address of a fresh, migrated database.
func URL(t testing.TB) string {
	t.Helper()
	return Copy(t, server.Database("migrated"))
}

// Copy is the address of a fresh copy of a database of this server that nobody
// is connected to.
func Copy(t testing.TB, database string) string {
	t.Helper()
	at, err := pgx.ParseConfig(database)
	if err != nil {
		t.Fatal(err)
	}
	name := fmt.Sprintf("test_%d", made.Add(1))
	if err := admin(context.Background(), "CREATE DATABASE "+name+" TEMPLATE "+pgx.Identifier{at.Database}.Sanitize()); err != nil {
		t.Fatal(err)
	}
	return server.Database(name)
}

// Store is a store on a fresh database, closed when the test ends.
func Store(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), URL(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return s
}
