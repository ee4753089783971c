package browser

import (
	"context"
	"os"
	"path/filepath"
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
	file := filepath.Join(t.TempDir(), "cabinet.png")
	require.NoError(t, os.WriteFile(file, pngOf(t, 400, 300), 0o600))
	p.visit("/machines/tarn-hobber/plate")
	p.until("document.querySelector('#photo-file')")
	p.do(chromedp.SetUploadFiles(chromedp.CSS("#photo-file"), []string{file}))
	p.shows(".photos", "cabinet.png: kept in this browser")
	p.shows(".to-send", "3 to send")
	p.click(".to-send")
	p.until("document.querySelectorAll('.to-send-list li').length === 3")
	sound(p, "to send")
	p.keys("\u001b")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.shows(".to-send", "3 to send")
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
	photos, err := p.server.store.Photos(context.Background(), "tarn-hobber-m1")
	require.NoError(t, err)
	require.Len(t, photos, 1, "once")
	assert.Equal(t, [2]int{400, 300}, [2]int{photos[0].Width, photos[0].Height})
	assert.NotEqual(t, steps[0], steps[1])
}

// What was typed without signal, and changed by somebody else meanwhile, shows both and loses neither.
func TestAConflictMadeAway(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("ERR_CONNECTION_REFUSED")
	p.allow("Failed to load resource")
	p.visit("/machines/tarn-shaper/plate")
	p.until("document.querySelector('.plate input[name=rpm]')")
	p.until("document.querySelector('.topbar button[aria-label^=Display]')") // what comes after the page has come
	eval[bool](p, "navigator.serviceWorker.ready.then(() => true)")
	p.until("navigator.serviceWorker.controller")
	p.server.stop()
	p.field("rpm", "1739\t")
	p.shows(".saved", "Kept here")
	p.do(chromedp.Navigate("about:blank"))

	p.server.start(t)
	other := p.another()
	other.visit("/machines/tarn-shaper/plate")
	other.until("document.querySelector('.plate input[name=rpm]')")
	other.field("rpm", "1751\t")
	other.saved()

	p.visit("/machines/tarn-shaper/plate")
	p.shows(".conflict", "What you typed is still here")
	rpm := func(p *page) string { return eval[string](p, "document.querySelector('.plate input[name=rpm]').value") }
	assert.Equal(t, "1739", rpm(p))
	p.press("Show the other’s")
	p.until("document.querySelector('.plate input[name=rpm]').value === '1751'")
	p.field("rpm", "1739\t")
	p.saved()
	other.visit("/machines/tarn-shaper/plate")
	other.until("document.querySelector('.plate input[name=rpm]')?.value === '1739'")
}
