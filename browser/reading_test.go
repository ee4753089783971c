package browser

import "testing"

// A person's own units stand beside the shop's wherever figures are said, with their decimal mark, over a reload; and
// a thermometer that shows °F is written down as it stands.
func TestFiguresAsTheirPersonReadsThem(t *testing.T) {
	p := open(t, "ferry-stairs.json")
	p.visit("/machines/ferry-planer/size")
	p.shows(".headline, .facts, .band", "kW")
	p.click("[aria-label='Display: light, size of type, units']")
	p.press("hp, °F, in, AWG")
	p.until(`document.body.innerText.includes(' hp)') && /\d °C \(\d+ °F\)/.test(document.body.innerText)`)
	p.press("Comma")
	p.until(`/\d,\d+ kW \(\d,\d+ hp\)/.test(document.body.innerText)`)
	p.until(`!/\d\.\d+ kW/.test(document.querySelector("main").innerText)`)
	p.visit("/machines/ferry-planer/size")
	p.until(`/\d,\d+ kW \(\d,\d+ hp\)/.test(document.body.innerText)`)

	p.visit("/machines/ferry-planer/prove")
	p.press("Type a reading")
	eval[bool](p, "(document.querySelector('.reading-form details').open = true, true)")
	p.click("[aria-label='Frame in °C: another unit']")
	p.labelled("Frame °F", "140\t")
	p.labelled("Read by", "N.\t")
	p.press("Write it down")
	p.shows(".written", "Frame 60 °C")
}
