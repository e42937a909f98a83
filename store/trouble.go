package store

import (
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// IsUnreachable tells that an error says nothing of what was asked: the database does
// not answer, has ended, or is about to.
func IsUnreachable(err error) bool {
	var connect *pgconn.ConnectError
	var network *net.OpError
	var answer *pgconn.PgError
	switch {
	case errors.As(err, &connect), errors.Is(err, io.ErrUnexpectedEOF) && strings.Contains(err.Error(), "conn"):
		return true
	case errors.As(err, &answer):
		return strings.HasPrefix(answer.Code, "08") || strings.HasPrefix(answer.Code, "57P")
	case errors.As(err, &network):
		return true
	}
	return err != nil && (strings.Contains(err.Error(), "conn closed") || strings.Contains(err.Error(), "closed pool"))
}

// IsDiskFull tells that the database could not write because its disk is full.
func IsDiskFull(err error) bool {
	var answer *pgconn.PgError
	return errors.As(err, &answer) && answer.Code == "53100"
}

// IsUnkeepable tells that what was asked holds a value that no column can: a number that
// is too large, a text with a NUL or not in UTF-8.
func IsUnkeepable(err error) bool {
	var answer *pgconn.PgError
	if errors.As(err, &answer) {
		return strings.HasPrefix(answer.Code, "22")
	}
	return err != nil && strings.Contains(err.Error(), "is greater than maximum value for int4")
}
