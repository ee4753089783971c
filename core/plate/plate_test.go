package plate_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

var (
	us     = plate.Supply{Volts: 240, Hertz: 60}
	europe = plate.Supply{Volts: 230, Hertz: 50}
)

// shaperPlate is consistent: 3 hp, 9.0 A, 87.5 percent.
func shaperPlate() plate.Typed {
	return plate.Typed{
		Output:        "3 hp",
		Volts:         "230/460",
		Amps:          "9.0/4.5",
		Hertz:         "60",
		RPM:           "1745",
		Efficiency:    "87.5",
		ServiceFactor: "1.15",
		Code:          "k",
		Design:        "B",
		Leads:         "9",
	}
}

func fill(t *testing.T, typed plate.Typed, s plate.Supply) plate.Filled {
	t.Helper()
	p, problems := plate.Read(typed)
	require.Empty(t, problems)
	f, problems := plate.Fill(p, s)
	require.Empty(t, problems)
	return f
}

func TestReadUnderstandsAPlate(t *testing.T) {
	p, problems := plate.Read(shaperPlate())
	require.Empty(t, problems)
	assert.InDelta(t, 2237.1, p.OutputWatts, 1e-9)
	assert.Equal(
		t,
		[]plate.Rating{
			{Volts: 230, Amps: 9, Connection: plate.Parallel},
			{Volts: 460, Amps: 4.5, Connection: plate.Series},
		},
		p.Ratings,
	)
	assert.Equal(t, "K", p.CodeLetter)
	assert.Equal(t, "B", p.DesignLetter)
	assert.Equal(t, 9, p.Leads)
	assert.InDelta(t, 0.875, p.Efficiency, 1e-12)
}

func TestConnectionsFollowTheRatioOfTheVolts(t *testing.T) {
	for volts, want := range map[string][]string{
		"230/400": {plate.Delta, plate.Wye}, "400/690": {plate.Delta, plate.Wye}, "230/460": {plate.Parallel,
			plate.Series},
		"208-230/460": {plate.Parallel, plate.Parallel, plate.Series}, "230": {""}, "220/380": {plate.Delta, plate.Wye},
		"460/230": {plate.Series, plate.Parallel},
	} {
		p, problems := plate.Read(plate.Typed{Volts: volts})
		require.Empty(t, problems)
		var got []string
		for _, r := range p.Ratings {
			got = append(got, r.Connection)
		}
		assert.Equal(t, want, got, volts)
	}
	typed, problems := plate.Read(plate.Typed{Volts: "400", Connection: "Y"})
	require.Empty(t, problems)
	assert.Equal(t, plate.Wye, typed.Ratings[0].Connection)
	both, problems := plate.Read(plate.Typed{Volts: "220/380", Connection: "Δ / Y"})
	require.Empty(t, problems)
	assert.Equal(t, plate.Delta, both.Ratings[0].Connection)
}

func TestReadRefusesFieldByField(t *testing.T) {
	for _, c := range []struct {
		typed plate.Typed
		field string
		says  string
	}{
		{plate.Typed{Output: "3"}, "output", "Say the unit too"},
		{plate.Typed{Output: "900 kW"}, "output", "between 20 W and 200 kW"},
		{plate.Typed{Volts: "12"}, "volts", "between 50 and 1100"},
		{plate.Typed{Volts: "230/460", Amps: "9/4.5/3"}, "amps", "2 volts but 3 amps"},
		{plate.Typed{Amps: "9000"}, "amps", "between 0.05 and 600"},
		{plate.Typed{Hertz: "400"}, "hertz", "between 15 and 120"},
		{plate.Typed{RPM: "20"}, "rpm", "between 200 and 7200"},
		{plate.Typed{PowerFactor: "0.1"}, "power_factor", "between 0.2 and 0.97"},
		{plate.Typed{Efficiency: "99.9"}, "efficiency", "between 15 and 98.5"},
		{plate.Typed{ServiceFactor: "3"}, "service_factor", "between 1 and 2"},
		{plate.Typed{Code: "O"}, "code", "without I, O and Q"},
		{plate.Typed{Design: "E"}, "design", "A, B, C or D, or N"},
		{plate.Typed{Leads: "5"}, "leads", "3, 4, 6, 9 or 12"},
		{plate.Typed{Rest: plate.Rest{Insulation: "Z"}}, "insulation", "A, B, E, F, H or N"},
		{plate.Typed{Rest: plate.Rest{Ambient: "hot"}}, "ambient", "Expected a number"},
		{plate.Typed{Rest: plate.Rest{Year: "87"}}, "year", "four figures"},
		{plate.Typed{Rest: plate.Rest{Weight: "9 stone"}}, "weight", "kilograms or pounds"},
		{plate.Typed{Rest: plate.Rest{Altitude: "20000 m"}}, "altitude", "below 9000"},
		{plate.Typed{Rest: plate.Rest{Rise: "5"}}, "rise", "between 10 and 200"},
		{plate.Typed{Rest: plate.Rest{FactorAmps: "9999"}}, "factor_amps", "between 0.05 and 700"},
		{plate.Typed{Volts: "230", Connection: "zigzag"}, "connection", "“zigzag” is no connection"},
		{plate.Typed{Volts: "230", Connection: "wye/delta"}, "connection", "1 volts but 2 connections"},
	} {
		_, problems := plate.Read(c.typed)
		require.Len(t, problems, 1, c.field)
		assert.Equal(t, c.field, problems[0].Field)
		assert.Contains(t, problems[0].Says, c.says)
	}
}

