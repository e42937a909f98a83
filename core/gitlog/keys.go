package gitlog

import (
	"bytes"
	"fmt"
	"sort"
	"strconv"
	"strings"
	"time"
)

// Keys are all that commits can be asked for, in the order they are offered.
var Keys = []Key{
	{
		Name: "by", Says: "by %s", SaysNot: "not by %s", Example: "a name",
		Doc: "who wrote it: a name or address, as the commits of this repository have them", set: by,
	},
	{
		Name: "message", Says: "whose message says %s", SaysNot: "whose message does not say %s", Example: "words of it",
		Doc: "words of the message, all of them, in any order; capitals do not count", set: message,
	},
	{
		Name: "lines", Says: "that changed lines with %s", SaysNot: "that changed no line with %s", Example: "part of a line", Slow: true,
		Doc: "a text in the lines that it added or took away; the changes themselves are read for it, which takes a while",
	},
	{
		Name: "path", Says: "that touch %s", SaysNot: "that do not touch %s", Example: "src/",
		Doc: "a file or a folder with all below it, by the names they had then", set: path,
	},
	{
		Name: "symbol", Says: "that touch %s", SaysNot: "that do not touch %s", Example: "src/file.c#name",
		Doc: "a function, type or other named thing at the pin: its lines are followed back", set: symbol,
	},
	{
		Name: "branch", Says: "on branch %s", SaysNot: "not on branch %s", Example: "main",
		Doc: "all that a branch holds", set: ref("branch"),
	},
	{
		Name: "tag", Says: "in %s", SaysNot: "not in %s", Example: "v1.0",
		Doc: "all that a tag holds: what was new in one release is in it and not in the one before", set: ref("tag"),
	},
	{
		Name: "from", Says: "from %s on", SaysNot: "before %s", Example: "2026-03-01",
		Doc: "committed on this day or later: a day, a month (2026-03) or a year; days are those of UTC", set: from,
	},
	{
		Name: "to", Says: "up to and with %s", SaysNot: "after %s", Example: "2026-03-31",
		Doc: "committed on this day or earlier: a day, a month or a year, the whole of it", set: to,
	},
	{
		Name: "is", Says: "that are a %s", SaysNot: "that are no %s", Example: "merge",
		Doc: "a merge, or a root without parents", set: is,
	},
	{
		Name: "lines-changed", Says: "that change %s lines", SaysNot: "that do not change %s lines", Example: "200-",
		Doc: "its size: lines added and taken away together, as 10-50, 200- (or more) or -5 (or fewer)", set: size(func(l *Log, i int32) int32 {
			if l.Added[i] < 0 {
				return -1
			}
			return l.Added[i] + l.Deleted[i]
		}),
	},
	{
		Name: "files-changed", Says: "that change %s files", SaysNot: "that do not change %s files", Example: "20-",
		Doc: "its width: files changed, as 2-5, 20- (or more) or -1 (or fewer)", set: size(func(l *Log, i int32) int32 { return l.Files[i] }),
	},
}

func by(l *Log, value string, _ Outside) (Set, error) {
	want := map[int32]bool{}
	for i := range l.People.List {
		p := &l.People.List[i]
		if strings.EqualFold(p.Name, value) || (p.Email != "" && strings.EqualFold(p.Email, value)) {
			want[int32(i)] = true
		}
	}
	for _, i := range l.People.Called(value) {
		want[int32(i)] = true
	}
	if len(want) == 0 {
		return nil, fmt.Errorf("nobody called %q wrote a commit here", value)
	}
	return l.where(func(i int32) bool { return want[l.Authors[i]] }), nil
}

func message(l *Log, value string, _ Outside) (Set, error) {
	var asked [][]byte
	for _, w := range strings.Fields(strings.ToLower(value)) {
		asked = append(asked, []byte(w))
	}
	if len(asked) == 0 {
		return nil, fmt.Errorf("which words the message should have is left open")
	}
	return l.where(func(i int32) bool {
		for _, w := range asked {
			if !bytes.Contains(l.texts[i], w) {
				return false
			}
		}
		return true
	}), nil
}

