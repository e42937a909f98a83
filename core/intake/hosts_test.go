package intake_test

import (
	"context"
	"errors"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/intake"
)

const outOfReach = "its host is not known, or lies in a network that this server may not reach"

func TestPublicAddresses(t *testing.T) {
	for a, want := range map[string]bool{
		"93.184.216.34": true, "2606:2800:220:1::1": true, "8.8.8.8": true,
		"127.0.0.1": false, "127.8.8.8": false, "0.0.0.0": false, "0.1.2.3": false, "10.1.2.3": false, "172.16.0.1": false, "192.168.1.1": false, "169.254.169.254": false,
		"100.64.0.1": false, "198.18.0.1": false, "224.0.0.1": false, "255.255.255.255": false, "240.0.0.1": false, "192.0.2.1": false,
		"::1": false, "::": false, "fe80::1": false, "fe80::1%eth0": false, "fc00::1": false, "fd12::1": false, "ff02::1": false, "::ffff:127.0.0.1": false, "::ffff:10.0.0.1": false,
		"64:ff9b::7f00:1": false, "2002:7f00:1::": false, "2001:db8::1": false,
	} {
		assert.Equal(t, want, intake.IsPublic(netip.MustParseAddr(a)), a)
	}
}

// hosts resolves made-up names.
func hosts(names map[string]string) func(context.Context, string) ([]netip.Addr, error) {
	return func(_ context.Context, host string) (out []netip.Addr, err error) {
		if names[host] == "" {
			return nil, errors.New("no such host")
		}
		for _, a := range strings.Fields(names[host]) {
			out = append(out, netip.MustParseAddr(a))
		}
		return out, nil
	}
}

// Every address that is not asked is answered alike, whatever lies behind it, and
// nothing is spoken to.
func TestAddressesOutOfReach(t *testing.T) {
	asked := 0
	inside := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { asked++ }))
	defer inside.Close()
	port := inside.URL[strings.LastIndexByte(inside.URL, ':'):]
	resolve := hosts(map[string]string{"inside.example": "127.0.0.1", "meta.example": "169.254.169.254", "home.example": "192.168.1.1 10.0.0.1", "six.example": "fd00::1", "mapped.example": "::ffff:127.0.0.1"})
	for _, address := range []string{
		inside.URL, "http://127.0.0.1" + port, "http://[::1]" + port, "http://0.0.0.0" + port, "http://127.1" + port, "http://2130706433" + port, "http://localhost" + port,
		"http://inside.example" + port + "/x.git", "https://meta.example/x", "https://home.example/x", "https://six.example/x", "https://mapped.example/x", "https://nobody.example/x",
		"ssh://git@inside.example/x", "git@home.example:x", "git://inside.example/x",
	} {
		_, _, err := try(t, address, intake.Options{Protocols: []string{"http", "https", "ssh", "git"}, Hosts: &intake.HostPolicy{Resolve: resolve}})
		refused(t, err, outOfReach)
	}
	assert.Zero(t, asked)
}

// The address that was looked at is the one that is spoken to, whatever the name resolves
// to by then; hosts that the owner allowed are reached.
func TestTheCheckedAddressIsPinned(t *testing.T) {
	r := sample(t)
	server, err := url.Parse(gitServer(t, r.Dir, ""))
	require.NoError(t, err)
	times := 0
	reach := &intake.HostPolicy{Allowed: []string{"127.0.0.0/8"}, Resolve: func(ctx context.Context, host string) ([]netip.Addr, error) {
		if times++; times > 1 {
			return hosts(map[string]string{host: "10.0.0.1"})(ctx, host)
		}
		return hosts(map[string]string{"gauges.example": "127.0.0.1"})(ctx, host)
	}}
	g, _, err := try(t, "http://gauges.example:"+server.Port()+"/.git", intake.Options{Protocols: []string{"http"}, Hosts: reach})
	require.NoError(t, err)
	assert.Equal(t, 1, times)
	assert.Len(t, paths(t, g), 3)
	_, err = intake.Again(ctx, g.Dir(), "http://gauges.example:"+server.Port()+"/.git", intake.Options{Protocols: []string{"http"}, Hosts: reach})
	refused(t, err, outOfReach)
	named := &intake.HostPolicy{Allowed: []string{"Gauges.example"}, Resolve: hosts(map[string]string{"gauges.example": "127.0.0.1"})}
	_, _, err = try(t, "http://gauges.example:"+server.Port()+"/.git", intake.Options{Protocols: []string{"http"}, Hosts: named})
	assert.NoError(t, err)
}
