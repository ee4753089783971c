package browser

import (
	"fmt"
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
	p.shows(".by-state", "live, whatever turns or not")
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

// foretold types what is foretold of a state as its reading, into the form that stands open for it.
func (p *page) foretold(state string) {
	p.Helper()
	for field, text := range eval[map[string]string](p, fmt.Sprintf(`(() => {
		const named = (r) => r.querySelector('.state-name b')?.innerText;
		const row = [...document.querySelectorAll('.state')].find((r) => named(r) === %q);
		const names = ['L1–L2 V', 'L2–made V', 'made–L1 V'];
		const of = row.innerText.includes('idler T1') ? 'idler' : 'machine';
		for (const t of ['T1', 'T2', 'T3']) names.push(t + ' A, Amps of the ' + of);
		names.push('Supply A, Supply');
		return Object.fromEntries([...row.querySelectorAll('.cell')].map((c, i) => {
			const [low, high] = [...c.querySelectorAll('.figures')].at(-1).innerText.split('–').map(Number);
			return [names[i], String(Math.round(50 * (low + high)) / 100)];
		}));
	})()`, state)) {
		p.labelled(field, text+"\t")
	}
}

// A converter on a phone from dead to signed, with other capacitors between.
func TestFromDeadToSigned(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/machines/tarn-hobber/wire?tab=checks")
	p.shows(".checks", "Dead, and discharged")
	p.until("!document.querySelector('.checks input:disabled')")
	eval[bool](p, `(async () => {
		for (const c of document.querySelectorAll('.checks input')) {
			c.click();
			await new Promise((done) => setTimeout(done, 30));
		}
		return true;
	})()`)
	p.saved()
	p.visit("/machines/tarn-hobber/prove")
	p.shows(".next-says", "on L1 to the made leg")
	p.press("Other capacitors are in now")
	p.over("[aria-label='Changed by']", "C.\t")
	p.press("They are in")
	p.shows(".prove-below", "Read it with the capacitors that are in now")
	p.shows(".accept", "not read with the capacitors that are in now")
	for _, state := range []string{"Idler alone", "Machine idle", "At its load, 60 %"} {
		p.press("Type a reading")
		p.shows(".reading-form .ant-select", state)
		eval[bool](p, "document.querySelector('.reading-form details').open = true")
		p.foretold(state)
		p.labelled("Frame °C", "44\t")
		p.labelled("Room °C", "21\t")
		p.press("Write it down")
		p.until(fmt.Sprintf("[...document.querySelectorAll('.state')].some((r) => r.innerText.includes(%q) && "+
			"r.querySelector('.good-mark'))", state))
	}
	p.press("Type a reading")
	p.shows(".reading-form .ant-select", "Full plate output")
	p.press("could not be brought about")
	p.press("Write it down")
	p.shows(".states", "could not be loaded, so unproved")
	p.visit("/machines/tarn-hobber/run")
	p.shows(".run-steps .due", "Every check before power")
	p.over("[aria-label='Done by']", "C.\t")
	for i, steps := 1, eval[int](p, "document.querySelectorAll('.run-steps li').length"); i <= steps; i++ {
		p.press("Went well")
		p.until(fmt.Sprintf("document.querySelectorAll('.run-steps .well').length === %d", i))
	}
	p.until("!document.querySelector('.first-run').innerText.includes('not sent yet')")
	p.visit("/machines/tarn-hobber/prove")
	p.shows(".accept-verdict", "Pass with limits")
	p.shows(".accept", "Full plate output is unproved")
	assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390)
	p.labelled("Note to the signature", "for light cuts\t")
	p.press("Sign: Pass with limits")
	p.shows(".signed", "Pass with limits by C.")
	p.visit("/motors/tarn-hobber-m1/sheet")
	p.shows(".sheet", "Full plate output is unproved")
	p.visit("/daybook?kind=accepted")
	p.shows(".lines", "for light cuts")
}

// What is learned answers everywhere once it is taken, marked as that, until it is laid aside.
func TestTheLearnedMachineIsTaken(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/prove")
	p.press("Type a reading")
	p.over("[aria-label='Read by']", "C.\t")
	p.over("[aria-label='Note']", "even hum\t")
	p.press("Write it down")
	p.press("Answer everywhere with the learned machine")
	p.shows(".card-head .learned-mark", "learned")
	p.shows(".learned-line", "by C.")
	p.until("!document.querySelector('.ant-btn-loading')") // which takes no click
	p.press("Lay it aside")
	p.until("!document.querySelector('.card-head .learned-mark')")
}

// The same machine on two sources stands side by side on a page to print.
func TestTwoSourcesOnAPage(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/motors/tarn-hobber-m1/sources")
	p.shows(".sources", "Nothing is read on another source yet")
	p.press("Back to Prove")
	p.press("Type a reading")
	p.shows(".reading-form .ant-select", "Full plate output")
	p.click(".reading-form .ant-select")
	p.until("document.querySelector('.ant-select-item-option[title=\"Machine idle\"]')")
	p.click(".ant-select-item-option[title='Machine idle']")
	p.over("[aria-label='On another source']", "Tin box\t")
	p.over("[aria-label='Read by']", "C.\t")
	p.over("[aria-label='L1–L2 V']", "240\t")
	p.over("[aria-label='L2–made V']", "205\t")
	p.press("Write it down")
	p.press("Side by side, on a page to print")
	p.shows(".sources caption", "Beside Tin box")
	p.shows(".sources td", "205 V")
}

// A drive's settings are typed as they were found and as they were read back; one that is other than is meant says so.
func TestSettingsAreReadBack(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-borer/settings")
	p.over("[aria-label='Base frequency, was']", "50\t")
	p.over("[aria-label='Base frequency, read back']", "50 Hz\t")
	p.over("[aria-label='Set and read by']", "C.\t")
	p.visit("/machines/tarn-borer/settings")
	p.until("document.querySelector(\"[aria-label='Base frequency, was']\")?.value === '50'")
	p.over("[aria-label='Set and read by']", "C.\t")
	p.press("Write it down")
	p.shows(".read-back-cell", "other than is meant")
	p.over("[aria-label='Base frequency, read back']", "60 Hz\t")
	p.press("Write it down")
	p.shows(".read-back-cell", "✓ C.")
	p.visit("/daybook?kind=setting")
	p.shows(".lines", "Base frequency meant 600 × 0.1 Hz, read back 60 Hz")
	p.press("Print")
	p.shows(".log td", "Base frequency was 50, meant 600 × 0.1 Hz, read back 50 Hz")
}
