// Command shots retakes docs/screenshots from the demo: it starts the program
// on a fresh data folder, signs in, and takes one picture of each main view.
package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"syscall"
	"time"

	"juxtagram/demo"
	"juxtagram/e2e/browser"
)

// view is one picture: where, what to wait for, what to do before.
type view struct {
	name, path, see string
	before          func(*browser.Page) error
	dark            bool
	size            [2]int64 // 1280 by 800 where none is given
}

var views = []view{
	{name: "shelf", path: "/", see: "marshgauge"},
	{name: "overview", path: "/r/1", see: "How it is laid out"},
	{name: "map", path: "/r/1/map?at=firmware/sampler.c&from=2026-03-01&open=firmware", see: "who knows it"},
	{name: "read", path: "/r/1/read?path=firmware/sampler.c&lines=13-18", see: "take_median"},
	{name: "skim", path: "/r/1/read?path=collector/store/memory.go&skim=40", see: "most telling"},
	{name: "definition", path: "/r/1/read?path=firmware/sampler.c&lines=46&name=46.18", see: "The float knocks against its tube", before: func(p *browser.Page) error {
		return errors.Join(p.Press("u"), p.See("calls"))
	}},
	{name: "history", path: "/r/1/history?row=28&commit=cold", see: "A flag for cold readings"},
	{name: "hotspots", path: "/r/1/history/hotspots", see: "What moves together"},
	{name: "compare", path: "/r/1/history/compare?from=v1.2.0&to=v1.4.0", see: "commits ahead of"},
	{name: "leads", path: "/r/1/leads", see: "Everything"},
	{name: "tagged", path: "/r/1/leads/tagged", see: "Its life"},
	{name: "notes", path: "/r/1/notes", see: "without a place at the pin"},
	{name: "composer", path: "/r/1/plans/1/compose?passage=demo-1-retry", see: "SENSOR_BUSY"},
	{name: "draft", path: "/r/1/plans/draft?minutes=60", see: "of what holds it together"},
	{name: "health", path: "/r/1/plans/3/compose", see: "A run has to close", before: func(p *browser.Page) error {
		return errors.Join(p.Click("At the pin"), p.See("gone"))
	}},
	{name: "guide", path: "/r/1/plans/1?passage=demo-1-retry", see: "SENSOR_BUSY"},
	{name: "guide-1024", path: "/r/1/plans/1?passage=demo-1-retry", see: "SENSOR_BUSY", size: [2]int64{1024, 768}},
	{name: "guide-phone", path: "/r/1/plans/1?passage=demo-1-retry", see: "SENSOR_BUSY", size: [2]int64{390, 844}},
	{name: "page", path: "/r/1/plans/1", see: "edition 1", before: openPage},
}

// openPage opens the first plan as one page, from a folder.
func openPage(p *browser.Page) error {
	text, err := browser.Ask[string](p, `fetch('/api/repositories/1/plans/1/document?as=html').then((a) => a.text())`)
	if err != nil {
		return err
	}
	dir, err := os.MkdirTemp("", "juxtagram-page-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "plan.html")
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		return err
	}
	return errors.Join(p.Open("file://"+file), p.See("a reading plan"))
}

func main() {
	out := "docs/screenshots"
	var only *regexp.Regexp
	if len(os.Args) > 1 {
		out = os.Args[1]
	}
	if len(os.Args) > 2 {
		only = regexp.MustCompile(os.Args[2])
	}
	if err := run(context.Background(), out, only); err != nil {
		fmt.Fprintln(os.Stderr, "shots:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, out string, only *regexp.Regexp) (err error) {
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	base := os.Getenv("SHOTS_AT")
	if base == "" {
		stop, at, startErr := serve(ctx)
		if startErr != nil {
			return startErr
		}
		defer func() { err = errors.Join(err, stop()) }()
		base = at
	}
	b, err := browser.Start(ctx)
	if err != nil {
		return err
	}
	defer b.Close()
	p, err := b.NewPage(base)
	if err != nil {
		return err
	}
	if err := p.SignIn(demo.People[1].Email, demo.Password); err != nil {
		return err
	}
	// Tam writes, Oona keeps: people and pins are hers to show
	keeper, err := b.NewPage(base)
	if err != nil {
		return err
	}
	if err := keeper.SignIn(demo.People[0].Email, demo.Password); err != nil {
		return err
	}
	for _, v := range views {
		if only != nil && !only.MatchString(v.name) {
			continue
		}
		at := p
		if v.name == "pin" {
			at = keeper
		}
		if err := take(at, v, filepath.Join(out, v.name+".png")); err != nil {
			return fmt.Errorf("%s: %w", v.name, err)
		}
	}
	return nil
}

func take(p *browser.Page, v view, file string) error {
	if v.size == [2]int64{} {
		v.size = [2]int64{1280, 800}
	}
	if err := errors.Join(p.Size(v.size[0], v.size[1]), p.Dark(v.dark)); err != nil {
		return err
	}
	if err := p.Open(v.path); err != nil {
		return err
	}
	if err := p.See(v.see); err != nil {
		return err
	}
	if err := p.Settle(); err != nil {
		return err
	}
	if v.before != nil {
		if err := v.before(p); err != nil {
			return err
		}
		if err := p.Settle(); err != nil {
			return err
		}
	}
	return p.Picture(file)
}

// serve starts the demo on a folder and a port of its own.
func serve(ctx context.Context) (stop func() error, base string, err error) {
	data, err := os.MkdirTemp("", "juxtagram-shots-")
	if err != nil {
		return nil, "", err
	}
	if err := os.Chmod(data, 0o755); err != nil {
		return nil, "", err
	}
	cmd := exec.CommandContext(ctx, "bin/juxtagram", "demo", "--data", data, "--listen", "127.0.0.1:0")
	cmd.Stderr = os.Stderr
	stdout, err := cmd.StdoutPipe()
	if err != nil {
		return nil, "", err
	}
	if err := cmd.Start(); err != nil {
		return nil, "", err
	}
	stop = func() error {
		_ = cmd.Process.Signal(syscall.SIGINT)
		done := make(chan error, 1)
		go func() { done <- cmd.Wait() }()
		select {
		case err = <-done:
		case <-time.After(30 * time.Second):
			err = errors.New("the server did not stop")
		}
		return errors.Join(err, os.RemoveAll(data))
	}
	address := regexp.MustCompile(`http://\S+`)
	sc := bufio.NewScanner(stdout)
	for sc.Scan() {
		if at := address.FindString(sc.Text()); at != "" {
			go func() {
				for sc.Scan() { // keeps the pipe from filling
				}
			}()
			return stop, at, nil
		}
	}
	return nil, "", errors.Join(errors.New("the server gave no address"), stop())
}
