package sheet_test

import (
	"bytes"
	"encoding/xml"
	"io"
	"os/exec"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	"brackmoor/core/motor"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/demo"
	"brackmoor/sheet"
)

var noon = time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)

// made makes the sheet of a demo machine's first motor, on its own way or another.
func made(t *testing.T, file, machine string, way ...feed.Choice) (sheet.Sheet, *feed.Question) {
	t.Helper()
	text, err := demo.Files.ReadFile(file)
	require.NoError(t, err)
	f, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	for _, m := range f.Shops[0].Machines {
		if m.ID == machine {
			if way != nil {
				m.Motors[0].Way = way[0]
				f.Shops[0].Site.Hung = nil // it is wired by its own way
			}
			st := study.Of(f.Shops[0].Supply, m.Motors[0], motor.FitCircuit)
			require.True(t, st.Reading.Sound)
			made, err := sheet.Of(
				f.Shops[0],
				m,
				m.Motors[0],
				st,
				sheet.WiredAs(st.Ask(f.Shops[0], m), &f.Shops[0], m, m.Motors[0].ID),
			)
			require.NoError(t, err)
			return made, st.Ask(f.Shops[0], m)
		}
	}
	t.Fatal("no machine " + machine)
	return sheet.Sheet{}, nil
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
	s, q := made(t, "tarn-hollow.json", "tarn-shaper")
	way := q.Choice.Taken()
	_, said, err := way.Brief(q)
	require.NoError(t, err)
	text := words(s)
	for _, part := range []string{"Run capacitor: 55 µF motor-run, 370 V ac, " +
		"continuous", "145–174 + 145–174 µF", "Bleed on 55 µF run", "Overload set to: 9 A", "Code ceiling: 11.2 A " +
		"125 % of plate amps",
		"L1 and the made leg", "Breaker: 20 A", "Conductors: 12 AWG copper for 17.2 A", "3 hp", "230 V parallel"} {
		assert.Contains(t, text, part)
	}
	assert.Equal(t, "55 µF", s.Headline[0].Value)
	assert.Len(t, s.Cautions, len(feed.CautionsOf(way, q))+1)
	assert.Equal(t, "leads.star-point", s.Cautions[len(s.Cautions)-1].Rule)
	assert.Len(t, s.Mine, len(shop.Checklist))
	assert.True(t, s.Mine[0].Ticked)
	for _, v := range said {
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
	made, err := sheet.Of(
		f.Shops[0],
		m,
		m.Motors[0],
		st,
		sheet.WiredAs(st.Ask(f.Shops[0], m), &f.Shops[0], m, m.Motors[0].ID),
	)
	require.NoError(t, err)
	assert.Contains(
		t,
		words(made),
		"Also on the plate:  Insulation class: F; Ambient: 40 °C; Duty: continuous; Enclosure: TEFC; Frame: 182T",
	)
}

// The leads bring their box, marks, readings and condition; a machine whose leads
// nobody looked at has none of it.
func TestTheLeadsAreOnTheSheet(t *testing.T) {
	s, _ := made(t, "tarn-hollow.json", "tarn-shaper")
	require.NotNil(t, s.Box)
	assert.Contains(t, string(sheet.SVG(*s.Box)), "Joined parallel for 230 V")
	text := words(s)
	for _, part := range []string{"Windings: nine-lead wye", "D is U1 · T1", "Resistance: 1.31 Ω a winding at " +
		"20 °C", "Line amps: 4.5 A → 9 A × 2", "Condition: bond: good", "A–frame 380"} {
		assert.Contains(t, text, part)
	}
	bare, _ := made(t, "tarn-hollow.json", "tarn-hobber")
	assert.Nil(t, bare.Box)
	assert.NotContains(t, words(bare), "Windings:")
}

func TestStopsAreOnTheSheetFirst(t *testing.T) {
	s, _ := made(t, "ferry-stairs.json", "ferry-winch", feed.Choice{})
	assert.Equal(t, rule.Stop, s.Verdicts[0].Severity)
	planer, _ := made(t, "ferry-stairs.json", "ferry-planer")
	assert.Equal(t, rule.Stop, planer.Verdicts[0].Severity)
	assert.Contains(t, string(sheet.SVG(s.Drawings[0])), "STOP: Will not break the load away.")
}

// Assumed figures are marked wherever they stand.
func TestAssumedIsMarked(t *testing.T) {
	s, _ := made(t, "tarn-hollow.json", "tarn-hacksaw", feed.Choice{})
	marked := map[string]bool{}
	for _, r := range s.Sections[1].Rows {
		marked[r.Label] = r.Assumed
	}
	assert.Equal(
		t,
		map[string]bool{
			"Output":         false,
			"Volts":          true,
			"Amps":           true,
			"Speed":          false,
			"Power factor":   true,
			"Efficiency":     true,
			"Service factor": true,
		},
		marked,
	)
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

// On paper no heading stands apart from what it heads, a checklist stands whole on one page, and
// every page ends above its footer: as another program sees where the words are.
func TestPDFKeepsTogether(t *testing.T) {
	reader, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("no pdftotext on this machine")
	}
	for _, c := range [][2]string{{"tarn-hollow.json", "tarn-shaper"}, {"tarn-hollow.json", "tarn-hobber"},
		{"ferry-stairs.json", "ferry-fan"}} {
		s, _ := made(t, c[0], c[1])
		for _, paper := range []string{"A4", "Letter"} {
			pdf, err := sheet.PDF(s, paper, noon)
			require.NoError(t, err)
			cmd := exec.Command(reader, "-layout", "-", "-")
			cmd.Stdin = bytes.NewReader(pdf)
			text, err := cmd.Output()
			require.NoError(t, err)
			heads := map[string]bool{"Is this mine to do?": true, "Verdicts": true, "Cautions": true}
			for _, section := range s.Sections {
				heads[section.Title] = true
			}
			for n, page := range strings.Split(strings.TrimSuffix(string(text), "\f"), "\f") {
				var lines []string
				for _, line := range strings.Split(page, "\n") {
					if line = strings.TrimSpace(line); line != "" {
						lines = append(lines, line)
					}
				}
				end := slices.IndexFunc(
					lines,
					func(l string) bool { return strings.HasPrefix(l, "This is mains voltage. Local") },
				)
				require.Positive(t, end, "%s page %d has its footer", c[1], n+1)
				assert.False(
					t,
					heads[lines[end-1]],
					"%s, %s, page %d ends with a heading: %s",
					c[1],
					paper,
					n+1,
					lines[end-1],
				)
				assert.LessOrEqual(t, len(lines)-end, 2, "nothing under the footer")
				mine := strings.Count(page, s.Mine[0].Says[:30]) + strings.Count(page, s.Mine[len(s.Mine)-1].Says[:30])
				assert.NotEqual(t, 1, mine, "the checklist is parted")
			}
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
	for _, part := range []string{"Metal shaper", "55 µF", "Isolate, lock, prove " +
		"dead", "licensed electrician", "made leg", "2026-03-01 12:00"} {
		assert.Contains(t, string(text), part)
	}
}

func TestSVGIsWellFormedAndEscaped(t *testing.T) {
	s, _ := made(t, "tarn-hollow.json", "tarn-shaper")
	s.Drawings[0].Title = `<script>"&`
	text := sheet.SVG(s.Drawings[0])
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

// The sheet carries the ways of feeding it, and says when it is not for the best of them.
func TestTheSheetSaysWhatItIsFor(t *testing.T) {
	for name, c := range map[string]struct {
		machine string
		way     feed.Choice
		mind    string
	}{
		"capacitors stand first": {"tarn-shaper", feed.Choice{}, ""},
		"a drive stands first": {"tarn-extractor", feed.Choice{}, "Mind: not the best This sheet is for another way " +
			"than the one that stands first by what matters here: drive built for one phase."},
		"and it is taken": {"tarn-extractor", feed.Choice{Route: "drive-single-phase"}, ""},
	} {
		t.Run(name, func(t *testing.T) {
			s, _ := made(t, "tarn-hollow.json", c.machine, c.way)
			text := words(s)
			assert.Contains(t, text, "Rotary converter: ")
			assert.Contains(t, text, ", this sheet: ")
			if c.mind == "" {
				assert.NotContains(t, text, "Mind: ")
			} else {
				assert.Contains(t, text, c.mind)
			}
		})
	}
}

// Every route has a sheet of its own: its sizes, its circuit, its cautions, nothing of
// another's; and a PDF.
func TestEveryRouteHasItsSheet(t *testing.T) {
	stops := map[string]string{"static": "capacitor.winding-at-load"}
	for name, want := range map[string]struct {
		headline, section, table string
		not                      string
		rule                     string
	}{
		"run-capacitor":       {"Run", "Parts", "", "Drive settings", "capacitor.no-start"},
		"start-run-capacitor": {"Start", "Starting and heat", "", "The box", ""},
		"static":              {"Run", "The box", "Accepted by state", "Drive settings", "capacitor.winding-at-load"},
		"phase-box":           {"Run", "The box", "Accepted by state", "Drive settings", ""},
		"rotary":              {"Idler", "Parts of the idler", "Accepted by state", "Parts", "rotary.made-leg"},
		"drive-single-phase":  {"Drive", "Controls on the drive", "Drive settings", "Parts", "drive.bus-charged"},
		"drive-derated": {"One phase leaves", "Controls on the drive", "Drive settings", "Parts",
			"drive.one-phase-unknown"},
		"dc-bus":             {"Choke", "Controls on the drive", "Drive settings", "Parts", "drive.no-contactor"},
		"single-phase-motor": {"Motor", "Single-phase motor", "", "Parts", ""},
	} {
		t.Run(name, func(t *testing.T) {
			s, q := made(t, "tarn-hollow.json", "tarn-shaper", feed.Choice{Route: name})
			way := q.Choice.Taken()
			assert.Equal(t, name, way.Info().Name)
			assert.Equal(t, way.Info().Title, s.Route)
			assert.Equal(t, "Power: "+way.Info().Title+", 3 hp", s.Drawings[0].Title)
			assert.Equal(t, "Control: "+way.Info().Title+", 3 hp", s.Drawings[1].Title)
			require.Len(t, s.Headline, 5)
			labels, titles := []string{}, []string{}
			for _, r := range s.Headline {
				labels = append(labels, r.Label)
			}
			for _, section := range s.Sections {
				titles = append(titles, section.Title)
			}
			for _, table := range s.Tables {
				titles = append(titles, table.Title)
				for _, row := range table.Rows {
					assert.Len(t, row, len(table.Head))
				}
			}
			assert.Contains(t, labels, want.headline)
			assert.Contains(t, titles, want.section)
			assert.NotContains(t, titles, want.not)
			if want.table != "" {
				assert.Contains(t, titles, want.table)
			}
			ids, said := []string{}, words(s)
			for _, v := range slices.Concat(s.Verdicts, s.Cautions) {
				assert.NotContains(t, ids, v.Rule, "said once")
				ids = append(ids, v.Rule)
				said += v.Says + v.Do
			}
			for _, other := range feed.All() {
				assert.Equal(
					t,
					other.Reversal() == way.Reversal(),
					strings.Contains(said, other.Reversal()),
					"turned round as on %s",
					other.Info().Name,
				)
			}
			if want.rule != "" {
				assert.Contains(t, ids, want.rule)
			}
			if stop := stops[name]; stop != "" {
				assert.Contains(t, string(sheet.SVG(s.Drawings[0])), "STOP: ")
			}
			_, err := sheet.PDF(s, "A4", noon)
			require.NoError(t, err)
		})
	}
}

// What is kept stands beside what is taken, figure by figure; boxes are left to write in.
func TestKeptRoutesAreSetSideBySide(t *testing.T) {
	s, _ := made(
		t,
		"tarn-hollow.json",
		"tarn-shaper",
		feed.Choice{Route: "rotary", Kept: []string{"drive-single-phase", "static"}},
	)
	last := s.Tables[len(s.Tables)-1]
	assert.Equal(t, []string{"Figure", "Rotary converter", "Drive built for one phase", "Static converter"}, last.Head)
	assert.Equal(t, []string{"Fits", "yes", "yes", "no"}, last.Rows[0])
	driven, _ := made(t, "tarn-hollow.json", "tarn-borer")
	for _, table := range driven.Tables {
		if table.Title == "Drive settings" {
			assert.Equal(
				t,
				[]string{
					"Setting",
					"Set to",
					"Parameter",
					"Write",
					"Why; how it often comes",
					"Was",
					"Is now",
					"Date",
					"Hand",
				},
				table.Head,
			)
			assert.Equal(
				t,
				[]string{
					"Run command from",
					"terminals; keypad for the first turn",
					"102",
					"EXT",
					"the machine's own switch starts it, by a low-voltage input; often: keypad",
					"",
					"",
					"",
					"",
				},
				table.Rows[0],
			)
			return
		}
	}
	t.Fatal("no settings on a drive's sheet")
}

// Breaker, conductors and plug of where a motor hangs stand on its sheet.
func TestWhereItHangs(t *testing.T) {
	text, err := demo.Files.ReadFile("tarn-hollow.json")
	require.NoError(t, err)
	f, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	sh := f.Shops[0]
	sh.Site.Circuits[2].Outlet = "L6-30R"
	for _, c := range []struct {
		machine int
		want    []string
	}{
		{0, []string{"Rotary converter", "Converter circuit", "50 A", "4 AWG", "fixed"}},
		{2, []string{"Bench circuit", "30 A", "10 AWG", "NEMA L6-30R"}},
	} {
		m := sh.Machines[c.machine]
		st := study.Of(sh.Supply, m.Motors[0], motor.FitCircuit)
		s, err := sheet.Of(sh, m, m.Motors[0], st, sheet.WiredAs(st.Ask(sh, m), &sh, m, m.Motors[0].ID))
		require.NoError(t, err)
		for _, want := range c.want {
			assert.Contains(t, words(s), want, "%s", m.Name)
		}
	}
}
