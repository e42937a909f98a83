package intake

import (
	"context"
	"errors"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"juxtagram/core/repo"
)

func itoa(n int) string { return strconv.Itoa(n) }

var scpLike = regexp.MustCompile(`^(?:[A-Za-z0-9_][\w.-]*@)?[A-Za-z0-9][\w.-]*:[^:\s]\S*$`)

func isAddress(s string) bool {
	return strings.Contains(s, "://") || strings.Contains(s, "::") || (scpLike.MatchString(s) && !isFile(s))
}

func isFile(s string) bool {
	_, err := os.Lstat(s)
	return err == nil
}

// CheckAddress tells whether an address may be taken in, and by which
// protocol, without asking it.
func CheckAddress(address string, protocols []string) (protocol string, err error) {
	if protocols == nil {
		protocols = []string{"https", "ssh"}
	}
	if len(address) > 2000 || strings.ContainsAny(address, "\x00\n\r\t ") || strings.HasPrefix(address, "-") {
		return "", refuse("not an address that can be used")
	}
	if strings.Contains(address, "::") && !strings.Contains(strings.SplitN(address, "::", 2)[0], "[") {
		return "", refuse("addresses that call a helper program (%.20q) are not used", strings.SplitN(address, "::", 2)[0]+"::")
	}
	if strings.Contains(address, "://") {
		u, err := url.Parse(address)
		if err != nil {
			return "", refuse("not an address that can be read")
		}
		if _, secret := u.User.Password(); secret {
			return "", refuse("leave the password out of the address and give it as a token: an address is shown to others")
		}
		if strings.HasPrefix(u.Hostname(), "-") || strings.HasPrefix(u.User.Username(), "-") {
			return "", refuse("not an address that can be used")
		}
		protocol = u.Scheme
	} else if scpLike.MatchString(address) {
		protocol = "ssh"
	} else {
		return "", refuse("not an address: expected https://…, ssh://… or user@host:path")
	}
	if !slices.Contains(protocols, protocol) {
		return "", refuse("addresses with %s:// are not allowed here; allowed: %s", protocol, strings.Join(protocols, ", "))
	}
	return protocol, nil
}

// Address takes in a repository from an address. An address on this machine
// (file://) is taken in as a folder.
func Address(ctx context.Context, dir, address string, o Options) (_ Taken, err error) {
	protocol, err := CheckAddress(address, o.Protocols)
	if err != nil {
		return Taken{}, err
	}
	if protocol == "file" {
		u, err := url.Parse(address)
		if err != nil || (u.Host != "" && u.Host != "localhost") {
			return Taken{}, refuse("not a file address of this machine")
		}
		return Folder(ctx, dir, u.Path, o)
	}
	defer clean(dir, &err)
	if o.AnswerIn == 0 {
		o.AnswerIn = 30 * time.Second
	}
	if o.FetchIn == 0 {
		o.FetchIn = time.Hour
	}
	g, err := create(ctx, dir, "")
	if err != nil {
		return Taken{}, err
	}
	o.say("asking the address for its branches and tags")
	t, env, done, err := transport(ctx, dir, address, protocol, &o)
	if err != nil {
		return Taken{}, err
	}
	defer done()
	out, err := ask(ctx, g, o.AnswerIn, t, env, "ls-remote", "--symref", "--end-of-options", t.address, "HEAD")
	if err != nil {
		return Taken{}, explain(ctx, err, o.AnswerIn)
	}
	o.say("fetching")
	if _, err := ask(ctx, g, o.FetchIn, t, env, append(slices.Clone(fetchArgs), t.address, "+refs/heads/*:refs/heads/*", "+refs/tags/*:refs/tags/*")...); err != nil {
		return Taken{}, explain(ctx, err, o.FetchIn)
	}
	if m := regexp.MustCompile(`(?m)^(ref: refs/heads/\S+)\tHEAD$`).FindSubmatch(out); m != nil {
		if ref := headRef.FindSubmatch(m[1]); ref != nil {
			_, _ = g.Run(ctx, "symbolic-ref", "HEAD", string(ref[1]))
		}
	}
	return Taken{Kind: "address"}, finish(ctx, g, &o)
}

// NetworkVariables are the settings of the environment that are passed on to a git
// which speaks to a network.
var NetworkVariables = []string{"http_proxy", "https_proxy", "HTTPS_PROXY", "all_proxy", "ALL_PROXY", "no_proxy", "NO_PROXY", "GIT_SSL_CAINFO", "GIT_PROXY_SSL_CAINFO", "SSL_CERT_FILE", "SSL_CERT_DIR"}

