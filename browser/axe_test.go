package browser

import (
	"fmt"
	"os"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// axe runs the accessibility checks on the page as it stands.
func axe(p *page, where string) {
	p.Helper()
	type finding struct {
		ID, Impact, Help string
		Targets          []string
	}
	found := eval[[]finding](p, `axe.run(document, { resultTypes: ['violations'] }).then((r) => r.violations
		.map((v) => ({ ID: v.id, Impact: v.impact, Help: v.help, Targets: v.nodes.slice(0, 4).map((n) => `+
		`n.html.slice(0, 160) + ' | ' + n.failureSummary.slice(0, 200)) })))`)
	for _, f := range found {
		assert.Fail(p, fmt.Sprintf("%s: %s (%s, %s)", where, f.Help, f.ID, f.Impact), "%v", f.Targets)
	}
}

// ready gives a page what its checks are made with.
func (p *page) ready() {
	p.Helper()
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil && !required {
		p.Skip("axe-core is not installed")
	}
	require.NoError(p, err)
	eval[bool](p, string(source)+"; true")
}

// sound holds a page as it stands to what anybody needs: it is checked on both grounds, and on a phone.
func sound(p *page, where string) {
	p.Helper()
	p.ready()
	for _, ground := range []string{"torch", "paper"} {
		p.turn(ground)
		axe(p, where+" on "+ground)
	}
	thumb(p, where)
}

// turn lights the page that stands, as another window would.
func (p *page) turn(ground string) {
	p.Helper()
	eval[bool](p, `(() => {
		localStorage.setItem('brackmoor.display', JSON.stringify({ ground: "`+ground+`" }));
		window.dispatchEvent(new StorageEvent('storage', { key: 'brackmoor.display' }));
		return true;
	})()`)
	p.until("document.documentElement.dataset.ground === '" + ground + "'")
	eval[bool](p, "new Promise((done) => setTimeout(() => done(true), 250))") // colours go over
}

// thumb looks on a phone for what is smaller than a thumb in a glove: of whatever can be pressed or typed into, what is
// hit half a thumb from its middle must be the same. A link in a sentence is let be.
func thumb(p *page, where string) {
	p.Helper()
	was := eval[[2]int64](p, "[innerWidth, innerHeight]")
	p.do(chromedp.EmulateViewport(390, 844))
	defer func() { p.do(chromedp.EmulateViewport(was[0], was[1])) }()
	axe(p, where+" on a phone")
	small := eval[[]string](p, `new Promise((done) => setTimeout(done, 300)).then(() => {
		const own = '.ant-input-affix-wrapper, .ant-select, .ant-segmented-item, .ant-switch, .ant-picker, ' +
			'.ant-slider, .ant-radio-wrapper, .ant-tabs-tab, .ant-input-number';
		const found = [];
		const modal = [...document.querySelectorAll('.ant-modal-wrap, .ant-drawer-open')]
			.find((m) => m.offsetWidth > 0);
		for (const e of (modal ?? document).querySelectorAll('a[href], button, input, select, textarea, summary, ' +
			'[role=button], [role=tab], [role=radio], [role=slider], [role=switch], [role=combobox], [tabindex="0"]')) {
			if (!e.checkVisibility({ visibilityProperty: true, opacityProperty: false }) || e.disabled) continue;
			if (e.type === 'hidden' || e.type === 'file' || e.closest('[inert]')) continue;
			if (e.matches('[tabindex="0"]') && !e.matches('a, button, input, summary, [role]')) continue; // scrolls
			const said = e.parentElement.innerText?.trim().length ?? 0;
			if (e.matches('a') && getComputedStyle(e).display === 'inline' &&
				said > e.innerText.trim().length + 8) continue;
			const area = e.closest('label') ?? e.closest(own) ?? e;
			e.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' });
			const box = area.getBoundingClientRect();
			if (box.width === 0 || box.height === 0) continue;
			const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
			const hits = (dx, dy) => {
				const hit = document.elementFromPoint(x + dx, y + dy);
				return hit && (area.contains(hit) || hit.contains(area) && hit.matches(own + ', label, button, a'));
			};
			if (!hits(0, 0)) continue; // it lies under something else
			const far = box.width >= 43.5 && box.height >= 43.5 ? 20 : 21; // hits are found to a pixel
			const miss = [[-far, 0], [far, 0], [0, -far], [0, far]].filter(([dx, dy]) => !hits(dx, dy)).length;
			if (miss > 0) {
				found.push((e.ariaLabel || e.innerText || e.name || e.id || String(e.className)).slice(0, 40) +
					' <' + e.tagName.toLowerCase() + ' ' + (area.className.baseVal ?? area.className) + '> ' +
					Math.round(box.width) + '×' + Math.round(box.height));
			}
		}
		scrollTo(0, 0);
		return [...new Set(found)];
	})`)
	assert.Empty(p, small, "%s is too small for a thumb", where)
}

// lit sets the ground that the pages are shown on from here.
func (p *page) lit(ground string) {
	p.Helper()
	p.visit("/rulebook?tab=tables")
	eval[bool](p, `(localStorage.setItem('brackmoor.display', JSON.stringify({ ground: "`+ground+`" })), true)`)
}

// Every screen, on both grounds and on a phone.
func TestNothingInAnybodysWay(t *testing.T) {
	p := open(t, "tarn-hollow.json", "ferry-stairs.json")
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
		sound(p, path)
	}
	p.visit("/machines/ferry-winch/size?route=start-run-capacitor")
	p.until("document.querySelector('.band')")
	p.press("Hottest winding")
	p.press("Start by school")
	sound(p, "other curve and schools")
	eval[bool](p, "document.querySelector('.band .figure-button').click() ?? true")
	p.until("document.querySelector('.ant-drawer-open .steps-of li')")
	sound(p, "working drawer")
	looks := func(path string, ready map[string]string) {
		p.visit(path)
		for look, ready := range ready {
			p.until("document.querySelector('.looks')")
			p.press(look)
			p.until(fmt.Sprintf("document.querySelector(%q)", ready))
			sound(p, path+" "+look)
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
	sound(p, "single-phase motor")
	p.visit("/machines/tarn-hobber/size")
	p.click("[aria-label=History]")
	p.until("document.querySelector('.ant-drawer-open .history')")
	sound(p, "history")
	p.visit("/machines/tarn-hobber/size")
	p.click("[aria-label='Name, note and motors']")
	p.until("document.querySelector('#edit-name')")
	sound(p, "machine dialog")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.click(".shopname")
	p.press("New shop…")
	p.until("document.querySelector('#shop-name')")
	sound(p, "shop dialog")
	empty := open(t)
	empty.visit("/")
	empty.until("document.querySelector('.first-shop')")
	sound(empty, "empty database")
}
