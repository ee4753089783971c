package plate_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/docs/schema"
)

// laidOut is a plate as it is laid out, and all that it says: an output or "–", ratings as
// "volts amps hertz rpm connection" with watts where they differ, and fields by name.
type laidOut struct {
	name, text string
	watts      string
	ratings    []string
	fields     map[string]string
}

func readLaidOut(t *testing.T, file string) (list []laidOut) {
	t.Helper()
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	for _, part := range strings.Split("\n"+string(text), "\n== ")[1:] {
		name, rest, _ := strings.Cut(part, "\n")
		body, says, ok := strings.Cut(rest, "\n-- ")
		require.True(t, ok, name)
		p := laidOut{name: name, text: body, fields: map[string]string{}}
		for i, field := range strings.Split(strings.TrimSpace(says), " | ") {
			word, value, _ := strings.Cut(field, " ")
			if i == 0 {
				p.watts = strings.TrimSuffix(field, " W")
			} else if word[0] >= '0' && word[0] <= '9' || word[0] == '.' {
				p.ratings = append(p.ratings, field)
			} else {
				p.fields[word] = value
			}
		}
		list = append(list, p)
	}
	return list
}

// said is what a document says, in the same words.
func said(d plate.Document) (watts string, ratings []string, fields map[string]string) {
	p := d.Plate
	for _, r := range p.Ratings {
		text := rating(r)
		if r.OutputWatts != nil {
			text += fmt.Sprintf(" %.0f", *r.OutputWatts)
		}
		ratings = append(ratings, text)
	}
	fields = map[string]string{
		"phases": show(p.Phases), "poles": show(p.Poles), "eff": show(p.Efficiency), "pf": show(p.PowerFactor),
		"sf": show(p.ServiceFactor), "code": show(p.CodeLetter), "design": show(p.DesignLetter),
		"frame": show(p.Frame), "enclosure": show(p.Enclosure), "insulation": show(p.InsulationClass),
		"ambient": show(p.AmbientCelsius), "duty": show(p.Duty), "ip": show(p.IP), "altitude": show(p.AltitudeMetre),
		"rise": show(p.TemperatureRise), "year": show(p.Year), "leads": show(p.Leads), "weight": show(p.WeightKilogram),
		"cooling": show(p.Cooling), "bearings": show(p.Bearings), "part": show(p.PartLoad),
		"lra": show(p.LockedRotorAmps),
	}
	if len(p.Ratings) > 0 {
		fields["sfa"] = show(p.Ratings[0].ServiceFactorAmps)
	}
	for name, value := range fields {
		if _, deduced := d.From[map[string]string{"phases": "phases", "poles": "poles"}[name]]; value == "–" ||
			(name == "phases" || name == "poles") && !deduced {
			delete(fields, name)
		}
	}
	return show(p.OutputWatts), ratings, fields
}

// Plates are read as they are laid out: every field that is there, and none that is not.
func TestLaidOut(t *testing.T) {
	list := readLaidOut(t, "testdata/laid-out.txt")
	require.GreaterOrEqual(t, len(list), 380)
	schema := strict.Compile(schema.Plate)
	for _, c := range list {
		t.Run(c.name, func(t *testing.T) {
			d := plate.ReadText(c.text)
			watts, ratings, fields := said(d)
			assert.InDelta(t, number(c.watts), number(watts), 1e-3, "output")
			assert.Equal(t, c.ratings, ratings)
			assert.Equal(t, c.fields, fields)
			written, err := json.Marshal(d)
			require.NoError(t, err)
			var again plate.Document
			require.Empty(
				t,
				strict.Read(written, schema, &again),
				"the size command reads what the plate command writes",
			)
			assert.Equal(t, d.Typed(), again.Typed())
			for field, words := range d.From {
				for part := range strings.SplitSeq(words, ", ") {
					assert.Contains(t, c.text, part, field)
				}
			}
		})
	}
}

func number(text string) float64 {
	value, _ := strconv.ParseFloat(text, 64) // zero for none
	return value
}

