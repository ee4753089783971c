package browser

import "testing"

// A shop's own figure stands in a code's table and is what its circuits go by; a far one is refused at
// its place, and nothing puts back what is printed.
func TestAFigureOfOnesOwn(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 422")
	figure := `[aria-label^="12 AWG, Cu 60 °C"]`
	p.visit("/rulebook?tab=tables")
	p.click(figure)
	p.over(figure, "900\r")
	p.shows(".own-edit .problem", "between 2 and 200")
	p.over(figure, "16\r")
	p.until(`document.querySelector('.own-figure.own')?.innerText === '16'`)
	p.shows(".own-say", "own")
	p.visit("/?at=tarn-borer-feed")
	p.shows(".thing dl", "the shop’s own figure, in the place of NEC 310.16")
	p.visit("/rulebook?tab=tables")
	p.press("All as printed")
	p.until(`!document.querySelector('.own-figure.own')`)
}

// A kind of load of the shop's own is copied, named, kept over a reload and driven by a motor.
func TestALoadOfOnesOwn(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 422")
	p.visit("/rulebook?tab=loads")
	p.click("[aria-label='Copy Circular saw']")
	p.over("[aria-label='Name of the kind']", "Grinding wheel\t")
	p.press("Keep these kinds")
	p.shows(".loads .problem", "called so already")
	p.visit("/rulebook?tab=loads")
	p.until("document.querySelector('[aria-label=\"Name of the kind\"]')?.value === 'Grinding wheel'")
	p.over("[aria-label='Name of the kind']", "Clock-wheel saw\t")
	p.over("[aria-label='Seconds to a stop of Clock-wheel saw']", "4\t")
	p.press("Keep these kinds")
	p.until("document.querySelector('.loads .ant-btn-primary')?.disabled")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.click("[aria-label='What it drives']")
	p.until("document.querySelector('.ant-select-item-option[title=\"Clock-wheel saw\"]')")
	p.click(".ant-select-item-option[title='Clock-wheel saw']")
	p.saved()
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.whatif')?.innerText.includes('Clock-wheel saw')")
}

// What must not run together with a machine is an interlock of its wiring, with how it is made.
func TestInterlocksOfAMachine(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/wire")
	p.shows(".interlocks", "Metal shaper · Dust extractor")
	p.shows(".interlocks", "break contact of each one’s contactor")
	p.press("Put their contacts into the circuit")
	p.shows(".interlocks", "In the circuit: break contacts of Dust extractor.")
	p.shows(".run-hands", "Dust extractor runs")
	p.press("Take them out")
	p.until("document.querySelector('.run-hands')?.innerText.includes('Dust extractor runs') === false")
	p.visit("/machines/tarn-borer/wire")
	p.until("document.querySelector('.checklist')")
	p.until("!document.querySelector('.interlocks')")
}
