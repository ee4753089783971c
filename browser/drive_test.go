package browser

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// choose takes an option of a list by its label, by what the option begins with.
func choose(p *page, label, option string) {
	p.Helper()
	p.click("[aria-label='" + label + "']")
	at := ".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option[title^='" + option + "']"
	p.until("document.querySelector(`" + at + "`)")
	p.click(at)
}

// A drive is set up on the Bench as it comes out of its box, commissioned over its bus from the motor's Settings, and
// runs its motor from the keypad; what was written is in Settings and in the Daybook.
func TestADriveFromItsBoxToReadBack(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/bench?stand=drive")
	p.shows(".set-up", "set for another country")
	choose(p, "Motor", "Jig borer")
	p.press("Set it up")
	p.shows(".keypad .display", "dark: no power")
	p.press("RUN")
	p.shows(".pad-says", "The display is dark")
	p.press("two lines")
	p.shows(".keypad .display", "EN OPEN")
	p.click("[aria-label='enable']")
	p.shows(".keypad .display", "Output")
	address := eval[string](p, "document.querySelector('.drive-left b.figures').textContent")
	p.visit("/machines/tarn-borer/settings")
	choose(p, "Drive at hand", "Fell 20")
	p.over("[aria-label='Where the drive answers']", address+"\t")
	p.saved()
	p.press("Compare")
	p.shows(".bus-panel", "In the drive")
	p.shows(".bus-panel", "differ…")
	p.click(".bus-panel .ant-btn-primary")
	p.shows(".changes", "Base frequency")
	sound(p, "changes of a drive")
	p.over("[aria-label='Written by']", "Ada")
	p.press("The motor stands, and I can see it.")
	p.click(".ant-modal .ant-btn-primary")
	p.shows(".bus-panel", "✓ written, read back")
	p.shows(".settings-step", "✓ Ada")
	p.press("Watch it")
	p.shows(".bus-live", "stopped")
	p.visit("/bench?stand=drive")
	p.press("HERE")
	p.shows(".lamp.lit", "keypad")
	p.press("RUN")
	p.press("SHOW")
	sound(p, "a drive on the Bench")
	p.until("document.querySelector('.meters').textContent.includes('rpm')")
	p.visit("/daybook?machine=tarn-borer&kind=setting")
	p.shows(".lines", "Drive settings over the bus. Written: ")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/bench?stand=drive")
	p.shows(".keypad", "RUN")
	assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390)
}
