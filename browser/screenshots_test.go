package browser

import (
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestScreenshots writes the pictures of docs/screenshots from the demo data,
// when a folder is named for them.
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("BRACKMOOR_SCREENSHOTS")
	if dir == "" {
		t.Skip("no BRACKMOOR_SCREENSHOTS")
	}
	require.NoError(t, os.MkdirAll(dir, 0o750))
	p := open(t, "tarn-hollow.json", "ferry-stairs.json")
	for _, shot := range []struct {
		name, path, ready string
		wide              int64
		then              func()
	}{
		{"floor", "/", ".together li", 1280, nil},
		{"phone-floor", "/", ".floor-list .box", 390, nil},
		{"machines", "/machines", ".tile", 1280, nil},
		{"size", "/machines/tarn-shaper/size", ".band", 1280, nil},
		{"route", "/machines/tarn-hobber/route", ".routes table", 1280, nil},
		{"settings", "/machines/tarn-borer/settings", ".settings-table td", 1280, nil},
		{"plate", "/machines", "#machine-name", 1280, func() {
			p.photographed(p.newMachine("Bench grinder"), drawPlate(rand.New(rand.NewPCG(3, 1)), "enamel", "tilt"))
			eval[bool](p, "(document.querySelector('.reading-end button').click(), true)")
		}},
		{"leads", "/machines/tarn-shaper/leads", ".box-panel svg", 1280, nil},
		{"wire", "/machines/tarn-hobber/wire", ".timeline", 1280, func() {
			p.press("S4 start")
			p.until("document.querySelector('.run-log').innerText.includes('load permitted has run out')")
			eval[bool](p, "(document.querySelector('.run-panel').scrollIntoView(), true)")
		}},
		{"prove", "/machines/tarn-hobber/prove", ".state .cell", 1280, nil},
		{"fault", "/machines/tarn-grinder/fault", ".symptoms label", 1280, func() {
			p.press("Hums and does not start")
			p.until("document.querySelector('.next-look')")
		}},
		{"stores", "/stores", ".doubt", 1280, nil},
		{"rulebook", "/rulebook", ".rules li", 1280, nil},
		{"bench", "/bench", ".set-up", 1280, func() {
			choose(p, "Motor to rig", "Gear hobber")
			p.press("Rig it")
			p.press("Spin by hand")
			p.click("[aria-label='Supply']")
			p.click("[aria-label='Idler']")
			p.until("+(document.querySelectorAll('.rig-meters .meter b')[1].innerText.split(' ')[0]) > 150")
			p.click("[aria-label='Machine']")
			eval[bool](p, "(document.querySelector('.page-head').scrollIntoView(), true)")
			eval[bool](p, "new Promise((done) => setTimeout(() => done(true), 3000))")
		}},
		{"lesson", "/rulebook?tab=lessons&motor=tarn-hobber-m1", ".lesson-choices", 1280, nil},
		{"keypad", "/bench?stand=drive", ".set-up", 1280, func() {
			choose(p, "Motor", "Jig borer")
			p.press("Set it up")
			p.press("two lines")
			p.click("[aria-label='enable']")
			p.shows(".keypad .display", "Output")
			p.until("+document.querySelectorAll('.meter b')[4].textContent.split(' ')[0] > 330")
			p.press("RUN")
			eval[bool](p, `fetch('/api/bench/drives/' + new URLSearchParams(location.search).get('drive') + '/keys', {
				method: 'POST', headers: {'Content-Type': 'application/json'},
				body: JSON.stringify({key: 'up', times: 450}),
			}).then(() => new Promise((done) => setTimeout(() => done(true), 7000)))`)
		}},
		{"sheet", "/motors/tarn-shaper-m1/sheet", ".sheet", 1280, nil},
		{"daybook", "/daybook", ".lines li", 1280, nil},
		{"phone-run", "/machines/tarn-hobber/run", ".run-steps li", 390, func() {
			p.lit("torch")
			p.visit("/machines/tarn-hobber/run")
			eval[bool](p, "navigator.serviceWorker.ready.then(() => true)")
			p.until("navigator.serviceWorker.controller")
			p.visit("/machines/tarn-hobber/run")
			p.until("document.querySelector('.run-steps .due')")
			p.over("[aria-label='Done by']", "C.\t")
			p.server.stop()
			p.allow("ERR_CONNECTION_REFUSED")
			p.allow("Failed to load resource")
			p.press("Went well")
			p.until("document.querySelectorAll('.run-steps .well').length === 1")
			p.press("Went well")
			p.shows(".to-send", "2 to send")
			p.visit("/machines/tarn-hobber/run")
			p.shows(".away", "No server: as seen")
			p.shows(".to-send", "2 to send")
		}},
	} {
		height := int64(800)
		if shot.wide == 390 {
			height = 844
		}
		p.do(chromedp.EmulateViewport(shot.wide, height))
		p.visit(shot.path)
		p.until("document.querySelector('" + shot.ready + "')")
		p.until("!document.body.innerText.includes('being worked out')")
		if shot.then != nil {
			shot.then()
		}
		eval[bool](p, "document.fonts.ready.then(() => new Promise((done) => setTimeout(() => done(true), 150)))")
		png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, shot.name+".png"), png, 0o600))
	}
}
