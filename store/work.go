package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// RunningJob is a job of the queue that some process says it works on.
type RunningJob struct {
	ID      int64
	Kind    string
	Subject int64 // the record it works on: its first argument
	Attempt int
}

// RunningJobs are the jobs of some kinds that were begun before a time.
func (s *Store) RunningJobs(ctx context.Context, kinds []string, before time.Time) ([]RunningJob, error) {
	rows, err := s.pool.Query(ctx, `SELECT id, kind, coalesce((args->>'survey')::bigint, (args->>'repository')::bigint, 0), attempt FROM river_job
		WHERE state = 'running' AND kind = ANY ($1) AND attempted_at < $2 ORDER BY id`, kinds, before)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[RunningJob])
}

// RescueJob gives back a job whose process has ended: it is done again, unless it was
// tried as often as it may. Nothing happens where somebody has begun it anew.
func (s *Store) RescueJob(ctx context.Context, j *RunningJob) error {
	_, err := s.pool.Exec(ctx, `UPDATE river_job SET
			state = CASE WHEN attempt < max_attempts THEN 'available' ELSE 'discarded' END::river_job_state,
			finalized_at = CASE WHEN attempt < max_attempts THEN NULL ELSE now() END,
			scheduled_at = now(),
			errors = array_append(errors, jsonb_build_object('at', now(), 'attempt', attempt, 'error', $3::text, 'trace', ''))
		WHERE id = $1 AND state = 'running' AND attempt = $2`, j.ID, j.Attempt, ProcessEnded)
	return err
}

// ProcessEnded is why a job was given back.
const ProcessEnded = "the process that worked on it ended"

// Idle is a record that says it is worked on while no job of the queue does.
type Idle struct {
	ID     int64
	Failed string // why its job was given up; "": there is none, or it ended without a word
}

// idle is the condition of a job j that nobody will do any more.
const idle = "(j.id IS NULL OR j.state IN ('completed', 'cancelled', 'discarded'))"

// why is the reason why a job j was given up.
const why = "CASE WHEN j.state = 'discarded' THEN coalesce(j.errors[array_upper(j.errors, 1)]->>'error', 'it was given up') ELSE '' END"

func (s *Store) idle(ctx context.Context, query string, args ...any) ([]Idle, error) {
	rows, err := s.pool.Query(ctx, query, args...)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Idle])
}

// IdleSurveys are surveys that wait or run while no job makes them.
func (s *Store) IdleSurveys(ctx context.Context) ([]Idle, error) {
	return s.idle(ctx, "SELECT v.id, "+why+" FROM survey v LEFT JOIN river_job j ON j.id = v.job_id WHERE v.state IN ($1, $2) AND "+idle+" ORDER BY v.id", Waiting, Running)
}

// IdleTakeIns are repositories that are being taken in while no job does it.
func (s *Store) IdleTakeIns(ctx context.Context) ([]Idle, error) {
	return s.idle(ctx, "SELECT r.id, "+why+" FROM repository r LEFT JOIN river_job j ON j.id = r.job_id WHERE r.state = $1 AND "+idle+" ORDER BY r.id", TakingIn)
}

// IdleFetches are repositories whose new commits are asked for while no job of a kind
// fetches them.
func (s *Store) IdleFetches(ctx context.Context, kind string) ([]Idle, error) {
	return s.idle(ctx, `SELECT r.id, '' FROM repository r WHERE r.fetching AND NOT EXISTS (SELECT 1 FROM river_job j
		WHERE j.kind = $1 AND (j.args->>'repository')::bigint = r.id AND j.state NOT IN ('completed', 'cancelled', 'discarded')) ORDER BY r.id`, kind)
}
