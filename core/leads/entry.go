package leads

import (
	"path"
	"sort"
	"strings"

	"juxtagram/core/facts"
	"juxtagram/core/recipe"
	"juxtagram/core/role"
)

// EntryPoint is a place where control or a reader comes in.
type EntryPoint struct {
	Kind     string // as in the survey document: "program", "command", "script", …
	Name     string
	Path     string
	Line     int    // 0: the file as a whole
	How      string // command to run; "": none known
	Evidence string
	Weight   float64 // 0..1
}

// File is what the detectors know of one file.
type File struct {
	Path, Birth string // Birth: the oldest path it is known under
	Role        string
	Language    string
	Executable  bool
	Facts       *facts.Facts // nil: not read yet
}

// kindWeight says how much a start of a kind tells a newcomer: what runs comes
// before what is built upon, and that before what only keeps the house.
var kindWeight = map[string]float64{
	"program": 1, "command": 0.95, "service": 0.9, "route": 0.7, "job": 0.65, "sample": 0.55, "test": 0.5, "container": 0.75, "library": 0.8, "script": 0.6, "ci": 0.3,
}

// roleWeight takes weight off starts that are not the product itself.
var roleWeight = map[string]float64{
	role.Source: 1, role.Build: 0.8, role.Configuration: 0.8, role.Documentation: 0.4, role.Sample: 0.5, role.Test: 0.3, role.Generated: 0.3, role.Vendored: 0.1,
}

// EntryPoints joins what the files' own text marks with what build files
// declare and with what only the whole tree shows, best first.
func EntryPoints(files []File, declared []recipe.Declared, recipes []recipe.Recipe) []EntryPoint {
	byPath := make(map[string]*File, len(files))
	for i := range files {
		byPath[files[i].Path] = &files[i]
	}
	var out []EntryPoint
	taken := map[string]bool{}
	for _, d := range declared {
		if d.Implied && byPath[d.Target] == nil {
			continue
		}
		e := declaredEntry(d, byPath)
		out = append(out, e)
		if e.Kind == "command" || e.Kind == "program" {
			taken[e.Path] = true
		}
	}
	for i := range files {
		f := &files[i]
		if f.Facts == nil {
			continue
		}
		for _, s := range f.Facts.Starts {
			if (s.Kind == "script" && taken[f.Path]) || !plausible(f, s.Kind) {
				continue
			}
			e := EntryPoint{Kind: s.Kind, Name: startName(f, s.Name), Path: f.Path, Line: s.Line, Evidence: s.Evidence, How: howToRun(f, s.Kind, byPath)}
			e.Weight = weigh(e.Kind, f)
			out = append(out, e)
		}
	}
	out = once(append(out, gathered(files, byPath, recipes)...))
	whereNothingRuns(out, byPath)
	sort.SliceStable(out, func(i, j int) bool {
		a, b := out[i], out[j]
		switch {
		case a.Weight != b.Weight:
			return a.Weight > b.Weight
		case a.Path != b.Path:
			return a.Path < b.Path
		case a.Line != b.Line:
			return a.Line < b.Line
		}
		return a.Name < b.Name
	})
	return out
}

// inLibraries takes weight off what only starts when somebody else's program
// asks for it.
const inLibraries = 0.7

// whereNothingRuns puts faces first where a repository has no program of its
// own: in a library, a service is only what those who build upon it start.
func whereNothingRuns(all []EntryPoint, byPath map[string]*File) {
	library := false
	for _, e := range all {
		f := byPath[e.Path]
		if f == nil || f.Role != role.Source && f.Role != role.Build {
			continue
		}
		if e.Kind == "program" || e.Kind == "command" || e.Kind == "container" {
			return
		}
		library = library || e.Kind == "library"
	}
	for i := range all {
		if k := all[i].Kind; library && (k == "service" || k == "route" || k == "job") {
			all[i].Weight = round(all[i].Weight * inLibraries)
		}
	}
}

// once drops what two detectors found at the same place.
func once(all []EntryPoint) []EntryPoint {
	type place struct {
		kind, name, path string
		line             int
	}
	seen := map[place]bool{}
	out := all[:0]
	for _, e := range all {
		p := place{e.Kind, e.Name, e.Path, e.Line}
		if !seen[p] {
			out = append(out, e)
		}
		seen[p] = true
	}
	return out
}

