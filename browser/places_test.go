package browser

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const (
	waitFor = 10 * time.Second
	tick    = 50 * time.Millisecond
)

func TestMachinesAreCopiedDeletedAndBroughtBack(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	tiles := "document.querySelectorAll('.tile').length"
	n := eval[int](p, tiles)
	p.click("[aria-label='More for Gear hobber']")
	p.press("Duplicate")
	p.shows(".tile-name", "Gear hobber copy")
	assert.Equal(t, n+1, eval[int](p, tiles))
	p.click("[aria-label='More for Gear hobber copy']")
	p.press("Delete")
	p.until("![...document.querySelectorAll('.tile-name')].some((e) => e.innerText === 'Gear hobber copy')")
	p.press("Undo")
	p.shows(".tile-name", "Gear hobber copy")
}

func TestShopsAreSwitchedRenamedCopiedAndDeleted(t *testing.T) {
	p := open(t, "tarn-hollow.json", "ferry-stairs.json")
	p.allow("status of 422")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.click(".shopname")
	p.press("Ferry Stairs Boat Shed")
	p.shows(".tile-name", "Slipway winch")
	p.visit("/machines")
	p.shows(".tile-name", "Slipway winch")
	p.click(".shopname")
	p.press("Name and supply…")
	p.until("document.activeElement.id === 'shop-name'")
	eval[bool](p, "(document.querySelector('#shop-name').select(), true)")
	p.keys("Ferry Stairs Yard")
	eval[bool](p, "(document.querySelector('#supply-volts').focus(), document.activeElement.select(), true)")
	p.keys("900\t")
	p.press("Save")
	p.shows(".shop-form .problem", "It must be at most 500.")
	assert.Equal(t, "Ferry Stairs Yard", eval[string](p, "document.querySelector('#shop-name').value"))
	eval[bool](p, "(document.querySelector('#supply-volts').focus(), document.activeElement.select(), true)")
	p.keys("235\t")
	p.press("Save")
	p.shows(".topbar", "235 V")
	p.until("!document.querySelector('#shop-name')")
	p.shows(".shopname", "Ferry Stairs Yard")
	p.click(".shopname")
	p.press("Duplicate")
	p.shows(".shopname", "Ferry Stairs Yard copy")
	p.until(
		"document.querySelector('.tiles') && !document.querySelector('.tiles').innerText.includes('being worked out')",
	)
	p.click(".shopname")
	p.press("Delete")
	p.until("document.querySelector('.shopname').innerText.trim() !== 'Ferry Stairs Yard copy'")
	p.press("Undo")
	p.shows(".shopname", "Ferry Stairs Yard copy")
}

// With another supply, the plate's verdicts and every figure on the card follow.
func TestANewSupplyReachesTheOpenCard(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('[data-picture=windings]')")
	const windings = "document.querySelector('[data-picture=windings]').getAttribute('aria-label')"
	before := eval[string](p, windings)
	p.click(".shopname")
	p.press("Name and supply…")
	p.until("document.activeElement.id === 'shop-name'")
	eval[bool](p, "(document.querySelector('#supply-volts').focus(), document.activeElement.select(), true)")
	p.keys("205\t")
	p.press("Save")
	p.shows(".topbar", "205 V")
	p.until(fmt.Sprintf("document.querySelector('[data-picture=windings]') && %s !== %q", windings, before))
	p.shows(".verdict-list", "205 V")
}

func TestImportReportsAndRefuses(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 422")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	dir := t.TempDir()
	good, bad := filepath.Join(dir, "good.json"), filepath.Join(dir, "bad.json")
	file, err := p.server.store.Export(context.Background())
	require.NoError(t, err)
	same := filepath.Join(dir, "same.json")
	text, err := json.Marshal(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(same, text, 0o600))
	file.Shops[0].Machines[0].Name, file.Shops[0].Machines[1].Name = "Wheel hobber", "Other shaper"
	text, err = json.Marshal(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(good, text, 0o600))
	require.NoError(
		t,
		os.WriteFile(bad, []byte(`{"format":"brackmoor.shops/1","shops":[{"id":"x","name":"","extra":1}]}`), 0o600),
	)
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{same}))
	p.shows(".ant-modal", "Everything in it is here already")
	p.press("Close")
	p.until("!document.querySelector('.ant-modal-content')")
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{good}))
	p.shows(".import-rows", "Other shaper")
	p.shows(".import-rows", "otherwise in the file")
	// What is not ticked stays as it is here.
	eval[bool](
		p,
		"([...document.querySelectorAll('.import-rows label')].find(l => l.textContent.includes('Other shaper'))"+
			".click(), true)",
	)
	p.until("document.querySelectorAll('.import-rows .ant-checkbox-checked').length === 1")
	p.press("Import what is ticked")
	p.shows(".ant-notification", "1 changed")
	p.shows(".tiles", "Wheel hobber")
	p.until("!document.querySelector('.tiles').textContent.includes('Other shaper')")
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{bad}))
	p.shows(".ant-modal", "Nothing was imported")
	p.shows(".ant-modal", "$.shops[0]")
}