func TestOutputVoltsAndSpeedAreEnough(t *testing.T) {
	f := fill(t, plate.Typed{Output: "1 hp", Volts: "230", RPM: "1725"}, us)
	assert.Equal(t, 4.0, f.Poles.Value)
	assert.Equal(t, rule.Derived, f.Poles.Origin)
	for name, v := range map[string]plate.Value{"amps": f.Amps, "power factor": f.PowerFactor,
		"efficiency": f.Efficiency, "service factor": f.ServiceFactor, "hertz": f.Hertz} {
		assert.Equal(t, rule.Assumed, v.Origin, name)
		assert.NotEmpty(t, v.Source, name)
	}
	assert.Equal(t, rule.Assumed, f.ConnectionBy)
	assert.InEpsilon(
		t,
		f.Output.Value,
		math.Sqrt(3)*f.Volts.Value*f.Amps.Value*f.PowerFactor.Value*f.Efficiency.Value,
		1e-9,
	)
}

func TestTwoOfAmpsPowerFactorAndEfficiencyMakeTheThird(t *testing.T) {
	f := fill(t, shaperPlate(), us)
	assert.Equal(t, rule.Derived, f.PowerFactor.Origin)
	assert.InDelta(t, 2237.1/(math.Sqrt(3)*230*9*0.875), f.PowerFactor.Value, 1e-9)
	typed := shaperPlate()
	typed.Efficiency, typed.PowerFactor = "", "0.72"
	f = fill(t, typed, us)
	assert.Equal(t, rule.Derived, f.Efficiency.Origin)
	assert.InDelta(t, 2237.1/(math.Sqrt(3)*230*9*0.72), f.Efficiency.Value, 1e-9)
	typed = shaperPlate()
	typed.Amps, typed.PowerFactor = "", "0.72"
	f = fill(t, typed, us)
	assert.Equal(t, rule.Derived, f.Amps.Origin)
}

func TestJoining(t *testing.T) {
	for _, c := range []struct {
		name       string
		typed      plate.Typed
		supply     plate.Supply
		volts      float64
		connection string
		origin     rule.Origin
		amps       float64
	}{
		{"dual volts on 240", plate.Typed{Output: "3 hp", Volts: "230/460", Amps: "9.0/4.5", RPM: "1745"}, us, 230,
			plate.Parallel, rule.Stated, 9},
		{"delta on 230", plate.Typed{Output: "2.2 kW", Volts: "230/400", Amps: "8.6/5.0", RPM: "1430"}, europe, 230,
			plate.Delta, rule.Stated, 8.6},
		{"six leads let a wye become " +
			"delta", plate.Typed{Output: "4 kW", Volts: "400", Amps: "8.4", RPM: "1440", Connection: "Y", Leads: "6"},
			europe, 231, plate.Delta, rule.Derived, 8.4 * 400 / 231},
		{"nine leads let series become " +
			"parallel", plate.Typed{Output: "3 hp", Volts: "460", Amps: "4.5", RPM: "1745", Leads: "9"}, us, 230,
			plate.Parallel, rule.Derived, 9},
		{"three leads leave it", plate.Typed{Output: "4 kW", Volts: "400", Amps: "8.4", RPM: "1440", Connection: "Y",
			Leads: "3"}, europe, 400, plate.Wye, rule.Stated, 8.4},
		{"as it was asked", plate.Typed{Output: "3 hp", Volts: "230/460", Amps: "9.0/4.5", RPM: "1745", Joined: "460"},
			us, 460, plate.Series, rule.Stated, 4.5},
	} {
		t.Run(c.name, func(t *testing.T) {
			f := fill(t, c.typed, c.supply)
			assert.Equal(t, c.volts, f.Volts.Value)
			assert.Equal(t, c.origin, f.Volts.Origin)
			assert.Equal(t, c.connection, f.Connection)
			assert.InDelta(t, c.amps, f.Amps.Value, 1e-9)
		})
	}
	p, _ := plate.Read(plate.Typed{Output: "3 hp", Volts: "230/460", RPM: "1745", Joined: "300"})
	_, problems := plate.Fill(p, us)
	require.Len(t, problems, 1)
	assert.Equal(t, "joined", problems[0].Field)
}

