package history_test

import (
	"fmt"
	"math/rand/v2"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/history"
	"juxtagram/core/lang/all"
	"juxtagram/core/repo"
	"juxtagram/core/repo/repotest"
	"juxtagram/core/tagged"
	"juxtagram/demo"
)

func languageOf(path string) string {
	if l := all.OfPath(path); l != nil {
		return l.Name
	}
	return ""
}

// noted is a comment whose whole life the test knows.
type noted struct {
	text       string
	born, last int // numbers of commits
	gone       int // 0: still there
	edits      int
}

// Random edits whose effect on every comment is written down as they are made.
func TestLivesAreAsTheyWereLived(t *testing.T) {
	r := repotest.New(t)
	random := rand.New(rand.NewPCG(5, 6))
	files := map[string][]any{"a.go": {"package a"}, "b.go": {"package a"}, "c.go": {"package a"}} // lines of text, or *noted
	var ended []*noted
	names := []string{"a.go", "b.go", "c.go"}
	write := func() {
		for name, lines := range files {
			var b strings.Builder
			for _, l := range lines {
				if n, ok := l.(*noted); ok {
					fmt.Fprintf(&b, "\t// %s\n", n.text)
				} else {
					fmt.Fprintln(&b, l)
				}
			}
			r.Write(name, b.String())
		}
	}
	notesOf := func(name string) (at []int) {
		for i, l := range files[name] {
			if _, ok := l.(*noted); ok {
				at = append(at, i)
			}
		}
		return at
	}
	insert := func(name string, line any) {
		at := 1 + random.IntN(len(files[name]))
		files[name] = append(files[name][:at:at], append([]any{line}, files[name][at:]...)...)
	}
	commits := []string{""}
	for n := 1; n <= 160; n++ {
		insert(names[random.IntN(len(names))], fmt.Sprintf("var filler%d = %d", n, n))
		i := random.IntN(len(names))
		name := names[i]
		at := notesOf(name)
		pick := 0
		if len(at) > 0 {
			pick = at[random.IntN(len(at))]
		}
		switch what := random.IntN(8); {
		case what < 3 || len(at) == 0:
			insert(name, &noted{text: fmt.Sprintf("TODO: number %d wants doing", n), born: n, last: n})
		case what == 3: // taken away
			x := files[name][pick].(*noted)
			x.gone = n
			ended = append(ended, x)
			files[name] = append(files[name][:pick:pick], files[name][pick+1:]...)
		case what == 4: // put otherwise
			x := files[name][pick].(*noted)
			x.text, x.last, x.edits = fmt.Sprintf("TODO: put otherwise in %d", n), n, x.edits+1
		case what == 5: // into another file
			x := files[name][pick]
			files[name] = append(files[name][:pick:pick], files[name][pick+1:]...)
			insert(names[(i+1)%len(names)], x)
			x.(*noted).last = n
		case what == 6: // the file is renamed
			fresh := fmt.Sprintf("file%d.go", n)
			files[fresh] = files[name]
			delete(files, name)
			names[i] = fresh
			r.Git("rm", "-q", name)
		default: // no comment at all
			insert(name, fmt.Sprintf("var s%d = \"TODO: in a string\"", n))
		}
		write()
		r.Commit(fmt.Sprint("edit ", n))
		commits = append(commits, strings.TrimSpace(r.Git("rev-parse", "HEAD")))
	}
	log, _ := read(t, r.Read())
	var paths []string
	var comments [][]history.Comment
	var want [][]*noted
	for _, name := range names {
		var c []history.Comment
		var x []*noted
		for i, l := range files[name] {
			if n, ok := l.(*noted); ok {
				c, x = append(c, history.Comment{Line: i + 1, Word: "TODO", Said: n.text}), append(x, n)
			}
		}
		paths, comments, want = append(paths, name), append(comments, c), append(want, x)
	}
	there, gone := log.Lives(paths, comments, tagged.Standard, languageOf)
	checked := 0
	for i := range paths {
		for k, life := range there[i] {
			n := want[i][k]
			require.NotNil(t, life.Born, n.text)
			assert.Equal(t, []any{commits[n.born], commits[n.last], n.edits}, []any{life.Born.ID, life.Last.ID, life.Edits}, n.text)
			checked++
		}
	}
	assert.Greater(t, checked, 20)
	found := map[string]history.Life{}
	for _, l := range gone {
		found[l.Said] = l
	}
	assert.Len(t, gone, len(ended), "strings and moved comments are not gone")
	for _, n := range ended {
		l, ok := found[n.text]
		if assert.True(t, ok, n.text) {
			assert.Equal(t, []any{commits[n.born], commits[n.gone], n.edits}, []any{l.Born.ID, l.Gone.ID, l.Edits}, n.text)
		}
	}
	assert.Greater(t, len(ended), 5)
}

// What was written once was born where git finds its text.
func TestBirthsAgreeWithGit(t *testing.T) {
	dir := t.TempDir() + "/demo.git"
	require.NoError(t, demo.Build(ctx, dir))
	log, _ := read(t, repo.At(dir))
	var paths []string
	var comments [][]history.Comment
	for _, p := range filesOf(t, repo.At(dir)) {
		content, err := exec.Command("git", "--git-dir="+dir, "show", "main:"+p).Output()
		require.NoError(t, err)
		var c []history.Comment
		for n, line := range strings.Split(string(content), "\n") {
			for _, h := range tagged.Standard.OnLine(languageOf(p), []byte(line)) {
				c = append(c, history.Comment{Line: n + 1, Word: h.Word, Said: h.Said})
			}
		}
		paths, comments = append(paths, p), append(comments, c)
	}
	there, _ := log.Lives(paths, comments, tagged.Standard, languageOf)
	checked := 0
	for i := range paths {
		for _, life := range there[i] {
			if life.Edits > 0 || len(life.Said) < 12 {
				continue
			}
			out, err := exec.Command("git", "--git-dir="+dir, "log", "--no-merges", "--format=%H", "-S"+life.Said, "main").Output()
			require.NoError(t, err)
			commits := strings.Fields(string(out))
			if len(commits) > 1 {
				continue // written, taken away and written again
			}
			require.NotNil(t, life.Born, life.Said)
			assert.Equal(t, commits, []string{life.Born.ID}, "%s: %s", life.Path, life.Said)
			checked++
		}
	}
	assert.Greater(t, checked, 10)
}

// What both of two branches took away was there once.
func TestWhatTwoBranchesTookAwayIsGoneOnce(t *testing.T) {
	r := repotest.New(t)
	r.Write("a.go", "package a\n\n// TODO: one\nvar a int\n").Commit("both")
	r.Git("checkout", "-q", "-b", "side")
	r.Write("a.go", "package a\n\nvar a int\n").Commit("away here")
	r.Git("checkout", "-q", "main")
	r.Write("a.go", "package a\n\nvar a int\n").Commit("away there")
	r.Git("merge", "-q", "--no-edit", "side")
	log, _ := read(t, r.Read())
	_, gone := log.Lives([]string{"a.go"}, make([][]history.Comment, 1), tagged.Standard, languageOf)
	require.Len(t, gone, 1)
	assert.Equal(t, []any{"TODO: one", 3}, []any{gone[0].Said, gone[0].Line})
}
