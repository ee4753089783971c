package browser

import (
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
)

// flip throws a switch of the floor by its name.
func (p *page) flip(name string) {
	p.Helper()
	at := fmt.Sprintf("document.querySelector('[role=switch][aria-label=%q]')", name+", on")
	p.until(at)
	eval[bool](p, at+".click() ?? true")
}

// box is a box's text on the drawing.
func (p *page) box(id string) string {
	p.Helper()
	return eval[string](p, fmt.Sprintf(
		"document.querySelector('.floor-drawing [data-box=%q]')?.closest('.box').innerText ?? ''", id))
}

// broken waits until a rule speaks at the side, or does no more.
func (p *page) broken(rule string, speaks bool) {
	p.Helper()
	at := fmt.Sprintf("document.querySelector('.broken [data-rule=%q]')", rule)
	if !speaks {
		at = "!" + at
	}
	p.until(at)
}

// fetched is what the server gives a window for a path.
func (p *page) fetched(path string) string {
	p.Helper()
	answer, err := http.Get("http://" + p.server.address + path) //nolint:noctx // a test's own server
	require.NoError(p, err)
	defer func() { _ = answer.Body.Close() }()
	text, err := io.ReadAll(answer.Body)
	require.NoError(p, err)
	require.Equal(p, http.StatusOK, answer.StatusCode)
	return string(text)
}

// Machines are flipped where they stand: what follows is shown with its sentence, a start plays its
// dip, a change-over is thrown, and all of it is there again after a reload.
func TestMachinesAreFlippedOnTheFloor(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/")
	p.until("document.querySelector('.floor-drawing .box')")
	assert.Contains(t, p.box("service"), "13.8 A")
	assert.LessOrEqual(
		t,
		eval[float64](p, "document.querySelector('.floor-drawing').getBoundingClientRect().bottom"),
		800.0,
	)
	assert.LessOrEqual(t, eval[float64](p, "document.querySelector('.floor-drawing').getBoundingClientRect().right"),
		eval[float64](p, "document.querySelector('.floor-side').getBoundingClientRect().left"))
	p.flip("Metal shaper")
	p.shows(".start-panel", "up in")
	p.until("document.querySelector('[data-picture=start]')")
	p.broken("floor.winding", false)
	p.flip("Dust extractor")
	p.broken("floor.winding", true)
	p.shows(".broken", "Dust extractor carries")
	// Turned down, it is within its limits again.
	load := "document.querySelector('.floor-drawing [aria-label=\"Load of Dust extractor\"][role=slider]')"
	p.until(load)
	eval[bool](p, load+".focus() ?? true")
	for range 6 {
		p.keys("\u0302") // arrow left
	}
	p.broken("floor.winding", false)
	// Its own sentence leads to it.
	p.flip("Power hacksaw")
	p.broken("floor.change-over", true)
	p.click(".broken [data-rule='floor.change-over'] .to-place")
	p.shows(".thing h2", "Power hacksaw")
	p.click("[aria-label^='A B: change-over of Kiln or saw']")
	p.broken("floor.change-over", false)
	p.shows(".saved", "Left so")
	before := p.box("service")
	p.visit("/")
	p.until("document.querySelector('.floor-drawing .box')")
	assert.Equal(t, before, p.box("service"))
	// Nor is it lost where the place is left at once.
	p.flip("Gear hobber")
	p.until("document.querySelector('.floor-drawing .box.service').innerText !== " + quoted(before))
	after := p.box("service")
	eval[bool](p, "document.querySelector('.spine a[href=\"/rulebook\"]').click() ?? true")
	p.until("document.querySelector('.rules li')")
	eval[bool](p, "document.querySelector('.spine a[href=\"/\"]').click() ?? true")
	p.until("document.querySelector('.floor-drawing .box')")
	assert.Equal(t, after, p.box("service"))
	// A figure opens its working by the keyboard.
	eval[bool](p, "document.querySelector('.floor-drawing .box.converter .figure').focus() ?? true")
	p.shows(".ant-tooltip", "hottest winding")
	svg := p.fetched("/api/shops/tarn-hollow/floor.svg")
	assert.Contains(t, svg, "Dust extractor")
	assert.Contains(t, svg, "<svg")
}

