// Package jobs does the queued work: taking repositories in, surveying them,
// removing them. The queue lives in PostgreSQL, so that any number of workers on
// any number of machines take up the work.
//
// The record of a repository or survey is the truth; a queue entry only says
// that somebody should look at it. While it works, a worker holds a lock that
// ends with its process; the work itself is done by a child with limits on what it
// takes (child.go), and the worker writes down how it ended. Recover finds records
// that say "running" while nobody holds their lock, and queues them again.
package jobs
