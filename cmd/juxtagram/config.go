package main

import (
	"errors"
	"fmt"
	"juxtagram/core/sandbox"
	"juxtagram/jobs"
	"juxtagram/server"
	"net"
	"net/url"
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
	listen       string
	data         string
	databaseURL  string
	roots        []string
	protocols    []string
	privateHosts []string
	uploadLimit  int64
	memory       int64 // MB
	publicURL    string
	public       *url.URL // what publicURL says; nil: it was not given
	proxies      []string
	freeDisk     int // percent
	person       server.PersonLimits
	personSpace  int64 // GB
	work         bool
	workers      int
	answerIn     time.Duration
	fetchIn      time.Duration
	limits       sandbox.Limits
	jobMemory    int64 // MB
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
	f.StringSliceVar(&c.privateHosts, "private-hosts", nil, "hosts and networks (CIDR) that may be asked although they are of this machine or a private network")
	f.Int64Var(&c.memory, "memory", 512, "MB kept in memory of all repositories together; what was used least lately goes")
	f.Int64Var(&c.uploadLimit, "upload-limit", 4<<30, "largest upload, in bytes")
	f.StringVar(&c.publicURL, "public-url", "", "address that people use, as https://gauges.example; without one only this machine is served")
	f.StringSliceVar(&c.proxies, "trusted-proxies", nil, "networks of proxies whose X-Forwarded-For counts for where a request comes from")
	f.IntVar(&c.freeDisk, "free-disk", 5, "percent of the disk that must be free for anything to be taken in; 0: not looked at")
	f.IntVar(&c.person.Repositories, "person-repositories", 200, "repositories that one person may take in; 0: not limited")
	f.Int64Var(&c.personSpace, "person-space", 50, "GB that the repositories of one person may take; 0: not limited")
	f.IntVar(&c.person.Jobs, "person-jobs", 8, "repositories of one person that are taken in or surveyed at once; 0: not limited")
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
	if c.jobMemory < 0 || c.limits.Processor < 0 || c.limits.Wall < 0 || c.person.Repositories < 0 || c.personSpace < 0 || c.person.Jobs < 0 {
		return errors.New("a limit is negative; 0 stands for no limit")
	}
	if c.freeDisk < 0 || c.freeDisk > 100 {
		return errors.New("--free-disk is a share in percent, 0 to 100")
	}
	c.limits.Memory, c.person.Bytes = c.jobMemory<<20, c.personSpace<<30
	if c.publicURL == "" {
		if !isLoopback(c.listen) {
			return fmt.Errorf("--listen %s is reached from other machines: give the address that people use as --public-url", c.listen)
		}
		return nil
	}
	u, err := url.Parse(c.publicURL)
	if err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || strings.Trim(u.Path, "/") != "" || u.RawQuery != "" || u.User != nil {
		return fmt.Errorf("--public-url %s: expected an address as https://gauges.example, without a path", c.publicURL)
	}
	if u.Scheme == "http" && !isLoopback(u.Host) {
		return errors.New("--public-url: other machines are served over https alone; put a TLS proxy in front")
	}
	c.public = &url.URL{Scheme: u.Scheme, Host: u.Host}
	return nil
}

// isLoopback tells whether an address, with or without a port, is of this machine alone.
func isLoopback(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		host = address
	}
	if host == "localhost" {
		return true
	}
	ip := net.ParseIP(strings.Trim(host, "[]"))
	return ip != nil && ip.IsLoopback()
}