// What was typed and is refused stays where it was typed, with its sentence; what is dragged hangs
// elsewhere.
func TestTheTreeIsChangedOnTheFloor(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.allow("status of 422")
	p.allow("status of 409")
	p.visit("/?at=tarn-kiln-feed")
	p.shows(".thing h2", "Kiln or saw")
	p.shows(".thing dl", "Conductors carry at least")
	p.over("[aria-label='Breaker or fuse']", "9000\t")
	p.shows(".thing .problem", "600")
	assert.Equal(t, "9000", eval[string](p, "document.querySelector('[aria-label=\"Breaker or fuse\"]').value"))
	p.over("[aria-label='Breaker or fuse']", "35\t")
	p.until("!document.querySelector('.thing .problem')")
	p.until("document.querySelector('.floor-drawing [data-box=\"tarn-kiln-feed\"]').closest('.box').innerText" +
		".includes('of 30 A')") // its conductors are good for less
	p.shows(".thing .verdict", "10 AWG")
	p.press("Undo")
	p.until("document.querySelector('[aria-label=\"Breaker or fuse\"]').value === '30'")
	// Dragged to the converter, the grinder is on it.
	eval[bool](p, `(() => {
		const at = id => document.querySelector('.floor-drawing [data-box="' + id + '"]').closest('.box');
		const data = new DataTransfer();
		const fire = (type, e) =>
			e.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data }));
		fire('dragstart', at('tarn-grinder'));
		fire('dragover', at('tarn-converter'));
		fire('drop', at('tarn-converter'));
		return true;
	})()`)
	p.shows(".thing h2", "Tool & cutter grinder")
	p.until("document.querySelector('.thing .ant-select-content, .thing .ant-select-selection-item')" +
		".closest('.ant-select').innerText.includes('Rotary converter')")
	p.until("document.querySelector('.floor-drawing [data-box=\"tarn-grinder\"]').getBoundingClientRect().top < " +
		"document.querySelector('.floor-drawing [data-box=\"tarn-lights\"]').getBoundingClientRect().top")
	p.saved()
	// What another window changes while something is typed here stands beside it.
	p.visit("/?at=tarn-borer-feed")
	p.shows(".thing h2", "Borer circuit")
	p.over("[aria-label='Breaker or fuse']", "25\t")
	eval[bool](p, `(async () => {
		const ask = async (way, body) => (await fetch('/api/shops/tarn-hollow/' + way, body && {
			method: 'PUT', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } })).json();
		for (let answer; !answer?.site; ) {
			const page = await ask('floor');
			for (const c of page.site.circuits) if (c.id === 'tarn-borer-feed') c.name = 'Jig borer circuit';
			answer = await ask('site', { version: page.shop.version, site: page.site });
		}
		return true;
	})()`)
	p.until("document.querySelector('.thing h2').innerText === 'Jig borer circuit'")
	p.until("document.querySelector('[aria-label=\"Breaker or fuse\"]').value === '25'")
	p.saved()
	for _, c := range eval[shop.Shop](p, "fetch('/api/shops/tarn-hollow/floor').then(r => r.json())").Site.Circuits {
		if c.ID == "tarn-borer-feed" {
			assert.Equal(t, "Jig borer circuit", c.Name)
			assert.InDelta(t, 25, c.BreakerAmps, 1e-9)
		}
	}
	// Taken away, it asks once more, and what hung on it hangs on the service.
	p.visit("/?at=tarn-borer-feed")
	p.press("Take it away")
	p.press("Yes, take Jig borer circuit away")
	p.until("!document.querySelector('[data-box=\"tarn-borer-feed\"]')")
	p.until("document.querySelector('[data-box=\"tarn-borer\"]')")
}

// choose takes an option of the list that has the keyboard, by its words.
func (p *page) choose(label, option string) {
	p.Helper()
	tabTo(p, fmt.Sprintf("document.activeElement.id && document.querySelector('label[for=\"' + "+
		"document.activeElement.id + '\"]')?.innerText === %q", label))
	p.keys("\r")
	found := "document.querySelector('.ant-select-item-option-active')?.innerText"
	for range 30 {
		p.until(found)
		if eval[string](p, found) == option {
			p.keys("\r")
			return
		}
		was := eval[string](p, found)
		p.keys("\u0301") // arrow down
		p.until(found + " !== " + quoted(was))
	}
	p.Fatalf("no option %q", option)
}

