package effects_test

import (
	"context"
	"fmt"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/effects"
	"juxtagram/core/facts"
	"juxtagram/core/lang/all"
)

// of lists the effects of one of some texts, one a line.
func of(t *testing.T, texts map[string]string, file string) []string {
	t.Helper()
	var paths []string
	for p := range texts {
		paths = append(paths, p)
	}
	sort.Strings(paths)
	var files []effects.File
	matter := map[int]*facts.Matter{}
	at := -1
	for i, p := range paths {
		l := all.OfPath(p)
		require.NotNil(t, l, p)
		x := facts.Of(context.Background(), l, []byte(texts[p]))
		x.Pack()
		m, err := facts.UnpackMatter(x.Linked.Matter)
		require.NoError(t, err)
		files, matter[i] = append(files, effects.File{Language: l.Name, Role: "source"}), &m
		if p == file {
			at = i
		}
	}
	tracer := effects.New(files, func(a, b int) int {
		return strings.Count(paths[a], "/") + strings.Count(paths[b], "/")
	})
	for i := range files {
		tracer.Add(i, matter[i])
	}
	var out []string
	for _, e := range tracer.Of(at, matter[at]) {
		line := fmt.Sprintf("%d %s %s", e.Line, e.Kind, e.Target)
		if !e.Known {
			line += " ?"
		}
		for _, h := range e.Via {
			line += fmt.Sprintf(" <- %s:%d", paths[h.File], h.Line)
		}
		out = append(out, line)
	}
	return out
}

func TestPythonEffectsAreFollowedToTheConfiguration(t *testing.T) {
	assert.Equal(t, []string{
		"9 writes /var/lib/marsh/out.csv <- app.py:5 <- app.py:4",
		"11 reads stations.csv",
		"12 environment /srv/marsh.log <- deploy/app.env:2",
		"13 writes /srv/marsh.log <- app.py:12 <- deploy/app.env:2",
		"14 connects https://marsh.test/…/level ?",
		"15 logs done",
		"16 writes where ?",
	}, of(t, map[string]string{
		"app.py": `import os, logging
import requests

BASE = "/var/lib/marsh/out.csv"
OUT = BASE


def run(name, where):
    with open(OUT, "w") as f:
        f.write(name)
    open("stations.csv")
    log = os.getenv("MARSH_LOG", "none.log")
    logging.FileHandler(log)
    requests.get("https://marsh.test/" + name + "/level")
    logging.info("done")
    open(where, "a")
`,
		"deploy/app.env": "# where it logs\nMARSH_LOG=/srv/marsh.log\n",
	}, "app.py"))
}

func TestGoEffects(t *testing.T) {
	assert.Equal(t, []string{
		"9 environment /data <- Dockerfile:2",
		"10 writes log.csv <- go.go:6",
		"11 listens :8300 <- go.go:8",
		"12 process git",
		"13 logs os.Stderr ?",
	}, of(t, map[string]string{
		"go.go": `package main

import ("flag"; "fmt"; "net/http"; "os"; "os/exec")

const (
	logFile = "log.csv"
)
func main() { listen := flag.String("listen", ":8300", "address")
	os.Getenv("MARSH_DATA")
	os.Create(logFile)
	http.ListenAndServe(*listen, nil)
	exec.Command("git", "log")
	fmt.Fprintln(os.Stderr, "x")
}
`,
		"Dockerfile": "FROM scratch\nENV MARSH_DATA=/data\n",
	}, "go.go"))
}

func TestCirclesEnd(t *testing.T) {
	assert.Equal(t, []string{"3 reads a ? <- a.py:1 <- a.py:2"}, of(t, map[string]string{"a.py": "a = b\nb = a\nopen(a)\n"}, "a.py"))
}

func TestTypeScriptEffects(t *testing.T) {
	assert.Equal(t, []string{
		"4 writes out/levels.json <- a.ts:2",
		"5 connects /api/stations",
		"6 listens 8300 <- a.ts:3",
	}, of(t, map[string]string{"a.ts": "import fs from 'node:fs'\nconst target = 'out/levels.json'\nconst port = 8300\nfs.writeFileSync(target, text)\nfetch('/api/stations')\nserver.listen(port)\n"}, "a.ts"))
}
