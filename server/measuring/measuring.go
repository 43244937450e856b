// Package measuring has the screens drawn and measured in a browser of the server's own, once
// nothing has changed for a while.
package measuring

import (
	"context"
	"fmt"
	"log/slog"
	"os/exec"
	"time"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"

	"ubiquant/internal/browser"
	"ubiquant/server/api"
)

// Measurer measures what changed.
type Measurer struct {
	API *api.Server
	URL string // of the server, on loopback
	Log *slog.Logger
	// Quiet is how long nothing has changed when it begins; 0 is the usual.
	Quiet time.Duration
}

const (
	quiet = 15 * time.Second
	most  = 30 * time.Minute // that one look at all screens may take
)

// Here tells whether there is a browser to measure with.
func Here() bool {
	_, err := exec.LookPath(browser.Program)
	return err == nil
}

// Run measures until ctx is done. What cannot be measured is told where people see what is left to
// measure; where the browser itself fails, it is tried again after ever longer whiles.
func (m *Measurer) Run(ctx context.Context) {
	wait := m.Quiet
	if wait == 0 {
		wait = quiet
	}
	defer m.API.Measuring(api.MeasuringOff)
	m.API.Measuring(api.MeasuringWaits)
	last, failures := int64(-1), 0
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait << min(failures, 6)):
		}
		count, seq, err := m.API.ToMeasure(ctx)
		if err != nil || count == 0 || seq != last { // the database is gone, or somebody is at work
			last = seq
			continue
		}
		m.API.Measuring(api.MeasuringScreens)
		if err := m.look(ctx); err != nil && ctx.Err() == nil {
			failures++
			m.Log.Warn("screens were not measured", "error", err)
		} else {
			failures = 0
		}
		m.API.Measuring(api.MeasuringWaits)
	}
}

// look has a browser draw and measure all that is left.
func (m *Measurer) look(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, most)
	defer cancel()
	b, err := browser.StartBehind(ctx)
	if err != nil {
		return err
	}
	defer b.Close()
	tab, end, err := b.Tab()
	if err != nil {
		return err
	}
	defer end()
	name, value := m.API.MachineSession()
	said := ""
	err = chromedp.Run(tab,
		chromedp.ActionFunc(func(ctx context.Context) error {
			return network.SetCookie(name, value).WithURL(m.URL).WithHTTPOnly(true).WithSameSite(network.CookieSameSiteStrict).Do(ctx)
		}),
		chromedp.Navigate(m.URL+"/measuring"),
		chromedp.Poll(`document.documentElement.dataset.measured`, &said, chromedp.WithPollingInterval(time.Second), chromedp.WithPollingTimeout(0)),
	)
	if err != nil {
		return err
	}
	if said != "all" {
		return fmt.Errorf("the page of measuring says: %s", said)
	}
	return nil
}
