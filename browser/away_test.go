package browser

import (
	"context"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/daybook"
)

// A phone's first run goes on where the server is killed in the middle of it: what was seen opens again without it,
// what is ticked meanwhile waits in sight, and arrives once, in its order, when the server is back.
func TestAFirstRunWithoutSignal(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("ERR_CONNECTION_REFUSED")
	p.allow("Failed to load resource")
	p.do(chromedp.EmulateViewport(390, 844))
	const run = "/machines/tarn-hobber/run"
	p.visit(run)
	p.shows(".run-steps .due", "Every check before power")
	// The application keeps itself once the page has rested.
	eval[bool](p, "navigator.serviceWorker.ready.then(() => true)")
	p.until("navigator.serviceWorker.controller")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.visit(run)
	p.shows(".run-steps .due", "Every check before power")
	p.over("[aria-label='Done by']", "C.\t")
	p.server.stop()

	p.press("Went well")
	p.shows(".to-send", "1 to send")
	p.visit(run) // the page itself comes without the server
	p.until("document.querySelectorAll('.run-steps .well').length === 1")
	p.shows(".away", "No server: as seen")
	p.press("Went well")
	p.shows(".to-send", "2 to send")
	p.click(".to-send")
	p.until("document.querySelectorAll('.to-send-list li').length === 2")
	axe(p, "to send")
	p.keys("\u001b")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.shows(".to-send", "2 to send")
	assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390)

	p.server.start(t)
	p.until("!document.querySelector('.to-send')")
	p.until("!document.querySelector('.away')")
	p.visit(run)
	p.until("document.querySelectorAll('.run-steps .well').length === 2")
	lines, err := p.server.store.Entries(context.Background(), "tarn-hollow", daybook.Sought{Kind: "step"}, 50)
	require.NoError(t, err)
	steps := []string{}
	for _, l := range lines {
		steps = append(steps, l.Step)
	}
	require.Len(t, steps, 2, "each once")
	assert.NotEqual(t, steps[0], steps[1])
}