func TestFillSaysWhatIsMissing(t *testing.T) {
	_, problems := plate.Fill(plate.Plate{}, us)
	require.Len(t, problems, 2)
	p, _ := plate.Read(plate.Typed{Output: "3 hp", Volts: "230", RPM: "3650"})
	_, problems = plate.Fill(p, us)
	require.Len(t, problems, 1)
	assert.Equal(t, "rpm", problems[0].Field)
	assert.Contains(t, problems[0].Says, "3600")
}

// A plate that does not say its hertz is read by its speed.
func TestHertzFromSpeed(t *testing.T) {
	for _, c := range []struct {
		rpm    string
		supply plate.Supply
		hertz  float64
		origin rule.Origin
	}{{"1440", us, 50, rule.Derived}, {"2850", us, 50, rule.Derived}, {"1725", europe, 60, rule.Derived}, {"1725", us,
		60, rule.Assumed}, {"1440", europe, 50, rule.Assumed}, {"", us, 60, rule.Assumed}, {"1000", us, 60,
		rule.Assumed}} {
		f := fill(t, plate.Typed{Output: "2 kW", Volts: "230", RPM: c.rpm}, c.supply)
		assert.Equal(t, c.hertz, f.Hertz.Value, c.rpm)
		assert.Equal(t, c.origin, f.Hertz.Origin, c.rpm)
	}
	assert.InDelta(
		t,
		100*(240.0/60)/(230.0/50),
		plate.FluxPercent(fill(t, plate.Typed{Output: "2 kW", Volts: "230", RPM: "1440"}, us), us),
		1e-9,
	)
}

func TestPolesFromSpeed(t *testing.T) {
	for _, c := range []struct {
		rpm, hertz float64
		poles      int
	}{{1745, 60, 4}, {3450, 60, 2}, {1150, 60, 6}, {860, 60, 8}, {1440, 50, 4}, {2850, 50, 2}, {940, 50, 6}, {3600, 60,
		0}, {1499, 50, 4}} {
		assert.Equal(t, c.poles, plate.Poles(c.rpm, c.hertz), "%v rpm", c.rpm)
	}
}

func ids(verdicts []rule.Verdict) []string {
	list := []string{}
	for _, v := range verdicts {
		list = append(list, v.Rule)
	}
	return list
}

// Each self-check speaks on the plate that offends it, and only there.
func TestChecks(t *testing.T) {
	sound := shaperPlate()
	assert.Empty(t, plate.Check(fill(t, sound, us)))
	change := func(edit func(*plate.Typed)) plate.Typed {
		typed := shaperPlate()
		edit(&typed)
		return typed
	}
	for want, typed := range map[string]plate.Typed{
		"plate.amps-against-output":     change(func(p *plate.Typed) { p.Amps, p.Efficiency = "6/3", "" }),
		"plate.volts-times-amps":        change(func(p *plate.Typed) { p.Amps = "9.0/5.4" }),
		"plate.rpm-against-poles":       change(func(p *plate.Typed) { p.RPM = "1560" }),
		"plate.power-factor-efficiency": change(func(p *plate.Typed) { p.PowerFactor = "0.9" }),
		"plate.code-letter":             change(func(p *plate.Typed) { p.LockedRotor = "30" }),
		"plate.service-factor":          change(func(p *plate.Typed) { p.ServiceFactor = "1.0" }),
	} {
		assert.Equal(t, []string{want}, ids(plate.Check(fill(t, typed, us))), want)
	}
	far := fill(t, change(func(p *plate.Typed) { p.Amps, p.Efficiency = "16/8", "" }), us)
	assert.Contains(t, ids(plate.Check(far)), "plate.amps-against-output")
	swapped := fill(t, plate.Typed{Output: "0.55 kW", Volts: "230/400", Amps: "1.5/2.6", RPM: "1400"}, europe)
	assert.Subset(t, ids(plate.Check(swapped)), []string{"plate.amps-against-output", "plate.volts-times-amps"})
}

