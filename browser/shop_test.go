package browser

import (
	"context"
	"encoding/base64"
	"fmt"
	"strings"
	"testing"
	"time"

	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/server/passphrase"
)

// From an empty database to a printed sheet, by keyboard alone.
func TestFromEmptyToPrintedSheetByKeyboard(t *testing.T) {
	p := open(t)
	p.visit("/machines")
	p.shows("h1", "Your shop first")
	p.firstShop("60", "Kiln Lane Workshop")
	p.keys("\r")
	p.until("document.activeElement.name === 'output'")
	// Output, rpm, volts, amps, hertz, service factor: six fields.
	for _, text := range []string{"2 hp", "1740", "230/460", "6.2/3.1", "60", "1.15"} {
		p.keys(text + "\t")
	}
	tabTo(p, "document.activeElement.innerText === 'Choose its route'")
	p.keys("\r")
	p.shows(".recommended h2", "")
	tabTo(p, "document.activeElement.innerText === 'Take it'")
	p.keys("\r")
	p.saved()
	p.until("document.querySelector('.recommended')")
	tabTo(p, "document.activeElement.innerText === 'Job sheet'")
	p.keys("\r")
	p.shows("article.sheet h1", "First machine")
	p.until("document.activeElement.innerText === 'Print'")
	sheet := p.text("article.sheet")
	for _, part := range []string{"2 hp", "Isolate, lock, prove dead", "Overload set to", "Local code"} {
		assert.Contains(t, sheet, part)
	}
	pdf, err := chromedp.Call(p.ctx, cdppage.PrintToPDF, cdppage.PrintToPDFParams{PrintBackground: new(true)})
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(decode(t, pdf.Data)), "%PDF-"))
}

// firstShop answers the first of all pages by the keyboard, up to the name.
func (p *page) firstShop(region, name string) {
	p.Helper()
	p.until("document.activeElement.type === 'radio'")
	for eval[string](p, "document.activeElement.value") != region {
		p.keys("\u0301") // arrow down
	}
	tabTo(p, "document.activeElement.id === 'shop-name'")
	p.keys(name)
}

func decode(t *testing.T, data []byte) []byte {
	t.Helper()
	if plain, err := base64.StdEncoding.DecodeString(string(data)); err == nil {
		return plain
	}
	return data
}

// tabTo presses Tab until something is focused.
func tabTo(p *page, there string) {
	p.Helper()
	for range 250 {
		if eval[bool](p, "!!("+there+")") {
			return
		}
		p.keys("\t")
	}
	p.Fatalf("Tab never came to %s", there)
}

func TestFocusIsVisible(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	for range 30 {
		p.keys("\t")
		assert.True(t, eval[bool](p, `(() => {
			let e = document.activeElement;
			if (e === document.body) return true;
			for (let n = 0; e && n < 4; n += 1, e = e.parentElement) {
				const s = getComputedStyle(e);
				if (s.outlineStyle !== 'none' && parseFloat(s.outlineWidth) > 0 || s.boxShadow !== 'none') return true;
			}
			return false;
		})()`), eval[string](p, "document.activeElement.outerHTML.slice(0, 200)"))
	}
}

func TestEditsPersistOverARestart(t *testing.T) {
	p := open(t, "ferry-stairs.json")
	p.allow("net::ERR_") // the open page asks on while there is no server
	p.visit("/machines/ferry-fan/size")
	p.field("rpm", "1390")
	p.saved()
	p.server.stop()
	p.server.start(t)
	p.visit("/machines/ferry-fan/size")
	p.until("document.querySelector('.plate input[name=rpm]')?.value === '1390'")
}

func TestANonsensePlateSaysSo(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	for _, wrong := range []struct{ field, typed, says string }{
		{"output", "3", "Say the unit too"}, {"amps", "9.0/4.5/3", "2 volts but 3 amps"}, {"volts", "two thirty",
			"Expected a number"},
		{"rpm", "9999", "Speed must lie between"}, {"power_factor", "1.4", "over 100 percent"}, {"code", "I",
			"A code letter is one of"},
	} {
		field := wrong.field
		p.field(field, wrong.typed)
		p.shows(".plate-says", wrong.says)
		assert.Equal(
			t,
			wrong.typed,
			eval[string](p, "document.querySelector('.plate input[name="+field+"]').value"),
			"what was typed stays",
		)
		assert.Equal(
			t,
			"true",
			eval[string](p, "document.querySelector('.plate input[name="+field+"]').getAttribute('aria-invalid')"),
		)
	}
	p.visit("/machines/tarn-shaper/size")
	p.shows(".plate-says", "Expected a number")
}

func TestAContradictingPlateIsAStop(t *testing.T) {
	p := open(t, "ferry-stairs.json")
	p.visit("/machines/ferry-mortiser/size")
	p.shows(".verdict.stop", "No motor has this plate")
	p.shows(".verdict.caution", "same volt-amperes")
	p.shows(".verdict.note", "Amps 1.5/2.6 may be 2.6/1.5: the columns are exchanged.")
	p.shows(".empty-step", "Likely misread")
	assert.False(t, eval[bool](p, "!!document.querySelector('.band')"))
	p.field("amps", "2.6/1.5")
	p.until("document.querySelector('.band')")
	p.until("!document.querySelector('[data-rule=\"plate.contradiction\"]')")
}

