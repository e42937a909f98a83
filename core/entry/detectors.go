package entry

import (
	"regexp"
	"strings"

	"juxtagram/core/lang"
)

// methods of HTTP, as calls are named for them.
var methods = map[string]string{
	"get": "GET", "post": "POST", "put": "PUT", "delete": "DELETE", "patch": "PATCH", "head": "HEAD", "options": "OPTIONS", "any": "ANY", "all": "ANY", "websocket": "WS",
}

// isPattern tells a route's pattern from other strings: it begins with a slash.
func isPattern(p string) bool { return strings.HasPrefix(p, "/") && !strings.Contains(p, "\n") }

func goRoute(_ *Source, c *lang.CallSite) (lang.Start, bool) {
	if !strings.Contains(c.Callee, ".") {
		return lang.Start{}, false
	}
	name, pattern := last(c), text(c, 0)
	switch name {
	case "Handle", "HandleFunc":
		method, rest, ok := strings.Cut(pattern, " ")
		if ok && isPattern(rest) && method == strings.ToUpper(method) {
			return start("route", pattern, c), true // "GET /path"
		}
		if len(c.Args) > 2 && methods[strings.ToLower(pattern)] != "" && isPattern(text(c, 1)) {
			return start("route", strings.ToUpper(pattern)+" "+text(c, 1), c), true
		}
		return start("route", "ANY "+pattern, c), isPattern(pattern) && len(c.Args) > 1
	case "Method":
		return start("route", strings.ToUpper(pattern)+" "+text(c, 1), c), isPattern(text(c, 1))
	}
	m := methods[strings.ToLower(name)]
	return start("route", m+" "+pattern, c), m != "" && isPattern(pattern) && len(c.Args) > 1
}

func goCommand(_ *Source, c *lang.CallSite) (lang.Start, bool) {
	if !strings.HasSuffix(c.Callee, ".Command") {
		return lang.Start{}, false
	}
	use := named(c, "Use")
	if use == "" {
		use = named(c, "Name")
	}
	name, _, _ := strings.Cut(use, " ")
	s := start("command", name, c)
	if short := named(c, "Short"); short != "" {
		s.Evidence = c.Callee + ": " + short
	}
	return s, name != ""
}

func nodeRoute(_ *Source, c *lang.CallSite) (lang.Start, bool) {
	owner, _, ok := strings.Cut(c.Callee, ".")
	m := methods[last(c)]
	if !ok || m == "" || !isPattern(text(c, 0)) || len(c.Args) < 2 || owner == "axios" || owner == "request" || owner == "http" {
		return lang.Start{}, false
	}
	return start("route", m+" "+text(c, 0), c), true
}

func nodeCommand(_ *Source, c *lang.CallSite) (lang.Start, bool) {
	name, _, _ := strings.Cut(text(c, 0), " ")
	return start("command", name, c), last(c) == "command" && name != "" && !strings.HasPrefix(name, "-")
}

func nestRoute(s *Source, c *lang.CallSite) (lang.Start, bool) {
	m := methods[strings.ToLower(c.Callee)]
	if m == "" || c.Callee == strings.ToLower(c.Callee) {
		return lang.Start{}, false
	}
	prefix := ""
	for k := range s.Calls {
		if o := &s.Calls[k]; o.Callee == "Controller" && o.Line < c.Line {
			prefix = "/" + strings.Trim(text(o, 0), "/")
		}
	}
	path := strings.TrimRight(strings.TrimRight(prefix, "/")+"/"+strings.Trim(text(c, 0), "/"), "/")
	return start("route", m+" "+path, c), true
}

func pythonRoute(s *Source, c *lang.CallSite) (lang.Start, bool) {
	name, pattern := last(c), text(c, 0)
	switch name {
	case "path", "re_path", "url":
		// a table of URLs: the pattern has no slash in front
		if c.Callee != name || len(c.Args) < 2 || strings.Contains(c.Callee, ".") || c.Args[0].Text == "" && c.Args[1].Name == "" {
			return lang.Start{}, false
		}
		return start("route", "ANY /"+strings.TrimPrefix(strings.TrimLeft(pattern, "^/"), "/"), c), true
	case "route":
		method := "GET"
		for _, a := range c.Args[min(1, len(c.Args)):] {
			if a == (lang.Argument{}) {
				method = "ANY" // a list of methods, most likely
			}
		}
		return withHandler(s, start("route", method+" "+pattern, c)), isPattern(pattern) && strings.Contains(c.Callee, ".")
	case "add_url_rule", "add_route":
		return start("route", "ANY "+pattern, c), isPattern(pattern)
	}
	m := methods[name]
	if m == "" || !isPattern(pattern) || !strings.Contains(c.Callee, ".") || strings.Contains(c.Callee, "client") || strings.HasPrefix(c.Callee, "requests.") || strings.HasPrefix(c.Callee, "self.") {
		return lang.Start{}, false
	}
	return withHandler(s, start("route", m+" "+pattern, c)), true
}

