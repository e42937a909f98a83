// Package localpg runs a PostgreSQL server of our own, from Debian's packages,
// on loopback: own folder, own port, own password, never an existing cluster.
package localpg

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"
)

// Options steer a server.
type Options struct {
	// Careless trades safety for speed: for tests, whose data nobody needs.
	Careless bool
	// Say takes what is worth telling; nil: nobody.
	Say func(string)
}

// Server is a running server. It is stopped by Stop alone.
type Server struct {
	URL   string // of the database "postgres", with user and password
	dir   string
	bin   string
	cred  *syscall.Credential
	lock  *os.File
	extra []string
	port  int
	mu    sync.Mutex // held while it is started or stopped
	ended bool
}

// superuser of the cluster; only this program knows its password.
const superuser = "juxtagram"

// Start brings up the server of a folder, which is made when it is not there.
// A server that a killed run of ours left behind is taken over. It is an error
// when another run uses the folder.
func Start(ctx context.Context, dir string, o Options) (_ *Server, err error) {
	bin, err := findBin()
	if err != nil {
		return nil, err
	}
	if dir, err = filepath.Abs(dir); err != nil {
		return nil, err
	}
	s := &Server{bin: bin}
	if s.cred, err = unprivileged(); err != nil {
		return nil, err
	}
	if s.dir, err = s.place(dir, o); err != nil {
		return nil, err
	}
	if s.lock, err = lock(s.dir); err != nil {
		return nil, err
	}
	defer func() {
		if err != nil {
			_ = s.lock.Close()
		}
	}()
	if o.Careless {
		s.extra = []string{"fsync=off", "synchronous_commit=off", "full_page_writes=off"}
	}
	password, err := s.password()
	if err != nil {
		return nil, err
	}
	if err := s.initialise(ctx, o); err != nil {
		return nil, err
	}
	port, running := s.running()
	if !running {
		if port, err = freePort(port); err != nil {
			return nil, err
		}
		if err := s.start(ctx, port); err != nil {
			return nil, err
		}
	}
	s.port = port
	u := url.URL{Scheme: "postgres", User: url.UserPassword(superuser, password), Host: net.JoinHostPort("127.0.0.1", strconv.Itoa(port)), Path: "postgres", RawQuery: "sslmode=disable"}
	s.URL = u.String()
	return s, nil
}

// Database is the address of another database of the server.
func (s *Server) Database(name string) string {
	u, err := url.Parse(s.URL)
	if err != nil {
		panic(err) // made by Start
	}
	u.Path = name
	return u.String()
}

// findBin finds the folder of PostgreSQL's own programs, newest version first.
func findBin() (string, error) {
	dirs, _ := filepath.Glob("/usr/lib/postgresql/*/bin")
	sort.Sort(sort.Reverse(sort.StringSlice(dirs)))
	for _, d := range dirs {
		if _, err := os.Stat(filepath.Join(d, "initdb")); err == nil {
			return d, nil
		}
	}
	if p, err := exec.LookPath("initdb"); err == nil {
		return filepath.Dir(p), nil
	}
	return "", errors.New("PostgreSQL is not installed (package postgresql-15); or name a database by JUXTAGRAM_DATABASE_URL")
}

// unprivileged is the account the server runs as: our own, or, as root, that
// of the package, since the server refuses to run as root.
func unprivileged() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	for _, name := range []string{"postgres", "nobody"} {
		u, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, err1 := strconv.ParseUint(u.Uid, 10, 32)
		gid, err2 := strconv.ParseUint(u.Gid, 10, 32)
		if err1 == nil && err2 == nil {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("PostgreSQL does not run as root, and there is no account postgres to run it as")
}

// place makes the server's folder. Where the account cannot reach dir, because
// a folder above it is closed, the data goes below /var/lib/postgresql and a
// link stands in dir.
func (s *Server) place(dir string, o Options) (string, error) {
	link := filepath.Join(dir, "elsewhere")
	if to, err := os.Readlink(link); err == nil {
		return to, nil
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", err
	}
	if s.cred == nil || s.command(context.Background(), "/usr/bin/test", "-x", dir).Run() == nil {
		return dir, s.own(dir)
	}
	to, err := os.MkdirTemp("/var/lib/postgresql", "juxtagram-")
	if err != nil {
		return "", fmt.Errorf("the account of PostgreSQL cannot reach %s: %w", dir, err)
	}
	if o.Say != nil {
		o.Say("PostgreSQL's account cannot reach " + dir + "; its data lies in " + to)
	}
	if err := s.own(to); err != nil {
		return "", err
	}
	return to, os.Symlink(to, link)
}

func (s *Server) own(dir string) error {
	if s.cred == nil {
		return nil
	}
	return os.Chown(dir, int(s.cred.Uid), int(s.cred.Gid))
}

func lock(dir string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		_ = f.Close()
		return nil, fmt.Errorf("another run uses %s", dir)
	}
	return f, nil
}

func (s *Server) password() (string, error) {
	file := filepath.Join(s.dir, "password")
	b, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		raw := make([]byte, 16)
		_, _ = rand.Read(raw) // never fails
		b = []byte(hex.EncodeToString(raw))
		if err := os.WriteFile(file, b, 0o600); err != nil {
			return "", err
		}
		return string(b), s.own(file)
	}
	return string(b), err
}