func TestASecondMotorIsAddedAndTakenOff(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/size")
	p.click("[aria-label='Name, note and motors']")
	p.press("Add a motor")
	p.until("document.querySelectorAll('.motors button').length === 2")
	p.until("document.activeElement.name === 'output'")
	p.click("[aria-label='Name, note and motors']")
	p.until("document.querySelectorAll('.motor-list button').length === 2")
	eval[bool](p, "document.querySelectorAll('.motor-list button')[1].click() ?? true")
	p.until("!document.querySelector('.motors')")
	p.press("Undo")
	p.until("document.querySelectorAll('.motors button').length === 2")
}

// A common plate in one paste: read, shown with its words, put in its fields.
func TestAPlateIsPastedAsText(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 422")
	p.visit("/machines/tarn-hacksaw/size")
	p.until("document.querySelector('.band')")
	p.press("Paste text")
	p.until("document.activeElement.id === 'plate-text'")
	p.press("Read it")
	p.shows(".ant-modal .problem", "no text to read")
	eval[bool](p, "document.querySelector('#plate-text').focus() ?? true")
	p.keys("1/2 HP 115 V 8.4 A 60 HZ 1 PH")
	p.press("Read it")
	p.shows(".ant-modal .read-verdict", "its own supply")
	assert.NotContains(t, eval[string](p, "document.querySelector('.ant-modal').innerText"), "Put it on the plate")
	eval[bool](
		p,
		"(document.querySelector('#plate-text').select(), document.querySelector('#plate-text').focus(), true)",
	)
	p.keys("2 HP 230/460V 6.2/3.1A 60HZ 1740RPM SF 115 NO 7")
	p.press("Read it")
	p.shows(".ant-modal .facts", "6.2/3.1A")
	p.shows(".ant-modal", "Not understood: SF · 115 · NO · 7")
	sound(p, "plate from text")
	// What may be a slip goes on the plate once it is confirmed.
	p.shows(".slips", "Service factor 1.15")
	p.click(".slips input")
	p.press("Put it on the plate")
	p.until("document.querySelector('.plate input[name=amps]').value === '6.2/3.1'")
	p.until("document.querySelector('.plate input[name=service_factor]').value === '1.15'")
	p.saved()
	p.press("Undo")
	p.until("document.querySelector('.plate input[name=amps]').value === ''")
}

// A further field is kept and printed; a wrong one is said at its place.
func TestTheRestOfThePlate(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/plate")
	p.until("document.querySelector('#rest-year')")
	eval[bool](p, "document.querySelector('#rest-year').focus() ?? true")
	p.keys("87")
	p.shows(".rest-grid .problem", "A year has four figures.")
	p.keys("\b\b1987")
	p.until("!document.querySelector('.rest-grid .problem')")
	p.saved()
	p.press("Job sheet")
	p.shows("article.sheet", "Year: 1987")
}

func TestHistoryTellsWhatWasChanged(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.field("rpm", "1740")
	p.saved()
	p.click("[aria-label=History]")
	p.shows(".history", "plate changed")
}

// Phone: everything is reached without scrolling sideways.
func TestPhone(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.do(chromedp.EmulateViewport(390, 844))
	for _, path := range []string{"/", "/?at=tarn-converter", "/day", "/machines", "/machines/tarn-shaper/size",
		"/machines/tarn-shaper/plate",
		"/machines/tarn-shaper/wire", "/machines/tarn-hobber/prove", "/machines/tarn-shaper/route",
		"/machines/tarn-shaper/settings", "/rulebook",
		"/motors/tarn-shaper-m1/sheet"} {
		p.visit(path)
		p.until(
			"document.querySelector('.floor-list .box, .day, .tile, .band, .facts, .checklist, ' +" +
				"'.routes, .rules, .sheet')",
		)
		assert.LessOrEqual(t, eval[int](p, "document.documentElement.scrollWidth"), 390, path)
		assert.LessOrEqual(
			t,
			eval[int](p, "document.querySelector('.work').scrollWidth - document.querySelector('.work').clientWidth"),
			0,
			path,
		)
	}
}

// Volts read without and with a heater on give the ohms of the supply, which are saved with it; what
// cannot be is said beside its field.
func TestAHeaterTellsTheSupply(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 422")
	p.visit("/machines")
	p.shows(".tile-name", "Gear hobber")
	p.click(".shopname")
	p.press("Name and supply…")
	p.until("document.activeElement.id === 'shop-name'")
	p.click("#supply-class")
	p.until("document.querySelector('.ant-select-item-option[title=\"Own ohms\"]')")
	eval[bool](p, "document.querySelector('.ant-select-item-option[title=\"Own ohms\"]').click() ?? true")
	p.over("#test-idle_volts", "237\t")
	p.over("#test-loaded_volts", "241\t")
	p.over("#test-amps", "14\t")
	p.press("Work it out")
	p.shows(".by-heater .problem", "must be under the volts with nothing on")
	p.over("#test-idle_volts", "244,5\t")
	p.press("Work it out")
	p.shows(".by-heater", "The loop has 0.25 Ω")
	p.until("document.querySelector('#supply-resistance_ohm').value.startsWith('0.249')")
	p.press("Save")
	p.until("!document.querySelector('#shop-name')")
	page, err := p.server.store.Shop(context.Background(), "tarn-hollow")
	require.NoError(t, err)
	assert.InDelta(t, 0.25, page.Supply.ResistanceOhm, 0.005)
}
