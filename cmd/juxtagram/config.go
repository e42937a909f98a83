package main

import (
	"errors"
	"fmt"
	"juxtagram/core/sandbox"
	"juxtagram/jobs"
	"os"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/pflag"
)

// config is what the serving commands may be told. Each setting is a flag and
// an environment variable; the flag wins. docs/guide/configuration.md is the
// table of them, and a test holds it to this list.
type config struct {
	listen      string
	data        string
	databaseURL string
	roots       []string
	protocols   []string
	uploadLimit int64
	memory      int64 // MB
	secure      bool
	work        bool
	workers     int
	answerIn    time.Duration
	fetchIn     time.Duration
	limits      sandbox.Limits
	jobMemory   int64 // MB
}

func environment(flag string) string {
	return "JUXTAGRAM_" + strings.ToUpper(strings.ReplaceAll(flag, "-", "_"))
}

func (c *config) flags(f *pflag.FlagSet) {
	f.StringVar(&c.listen, "listen", "127.0.0.1:7380", "address and port to serve on")
	f.StringVar(&c.data, "data", ".data", "folder for mirrors, uploads, the key and an own PostgreSQL")
	f.StringVar(&c.databaseURL, "database-url", "", "PostgreSQL to use (default: one of our own below the data folder)")
	f.StringSliceVar(&c.roots, "roots", nil, "folders below which folders of this machine may be taken in")
	f.StringSliceVar(&c.protocols, "protocols", []string{"https", "ssh"}, "protocols that addresses may use")
	f.Int64Var(&c.memory, "memory", 512, "MB kept in memory of all repositories together; what was used least lately goes")
	f.Int64Var(&c.uploadLimit, "upload-limit", 4<<30, "largest upload, in bytes")
	f.BoolVar(&c.secure, "secure-cookies", false, "send cookies over https only")
	f.BoolVar(&c.work, "work", true, "do queued work in this process too")
	f.IntVar(&c.workers, "workers", 2, "jobs side by side")
	f.DurationVar(&c.answerIn, "answer-in", 30*time.Second, "how long an address may take to answer")
	f.DurationVar(&c.fetchIn, "fetch-in", time.Hour, "how long an address may take to send everything")
	f.Int64Var(&c.jobMemory, "job-memory", jobs.DefaultLimits.Memory>>20, "MB of memory that a survey, take-in or fetch may take, in a process of its own; 0: not limited")
	f.DurationVar(&c.limits.Processor, "job-processor", jobs.DefaultLimits.Processor, "processor time that it may take; 0: not limited")
	f.DurationVar(&c.limits.Wall, "job-time", jobs.DefaultLimits.Wall, "how long it may take, besides --fetch-in; 0: not limited")
	f.VisitAll(func(x *pflag.Flag) { x.Usage += " [$" + environment(x.Name) + "]" })
}

// fromEnvironment gives every flag that was not set the value of its variable.
func fromEnvironment(f *pflag.FlagSet) error {
	var first error
	f.VisitAll(func(x *pflag.Flag) {
		v, ok := os.LookupEnv(environment(x.Name))
		if !ok || x.Changed || first != nil {
			return
		}
		if err := f.Set(x.Name, v); err != nil {
			first = fmt.Errorf("%s=%s: %w", environment(x.Name), strconv.Quote(v), err)
		}
	})
	return first
}

// check tells what cannot be meant, and works out what is given in other units.
func (c *config) check() error {
	if c.jobMemory < 0 || c.limits.Processor < 0 || c.limits.Wall < 0 {
		return errors.New("a limit of a job is negative; 0 stands for no limit")
	}
	c.limits.Memory = c.jobMemory << 20
	return nil
}
