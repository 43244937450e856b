package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// Listen calls heard for every change any process stores, until ctx ends; own
// tells the changes of this process, which it tells its windows of by itself. It
// uses a connection of its own and comes back when that is lost.
//
// said, which may be nil, is told what other processes say by Say.
func (s *Store) Listen(
	ctx context.Context,
	heard func(workspace, seq int64, own bool),
	said func(text string),
) error {
	for {
		err := s.listenOnce(ctx, heard, said)
		if ctx.Err() != nil {
			return nil
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(500 * time.Millisecond):
		}
		_ = err // a lost connection is expected when the database restarts; the next turn reconnects
	}
}

// maxSaid bounds what is said at once: the payload of a notification holds 8,000 bytes.
const maxSaid = 4000

// Say tells the other processes on the database something in passing. It is kept nowhere;
// who does not listen just then never hears it.
func (s *Store) Say(ctx context.Context, text string) error {
	if len(text) > maxSaid {
		return fmt.Errorf("%d bytes cannot be said at once; accepted: up to %d", len(text), maxSaid)
	}
	return s.db.WithContext(ctx).Exec("SELECT pg_notify('ubiquant_said', ?)", s.origin+" "+text).Error
}

func (s *Store) listenOnce(
	ctx context.Context,
	heard func(workspace, seq int64, own bool),
	said func(text string),
) error {
	conn, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	if _, err := conn.Exec(ctx, "LISTEN ubiquant; LISTEN ubiquant_said"); err != nil {
		return err
	}
	// What was missed while there was no connection: the numbers as they stand.
	rows, err := conn.Query(ctx, "SELECT id, seq FROM workspaces")
	if err != nil {
		return err
	}
	for rows.Next() {
		var id, seq int64
		if err := rows.Scan(&id, &seq); err != nil {
			return err
		}
		heard(id, seq, false)
	}
	rows.Close()
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		if n.Channel == "ubiquant_said" {
			if origin, text, _ := strings.Cut(n.Payload, " "); origin != s.origin && said != nil {
				said(text)
			}
			continue
		}
		var id, seq int64
		var origin string
		if _, err := fmt.Sscan(n.Payload, &id, &seq, &origin); err == nil {
			heard(id, seq, origin == s.origin)
		}
	}
}
