// Package entry finds where control comes into a program in the text of one
// file: routes, listening services, commands of a command line, scheduled jobs.
//
// A detector is a value: what it looks for, in which languages, and which
// imports must be there for its words to mean that. Adding one is a line in
// Detectors, and a folder of the same name below testdata.
package entry

import (
	"fmt"
	"sort"
	"strings"

	"juxtagram/core/lang"
)

// Source is what the detectors look at.
type Source struct {
	Language string
	lang.Reading
}

// Detector finds starts of one kind.
type Detector struct {
	Name      string // its folder below testdata
	Doc       string // one sentence for people
	Languages []string
	Imports   []string // one of them must be a part of what some import names; empty: none is asked for
	Find      func(s *Source, c *lang.CallSite) (lang.Start, bool)
}

// Detectors are all detectors.
var Detectors = []Detector{
	{"go-routes", "Patterns given to an HTTP router.", []string{"Go"}, []string{"net/http", "gin", "echo", "chi", "mux", "fiber", "httprouter", "huma"}, goRoute},
	{"go-commands", "Commands of a command-line framework.", []string{"Go"}, []string{"cobra", "urfave/cli"}, goCommand},
	{"node-routes", "Patterns given to an HTTP framework.", []string{"JavaScript", "TypeScript"}, []string{"express", "fastify", "koa", "hono", "hapi", "router", "itty"}, nodeRoute},
	{"node-commands", "Commands of a command-line framework.", []string{"JavaScript", "TypeScript"}, []string{"commander", "yargs", "cac", "sade", "oclif"}, nodeCommand},
	{"nest-routes", "Decorated methods that answer requests.", []string{"TypeScript"}, []string{"@nestjs"}, nestRoute},
	{"python-routes", "Decorated functions and tables of URLs that answer requests.", []string{"Python"}, []string{"flask", "fastapi", "django", "starlette", "sanic", "bottle", "aiohttp", "quart", "falcon"}, pythonRoute},
	{"python-commands", "Decorated commands and sub-parsers.", []string{"Python"}, []string{"click", "typer", "argparse"}, pythonCommand},
	{"java-routes", "Annotated methods that answer requests.", []string{"Java", "Kotlin"}, []string{"springframework", "ws.rs", "micronaut", "servlet", "httpserver"}, javaRoute},
	{"listeners", "Calls that listen for connections.", nil, nil, listener},
	{"jobs", "Work that is given a time table.", []string{"Go", "JavaScript", "TypeScript", "Python", "Java"}, []string{"cron", "schedule", "celery", "quartz", "springframework"}, job},
}

// maxStarts is how many starts of one file are told.
const maxStarts = 500

// Find runs every detector over one file, in the order of its lines.
func Find(s *Source) []lang.Start {
	var out []lang.Start
	for i := range Detectors {
		d := &Detectors[i]
		if !d.speaks(s) {
			continue
		}
		for k := range s.Calls {
			if start, ok := d.Find(s, &s.Calls[k]); ok && len(out) < maxStarts {
				out = append(out, start)
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Line < out[j].Line })
	return out
}

func (d *Detector) speaks(s *Source) bool {
	known := len(d.Languages) == 0
	for _, l := range d.Languages {
		known = known || l == s.Language
	}
	if !known || len(d.Imports) == 0 {
		return known
	}
	for _, i := range s.Imports {
		for _, word := range d.Imports {
			if strings.Contains(i.Text, word) {
				return true
			}
		}
	}
	return false
}

// last is the last name of a call.
func last(c *lang.CallSite) string { return c.Callee[strings.LastIndexAny(c.Callee, ".:>")+1:] }

// text is the string that a call's argument is; "" for none.
func text(c *lang.CallSite, n int) string {
	if n < len(c.Args) && c.Args[n].Name == "" {
		return c.Args[n].Text
	}
	return ""
}

// named is the string given under a key: "methods" in methods="POST".
func named(c *lang.CallSite, key string) string {
	for _, a := range c.Args {
		if a.Name == key {
			return a.Text
		}
	}
	return ""
}

// evidence shows a call as far as it is known.
func evidence(c *lang.CallSite) string {
	var args []string
	for _, a := range c.Args {
		switch {
		case a.Text != "" && a.Name != "":
			args = append(args, fmt.Sprintf("%s: %q", a.Name, a.Text))
		case a.Text != "":
			args = append(args, fmt.Sprintf("%q", a.Text))
		case a.Name != "":
			args = append(args, a.Name)
		default:
			args = append(args, "…")
		}
	}
	e := c.Callee + "(" + strings.Join(args, ", ") + ")"
	if r := []rune(e); len(r) > 160 {
		e = string(r[:159]) + "…"
	}
	return e
}

// below is the symbol that a decorator or annotation on a line stands for: the
// next one that begins there; "" for none.
func below(s *Source, line int) string {
	for i := range s.Outline {
		if x := &s.Outline[i]; x.NameLine >= line && x.NameLine <= line+12 && (x.Kind == lang.Function || x.Kind == lang.Method || x.Kind == lang.Class) {
			return x.Qualified
		}
	}
	return ""
}

func start(kind, name string, c *lang.CallSite) lang.Start {
	return lang.Start{Kind: kind, Name: name, Line: c.Line, Evidence: evidence(c)}
}
