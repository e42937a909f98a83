package leads

import (
	"fmt"
	"path"
	"sort"
	"strings"

	"juxtagram/core/recipe"
	"juxtagram/core/role"
)

// gathered finds starts that no single text marks: libraries of Go modules,
// folders of tests with the command that runs them, samples.
func gathered(files []File, byPath map[string]*File, recipes []recipe.Recipe) []EntryPoint {
	out := goLibraries(files, byPath)
	out = append(out, suites(files, byPath, recipes)...)
	return append(out, samples(files)...)
}

// goLibraries are the folders right at a Go module that hold a package to build
// upon: not main, not internal, with a file that no test is.
func goLibraries(files []File, byPath map[string]*File) []EntryPoint {
	first := map[string]*File{}
	var folders []string
	for i := range files {
		f := &files[i]
		if f.Language != "Go" || f.Role != role.Source || f.Facts == nil || strings.HasSuffix(f.Path, "_test.go") {
			continue
		}
		dir := path.Dir(f.Path)
		if byPath[path.Join(dir, "go.mod")] == nil || starts(f, "program") {
			continue
		}
		if first[dir] == nil {
			first[dir] = f
			folders = append(folders, dir)
		}
		// the file named for the package, or its documentation, speaks for it
		base := strings.TrimSuffix(path.Base(f.Path), ".go")
		if base == "doc" || base == path.Base(dir) {
			first[dir] = f
		}
	}
	for i := range files {
		if f := &files[i]; f.Language == "Go" && starts(f, "program") {
			delete(first, path.Dir(f.Path))
		}
	}
	var out []EntryPoint
	for _, dir := range folders {
		f := first[dir]
		if f == nil {
			continue
		}
		manifest := path.Join(dir, "go.mod")
		e := EntryPoint{Kind: "library", Name: startName(f, ""), Path: f.Path, Evidence: "the package at the root of the module of " + manifest}
		if e.Name = path.Base(dir); dir == "." {
			e.Name = "the root package"
		}
		e.Weight = weigh(e.Kind, f)
		out = append(out, e)
	}
	return out
}

func starts(f *File, kind string) bool {
	if f.Facts == nil {
		return false
	}
	for _, s := range f.Facts.Starts {
		if s.Kind == kind {
			return true
		}
	}
	return false
}

// maxSuites is how many folders of tests are told.
const maxSuites = 200

// suites are the folders with test code, each with the command that runs its
// tests, where the language or a recipe says so.
func suites(files []File, byPath map[string]*File, recipes []recipe.Recipe) []EntryPoint {
	byFolder := map[string][]*File{}
	for i := range files {
		f := &files[i]
		if f.Role == role.Test && f.Facts != nil && f.Facts.Symbols > 0 && isCode(f.Language) {
			byFolder[path.Dir(f.Path)] = append(byFolder[path.Dir(f.Path)], f)
		}
	}
	folders := make([]string, 0, len(byFolder))
	for d := range byFolder {
		folders = append(folders, d)
	}
	sort.Slice(folders, func(i, j int) bool {
		a, b := len(byFolder[folders[i]]), len(byFolder[folders[j]])
		return a > b || a == b && folders[i] < folders[j]
	})
	var out []EntryPoint
	for _, d := range folders[:min(len(folders), maxSuites)] {
		list := byFolder[d]
		name := "the tests of " + d
		if d == "." {
			name = "the tests at the root"
		}
		e := EntryPoint{Kind: "test", Name: name, Path: list[0].Path, How: runTests(d, list[0], byPath, recipes), Evidence: fmt.Sprintf("%d test files in one folder", len(list))}
		if len(list) == 1 {
			e.Evidence = "1 test file"
		}
		e.Weight = round(0.3 + 0.15*float64(min(len(list), 20))/20)
		out = append(out, e)
	}
	return out
}

// isCode tells languages in which tests are written.
func isCode(language string) bool {
	switch language {
	case "", "JSON", "YAML", "TOML", "Markdown", "HTML", "CSS", "SCSS", "XML", "INI", "CSV", "Text", "SVG", "SQL", "Make":
		return false
	}
	return true
}

// runTests is the command that runs the tests of one folder; "": none known.
func runTests(dir string, f *File, byPath map[string]*File, recipes []recipe.Recipe) string {
	switch f.Language {
	case "Go":
		return strings.Replace(goRun(dir, byPath), "go run", "go test", 1)
	case "Python":
		for _, r := range recipes {
			if r.Kind == "test" && strings.Contains(r.Command, "pytest") {
				return "pytest " + dir
			}
		}
		if strings.HasPrefix(path.Base(f.Path), "test_") {
			return "python -m unittest discover " + dir
		}
	case "Rust":
		return "cargo test"
	}
	// the nearest recipe above says how
	best, depth := "", -1
	for _, r := range recipes {
		if r.Kind != "test" || r.Folder != "" && dir != r.Folder && !strings.HasPrefix(dir, r.Folder+"/") {
			continue
		}
		if n := len(r.Folder); n > depth {
			best, depth = r.Command, n
			if r.Folder != "" {
				best = "cd " + r.Folder + " && " + r.Command
			}
		}
	}
	return best
}

// maxSamples is how many samples are told.
const maxSamples = 100

// samples are the sample files that show something: those with a start, or with
// code in a folder of samples.
func samples(files []File) []EntryPoint {
	var out []EntryPoint
	for i := range files {
		f := &files[i]
		if f.Role != role.Sample || f.Facts == nil || f.Facts.Symbols == 0 || !isCode(f.Language) || len(f.Facts.Starts) > 0 || len(out) == maxSamples {
			continue
		}
		out = append(out, EntryPoint{Kind: "sample", Name: startName(f, ""), Path: f.Path, Evidence: "a sample in " + path.Dir(f.Path), Weight: weigh("sample", f)})
	}
	return out
}