// What a camera or an eye takes for something else is proposed, and put nowhere by itself.
func TestSlipsAreProposed(t *testing.T) {
	for _, c := range []struct{ text, field, from, to string }{
		{"3 HP 23O/46O V 9.0/4.5 A 60 HZ 1745 RPM", "volts", "23O/46O V", "230/460"},
		{"3 HP 230/460 V 9.0/4.5 A 60 HZ I745 RPM", "rpm", "I745 RPM", "1745"},
		{"3 HP 230/460 V 9.0/4.5 A 6O HZ 1745 RPM", "hertz", "6O HZ", "60"},
		{"l,5 kW 230/400 V 6,0/3,45 A 50 Hz 1420 U/min", "output", "l,5 kW", "1,5 kW"},
		{"S HP 230/460 V 13.2/6.6 A 60 HZ 1745 RPM", "output", "S HP", "5 HP"},
		{"HP S\nV 230/460\nA 13.2/6.6\nHZ 60\nRPM 1745", "output", "HP S", "5 hp"},
		{"5 HP 230/460 V 132/66 A 60 HZ 1745 RPM", "amps", "132/66", "13.2/6.6"},
		{"3 HP 230/460 V 9.0/4.5 A 60 HZ 1745 RPM SF 115", "service_factor", "SF 115", "1.15"},
		{"3 HP 230/460 V 9.0/4.5 A 60 HZ 1475 RPM", "rpm", "1475", "1745"},
	} {
		d := plate.ReadText(c.text)
		found := false
		for _, p := range d.Proposals {
			assert.NotEmpty(t, p.Because)
			found = found || p.Field == c.field && p.From == c.from && p.To == c.to
		}
		assert.True(t, found, "%s: %+v", c.text, d.Proposals)
		for _, f := range d.Typed().Fields() {
			if f.Name == c.field {
				assert.NotEqual(t, c.to, f.Text, c.text)
			}
		}
	}
	for _, c := range readLaidOut(t, "testdata/laid-out.txt") {
		assert.Empty(t, plate.ReadText(c.text).Proposals, c.name)
	}
}

// The words of a plate stay: its output is never turned into another unit.
func TestOutputStaysInItsUnit(t *testing.T) {
	for text, typed := range map[string]string{
		"HP 5 V 230": "5 hp", "5 HP 230 V": "5 HP", "HP: 1-1/2 V 230": "1-1/2 hp", "CV 4 V 380 Hz 50": "4 cv",
		"kW: 3 V: 400": "3 kW", "P=0,75kW U=400V": "0,75 kW", "PS 1,5 V 220": "1,5 PS", "P2 370 W U 230 V": "370 W",
	} {
		assert.Equal(t, typed, plate.ReadText(text).Typed().Output, text)
	}
}

// An output under a head stays in the unit of its head, and reads as what it is worth.
func TestOutputUnderItsHead(t *testing.T) {
	for text, want := range map[string]string{
		"HP  VOLTS  AMPS  RPM\n5  230/460  13.2/6.6  1745":      "5 hp",
		"HP  VOLTS  AMPS  RPM\n7.5  230/460  20/10  1745":       "7.5 hp",
		"kW  V  A  1/min\n2.2  230/400  8.7/5  1430":            "2.2 kW",
		"HP  VOLTS  AMPS  RPM  HZ\n1/2  230/460  2/1  1725  60": "0.5 hp",
	} {
		d := plate.ReadText(text)
		assert.Equal(t, want, d.Typed().Output, text)
		watts, err := quantity.ParsePower(d.Typed().Output)
		require.NoError(t, err)
		assert.InEpsilon(t, *d.Plate.OutputWatts, watts, 1e-4, text)
	}
}

// What stands on a plate whose output cannot be read is typed all the same.
func TestAPlateWithoutItsOutput(t *testing.T) {
	typed := plate.ReadText("RPM 1745 VOLTS 230/460 HZ 60 SF 1.15").Typed()
	assert.Equal(t, plate.Typed{Volts: "230/460", RPM: "1745", Hertz: "60", ServiceFactor: "1.15"}, typed)
}