func TestSupplyChecks(t *testing.T) {
	for _, c := range []struct {
		volts, hertz string
		supply       plate.Supply
		flux         float64
		rule         string
	}{
		{"230", "60", us, 100 * 240.0 / 230, ""},
		{"200", "60", us, 120, "supply.over-flux"},
		{"190", "60", us, 100 * 240.0 / 190, "supply.far-over-flux"},
		{"400", "50", europe, 57.5, "supply.third-of-torque"},
		{"460", "60", us, 100 * 240.0 / 460, "supply.third-of-torque"},
		{"230", "60", europe, 120, "supply.over-flux"},
		{"230", "50", plate.Supply{Volts: 230, Hertz: 60}, 100.0 * 50 / 60, "supply.under-flux"},
	} {
		f := fill(t, plate.Typed{Output: "2 kW", Volts: c.volts, Hertz: c.hertz}, c.supply)
		assert.InDelta(t, c.flux, plate.FluxPercent(f, c.supply), 1e-9)
		want := []string{}
		if c.rule != "" {
			want = []string{c.rule}
		}
		if c.supply.Hertz != f.Hertz.Value {
			want = append([]string{"supply.other-hertz"}, want...)
		}
		assert.Equal(t, want, ids(plate.CheckSupply(f, c.supply)), "%s V %s Hz", c.volts, c.hertz)
	}
}

// Values printed in the standards.
func TestTables(t *testing.T) {
	for letter, band := range map[string][2]float64{"A": {0, 3.15}, "B": {3.15, 3.55}, "K": {8, 9}, "L": {9, 10},
		"V": {22.4, 25}} {
		from, below, ok := plate.CodeBand(letter)
		require.True(t, ok)
		assert.Equal(t, band, [2]float64{from, below}, letter)
	}
	for _, none := range []string{"", "I", "O", "Q", "W", "AB"} {
		_, _, ok := plate.CodeBand(none)
		assert.False(t, ok, none)
	}
	for _, c := range []struct {
		class string
		watts float64
		poles int
		want  float64
	}{{"IE1", 750, 4, 72.1}, {"IE2", 2200, 4, 84.3}, {"IE3", 15000, 6, 91.2}, {"IE2", 370, 2, 69.5},
		{"energy-efficient", 370, 4, 72.0}, {"energy-efficient", 3 * 745.7, 4, 87.5}, {"premium", 5 * 745.7, 4, 89.5}} {
		got, source, ok := plate.ClassEfficiency(c.class, c.watts, c.poles)
		require.True(t, ok)
		assert.InDelta(t, c.want, 100*got, 0.06, "%s %v W", c.class, c.watts)
		assert.NotEmpty(t, source)
	}
	_, _, ok := plate.ClassEfficiency("IE9", 750, 4)
	assert.False(t, ok)
	// Between the ratings of a table a value lies between theirs.
	low, _, _ := plate.ClassEfficiency("IE2", 750, 4)
	middle, _, _ := plate.ClassEfficiency("IE2", 900, 4)
	high, _, _ := plate.ClassEfficiency("IE2", 1100, 4)
	assert.True(t, low < middle && middle < high)
	assert.InDelta(t, 0.8*plate.UsualSlip(2200, 50, 4), plate.UsualSlip(2200, 60, 4), 1e-12)
}

// Design B, 4 poles, 60 Hz: locked-rotor and breakdown torque in percent, and
// the most locked-rotor amps at 230 V (NEMA MG 1, 12.38, 12.39 and 12.35).
func TestDesignB(t *testing.T) {
	for hp, want := range map[string][3]float64{"1": {275, 300, 30}, "1 1/2": {250, 280, 40}, "2": {235, 270, 50},
		"3": {215, 250, 64}, "5": {185, 225, 92},
		"7 1/2": {175, 215, 127}, "10": {165, 200, 162}, "15": {160, 200, 232}, "20": {150, 200, 290}} {
		f := fill(t, plate.Typed{Output: hp + " hp", Volts: "230", RPM: "1750", Hertz: "60", Design: "B"}, us)
		assert.InDelta(t, want[0]/100, f.LockedRotorTorque.Least, 0.004, hp)
		assert.InDelta(t, want[1]/100, f.Breakdown.Least, 0.004, hp)
		assert.InDelta(t, want[2], f.LockedRotorAmps.Most*f.Amps.Value, 0.2, hp)
		assert.True(t, f.LockedRotorAmps.Typical < f.LockedRotorAmps.Most)
	}
}

