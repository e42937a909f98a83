package main

import (
	"context"
	"encoding/json"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"juxtagram/core/repo"
)

// modules are packages whose releases make a history of real files.
var modules = []string{"github.com/spf13/pflag", "github.com/stretchr/objx", "golang.org/x/mod"}

// releases makes a repository of each module, one commit a release.
func releases(ctx context.Context, scratch string) []string {
	var dirs []string
	for _, m := range modules {
		dir := filepath.Join(scratch, filepath.Base(m))
		if err := release(ctx, m, dir); err != nil {
			log.Printf("%s: left out: %v", m, err)
			continue
		}
		dirs = append(dirs, filepath.Join(dir, ".git"))
	}
	return dirs
}

func release(ctx context.Context, module, dir string) error {
	out, err := exec.CommandContext(ctx, "go", "list", "-m", "-versions", "-json", module).Output()
	if err != nil {
		return fmt.Errorf("listing the versions: %w", err)
	}
	var list struct{ Versions []string }
	if err := json.Unmarshal(out, &list); err != nil {
		return err
	}
	if err := git(ctx, "", nil, "init", "--quiet", "-b", "main", dir); err != nil {
		return err
	}
	for n, v := range list.Versions {
		out, err := exec.CommandContext(ctx, "go", "mod", "download", "-json", module+"@"+v).Output()
		if err != nil {
			continue // a release that is not to be had
		}
		var got struct{ Dir string }
		if err := json.Unmarshal(out, &got); err != nil {
			return err
		}
		if err := replace(ctx, dir, got.Dir); err != nil {
			return err
		}
		stamp := fmt.Sprintf("%d +0000", 1_500_000_000+n*86_400*20)
		at := []string{"GIT_AUTHOR_DATE=" + stamp, "GIT_COMMITTER_DATE=" + stamp}
		for _, args := range [][]string{{"add", "-A"}, {"commit", "--quiet", "--allow-empty", "-m", v}, {"tag", v}} {
			if err := git(ctx, dir, at, args...); err != nil {
				return err
			}
		}
	}
	return nil
}

// replace fills a work tree with a release's files.
func replace(ctx context.Context, dir, from string) error {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	for _, e := range entries {
		if e.Name() != ".git" {
			if err := os.RemoveAll(filepath.Join(dir, e.Name())); err != nil {
				return err
			}
		}
	}
	if err := os.CopyFS(dir, os.DirFS(from)); err != nil {
		return err
	}
	return exec.CommandContext(ctx, "chmod", "-R", "u+w", dir).Run()
}

func git(ctx context.Context, dir string, env []string, args ...string) error {
	cmd := exec.CommandContext(ctx, "git", append(append([]string{}, repo.SafeConfig...), args...)...)
	cmd.Dir = dir
	cmd.Env = repo.Environ("GIT_AUTHOR_NAME=Releases", "GIT_AUTHOR_EMAIL=r@example.test", "GIT_COMMITTER_NAME=Releases", "GIT_COMMITTER_EMAIL=r@example.test")
	cmd.Env = append(cmd.Env, env...)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("git %s: %s", args[0], strings.TrimSpace(string(out)))
	}
	return nil
}
