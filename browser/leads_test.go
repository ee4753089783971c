package browser

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hiddenMotor is a nine-lead wye motor whose leads nobody has sorted: the mark of
// each lead, and the half windings between marks, by leg.
var hiddenMotor = struct {
	mark  map[string]string
	coils [][2]string
}{
	map[string]string{
		"A": "T4",
		"B": "T9",
		"C": "T2",
		"D": "T7",
		"E": "T1",
		"F": "T6",
		"G": "T8",
		"H": "T5",
		"I": "T3",
	},
	[][2]string{{"T1", "T4"}, {"T2", "T5"}, {"T3", "T6"}, {"T7", "star"}, {"T8", "star"}, {"T9", "star"}},
}

// axis is the ampere-turns by leg of a current from one mark to another; ok is false
// where nothing joins them.
func axis(from, to string) (a [3]float64, coils int, ok bool) {
	for i, c := range hiddenMotor.coils {
		if slices.Contains(c[:], from) && slices.Contains(c[:], to) {
			a[i%3] = map[bool]float64{true: 1, false: -1}[c[0] == from]
			return a, 1, true
		}
	}
	for i, c := range hiddenMotor.coils[3:] {
		for k, d := range hiddenMotor.coils[3:] {
			if c[0] == from && d[0] == to {
				a[i], a[k] = 1, -1
				return a, 2, true
			}
		}
	}
	return a, 0, false
}

// TestFromPasteToPrint takes a motor the whole way: its plate pasted, a photo
// attached, nine unmarked leads found with a meter and a battery, joined for low
// voltage, the circuit following, and the sheet.
func TestFromPasteToPrint(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/plate")
	p.press("Paste text")
	p.until("document.activeElement.id === 'plate-text'")
	p.keys("3 HP 230/460V 9.0/4.5A 60HZ 1745RPM SF1.15 CODE K DES B NEMA NOM EFF 87.5 9 LEADS CLASS F")
	p.press("Read it")
	p.press("Put it on the plate")
	p.until("document.querySelector('.plate input[name=output]').value === '3 HP'")
	p.saved()
	p.shows(".plate-step", "On this supply")

	photo := filepath.Join(t.TempDir(), "plate.png")
	require.NoError(t, os.WriteFile(photo, pngOf(t, 400, 300), 0o600))
	p.do(chromedp.SetUploadFiles(chromedp.CSS("#photo-file"), []string{photo}))
	p.until("document.querySelector('.photo-view img')?.naturalWidth === 400")

	p.visit("/machines/tarn-hobber/leads")
	p.press("9")
	for n := range 40 {
		p.until(
			"!document.querySelector('.next-reading button[disabled]') && (document.querySelector('.next-reading b') " +
				"|| document.querySelector('.settled'))",
		)
		ask := p.text(".next-reading b")
		if ask == "" {
			break
		}
		require.Less(t, n, 39, "it never ends asking")
		p.answer(t, ask)
		p.until(fmt.Sprintf("(document.querySelector('.next-reading b')?.innerText ?? '') !== %q", ask))
	}
	p.shows(".band", "nine-lead wye")
	p.shows(".band", "known")
	// The pairs of each leg belong together, whatever the legs are called.
	is := map[string]string{}
	for lead, mark := range hiddenMotor.mark {
		_, is[mark], _ = strings.Cut(
			eval[string](
				p,
				fmt.Sprintf("[...document.querySelectorAll('.lead-grid .is td')][%d].innerText", int(lead[0]-'A')),
			),
			"\n",
		)
	}
	for leg := range 3 {
		first := int(is[fmt.Sprintf("T%d", leg+1)][1] - '0')
		assert.Equal(
			t,
			[]string{fmt.Sprintf("T%d", first+3), fmt.Sprintf("T%d", first+6)},
			[]string{is[fmt.Sprintf("T%d", leg+4)], is[fmt.Sprintf("T%d", leg+7)]},
		)
	}

	p.press("series, 460 V\n52 % of rated flux here: does not suit")
	p.shows(".box-panel", "Joined series for 460 V")
	p.press("parallel, 230 V\n104 % of rated flux here")
	p.shows(".box-panel", "Joined parallel for 230 V")
	p.shows(".changes", "× 2 for the same output")
	p.shows(".changes", "The model’s stator resistance is the one measured")
	p.press("Yes") // the last item of the condition
	p.saved()
	p.visit("/machines/tarn-hobber/plate")
	p.until("document.querySelector('.plate-step')?.textContent.includes('stator resistance, measured')")

	p.press("Job sheet")
	p.shows(".sheet", "Job sheet")
	p.shows(".sheet", "nine-lead wye")
	p.shows(".sheet", "Joined parallel for 230 V")
	p.shows(".sheet", "The star point stays by itself")
	p.press("Back to the machine")
	p.visit("/machines/tarn-hobber/plate")
	p.until("document.querySelector('.photo-view img')?.naturalWidth === 400")
	p.press("Take away")
	p.until("!document.querySelector('.photo-view')")
	p.press("Undo")
	p.until("document.querySelector('.photo-view img')")
}

