package intake

import (
	"context"
	"net"
	"net/netip"
	"net/url"
	"os"
	"slices"
	"strings"
)

// HostPolicy says which hosts may be asked for a repository: public ones, and those that
// are named. The addresses that were looked at are the ones that git then speaks to.
type HostPolicy struct {
	// Allowed are hosts and networks (CIDR) that may be reached although they are
	// not public.
	Allowed []string
	// Resolve looks up a host; nil: the system's own way.
	Resolve func(ctx context.Context, host string) ([]netip.Addr, error)
	// Redirect asks an http address, over one of the given IP addresses, where it
	// leads instead; "": nowhere else. nil: redirects are refused.
	Redirect func(ctx context.Context, address string, at []netip.Addr) (string, error)
}

// errOutOfReach is the one answer to every address that is not asked: it does not tell
// hosts that there are from those that there are not.
var errOutOfReach = &Refused{"this address cannot be read from here: its host is not known, or lies in a network that this server may not reach"}

// closed are networks beside those that netip names that no public host lies in.
var closed = func() (out []netip.Prefix) {
	for _, p := range []string{"0.0.0.0/8", "100.64.0.0/10", "192.0.0.0/24", "192.0.2.0/24", "192.88.99.0/24", "198.18.0.0/15", "198.51.100.0/24", "203.0.113.0/24", "240.0.0.0/4",
		"64:ff9b::/96", "64:ff9b:1::/48", "100::/64", "2001::/23", "2001:db8::/32", "2002::/16", "3fff::/20", "fec0::/10"} {
		out = append(out, netip.MustParsePrefix(p))
	}
	return out
}()

// IsPublic tells whether an address may belong to anybody's host on the internet.
func IsPublic(a netip.Addr) bool {
	a = a.Unmap()
	return a.IsGlobalUnicast() && !a.IsPrivate() && a.Zone() == "" && !slices.ContainsFunc(closed, func(p netip.Prefix) bool { return p.Contains(a) })
}

// addresses are the addresses of a host that may be spoken to.
func (r *HostPolicy) addresses(ctx context.Context, host string) ([]netip.Addr, error) {
	named := slices.ContainsFunc(r.Allowed, func(a string) bool { return strings.EqualFold(a, host) })
	var found []netip.Addr
	if a, err := netip.ParseAddr(host); err == nil {
		found = []netip.Addr{a}
	} else {
		resolve := r.Resolve
		if resolve == nil {
			resolve = func(ctx context.Context, host string) ([]netip.Addr, error) {
				return net.DefaultResolver.LookupNetIP(ctx, "ip", host)
			}
		}
		if found, err = resolve(ctx, host); err != nil {
			if ctx.Err() != nil {
				return nil, ctx.Err()
			}
			return nil, errOutOfReach
		}
	}
	var out []netip.Addr
	for _, a := range found {
		if a = a.Unmap(); named || IsPublic(a) || r.allows(a) {
			out = append(out, a)
		}
	}
	if len(out) == 0 {
		return nil, errOutOfReach
	}
	return out, nil
}

func (r *HostPolicy) allows(a netip.Addr) bool {
	return slices.ContainsFunc(r.Allowed, func(name string) bool {
		p, err := netip.ParsePrefix(name)
		return err == nil && p.Contains(a)
	})
}

// target is an address as git is to ask it.
type target struct {
	address string
	args    []string // of git, before its command
	ssh     string   // of ssh
}

// mostRedirects is how often an address may lead to another.
const mostRedirects = 5

const infoRefs = "/info/refs?service=git-upload-pack"

// locate finds out whether an address may be asked, where it leads, and pins the addresses
// that were looked at. Without o.Hosts any may.
func locate(ctx context.Context, address, protocol string, o *Options) (*target, error) {
	t := &target{address: address}
	if o.Hosts == nil {
		if o.Credential != nil {
			t.args = []string{"-c", "http.followRedirects=false"}
		}
		return t, nil
	}
	for range mostRedirects {
		host, port := hostOf(t.address, protocol)
		if isProxied(protocol) { // it resolves and connects itself; what is plainly of this machine is refused nevertheless
			if a, err := netip.ParseAddr(host); err == nil && !IsPublic(a) && !o.Hosts.allows(a) {
				return nil, errOutOfReach
			}
			t.args = []string{"-c", "http.followRedirects=false"}
			return t, nil
		}
		at, err := o.Hosts.addresses(ctx, host)
		if err != nil {
			return nil, err
		}
		switch protocol {
		case "ssh":
			t.ssh = " -oHostName=" + at[0].String() + " -oHostKeyAlias=" + shellQuote(host)
			return t, nil
		case "git":
			u, err := url.Parse(t.address)
			if err != nil {
				return nil, refuse("not an address that can be read")
			}
			u.Host = net.JoinHostPort(at[0].String(), port)
			t.address = u.String()
			return t, nil
		}
		to := ""
		if o.Hosts.Redirect != nil {
			if to, err = o.Hosts.Redirect(ctx, strings.TrimSuffix(t.address, "/")+infoRefs, at); err != nil {
				return nil, err
			}
		}
		if to == "" {
			t.args = []string{"-c", "http.followRedirects=false", "-c", "http.curloptResolve=" + pinned(host, port, at)}
			return t, nil
		}
		next, ok := strings.CutSuffix(to, infoRefs)
		if !ok {
			return nil, refuse("the address leads to a page, not to a repository")
		}
		if protocol, err = CheckAddress(next, o.Protocols); err != nil {
			return nil, err
		}
		if other, otherPort := hostOf(next, protocol); o.Credential != nil && (other != host || otherPort != port) {
			return nil, refuse("the address leads to another host, which is not given the token: take it in by that host's address")
		}
		t.address = next
	}
	return nil, refuse("the address leads from one to another without end")
}

// isProxied tells that a proxy is set for http.
func isProxied(protocol string) bool {
	if protocol != "http" && protocol != "https" {
		return false
	}
	for _, name := range []string{protocol + "_proxy", "all_proxy", "ALL_PROXY", "HTTPS_PROXY"} {
		if os.Getenv(name) != "" && (name != "HTTPS_PROXY" || protocol == "https") {
			return true
		}
	}
	return false
}

// hostOf is the host of an address, without brackets, and its port.
func hostOf(address, protocol string) (host, port string) {
	ports := map[string]string{"https": "443", "http": "80", "ssh": "22", "git": "9418"}
	if u, err := url.Parse(address); err == nil && strings.Contains(address, "://") {
		if port = u.Port(); port == "" {
			port = ports[protocol]
		}
		return strings.ToLower(u.Hostname()), port
	}
	host, _, _ = strings.Cut(address, ":") // user@host:path
	return strings.ToLower(host[strings.LastIndexByte(host, '@')+1:]), "22"
}

// pinned is a setting of curl: host, port and the addresses to use for them.
func pinned(host, port string, at []netip.Addr) string {
	list := make([]string, len(at))
	for i, a := range at {
		if list[i] = a.String(); a.Is6() {
			list[i] = "[" + list[i] + "]"
		}
	}
	return host + ":" + port + ":" + strings.Join(list, ",")
}
