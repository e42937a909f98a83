package sandbox

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Limits bound a child with all that it starts. Zero: not limited.
type Limits struct {
	Memory    int64         // bytes that only these processes use
	Processor time.Duration // of all of them together
	Wall      time.Duration
}

// ticks is how many of its units /proc counts in a second of processor time; it has
// been 100 on every Linux system since 2.6.
const ticks = 100

// watchEvery is how often a session is looked at.
const watchEvery = 100 * time.Millisecond

// Watch looks after a child that was started Alone, until ctx ends. It returns the
// reason once a limit is reached, in words; "": none was.
func (l Limits) Watch(ctx context.Context, pid int) string {
	began := time.Now()
	tick := time.NewTicker(watchEvery)
	defer tick.Stop()
	spent := usage{ended: map[int]time.Duration{}}
	for {
		select {
		case <-ctx.Done():
			return ""
		case <-tick.C:
		}
		used := spent.look(pid)
		switch {
		case l.Memory > 0 && used.memory > l.Memory:
			return fmt.Sprintf("it takes more than %s of memory", megabytes(l.Memory))
		case l.Processor > 0 && used.processor > l.Processor:
			return fmt.Sprintf("it takes more than %s of processor time", words(l.Processor))
		case l.Wall > 0 && time.Since(began) > l.Wall:
			return "it takes longer than " + words(l.Wall)
		}
	}
}

func megabytes(n int64) string { return strconv.FormatInt(n>>20, 10) + " MB" }

// words writes a duration without the zeros at its end: "30m", not "30m0s".
func words(d time.Duration) string {
	s := d.String()
	if t, ok := strings.CutSuffix(s, "m0s"); ok {
		s = t + "m"
	}
	if t, ok := strings.CutSuffix(s, "h0m"); ok {
		s = t + "h"
	}
	return s
}

type use struct {
	memory    int64
	processor time.Duration
}

// usage adds up processor time; that of processes which have ended meanwhile is
// what was last seen of them.
type usage struct{ ended map[int]time.Duration }

func (s *usage) look(session int) use {
	var now use
	members(session, func(pid int, stat []string) {
		s.ended[pid] = clock(stat[11]) + clock(stat[12])
		now.memory += private(pid)
	})
	for _, d := range s.ended {
		now.processor += d
	}
	return now
}

// processorTime is the processor time of one process.
func processorTime(pid int) time.Duration {
	b, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return 0
	}
	f := strings.Fields(string(b[strings.LastIndexByte(string(b), ')')+1:]))
	if len(f) < 13 {
		return 0
	}
	return clock(f[11]) + clock(f[12])
}

func clock(field string) time.Duration {
	n, _ := strconv.ParseInt(field, 10, 64)
	return time.Duration(n) * time.Second / ticks
}

// members calls do with every process of a session and the fields of its state, from
// "state" on; those that end meanwhile are left out.
func members(session int, do func(pid int, stat []string)) {
	dirs, err := filepath.Glob("/proc/[0-9]*")
	if err != nil {
		return
	}
	for _, dir := range dirs {
		b, err := os.ReadFile(dir + "/stat")
		if err != nil {
			continue
		}
		// the name stands in brackets and may hold anything
		_, rest, _ := strings.Cut(string(b[strings.LastIndexByte(string(b), ')')+1:]), " ")
		f := strings.Fields(rest)
		if len(f) < 20 || f[3] != strconv.Itoa(session) {
			continue
		}
		if pid, err := strconv.Atoi(filepath.Base(dir)); err == nil {
			do(pid, f)
		}
	}
}

// private is how much memory belongs to one process alone, in bytes.
func private(pid int) (bytes int64) {
	b, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	for l := range strings.Lines(string(b)) {
		if rest, ok := strings.CutPrefix(l, "RssAnon:"); ok {
			kb, _ := strconv.ParseInt(strings.TrimSuffix(strings.TrimSpace(rest), " kB"), 10, 64)
			return kb << 10
		}
	}
	return 0
}

// EndSession kills every process of a session: a child that was started Alone, and
// whatever it started. The calling process, if it is one of them, comes last.
func EndSession(session int) {
	for range 20 { // one that was just started is found by the next look
		found := 0
		members(session, func(pid int, stat []string) {
			if pid != os.Getpid() && stat[0] != "Z" {
				found++
				_ = syscall.Kill(pid, syscall.SIGKILL)
			}
		})
		if found == 0 {
			break
		}
	}
	if session == os.Getpid() {
		_ = syscall.Kill(session, syscall.SIGKILL)
	}
}
