package recipe

import (
	"fmt"
	"path"
	"regexp"
	"sort"
	"strings"

	"github.com/BurntSushi/toml"
)

type pyprojectFile struct {
	Project struct {
		Name       string
		Scripts    map[string]string
		GUIScripts map[string]string `toml:"gui-scripts"`
	}
	Tool map[string]any
}

// pyproject reads declared console scripts and how the project is installed.
func pyproject(p string, content []byte) Found {
	var py pyprojectFile
	if _, err := toml.Decode(string(content), &py); err != nil {
		return Found{Problem: "not readable as TOML" + lineOfError(err)}
	}
	dir := folder(p)
	f := Found{Recipes: []Recipe{{Kind: "install", Command: "pip install .", Folder: dir, Path: p, Line: 1}}}
	name := py.Project.Name
	if poetry, _ := py.Tool["poetry"].(map[string]any); name == "" {
		name, _ = poetry["name"].(string)
	}
	if name != "" {
		f.Package = &Package{Kind: KindOf(p), Name: name, Line: lineOf(content, `"`+name+`"`, "'"+name+"'")}
	}
	if _, ok := py.Tool["pytest"]; ok {
		f.Recipes = append(f.Recipes, Recipe{Kind: "test", Command: "pytest", Folder: dir, Path: p, Line: lineOf(content, "[tool.pytest")})
	}
	for _, scripts := range []map[string]string{py.Project.Scripts, py.Project.GUIScripts, poetryScripts(py.Tool)} {
		names := make([]string, 0, len(scripts))
		for n := range scripts {
			names = append(names, n)
		}
		sort.Strings(names)
		for _, n := range names {
			f.Declared = append(f.Declared, consoleScript(p, content, n, scripts[n]))
		}
	}
	return f
}

func poetryScripts(tool map[string]any) map[string]string {
	out := map[string]string{}
	poetry, _ := tool["poetry"].(map[string]any)
	scripts, _ := poetry["scripts"].(map[string]any)
	for n, v := range scripts {
		if s, ok := v.(string); ok {
			out[n] = s
		}
	}
	return out
}

// consoleScript is a declared command; its target is the module's path, which
// the survey looks for below the folder and below src/.
func consoleScript(p string, content []byte, name, where string) Declared {
	module, _, _ := strings.Cut(strings.TrimSpace(where), ":")
	return Declared{Kind: "command", Name: name, Target: path.Join(folder(p), strings.ReplaceAll(module, ".", "/")+".py"), Path: p,
		Line: lineOf(content, name+" =", name+"=", `"`+name+`"`, name), How: name, Evidence: fmt.Sprintf("%s: the script %s leads to %s", path.Base(p), name, where)}
}

// setupName is the name that setup.py or setup.cfg gives, where it stands there
// as a plain text.
var setupName = regexp.MustCompile(`(?m)^\s*name\s*=\s*["']?([A-Za-z0-9][\w.-]*)["']?\s*,?\s*$`)

var setupScript = regexp.MustCompile(`^\s*["']?([\w.-]+)\s*=\s*([\w.]+:[\w.]+)`)

func pythonSetup(p string, content []byte) Found {
	dir := folder(p)
	var f Found
	switch strings.ToLower(path.Base(p)) {
	case "requirements.txt":
		f.Recipes = append(f.Recipes, Recipe{Kind: "install", Command: "pip install -r requirements.txt", Folder: dir, Path: p, Line: 1})
		return f
	case "tox.ini":
		f.Recipes = append(f.Recipes, Recipe{Kind: "test", Command: "tox", Folder: dir, Path: p, Line: 1})
		return f
	case "setup.py":
		f.Recipes = append(f.Recipes, Recipe{Kind: "install", Command: "pip install .", Folder: dir, Path: p, Line: 1})
	}
	if m := setupName.FindSubmatchIndex(content); m != nil {
		f.Package = &Package{Kind: KindOf(p), Name: string(content[m[2]:m[3]]), Line: strings.Count(string(content[:m[2]]), "\n") + 1}
	}
	inside := false
	eachLine(content, func(n int, l string) {
		t := strings.TrimSpace(l)
		switch {
		case strings.Contains(t, "console_scripts"):
			inside = true
		case inside && (strings.HasPrefix(t, "[") || strings.HasPrefix(t, "]") || (t != "" && !strings.HasPrefix(l, " ") && !strings.HasPrefix(l, "\t"))):
			inside = false
		}
		if m := setupScript.FindStringSubmatch(l); inside && m != nil {
			d := consoleScript(p, content, m[1], m[2])
			d.Line = n
			f.Declared = append(f.Declared, d)
		}
	})
	return f
}
