package browser

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/shop"
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
	// What is no figure stays with a sentence, over a reload too, and the last good one counts.
	p.labelled("Hours a day", "30")
	p.shows(".matters .problem", "Hours a day is a number, 0 to 24; until then 3 counts.")
	p.saved()
	p.visit("/machines/tarn-shaper/route")
	p.shows(".matters .problem", "Hours a day is a number")
	p.labelled("Hours a day", "2,5")
	p.until("!document.querySelector('.matters .problem')")
	p.saved()
	m, err = p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.InDelta(t, 2.5, m.Machine.Motors[0].Matters.HoursPerDay, 1e-9)
	// A long run, in feet here, takes a larger conductor.
	p.labelled("Length of its conductors", "400")
	p.shows(".routes td", "raised from 12 AWG by its run")
	p.saved()
	m, err = p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.InDelta(t, 121.92, m.Machine.Motors[0].Matters.RunMetre, 1e-9)
	assert.Empty(
		t,
		eval[string](
			p,
			"[...document.querySelectorAll('.routes td.figures')].filter((e) => !e.querySelector('.figure-button') "+
				"&& !['–', 'none'].includes(e.innerText)).map((e) => e.innerText).join()",
		),
		"every figure opens",
	)
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
	p.until("document.querySelector('.rules li')")
	all := eval[int](p, "document.querySelectorAll('.rules li').length")
	eval[bool](p, "document.querySelector('[aria-label=\"Find a rule\"]').focus() ?? true")
	p.keys("winch")
	p.until("document.querySelectorAll('.rules li').length < 20")
	assert.Greater(t, all, 60)
	p.press("Schools")
	p.shows(".schools-list td", "idler of 5 hp: 60 to 80 µF")
	p.press("Tables")
	p.shows(".tables caption", "Standard capacitors")
	p.press("Prices")
	p.shows(".sample", "samples, made up")
	p.labelled("An hour of wiring", "90")
	// What is typed is not lost by a reload.
	p.until("Object.keys(localStorage).some((key) => key.startsWith('brackmoor.kept.prices'))")
	p.visit("/rulebook?tab=prices")
	p.until("document.querySelector('[aria-label=\"An hour of wiring\"]')?.value === '90'")
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
	p.labelled("Least hertz", "33")
	p.shows(".settings-table td", "33 Hz")
	p.shows(".settings-table td", "the least that the machine's maker sets")
	p.labelled("Least hertz", "330")
	p.shows(".settings-step .problem", "Least hertz is a number, 0 to 100; until then 33 counts.")
	p.labelled("Least hertz", "")
	p.shows(".settings-table td", "no longer cools")
	p.labelled("Steps of the spindle", "fast")
	p.shows(".spindle .problem", "is no step")
	p.keys("\b\b\b\b0.25 0.5 1")
	p.until("document.querySelectorAll('.spindle tbody tr').length === 3")
	p.labelled("Diameter of the tool", "12 mm")
	p.click("[aria-label='Material']")
	p.until("document.querySelector('.ant-select-item-option[title^=\"Mild steel\"]')")
	eval[bool](p, "document.querySelector('.ant-select-item-option[title^=\"Mild steel\"]').click() ?? true")
	p.shows(".cut", "743 rpm are wanted")
	p.saved()
	p.visit("/machines/tarn-grinder/settings")
	p.shows(".cut", "743 rpm are wanted")
}

