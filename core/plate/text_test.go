package plate_test

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

// want is what a text must give: ratings as "volts amps hertz rpm connection",
// other fields by name, "–" for nothing.
type want struct {
	Name, Text string
	Watts      float64
	Ratings    []string
	Fields     map[string]string
	Unread     []string
	Rules      []string
}

func show[T any](v *T) string {
	if v == nil {
		return "–"
	}
	return fmt.Sprint(*v)
}

func rating(r plate.SheetRating) string {
	return strings.Join(
		[]string{fmt.Sprint(r.Volts), show(r.Amps), show(r.Hertz), show(r.RPM), show(r.Connection)},
		" ",
	)
}

var texts = []want{
	{
		"one line, NEMA",
		"3 HP 230/460V 9.0/4.5A 60HZ 1745RPM SF1.15 CODE K DES B NEMA NOM EFF 87.5",
		2237.1,
		[]string{"230 9 60 1745 parallel", "460 4.5 60 1745 series"},
		map[string]string{
			"phases": "3",
			"poles":  "4",
			"eff":    "0.875",
			"sf":     "1.15",
			"code":   "K",
			"design": "B",
		},
		nil,
		nil,
	},
	{
		"a column",
		"HP 5\nVOLTS 208-230/460\nAMPS 13.9-13.2/6.6\nRPM 1750\nHZ 60\nPH 3\nFR 184T\nENCL TEFC\nINS CL F\nAMB " +
			"40C\nDUTY CONT\nS.F. 1.15\nNEMA NOM. EFF. 87.5",
		3728.5,
		[]string{"208 13.9 60 1750 parallel", "230 13.2 60 1750 parallel", "460 6.6 60 1750 series"},
		map[string]string{
			"phases":     "3",
			"frame":      "184T",
			"enclosure":  "TEFC",
			"insulation": "F",
			"ambient":    "40",
			"duty":       "continuous",
		},
		nil,
		nil,
	},
	{
		"IEC with decimal commas",
		"MOT. 3~ 2,2 kW 230/400 V Δ/Y 8,6/5,0 A 50 Hz 1430 min-1 cos φ 0,81 IP55 Th.Cl. F S1 IE2-84,3%",
		2200,
		[]string{"230 8.6 50 1430 delta", "400 5 50 1430 wye"},
		map[string]string{
			"phases":     "3",
			"pf":         "0.81",
			"eff":        "0.843",
			"ip":         "IP55",
			"insulation": "F",
			"duty":       "S1",
			"poles":      "4",
		},
		nil,
		[]string{"plate.service-factor"},
	},
	{
		"volts with their marks",
		"1,5 kW 230Δ/400Y V 6,0/3,45 A 50Hz 1420 1/min cosφ 0.79",
		1500,
		[]string{
			"230 6 50 1420 delta",
			"400 3.45 50 1420 wye",
		},
		map[string]string{"pf": "0.79", "phases": "3"},
		nil,
		[]string{"plate.service-factor"},
	},
	{"star first", "Y/Δ 400/230 V 4 kW 8.4/14.5 A 1440 rpm 50 Hz", 4000,
		[]string{"400 8.4 50 1440 wye", "230 14.5 50 1440 delta"}, nil, nil, []string{"plate.service-factor"}},
	{"fractions", "1 1/2 HP 230/460 V 4.6/2.3 A 1735 RPM 60 CYCLES", 1.5 * 745.7,
		[]string{"230 4.6 60 1735 parallel", "460 2.3 60 1735 series"}, nil, nil, []string{"plate.service-factor"}},
	{
		"three quarters",
		"¾HP 208-230/460V 2.6-2.4/1.2A 3450RPM 60Hz S.F. 1.25",
		0.75 * 745.7,
		[]string{
			"208 2.6 60 3450 parallel",
			"230 2.4 60 3450 parallel",
			"460 1.2 60 3450 series",
		},
		map[string]string{"sf": "1.25", "poles": "2"},
		nil,
		nil,
	},
	{"one current for a range of volts", "3HP 208-230/460V 9.0/4.5A 1745RPM 60HZ SF 1.15", 2237.1,
		[]string{"208 – 60 1745 parallel", "230 9 60 1745 parallel", "460 4.5 60 1745 series"}, nil, nil, nil},
	{"service-factor amps", "2 HP 230/460V 5.8/2.9A SFA 6.6/3.3 SF 1.15 1740 RPM 60 HZ", 1491.4,
		[]string{"230 5.8 60 1740 parallel", "460 2.9 60 1740 series"}, map[string]string{"sfa": "6.6"}, nil, nil},
	{"service-factor amps for one of two voltages", "2 HP 230/460V 5.8/2.9A SFA 6.6 SF 1.15 1740 RPM 60 HZ", 1491.4,
		[]string{"230 5.8 60 1740 parallel", "460 2.9 60 1740 series"}, map[string]string{"sfa": "6.6"}, nil, nil},
	{
		"thousands",
		"20 HP 460 V 25 A 1,765 R/MIN 60 HZ PF 0.85",
		14914,
		[]string{"460 25 60 1765 –"},
		map[string]string{"pf": "0.85"},
		nil,
		[]string{"plate.service-factor"},
	},
	{"almost nothing", "5 HP", 3728.5, nil, map[string]string{"phases": "–", "poles": "–"}, nil, nil},
	{
		"hp and kW of the same",
		"3 HP 2.2 KW 230 V 9 A 1745 RPM 60 HZ",
		2237.1,
		[]string{"230 9 60 1745 –"},
		nil,
		nil,
		[]string{"plate.service-factor"},
	},
	{
		"two outputs that differ",
		"3 HP 4 KW 230 V",
		2237.1,
		[]string{"230 – – – –"},
		nil,
		[]string{"4 KW"},
		[]string{"plate.service-factor"},
	},
	{"fifty and sixty", "2.2/2.6 kW 400/460 V 50/60 Hz 4.9/4.8 A 1430/1730 rpm", 2200,
		[]string{"400 4.9 50 1430 –", "460 4.8 60 1730 –"}, nil, nil, []string{"plate.service-factor"}},
	{
		"what is not known stays unread",
		"3 HP 230 V 9 A 60 HZ 1745 RPM SER NO X123 RATING PLATE 6206",
		2237.1,
		[]string{"230 9 60 1745 –"},
		nil,
		[]string{"SER", "NO", "X123", "PLATE", "6206"},
		[]string{"plate.service-factor"},
	},
	{
		"bare numbers are not guessed",
		"3 230 460 9.0 4.5 60 1745",
		0,
		nil,
		nil,
		[]string{"3", "230", "460", "9.0", "4.5", "60", "1745"},
		nil,
	},
	{
		"rest of an IEC plate",
		"IM B3 100L 3 kW 400 V Y 6.4 A 50 Hz 1435 U/min IP 44 Isol.Kl. B S3 40% 23 kg 1978",
		3000,
		[]string{"400 6.4 50 1435 wye"},
		map[string]string{
			"ip":         "IP44",
			"insulation": "B",
			"duty":       "S3 40%",
			"weight":     "23",
		},
		[]string{"IM", "B3", "100L", "1978"},
		[]string{"plate.service-factor"},
	},
	{
		"altitude, rise, year, leads, weight",
		"1 HP 230V 3.4A 1725RPM 60HZ ALT 3300 FT 80°C RISE YEAR 1987 9 LEADS WT 66 LBS SF 1.15",
		745.7,
		[]string{"230 3.4 60 1725 –"},
		map[string]string{
			"altitude": "1005.84",
			"rise":     "80",
			"year":     "1987",
			"leads":    "9",
			"weight":   "29.937096420000003",
		},
		nil,
		nil,
	},
	{
		"single phase is a stop",
		"1 HP 115/230V 13.6/6.8A 60HZ 1725RPM 1PH CODE K",
		745.7,
		[]string{
			"115 13.6 60 1725 parallel",
			"230 6.8 60 1725 series",
		},
		map[string]string{"phases": "1"},
		nil,
		[]string{"plate.not-three-phase"},
	},
	{
		"single phase by its figures",
		"3 HP 230 V 17 A 60 HZ 3450 RPM",
		2237.1,
		[]string{"230 17 60 3450 –"},
		map[string]string{"phases": "1"},
		nil,
		[]string{"plate.not-three-phase"},
	},
	{
		"two phases are a stop",
		"5 HP TWO PHASE 220 V 60 CYCLES",
		3728.5,
		[]string{"220 – 60 – –"},
		map[string]string{"phases": "2"},
		nil,
		[]string{"plate.not-three-phase"},
	},
	{
		"amps in each other's column",
		"0.55 kW 230/400 V 1.5/2.6 A 50 Hz 1400 rpm",
		550,
		[]string{"230 1.5 50 1400 delta", "400 2.6 50 1400 wye"},
		nil,
		nil,
		[]string{
			"plate.contradiction",
			"plate.amps-against-output",
			"plate.volts-times-amps",
			"plate.service-factor",
			"plate.likely-misreading",
		},
	},
	{
		"a speed above its field",
		"3 HP 230 V 9 A 60 HZ 3700 RPM",
		2237.1,
		[]string{"230 9 60 3700 –"},
		map[string]string{"poles": "–"},
		nil,
		[]string{"plate.contradiction"},
	},
	{"out of any reason", "3 HP 23000 V 9 A", 2237.1, nil, nil, []string{"23000", "V"}, nil},
}

