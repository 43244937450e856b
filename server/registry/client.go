// Package registry takes packages from a registry that speaks the protocol of npm's, with all
// that they ask for, into a folder as an installation leaves it. Nothing of a package is run:
// no script, no hook. What is fetched is checked against the registry's own word about it.
package registry

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha1" //nolint:gosec // older registries say nothing else
	"crypto/sha256"
	"crypto/sha512"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/Masterminds/semver/v3"

	"ubiquant/core/sample"
	"ubiquant/server/outward"
)

// What one answer may cost.
const (
	maxDocument = 64 << 20  // bytes of what a registry says of a package
	maxTarball  = 128 << 20 // of a packed package
	patience    = 90 * time.Second
	tries       = 3
	maxToken    = 4000
)

// Client asks one registry.
type Client struct {
	Address string // http or https, a path where the registry has one, no slash at its end
	HTTP    *http.Client
	// Token says who asks, where the registry wants to know; it is told to the registry's own host
	// alone. One that names no scheme ("Basic …") is a bearer's.
	Token string

	mu    sync.Mutex
	known map[string]*Document
}

// CheckAddress says what is wrong with an address as a registry's, and gives it as it is kept.
func CheckAddress(address string) (string, error) {
	u, err := url.Parse(strings.TrimSpace(address))
	if err != nil || (u.Scheme != "http" && u.Scheme != "https") || u.Host == "" || u.RawQuery != "" || u.Fragment != "" || u.User != nil {
		return "", fmt.Errorf("%q is no address of a registry; accepted: http or https with a host, without a query and a password", address)
	}
	if sample.NeverAsked(u.Hostname()) {
		return "", fmt.Errorf("%s can never be allowed: machines keep their secrets there, or nobody does", u.Hostname())
	}
	return strings.TrimRight(u.String(), "/"), nil
}

// New asks a registry that a keeper has allowed, and nothing else.
func New(address string) (*Client, error) {
	address, err := CheckAddress(address)
	if err != nil {
		return nil, err
	}
	u, err := url.Parse(address)
	if err != nil {
		return nil, err
	}
	return &Client{Address: address, HTTP: outward.Client(map[string]bool{outward.Host(u): true}, 10*time.Second)}, nil
}

// Own asks a registry that somebody names for a call of their own: it may lie inside their
// network, or behind the proxy that the environment names.
func Own(address string) (*Client, error) {
	c, err := New(address)
	if err != nil {
		return nil, err
	}
	host := ""
	if u, err := url.Parse(c.Address); err == nil {
		host = outward.Host(u)
	}
	c.HTTP = &http.Client{
		Transport: &http.Transport{Proxy: http.ProxyFromEnvironment, ForceAttemptHTTP2: true, MaxIdleConnsPerHost: 8},
		CheckRedirect: func(r *http.Request, via []*http.Request) error {
			if outward.Host(r.URL) != host || len(via) > 3 {
				return fmt.Errorf("it leads on to %s", r.URL.Host)
			}
			return nil
		},
	}
	return c, nil
}

// Document is what a registry says of a package.
type Document struct {
	Name     string
	Tags     map[string]string `json:"dist-tags"`
	Versions map[string]*Version
}

// Version is one version of a package.
type Version struct {
	Name, Version        string
	Description          string
	Dependencies         map[string]string
	OptionalDependencies map[string]string
	PeerDependencies     map[string]string
	PeerDependenciesMeta map[string]struct{ Optional bool }
	BundleDependencies   json.RawMessage // a list, or whether all are
	Deprecated           json.RawMessage // why, or whether
	Dist                 Dist
}

// Dist says where a version's archive lies and how it is known.
type Dist struct {
	Tarball   string
	Integrity string // as of Subresource Integrity
	Shasum    string // SHA-1 in hex, of older registries
}

func (v *Version) deprecated() bool {
	return len(v.Deprecated) > 0 && !slices.Contains([]string{"false", `""`, "null"}, string(v.Deprecated))
}

// bundles tells whether a dependency lies in the package's own archive.
func (v *Version) bundles(name string) bool {
	var list []string
	if json.Unmarshal(v.BundleDependencies, &list) == nil {
		return slices.Contains(list, name)
	}
	return string(v.BundleDependencies) == "true"
}

// packageName is what names a package; older ones have capitals.
var packageName = regexp.MustCompile(`^(@[A-Za-z0-9~-][A-Za-z0-9._~-]*/)?[A-Za-z0-9~-][A-Za-z0-9._~-]*$`)

