package browser

import (
	"context"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// emulate is the protocol's command for the state of a window's line.
var emulate = cdp.Command[network.Conditions, cdp.Empty]{Method: "Network.emulateNetworkConditions"}

// offline takes a window's line away, or gives it back.
func (p *page) offline(off bool) {
	p.Helper()
	if off { // what comes after the page has come
		p.until("document.querySelector('.topbar button[aria-label^=Display]') && document.querySelector('.shopname')")
	}
	_, err := chromedp.Call(
		p.ctx,
		emulate,
		network.Conditions{Offline: off, DownloadThroughput: -1, UploadThroughput: -1},
	)
	require.NoError(p, err)
}

// both opens a page in two windows.
func both(t *testing.T, path, ready string) (p, q *page) {
	p = open(t, "tarn-hollow.json")
	q = p.another()
	for _, window := range []*page{p, q} {
		window.visit(path)
		window.until("document.querySelector('" + ready + "')")
	}
	return p, q
}

// What is typed on the plate tells at once in the comparison of the routes and in the
// sizes, in the window where it is typed and in the other.
func TestFiguresFollowThePlateInEveryWindow(t *testing.T) {
	for name, c := range map[string]struct{ path, ready, figures string }{
		"route": {"/machines/tarn-shaper/route", ".routes td.figures", ".routes tbody"},
		"size":  {"/machines/tarn-shaper/size", ".band", ".band"},
	} {
		t.Run(name, func(t *testing.T) {
			p, q := both(t, c.path, c.ready)
			before := p.text(c.figures)
			require.Equal(t, before, q.text(c.figures))
			p.field("output", "2 hp")
			at := time.Now()
			p.until("document.querySelector('" + c.figures + "').innerText !== " + quoted(before))
			t.Log("here after ", time.Since(at))
			p.saved()
			q.until("document.querySelector('.plate input[name=output]').value === '2 hp'")
			q.until("document.querySelector('" + c.figures + "').innerText !== " + quoted(before))
			t.Log("there after ", time.Since(at))
			// Both show the answer to what is saved, and nothing between.
			after := "document.querySelector('" + c.figures + "').innerText"
			q.until(after + " === " + quoted(eval[string](p, after)))
		})
	}
}

// A plate typed at the machine and leads noted at the bench are parts of their own.
func TestPlateAndLeadsAreEditedApart(t *testing.T) {
	p, q := both(t, "/machines/tarn-shaper/leads", ".box-panel")
	q.offline(true) // so that it knows nothing of the plate when it sends the leads
	q.allow("Failed to load resource")
	q.allow("ERR_INTERNET_DISCONNECTED")
	p.field("rpm", "1733")
	p.saved()
	eval[bool](q, "document.querySelectorAll('details').forEach((d) => { d.open = true; }) ?? true")
	q.labelled("Temperature of the winding", "21")
	q.shows(".saved", "Kept here")
	q.offline(false)
	q.saved()
	assert.False(t, eval[bool](q, "!!document.querySelector('.conflict')"))
	for _, window := range []*page{p, q} {
		window.until("document.querySelector('.plate input[name=rpm]').value === '1733'")
		window.until("document.querySelector('[aria-label=\"Temperature of the winding\"]').value === '21'")
	}
	m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.Equal(t, "1733", m.Machine.Motors[0].Plate.RPM)
	assert.Equal(t, "21", m.Machine.Motors[0].Leads.Celsius)
}

// Two windows that change one part ask which is to stand.
func TestTwoWindowsLoseNothingSilently(t *testing.T) {
	p, q := both(t, "/machines/tarn-shaper/size", ".band")
	for _, says := range []string{"status of 409", "Failed to load resource", "ERR_INTERNET_DISCONNECTED"} {
		q.allow(says)
	}
	q.offline(true)
	q.field("amps", "8.8/4.4")
	q.shows(".saved", "Kept here")
	p.field("rpm", "1750")
	p.saved()
	q.offline(false)
	q.shows(".conflict", "changed in another window")
	assert.Equal(t, "8.8/4.4", eval[string](q, "document.querySelector('.plate input[name=amps]').value"))
	q.press("Save mine over it")
	q.saved()
	p.until("document.querySelector('.plate input[name=amps]').value === '8.8/4.4'")
	m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.Equal(t, "8.8/4.4", m.Machine.Motors[0].Plate.Amps)
}
