package jobs

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"time"

	"juxtagram/core/intake"
	"juxtagram/core/sandbox"
	"juxtagram/store"
)

// Kind is the kind of child that does one job: what a hostile repository makes it take
// is bounded, and a process that ends over it is not the one that serves.
var Kind = sandbox.Kind{Name: kindName, Serve: serveJob}

const kindName = "job"

// processEnded begins the error of a job whose process ended for no known reason.
const processEnded = "the process that did it ended"

// order is a job as a child is given it.
type order struct {
	Kind     string
	ID       int64 // of the survey, or of the repository
	Database string
	Config   Config
}

// outcome is what became of a job.
type outcome struct {
	Problem string // why the repository cannot be worked on, for people; "": it could
	Refused bool   // the problem is the source's fault
	Failed  string // what went wrong of our own: the job may be tried again
	Notes   []string
	News    []intake.News
}

// failed is the outcome of an error: the source's fault, the repository's, or our own.
func failed(err error) outcome {
	switch {
	case err == nil:
		return outcome{}
	case store.IsUnreachable(err):
		return outcome{Failed: err.Error()}
	}
	return outcome{Problem: words(err), Refused: intake.IsRefused(err)}
}

// do does a job's work in this process.
func (r *Runner) do(ctx context.Context, kind string, id int64) outcome {
	switch kind {
	case surveyArgs{}.Kind():
		return r.makeSurvey(ctx, id)
	case takeInArgs{}.Kind():
		return r.makeMirror(ctx, id)
	case fetchArgs{}.Kind():
		return r.updateMirror(ctx, id)
	case historyArgs{}.Kind():
		return r.makeHistory(ctx, id)
	}
	return outcome{Failed: fmt.Sprintf("there is no job %q", kind)}
}

// carryOut does a job's work in a process of its own, within the limits. The error is
// ctx's, or tells that the job may be tried again.
func (r *Runner) carryOut(ctx context.Context, kind string, id int64) (outcome, error) {
	var out outcome
	if r.config.InProcess || !sandbox.Ready(kindName) {
		out = r.do(ctx, kind, id)
	} else {
		var err error
		if out, err = r.inChild(ctx, kind, id); err != nil {
			return out, err
		}
	}
	if err := ctx.Err(); err != nil {
		return out, err
	}
	if out.Failed != "" {
		return out, errors.New(out.Failed)
	}
	return out, nil
}

func (r *Runner) inChild(ctx context.Context, kind string, id int64) (out outcome, err error) {
	limits := r.config.Limits
	if (kind == takeInArgs{}.Kind() || kind == fetchArgs{}.Kind()) && limits.Wall > 0 {
		limits.Wall += r.config.FetchIn // an address has its own time
	}
	var stderr sandbox.Stderr
	p, err := sandbox.Start(kindName, sandbox.Options{Memory: limits.Memory, Alone: true, Log: &stderr, Env: networkSettings()})
	if err != nil {
		return out, err
	}
	watched, stop := context.WithCancel(ctx)
	reached := make(chan string, 1)
	go func() {
		why := limits.Watch(watched, p.PID())
		if watched.Err() != nil && ctx.Err() == nil {
			reached <- "" // it has ended
			return
		}
		sandbox.EndSession(p.PID()) // cancelled, or over a limit
		reached <- why
	}()
	raw, answered := r.ask(p, order{kind, id, r.store.URL(), r.config})
	stop()
	why := <-reached
	sandbox.EndSession(p.PID()) // whatever it left behind
	how := p.End()
	if text := stderr.String(); text != "" {
		r.config.Logger.Warn("standard error of a job", "job", kind, "id", id, "text", text)
	}
	switch {
	case ctx.Err() != nil:
		return out, ctx.Err()
	case why != "":
		return outcome{Problem: "it was ended: " + why}, nil
	case answered == nil:
		return out, json.Unmarshal(raw, &out)
	case stderr.OutOfMemory():
		return outcome{Problem: fmt.Sprintf("it was ended: it takes more than %d MB of memory", limits.Memory>>20)}, nil
	}
	return out, fmt.Errorf(processEnded+" (%s)", how)
}

// ask gives a child its order and waits for the outcome.
func (r *Runner) ask(p *sandbox.Process, o order) ([]byte, error) {
	raw, err := json.Marshal(o)
	if err != nil {
		return nil, err
	}
	if err := sandbox.Send(p.In, raw); err != nil {
		return nil, err
	}
	if err := p.In.Flush(); err != nil {
		return nil, err
	}
	return sandbox.Receive(p.Out)
}

// networkSettings are the variables that git needs to reach an address.
func networkSettings() (env []string) {
	for _, name := range intake.NetworkVariables {
		if v := os.Getenv(name); v != "" {
			env = append(env, name+"="+v)
		}
	}
	return env
}

// serveJob does one job and ends.
func serveJob(in io.Reader, out io.Writer) error {
	raw, err := sandbox.Receive(in)
	if err != nil {
		return err
	}
	var o order
	if err := json.Unmarshal(raw, &o); err != nil {
		return err
	}
	go func() { // whoever gave the order is gone: nobody would end what was started for it
		_, _ = io.Copy(io.Discard, in)
		sandbox.EndSession(os.Getpid())
	}()
	ctx := context.Background()
	s, err := store.Open(ctx, o.Database)
	if err != nil {
		return err
	}
	defer s.Close()
	o.Config.InProcess = true
	o.Config.Logger = slog.New(slog.NewTextHandler(os.Stderr, nil))
	r, err := New(s, o.Config)
	if err != nil {
		return err
	}
	answer, err := json.Marshal(r.do(ctx, o.Kind, o.ID))
	if err != nil {
		return err
	}
	return sandbox.Send(out, answer)
}

// DefaultLimits are what a job may take.
var DefaultLimits = sandbox.Limits{Memory: 3 << 30, Processor: 30 * time.Minute, Wall: time.Hour}
