package store_test

import (
	"errors"
	"fmt"
	"net"
	"os"
	"syscall"
	"testing"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/stretchr/testify/assert"

	"juxtagram/store"
)

func TestKindsOfTrouble(t *testing.T) {
	full := &os.PathError{Op: "write", Path: "x", Err: syscall.ENOSPC}
	for _, c := range []struct {
		err                           error
		unreachable, disk, unkeepable bool
	}{
		{nil, false, false, false},
		{errors.New("anything"), false, false, false},
		{full, false, false, false}, // of a file, not of the database
		{fmt.Errorf("saving: %w", &net.OpError{Op: "dial", Err: syscall.ECONNREFUSED}), true, false, false},
		{&pgconn.PgError{Code: "57P01"}, true, false, false},
		{&pgconn.PgError{Code: "08006"}, true, false, false},
		{fmt.Errorf("saving: %w", &pgconn.PgError{Code: "53100"}), false, true, false},
		{&pgconn.PgError{Code: "22021"}, false, false, true},
		{&pgconn.PgError{Code: "22003"}, false, false, true},
		{&pgconn.PgError{Code: "23505"}, false, false, false},
	} {
		assert.Equal(t, c.unreachable, store.IsUnreachable(c.err), "%v", c.err)
		assert.Equal(t, c.disk, store.IsDiskFull(c.err), "%v", c.err)
		assert.Equal(t, c.unkeepable, store.IsUnkeepable(c.err), "%v", c.err)
	}
}