// below gives the numbers of a path and all paths below it as two spans.
func (l *Log) below(p string) (own int32, first, end int32) {
	p = strings.Trim(p, "/")
	own = -1
	if n := sort.SearchStrings(l.paths, p); n < len(l.paths) && l.paths[n] == p {
		own = int32(n)
	}
	return own, int32(sort.SearchStrings(l.paths, p+"/")), int32(sort.SearchStrings(l.paths, p+"0")) // '0' follows '/'
}

func path(l *Log, value string, _ Outside) (Set, error) {
	if strings.Trim(value, "/") == "" {
		return l.where(func(i int32) bool { return l.Files[i] > 0 }), nil
	}
	own, first, end := l.below(value)
	if own < 0 && first == end {
		return nil, fmt.Errorf("no commit ever changed a file or folder called %s", value)
	}
	in := func(p int32) bool { return p >= 0 && (p == own || (p >= first && p < end)) }
	return l.where(func(i int32) bool {
		for _, c := range l.changes[l.changeAt[i]:l.changeAt[i+1]] {
			if in(c.path) || in(c.old) {
				return true
			}
		}
		return false
	}), nil
}

func symbol(l *Log, value string, outside Outside) (Set, error) {
	if outside == nil {
		return nil, fmt.Errorf("symbols are not known here")
	}
	commits, err := outside.Symbol(value)
	if err != nil {
		return nil, err
	}
	s := NewSet(l.Len())
	for _, i := range commits {
		s.Add(i)
	}
	return s, nil
}

func ref(kind string) func(*Log, string, Outside) (Set, error) {
	return func(l *Log, value string, _ Outside) (Set, error) {
		for _, r := range l.Refs {
			if r.Kind == kind && r.Name == value {
				return l.Reach(r.Commit), nil
			}
		}
		return nil, fmt.Errorf("there is no %s called %q here", kind, value)
	}
}

func from(l *Log, value string, _ Outside) (Set, error) {
	first, _, err := Span(value)
	if err != nil {
		return nil, err
	}
	return l.where(func(i int32) bool { return l.Times[i] >= first }), nil
}

func to(l *Log, value string, _ Outside) (Set, error) {
	_, end, err := Span(value)
	if err != nil {
		return nil, err
	}
	return l.where(func(i int32) bool { return l.Times[i] < end }), nil
}

// Span is the time of a day, a month or a year as written, in Unix seconds:
// from its first second up to the first after it.
func Span(value string) (first, end int64, err error) {
	for _, f := range []struct {
		layout              string
		years, months, days int
	}{{"2006-01-02", 0, 0, 1}, {"2006-01", 0, 1, 0}, {"2006", 1, 0, 0}} {
		if t, err := time.Parse(f.layout, value); err == nil {
			return t.Unix(), t.AddDate(f.years, f.months, f.days).Unix(), nil
		}
	}
	return 0, 0, fmt.Errorf("%q is no date: write a day as 2026-03-01, a month as 2026-03 or a year as 2026", value)
}

func is(l *Log, value string, _ Outside) (Set, error) {
	switch value {
	case "merge":
		return l.where(l.IsMerge), nil
	case "root":
		return l.where(func(i int32) bool { return l.parentAt[i] == l.parentAt[i+1] }), nil
	}
	return nil, fmt.Errorf("a commit can be a merge or a root, not a %q", value)
}

func size(of func(l *Log, i int32) int32) func(*Log, string, Outside) (Set, error) {
	return func(l *Log, value string, _ Outside) (Set, error) {
		least, most, err := bounds(value)
		if err != nil {
			return nil, err
		}
		return l.where(func(i int32) bool {
			n := int64(of(l, i))
			return n >= least && n <= most
		}), nil
	}
}

func bounds(value string) (least, most int64, err error) {
	a, b, span := strings.Cut(value, "-")
	least, most = 0, 1<<40
	number := func(s string, into *int64) error {
		if s == "" {
			return nil
		}
		n, err := strconv.ParseUint(strings.TrimSpace(s), 10, 31)
		*into = int64(n)
		return err
	}
	err1, err2 := number(a, &least), number(b, &most)
	if !span {
		most = least
	}
	if err1 != nil || err2 != nil || (a == "" && b == "") || least > most {
		return 0, 0, fmt.Errorf("%q is no size: write 10-50, 200- for 200 or more, or -5 for 5 or fewer", value)
	}
	return least, most, nil
}
