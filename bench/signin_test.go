package bench

import (
	"bufio"
	"bytes"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"

	"juxtagram/localpg/pgtest"
)

// signIns is how many try to sign in at once.
const signIns = 60

// BenchmarkSignIns tells by how much sixty sign-ins at once make the memory of a server
// grow; the floor is one of them.
func BenchmarkSignIns(b *testing.B) {
	cmd := exec.Command("../bin/juxtagram", "serve", "--work=false", "--database-url", pgtest.URL(b), "--data", b.TempDir(), "--listen", "127.0.0.1:0")
	out, err := cmd.StdoutPipe()
	if err != nil {
		b.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		b.Fatal(err)
	}
	defer func() {
		_ = cmd.Process.Signal(syscall.SIGINT)
		_ = cmd.Wait()
	}()
	base := ""
	for sc := bufio.NewScanner(out); base == "" && sc.Scan(); {
		base = regexp.MustCompile(`http://\S+`).FindString(sc.Text())
	}
	try := func(i int) {
		body := fmt.Sprintf(`{"email":"nobody%d@gauges.example","password":"a long enough password"}`, i)
		answer, err := http.Post(base+"/api/sign-in", "application/json", bytes.NewReader([]byte(body)))
		if err == nil {
			answer.Body.Close()
		}
	}
	before := peak(b, cmd.Process.Pid)
	try(0)
	one := peak(b, cmd.Process.Pid)
	for range b.N {
		var all sync.WaitGroup
		for i := range signIns {
			all.Go(func() { try(i + 1) })
		}
		all.Wait()
	}
	b.ReportMetric(float64(one-before), "MB-one")
	b.ReportMetric(float64(peak(b, cmd.Process.Pid)-before), "MB-more")
}

// peak is the most memory that a process had, in MB.
func peak(b *testing.B, pid int) int {
	b.Helper()
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		b.Fatal(err)
	}
	_, rest, _ := strings.Cut(string(text), "VmHWM:")
	kb, err := strconv.Atoi(strings.Fields(rest)[0])
	if err != nil {
		b.Fatal(err)
	}
	return kb >> 10
}
