package bench

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"
)

// BenchmarkMemory: the most that a survey and its git children hold at once,
// shared pages counted once (PSS).
func BenchmarkMemory(b *testing.B) {
	size := sizes()[1]
	g := generated(b, size)
	program := filepath.Join(b.TempDir(), "juxtagram")
	if out, err := exec.Command("go", "build", "-o", program, "../cmd/juxtagram").CombinedOutput(); err != nil {
		b.Fatalf("%v %s", err, out)
	}
	for b.Loop() {
		cmd := exec.Command(program, "survey", "-q", "-o", os.DevNull, g.Dir())
		if err := cmd.Start(); err != nil {
			b.Fatal(err)
		}
		done := make(chan error, 1)
		go func() { done <- cmd.Wait() }()
		peak := 0
		for running := true; running; {
			select {
			case err := <-done:
				if err != nil {
					b.Fatal(err)
				}
				running = false
			case <-time.After(100 * time.Millisecond):
				peak = max(peak, held(cmd.Process.Pid))
			}
		}
		b.ReportMetric(float64(peak)/1024, "MB-peak")
	}
}

// held is the proportional set size of a process and its children, in kB.
func held(pid int) int {
	sum := 0
	if b, err := os.ReadFile(fmt.Sprintf("/proc/%d/smaps_rollup", pid)); err == nil {
		if m := regexp.MustCompile(`(?m)^Pss:\s+(\d+)`).FindSubmatch(b); m != nil {
			n, _ := strconv.Atoi(string(m[1]))
			sum = n
		}
	}
	tasks, _ := filepath.Glob(fmt.Sprintf("/proc/%d/task/*/children", pid))
	for _, t := range tasks {
		b, _ := os.ReadFile(t)
		for _, child := range strings.Fields(string(b)) {
			n, _ := strconv.Atoi(child)
			sum += held(n)
		}
	}
	return sum
}