// CheckToken says what is wrong with a token: one that no request could carry.
func CheckToken(token string) error {
	for _, r := range token {
		if r < ' ' || r > '~' {
			return errors.New("a token has letters, figures and signs of ASCII alone")
		}
	}
	if len(token) > maxToken {
		return fmt.Errorf("a token has at most %d letters", maxToken)
	}
	return nil
}

// CheckName says what is wrong with a package's name.
func CheckName(name string) error {
	if !packageName.MatchString(name) || len(name) > 214 {
		return fmt.Errorf("%q is no name of a package; one is such as orchard-ui or @acme/orchard-ui", name)
	}
	return nil
}

// Split parts a package from the version that is asked of it: "@acme/orchard-ui@^2".
func Split(asked string) (name, version string) {
	asked = strings.TrimSpace(asked)
	if i := strings.LastIndex(asked, "@"); i > 0 {
		return strings.TrimSpace(asked[:i]), strings.TrimSpace(asked[i+1:])
	}
	return asked, ""
}

// ErrNotThere says that a registry has no such package.
var ErrNotThere = errors.New("the registry has no such package")

// Package asks what there is of a package.
func (c *Client) Package(ctx context.Context, name string) (*Document, error) {
	c.mu.Lock()
	known := c.known[name]
	c.mu.Unlock()
	if known != nil {
		return known, nil
	}
	if err := CheckName(name); err != nil {
		return nil, err
	}
	// The short form leaves out what no installation asks for; who does not know it sends all.
	const short = "application/vnd.npm.install-v1+json; q=1.0, application/json; q=0.8"
	body, err := c.get(ctx, c.Address+"/"+strings.Replace(name, "/", "%2f", 1), short, maxDocument)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	d := &Document{}
	if err := json.Unmarshal(body, d); err != nil {
		return nil, fmt.Errorf("%s: what %s says of it cannot be read: %w", name, c.Address, err)
	}
	for number, v := range d.Versions {
		_, err := semver.StrictNewVersion(number)
		if err != nil || v == nil || v.Version != number || v.Name != name {
			delete(d.Versions, number) // it is none, or contradicts itself
		}
	}
	if len(d.Versions) == 0 {
		return nil, fmt.Errorf("%s: the registry lists no version of it", name)
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.known == nil {
		c.known = map[string]*Document{}
	}
	c.known[name] = d
	return d, nil
}

// Numbers are the versions of a package, the newest first.
func (d *Document) Numbers() []string {
	list := make([]*semver.Version, 0, len(d.Versions))
	for number := range d.Versions {
		if v, err := semver.StrictNewVersion(number); err == nil {
			list = append(list, v)
		}
	}
	slices.SortFunc(list, func(a, b *semver.Version) int {
		return cmp.Or(b.Compare(a), strings.Compare(b.Original(), a.Original()))
	})
	out := make([]string, len(list))
	for i, v := range list {
		out[i] = v.Original()
	}
	return out
}

// Choose is the version that is taken where a range, a tag or nothing is asked: the one that is
// tagged as the latest where that fits, else the highest that does, one that is not withdrawn
// before one that is.
func (d *Document) Choose(asked string) (*Version, error) {
	asked = strings.TrimSpace(asked)
	if asked == "" {
		asked = "latest"
	}
	if v := d.Versions[d.Tags[asked]]; v != nil {
		return v, nil
	}
	if v := d.Versions[asked]; v != nil {
		return v, nil
	}
	if asked == "latest" {
		asked = "*"
	}
	fits, err := ranged(asked)
	if err != nil {
		return nil, fmt.Errorf("%s has no version %q", d.Name, asked)
	}
	var withdrawn *Version
	for _, number := range append([]string{d.Tags["latest"]}, d.Numbers()...) {
		v := d.Versions[number]
		if v == nil || !fits(number) {
			continue
		}
		if !v.deprecated() {
			return v, nil
		}
		if withdrawn == nil {
			withdrawn = v
		}
	}
	if withdrawn != nil {
		return withdrawn, nil
	}
	return nil, fmt.Errorf("%s has no version %q; the newest is %s", d.Name, asked, d.Numbers()[0])
}

// ranged reads a range of versions as packages write them.
func ranged(asked string) (func(version string) bool, error) {
	asked = strings.TrimSpace(asked)
	if asked == "" {
		asked = "*"
	}
	c, err := semver.NewConstraint(strings.ReplaceAll(asked, "~>", "~"))
	if err != nil {
		return nil, err
	}
	return func(number string) bool {
		v, err := semver.NewVersion(number)
		return err == nil && c.Check(v)
	}, nil
}

// Fetch takes a version's archive and checks it.
func (c *Client) Fetch(ctx context.Context, v *Version) ([]byte, error) {
	at, err := url.Parse(v.Dist.Tarball)
	own, ownErr := url.Parse(c.Address)
	if err != nil || ownErr != nil || v.Dist.Tarball == "" {
		return nil, fmt.Errorf("%s %s: the registry does not say where its archive lies", v.Name, v.Version)
	}
	if outward.Host(at) != outward.Host(own) || at.Scheme != own.Scheme {
		return nil, fmt.Errorf("%s %s: its archive lies at %s, which no keeper has allowed", v.Name, v.Version, at.Host)
	}
	body, err := c.get(ctx, v.Dist.Tarball, anything, maxTarball)
	if err != nil {
		return nil, fmt.Errorf("%s %s: %w", v.Name, v.Version, err)
	}
	if err := v.Dist.check(body); err != nil {
		return nil, fmt.Errorf("%s %s: %w", v.Name, v.Version, err)
	}
	return body, nil
}

// hashes by which an archive is known, the strongest first.
var hashes = []struct {
	name string
	make func() hash.Hash
}{{"sha512", sha512.New}, {"sha384", sha512.New384}, {"sha256", sha256.New}, {"sha1", sha1.New}}

// check holds an archive against what the registry says of it, by the strongest hash that is told.
func (d *Dist) check(body []byte) error {
	told := strings.Fields(d.Integrity)
	if len(told) == 0 && d.Shasum != "" {
		if sum, err := hex.DecodeString(d.Shasum); err == nil {
			told = []string{"sha1-" + base64.StdEncoding.EncodeToString(sum)}
		}
	}
	for _, h := range hashes {
		any := false
		for _, one := range told {
			name, sum, _ := strings.Cut(one, "-")
			if name != h.name {
				continue
			}
			any = true
			want, err := base64.StdEncoding.DecodeString(strings.SplitN(sum, "?", 2)[0])
			is := h.make()
			is.Write(body)
			if err == nil && subtle.ConstantTimeCompare(want, is.Sum(nil)) == 1 {
				return nil
			}
		}
		if any {
			return errors.New("what came is not what the registry says it is (its integrity differs); nothing was taken")
		}
	}
	return errors.New("the registry says nothing by which its archive could be checked; nothing was taken")
}

const anything = "*/*"

// get asks an address, again where the registry is busy or the connection broke.
func (c *Client) get(ctx context.Context, address, accept string, most int64) ([]byte, error) {
	var err error
	for try := range tries {
		if try > 0 {
			select {
			case <-ctx.Done():
				return nil, ctx.Err()
			case <-time.After(time.Duration(try) * 700 * time.Millisecond):
			}
		}
		var body []byte
		var again bool
		if body, again, err = c.once(ctx, address, accept, most); err == nil || !again {
			return body, err
		}
	}
	return nil, err
}

func (c *Client) once(ctx context.Context, address, accept string, most int64) (body []byte, again bool, err error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, false, fmt.Errorf("%s is no address", address)
	}
	r.Header.Set("Accept", accept)
	if own, err := url.Parse(c.Address); err == nil && c.Token != "" && outward.Host(own) == outward.Host(r.URL) {
		token := c.Token
		if !strings.Contains(token, " ") {
			token = "Bearer " + token
		}
		r.Header.Set("Authorization", token)
	}
	if accept == anything { // an archive is checked as it lies there
		r.Header.Set("Accept-Encoding", "identity")
	}
	out, err := c.HTTP.Do(r)
	if err != nil {
		reason := outward.Reason(err)
		return nil, !errors.Is(reason, outward.ErrInside) && ctx.Err() == nil, fmt.Errorf("%s does not answer: %w", c.Address, reason)
	}
	defer out.Body.Close()
	switch {
	case out.StatusCode == http.StatusNotFound:
		return nil, false, ErrNotThere
	case out.StatusCode == http.StatusUnauthorized || out.StatusCode == http.StatusForbidden:
		what := "it asks for a token, and none is given"
		if c.Token != "" {
			what = "the token that is given may not do this, or holds no more"
		}
		return nil, false, fmt.Errorf("%s refuses (%s): %s", c.Address, out.Status, what)
	case out.StatusCode != http.StatusOK:
		return nil, out.StatusCode == http.StatusTooManyRequests || out.StatusCode >= 500, fmt.Errorf("%s answers %s", c.Address, out.Status)
	}
	var b bytes.Buffer
	n, err := io.Copy(&b, io.LimitReader(out.Body, most+1))
	switch {
	case err != nil:
		return nil, ctx.Err() == nil, fmt.Errorf("the answer of %s broke off: %w", c.Address, err)
	case n > most:
		return nil, false, fmt.Errorf("the answer of %s is larger than %d MiB", c.Address, most>>20)
	}
	return b.Bytes(), false, nil
}
