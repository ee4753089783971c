package sheet_test

import (
	"bytes"
	"encoding/xml"
	"io"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/motor"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/demo"
	"brackmoor/sheet"
)

var noon = time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)

// made makes the sheet of a demo machine's first motor.
func made(t *testing.T, file, machine string) (sheet.Sheet, study.Study) {
	t.Helper()
	text, err := demo.Files.ReadFile(file)
	require.NoError(t, err)
	f, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	for _, m := range f.Shops[0].Machines {
		if m.ID == machine {
			st := study.Of(f.Shops[0].Supply, m.Motors[0], motor.FitCircuit)
			require.True(t, st.Reading.Sound)
			return sheet.Of(f.Shops[0], m, m.Motors[0], st), st
		}
	}
	t.Fatal("no machine " + machine)
	return sheet.Sheet{}, study.Study{}
}

func words(s sheet.Sheet) string {
	var b strings.Builder
	for _, section := range s.Sections {
		for _, r := range section.Rows {
			b.WriteString(r.Label + ": " + r.Value + " " + r.Remark + "\n")
		}
	}
	return b.String()
}

func TestTheSheetHoldsWhatIsTakenToTheMachine(t *testing.T) {
	s, st := made(t, "tarn-hollow.json", "tarn-shaper")
	a := st.Size()
	text := words(s)
	for _, part := range []string{"Run capacitor: 55 µF motor-run, 370 V ac, continuous", "145–174 + 145–174 µF", "Bleed on 55 µF run", "Overload set to: 9 A", "Code ceiling: 11.2 A 125 % of plate amps",
		"line a and made leg c", "breaker and conductor by the local code", "3 hp", "230 V parallel"} {
		assert.Contains(t, text, part)
	}
	assert.Equal(t, "55 µF", s.Headline[0].Value)
	assert.Len(t, s.Cautions, len(rule.AlwaysCautions)+1)
	assert.Equal(t, "leads.star-point", s.Cautions[len(s.Cautions)-1].Rule)
	assert.Len(t, s.Mine, len(shop.Checklist))
	assert.True(t, s.Mine[0].Ticked)
	for _, v := range a.Live.Verdicts {
		assert.Contains(t, s.Verdicts, v)
	}
	assert.Contains(t, s.Footer, "licensed electrician")
}

func TestTheRestOfThePlateIsPrinted(t *testing.T) {
	text, err := demo.Files.ReadFile("tarn-hollow.json")
	require.NoError(t, err)
	f, _ := shop.ReadFile(text)
	m := f.Shops[0].Machines[1]
	st := study.Of(f.Shops[0].Supply, m.Motors[0], motor.FitCircuit)
	assert.Contains(t, words(sheet.Of(f.Shops[0], m, m.Motors[0], st)), "Also on the plate:  Insulation class: F; Ambient: 40 °C; Duty: continuous; Enclosure: TEFC; Frame: 182T")
}

// The leads bring their box, marks, readings and condition; a machine whose leads
// nobody looked at has none of it.
func TestTheLeadsAreOnTheSheet(t *testing.T) {
	s, _ := made(t, "tarn-hollow.json", "tarn-shaper")
	require.NotNil(t, s.Box)
	assert.Contains(t, string(sheet.SVG(*s.Box)), "Joined parallel for 230 V")
	text := words(s)
	for _, part := range []string{"Windings: nine-lead wye", "D is U1 · T1", "Resistance: 1.31 Ω a winding at 20 °C", "Line amps: 4.5 A → 9 A × 2", "Condition: bond: good", "A–frame 380"} {
		assert.Contains(t, text, part)
	}
	bare, _ := made(t, "tarn-hollow.json", "tarn-hobber")
	assert.Nil(t, bare.Box)
	assert.NotContains(t, words(bare), "Windings:")
}

func TestStopsAreOnTheSheetFirst(t *testing.T) {
	s, _ := made(t, "ferry-stairs.json", "ferry-winch")
	assert.Equal(t, rule.Stop, s.Verdicts[0].Severity)
	planer, _ := made(t, "ferry-stairs.json", "ferry-planer")
	assert.Equal(t, rule.Stop, planer.Verdicts[0].Severity)
	assert.Contains(t, string(sheet.SVG(s.Drawing)), "STOP: Will not break the load away.")
}

// Assumed figures are marked wherever they stand.
func TestAssumedIsMarked(t *testing.T) {
	s, _ := made(t, "tarn-hollow.json", "tarn-hacksaw")
	marked := map[string]bool{}
	for _, r := range s.Sections[0].Rows {
		marked[r.Label] = r.Assumed
	}
	assert.Equal(t, map[string]bool{"Output": false, "Volts": true, "Amps": true, "Speed": false, "Power factor": true, "Efficiency": true, "Service factor": true}, marked)
	assert.True(t, s.Headline[0].Assumed)
}

func TestPDF(t *testing.T) {
	for _, machine := range []string{"tarn-shaper", "tarn-hacksaw"} {
		s, _ := made(t, "tarn-hollow.json", machine)
		for _, paper := range []string{"A4", "Letter", "nonsense"} {
			pdf, err := sheet.PDF(s, paper, noon)
			require.NoError(t, err)
			assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF-")))
			again, err := sheet.PDF(s, paper, noon)
			require.NoError(t, err)
			assert.Equal(t, len(pdf), len(again), "the same sheet at the same time is the same file")
		}
	}
}

// The PDF read back by another program holds the figures and the cautions.
func TestPDFIsReadBack(t *testing.T) {
	reader, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("no pdftotext on this machine")
	}
	s, _ := made(t, "tarn-hollow.json", "tarn-shaper")
	pdf, err := sheet.PDF(s, "A4", noon)
	require.NoError(t, err)
	cmd := exec.Command(reader, "-layout", "-", "-")
	cmd.Stdin = bytes.NewReader(pdf)
	text, err := cmd.Output()
	require.NoError(t, err)
	for _, part := range []string{"Metal shaper", "55 µF", "Isolate, lock, prove dead", "licensed electrician", "made leg", "2026-03-01 12:00"} {
		assert.Contains(t, string(text), part)
	}
}

func TestSVGIsWellFormedAndEscaped(t *testing.T) {
	s, _ := made(t, "tarn-hollow.json", "tarn-shaper")
	s.Drawing.Title = `<script>"&`
	text := sheet.SVG(s.Drawing)
	assert.NotContains(t, string(text), "<script>")
	d := xml.NewDecoder(bytes.NewReader(text))
	for {
		_, err := d.Token()
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
	}
	assert.Contains(t, string(text), "stroke-dasharray")
}

// The sheet carries the start, the heat and the ways of feeding it, and says when it is
// not for the best of them.
func TestTheSheetSaysWhatItIsFor(t *testing.T) {
	for name, c := range map[string]struct {
		machine string
		best    bool
	}{"capacitors stand first": {"tarn-shaper", true}, "a drive stands first": {"tarn-extractor", false}} {
		t.Run(name, func(t *testing.T) {
			s, _ := made(t, "tarn-hollow.json", c.machine)
			text := words(s)
			for _, part := range []string{"To speed: ", "Hottest winding: ", "Starts an hour: ", "Rotary converter: ", "Drive built for one phase: "} {
				assert.Contains(t, text, part)
			}
			if c.best {
				assert.NotContains(t, text, "another way stands first")
			} else {
				assert.Contains(t, text, "another way stands first: drive built for one phase")
			}
		})
	}
}