// Three machines of the demo from their plate to the route taken, its size, what is tried
// on it, and its sheet.
func TestThreeMachinesFromPlateToSheet(t *testing.T) {
	for name, c := range map[string]struct {
		file, machine, field, text string
		wishes                     []string
		take                       string // a column of its own, "" for what stands first
		first, taken, figure       string
		circuit, sheet             string
	}{
		"more machines": {"tarn-hollow.json", "tarn-shaper", "rpm", "1750", []string{"More machines",
			"Keep its switches"}, "", "Rotary converter", "rotary", "Idler", "Rotary converter",
			"Bringing the idler up"},
		"a hard start": {"ferry-stairs.json", "ferry-winch", "rpm", "1435", []string{"Full plate output"},
			"Larger three-phase drive", "Single-phase motor", "drive-derated", "One phase leaves", "three-phase drive",
			"Drive settings"},
		"a small one": {"tarn-hollow.json", "tarn-grinder", "service_factor", "1.15", []string{"Low cost"}, "",
			"Run and start capacitors", "start-run-capacitor", "Start", "Run and start capacitors", "Parts"},
	} {
		t.Run(name, func(t *testing.T) {
			p := open(t, c.file)
			p.visit("/machines/" + c.machine + "/plate")
			p.field(c.field, c.text)
			p.saved()
			m, err := p.server.store.Machine(context.Background(), c.machine)
			require.NoError(t, err)
			motor := m.Machine.Motors[0]
			// A new user has taken nothing yet.
			for part, anew := range map[shop.Part]func(*shop.Motor){
				shop.WayPart:     func(m *shop.Motor) { m.Way = feed.Choice{}.Filled() },
				shop.MattersPart: func(m *shop.Motor) { m.Matters = feed.Matters{} },
			} {
				_, err = p.server.store.ChangePart(context.Background(), motor.ID, part, *motor.Versions.Of(part), anew)
				require.NoError(t, err)
			}
			p.visit("/machines/" + c.machine + "/route")
			p.shows(".recommended h2", "")
			assert.NotContains(t, p.text(".recommended"), "Taken")
			for _, wish := range c.wishes {
				p.press(wish)
			}
			p.shows(".recommended h2", c.first)
			if c.take == "" {
				p.press("Take it")
			} else {
				p.click("[aria-label='Take " + c.take + "']")
			}
			p.until("document.querySelector('.recommended .taken')")
			p.click("[aria-label='Keep Static converter']")
			p.saved()
			p.click(".steps .ant-segmented-item:nth-child(4)")
			p.until(
				"[...document.querySelectorAll('.band dt')].some((e) => e.innerText.startsWith(" + quoted(
					c.figure,
				) + "))",
			)
			p.shows(".way-select", "taken")
			if c.taken == "rotary" {
				before := p.text("[data-panel=states] tbody")
				eval[bool](p, "document.querySelector('[aria-labelledby=slide-balance_ac_microfarad]').focus() ?? true")
				for range 5 {
					p.keys("\u0303") // arrow right
				}
				p.until("document.querySelector('[data-panel=states] tbody').innerText !== " + quoted(before))
				p.saved()
				p.press("Back to the model’s choice")
				p.until("document.querySelector('[data-panel=states] tbody').innerText === " + quoted(before))
				p.saved()
			}
			p.press("Job sheet")
			p.until("document.querySelector('.sheet svg')")
			assert.Contains(
				t,
				eval[string](
					p,
					"document.querySelector('.sheet svg').ariaLabel ?? document.querySelector('.sheet svg "+
						"title').textContent",
				),
				c.circuit,
			)
			marks := eval[int](p, "document.querySelectorAll('.sheet .assumed-mark').length")
			assert.NotZero(t, marks, "what is assumed is marked")
			text := p.text(".sheet")
			for _, part := range []string{c.sheet, ", this sheet", "Kept side by side", "Local code"} {
				assert.Contains(t, text, part)
			}
			kept, err := p.server.store.Machine(context.Background(), c.machine)
			require.NoError(t, err)
			assert.Equal(t, c.taken, kept.Machine.Motors[0].Way.Route)
			assert.Equal(t, []string{"static"}, kept.Machine.Motors[0].Way.Kept)
		})
	}
}

// A drive's numbers are put into a profile of the shop's own, and stand beside our names
// on the Settings step.
func TestAProfileOfOnesOwn(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/rulebook?tab=profiles")
	p.shows(".profile td", "A-01")
	assert.Equal(t, 0, eval[int](p, "document.querySelectorAll('.profile input').length"), "what ships is only read")
	p.press("Copy it")
	p.labelled("Name of the profile", "Drive in the corner")
	p.labelled("Parameter of Base frequency", "77")
	p.labelled("Factor of Base frequency", "10")
	p.labelled("Unit of Base frequency", "0.1 Hz")
	p.labelled("Parameter of Poles", "77")
	p.allow("422")
	p.press("Keep these profiles")
	p.shows(".problem", "the same number 77")
	p.labelled("Parameter of Poles", "78")
	p.labelled("Mark of enable, enable", "E7")
	p.press("Keep these profiles")
	p.until("!document.querySelector('.problem') && document.querySelector('.keep button').disabled")
	p.visit("/machines/tarn-grinder/settings")
	p.click("[aria-label='Drive at hand']")
	p.until("document.querySelector('.ant-select-item-option[title^=\"Drive in\"]')")
	eval[bool](p, "document.querySelector('.ant-select-item-option[title^=\"Drive in\"]').click() ?? true")
	p.shows(".settings-table td", "77")
	p.shows(".settings-table td", "× 0.1 Hz")
	p.saved()
}