// A plate of volts and amps alone has an output all the same, near that of the motors that
// are made for such amps.
func TestOutputFromAmps(t *testing.T) {
	for _, c := range []struct {
		text string
		hp   float64
	}{
		{"230/460 V 9.2/4.6 A 60 HZ 1750 RPM", 3}, {"400 V 11.3 A 50 Hz 1450 rpm", 7.4},
		{"230 V 2.6 A 1725 RPM 60 HZ", 0.75},
	} {
		d := plate.ReadText(c.text)
		assert.Nil(t, d.Plate.OutputWatts)
		for _, v := range d.Verdicts {
			assert.Equal(t, "plate.service-factor", v.Rule, c.text)
		}
		p, problems := plate.Read(d.Typed())
		require.Empty(t, problems)
		f, problems := plate.Fill(p, plate.Supply{Volts: 240, Hertz: *d.Plate.Ratings[0].Hertz})
		require.Empty(t, problems)
		assert.Equal(t, rule.Assumed, f.Output.Origin)
		assert.InEpsilon(t, c.hp*745.7, f.Output.Value, 0.15, c.text)
		powerFactor, efficiency := plate.Usual(f.Output.Value, int(f.Poles.Value))
		assert.InEpsilon(t, f.Output.Value, math.Sqrt(3)*f.Volts.Value*f.Amps.Value*powerFactor*efficiency, 1e-6)
	}
}

// A plate with two speeds far apart says so and fills in those of one; speeds of two
// frequencies, or the same one twice, are no two speeds.
func TestTwoSpeeds(t *testing.T) {
	for text, rpm := range map[string]string{
		"kW 1.5/2.2  V 400  Hz 50  rpm 710/1430  A 4.9/5.2": "710",
		"0,9/1,3 kW 380 V 50 Hz 2,6/3,1 A 940/1440 U/min":   "940",
		"kW 1.5/1.8  V 400/460  Hz 50/60  rpm 1430/1730":    "",
		"3 HP 230/460 V 60 HZ 9/4.5 A 1740 RPM":             "",
	} {
		d := plate.ReadText(text)
		var said []string
		for _, v := range d.Verdicts {
			said = append(said, v.Rule)
		}
		if rpm == "" {
			assert.NotContains(t, said, "plate.two-speeds", text)
			continue
		}
		assert.Contains(t, said, "plate.two-speeds", text)
		assert.Len(t, d.Plate.Ratings, 2, text)
		assert.Equal(t, rpm, d.Typed().RPM, text)
	}
}

// A letter P before a figure is an output, an input or poles by what else stands there, and
// nothing where that does not tell.
func TestTheLetterP(t *testing.T) {
	for text, want := range map[string][2]float64{ // watts and poles, 0 for none
		"P1,5 kW 400 V 3,4 A 50 Hz":             {1500, 0},
		"P1.1kW U400V I2.6A":                    {1100, 0},
		"P1 4,0 kW P2 3,0 kW 400 V 6.8 A 50 Hz": {3000, 0},
		"P1=4,0 kW P2=3,0 kW U=400 V":           {3000, 0},
		"P10 kW 400 V 20 A":                     {10000, 0},
		"HP 1 P 4 V 200 A 3.8":                  {745.7, 4},
		"P 4 U 400 V I 8.4 A":                   {0, 0},
		"2.2kW 4P 400V":                         {2200, 4},
		"4 POLE 400 V 8 A":                      {0, 4},
	} {
		d := plate.ReadText(text)
		assert.InDelta(t, want[0], number(show(d.Plate.OutputWatts)), 1e-6, text)
		assert.InDelta(t, want[1], number(show(d.Plate.Poles)), 1e-6, text)
		if want == [2]float64{} {
			assert.Contains(t, d.Unread, "P 4", text)
		}
	}
}
