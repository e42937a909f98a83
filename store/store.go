package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivermigrate"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"juxtagram/core/plan"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is the records of one installation. It is safe for concurrent use.
type Store struct {
	db            *gorm.DB
	pool          *pgxpool.Pool
	planStates    *lru.Cache[int64, foldedPlan]
	editionStates *lru.Cache[[2]int64, *plan.State] // plan and number
}

// Open connects to a PostgreSQL database by its address.
func Open(ctx context.Context, url string) (*Store, error) { return OpenTraced(ctx, url, nil) }

// OpenTraced is Open with a tracer that hears of every query; nil: none.
func OpenTraced(ctx context.Context, url string, tracer pgx.QueryTracer) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("the database address cannot be read: %w", err)
	}
	config.ConnConfig.Tracer = tracer
	if config.MaxConns < 16 {
		config.MaxConns = 16
	}
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, err
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: stdlib.OpenDBFromPool(pool)}), &gorm.Config{
		Logger: logger.Discard, SkipDefaultTransaction: true, TranslateError: true,
	})
	if err != nil {
		pool.Close()
		return nil, err
	}
	s := &Store{db: db, pool: pool}
	if s.planStates, err = lru.New[int64, foldedPlan](heldPlans); err != nil {
		return nil, err
	}
	if s.editionStates, err = lru.New[[2]int64, *plan.State](heldPlans); err != nil {
		return nil, err
	}
	return s, nil
}

// Pool is the pool of connections, for the queue and for sessions.
func (s *Store) Pool() *pgxpool.Pool { return s.pool }

// URL is the address of the database.
func (s *Store) URL() string { return s.pool.Config().ConnString() }

// Close closes every connection.
func (s *Store) Close() { s.pool.Close() }

// InTx calls do in a transaction, which ends well if do does: for a record and the job
// that works on it.
func (s *Store) InTx(ctx context.Context, do func(tx pgx.Tx) error) error {
	return pgx.BeginFunc(ctx, s.pool, do)
}

// Migrate brings the database to the newest schema, the queue's included.
func (s *Store) Migrate(ctx context.Context) error {
	// processes that start together take turns
	turn, err := s.pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer turn.Release()
	if _, err := turn.Exec(ctx, "SELECT pg_advisory_lock($1)", migrationLock); err != nil {
		return fmt.Errorf("waiting for another process that migrates the database: %w", err)
	}
	defer func() {
		_, _ = turn.Exec(context.WithoutCancel(ctx), "SELECT pg_advisory_unlock($1)", migrationLock)
	}()
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	db := stdlib.OpenDBFromPool(s.pool)
	defer db.Close()
	provider, err := goose.NewProvider(goose.DialectPostgres, db, dir)
	if err != nil {
		return err
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrating the database: %w", err)
	}
	queue, err := rivermigrate.New(riverpgxv5.New(s.pool), nil)
	if err != nil {
		return err
	}
	if _, err := queue.Migrate(ctx, rivermigrate.DirectionUp, nil); err != nil {
		return fmt.Errorf("migrating the queue: %w", err)
	}
	return nil
}

// migrationLock is the lock of whoever migrates; its class differs from those of jobs,
// which have two numbers.
const migrationLock = 0x6a757874

// Ready is an error where the database does not answer, or has no queue.
func (s *Store) Ready(ctx context.Context) error {
	var n int
	return s.pool.QueryRow(ctx, "SELECT count(*) FROM (SELECT 1 FROM river_job LIMIT 1) x").Scan(&n)
}

// ErrNotFound tells that a record is not there.
var ErrNotFound = errors.New("not found")

// ErrTaken tells that a name that must be unique is in use.
var ErrTaken = errors.New("already in use")

func known(err error) error {
	switch {
	case errors.Is(err, gorm.ErrRecordNotFound), errors.Is(err, pgx.ErrNoRows):
		return ErrNotFound
	case errors.Is(err, gorm.ErrDuplicatedKey):
		return ErrTaken
	}
	return err
}
