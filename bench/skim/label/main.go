// Command label writes the labels by which the worth of a skim is judged: for
// each function of a package whether a first reader should see it, by a rule
// that uses the language's own parser and what the package itself says.
//
// Worth seeing: what the package's Markdown names in code, what its examples or
// tests call. Not: accessors, printing, comparing, and what only passes its own
// parameters on, unless Markdown or an example names it. All else has no label.
package main

import (
	"bufio"
	"bytes"
	"fmt"
	"io/fs"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"sort"
	"strconv"
	"strings"

	"juxtagram/bench/skim/corpora"
)

func main() {
	for _, c := range corpora.All {
		if len(os.Args) > 1 && os.Args[1] != c.Name {
			continue
		}
		if err := label(c); err != nil {
			log.Printf("%s: %v", c.Name, err)
		}
	}
}

func label(c corpora.Corpus) error {
	root, err := c.Folder()
	if err != nil {
		return err
	}
	list, err := functions(c, root)
	if err != nil {
		return err
	}
	docs, tests, err := named(root)
	if err != nil {
		return err
	}
	sort.SliceStable(list, func(i, j int) bool {
		return list[i].path < list[j].path || list[i].path == list[j].path && list[i].line < list[j].line
	})
	var out bytes.Buffer
	fmt.Fprintf(&out, "# %s, %s: + worth seeing, - not; path, line, name, why\n", c.Version, c.Language)
	seen := map[string]bool{}
	for _, f := range list {
		sign, why := "", ""
		switch {
		case f.class == "" && docs[f.name]:
			sign, why = "+", "named in documentation or examples"
		case f.class == "" && tests[f.name]:
			sign, why = "+", "called in tests"
		case f.class != "" && !docs[f.name]:
			sign, why = "-", f.class
		default:
			continue
		}
		row := fmt.Sprintf("%s\t%s\t%d\t%s\t%s\n", sign, f.path, f.line, f.name, why)
		if !seen[row] {
			seen[row] = true
			out.WriteString(row)
		}
	}
	return os.WriteFile(filepath.Join("bench", "skim", "labels", c.Name+".txt"), out.Bytes(), 0o644)
}

func functions(c corpora.Corpus, root string) ([]function, error) {
	var cmd *exec.Cmd
	switch c.Language {
	case "Go":
		return goFunctions(root)
	case "Python":
		cmd = exec.Command("python3", "bench/skim/label/python.py", root, c.Name)
	default:
		compiler, err := filepath.Abs("web/node_modules/typescript")
		if err != nil {
			return nil, err
		}
		cmd = exec.Command("node", "bench/skim/label/javascript.cjs", compiler, root)
	}
	cmd.Stderr = os.Stderr
	raw, err := cmd.Output()
	if err != nil {
		return nil, err
	}
	var out []function
	for lines := bufio.NewScanner(bytes.NewReader(raw)); lines.Scan(); {
		part := strings.Split(lines.Text(), "\t")
		if len(part) != 4 {
			return nil, fmt.Errorf("not understood: %q", lines.Text())
		}
		n, err := strconv.Atoi(part[1])
		if err != nil {
			return nil, err
		}
		f := function{path: filepath.ToSlash(part[0]), line: n, name: part[2]}
		if part[3] != "-" {
			f.class = part[3]
		}
		out = append(out, f)
	}
	return out, nil
}

var (
	inCode  = regexp.MustCompile("(?s)```.*?```|`[^`\n]+`")
	word    = regexp.MustCompile(`[A-Za-z_$][\w$]*`)
	called  = regexp.MustCompile(`([A-Za-z_$][\w$]*)\(`)
	defined = regexp.MustCompile(`\b(?:func|def|function|class)\s+(?:\([^)]*\)\s*)?$`)
	isTest  = regexp.MustCompile(`(?:_test\.go|\.test\.[cm]?[jt]sx?)$|(?:^|/)(?:tests?|__tests__)/`)
	isShown = regexp.MustCompile(`(?:^|/)(?:example_[^/]*\.go|[^/]*_?example_test\.go|_?examples?/.*)$`)
)

// named are the names that documentation and examples, and that tests, name.
func named(root string) (docs, tests map[string]bool, err error) {
	docs, tests = map[string]bool{}, map[string]bool{}
	err = filepath.WalkDir(root, func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			if err == nil && (e.Name() == "node_modules" || e.Name() == "site-packages") {
				return fs.SkipDir
			}
			return err
		}
		short, err := filepath.Rel(root, path)
		if err != nil {
			return err
		}
		short = filepath.ToSlash(short)
		into := map[string]bool(nil)
		switch {
		case strings.HasSuffix(short, ".md") && !strings.Contains(strings.ToLower(short), "changelog"):
			content, err := os.ReadFile(path)
			for _, code := range inCode.FindAll(content, -1) {
				for _, w := range word.FindAll(code, -1) {
					docs[string(w)] = true
				}
			}
			return err
		case isShown.MatchString(short):
			into = docs
		case isTest.MatchString(short):
			into = tests
		default:
			return nil
		}
		content, err := os.ReadFile(path)
		for _, m := range called.FindAllSubmatchIndex(content, -1) {
			if !defined.Match(content[max(0, m[2]-80):m[2]]) {
				into[string(content[m[2]:m[3]])] = true
			}
		}
		return err
	})
	return docs, tests, err
}
