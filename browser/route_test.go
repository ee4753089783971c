package browser

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What matters re-ranks the routes at once, is kept, and every figure opens.
func TestWhatMattersRanksTheRoutes(t *testing.T) {
	p := open(t, "tarn-hollow.json", "ferry-stairs.json")
	p.visit("/machines/tarn-shaper/route")
	p.shows(".recommended h2", "Run and start capacitors")
	assert.Equal(t, 9, eval[int](p, "document.querySelectorAll('.routes thead th[scope=col]').length")-1)
	p.press("Speed control")
	p.shows(".recommended h2", "Drive built for one phase")
	p.shows(".routes td", "its speed cannot be turned")
	p.saved()
	p.visit("/machines/tarn-shaper/route")
	p.shows(".recommended h2", "Drive built for one phase")
	m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.True(t, m.Machine.Motors[0].Matters.Speed)
	eval[bool](p, "document.querySelector('.routes .figure-button').click() ?? true")
	p.until("document.querySelector('.ant-drawer-open .steps-of li')")
	p.visit("/machines/ferry-winch/route")
	p.shows(".routes td", "never on a static converter")
	p.visit("/machines/ferry-mortiser/route")
	p.shows(".empty-step", "No routes from this plate yet")
}

// The Rulebook finds a rule by a word; the shop's own prices are kept, and tell in the
// routes' costs.
func TestPricesOfTheRulebookTellInTheRoutes(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/route")
	p.shows(".recommended", "It costs about")
	before := p.text(".recommended")
	p.press("Rulebook")
	p.shows(".sample", "samples, made up")
	all := eval[int](p, "document.querySelectorAll('.rules li').length")
	eval[bool](p, "document.querySelector('[aria-label=\"Find a rule\"]').focus() ?? true")
	p.keys("winch")
	p.until("document.querySelectorAll('.rules li').length < 20")
	assert.Greater(t, all, 60)
	eval[bool](p, "(() => { const i = document.querySelector('[aria-label=\"An hour of wiring\"]'); i.focus(); i.select(); return true; })()")
	p.keys("90")
	p.press("Keep these prices")
	p.until("[...document.querySelectorAll('.rulebook .panel header')].some((h) => h.innerText.includes('its own'))")
	p.visit("/machines/tarn-shaper/route")
	p.shows(".recommended", "It costs about")
	assert.NotEqual(t, before, p.text(".recommended"))
	m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.InDelta(t, 90, m.Shop.Prices.Hour, 1e-9)
}

// A drive's settings take the numbers of the drive at hand; the spindle's steps are kept
// and give the step for a tool.
func TestSettingsAndSpindleSpeeds(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-grinder/settings")
	p.shows(".settings-table td", "terminals")
	p.click("[aria-label='Drive at hand']")
	p.until("document.querySelector('.ant-select-item-option[title^=Fell]')")
	eval[bool](p, "document.querySelector('.ant-select-item-option[title^=Fell]').click() ?? true")
	p.shows(".settings-table td", "A-01")
	eval[bool](p, "document.querySelector('[aria-label=\"Steps of the spindle\"]').focus() ?? true")
	p.keys("fast")
	p.shows(".spindle .problem", "is no step")
	p.keys("\b\b\b\b0.25 0.5 1")
	p.until("document.querySelectorAll('.spindle tbody tr').length === 3")
	eval[bool](p, "document.querySelector('[aria-label=\"Diameter of the tool\"]').focus() ?? true")
	p.keys("12 mm")
	p.click("[aria-label='Material']")
	p.until("document.querySelector('.ant-select-item-option[title^=\"Mild steel\"]')")
	eval[bool](p, "document.querySelector('.ant-select-item-option[title^=\"Mild steel\"]').click() ?? true")
	p.shows(".cut", "743 rpm are wanted")
	p.saved()
	p.visit("/machines/tarn-grinder/settings")
	p.shows(".cut", "743 rpm are wanted")
}
