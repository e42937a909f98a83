package document

import (
	"net/url"
	"path"
	"regexp"
	"strconv"
	"strings"

	"juxtagram/core/plan"
)

// What the line that leads to the code is made of. A link's name may hold what is escaped.
var (
	link       = regexp.MustCompile(`\[((?:\\.|[^\]\\])*)\]\(([^)\s]*)\)`)
	lineRange  = regexp.MustCompile(`^L(\d+)(?:-L?(\d+))?$`)
	minutes    = regexp.MustCompile(`(?:^|· )(\d+) min\b`)
	mayBeLeft  = regexp.MustCompile(`· may be left out\s*$`)
	skimmed    = regexp.MustCompile(`, its (\d+) most telling lines`)
	symbolIn   = regexp.MustCompile("^`([^`]+)` in \\[")
	commitOnly = regexp.MustCompile("^commit `([0-9a-f]{40}|[0-9a-f]{64})`")
	notYet     = regexp.MustCompile("^`([^`]+)`, not there yet")
)

// place reads where a link leads to; "" and a reason: out of the repository.
func place(address, folder string) (s plan.Stretch, why string) {
	u, err := url.Parse(address)
	if err != nil || u.Scheme != "" || u.Host != "" || u.RawQuery != "" {
		return s, "leads to no file of the repository"
	}
	if s.Path = path.Join(folder, u.Path); path.IsAbs(u.Path) {
		s.Path = path.Clean(strings.TrimLeft(u.Path, "/"))
	}
	if s.Path == ".." || strings.HasPrefix(s.Path, "../") {
		return s, "leads out of the repository"
	}
	if s.Path == "." {
		s.Path = ""
	}
	if u.Fragment == "" {
		return s, ""
	}
	m := lineRange.FindStringSubmatch(u.Fragment)
	if m == nil {
		return s, "names no lines as #L3-L9 does"
	}
	s.Start, _ = strconv.Atoi(m[1])
	if s.End = s.Start; m[2] != "" {
		s.End, _ = strconv.Atoi(m[2])
	}
	return s, ""
}

// targetOf reads what a line that is written by hand has one read; "" is no problem.
func targetOf(line, folder, commit string) (t plan.Target, why string) {
	t.Commit = commit
	var links []plan.Stretch
	names := link.FindAllStringSubmatch(line, -1)
	for _, m := range names {
		s, bad := place(m[2], folder)
		if bad != "" {
			return t, "its link to “" + clipped(m[2]) + "” " + bad
		}
		links = append(links, s)
	}
	first := func(kind string) {
		t.Kind, t.Path, t.Start, t.End = kind, links[0].Path, links[0].Start, links[0].End
	}
	switch {
	case commitOnly.MatchString(line):
		t.Kind, t.Commit = plan.Commit, commitOnly.FindStringSubmatch(line)[1]
	case notYet.MatchString(line):
		t.Kind, t.Path = plan.Planned, notYet.FindStringSubmatch(line)[1]
		if len(links) > 0 {
			t.Pattern = links[0].Path
		}
	case strings.HasPrefix(line, "something to try"):
		t.Kind, t.Try = plan.Try, &plan.Trial{}
	case strings.HasPrefix(line, "the whole repository"):
		t.Kind = plan.Folder
	case len(links) == 0:
		return t, "it leads to no code: a link to a file, such as [a.go, lines 3 to 9](a.go#L3-L9), is missing"
	case len(links) > 1 && strings.Contains(line, ") → ["):
		t.Kind, t.Hops = plan.Way, links
	case len(links) == 2 && strings.Contains(line, ") beside ["):
		first(plan.Pair)
		t.Beside = &links[1]
	case len(links) > 1:
		return t, "it leads to several places: is it a pair (… beside …) or a way (… → …)?"
	case symbolIn.MatchString(line):
		first(plan.Symbol)
		t.Symbol = symbolIn.FindStringSubmatch(line)[1]
	case strings.HasSuffix(names[0][1], "/") || strings.HasSuffix(names[0][2], "/") || links[0].Path == "":
		first(plan.Folder)
	case links[0].Start > 0:
		first(plan.Lines)
	default:
		first(plan.File)
		if m := skimmed.FindStringSubmatch(line); m != nil {
			t.Skim, _ = strconv.Atoi(m[1])
		}
	}
	return t, ""
}