func (s *Server) initialise(ctx context.Context, o Options) error {
	data := filepath.Join(s.dir, "data")
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); err == nil {
		return nil
	}
	if err := os.RemoveAll(data); err != nil { // of an attempt that was ended
		return err
	}
	args := []string{"-D", data, "-U", superuser, "-A", "scram-sha-256", "--pwfile", filepath.Join(s.dir, "password"),
		"-E", "UTF8", "--locale=C.UTF-8", "--no-instructions"}
	if o.Careless {
		args = append(args, "--no-sync")
	}
	if out, err := s.command(ctx, filepath.Join(s.bin, "initdb"), args...).CombinedOutput(); err != nil {
		return fmt.Errorf("initdb: %w: %s", err, strings.TrimSpace(string(out)))
	}
	return nil
}

// running tells whether the folder's server runs, and on which port it did
// last (0: never).
func (s *Server) running() (port int, running bool) {
	if b, err := os.ReadFile(filepath.Join(s.dir, "port")); err == nil {
		port, _ = strconv.Atoi(strings.TrimSpace(string(b)))
	}
	err := s.command(context.Background(), filepath.Join(s.bin, "pg_ctl"), "-D", filepath.Join(s.dir, "data"), "status").Run()
	return port, err == nil && port != 0
}

func freePort(wanted int) (int, error) {
	for _, p := range []int{wanted, 0} {
		l, err := net.Listen("tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(p)))
		if err != nil {
			continue
		}
		port := l.Addr().(*net.TCPAddr).Port
		return port, l.Close()
	}
	return 0, errors.New("no free port on loopback")
}

func (s *Server) start(ctx context.Context, port int) error {
	options := []string{"-h", "127.0.0.1", "-p", strconv.Itoa(port), "-k", s.dir, "-c", "max_connections=200", "-c", "shared_buffers=256MB"}
	for _, x := range s.extra {
		options = append(options, "-c", x)
	}
	log := filepath.Join(s.dir, "log")
	out, err := s.command(ctx, filepath.Join(s.bin, "pg_ctl"), "-D", filepath.Join(s.dir, "data"), "-l", log, "-w", "-t", "60",
		"-o", strings.Join(options, " "), "start").CombinedOutput()
	if err != nil {
		tail, _ := os.ReadFile(log)
		return fmt.Errorf("starting PostgreSQL: %w: %s %s", err, strings.TrimSpace(string(out)), tail[max(0, len(tail)-500):])
	}
	return os.WriteFile(filepath.Join(s.dir, "port"), []byte(strconv.Itoa(port)), 0o644)
}

// command runs as the server's account, in a process group of its own: an
// interrupt from the terminal is for us to pass on.
func (s *Server) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.Env = []string{"PATH=" + os.Getenv("PATH"), "LC_ALL=C.UTF-8"}
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: s.cred}
	return cmd
}

// watchEvery is how often a server is looked at, and restarts how often in a row it is
// started again before that is given up.
const (
	watchEvery = time.Second
	restarts   = 5
)

// Watch starts the server again when it has ended, until ctx is done. It returns an error
// once it cannot be started any more.
func (s *Server) Watch(ctx context.Context, say func(string)) error {
	tick := time.NewTicker(watchEvery)
	defer tick.Stop()
	for failed := 0; ; {
		select {
		case <-ctx.Done():
			return nil
		case <-tick.C:
		}
		err := s.revive(ctx, say)
		switch {
		case ctx.Err() != nil:
			return nil
		case err == nil:
			failed = 0
			continue
		}
		if failed++; failed == restarts {
			return fmt.Errorf("PostgreSQL has ended and cannot be started again: %w", err)
		}
		say(fmt.Sprintf("PostgreSQL could not be started (%v); trying again", err))
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(time.Duration(failed*failed) * time.Second):
		}
	}
}

func (s *Server) revive(ctx context.Context, say func(string)) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.ended || s.alive() {
		return nil
	}
	say("PostgreSQL has ended; starting it again")
	return s.start(ctx, s.port)
}

// alive tells whether the process that the server's own file names is there.
func (s *Server) alive() bool {
	b, err := os.ReadFile(filepath.Join(s.dir, "data", "postmaster.pid"))
	if err != nil {
		return false
	}
	line, _, _ := strings.Cut(string(b), "\n")
	pid, err := strconv.Atoi(strings.TrimSpace(line))
	if err != nil {
		return false
	}
	err = syscall.Kill(pid, 0)
	return err == nil || errors.Is(err, syscall.EPERM)
}

// Stop ends the server.
func (s *Server) Stop() error {
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	defer s.lock.Close()
	s.mu.Lock()
	defer s.mu.Unlock()
	s.ended = true
	out, err := s.command(ctx, filepath.Join(s.bin, "pg_ctl"), "-D", filepath.Join(s.dir, "data"), "-m", "fast", "-w", "stop").CombinedOutput()
	if err != nil {
		return fmt.Errorf("stopping PostgreSQL: %w: %s", err, strings.TrimSpace(string(out)))
	}
	return nil
}