// A whole shop is built from nothing by the keyboard: a circuit, a converter on it, a machine by its
// pasted plate, hung on the converter and switched on. Its circuits are taken into a second shop.
func TestAShopIsBuiltOnTheFloorByKeyboard(t *testing.T) {
	p := open(t)
	p.visit("/")
	p.shows("h1", "Your shop first")
	p.firstShop("60", "Kiln Lane Workshop")
	tabTo(p, "document.activeElement.innerText === 'Make the shop alone'")
	p.keys("\r")
	p.shows("h1", "Floor")
	p.shows(".floor-main", "Nothing hangs on the service yet")
	add := func(item string) {
		tabTo(p, "document.activeElement.innerText === 'Add…'")
		p.keys("\r")
		p.until("document.activeElement.getAttribute('role') === 'menuitem'")
		const held = "document.activeElement.innerText"
		for was := eval[string](p, held); !strings.HasPrefix(was, item); was = eval[string](p, held) {
			p.keys("\u0301") // arrow down
			p.until(held + " !== " + quoted(was))
		}
		p.keys("\r")
	}
	add("Circuit")
	p.shows(".thing h2", "New circuit")
	p.until("document.activeElement.id === 'thing-title'")
	tabTo(p, "document.activeElement.id === 'thing-name'")
	p.keys("Back wall")
	eval[bool](p, "document.activeElement.select() ?? true")
	p.keys("Back wall")
	p.shows(".floor-drawing .box-name", "Back wall")
	p.choose("Conductors", "8 AWG")
	p.shows(".floor-drawing .box.circuit", "8 AWG")
	add("Rotary converter")
	p.shows(".thing h2", "New converter")
	p.shows(".thing dl", "By the model it takes")
	// A pasted plate is a machine.
	eval[bool](p, "document.activeElement.blur() ?? true")
	eval[bool](p, "window.dispatchEvent(new KeyboardEvent('keydown', { key: '/' })) ?? true")
	p.until("document.activeElement.closest('.find')")
	p.do(chromedp.KeyEvent("2 HP 230/460 V 6.0/3.0 A 1740 RPM 60 Hz 3 PH"))
	p.shows(".ant-select-item-option-active", "Take it as the plate of a new machine")
	p.keys("\r")
	p.until("document.querySelector('.plate input[name=output]')?.value === '2 HP'")
	p.visit("/")
	p.shows(".floor-drawing .box.machine", "New machine 2 HP")
	p.shows(".floor-drawing .box.circuit", "Back wall")
	tabTo(
		p,
		"document.activeElement.matches('.box-name') && document.activeElement.innerText.startsWith('New machine')",
	)
	p.keys("\r")
	p.shows(".thing h2", "New machine 2 HP")
	p.choose("Hangs on", "New converter")
	p.saved()
	p.until("[...document.querySelectorAll('.wires path')].length === 2 + 2 + 3")
	// Escape leaves the form; a machine that is on before its converter is said to be.
	p.keys("\u001b")
	p.until("!document.querySelector('.thing')")
	tabTo(p, "document.activeElement.ariaLabel === 'New machine 2 HP, on'")
	p.keys(" ")
	p.broken("floor.load-before-converter", true)
	tabTo(p, "document.activeElement.ariaLabel === 'New converter, on'")
	p.keys(" ")
	p.broken("floor.load-before-converter", false)
	p.shows(".floor-drawing .box.converter", "rpm")
	// The keys of this place are listed.
	eval[bool](p, "document.activeElement.blur() ?? true")
	p.keys("?")
	p.shows(".keys-list", "on a load: less or more")
	p.keys("\u001b")

	shops := p.fetched("/api/shops")
	id := shops[strings.Index(shops, `"id":"`)+6:]
	id = id[:strings.Index(id, `"`)]
	table := filepath.Join(t.TempDir(), "circuits.csv")
	require.NoError(t, os.WriteFile(table, []byte(p.fetched("/api/shops/"+id+"/tables/circuit")), 0o600))
	p.until("!document.querySelector('.ant-modal-wrap')?.offsetParent")
	p.click(".shopname")
	p.press("New shop…")
	p.until("document.activeElement.id === 'shop-name'")
	p.keys("Second\r")
	p.shows(".shopname", "Second")
	p.shows(".floor-main", "Nothing hangs on the service yet")
	// An id stands once in a file and once in a database's shop: the rows go in without theirs.
	text, err := os.ReadFile(table)
	require.NoError(t, err)
	lines := strings.Split(string(text), "\n")
	for i := 1; i < len(lines); i++ {
		if _, rest, ok := strings.Cut(lines[i], ","); ok {
			lines[i] = "," + rest
		}
	}
	require.NoError(t, os.WriteFile(table, []byte(strings.Join(lines, "\n")), 0o600))
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{table}))
	p.shows(".import-rows", "Back wall")
	p.press("Import all of it")
	p.shows(".ant-notification", "1 added")
	p.shows(".floor-drawing .box.circuit", "8 AWG")
}

// On a phone the same is a list, with the same switches and figures.
func TestTheFloorOnAPhone(t *testing.T) {
	p := open(t, "ferry-stairs.json")
	p.do(chromedp.EmulateViewport(390, 844))
	p.visit("/")
	p.until("document.querySelector('.floor-list .box')")
	assert.False(t, eval[bool](p, "!!document.querySelector('.floor-drawing')?.offsetParent"))
	eval[bool](p, "document.querySelector('.floor-list [aria-label=\"Slipway winch, on\"]').click() ?? true")
	p.shows(".floor-list .box.machine", "%")
	p.shows(".start-panel", "up in")
	small := eval[int](
		p,
		`[...document.querySelectorAll('.floor-list .box-head')].filter(e => e.offsetHeight < 44).length`,
	)
	assert.Zero(t, small, "a thumb finds everything")
}
