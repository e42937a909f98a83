package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/net/netutil"

	"juxtagram/jobs"
	"juxtagram/localpg"
	"juxtagram/server"
	"juxtagram/store"
	"juxtagram/web"
)

func serveCommand() *cobra.Command {
	var c config
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the web application and its API",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := fromEnvironment(cmd.Flags()); err != nil {
				return err
			}
			return withHouse(cmd.Context(), c, func(ctx context.Context, h *house) error {
				return h.serve(ctx, func(address string) {
					fmt.Printf("Juxtagram serves at %s\n", address)
				})
			})
		},
	}
	c.flags(cmd.Flags())
	return cmd
}

func workerCommand() *cobra.Command {
	var c config
	cmd := &cobra.Command{
		Use:   "worker",
		Short: "Do queued work (take-ins, surveys) without serving",
		Long: `Do queued work without serving. Workers and servers share a database and the
folder of mirrors (--data), which must be the same for all of them.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := fromEnvironment(cmd.Flags()); err != nil {
				return err
			}
			c.work = true
			return withHouse(cmd.Context(), c, func(ctx context.Context, h *house) error {
				fmt.Println("Juxtagram works")
				<-ctx.Done()
				return nil
			})
		},
	}
	c.flags(cmd.Flags())
	return cmd
}

// house is everything that runs behind the serving commands.
type house struct {
	config config
	store  *store.Store
	jobs   *jobs.Runner
}

// withHouse starts the database where none is named, migrates, starts to work,
// calls do, and stops what it started.
func withHouse(ctx context.Context, c config, do func(context.Context, *house) error) (err error) {
	if err := c.check(); err != nil {
		return err
	}
	if c.data, err = filepath.Abs(c.data); err != nil {
		return err
	}
	if err := os.MkdirAll(c.data, 0o755); err != nil {
		return err
	}
	url := c.databaseURL
	if url == "" {
		pg, err := localpg.Start(ctx, filepath.Join(c.data, "postgres"), localpg.Options{Say: func(s string) { fmt.Fprintln(os.Stderr, s) }})
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, pg.Stop()) }()
		url = pg.URL
		watched, lost := context.WithCancelCause(ctx)
		var watch sync.WaitGroup
		watch.Go(func() {
			if err := pg.Watch(watched, func(s string) { slog.Warn(s) }); err != nil {
				lost(err)
			}
		})
		asked := ctx
		defer func() {
			if asked.Err() == nil { // nobody asked to stop: the database is lost, or starting failed
				err = errors.Join(context.Cause(watched), err)
			}
			lost(nil)
			watch.Wait()
		}()
		ctx = watched
	}
	s, err := store.Open(ctx, url)
	if err != nil {
		return err
	}
	defer s.Close()
	if err := s.Migrate(ctx); err != nil {
		return err
	}
	key, err := jobs.LoadKey(c.data)
	if err != nil {
		return err
	}
	exe, err := os.Executable()
	if err != nil {
		return err
	}
	r, err := jobs.New(s, jobs.Config{Data: c.data, Roots: c.roots, Protocols: c.protocols, PrivateHosts: c.privateHosts, AskPass: exe, Key: key,
		AnswerIn: c.answerIn, FetchIn: c.fetchIn, Workers: c.workers, Limits: c.limits, FreeShare: float64(c.freeDisk) / 100})
	if err != nil {
		return err
	}
	if c.work {
		if err := r.Start(ctx); err != nil {
			return err
		}
		defer func() {
			stop, cancel := context.WithTimeout(context.Background(), 15*time.Second)
			defer cancel()
			err = errors.Join(err, r.Stop(stop))
		}()
	}
	return do(ctx, &house{config: c, store: s, jobs: r})
}

// connections is how many a server has open at once; others wait.
const connections = 4096

// warmAtStart is how long a start may take to bring together what was read last.
const warmAtStart = 5 * time.Second

// serve answers requests until ctx is done. ready is told the address.
func (h *house) serve(ctx context.Context, ready func(address string)) error {
	l, err := net.Listen("tcp", h.config.listen)
	if err != nil {
		return fmt.Errorf("cannot serve on %s: %w", h.config.listen, err)
	}
	public := h.config.public
	if public == nil {
		public = &url.URL{Scheme: "http", Host: l.Addr().String()}
	}
	background, stopBackground := context.WithCancel(context.WithoutCancel(ctx))
	defer stopBackground()
	srv := server.New(background, h.store, h.jobs, server.Config{Web: web.Files(), Roots: h.config.roots, Protocols: h.config.protocols,
		UploadLimit: h.config.uploadLimit, PublicURL: public, Proxies: h.config.proxies, Person: h.config.person, Memory: h.config.memory << 20})
	h.jobs.OnSurveyed(srv.Surveyed)
	if err := srv.WarmLatest(ctx, warmAtStart); err != nil && ctx.Err() == nil {
		slog.Warn("not all that was read last is at hand yet", "error", err)
	}
	hs := &http.Server{Handler: srv.Handler(), ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}
	failed := make(chan error, 1)
	go func() { failed <- hs.Serve(netutil.LimitListener(l, connections)) }()
	ready("http://" + l.Addr().String())
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	srv.Close() // ends the streams, which would keep Shutdown waiting
	stop, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	if err := hs.Shutdown(stop); err != nil {
		slog.Warn("some requests were cut off", "error", err)
	}
	return nil
}