func TestReadText(t *testing.T) {
	var more []want
	fixtures, err := os.ReadFile("testdata/plates.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(fixtures, &more))
	require.GreaterOrEqual(t, len(texts)+len(more), 60)
	for _, c := range append(more, texts...) {
		t.Run(c.Name, func(t *testing.T) {
			d := plate.ReadText(c.Text)
			p := d.Plate
			if c.Watts > 0 {
				require.NotNil(t, p.OutputWatts)
				assert.InDelta(t, c.Watts, *p.OutputWatts, 1e-6)
			} else {
				assert.Nil(t, p.OutputWatts)
			}
			var ratings []string
			for _, r := range p.Ratings {
				ratings = append(ratings, rating(r))
			}
			assert.Equal(t, c.Ratings, ratings)
			got := map[string]string{
				"phases": show(p.Phases),
				"poles":  show(p.Poles),
				"eff":    show(p.Efficiency),
				"pf":     show(p.PowerFactor),
				"sf":     show(p.ServiceFactor),
				"code": show(
					p.CodeLetter,
				),
				"design":     show(p.DesignLetter),
				"frame":      show(p.Frame),
				"enclosure":  show(p.Enclosure),
				"insulation": show(p.InsulationClass),
				"ambient": show(
					p.AmbientCelsius,
				),
				"duty":     show(p.Duty),
				"ip":       show(p.IP),
				"altitude": show(p.AltitudeMetre),
				"rise":     show(p.TemperatureRise),
				"year":     show(p.Year),
				"leads":    show(p.Leads),
				"weight":   show(p.WeightKilogram),
				"cooling":  show(p.Cooling),
				"bearings": show(p.Bearings),
				"part":     show(p.PartLoad),
			}
			if len(p.Ratings) > 0 {
				got["sfa"] = show(p.Ratings[0].ServiceFactorAmps)
			}
			for field, value := range c.Fields {
				assert.Equal(t, value, got[field], field)
			}
			assert.ElementsMatch(t, c.Unread, d.Unread)
			assert.ElementsMatch(t, c.Rules, ids(d.Verdicts))
			for field, words := range d.From {
				for _, part := range strings.Split(words, ", ") {
					assert.Contains(t, c.Text, part, field)
				}
			}
		})
	}
}

func TestDeducedFieldsSayWhy(t *testing.T) {
	d := plate.ReadText("3 HP 230/460V 9.0/4.5A 60HZ 1745RPM")
	why := map[string]string{}
	for _, one := range d.Deduced {
		why[one.Field] = one.Because
	}
	assert.Equal(t, "1745 rpm at 60 Hz is just under 1800", why["poles"])
	assert.Contains(t, why["phases"], "power factor times efficiency of 1.08")
	assert.Contains(t, why["connection"], "ratio of the volts")
}

// What was read from text can be typed: the fields read back give the same plate.
func TestTextBecomesTypedFields(t *testing.T) {
	d := plate.ReadText("3 HP 230/460V 9.0/4.5A 60HZ 1745RPM SF1.15 CODE K DES B NEMA NOM EFF 87.5 9 LEADS")
	typed := d.Typed()
	assert.Equal(
		t,
		plate.Typed{
			Output:        "3 HP",
			Volts:         "230/460",
			Amps:          "9/4.5",
			Hertz:         "60",
			RPM:           "1745",
			Efficiency:    "87.5",
			ServiceFactor: "1.15",
			Code:          "K",
			Design:        "B",
			Leads:         "9",
		},
		typed,
	)
	read, problems := plate.Read(typed)
	require.Empty(t, problems)
	plain, ok := d.Plate.Plain()
	require.True(t, ok)
	read.OutputUnit = "" // a sheet has watts alone
	assert.Equal(t, plain, read)
	marked := plate.ReadText("4 kW 400/690 V Δ/Y 8.4/4.9 A 50 Hz 1440 rpm").Typed()
	assert.Equal(t, "delta/wye", marked.Connection)
	rest := plate.ReadText("1 HP 230V 3.4A SFA 3.9 FR 145T TEFC IP54 INS CL F AMB 40C ALT 3300 FT DUTY CONT 80C RISE " +
		"WT 66 LBS YEAR 1987").
		Typed()
	assert.Equal(
		t,
		plate.Rest{
			FactorAmps: "3.9",
			Insulation: "F",
			Rise:       "80",
			Ambient:    "40",
			Altitude:   "1006 m",
			Duty:       "continuous",
			Enclosure:  "TEFC",
			IP:         "IP54",
			Frame:      "145T",
			Weight:     "29.94 kg",
			Year:       "1987",
		},
		rest.Rest,
	)
	_, problems = plate.Read(rest)
	require.Empty(t, problems, "what was read can be typed")
	ranged := plate.ReadText("3HP 208-230/460V 9.0/4.5A").Typed()
	assert.Equal(t, [2]string{"208-230/460", "9/4.5"}, [2]string{ranged.Volts, ranged.Amps})
	back, problems := plate.Read(ranged)
	require.Empty(t, problems)
	for i, amps := range []float64{0, 9, 4.5} {
		assert.InDelta(t, amps, back.Ratings[i].Amps, 1e-9, "amps of a range are those of its last volts")
	}
}

func TestSingleAndTwoPhasePlatesAreStops(t *testing.T) {
	for _, text := range []string{"1 HP 230V SINGLE PHASE", "5 HP 2 PHASE 220 V"} {
		d := plate.ReadText(text)
		require.NotEmpty(t, d.Verdicts, text)
		assert.Equal(t, rule.Stop, d.Verdicts[0].Severity)
	}
}

func FuzzReadText(f *testing.F) {
	for _, c := range texts {
		f.Add(c.Text)
	}
	f.Add("\xff\xfe 3~ Δ/Y")
	f.Add(strings.Repeat("1/", 300) + "V")
	f.Fuzz(func(t *testing.T, text string) {
		d := plate.ReadText(text)
		for field, words := range d.From {
			for _, part := range strings.Split(words, ", ") {
				if !strings.Contains(text, part) && utf8.ValidString(text) {
					t.Fatalf("%s comes from words that are not there: %q", field, part)
				}
			}
		}
		if p := d.Plate; p.OutputWatts != nil && d.From["output"] == "" ||
			len(p.Ratings) > 0 && d.From["volts"] == "" ||
			p.Efficiency != nil && d.From["efficiency"] == "" {
			t.Fatalf("invented: %+v", p)
		}
		d.Typed()
	})
}
