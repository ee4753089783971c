package quantity_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/quantity"
)

func TestParsePower(t *testing.T) {
	for text, watts := range map[string]float64{
		"5hp": 5 * 745.7, "5 HP": 5 * 745.7, "1 1/2 HP": 1.5 * 745.7, "1-1/2hp": 1.5 * 745.7, "3/4 hp": 0.75 * 745.7,
		"½ hp": 0.5 * 745.7,
		"7½HP": 7.5 * 745.7, "3.7 kW": 3700, "3,7 kW": 3700, "0.37kW": 370, "550 W": 550, "4 PS": 4 * 735.5,
		"1/6 hp": 745.7 / 6, "5,5 cv": 5.5 * 735.5, "2 KM": 2 * 735.5, ".75 kW": 750, " 2 bhp ": 2 * 745.7,
	} {
		got, err := quantity.ParsePower(text)
		require.NoError(t, err, text)
		assert.InDelta(t, watts, got, 1e-9, text)
	}
}

func TestParsePowerSaysWhatIsWrongAndWhere(t *testing.T) {
	for text, want := range map[string]struct {
		says string
		at   int
	}{
		"5":       {"Say the unit too: 5 hp, or 5 kW?", 1},
		"":        {"Expected a number, found nothing.", 0},
		"hp":      {"Expected a number, found “hp”.", 0},
		"5 kVA":   {"Output is read in hp, kW, W or PS; “kVA” is none of them.", 2},
		"5/6 kW":  {"Kilowatts stand in decimals: write 0.833 kW.", 0},
		"5 hp at": {"Did not understand “at”.", 5},
		"0 kW":    {"The number must be above zero.", 0},
		"-3 hp":   {"Expected a number, found “-3 hp”.", 0},
		"1e9 kW":  {"Output is read in hp, kW, W or PS; “e9 kW” is none of them.", 1},
	} {
		_, err := quantity.ParsePower(text)
		var fault *quantity.Error
		require.ErrorAs(t, err, &fault, text)
		assert.Equal(t, want.says, fault.Says, text)
		assert.Equal(t, want.at, fault.At, text)
		assert.Equal(t, text, fault.Text)
	}
}

func TestParseLists(t *testing.T) {
	for text, want := range map[string][]float64{
		"230": {230}, "230/460": {230, 460}, "208-230/460": {208, 230, 460}, "400 V / 690 V": {400, 690},
		"230 / 400V": {230, 400},
		"208–230":    {208, 230}, "0.4 kV": {400}, "220;380": {220, 380}, "115/208-230": {115, 208, 230},
		"110/220": {110, 220},
	} {
		got, err := quantity.ParseVolts(text)
		require.NoError(t, err, text)
		assert.InDeltaSlice(t, want, got, 1e-9, text)
	}
	for text, want := range map[string][]float64{
		"13.2/6.6 A": {13.2, 6.6}, "13,2 / 6,6 A": {13.2, 6.6}, "9.6-9.0/4.5": {9.6, 9.0, 4.5}, "1,9/1,1": {1.9, 1.1},
		"850 mA": {0.85}, "7.2A": {7.2},
	} {
		got, err := quantity.ParseAmps(text)
		require.NoError(t, err, text)
		assert.InDeltaSlice(t, want, got, 1e-9, text)
	}
	for _, text := range []string{"", "230 by 460", "230//460", "230/", "/460", "two",
		"101/102/103/104/105/106/107/108/109/110/111/112/113", "99999999"} {
		_, err := quantity.ParseVolts(text)
		assert.Error(t, err, text)
	}
}

