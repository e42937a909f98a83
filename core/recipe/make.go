package recipe

import (
	"path"
	"regexp"
	"strings"
)

func makefile(p string) bool {
	base := strings.ToLower(path.Base(p))
	return base == "makefile" || base == "gnumakefile"
}

var target = regexp.MustCompile(`^([A-Za-z0-9][\w.-]*(?:\s+[A-Za-z0-9][\w.-]*)*)\s*:(?:[^=:]|$)`)

// makeTargets reads the targets that a person would ask for by name: no
// patterns, no files with an extension unless they are declared phony.
func makeTargets(p string, content []byte) Found {
	phony := map[string]bool{}
	eachLine(content, func(_ int, l string) {
		if rest, ok := strings.CutPrefix(l, ".PHONY:"); ok {
			for _, n := range strings.Fields(rest) {
				phony[n] = true
			}
		}
	})
	var f Found
	seen := map[string]bool{}
	eachLine(content, func(n int, l string) {
		m := target.FindStringSubmatch(l)
		if m == nil || strings.HasPrefix(l, "\t") {
			return
		}
		for _, name := range strings.Fields(m[1]) {
			if seen[name] || (strings.ContainsAny(name, "./") && !phony[name]) {
				continue
			}
			seen[name] = true
			command := "make " + name
			if base := path.Base(p); base != "Makefile" && base != "makefile" && base != "GNUmakefile" {
				command = "make -f " + base + " " + name
			}
			f.Recipes = append(f.Recipes, Recipe{Kind: kindOf(name), Command: command, Folder: folder(p), Path: p, Line: n})
		}
	})
	return f
}

var cmakeTarget = regexp.MustCompile(`(?i)^\s*add_executable\s*\(\s*([\w.-]+)\s+([\w./-]+\.\w+)?`)

// cmake reads the programs a CMake file builds, and how it is used.
func cmake(p string, content []byte) Found {
	var f Found
	eachLine(content, func(n int, l string) {
		if m := cmakeTarget.FindStringSubmatch(l); m != nil {
			d := Declared{Kind: "program", Name: m[1], Path: p, Line: n, Evidence: "add_executable(" + m[1] + ")"}
			if m[2] != "" {
				d.Target = path.Join(folder(p), m[2])
			}
			f.Declared = append(f.Declared, d)
		}
		low := strings.ToLower(strings.TrimSpace(l))
		if strings.HasPrefix(low, "project(") || strings.HasPrefix(low, "project (") {
			f.Recipes = append(f.Recipes, Recipe{Kind: "build", Command: "cmake -B build && cmake --build build", Folder: folder(p), Path: p, Line: n})
		}
		if strings.HasPrefix(low, "enable_testing") {
			f.Recipes = append(f.Recipes, Recipe{Kind: "test", Command: "ctest --test-dir build", Folder: folder(p), Path: p, Line: n})
		}
	})
	return f
}
