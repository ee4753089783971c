package browser

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// What was read stands beside what was foretold: a can that is open is found, and the next change named.
func TestReadingsNameTheNextChange(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/prove")
	p.shows(".band", "3 of 4")
	p.shows(".prove-below", "that are printed on its cans are in circuit")
	p.shows(".next-says", "on L1 to the made leg")
	p.shows(".by-state", "live, whatever the made leg reads")
	p.press("Correct it")
	p.shows("#reading-title", "Correct a reading")
	p.over("[aria-label='L1–L2 V']", "24x\t")
	p.shows(".reading-form", "L1–L2 is a number")
	p.over("[aria-label='L1–L2 V']", "242\t")
	p.press("Write it down")
	p.until("document.querySelectorAll('.written .corrected').length === 1")
	p.shows(".written", "corrected since")
	p.press("Type a reading")
	p.over("[aria-label='On another source']", "Tin box\t")
	p.over("[aria-label='L2–made V']", "205\t")
	p.press("Write it down")
	p.shows(".prove-all", "Beside Tin box")
}

// A reading that is typed on a phone while the server is away is kept, and is written down once when it is back.
func TestAReadingIsKeptAndSentOnce(t *testing.T) {
	p := open(t, "ferry-stairs.json")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/machines/ferry-fan/prove")
	p.shows(".band", "not yet")
	p.press("Type a reading")
	p.over("[aria-label='Read by']", "C.\t")
	p.over("[aria-label='L–N V']", "231,5\t")
	p.over("[aria-label='N–made V']", "226\t")
	p.allow("ERR_INTERNET_DISCONNECTED")
	p.offline(true)
	p.press("Write it down")
	p.shows(".prove-all", "1 not sent yet")
	p.offline(false)
	p.until("document.querySelectorAll('.written li').length === 1")
	p.until("!document.querySelector('.prove-all').innerText.includes('not sent yet')")
	p.visit("/machines/ferry-fan/prove")
	p.shows(".written", "231.5")
	assert.Equal(t, 1, eval[int](p, "document.querySelectorAll('.written li').length"))
}

// A fault is written down, found by a word of it, and cured; what was open is ended, and nothing is taken away.
func TestTheDaybook(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/daybook")
	p.shows(".lines", "One can of the L1 bank looks open")
	p.shows(".lines .late", "was due 2026-10-17")
	p.press("Write a line")
	p.over("[aria-label='What happened']", "Belt chirps at start\t")
	p.over("[aria-label='Written by']", "C.\t")
	p.press("Write it down")
	p.shows(".lines", "Belt chirps at start")
	p.over("[aria-label='Words']", "chirp")
	p.until("document.querySelectorAll('.lines li').length === 1")
	p.press("Correct it")
	p.over("[aria-label='What happened']", "Belt chirps at every start\t")
	p.press("Write it down")
	p.until("document.querySelectorAll('.lines .corrected').length === 1")
	p.visit("/daybook?open=yes")
	p.until("document.querySelectorAll('.lines li').length === 2")
	p.press("Done")
	p.over("[aria-label='What happened']", "Measured: it was open, a new one is in\t")
	p.press("Write it down")
	p.until("document.querySelectorAll('.lines li').length === 1")
	p.visit("/daybook?machine=tarn-hobber&kind=reading")
	p.until("document.querySelectorAll('.lines li').length === 4")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/daybook")
	p.shows(".lines", "ended since")
	assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390)
}

// A first run goes from step to step; one that does not go as it should stays open until it does.
func TestFirstRun(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/machines/tarn-shaper/run")
	p.shows(".run-steps .due", "Every check before power")
	p.over("[aria-label='Done by']", "C.\t")
	p.press("Went well")
	p.shows(".run-steps .well", "went well, C.")
	p.shows(".run-steps .due", "Control fuses out")
	p.over("[aria-label='Seen, heard, read']", "only 121 V between the lines\t")
	p.press("Not so")
	p.shows(".run-steps .not", "not so, C.")
	p.shows(".open-items", "1 open")
	p.visit("/daybook?open=yes&machine=tarn-shaper")
	p.shows(".lines", "only 121 V between the lines")
	p.visit("/machines/tarn-shaper/run")
	p.press("Went well")
	p.until("document.querySelectorAll('.run-steps .well').length === 2")
	p.until("!document.querySelector('.open-items')")
	assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390)
}
