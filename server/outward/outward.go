// Package outward asks addresses outside for what keepers have allowed, and no others: what a
// name leads to is looked at when it is dialled, and no answer leads on to anywhere else.
package outward

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"syscall"
	"time"

	"ubiquant/core/sample"
)

// ErrInside says that an address leads where no keeper has allowed.
var ErrInside = errors.New("it leads inside the server's own network, which no keeper has allowed")

// maxRedirects is how often an answer may lead on.
const maxRedirects = 3

// Host is an address's host with its port, as Client takes them.
func Host(u *url.URL) string {
	port := u.Port()
	if port == "" {
		port = map[string]string{"http": "80", "https": "443"}[u.Scheme]
	}
	return net.JoinHostPort(u.Hostname(), port)
}

// inside reports whether an address is of the machine's own network.
func inside(ip net.IP) bool {
	return ip.IsLoopback() || ip.IsPrivate() || ip.IsLinkLocalUnicast() || ip.IsLinkLocalMulticast() ||
		ip.IsUnspecified() || ip.IsMulticast() || ip.IsInterfaceLocalMulticast()
}

// Client asks hosts that are allowed, see Host. An address of the inside is asked only where a
// keeper wrote just that; one by which machines are told their secrets never is. dial bounds how
// long a connection may take to stand.
func Client(allowed map[string]bool, dial time.Duration) *http.Client {
	connect := func(ctx context.Context, network, to string) (net.Conn, error) {
		host, _, _ := net.SplitHostPort(to)
		literal := allowed[to] && (net.ParseIP(host) != nil || host == "localhost")
		dialer := &net.Dialer{Timeout: dial, Control: func(_, at string, _ syscall.RawConn) error {
			host, _, err := net.SplitHostPort(at)
			ip := net.ParseIP(host)
			if err != nil || ip == nil || sample.NeverAsked(host) || inside(ip) && !literal {
				return ErrInside
			}
			return nil
		}}
		return dialer.DialContext(ctx, network, to)
	}
	return &http.Client{
		Transport: &http.Transport{DialContext: connect, ForceAttemptHTTP2: true, IdleConnTimeout: 10 * time.Second, MaxIdleConnsPerHost: 8},
		CheckRedirect: func(r *http.Request, via []*http.Request) error {
			if len(via) > maxRedirects {
				return fmt.Errorf("it leads on more than %d times", maxRedirects)
			}
			if !allowed[Host(r.URL)] {
				return fmt.Errorf("it leads to %s, which no keeper has allowed", r.URL.Host)
			}
			return nil
		},
	}
}

// Reason is why an address could not be asked, without the address itself.
func Reason(err error) error {
	if errors.Is(err, ErrInside) {
		return ErrInside
	}
	var u *url.Error
	if errors.As(err, &u) {
		return u.Err
	}
	return err
}
