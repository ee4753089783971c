package browser

import (
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fact is a figure of the Starting or Heat view by its label.
func (p *page) fact(label string) string {
	return eval[string](
		p,
		"[...document.querySelectorAll('.short-facts > div')].find((d) => "+
			"d.querySelector('dt').firstChild.textContent === "+quoted(
			label,
		)+")?.querySelector('dd').innerText ?? ''",
	)
}

// note types into a field of the shaft.
func (p *page) note(name, text string) {
	eval[bool](
		p,
		"(() => { const i = document.querySelector('.shaft-form input[name="+name+"]'); i.focus(); i.select(); "+
			"return true; })()",
	)
	p.keys(text)
	p.saved()
}

func TestAStartIsTimedByWhatIsKnownOfItsShaft(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-extractor/size?route=start-run-capacitor")
	p.until("document.querySelector('.band')")
	p.press("Starting")
	p.until("document.querySelector('[data-picture=run-up]')")
	first := p.fact("To speed")
	require.True(t, strings.HasSuffix(first, " s"), first)
	// Nothing typed is lost, and a mistake is said under its field.
	p.note("coast_seconds", "0")
	p.shows(".shaft-form .problem", "above zero")
	assert.Equal(t, first, p.fact("To speed"), "what is not understood counts as empty")
	p.note("coast_seconds", "60")
	p.until("!document.querySelector('.shaft-form .problem')")
	p.until(
		"!!document.querySelector('[data-picture=run-up]').ariaLabel && " + quoted(
			first,
		) + " !== [...document.querySelectorAll('.short-facts > div')][0].querySelector('dd').innerText",
	)
	assert.Contains(t, p.text(".short-facts"), "coast-down from 3480 rpm in 60 s")
	p.visit("/machines/tarn-extractor/size?route=start-run-capacitor")
	p.until("document.querySelector('.band')")
	p.press("Starting")
	p.until("document.querySelector('.shaft-form input[name=coast_seconds]').value === '60'")
	// Its working opens.
	eval[bool](p, "[...document.querySelectorAll('.short-facts .figure-button')][0].click() ?? true")
	p.shows(".ant-drawer-open", "∫ J dω")
}

func TestADutyCoolsTheHottestWinding(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.press("Heat")
	p.until("document.querySelector('[data-picture=session]')")
	degrees := func() int {
		n, err := strconv.Atoi(strings.TrimSuffix(p.fact("Hottest winding"), " °C"))
		require.NoError(t, err)
		return n
	}
	all := degrees()
	p.note("off_minutes", "20")
	p.shows(".shaft-form .problem", "A pause alone is no duty")
	p.note("on_minutes", "10 min")
	p.shows(".short-facts", "10 min on, 20 off")
	assert.Less(t, degrees(), all-5)
	p.note("air", "10")
	p.shows(".short-facts", "in air of 10 °C")
}

// The scope shows what is seen of a hundred thousand samples, by keyboard too.
func TestTheScopeIsLookedIntoAndMoved(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.press("Scope")
	place := "document.querySelector('.scope-place')"
	p.until(place + "?.dataset.seen")
	assert.InDelta(t, 100_000, eval[float64](p, "Number("+place+".dataset.samples)"), 20)
	seen := func() (from, to float64) {
		parts := strings.Fields(eval[string](p, place+".dataset.seen"))
		from, _ = strconv.ParseFloat(parts[0], 64)
		to, _ = strconv.ParseFloat(parts[1], 64)
		return from, to
	}
	_, end := seen()
	eval[bool](p, place+".focus() ?? true")
	p.keys("+++")
	p.until("Number(" + place + ".dataset.seen.split(' ')[1]) < " + strconv.FormatFloat(end, 'g', 6, 64) + " * 0.8")
	from, to := seen()
	assert.InEpsilon(t, end/8, to-from, 0.01)
	p.keys("\u0303") // arrow right
	p.until("Number(" + place + ".dataset.seen.split(' ')[0]) > " + strconv.FormatFloat(from+0.1*(to-from), 'g', 6, 64))
	// Two cursors: from here, and there.
	p.keys(".")
	p.shows(".scope-reading", "ms")
	p.keys(" .....")
	p.shows(".scope-reading", "Δ")
	p.press("Amps")
	p.shows(".scope-reading", "A")
	assert.Contains(t, p.text(".scope-peaks"), "start capacitor keeps")
}