func TestWhatIfMovesThePicture(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-grinder/size")
	p.until("document.querySelector('.band')")
	run := p.figure("Run")
	before := eval[string](p, "document.querySelector('[data-picture=triangle]').ariaLabel")
	slider := "document.querySelector('[aria-labelledby=slide-run_microfarad]')"
	eval[bool](p, slider+".focus() ?? true")
	for range 20 {
		p.keys("\u0303") // arrow right
	}
	p.until("document.querySelector('[data-picture=triangle]').ariaLabel !== " + quoted(before))
	p.until("[...document.querySelectorAll('.band > div')][0].querySelector('dd').innerText !== " + quoted(run))
	p.saved()
	p.press("Back to the model’s choice")
	p.until("[...document.querySelectorAll('.band > div')][0].querySelector('dd').innerText === " + quoted(run))
}

func quoted(text string) string {
	return "`" + strings.ReplaceAll(text, "`", "\\`") + "`"
}

func TestUndoTakesATypedValueBack(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.field("rpm", "1730")
	p.saved()
	p.press("Undo")
	p.until("document.querySelector('.plate input[name=rpm]').value === '1745'")
	p.saved()
	require.Eventually(t, func() bool {
		m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
		return err == nil && m.Machine.Motors[0].Plate.RPM == "1745"
	}, waitFor, tick)
}

func TestALostConnectionKeepsTheEntry(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("Failed to load resource")
	p.allow("ERR_CONNECTION_REFUSED")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.server.stop()
	p.field("rpm", "1735")
	p.shows(".saved", "Not saved: no connection. Kept here.")
	p.server.start(t)
	p.saved()
	m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.Equal(t, "1735", m.Machine.Motors[0].Plate.RPM)
}

// A reload before the connection is back finds what was typed.
func TestAReloadKeepsTheEntry(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("Failed to load resource")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.server.stop()
	p.field("rpm", "1733")
	p.shows(".saved", "Kept here")
	p.server.start(t)
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.plate input[name=rpm]')?.value === '1733'")
	p.saved()
}

// A page left in the middle of a save finds its own change saved already: what was
// typed after it goes on top, and nobody is asked about another window.
func TestAReloadInTheMiddleOfASaveIsNoConflict(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.field("rpm", "1733")
	p.until("Object.keys(localStorage).some((key) => key.startsWith('brackmoor.draft.'))")
	half := eval[string](p, "localStorage.getItem('brackmoor.draft.tarn-shaper-m1')")
	p.saved()
	// The browser as it would be had the answer to that save not arrived, one key later.
	eval[bool](
		p,
		fmt.Sprintf(
			"(() => { const k = JSON.parse(%q); k.sent = structuredClone(k.draft); k.draft.plate.rpm = '1734'; "+
				"localStorage.setItem('brackmoor.draft.tarn-shaper-m1', JSON.stringify(k)); return true; })()",
			half,
		),
	)
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.plate input[name=rpm]')?.value === '1734'")
	p.saved()
	assert.False(t, eval[bool](p, "!!document.querySelector('.conflict')"))
	m, err := p.server.store.Machine(context.Background(), "tarn-shaper")
	require.NoError(t, err)
	assert.Equal(t, "1734", m.Machine.Motors[0].Plate.RPM)
}

// A value typed and left at once, without a pause, is on the sheet all the same.
func TestLeavingAtOnceLosesNothing(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.field("rpm", "17")
	time.Sleep(310 * time.Millisecond) // the first half is being sent when the second is typed
	p.keys("37")
	p.press("Job sheet")
	p.shows("article.sheet", "1737 rpm")
	assert.False(
		t,
		eval[bool](p, "[...document.querySelectorAll('.topbar button')].some((e) => e.innerText === 'Undo')"),
		"undo goes with the card",
	)
	p.press("Back to the machine")
	p.until("document.querySelector('.plate input[name=rpm]')?.value === '1737'")
}

func TestPassphraseIsAskedForAndOpens(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 401")
	p.server.stop()
	p.server.passphrase = passphrase.Hash("correct horse battery", passphrase.Production)
	p.server.start(t)
	p.visit("/machines")
	p.until("document.activeElement.id === 'passphrase'")
	sound(p, "passphrase")
	p.keys("not this one\r")
	p.shows(".gate .problem", "That is not the passphrase.")
	eval[bool](
		p,
		"(document.activeElement.id === 'passphrase' || document.querySelector('#passphrase').focus(), "+
			"document.querySelector('#passphrase').select(), true)",
	)
	p.keys("correct horse battery\r")
	p.shows(".tile-name", "Gear hobber")
	p.until("!document.querySelector('.gate')")
}

func TestWorkingOpensForEveryHeadlineFigure(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	for i := range eval[int](p, "document.querySelectorAll('.band .figure-button').length") {
		eval[bool](p, "document.querySelectorAll('.band .figure-button')["+string(rune('0'+i))+"].click() ?? true")
		p.until("document.querySelector('.ant-drawer-open .steps-of li')")
		assert.NotEmpty(t, p.text(".ant-drawer-open .formula"))
		p.keys("\u001b") // escape
		p.until(
			"!document.querySelector('.ant-drawer-open .steps-of li') || " +
				"getComputedStyle(document.querySelector('.ant-drawer')).display === 'none' || " +
				"!document.querySelector('.ant-drawer-open')",
		)
	}
}
