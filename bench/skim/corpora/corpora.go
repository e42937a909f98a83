// Package corpora fetches the packages by which the worth of a skim is judged.
// Nobody here wrote them.
package corpora

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"juxtagram/bench/corpus"
)

// Corpus is one package at one version.
type Corpus struct {
	Name, Language string
	Version        string
	Tuned          bool // the weights were chosen on it: it is shown, but judges nothing
	fetch          func(c Corpus, cache string) (string, error)
}

// All are the packages, those for tuning first.
var All = []Corpus{
	{"gin", "Go", "github.com/gin-gonic/gin@v1.12.0", true, module},
	{"commander", "JavaScript", "commander@14.0.0", true, npm},
	{"find-my-way", "JavaScript", "find-my-way@9.3.0", true, npm},
	{"avvio", "JavaScript", "avvio@9.1.0", true, npm},
	{"ws", "JavaScript", "ws@8.18.3", true, npm},
	{"axios", "JavaScript", "axios@1.12.2", true, npm},
	{"koa", "JavaScript", "koa@3.0.1", true, npm},
	{"stdlib-tuned", "Python", "3.11", true, python},
	{"gorm", "Go", "gorm.io/gorm@v1.31.2", false, module},
	{"goldmark", "Go", "github.com/yuin/goldmark@v1.8.7", false, module},
	{"chromedp", "Go", "github.com/chromedp/chromedp@v0.23.0", false, module},
	{"fastify", "JavaScript", "fastify@5.6.0", false, npm},
	{"pino", "JavaScript", "pino@9.9.0", false, npm},
	{"undici", "JavaScript", "undici@7.16.0", false, npm},
	{"stdlib", "Python", "3.11", false, python},
}

// Paths are what of its folder is read, as git takes paths.
func (c Corpus) Paths() []string {
	if c.Language == "Python" {
		return []string{":(glob)*.py", "asyncio", "collections", "concurrent", "email", "http", "importlib", "json", "logging", "multiprocessing", "unittest", "urllib", "xml", "wsgiref"}
	}
	return []string{"."}
}

// Folder is where the package's files are, fetched where they are not there yet.
func (c Corpus) Folder() (string, error) {
	cache := filepath.Join(os.TempDir(), "juxtagram-skim-corpora")
	if err := os.MkdirAll(cache, 0o755); err != nil {
		return "", err
	}
	return c.fetch(c, cache)
}

func module(c Corpus, _ string) (string, error) { return corpus.Module(c.Version) }

func npm(c Corpus, cache string) (string, error) { return corpus.Npm(c.Version, cache) }

func python(c Corpus, _ string) (string, error) {
	out, err := exec.Command("python3", "-c", "import sys, sysconfig; print('%d.%d' % sys.version_info[:2], sysconfig.get_path('stdlib'))").Output()
	if err != nil {
		return "", fmt.Errorf("asking python3 for its library: %w", err)
	}
	version, dir, _ := strings.Cut(strings.TrimSpace(string(out)), " ")
	if version != c.Version {
		return "", fmt.Errorf("labels are of Python %s, here is %s", c.Version, version)
	}
	if _, err := os.Stat(filepath.Join(dir, "test", "test_json")); err != nil {
		return "", fmt.Errorf("this Python has no tests of its library: %w", err)
	}
	return dir, nil
}