// declaredEntry leads a declaration to the file it names, where the tree has
// it; else it stays at its own line, and the evidence says so.
func declaredEntry(d recipe.Declared, byPath map[string]*File) EntryPoint {
	e := EntryPoint{Kind: d.Kind, Name: d.Name, Path: d.Path, Line: d.Line, How: d.How, Evidence: d.Evidence}
	at := byPath[d.Path]
	if d.Target != "" && d.Target != d.Path {
		if t := targetFile(d.Target, byPath); t != nil {
			e.Path, e.Line, at = t.Path, 0, t
			if t.Facts != nil && len(t.Facts.Starts) > 0 && d.Kind != "library" {
				e.Line = t.Facts.Starts[0].Line
			}
		} else if t := builtFrom(d.Target, byPath); t != nil {
			e.Path, e.Line, at = t.Path, 0, t
			e.Evidence += " (which is built, most likely from here)"
		} else {
			e.Evidence += " (not in the repository: built or left out)"
		}
	}
	e.Weight = weigh(e.Kind, at)
	return e
}

// targetFile finds the file a declaration means: as written, with an
// extension, as a folder's index, or below src/.
func targetFile(target string, byPath map[string]*File) *File {
	stem := strings.TrimSuffix(target, ".py")
	dir, base := path.Split(target)
	for _, p := range []string{
		target, target + ".js", target + ".mjs", target + ".ts", path.Join(target, "index.js"),
		path.Join(stem, "__init__.py"), path.Join(stem, "__main__.py"), path.Join("src", target), path.Join("src", stem, "__init__.py"),
		path.Join(dir, "src", base),
	} {
		if f := byPath[path.Clean(p)]; f != nil {
			return f
		}
	}
	return nil
}

// builtFrom is the source that a built file most likely comes from: dist/x.js is
// src/x.ts.
func builtFrom(target string, byPath map[string]*File) *File {
	parts := strings.Split(target, "/")
	for i, part := range parts[:len(parts)-1] {
		switch part {
		case "dist", "lib", "build", "out", "es", "esm", "cjs":
		default:
			continue
		}
		stem := strings.Join(parts[i+1:], "/")
		for _, ext := range []string{".d.ts", ".d.mts", ".d.cts", ".js", ".mjs", ".cjs"} {
			if s, ok := strings.CutSuffix(stem, ext); ok {
				stem = s
				break
			}
		}
		for _, ext := range []string{".ts", ".tsx", ".mts", ".js", ".mjs"} {
			if f := byPath[path.Join(strings.Join(parts[:i], "/"), "src", stem+ext)]; f != nil {
				return f
			}
		}
	}
	return nil
}

// plausible drops marks that mean a start only in certain places: a Rust
// function main outside a program's root is a function like any other.
func plausible(f *File, kind string) bool {
	if f.Language == "Rust" && kind == "program" {
		base := path.Base(f.Path)
		dir := "/" + path.Dir(f.Path) + "/"
		return base == "main.rs" || base == "build.rs" || strings.Contains(dir, "/bin/") || strings.Contains(dir, "/examples/") || strings.Contains(dir, "/benches/")
	}
	return true
}

func startName(f *File, name string) string {
	if name != "" {
		return name
	}
	base := path.Base(f.Path)
	stem := strings.TrimSuffix(base, path.Ext(base))
	if dir := path.Base(path.Dir(f.Path)); (stem == "main" || stem == "__main__" || stem == "index") && dir != "." && dir != "/" {
		if dir == "src" {
			if up := path.Base(path.Dir(path.Dir(f.Path))); up != "." {
				return up
			}
		}
		return dir
	}
	return stem
}

func howToRun(f *File, kind string, byPath map[string]*File) string {
	switch {
	case f.Role == role.Vendored:
		return ""
	case f.Language == "Go" && kind == "program":
		return goRun(path.Dir(f.Path), byPath)
	case f.Language == "Go" && kind == "script":
		return "go run " + f.Path
	case f.Language == "Python" && kind == "script":
		return "python " + f.Path
	case kind == "script" && f.Executable:
		return "./" + f.Path
	case kind == "script" && f.Language == "Shell":
		return "sh " + f.Path
	case f.Language == "Java":
		return ""
	}
	return ""
}

// goRun runs a program from the folder of its module.
func goRun(dir string, byPath map[string]*File) string {
	module := dir
	for module != "." && byPath[path.Join(module, "go.mod")] == nil {
		module = path.Dir(module)
	}
	inside := strings.TrimPrefix(strings.TrimPrefix(dir, module), "/")
	run := "go run ./" + inside
	if inside == "" || dir == "." {
		run = "go run ."
	}
	if module == "." {
		if dir != "." {
			return "go run ./" + dir
		}
		return run
	}
	return "cd " + module + " && " + run
}

func weigh(kind string, f *File) float64 {
	w := kindWeight[kind]
	if w == 0 {
		w = 0.5
	}
	if f == nil {
		return w * 0.5
	}
	r, known := roleWeight[f.Role]
	if !known {
		r = 0.6
	}
	depth := float64(strings.Count(f.Path, "/"))
	return round(w * r * (1 - 0.03*min(depth, 8)))
}

func round(x float64) float64 { return float64(int(x*1e4+0.5)) / 1e4 }
