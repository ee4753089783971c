package browser

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// opens shows one of the tabs of a step, by how its name begins.
func (p *page) opens(name string) {
	find := fmt.Sprintf("[...document.querySelectorAll('.wire-tabs [role=tab]')].find(t => t.innerText.startsWith(%q))",
		name)
	p.until(find)
	eval[bool](p, find+".click() ?? true")
	p.until(find + ".getAttribute('aria-selected') === 'true'")
}

// told waits until the log of a run has some words.
func (p *page) told(words string) {
	p.until(fmt.Sprintf("document.querySelector('.run-log')?.innerText.includes(%q)", words))
}

// A converter's circuit is run on its drawing: it comes up, lets its load on, drops with the volts and stays off;
// broken on purpose it says what comes of it, and a choice mends what the search found.
func TestACircuitIsRunBeforeItIsBuilt(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/wire")
	p.told("the supply comes on")
	p.shows(".searched", "states")
	p.press("S4 start")
	p.told("idler is up")
	p.told("load permitted has run out")
	p.until("document.querySelectorAll('.timeline rect').length > 2")
	p.press("S6 start")
	p.told("K2, machine pulls in")
	p.press("Volts off")
	p.told("K2, machine drops")
	p.press("Volts back")
	p.told("the volts come back")
	assert.NotContains(
		t,
		eval[string](p, "document.querySelector('.run-log').innerText.split('the volts come back')[1]"),
		"pulls in",
	)

	// By keyboard, as long as the key is held.
	p.press("Begin anew")
	p.until("!document.querySelector('.run-log').innerText.includes('the volts come back')")
	eval[bool](
		p,
		"[...document.querySelectorAll('.run-hands button')].find(b => b.innerText === 'S4 start').focus() ?? true",
	)
	p.keys("\r")
	p.told("press S4, start")
	p.told("let go of S4, start")

	p.until("document.querySelector('[aria-label=\"Something broken\"]')")
	eval[bool](p, "document.querySelector('[aria-label=\"Something broken\"]').focus() ?? true")
	p.keys("K3 welded")
	p.until("document.querySelector('.ant-select-item-option-active')?.innerText.includes('K3 welded')")
	p.keys("\r")
	p.until("!document.querySelector('.run-log').innerText.includes('press S4')")
	p.press("S4 start")
	p.told("load permitted has run out")
	p.shows(".run-panel .verdict", "stays in")
	p.shows(".wired-run", "K3 welded")
	p.until("document.querySelector('.how-wired summary')")
	eval[bool](p, "document.querySelector('.how-wired summary').click() ?? true")
	p.click("[aria-label='Start part leaves by']")
	p.until("document.querySelector('.ant-select-item-option[title=\"a timer\"]')")
	p.click(".ant-select-item-option[title='a timer']")
	p.until(
		"[...document.querySelectorAll('.choices .ant-checkbox-wrapper')].some(l => l.innerText.includes('Backup'))",
	)
	eval[bool](p, "[...document.querySelectorAll('.choices .ant-checkbox-wrapper')]"+
		".find(l => l.innerText.includes('Backup')).click() ?? true")
	p.shows(".searched", "nothing restarts by itself")
	p.saved()
}

// Wires are ticked at the box on a phone, and stay so; what is ticked alone makes nothing to be computed anew.
func TestWiresAreTickedOnAPhone(t *testing.T) {
	p := open(t, "ferry-stairs.json")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/machines/ferry-fan/wire")
	p.opens("Wires")
	p.until("document.querySelector('.landings li input')?.disabled")
	p.until("document.querySelectorAll('.checklist input').length === 6")
	for i := range 6 {
		p.until("document.querySelector('.checklist .ant-checkbox-wrapper:not(.ant-checkbox-wrapper-disabled)')")
		eval[bool](p, "document.querySelector('.checklist .ant-checkbox-wrapper:not(.ant-checkbox-wrapper-checked)')"+
			".click() ?? true")
		p.until(fmt.Sprintf("document.querySelectorAll('.checklist .ant-checkbox-wrapper-checked').length === %d", i+1))
	}
	p.until("document.querySelector('.landings li input')?.disabled === false")
	eval[bool](p, "document.querySelector('[aria-label=\"Wire 1 landed\"]').click() ?? true")
	p.until("document.querySelector('[aria-label=\"Wire 1 pulled at\"]')?.disabled === false")
	eval[bool](p, "document.querySelector('[aria-label=\"Wire 1 pulled at\"]').click() ?? true")
	p.saved()
	p.visit("/machines/ferry-fan/wire")
	p.opens("Wires 1/")
	p.until("document.querySelector('[aria-label=\"Wire 1 pulled at\"]')?.checked")
	assert.LessOrEqual(
		t,
		eval[float64](p, "document.documentElement.scrollWidth"),
		390.0,
		"nothing is wider than a phone",
	)
	all := eval[int](p, "document.querySelectorAll('.landings li').length")
	eval[bool](p, "document.querySelector('[aria-label=\"Wires of a part\"]').focus() ?? true")
	p.keys("K1")
	p.until(fmt.Sprintf("document.querySelectorAll('.landings li').length < %d", all))
	assert.True(
		t,
		eval[bool](p, "[...document.querySelectorAll('.landings li')].every(l => l.innerText.includes('K1'))"),
	)
}

