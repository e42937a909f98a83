package recipe

import (
	"encoding/json"
	"fmt"
	"path"
	"regexp"
	"sort"
	"strings"
)

type packageFile struct {
	Name    string            `json:"name"`
	Scripts map[string]string `json:"scripts"`
	Bin     json.RawMessage   `json:"bin"`
	Main    string            `json:"main"`
	Module  string            `json:"module"`
	Exports json.RawMessage   `json:"exports"`
}

// packageJSON reads scripts and the declared faces: bin, main, module, exports.
func packageJSON(p string, content []byte) Found {
	var pkg packageFile
	if err := json.Unmarshal(content, &pkg); err != nil {
		return Found{Problem: "not readable as JSON: " + err.Error()}
	}
	var f Found
	dir := folder(p)
	if pkg.Name != "" {
		quoted, _ := json.Marshal(pkg.Name)
		f.Package = &Package{Kind: KindOf(p), Name: pkg.Name, Line: lineAfter(content, lineOf(content, `"name"`), string(quoted))}
	}
	names := make([]string, 0, len(pkg.Scripts))
	for n := range pkg.Scripts {
		names = append(names, n)
	}
	sort.Strings(names)
	scripts := lineOf(content, `"scripts"`)
	for _, n := range names {
		quoted, _ := json.Marshal(n)
		line := lineAfter(content, scripts, string(quoted))
		command := "npm run " + n
		if n == "test" || n == "start" {
			command = "npm " + n
		}
		f.Recipes = append(f.Recipes, Recipe{Kind: kindOf(n), Command: command, Folder: dir, Path: p, Line: line})
	}
	f.Recipes = append(f.Recipes, Recipe{Kind: "install", Command: "npm install", Folder: dir, Path: p, Line: 1})
	seen := map[string]bool{}
	declare := func(kind, name, target, key string) {
		place := strings.Join([]string{kind, name, path.Join(dir, target)}, "\x00")
		if target == "" || seen[place] {
			return // the same face by another key
		}
		seen[place] = true
		how := ""
		if kind == "command" {
			how = "npx " + name
		}
		f.Declared = append(f.Declared, Declared{Kind: kind, Name: name, Target: path.Join(dir, target), Path: p,
			Line: lineOf(content, `"`+key+`"`), How: how, Evidence: fmt.Sprintf("%s: %s leads to %s", path.Base(p), key, target)})
	}
	bins(pkg, declare)
	declare("library", pkg.Name, pkg.Main, "main")
	if pkg.Module != pkg.Main {
		declare("library", pkg.Name, pkg.Module, "module")
	}
	for _, e := range exports(pkg.Exports) {
		name := pkg.Name
		if e.at != "." {
			name = path.Join(pkg.Name, e.at)
		}
		declare("library", name, e.target, "exports")
	}
	if pkg.Main == "" && pkg.Module == "" && len(pkg.Exports) == 0 && pkg.Name != "" {
		f.Declared = append(f.Declared, Declared{Kind: "library", Name: pkg.Name, Target: path.Join(dir, "index.js"), Path: p, Line: f.Package.Line, Implied: true,
			Evidence: path.Base(p) + ": names no face, so index.js is taken"})
	}
	return f
}

func lineAfter(content []byte, from int, text string) int {
	lines := strings.Split(string(content), "\n")
	for i := max(0, from-1); i < len(lines); i++ {
		if strings.Contains(lines[i], text) {
			return i + 1
		}
	}
	return from
}

func bins(pkg packageFile, declare func(kind, name, target, key string)) {
	var one string
	var many map[string]string
	if json.Unmarshal(pkg.Bin, &one) == nil {
		declare("command", path.Base(pkg.Name), one, "bin")
	} else if json.Unmarshal(pkg.Bin, &many) == nil {
		names := make([]string, 0, len(many))
		for n := range many {
			names = append(names, n)
		}
		sort.Strings(names)
		for _, n := range names {
			declare("command", n, many[n], "bin")
		}
	}
}

// types are declarations for a compiler: no face anybody runs.
var types = regexp.MustCompile(`\.d\.[cm]?ts$`)

type export struct{ at, target string }

// exports flattens an exports field: conditions of one face that lead to the
// same file count once; type declarations are left out.
func exports(raw json.RawMessage) []export {
	var v any
	if len(raw) == 0 || json.Unmarshal(raw, &v) != nil {
		return nil
	}
	var out []export
	seen := map[export]bool{}
	var walk func(at string, v any)
	walk = func(at string, v any) {
		switch v := v.(type) {
		case string:
			e := export{at, v}
			if !seen[e] && !types.MatchString(v) && !strings.HasSuffix(v, "package.json") {
				seen[e] = true
				out = append(out, e)
			}
		case map[string]any:
			keys := make([]string, 0, len(v))
			for k := range v {
				keys = append(keys, k)
			}
			sort.Strings(keys)
			for _, k := range keys {
				if strings.HasPrefix(k, ".") {
					walk(k, v[k])
				} else {
					walk(at, v[k])
				}
			}
		case []any:
			for _, x := range v {
				walk(at, x)
			}
		}
	}
	walk(".", v)
	return out
}
