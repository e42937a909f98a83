package sandbox

import "strings"

// Stderr keeps the first 4,000 bytes that a child writes to its standard error: a process that ends
// over its own fault says why before it lists where it was.
type Stderr struct{ b []byte }

const stderrSize = 4000

// Write implements io.Writer.
func (s *Stderr) Write(p []byte) (int, error) {
	s.b = append(s.b, p[:min(len(p), stderrSize-len(s.b))]...)
	return len(p), nil
}

// String is what was kept.
func (s *Stderr) String() string { return strings.ToValidUTF8(string(s.b), "?") }

// OutOfMemory tells that a process said it could get no more memory.
func (s *Stderr) OutOfMemory() bool {
	for _, words := range []string{"out of memory", "cannot allocate memory", "failed to create new OS thread", "pthread_create failed", "cannot map pages", "failed to reserve"} {
		if strings.Contains(string(s.b), words) {
			return true
		}
	}
	return false
}
