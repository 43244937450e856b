package store

import (
	"context"
	"database/sql/driver"
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// Away reports whether an error says that the database is not there just now or cannot
// take anything, rather than that something is wrong with what it was asked.
func Away(err error) bool { return Why(err) != "" }

// Why says in words what keeps the database from answering; empty where that is not the
// matter. The classes are those of PostgreSQL's error codes (its appendix A).
func Why(err error) string {
	var sent *pgconn.PgError
	if errors.As(err, &sent) {
		switch {
		case sent.Code == "53100":
			return "its disk is full"
		case strings.HasPrefix(sent.Code, "53"):
			return "it has run out of something (" + sent.Message + ")"
		case strings.HasPrefix(sent.Code, "57P"), strings.HasPrefix(sent.Code, "08"):
			return "it is starting or stopping"
		case strings.HasPrefix(sent.Code, "58"), strings.HasPrefix(sent.Code, "XX"):
			return "its files cannot be used (" + sent.Message + ")"
		}
		return ""
	}
	var connect *pgconn.ConnectError
	var network net.Error
	switch {
	case errors.Is(err, context.Canceled):
		return ""
	case errors.As(err, &connect), errors.As(err, &network), errors.Is(err, driver.ErrBadConn),
		errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, net.ErrClosed), errors.Is(err, context.DeadlineExceeded):
		return "no connection can be made to it"
	}
	return ""
}