// withHandler adds the function below a decorator to the evidence.
func withHandler(s *Source, x lang.Start) lang.Start {
	if h := below(s, x.Line); h != "" {
		x.Evidence = "@" + x.Evidence + " on " + h
	}
	return x
}

func pythonCommand(s *Source, c *lang.CallSite) (lang.Start, bool) {
	switch last(c) {
	case "command":
		name := text(c, 0)
		if name == "" {
			name = strings.ReplaceAll(below(s, c.Line), "_", "-")
		}
		return withHandler(s, start("command", name, c)), name != "" && strings.Contains(c.Callee, ".")
	case "add_parser":
		return start("command", text(c, 0), c), text(c, 0) != ""
	case "ArgumentParser":
		name := named(c, "prog")
		return start("command", name, c), name != ""
	}
	return lang.Start{}, false
}

var javaMethods = map[string]string{
	"GetMapping": "GET", "PostMapping": "POST", "PutMapping": "PUT", "DeleteMapping": "DELETE", "PatchMapping": "PATCH", "RequestMapping": "ANY", "Path": "ANY", "WebServlet": "ANY",
}

func javaRoute(s *Source, c *lang.CallSite) (lang.Start, bool) {
	pattern := text(c, 0)
	for _, key := range []string{"value", "path", "urlPatterns"} {
		if p := named(c, key); p != "" {
			pattern = p
		}
	}
	if strings.HasSuffix(c.Callee, "createContext") {
		return start("route", "ANY "+pattern, c), isPattern(pattern)
	}
	m := javaMethods[c.Callee]
	if m == "" || c.Symbol < 0 {
		return lang.Start{}, false
	}
	owner := &s.Outline[c.Symbol]
	if owner.Kind != lang.Method && c.Callee != "WebServlet" {
		return lang.Start{}, false // a class's: the beginning of its methods' patterns
	}
	prefix := ""
	for k := range s.Calls {
		if o := &s.Calls[k]; o.Symbol == owner.Parent && owner.Parent >= 0 && (o.Callee == "RequestMapping" || o.Callee == "Path") {
			prefix = strings.TrimRight(text(o, 0), "/")
			if v := named(o, "value"); v != "" {
				prefix = strings.TrimRight(v, "/")
			}
		}
	}
	x := start("route", m+" "+prefix+"/"+strings.TrimLeft(pattern, "/"), c)
	x.Evidence = "@" + x.Evidence + " on " + owner.Qualified
	return x, true
}

// address is a port, or a host with one.
var address = regexp.MustCompile(`^(?:[\w.-]*:)?\d{1,5}$`)

func listener(_ *Source, c *lang.CallSite) (lang.Start, bool) {
	if c.Kind != lang.Listens || c.Callee == "bind" || c.Callee == "listen" && len(c.Args) < 2 {
		return lang.Start{}, false
	}
	if last(c) == "bind" && len(c.Args) == 0 {
		return lang.Start{}, false
	}
	name := ""
	if c.Target >= 0 && c.Args[c.Target].Text != "" && c.Args[c.Target].Name == "" {
		name = "listens on " + c.Args[c.Target].Text
	}
	// ".listen" and ".bind" mean much else: they must be given a port or address
	if strings.HasSuffix(c.Callee, ".listen") || strings.HasSuffix(c.Callee, ".bind") {
		if c.Target < 0 || c.Args[c.Target] == (lang.Argument{}) || c.Args[c.Target].Text != "" && !address.MatchString(c.Args[c.Target].Text) {
			return lang.Start{}, false
		}
		if a := c.Args[c.Target]; a.Text == "" && !strings.Contains(strings.ToLower(a.Name), "port") && !strings.Contains(strings.ToLower(a.Name), "addr") {
			return lang.Start{}, false
		}
	}
	return start("service", name, c), true
}

func job(s *Source, c *lang.CallSite) (lang.Start, bool) {
	switch last(c) {
	case "AddFunc", "AddJob", "schedule", "scheduleAtFixedRate", "add_job":
		at := text(c, 0)
		if last(c) == "add_job" {
			return start("job", at, c), true
		}
		return start("job", "on time table "+at, c), at != ""
	case "Scheduled":
		when := named(c, "cron")
		if when == "" {
			when = named(c, "fixedRate")
		}
		return start("job", strings.TrimSpace("on time table "+when), c), true
	case "scheduled_job", "task":
		if h := below(s, c.Line); h != "" && strings.Contains(c.Callee, ".") {
			return withHandler(s, start("job", h, c)), true
		}
	}
	return lang.Start{}, false
}
