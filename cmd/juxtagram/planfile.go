package main

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"juxtagram/core/intake"
	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
	"juxtagram/core/plan/health"
)

// planFile is a plan that was read from a file.
type planFile struct {
	name     string
	folder   string // of the repository, that Markdown stands in
	markdown bool
	state    *plan.State
	problems int // items that could not be taken
}

// readPlan reads a plan file, JSON or Markdown; what cannot be taken of it is told on
// standard error.
func readPlan(name string) (*planFile, error) {
	content, err := os.ReadFile(name)
	if err != nil {
		return nil, &intake.Refused{Reason: err.Error()}
	}
	p := &planFile{name: name, folder: folderOf(name), markdown: !bytes.HasPrefix(bytes.TrimSpace(content), []byte("{"))}
	state, problems, err := document.Read(content, document.Setting{Folder: p.folder})
	if err != nil {
		return nil, &intake.Refused{Reason: name + ": " + err.Error()}
	}
	for _, x := range problems {
		fmt.Fprintf(os.Stderr, "%s: %s\n", name, health.Printable(x.Where+": "+x.What))
	}
	p.state, p.problems = state, len(problems)
	return p, nil
}

// folderOf is the folder of a file in the working tree that it stands in; "": the
// root, or there is no working tree.
func folderOf(name string) string {
	abs, err := filepath.Abs(name)
	if err != nil {
		return ""
	}
	for dir := filepath.Dir(abs); ; dir = filepath.Dir(dir) {
		if _, err := os.Lstat(filepath.Join(dir, ".git")); err == nil {
			within, _ := filepath.Rel(dir, filepath.Dir(abs))
			if within == "." {
				return ""
			}
			return filepath.ToSlash(within)
		}
		if dir == filepath.Dir(dir) {
			return ""
		}
	}
}

// rewrite writes the plan into its file, as what it was.
func (p *planFile) rewrite() error {
	return writeTo(p.name, func(w io.Writer) error {
		if p.markdown {
			return document.WriteMarkdown(w, p.state, p.folder)
		}
		return document.Write(w, p.state)
	})
}