// What is needed to build it stands in tabs, and its files are files.
func TestWhatItTakesToBuildIt(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-borer/wire")
	p.opens("Before power")
	p.shows(".checks", "the drive’s leads off")
	p.opens("Parts")
	p.shows(".parts-list", "ferrule")
	p.opens("Box")
	p.until("document.querySelector('.box-tab svg')")
	p.shows(".box-tab", "A hook-up for a test bench")
	p.opens("Labels")
	p.shows(".labels", "The bus stays charged")
	for path, kind := range map[string]string{
		"labels.pdf": "application/pdf", "circuit.pdf": "application/pdf",
		"wires.csv": "text/csv; charset=utf-8", "parts.csv": "text/csv; charset=utf-8", "cabinet.svg": "image/svg+xml",
		"circuit.svg?sheet=control": "image/svg+xml", "circuit.json": "application/json",
	} {
		assert.Equal(t, "200 "+kind, eval[string](p, "fetch('/api/motors/tarn-borer-m1/"+path+
			"').then(r => r.status + ' ' + r.headers.get('content-type'))"), path)
	}
}

// What a machine has of its own controls is written down at its cabinet; on a drive its drum becomes two inputs.
func TestOwnControlsBecomeInputs(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-borer/wire")
	p.opens("Machine’s own")
	p.press("Write down a terminal")
	p.until("document.querySelector('.own-controls li input')")
	eval[bool](p, "document.querySelector('.own-controls li input').focus() ?? true")
	p.keys("S7")
	p.until("document.querySelector('[aria-label=\"What terminal S7 is for\"]')")
	p.click("[aria-label='What terminal S7 is for']")
	p.until("document.querySelector('.ant-select-item-option[title=\"Forward-off-reverse switch\"]')")
	p.click(".ant-select-item-option[title='Forward-off-reverse switch']")
	p.shows(".becomes", "20: forward")
	p.shows(".own-controls", "0.5 hours")
	p.saved()
	p.visit("/machines/tarn-borer/wire?tab=own")
	p.shows(".becomes", "two inputs and the common")
	// Its cabinet is photographed, and a terminal says on which photo it is.
	file := filepath.Join(t.TempDir(), "cabinet.jpg")
	require.NoError(t, os.WriteFile(file, drawPlate(rand.New(rand.NewPCG(1, 1)), "enamel", "tilt").jpeg, 0o600))
	p.do(chromedp.SetUploadFiles(chromedp.CSS("#photo-file"), []string{file}))
	p.until("document.querySelector('.photo-view img')?.alt === 'The cabinet, cabinet.jpg'")
	choose(p, "Photo of terminal S7", "cabinet.jpg")
	p.saved()
	p.visit("/machines/tarn-borer/plate")
	p.shows(".photos", "Photo of the plate")
	assert.False(t, eval[bool](p, "!!document.querySelector('.photo-view')"), "it is none of the plate")
}

// What is on hand is put in with what it measures, banks are made up of it, and a machine's parts are reserved of it.
func TestStoresAreTakenFirst(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/stores")
	p.shows(".shelf", "it may hold PCB")
	p.shows(".shelf", "on ac it bursts")
	p.click("[aria-label='Put a part in']")
	p.until("document.querySelector('.ant-select-item-option[title=\"Contactor\"]')")
	p.click(".ant-select-item-option[title='Contactor']")
	p.until("document.querySelector('#part-name')")
	p.over("#part-name", "Spare for the mill\t")
	p.press("Put it in")
	p.shows(".shelf", "Spare for the mill")
	p.visit("/machines/tarn-shaper/wire?tab=parts")
	p.shows(".parts-list", "time-delay")
	price := "[aria-label='Price of isolator, 2 poles, lockable']"
	p.over(price, "a lot\t")
	p.shows(".parts-list", "A price is a number")
	p.over(price, "24,5\t")
	p.until("document.querySelector(`" + price + "`)?.closest('tr').innerText.includes('24.50')")
	p.press("Reserve what is on hand")
	p.until("[...document.querySelectorAll('.wire-tabs button')].some(b => b.innerText === 'Give it back')")
	p.visit("/stores")
	p.shows(".reserved", "for Metal shaper")
	p.visit("/machines/tarn-shaper/wire?tab=parts")
	p.press("Give it back")
	p.until("[...document.querySelectorAll('.wire-tabs button')].some(b => b.innerText === 'Reserve what is on hand')")
}
