package hostile

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// input is one repository, archive or bundle with the one answer it has.
type input struct {
	name string
	make func(t *testing.T, dir string) string // writes it below dir, and tells where it is
	want string                                // words of the refusal, or of a limit that is shown
	read bool                                  // it is surveyed; false: refused
}

// What one input may take. Time is held to where HOSTILE_TIMES is set, as by make bench:
// a machine that does other work beside takes longer.
const (
	mostTime   = 20 * time.Second
	hangs      = 4 * time.Minute
	mostMemory = 1500 << 20
)

var program string

func TestMain(m *testing.M) {
	flag.Parse()
	dir, err := os.MkdirTemp("", "juxtagram-hostile-")
	if err == nil {
		program = filepath.Join(dir, "juxtagram")
		var out []byte
		if out, err = exec.Command("go", "build", "-o", program, "../cmd/juxtagram").CombinedOutput(); err != nil {
			err = fmt.Errorf("%w: %s", err, out)
		}
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "hostile:", err)
		os.Exit(1)
	}
	code := m.Run()
	_ = os.RemoveAll(dir)
	os.Exit(code)
}

// TestHostileInputs takes each input in by the command line, as the server does it too.
func TestHostileInputs(t *testing.T) {
	inputs := all()
	names := map[string]bool{}
	for _, in := range inputs {
		require.False(t, names[in.name], "two inputs are called %s", in.name)
		names[in.name] = true
		t.Run(in.name, func(t *testing.T) {
			t.Parallel()
			dir := t.TempDir()
			in.check(t, in.make(t, dir), dir)
		})
	}
	assert.GreaterOrEqual(t, len(inputs), 200)
}

func (in *input) check(t *testing.T, source, dir string) {
	ctx, cancel := context.WithTimeout(t.Context(), hangs)
	defer cancel()
	out := filepath.Join(dir, "survey.json")
	cmd := exec.CommandContext(ctx, program, "survey", "--quiet", "--no-time", "--out", out, source)
	cmd.Env = append(os.Environ(), "TMPDIR="+dir)
	var said bytes.Buffer
	cmd.Stderr = &said
	began := time.Now()
	err := cmd.Run()
	require.NoError(t, ctx.Err(), "it hangs")
	if os.Getenv("HOSTILE_TIMES") != "" {
		t.Log(time.Since(began).Round(10 * time.Millisecond))
		assert.Less(t, time.Since(began), mostTime)
	}
	if use, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage); ok {
		assert.Less(t, use.Maxrss<<10, int64(mostMemory), "bytes of memory")
	}
	for _, secret := range []string{dir, "SECRET", "fatal:", "goroutine ", "panic"} {
		assert.NotContains(t, strings.ReplaceAll(said.String(), source, ""), secret)
	}
	if !in.read {
		assert.Equal(t, 2, cmd.ProcessState.ExitCode(), "%v: %s", err, &said)
		assert.Contains(t, said.String(), in.want)
		return
	}
	require.NoError(t, err, said.String())
	b, err := os.ReadFile(out)
	require.NoError(t, err)
	var doc struct {
		Files  []struct{ Path string }
		Limits []struct{ What, Why string }
	}
	require.NoError(t, json.Unmarshal(b, &doc))
	var limits strings.Builder
	for _, l := range doc.Limits {
		limits.WriteString(l.What + ": " + l.Why + "\n")
	}
	assert.Contains(t, limits.String(), in.want)
	for _, f := range doc.Files {
		assert.False(t, strings.HasPrefix(f.Path, "/") || slices.Contains(strings.Split(f.Path, "/"), ".."), f.Path)
	}
}

var update = flag.Bool("update", false, "write the table of inputs anew")

// The table of inputs in the page on security is that of this test.
func TestTheTableOfInputsIsTrue(t *testing.T) {
	const page, from, to = "../docs/security.md", "<!-- inputs -->\n", "<!-- end of inputs -->"
	b, err := os.ReadFile(page)
	require.NoError(t, err)
	head, rest, ok := strings.Cut(string(b), from)
	require.True(t, ok)
	_, tail, ok := strings.Cut(rest, to)
	require.True(t, ok)
	var table strings.Builder
	table.WriteString("| input | answer | words |\n|---|---|---|\n")
	for _, in := range all() {
		answer := "refused"
		if in.read {
			answer = "surveyed"
		}
		fmt.Fprintf(&table, "| %s | %s | %s |\n", shownName(in.name), answer, in.want)
	}
	want := head + from + table.String() + to + tail
	if *update {
		require.NoError(t, os.WriteFile(page, []byte(want), 0o644))
		return
	}
	assert.True(t, want == string(b), "run make golden, and read the difference")
}

// shownName is a name as a table can hold it.
func shownName(name string) string {
	return strings.NewReplacer("|", `\|`, "`", "'", "<", "&lt;").Replace(name)
}

func all() []input {
	return slices.Concat(archives(), bundles(), folders(), trees(), contents(), commits())
}
