package sandbox

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"runtime"
	"sync/atomic"
	"time"
)

// Budget is what one piece of work may take.
type Budget struct {
	Bytes int           // of its input
	Time  time.Duration // of a processor; a busy machine may take longer by the clock
}

// Task is work on a text that nobody trusts: bytes in, bytes out. It is made by New.
type Task struct {
	name   string
	budget Budget
	do     func(in []byte) ([]byte, error)
}

// GivenUp tells that a piece of work was given up, in words for a person.
type GivenUp struct{ Reason string }

func (g *GivenUp) Error() string { return g.Reason }

var tasks = map[string]*Task{}

// New makes a task, while the program starts. Names are unique.
func New(name string, budget Budget, do func(in []byte) ([]byte, error)) *Task {
	if tasks[name] != nil {
		panic("two tasks are called " + name)
	}
	t := &Task{name, budget, do}
	tasks[name] = t
	return t
}

// taskMemory is how much memory a child that does tasks may take, in bytes.
const taskMemory = 768 << 20

// Tasks is the kind of child that does all tasks.
var Tasks = Kind{Name: "task", Serve: serveTasks}

// free holds the children that wait for tasks; a nil one is to be started. Their
// number bounds how many tasks are done side by side.
var free = func() chan *Process {
	n := max(2, runtime.GOMAXPROCS(0))
	c := make(chan *Process, n)
	for range n {
		c <- nil
	}
	return c
}()

// Run does a piece of work within the task's budget. *GivenUp: it took too much, or
// ended the process that did it; ctx's error: the caller has left. Any other error is
// the task's own, as text.
func (t *Task) Run(ctx context.Context, in []byte) ([]byte, error) {
	if len(in) > t.budget.Bytes {
		return nil, &GivenUp{fmt.Sprintf("it has more than %d kB", t.budget.Bytes>>10)}
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	if !Ready(Tasks.Name) {
		return t.do(in)
	}
	var p *Process
	select {
	case p = <-free:
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	if p == nil {
		var err error
		if p, err = Start(Tasks.Name, Options{Memory: taskMemory}); err != nil {
			free <- nil
			return nil, err
		}
	}
	out, failed, err := t.ask(ctx, p, in)
	if err != nil {
		p.End()
		p = nil
	}
	free <- p
	if err == nil && failed != "" {
		err = errors.New(failed)
	}
	return out, err
}

// ask hands one piece of work to a child. After an error the child is of no more use.
func (t *Task) ask(ctx context.Context, p *Process, in []byte) (out []byte, failed string, err error) {
	stop := p.withinProcessor(ctx, t.budget.Time)
	err = Send(p.In, []byte(t.name), in)
	if err == nil {
		err = p.In.Flush()
	}
	var parts [2][]byte
	for i := range parts {
		if err == nil {
			parts[i], err = Receive(p.Out)
		}
	}
	switch cancelled, late := stop(); {
	case cancelled:
		return nil, "", ctx.Err()
	case late:
		return nil, "", &GivenUp{fmt.Sprintf("it takes longer than %s to read", t.budget.Time)}
	case err != nil:
		return nil, "", &GivenUp{"it takes too much memory to read, or ended the process that read it"}
	}
	return parts[0], string(parts[1]), nil
}

// patience is how many times the processor time of a budget may pass by the clock: the
// machine may have other work.
const patience = 15

// withinProcessor kills the child when ctx ends or it has worked for so long. stop takes that
// back and tells which of them came first.
func (p *Process) withinProcessor(ctx context.Context, budget time.Duration) (stop func() (cancelled, late bool)) {
	began := processorTime(p.PID())
	over := make(chan struct{})
	var spent atomic.Bool
	go func() {
		tick := time.NewTicker(watchEvery / 2)
		defer tick.Stop()
		for {
			select {
			case <-over:
				return
			case <-tick.C:
				if processorTime(p.PID())-began > budget {
					spent.Store(true)
					p.Kill()
					return
				}
			}
		}
	}()
	_, end := p.Within(ctx, patience*budget)
	return func() (cancelled, late bool) {
		close(over)
		cancelled, late = end()
		return cancelled, late || spent.Load()
	}
}

func serveTasks(in io.Reader, out io.Writer) error {
	requests, answers := bufio.NewReaderSize(in, 1<<16), bufio.NewWriterSize(out, 1<<16)
	for {
		name, err := Receive(requests)
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		content, err := Receive(requests)
		if err != nil {
			return err
		}
		t := tasks[string(name)]
		if t == nil {
			return fmt.Errorf("there is no task %q", name)
		}
		answer, failed := t.do(content)
		words := ""
		if failed != nil {
			words = max(failed.Error(), "it failed")
		}
		if err := Send(answers, answer, []byte(words)); err != nil {
			return err
		}
		if err := answers.Flush(); err != nil {
			return err
		}
	}
}

// Rest ends the children that wait for tasks; the next task starts one again.
func Rest() {
	for range cap(free) {
		if p := <-free; p != nil {
			p.End()
		}
	}
	for range cap(free) {
		free <- nil
	}
}
