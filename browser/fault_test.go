package browser

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// From what is heard to the cure, on a phone: a look is answered, the cause stands out, and both are in the daybook.
func TestFromSymptomToCure(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/machines/tarn-grinder/fault")
	p.shows(".causes", "Say what is seen")
	p.press("Hums and does not start")
	p.shows(".next-look", "measure the run capacitor")
	p.press("nothing, open")
	p.shows(".causes .first", "The run capacitor is open")
	p.shows(".looked", "nothing, open")
	p.visit("/machines/tarn-grinder/fault")
	p.shows(".causes .first", "The run capacitor is open")
	assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390)
	p.over("[aria-label='Cured by']", "C.\t")
	p.press("It was the first of these, and is cured")
	p.shows(".fault-side", "Now see that it took")
	p.visit("/daybook?machine=tarn-grinder")
	p.until("document.querySelectorAll('.lines li').length >= 2")
	p.shows(".lines", "Hums and does not start.")
	p.shows(".lines", "ended since")
	p.visit("/machines/tarn-borer/fault")
	// A drive names its own faults: what it shows, what that means, and the settings behind it.
	p.press("t.11 Bus too high")
	p.shows(".causes", "Ramp down")
	p.over("[aria-label='What was done']", "Ramp down set to five seconds\t")
	p.over("[aria-label='Cured by']", "C.\t")
	p.press("It was this, and is cured")
	p.shows(".fault-side", "Now see that it took")
	p.visit("/daybook?machine=tarn-borer")
	p.shows(".lines", "The drive shows t.11: Bus too high.")
	p.shows(".lines", "Ramp down set to five seconds")
}

// From a plate's figures to any other: what is typed stands, what follows is beside it, and what cannot be says so.
func TestSumsGoAnyWayRound(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/plate")
	p.press("Reckon on with it")
	p.until("document.querySelector(\"[aria-label='Speed rpm']\")?.value === '1740'")
	p.shows(".sums-list", "VA = √3 · V · A")
	p.over("[aria-label='Amps of a line A']", "\b")
	p.over("[aria-label='Output of the shaft hp']", "2\t")
	p.until("document.querySelector(\"[aria-label='Amps of a line A']\").placeholder.startsWith('5.')")
	p.over("[aria-label='Power factor ']", "1.4\t")
	p.allow("422")
	p.shows(".sums .problem", "Power factor lies between 0.01 and 1")
	p.until("document.querySelector(\"[aria-label='Speed rpm']\").value === '1740'")
}

// Three lessons: a wrong answer is told why, a right one counts, and what was answered stays.
func TestThreeLessons(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/rulebook?tab=lessons&motor=tarn-hobber-m1")
	p.shows(".lesson h2", "Watts over volts is not amps")
	p.press("5.8 A")
	p.shows(".lesson-right", "Right.")
	p.shows(".lessons nav", "1 of")
	p.press("Next lesson")
	p.shows(".lesson h2", "Joined for twice the volts")
	p.press("50 %")
	p.shows(".lesson-wrong", "Not 50 %. The model comes to")
	p.press("A capacitor shifts, it does not amplify")
	p.press("100 %")
	p.shows(".lessons nav", "2 of")
	p.visit("/rulebook?tab=lessons&motor=tarn-hobber-m1")
	p.shows(".lessons nav", "2 of")
	p.press("Do it there")
	p.until("location.pathname.startsWith('/machines/tarn-hobber/')")
}
