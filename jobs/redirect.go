package jobs

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"os"
	"time"

	"juxtagram/core/intake"
)

// redirect asks an http address, at the given IP addresses alone, where it leads instead.
// The answer's body is not read, and no credential is sent.
func redirect(ctx context.Context, address string, at []netip.Addr) (string, error) {
	dialer := &net.Dialer{Timeout: 10 * time.Second}
	transport := &http.Transport{
		DialContext: func(ctx context.Context, network, to string) (c net.Conn, err error) {
			_, port, err := net.SplitHostPort(to)
			for _, a := range at {
				if c, err = dialer.DialContext(ctx, network, net.JoinHostPort(a.String(), port)); err == nil {
					return c, nil
				}
			}
			return nil, err
		},
		TLSClientConfig: &tls.Config{RootCAs: trusted(), MinVersion: tls.VersionTLS12}, TLSHandshakeTimeout: 10 * time.Second, DisableKeepAlives: true,
	}
	client := &http.Client{Transport: transport, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return "", &intake.Refused{Reason: "not an address that can be used"}
	}
	r.Header.Set("User-Agent", "git/2 (juxtagram)") // some hosts answer browsers otherwise
	answer, err := client.Do(r)
	if err != nil {
		if ctx.Err() != nil {
			return "", ctx.Err()
		}
		var unknown *tls.CertificateVerificationError
		if errors.As(err, &unknown) {
			return "", &intake.Refused{Reason: "the address's certificate is not trusted here"}
		}
		return "", &intake.Refused{Reason: "nothing answers at the address"}
	}
	defer answer.Body.Close()
	if answer.StatusCode < 300 || answer.StatusCode > 399 || answer.Header.Get("Location") == "" {
		return "", nil
	}
	to, err := url.Parse(answer.Header.Get("Location"))
	if err != nil {
		return "", &intake.Refused{Reason: "the address leads to one that cannot be read"}
	}
	return r.URL.ResolveReference(to).String(), nil
}

// trusted are the certificates that git trusts by its settings; nil: the system's.
func trusted() *x509.CertPool {
	text, err := os.ReadFile(os.Getenv("GIT_SSL_CAINFO"))
	if err != nil {
		return nil
	}
	pool := x509.NewCertPool()
	pool.AppendCertsFromPEM(text)
	return pool
}