// A stroke between amps parts those of two voltages, and makes no fraction of them.
func TestAmpsAreNoFractions(t *testing.T) {
	for text, want := range map[string][]float64{"4/8": {4, 8}, "3/6 A": {3, 6}, "1/2": {1, 2}, "2-1/2": {2, 1, 2}} {
		got, err := quantity.ParseAmps(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
}

func TestParseSingles(t *testing.T) {
	for _, c := range []struct {
		parse func(string) (float64, error)
		text  string
		want  float64
	}{
		{quantity.ParseHertz, "60", 60}, {quantity.ParseHertz, "50 Hz", 50}, {quantity.ParseHertz, "60~", 60},
		{quantity.ParseHertz, "25 cycles", 25},
		{quantity.ParseRPM, "1745", 1745}, {quantity.ParseRPM, "1,745 rpm", 1745}, {quantity.ParseRPM, "1.440 U/min",
			1440}, {quantity.ParseRPM, "1437,5", 1437.5},
		{quantity.ParseMicrofarads, "62 µF", 62}, {quantity.ParseMicrofarads, "62uF", 62}, {quantity.ParseMicrofarads,
			"7,5 mfd", 7.5},
		{quantity.ParseShare, "0.82", 0.82}, {quantity.ParseShare, "0,82", 0.82}, {quantity.ParseShare, "87.5", 0.875},
		{quantity.ParseShare, "82 %", 0.82}, {quantity.ParseShare, "1", 1},
		{quantity.ParseNumber, "1.15", 1.15}, {quantity.ParseKelvin, "40 °C", 40}, {quantity.ParseKelvin, "80K", 80},
		{quantity.ParseMetres, "3300 ft", 1005.84},
		{quantity.ParseMetres, "1000", 1000}, {quantity.ParseKilograms, "66 lbs", 29.93709642},
		{quantity.ParseKilograms, "23kg", 23},
	} {
		got, err := c.parse(c.text)
		require.NoError(t, err, c.text)
		assert.InDelta(t, c.want, got, 1e-9, c.text)
	}
	for _, c := range []struct {
		parse func(string) (float64, error)
		text  string
	}{
		{quantity.ParseHertz, "60 rpm"}, {quantity.ParseRPM, "fast"}, {quantity.ParseShare, "1.4"},
		{quantity.ParseShare, "140 %"}, {quantity.ParseShare, "0"},
		{quantity.ParseNumber, "1.15 x"}, {quantity.ParseMicrofarads, "62 V"},
	} {
		_, err := c.parse(c.text)
		assert.Error(t, err, c.text)
	}
}

func TestPrinting(t *testing.T) {
	for want, got := range map[string]string{
		"62": quantity.Figures(62.04, 3), "0.0713": quantity.Figures(0.07126, 3), "1230": quantity.Figures(1234, 3),
		"-5.5": quantity.Figures(-5.5, 3), "9.6": quantity.Figures(9.6, 3),
		"0": quantity.Figures(0, 3), "2.2 kW": quantity.Power(2200, 50), "3 hp": quantity.Power(3*745.7, 60),
		"1½ hp": quantity.Power(1.5*745.7, 60), "¾ hp": quantity.Power(0.75*745.7, 60),
		"0.37 kW": quantity.Power(370, 50), "1.91": quantity.Horsepower(1.91 * 745.7),
		"15": quantity.Horsepower(15 * 745.7), "1.0": quantity.Fixed(1.04, 1),
		"0.42–1.25 kW": quantity.PowerRange(416, 1250, 50), "0.5–2 hp": quantity.PowerRange(0.5*745.7, 2*745.7, 60),
		"0.0": quantity.Fixed(-0.01, 1),
	} {
		assert.Equal(t, want, got)
	}
	assert.Equal(t, "0", quantity.Figures(math.NaN(), 3))
	assert.Equal(t, "0", quantity.Figures(math.Inf(1), 3))
}

// What is printed with enough figures is read back.
func TestPrintedPowerIsReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		watts := rapid.Float64Range(30, 150e3).Draw(t, "watts")
		hertz := rapid.SampledFrom([]float64{50, 60}).Draw(t, "hertz")
		got, err := quantity.ParsePower(quantity.Power(watts, hertz))
		require.NoError(t, err)
		assert.InEpsilon(t, watts, got, 0.006)
	})
}

func FuzzParsers(f *testing.F) {
	for _, seed := range []string{"5hp", "1 1/2 HP", "3,7 kW", "230/460", "208-230/460", "13.2/6.6 A", "½", "İ hp",
		"1.2.3", "\xff", "  ", "9/9"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, parse := range []func(string) (float64, error){quantity.ParsePower, quantity.ParseHertz,
			quantity.ParseRPM, quantity.ParseMicrofarads, quantity.ParseShare, quantity.ParseNumber} {
			if value, err := parse(text); err == nil {
				if !(value > 0) || math.IsInf(value, 0) {
					t.Fatalf("%q gave %v", text, value)
				}
			} else if strings.TrimSpace(err.Error()) == "" {
				t.Fatalf("%q has no sentence", text)
			}
		}
		for _, parse := range []func(string) ([]float64, error){quantity.ParseVolts, quantity.ParseAmps} {
			values, err := parse(text)
			if err == nil && (len(values) == 0 || len(values) > 12) {
				t.Fatalf("%q gave %v", text, values)
			}
		}
	})
}

func TestParseOhms(t *testing.T) {
	for text, ohms := range map[string]float64{
		"2.4": 2.4, "0,8 Ω": 0.8, "2.4Ω": 2.4, "40 k": 40e3, "40kΩ": 40e3, "200 MΩ": 200e6, ">500M": 500e6,
		"200 megohm": 200e6, "350 mΩ": 0.35, "0": 0, "0.0": 0, "12 ohms": 12,
	} {
		got, err := quantity.ParseOhms(text)
		require.NoError(t, err, text)
		assert.InEpsilon(t, 1+ohms, 1+got, 1e-12, text)
	}
	for _, text := range []string{"open", "OL", "O.L", "∞", " Open ", "inf"} {
		got, err := quantity.ParseOhms(text)
		require.NoError(t, err, text)
		assert.True(t, math.IsInf(got, 1), text)
	}
	for _, text := range []string{"", "?", "2 4", "-3", "2.4 V", "closed"} {
		_, err := quantity.ParseOhms(text)
		assert.Error(t, err, text)
	}
}

func TestParseCelsius(t *testing.T) {
	for text, celsius := range map[string]float64{"20": 20, "-5 °C": -5, "−12": -12, "0": 0, "0 °C": 0, "31,5": 31.5,
		"68 F": 20, "-40°F": -40, "32 °F": 0, "5 °f": -15} {
		got, err := quantity.ParseCelsius(text)
		require.NoError(t, err, text)
		assert.InDelta(t, celsius, got, 1e-12, text)
	}
	for _, text := range []string{"", "warm", "--5", "20 FF", "20 C F", "F", "°F"} {
		_, err := quantity.ParseCelsius(text)
		assert.Error(t, err, text)
	}
}
