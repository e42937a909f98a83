package recipe

import (
	"encoding/json"
	"path"
	"regexp"
	"strings"

	"github.com/goccy/go-yaml"
)

func containerfile(p string) bool {
	base := strings.ToLower(path.Base(p))
	stem, ext, _ := strings.Cut(base, ".")
	return stem == "dockerfile" || stem == "containerfile" || ext == "dockerfile" || ext == "containerfile"
}

var containerStart = regexp.MustCompile(`(?i)^\s*(CMD|ENTRYPOINT)\s+(.+)$`)

// container reads the command a container starts with: the last ENTRYPOINT and
// the last CMD, as the format has it.
func container(p string, content []byte) Found {
	last := map[string]Declared{}
	eachLine(content, func(n int, l string) {
		m := containerStart.FindStringSubmatch(l)
		if m == nil {
			return
		}
		command := m[2]
		var words []string
		if json.Unmarshal([]byte(command), &words) == nil {
			command = strings.Join(words, " ")
		}
		what := strings.ToUpper(m[1])
		last[what] = Declared{Kind: "container", Name: command, Path: p, Line: n, How: command, Evidence: what + " " + command}
	})
	f := Found{Recipes: []Recipe{{Kind: "build", Command: "docker build -f " + path.Base(p) + " .", Folder: folder(p), Path: p, Line: 1}}}
	entry, hasEntry := last["ENTRYPOINT"]
	command, hasCommand := last["CMD"]
	switch {
	case hasEntry && hasCommand: // the command is then what the entry point is given
		entry.Name += " " + command.Name
		entry.How = entry.Name
		entry.Evidence += ", " + command.Evidence
		f.Declared = append(f.Declared, entry)
	case hasEntry:
		f.Declared = append(f.Declared, entry)
	case hasCommand:
		f.Declared = append(f.Declared, command)
	}
	return f
}

var compositionName = regexp.MustCompile(`^(docker-)?compose([.-].*)?\.ya?ml$`)

func composition(p string) bool { return compositionName.MatchString(strings.ToLower(path.Base(p))) }

func compose(p string, content []byte) Found {
	var c struct {
		Services yaml.MapSlice `yaml:"services"`
	}
	if err := yaml.Unmarshal(content, &c); err != nil {
		return Found{Problem: "not readable as YAML"}
	}
	f := Found{Recipes: []Recipe{{Kind: "run", Command: "docker compose -f " + path.Base(p) + " up", Folder: folder(p), Path: p, Line: 1}}}
	for _, s := range c.Services {
		name, _ := s.Key.(string)
		if name == "" {
			continue
		}
		f.Declared = append(f.Declared, Declared{Kind: "service", Name: name, Path: p, Line: lineOf(content, "  "+name+":"),
			How: "docker compose up " + name, Evidence: "the composition's service " + name})
	}
	return f
}

func ciFile(p string) bool {
	low := strings.ToLower(p)
	base := path.Base(low)
	return strings.Contains("/"+low, "/.github/workflows/") && strings.HasSuffix(low, "ml") || base == ".gitlab-ci.yml" ||
		strings.HasSuffix(low, ".circleci/config.yml") || base == ".travis.yml"
}

var runStep = regexp.MustCompile(`^\s*-?\s*(?:run|script):\s*(.+)$`)

// ci reads the single-line commands of a CI file's steps.
func ci(p string, content []byte) Found {
	var f Found
	inScript, inList, indent := false, false, 0 // a block of lines, or a list of them
	platform := ""                              // that the job runs on
	add := func(n int, command string) {
		command = strings.Trim(command, `"'`)
		f.Recipes = append(f.Recipes, Recipe{Kind: commandKind(command), Command: command, Platform: platform, Path: p, Line: n})
	}
	eachLine(content, func(n int, l string) {
		t := strings.TrimSpace(l)
		at := len(l) - len(strings.TrimLeft(l, " "))
		if inScript && t != "" && at <= indent && !(inList && strings.HasPrefix(t, "- ")) {
			inScript = false
		}
		if on, ok := strings.CutPrefix(strings.TrimPrefix(t, "- "), "runs-on:"); ok && !inScript {
			platform = platformOf(on) // a matrix names none
		}
		m := runStep.FindStringSubmatch(l)
		switch {
		case m != nil && (m[1] == "|" || m[1] == ">" || m[1] == "|-" || m[1] == ">-"):
			inScript, inList, indent = true, false, at
		case m != nil:
			add(n, m[1])
		case strings.HasSuffix(t, "script:"):
			inScript, inList, indent = true, true, at
		case inScript && t != "" && !strings.HasPrefix(t, "#"):
			add(n, strings.TrimPrefix(t, "- "))
		}
	})
	f.Declared = append(f.Declared, Declared{Kind: "ci", Name: path.Base(p), Target: p, Path: p, Line: 1, Evidence: "a CI file"})
	return f
}

func commandKind(command string) string {
	low := strings.ToLower(command)
	for _, k := range []struct{ kind, words string }{{"test", "test pytest ctest tox check"}, {"lint", "lint vet fmt eslint flake8 ruff clippy"}, {"install", "install ci get"}, {"build", "build make compile package"}} {
		for _, w := range strings.Fields(k.words) {
			for _, f := range strings.FieldsFunc(low, func(r rune) bool { return r == ' ' || r == ':' || r == '-' || r == '=' }) {
				if f == w {
					return k.kind
				}
			}
		}
	}
	return "other"
}