// The condition is saved once, in whatever order it is looked at.
func TestTheConditionComesToRest(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-hobber/leads")
	// Two that are not so are two stops.
	for _, item := range []string{"dry", "bond"} {
		p.click(fmt.Sprintf("[aria-labelledby=condition-%s] label:nth-of-type(3)", item))
	}
	p.saved()
	p.until("document.querySelectorAll('.leads-step .verdict.stop').length === 2")
	for _, item := range []string{"joints", "bond", "apart", "dry", "bearings"} {
		p.click(fmt.Sprintf("[aria-labelledby=condition-%s] label:nth-of-type(2)", item))
	}
	p.saved()
	p.shows(".band", "all looked at")
	time.Sleep(700 * time.Millisecond) // long enough for another save, were there one
	m, err := p.server.store.Machine(context.Background(), "tarn-hobber")
	require.NoError(t, err)
	assert.LessOrEqual(t, m.Machine.Motors[0].Version, 8, "seven changes are seven saves at most")
	assert.Len(t, m.Machine.Motors[0].Leads.Condition, 5)
}

// A wrong entry gets a sentence where it stands and stays typed, over a reload too.
func TestWrongLeadEntriesStayAndSaySo(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/leads")
	for _, wrong := range []struct{ field, typed, says string }{
		{"Lead A to lead B", "loose", "Expected a number, found " +
			"“loose”"}, {"Mark on lead C", "Q9", "“Q9” is no mark"}, {"Lead A to frame, megohms", "good",
			"Expected a number"},
	} {
		field := fmt.Sprintf("document.querySelector('[aria-label=\"%s\"]')", wrong.field)
		p.until(field)
		eval[bool](p, "("+field+".focus(), document.activeElement.select(), true)")
		p.keys(wrong.typed)
		p.shows(".lead-grid .problem", wrong.says)
		p.saved()
	}
	p.visit("/machines/tarn-shaper/leads")
	p.shows(".lead-grid .problem", "“Q9” is no mark")
	assert.Equal(t, "loose", eval[string](p, "document.querySelector('[aria-label=\"Lead A to lead B\"]').value"))
	assert.Equal(
		t,
		"true",
		eval[string](p, "document.querySelector('[aria-label=\"Lead A to lead B\"]').getAttribute('aria-invalid')"),
	)
}

// answer gives what the meter or the battery says to what is asked for.
func (p *page) answer(t *testing.T, ask string) {
	t.Helper()
	mark := hiddenMotor.mark
	if rest, ok := strings.CutPrefix(ask, "Measure "); ok {
		a, b, _ := strings.Cut(rest, " – ")
		if _, coils, joined := axis(mark[a], mark[b]); joined {
			p.until("document.querySelector('.next-reading input')")
			eval[bool](p, "document.querySelector('.next-reading input').focus() ?? true")
			p.keys(fmt.Sprintf("%.2f\r", 1.3*float64(coils)))
		} else {
			p.press("Open")
		}
		return
	}
	var plus, minus, first, second string
	_, err := fmt.Sscanf(
		strings.NewReplacer(",", "", ".", "").Replace(ask),
		"Battery + to %s − to %s Meter + to %s − to %s",
		&plus,
		&minus,
		&first,
		&second,
	)
	require.NoError(t, err, ask)
	d, _, _ := axis(mark[plus], mark[minus])
	s, _, _ := axis(mark[first], mark[second])
	volts := 0.0
	for i := range 3 {
		for k := range 3 {
			volts += d[i] * s[k] * map[bool]float64{true: 1, false: -0.5}[i == k]
		}
	}
	switch {
	case volts > 0.25:
		p.press("+ up")
	case volts < -0.25:
		p.press("− down")
	default:
		p.press("hardly moves")
	}
}
