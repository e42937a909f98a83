package main

import (
	"context"
	"encoding/json"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"juxtagram/bench/corpus"
)

// source is a package whose releases make a history. Nobody here wrote it.
type source struct {
	name  string
	tuned bool // the weights were chosen on it: it is shown, but judges nothing
	of    registry
}

// registry tells which releases of a package there are, oldest first, and fetches one.
type registry interface {
	releases() ([]string, error)
	fetch(version, cache string) (dir string, err error)
}

// all are the packages, those for tuning first.
var all = []source{
	{"gin", true, module("github.com/gin-gonic/gin")},
	{"goldmark", true, module("github.com/yuin/goldmark")},
	{"express", true, npm("express")},
	{"mocha", true, npm("mocha")},
	{"gorm", false, module("gorm.io/gorm")},
	{"chromedp", false, module("github.com/chromedp/chromedp")},
	{"huma", false, module("github.com/danielgtaylor/huma/v2")},
	{"river", false, module("github.com/riverqueue/river")},
	{"tools", false, module("golang.org/x/tools")},
	{"fastify", false, npm("fastify")},
	{"undici", false, npm("undici")},
	{"eslint", false, npm("eslint")},
	{"webpack", false, npm("webpack")},
}

// mostReleases is how many of a package's releases are committed, the newest
// among them, and apart how many days each, the last on newest.
const (
	mostReleases = 12
	apart        = 45
)

var newest = time.Date(2026, time.June, 1, 12, 0, 0, 0, time.UTC)

// repository is a bare path of the package's releases as a history, made where
// it is not there yet.
func (c source) repository(ctx context.Context) (string, error) {
	cache := filepath.Join(os.TempDir(), "juxtagram-plan-corpora")
	dir := filepath.Join(cache, c.name+".git")
	if _, err := os.Stat(filepath.Join(dir, "made")); err == nil {
		return dir, nil
	}
	if err := os.RemoveAll(dir); err != nil {
		return "", err
	}
	if err := os.MkdirAll(cache, 0o755); err != nil {
		return "", err
	}
	list, err := c.of.releases()
	if err != nil {
		return "", fmt.Errorf("listing the releases of %s: %w", c.name, err)
	}
	list = slices.DeleteFunc(list, func(v string) bool { return strings.Contains(v, "-") })
	step := max(1, (len(list)+mostReleases-1)/mostReleases)
	if err := run(ctx, "", nil, "git", "init", "-q", "--bare", "-b", "main", dir); err != nil {
		return "", err
	}
	made := 0
	for i, version := range list {
		if (len(list)-1-i)%step > 0 {
			continue
		}
		from, err := c.of.fetch(version, cache)
		if err != nil {
			log.Printf("%s %s: left out: %v", c.name, version, err)
			continue
		}
		at := newest.AddDate(0, 0, -apart*(len(list)-1-i)/step).Format(time.RFC3339)
		env := []string{"GIT_DIR=" + dir, "GIT_WORK_TREE=" + from, "GIT_AUTHOR_DATE=" + at, "GIT_COMMITTER_DATE=" + at}
		who := []string{"-c", "user.name=A Maker", "-c", "user.email=maker@example.test", "-c", "core.attributesFile=/dev/null", "-c", "core.autocrlf=false"}
		if err := run(ctx, from, env, "git", append(slices.Clone(who), "add", "-A", "-f", ".")...); err != nil {
			return "", err
		}
		if err := run(ctx, from, env, "git", append(slices.Clone(who), "commit", "-q", "--allow-empty", "-m", version)...); err != nil {
			return "", err
		}
		made++
	}
	if made == 0 {
		return "", fmt.Errorf("no release of %s was to be had", c.name)
	}
	return dir, os.WriteFile(filepath.Join(dir, "made"), nil, 0o644)
}

func run(ctx context.Context, dir string, env []string, name string, args ...string) error {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir, cmd.Env = dir, append(os.Environ(), env...)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("%s %s: %w: %s", name, args[0], err, out)
	}
	return nil
}

// module is a Go module.
type module string

func (m module) releases() ([]string, error) {
	cmd := exec.Command("go", "list", "-m", "-json", "-versions", string(m)+"@latest")
	cmd.Dir = os.TempDir()
	out, err := cmd.Output()
	if err != nil {
		return nil, err
	}
	var found struct{ Versions []string }
	return found.Versions, json.Unmarshal(out, &found)
}

func (m module) fetch(version, _ string) (string, error) {
	return corpus.Module(string(m) + "@" + version)
}

// npm is a package of JavaScript.
type npm string

func (n npm) releases() ([]string, error) {
	out, err := exec.Command("npm", "view", "--json", string(n), "versions").Output()
	if err != nil {
		return nil, err
	}
	var list []string
	return list, json.Unmarshal(out, &list)
}

func (n npm) fetch(version, cache string) (string, error) {
	return corpus.Npm(string(n)+"@"+version, cache)
}
