package browser

import (
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// axe runs the accessibility checks on the page as it stands.
func axe(p *page, where string) {
	p.Helper()
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil && !required {
		p.Skip("axe-core is not installed")
	}
	require.NoError(p, err)
	eval[bool](p, string(source)+"; true")
	type finding struct {
		ID, Impact, Help string
		Targets          []string
	}
	found := eval[[]finding](p, `axe.run(document, { resultTypes: ['violations'] }).then((r) => r.violations
		.filter((v) => v.impact === 'serious' || v.impact === 'critical')
		.map((v) => ({ ID: v.id, Impact: v.impact, Help: v.help, Targets: v.nodes.slice(0, 4).map((n) => `+
		`n.html.slice(0, 160) + ' | ' + n.failureSummary.slice(0, 200)) })))`)
	for _, f := range found {
		assert.Fail(p, fmt.Sprintf("%s: %s (%s)", where, f.Help, f.ID), "%v", f.Targets)
	}
}

// lit sets the ground that the pages are shown on from here.
func (p *page) lit(ground string) {
	p.Helper()
	p.visit("/rulebook?tab=tables")
	eval[bool](p, `(localStorage.setItem('brackmoor.display', JSON.stringify({ ground: "`+ground+`" })), true)`)
}

func TestNothingSeriousForAccessibility(t *testing.T) {
	for _, ground := range []string{"paper", "torch"} {
		t.Run(ground, func(t *testing.T) { nothingSerious(t, ground) })
	}
}

func nothingSerious(t *testing.T, ground string) {
	p := open(t, "tarn-hollow.json", "ferry-stairs.json")
	p.lit(ground)
	for path, ready := range map[string]string{
		"/?shop=tarn-hollow": ".together li", "/?shop=tarn-hollow&at=tarn-converter-feed": ".thing dd",
		"/machines": ".tile", "/day?shop=tarn-hollow": ".day li",
		"/converters/tarn-converter?shop=tarn-hollow": ".rungs td", "/rulebook": ".rules li",
		"/stores?shop=tarn-hollow": ".shelf li", "/bench?shop=tarn-hollow": ".set-up",
		"/bench?stand=drive&shop=tarn-hollow": ".set-up",
		"/bench?stand=feeds&shop=tarn-hollow": "[data-picture=feed]", "/machines/tarn-borer/fault": ".trouble-group",
		"/rulebook?tab=tables": ".own-figure", "/rulebook?tab=loads": ".loads td",
		"/machines/tarn-shaper/size":  ".band",
		"/machines/tarn-shaper/plate": ".facts", "/machines/tarn-shaper/wire": ".drawing",
		"/machines/tarn-shaper/leads": ".box-panel svg", "/machines/tarn-hobber/leads": ".leads-side",
		"/machines/ferry-planer/leads":  ".next-reading, .settled",
		"/machines/ferry-mortiser/size": ".verdict.stop", "/machines/tarn-borer/route": ".routes table",
		"/machines/tarn-shaper/run": ".run-steps li", "/daybook?shop=tarn-hollow": ".lines li",
		"/machines/tarn-hobber/prove": ".state .cell",
		"/machines/tarn-hobber/fault": ".causes li", "/motors/tarn-hobber-m1/sources": ".sources",
		"/daybook/print?shop=tarn-hollow": ".log td", "/rulebook?tab=sums&motor=tarn-hobber-m1": ".sums-list li",
		"/rulebook?tab=lessons&motor=tarn-hobber-m1": ".lesson-choices",
		"/machines/tarn-shaper/wire?tab=parts":       ".parts-list td",
		"/machines/tarn-grinder/settings":            ".settings-table td", "/motors/tarn-shaper-m1/sheet": ".sheet",
	} {
		p.visit(path)
		p.until(fmt.Sprintf("document.querySelector(%q)", ready))
		axe(p, path)
	}
	p.visit("/machines/ferry-winch/size?route=start-run-capacitor")
	p.until("document.querySelector('.band')")
	p.press("Hottest winding")
	p.press("Start by school")
	axe(p, "other curve and schools")
	eval[bool](p, "document.querySelector('.band .figure-button').click() ?? true")
	p.until("document.querySelector('.ant-drawer-open .steps-of li')")
	axe(p, "working drawer")
	looks := func(path string, ready map[string]string) {
		p.visit(path)
		for look, ready := range ready {
			p.until("document.querySelector('.looks')")
			p.press(look)
			p.until(fmt.Sprintf("document.querySelector(%q)", ready))
			axe(p, path+" "+look)
		}
	}
	looks(
		"/machines/tarn-shaper/size",
		map[string]string{
			"Starting": "[data-picture=run-up]",
			"Heat":     "[data-picture=session]",
			"Scope":    ".scope-place canvas",
		},
	)
	looks(
		"/machines/tarn-hacksaw/size?route=static",
		map[string]string{"The box": "[data-panel=accept] td", "Running": "[data-picture=triangle]"},
	)
	looks(
		"/machines/tarn-hobber/size",
		map[string]string{
			"Legs and windings": "[data-panel=states] td",
			"Bringing it up":    ".box-facts dd",
			"Accepted by state": "[data-panel=accept] td",
		},
	)
	looks(
		"/machines/tarn-borer/size",
		map[string]string{"Bus and torque": "[data-picture=ripple]", "Controls": "[data-panel=controls] td"},
	)
	p.visit("/machines/tarn-borer/size?route=single-phase-motor")
	p.until("document.querySelector('[data-panel=rows] dd')")
	axe(p, "single-phase motor")
	p.visit("/machines/tarn-hobber/size")
	p.click("[aria-label=History]")
	p.until("document.querySelector('.ant-drawer-open .history')")
	axe(p, "history")
	p.visit("/machines/tarn-hobber/size")
	p.click("[aria-label='Name, note and motors']")
	p.until("document.querySelector('#edit-name')")
	axe(p, "machine dialog")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.click(".shopname")
	p.press("New shop…")
	p.until("document.querySelector('#shop-name')")
	axe(p, "shop dialog")
	empty := open(t)
	empty.lit(ground)
	empty.visit("/")
	empty.until("document.querySelector('.first-shop')")
	axe(empty, "empty database")
}
