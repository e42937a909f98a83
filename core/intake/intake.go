package intake

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"juxtagram/core/repo"
)

// Refused tells that a source cannot be taken in, in words for the person who
// named it.
type Refused struct{ Reason string }

func (r *Refused) Error() string { return r.Reason }

func refuse(format string, args ...any) error { return &Refused{fmt.Sprintf(format, args...)} }

// IsRefused tells whether an error is the source's fault.
func IsRefused(err error) bool {
	var r *Refused
	return errors.As(err, &r)
}

// Credential opens a private address; at most one of Token and Key is set.
type Credential struct {
	User  string `json:"user,omitempty"`  // for the token; "" lets one be made up
	Token string `json:"token,omitempty"` // for https
	Key   string `json:"key,omitempty"`   // a private key, for ssh
}

// Options steer a take-in.
type Options struct {
	// Roots are the folders below which folders may be taken in; nil: any.
	Roots []string
	// Protocols an address may use; nil: https and ssh.
	Protocols []string
	// Hosts says which hosts may be asked; nil: any.
	Hosts      *HostPolicy
	Credential *Credential
	// AskPass is a program that answers git's question for a password from the
	// environment variables JUXTAGRAM_ASKPASS_USER and _TOKEN, where it is asked for
	// _HOST.
	AskPass   string
	Name      string        // of a file, for people; "": its own
	Temp      string        // folder for temporary files; "": the mirror's parent
	AnswerIn  time.Duration // how long an address may take to answer; 0: 30 s
	FetchIn   time.Duration // how long it may take to send everything; 0: 1 h
	Limits    Limits        // zero: DefaultLimits
	Once      bool          // the mirror is used once: its history is not indexed, nor looked through for damage
	Progress  func(what string)
	KnownHost string // file of known ssh hosts; "": one beside the mirror
}

func (o *Options) say(format string, args ...any) {
	if o.Progress != nil {
		o.Progress(fmt.Sprintf(format, args...))
	}
}

// Taken is what a take-in tells of the mirror it made.
type Taken struct {
	Kind  string   // "folder" | "address" | "archive" | "bundle"
	Made  bool     // the only commit was made from an archive without history
	Notes []string // what was left out, in words
}

// create makes an empty bare repository at dir, which must not exist.
func create(ctx context.Context, dir, objectFormat string) (*repo.Git, error) {
	if _, err := os.Lstat(dir); err == nil {
		return nil, fmt.Errorf("%s exists already", dir)
	}
	args := append(append([]string{}, repo.SafeConfig...), "init", "--quiet", "--bare", "--template=", "--initial-branch=main")
	if objectFormat != "" {
		args = append(args, "--object-format="+objectFormat)
	}
	cmd := exec.CommandContext(ctx, "git", append(args, dir)...)
	cmd.Env = repo.Environ()
	if out, err := cmd.CombinedOutput(); err != nil {
		return nil, fmt.Errorf("git init: %s", strings.TrimSpace(string(out)))
	}
	return repo.At(dir), nil
}

// finish checks that there is something to read, and writes the commit-graph,
// which also visits every commit.
func finish(ctx context.Context, g *repo.Git, o *Options) error {
	if _, _, err := g.Head(ctx); err != nil {
		if errors.Is(err, repo.ErrNoCommits) {
			return refuse("%s", err)
		}
		return err
	}
	if o.Once {
		return nil
	}
	o.say("indexing history")
	if err := g.WriteCommitGraph(ctx); err != nil {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if words, ok := Words(err); ok {
			return refuse("%s", words)
		}
		return err
	}
	return nil
}

// Source takes in whatever source names: an address, a folder, or a file with
// an archive or a bundle. dir must not exist; it is removed when this fails.
func Source(ctx context.Context, dir, source string, o Options) (Taken, error) {
	if isAddress(source) {
		return Address(ctx, dir, source, o)
	}
	info, err := os.Stat(source)
	if err != nil {
		return Taken{}, refuse("%s: no such folder, file or address", source)
	}
	if info.IsDir() {
		return Folder(ctx, dir, source, o)
	}
	return File(ctx, dir, source, o)
}

// clean removes a mirror that was not finished.
func clean(dir string, err *error) {
	if *err != nil {
		_ = os.RemoveAll(dir)
	}
}

func (o *Options) temp(dir string) string {
	if o.Temp != "" {
		return o.Temp
	}
	return filepath.Dir(dir)
}
