package jobs

import (
	"context"
	"encoding/json"
	"errors"
	"os"
	"strings"
	"sync"
	"time"

	"juxtagram/core/intake"
	"juxtagram/store"
)

// takeIn makes the mirror of a repository whose record says that it is being
// taken in.
func (r *Runner) takeIn(ctx context.Context, id int64) error {
	release, err := r.guard(ctx, lockTakeIn, id)
	if err != nil {
		return err
	}
	defer release()
	p, err := r.store.Repository(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil || p.State != store.TakingIn {
		return err
	}
	r.sayer(ctx, id)("starting")
	out, err := r.carryOut(ctx, takeInArgs{}.Kind(), id)
	if err != nil {
		return err // stopped, or an end that nobody expected: taken up again
	}
	set := map[string]any{"doing": "", "state": store.NeedsPin, "problem": "", "bytes": folderBytes(r.Mirror(id))}
	if out.Problem == "" && p.Pin != "" { // it was taken in before, and is read where it was
		if at, err := r.Git(id).Resolve(ctx, p.Pin); err == nil && at == p.Pin {
			set["state"] = store.Pinned
		}
	}
	if out.Problem != "" {
		set["state"], set["problem"] = store.TakeFailed, out.Problem
	} else if len(out.Notes) > 0 {
		notes, err := json.Marshal(out.Notes)
		if err != nil {
			return err
		}
		set["notes"] = json.RawMessage(notes)
	}
	if out.Problem == "" || out.Refused {
		defer func() {
			if p.SourceKind == "file" {
				_ = os.Remove(r.upload(p.ID)) // taken in, or of no use; its record says so by now
			}
		}()
	}
	if err := r.store.UpdateRepository(ctx, id, set); err != nil {
		return err
	}
	return r.store.Publish(ctx, store.Event{Kind: "repository", Repository: id, State: set["state"].(string)})
}

// makeMirror takes a repository in, afresh.
func (r *Runner) makeMirror(ctx context.Context, id int64) outcome {
	p, err := r.store.Repository(ctx, id)
	if err != nil {
		return outcome{Failed: err.Error()}
	}
	if err := r.Room(); err != nil {
		return failed(err)
	}
	mirror := r.Mirror(id)
	if err := os.RemoveAll(mirror); err != nil { // of a process that ended half-way
		return outcome{Failed: err.Error()}
	}
	var taken intake.Taken
	err = r.safely(func() (err error) {
		taken, err = r.source(ctx, p, mirror, r.sayer(ctx, id))
		return err
	})
	if err != nil && ctx.Err() == nil && !intake.IsRefused(err) {
		r.config.Logger.Error("taking in", "repository", id, "error", err)
	}
	out := failed(err)
	out.Notes = taken.Notes
	return out
}

func (r *Runner) source(ctx context.Context, p *store.Repository, mirror string, say func(string)) (intake.Taken, error) {
	o, err := r.options(ctx, p, say)
	if err != nil {
		return intake.Taken{}, err
	}
	switch p.SourceKind {
	case "folder":
		return intake.Folder(ctx, mirror, p.Source, o)
	case "file":
		o.Name = p.Source
		return intake.File(ctx, mirror, r.upload(p.ID), o)
	}
	return intake.Address(ctx, mirror, p.Source, o)
}

// options are those by which a repository is taken in and fetched.
func (r *Runner) options(ctx context.Context, p *store.Repository, say func(string)) (intake.Options, error) {
	roots, err := r.RootsOf(ctx, p.CreatedBy)
	if err != nil {
		return intake.Options{}, err
	}
	o := intake.Options{Roots: roots, Protocols: r.config.Protocols, AskPass: r.config.AskPass,
		Hosts:    &intake.HostPolicy{Allowed: r.config.PrivateHosts, Redirect: redirect},
		AnswerIn: r.config.AnswerIn, FetchIn: r.config.FetchIn, Progress: say}
	if len(p.Credential) > 0 {
		c, err := r.open(p.Credential)
		if err != nil {
			return o, err
		}
		o.Credential = c
	}
	return o, nil
}

// sayer keeps what a take-in is at: each step, and counts within one at most
// four times a second.
func (r *Runner) sayer(ctx context.Context, id int64) func(string) {
	var mu sync.Mutex
	var last time.Time
	step := ""
	return func(what string) {
		mu.Lock()
		defer mu.Unlock()
		now, _, _ := strings.Cut(what, ":") // "copying objects: 501 files"
		if now == step && time.Since(last) < 250*time.Millisecond {
			return
		}
		last, step = time.Now(), now
		if r.store.UpdateRepository(ctx, id, map[string]any{"doing": what}) == nil {
			_ = r.store.Publish(ctx, store.Event{Kind: "repository", Repository: id, State: store.TakingIn, Doing: what})
		}
	}
}
