package store_test

import (
	"context"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

// Several processes that start at once on an empty database take turns.
func TestProcessesMigrateInTurn(t *testing.T) {
	ctx := context.Background()
	url := pgtest.URL(t)
	c, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	_, err = c.Exec(ctx, "DROP SCHEMA public CASCADE; CREATE SCHEMA public")
	require.NoError(t, err)
	require.NoError(t, c.Close(ctx))
	var all sync.WaitGroup
	for range 6 {
		all.Go(func() {
			s, err := store.Open(ctx, url)
			if assert.NoError(t, err) {
				assert.NoError(t, s.Migrate(ctx))
				s.Close()
			}
		})
	}
	all.Wait()
}