// ask runs one git command that speaks to a network, within a time limit.
func ask(ctx context.Context, g *repo.Git, limit time.Duration, t *target, env []string, args ...string) ([]byte, error) {
	ctx, cancel := context.WithTimeout(ctx, limit)
	defer cancel()
	command := args[:1]
	args = append(append([]string{"-c", "http.lowSpeedLimit=200", "-c", "http.lowSpeedTime=60", "-c", "credential.helper=", "-c", "fetch.recurseSubmodules=false"}, t.args...), args...)
	cmd := g.Command(ctx, env, args...)
	var said repo.Tail
	cmd.Stderr = &said
	out, err := cmd.Output()
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if err != nil {
		return nil, &repo.Error{Args: command, Stderr: said.String(), Err: err}
	}
	return out, nil
}

// transport prepares the environment of a command that speaks to a network:
// where it leads, the one protocol, no prompts, proxy and certificate settings as the server
// has them, and the credential for as long as done is not called.
func transport(ctx context.Context, dir, address, protocol string, o *Options) (t *target, env []string, done func(), err error) {
	asked, cancel := context.WithTimeout(ctx, o.AnswerIn)
	defer cancel()
	if t, err = locate(asked, address, protocol, o); err != nil {
		return nil, nil, nil, explainLate(ctx, err, o.AnswerIn)
	}
	host, _ := hostOf(t.address, protocol)
	env = []string{"GIT_ALLOW_PROTOCOL=" + protocol, "GIT_ASKPASS=/bin/false", "SSH_ASKPASS=/bin/false"}
	for _, name := range NetworkVariables {
		if v := os.Getenv(name); v != "" {
			env = append(env, name+"="+v)
		}
	}
	known := o.KnownHost
	if known == "" {
		known = filepath.Join(filepath.Dir(dir), "known_hosts")
	}
	ssh := "ssh -F /dev/null -oBatchMode=yes -oConnectTimeout=20 -oStrictHostKeyChecking=accept-new -oUserKnownHostsFile=" + shellQuote(known) + t.ssh
	done = func() {}
	if c := o.Credential; c != nil {
		if c.Token != "" && o.AskPass != "" {
			user := c.User
			if user == "" {
				user = "token"
			}
			env = append(env, "GIT_ASKPASS="+o.AskPass, "JUXTAGRAM_ASKPASS_USER="+user, "JUXTAGRAM_ASKPASS_TOKEN="+c.Token, "JUXTAGRAM_ASKPASS_HOST="+host)
		}
		if c.Key != "" {
			f, err := os.CreateTemp(o.temp(dir), "key-*") // created with mode 0600
			if err != nil {
				return nil, nil, nil, err
			}
			done = func() { _ = os.Remove(f.Name()) }
			if _, err := f.WriteString(strings.TrimSpace(c.Key) + "\n"); err != nil {
				done()
				return nil, nil, nil, err
			}
			if err := f.Close(); err != nil {
				done()
				return nil, nil, nil, err
			}
			ssh += " -oIdentitiesOnly=yes -i " + shellQuote(f.Name())
		}
	}
	return t, append(env, "GIT_SSH_COMMAND="+ssh), done, nil
}

func shellQuote(s string) string { return "'" + strings.ReplaceAll(s, "'", `'\''`) + "'" }

// explain turns git's words into ours where they are known.
func explain(ctx context.Context, err error, limit time.Duration) error {
	if errors.Is(err, context.DeadlineExceeded) && ctx.Err() == nil {
		return refuse("the address did not answer within %s", limit)
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	said := strings.ToLower(err.Error())
	for _, known := range []struct{ part, words string }{
		{"could not read username", "the address asks for a password: give a token, or check that the repository exists"},
		{"could not read password", "the address asks for a password: give a token"},
		{"authentication failed", "the address did not accept the token"},
		{"askpass", "the address asks for a password: give a token, or check that the repository exists"},
		{"permission denied (publickey", "the address did not accept the key, or needs one"},
		{"host key verification failed", "the address shows another host key than before"},
		{"not allowed", "the address leads to a protocol that is not allowed here"},
		{"could not resolve host", errOutOfReach.Reason},
		{"unable to update url base from redirection", "the address leads to another one: give that"},
		{"returned error: 30", "the address leads to another one: give that"},
		{"connection refused", "nothing answers at the address"},
		{"couldn't connect", "nothing answers at the address"},
		{"failed to connect", "nothing answers at the address"},
		{"connection timed out", "the address did not answer"},
		{"certificate", "the address's certificate is not trusted here"},
		{"not found", "there is no repository at the address"},
		{"does not appear to be a git repository", "there is no repository at the address"},
		{"too slow", "the address stopped sending"},
	} {
		if strings.Contains(said, known.part) {
			return refuse("%s", known.words)
		}
	}
	return refuse("the address could not be read as a repository")
}

// explainLate tells that the time to answer is over before git was asked.
func explainLate(ctx context.Context, err error, limit time.Duration) error {
	if errors.Is(err, context.DeadlineExceeded) && ctx.Err() == nil {
		return refuse("the address did not answer within %s", limit)
	}
	return err
}