// Below a horsepower of four poles the standard has no least torque for design B, and design
// C's is 270 percent at 3 hp and four poles; a minimum is never more than that of a rating that
// stands in the table.
func TestMinimaEndWithTheirTable(t *testing.T) {
	for _, c := range []struct {
		output, rpm, design string
		locked, breakdown   float64
	}{
		{"1/2", "1725", "B", 1.9, 2.0}, {"1/4", "1725", "", 2.0, 2.0}, {"3/4", "1140", "B", 1.75, 2.75},
		{"1/2", "1140", "B", 1.7, 1.7}, {"1", "3450", "B", 1.8, 2.0}, {"1 1/2", "3450", "B", 1.75, 2.5},
		{"3", "1750", "C", 2.7, 2.0}, {"3", "1165", "C", 2.5, 2.25}, {"15", "1160", "C", 2.1, 1.9},
	} {
		f := fill(t, plate.Typed{Output: c.output + " hp", Volts: "230", RPM: c.rpm, Hertz: "60", Design: c.design}, us)
		assert.InDelta(t, c.locked, f.LockedRotorTorque.Least, 0.11, "%s hp, %s", c.output, c.rpm)
		assert.InDelta(t, c.breakdown, f.Breakdown.Least, 0.11, "%s hp, %s", c.output, c.rpm)
		assert.Greater(t, f.LockedRotorTorque.Typical, f.LockedRotorTorque.Least)
	}
}

// A motor whose plate reaches a better class takes more amps standing over its own.
func TestABetterClassTakesMoreAmpsStanding(t *testing.T) {
	last := 0.0
	// IE1, IE2 and IE3 at 1.5 kW and four poles, but for rounding.
	for _, efficiency := range []string{"76.5", "82.8", "85.3"} {
		f := fill(t, plate.Typed{Output: "1.5 kW", Volts: "230/400", RPM: "1430", Hertz: "50", Efficiency: efficiency},
			europe)
		assert.Greater(t, f.LockedRotorAmps.Typical, 1.05*last, efficiency)
		last = f.LockedRotorAmps.Typical
	}
	assert.InDelta(t, 6.9, last, 0.4, "published ranges of IE3 have 6.5 to 7.5 times")
}

func TestLockedRotorOfThePlateIsAimedAt(t *testing.T) {
	typed := shaperPlate()
	f := fill(t, typed, us)
	assert.InDelta(
		t,
		8*3*1000/(math.Sqrt(3)*230*9),
		f.LockedRotorAmps.Least,
		1e-2,
		"letter K begins at 8 kVA a horsepower",
	)
	typed.LockedRotor = "66"
	f = fill(t, typed, us)
	assert.InDelta(t, 66.0/9, f.LockedRotorAmps.Stated, 1e-9)
}

func FuzzReadAndFill(f *testing.F) {
	f.Add("3 hp", "230/460", "9.0/4.5", "60", "1745", "87.5", "9", "230")
	f.Add("0,37 kW", "230/400", "1,9/1,1", "", "1380", "", "6", "")
	f.Add("550 W", "wye", "-", "50 Hz", "1", "101", "4", "x")
	f.Fuzz(func(t *testing.T, output, volts, amps, hertz, rpm, efficiency, leads, joined string) {
		typed := plate.Typed{
			Output:     output,
			Volts:      volts,
			Amps:       amps,
			Hertz:      hertz,
			RPM:        rpm,
			Efficiency: efficiency,
			Leads:      leads,
			Joined:     joined,
		}
		p, problems := plate.Read(typed)
		for _, problem := range problems {
			if strings.TrimSpace(problem.Says) == "" {
				t.Fatal("a problem without a sentence")
			}
		}
		filled, problems := plate.Fill(p, us)
		if len(problems) > 0 {
			return
		}
		for _, v := range []plate.Value{filled.Amps, filled.PowerFactor, filled.Efficiency, filled.RPM, filled.Volts} {
			if !(v.Value > 0) || math.IsInf(v.Value, 0) {
				t.Fatalf("%+v gave %+v", typed, v)
			}
		}
		plate.Check(filled)
		plate.CheckSupply(filled, us)
	})
}
