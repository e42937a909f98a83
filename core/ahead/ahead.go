// Package ahead begins work before its result is asked for.
package ahead

import "sync"

// Begin starts something in the background, and gives what waits for its end and
// tells its result, to as many as ask. What panics, panics where it is waited for.
func Begin[T any](do func() (T, error)) func() (T, error) {
	got := sync.OnceValues(do)
	go func() {
		defer func() { _ = recover() }() // whoever waits meets it again
		_, _ = got()
	}()
	return got
}
