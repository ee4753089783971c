package browser

import (
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
		{"converter", "/converters/tarn-converter", ".rungs td", 1280, nil},
		{"day", "/day", ".day li", 1280, nil},
		{"phone-floor", "/", ".floor-list .box", 390, nil},
		{"machines", "/machines", ".tile", 1280, nil},
		{"size", "/machines/tarn-shaper/size", ".band", 1280, nil},
		{"route", "/machines/tarn-hobber/route", ".routes table", 1280, nil},
		{"settings", "/machines/tarn-borer/settings", ".settings-table td", 1280, nil},
		{"plate", "/machines/tarn-shaper/plate", ".rest-grid input", 1280, nil},
		{"leads", "/machines/tarn-shaper/leads", ".box-panel svg", 1280, nil},
		{"wire", "/machines/tarn-hobber/wire", ".timeline", 1280, func() {
			p.press("S4 start")
			p.until("document.querySelector('.run-log').innerText.includes('load permitted has run out')")
			eval[bool](p, "(document.querySelector('.run-panel').scrollIntoView(), true)")
		}},
		{"phone-wires", "/machines/tarn-shaper/wire", ".wire-tabs", 390, func() {
			p.opens("Wires")
			p.until("document.querySelector('.landings li')")
			eval[bool](p, "(document.querySelector('.wire-tabs').scrollIntoView(), true)")
		}},
		{"prove", "/machines/tarn-hobber/prove", ".state .cell", 1280, nil},
		{"fault", "/machines/tarn-grinder/fault", ".symptoms label", 1280, func() {
			p.press("Hums and does not start")
			p.until("document.querySelector('.next-look')")
		}},
		{"stores", "/stores", ".doubt", 1280, nil},
		{"rulebook", "/rulebook", ".rules li", 1280, nil},
		{"sheet", "/motors/tarn-shaper-m1/sheet", ".sheet", 1280, nil},
		{"daybook", "/daybook", ".lines li", 1280, nil},
		{"phone-run", "/machines/tarn-hobber/run", ".run-steps li", 390, func() {
			eval[bool](p, "(document.querySelector('.run-steps li:nth-child(5)').scrollIntoView(), true)")
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
