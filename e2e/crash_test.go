package e2e

import (
	"context"
	"fmt"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/repo/repotest"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

// TestAKilledServerGoesOnByItself kills the program in the midst of a survey;
// the next start makes it whole, and until then nothing says that it is.
func TestAKilledServerGoesOnByItself(t *testing.T) {
	r := repotest.New(t)
	for i := range 400 {
		r.Write(fmt.Sprintf("pkg%d/file.go", i), fmt.Sprintf("package pkg%d\n\n%s", i, strings.Repeat(fmt.Sprintf("func F%d() int { return 1 } // TODO: x\n\n", i), 150)))
		if i%40 == 0 {
			r.Commit(fmt.Sprint(i))
		}
	}
	r.Commit("rest")
	database, data := pgtest.URL(t), t.TempDir()
	s := serve(t, database, data, "127.0.0.1:0", "--roots", filepath.Dir(r.Dir))
	p := page(t, s)
	steps(t, p.Open("/"), p.Fill("name", "Ona"), p.Fill("email", "ona@example.test"), p.Fill("password", password), p.Click("Make the account"), p.See("The shelf"),
		p.Open("/take-in"), p.Click("A folder of the server"), p.Fill("folder", r.Dir), p.Click("Take it in"), p.Click("Pin here and survey"))
	db, err := store.Open(context.Background(), database)
	require.NoError(t, err)
	defer db.Close()
	state := func() string {
		v, err := db.Survey(context.Background(), 1)
		if err != nil {
			return ""
		}
		return v.State
	}
	require.Eventually(t, func() bool { return state() == store.Running }, 20*time.Second, time.Millisecond)
	s.stop(syscall.SIGKILL)
	require.Equal(t, store.Running, state(), "killed in its midst")
	s = serve(t, database, data, "127.0.0.1:0", "--roots", filepath.Dir(r.Dir))
	require.Eventually(t, func() bool { return state() == store.Complete }, 60*time.Second, 20*time.Millisecond)
	q := page(t, s)
	steps(t, q.SignIn("ona@example.test", password), q.Open("/r/1"), q.See("60,000 tagged comments"))
	assert.Equal(t, store.Complete, state())
}
