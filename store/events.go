package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
)

// Event tells every process of an installation that something has changed.
type Event struct {
	Kind       string          `json:"kind" enum:"repository,survey,plan,history,leads,notes,place,composing" doc:"What has changed"`
	Repository int64           `json:"repository"`
	Survey     int64           `json:"survey,omitempty"`
	Plan       int64           `json:"plan,omitempty"`
	Seq        int64           `json:"seq,omitempty" doc:"The plan's newest operation"`
	Thread     int64           `json:"thread,omitempty" doc:"That has changed"`
	State      string          `json:"state,omitempty"`
	Stages     []StageProgress `json:"stages,omitempty"`
	Doing      string          `json:"doing,omitempty"`
	Person     int64           `json:"person,omitempty" doc:"Who is at a passage"`
	Name       string          `json:"name,omitempty" doc:"Their name"`
	Passage    string          `json:"passage,omitempty" doc:"Where they are; empty: nowhere any more"`
	PrivateTo  int64           `json:"private_to,omitempty" doc:"The only person it is for"`
}

const channel = "juxtagram"

// Publish sends an event to every process that listens.
func (s *Store) Publish(ctx context.Context, e Event) error { return publish(ctx, s.pool, e) }

// publish sends an event; in a transaction, when that is committed.
func publish(ctx context.Context, in interface {
	Exec(ctx context.Context, query string, args ...any) (pgconn.CommandTag, error)
}, e Event) error {
	b, err := json.Marshal(e)
	if err != nil {
		return err
	}
	_, err = in.Exec(ctx, "SELECT pg_notify($1, $2)", channel, string(b))
	return err
}

// Listen calls do with every event until ctx is done. It connects again when
// the database was away; missed then tells that events may have been lost.
func (s *Store) Listen(ctx context.Context, do func(Event), missed func()) {
	for first := true; ctx.Err() == nil; first = false {
		err := s.listen(ctx, do, missed, first)
		if err != nil && ctx.Err() == nil {
			select {
			case <-time.After(time.Second):
			case <-ctx.Done():
			}
		}
	}
}

func (s *Store) listen(ctx context.Context, do func(Event), missed func(), first bool) error {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer conn.Release()
	raw := conn.Hijack() // a listening connection must not go back to the pool
	defer func() { _ = raw.Close(context.WithoutCancel(ctx)) }()
	if _, err := raw.Exec(ctx, "LISTEN "+channel); err != nil {
		return err
	}
	if !first {
		missed()
	}
	for {
		n, err := raw.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		var e Event
		if json.Unmarshal([]byte(n.Payload), &e) == nil {
			do(e)
		}
	}
}

// Lock tries to take a lock that lasts until release is called or this process
// ends, however it ends. ok tells whether it was free.
func (s *Store) Lock(ctx context.Context, class, id int64) (release func(), ok bool, err error) {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return nil, false, err
	}
	raw := conn.Hijack()
	closeIt := func() {
		after, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		_, _ = raw.Exec(after, "SELECT pg_advisory_unlock_all()") // the server ends a session some time after it is closed
		_ = raw.Close(after)
	}
	if err := raw.QueryRow(ctx, "SELECT pg_try_advisory_lock($1::int, $2::int)", class, id).Scan(&ok); err != nil || !ok {
		closeIt()
		return nil, false, err
	}
	return closeIt, true, nil
}
