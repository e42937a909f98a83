package repo

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"
)

// Commit is what a commit says of itself. Names are as written, before any
// mailmap.
type Commit struct {
	ID                      string
	Parents                 []string
	AuthorName, AuthorEmail string
	AuthorTime              int64 // Unix seconds
	CommitTime              int64 // Unix seconds
	Subject                 string
	Message                 string // what follows the subject, to MaxMessage bytes
}

// MaxMessage is how much of a commit's message is read with the log; the whole
// is read with the commit alone.
const MaxMessage = 64 << 10

// Commits lists every commit reachable from pin, newest first as `git log`
// orders them. Ids in not, and what they reach, are left out.
func (g *Git) Commits(ctx context.Context, pin string, not []string, limit int) ([]Commit, error) {
	return g.CommitsOf(ctx, []string{pin}, not, limit)
}

// CommitsOf is Commits from several commits together.
func (g *Git) CommitsOf(ctx context.Context, tips, not []string, limit int) ([]Commit, error) {
	var in bytes.Buffer
	for _, id := range tips {
		fmt.Fprintln(&in, id)
	}
	for _, id := range not {
		fmt.Fprintln(&in, "^"+id)
	}
	args := []string{"log", "-z", "--no-decorate", "--no-notes", "--no-color", "--no-show-signature", "--encoding=UTF-8",
		"--format=tformat:%H%x1f%P%x1f%an%x1f%ae%x1f%at%x1f%ct%x1f%s%n%b", "--stdin"}
	if limit > 0 {
		args = append(args, "-n", strconv.Itoa(limit))
	}
	var commits []Commit
	err := g.stream(ctx, &in, func(r io.Reader) error {
		br := bufio.NewReaderSize(r, 1<<18)
		for {
			record, err := br.ReadString(0)
			if err == io.EOF && record == "" {
				return nil
			}
			if err != nil {
				return io.ErrUnexpectedEOF
			}
			c, err := parseCommit(strings.TrimSuffix(record, "\x00"))
			if err != nil {
				return err
			}
			commits = append(commits, c)
		}
	}, args...)
	return commits, err
}

func parseCommit(record string) (Commit, error) {
	f := strings.SplitN(record, "\x1f", 4)
	if len(f) < 4 {
		return Commit{}, fmt.Errorf("git log: cannot read %.80q", record)
	}
	// A hostile name could hold the separator: the times are found from what
	// follows the last address that is followed by two numbers.
	m := commitTail.FindStringSubmatch(f[3])
	if m == nil {
		return Commit{}, fmt.Errorf("git log: cannot read commit %.40q", record)
	}
	c := Commit{ID: strings.Clone(f[0]), Parents: strings.Fields(f[1]), AuthorName: clean(f[2]), AuthorEmail: clean(m[1])}
	subject, body, _ := strings.Cut(m[4], "\n")
	c.Subject, c.Message = clean(subject), clean(strings.TrimSpace(body[:min(len(body), MaxMessage)]))
	c.AuthorTime, c.CommitTime = moment(m[2]), moment(m[3])
	return c, nil
}

// moment reads Unix seconds. What no calendar holds is told as its nearest end:
// before 1970, or unreadable, as 1970, and after the year 9999 as its last second.
func moment(s string) int64 {
	const last = 253_402_300_799
	n, _ := strconv.ParseInt(s, 10, 64) // out of range gives the largest there is
	return max(0, min(n, last))
}

var commitTail = regexp.MustCompile(`(?s)^(.*?)\x1f(-?\d*)\x1f(-?\d*)\x1f(.*)$`)

func clean(s string) string { return strings.Clone(strings.ToValidUTF8(s, "?")) }

// Person is a name and address as one ident.
type Person struct{ Name, Email string }

// Mailmap sends idents through the .mailmap file of a commit; those it does
// not know come back as they are. One process for all.
func (g *Git) Mailmap(ctx context.Context, commit string, people []Person) (map[Person]Person, error) {
	got := make(map[Person]Person, len(people))
	var in bytes.Buffer
	var asked []Person
	for _, p := range people {
		got[p] = p
		if p.Email == "" || strings.ContainsAny(p.Name+p.Email, "<>\n\x00") {
			continue // git cannot read these back as an ident
		}
		asked = append(asked, p)
		fmt.Fprintf(&in, "%s <%s>\n", p.Name, p.Email)
	}
	if len(asked) == 0 {
		return got, nil
	}
	if _, err := g.Run(ctx, "cat-file", "-e", commit+":.mailmap"); err != nil {
		return got, ctx.Err()
	}
	out, err := g.RunInput(ctx, &in, "-c", "mailmap.file=/dev/null", "-c", "mailmap.blob="+commit+":.mailmap", "check-mailmap", "--stdin")
	if err != nil {
		return nil, err
	}
	answers := strings.Split(strings.TrimSuffix(string(out), "\n"), "\n")
	if len(answers) != len(asked) {
		return nil, fmt.Errorf("git check-mailmap: %d answers to %d people", len(answers), len(asked))
	}
	for i, a := range answers {
		if open := strings.LastIndex(a, "<"); open >= 0 && strings.HasSuffix(a, ">") {
			got[asked[i]] = Person{Name: strings.TrimSpace(a[:open]), Email: a[open+1 : len(a)-1]}
		}
	}
	return got, nil
}

// Reachable lists the full ids of every commit reachable from pin, newest
// first as `git log` orders them.
func (g *Git) Reachable(ctx context.Context, pin string) ([]string, error) {
	out, err := g.Run(ctx, "rev-list", "--end-of-options", pin)
	if err != nil {
		return nil, err
	}
	return strings.Fields(string(out)), nil
}
