package server

import (
	"context"
	"net/http"
	"runtime"
	"sync"
	"sync/atomic"
	"time"

	"github.com/alexedwards/argon2id"
)

// passwords makes and compares hashes. Each takes 64 MB and works on several processors
// at once: as many are made side by side as leave each processor one of their threads.
type passwords struct {
	turn    chan struct{}
	garbage atomic.Bool // the memory of a hash was not collected yet
}

// hashPatience is how long somebody waits for their turn.
const hashPatience = 5 * time.Second

func newPasswords() *passwords {
	return &passwords{turn: make(chan struct{}, max(1, runtime.GOMAXPROCS(0)/int(argon2id.DefaultParams.Parallelism)))}
}

func (p *passwords) begin(ctx context.Context) error {
	timer := time.NewTimer(hashPatience)
	defer timer.Stop()
	select {
	case p.turn <- struct{}{}:
		if p.garbage.Swap(false) {
			runtime.GC() // else the memory of many hashes lies about at once
		}
		return nil
	case <-ctx.Done():
		return ctx.Err()
	case <-timer.C:
		busy := problem(http.StatusServiceUnavailable, "busy", "many people sign in right now; try again in a few seconds")
		busy.after = int(hashPatience / time.Second)
		return busy
	}
}

func (p *passwords) end() {
	p.garbage.Store(true)
	<-p.turn
}

func (p *passwords) hash(ctx context.Context, password string) (string, error) {
	if err := p.begin(ctx); err != nil {
		return "", err
	}
	defer p.end()
	return argon2id.CreateHash(password, argon2id.DefaultParams)
}

// same compares a password with a hash; "" stands for an account that there is not, and
// takes as long.
func (p *passwords) same(ctx context.Context, password, hash string) (bool, error) {
	if err := p.begin(ctx); err != nil {
		return false, err
	}
	defer p.end()
	if hash == "" {
		_, err := argon2id.ComparePasswordAndHash(password, noSuchPerson())
		return false, err
	}
	return argon2id.ComparePasswordAndHash(password, hash)
}

var noSuchPerson = sync.OnceValue(func() string {
	hash, _ := argon2id.CreateHash("nobody's password", argon2id.DefaultParams) // none compares with nothing
	return hash
})
