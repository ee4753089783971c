package supply_test

import (
	"fmt"
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/supply"
)

// Amps as the tables are printed: NEC 310.16, 310.15(B)(1), 310.15(C)(1), 110.14(C), 240.4(D); IEC
// 60364-5-52, B.52.2, B.52.3, B.52.14, B.52.17.
func TestLaidByThePrintedTables(t *testing.T) {
	for _, c := range []struct {
		l          supply.Laid
		hertz      float64
		amps, most float64
	}{
		{supply.Laid{Size: "14 AWG"}, 60, 15, 15},
		{supply.Laid{Size: "12 AWG", InsulationC: 60}, 60, 20, 20},
		{supply.Laid{Size: "10 AWG", Material: "aluminium"}, 60, 25, 25},
		{supply.Laid{Size: "6 AWG"}, 60, 55, 0},                                    // terminals of 60 °C
		{supply.Laid{Size: "6 AWG", Grouped: 4}, 60, 75 * 0.7, 0},                  // eight conductors
		{supply.Laid{Size: "6 AWG", Grouped: 2, AirC: 45}, 60, 75 * 0.8 * 0.87, 0}, // under its terminals by then
		{supply.Laid{Size: "6 AWG", InsulationC: 60, AirC: 40}, 60, 55 * 0.82, 0},
		{supply.Laid{Size: "12 AWG", Cord: true}, 60, 25, 20}, // NEC 400.5(A)(1), column B
		{supply.Laid{Size: "6 AWG", Cord: true, AirC: 40}, 60, 55 * 0.82, 0},
		{supply.Laid{Size: "1/0 AWG"}, 60, 150, 0}, // terminals of 75 °C
		{supply.Laid{Size: "4/0 AWG", Material: "aluminium", InsulationC: 75}, 60, 180, 0},
		{supply.Laid{Size: "1.5 mm²"}, 50, 17.5, 0},
		{supply.Laid{Size: "2.5 mm²", Method: "C"}, 50, 27, 0},
		{supply.Laid{Size: "4 mm²", Method: "A1", InsulationC: 90}, 50, 35, 0},
		{supply.Laid{Size: "10 mm²", Method: "B2", Grouped: 3, AirC: 35}, 50, 52 * 0.7 * 0.94, 0},
		{supply.Laid{Size: "6 mm²", AirC: 60}, 50, 41 * 0.5, 0},
		{supply.Laid{Size: "16 mm²", Material: "aluminium"}, 50, 60, 0},
	} {
		got, ok := supply.CodeOf(c.hertz, nil).Carries(c.l)
		require.True(t, ok, "%+v", c.l)
		assert.InDelta(t, c.amps, got.Amps, 1e-9, "%+v", c.l)
		assert.InDelta(t, c.most, got.Most, 1e-9, "%+v", c.l)
		assert.Contains(t, got.By, c.l.Size)
	}
	for _, l := range []supply.Laid{
		{Size: "14 AWG", Material: "aluminium"}, {Size: "1/0 AWG", Cord: true},
		{Size: "4 mm²"}, {Size: "6 AWG", InsulationC: 70}, {},
	} {
		_, ok := supply.CodeOf(60, nil).Carries(l)
		assert.False(t, ok, "%+v", l)
	}
	_, ok := supply.CodeOf(50, nil).Carries(supply.Laid{Size: "4 mm²", Method: "Z"})
	assert.False(t, ok)
}

// More company, warmer air and less insulation never carry more, a thicker one never less; ohms go
// down with size, and aluminium has half as many again as copper, and a little more.
func TestLaidGoesTheRightWay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		hertz := rapid.SampledFrom([]float64{50, 60}).Draw(t, "hertz")
		sizes := supply.Sizes(hertz)
		i := rapid.IntRange(0, len(sizes)-1).Draw(t, "size")
		l := supply.Laid{
			Size: sizes[i], Grouped: rapid.IntRange(0, 19).Draw(t, "grouped"),
			AirC:        rapid.Float64Range(5, 55).Draw(t, "air"),
			InsulationC: rapid.SampledFrom(supply.Insulations(hertz)).Draw(t, "insulation"),
		}
		if methods := supply.Methods(hertz); methods != nil {
			l.Method = rapid.SampledFrom(methods).Draw(t, "method")
		}
		c, ok := supply.CodeOf(hertz, nil).Carries(l)
		assert.True(t, ok)
		less := func(what string, change func(*supply.Laid)) {
			other := l
			change(&other)
			worse, ok := supply.CodeOf(hertz, nil).Carries(other)
			assert.True(t, ok)
			assert.LessOrEqual(t, worse.Amps, c.Amps+1e-9, what)
		}
		less("company", func(o *supply.Laid) { o.Grouped++ })
		less("air", func(o *supply.Laid) { o.AirC += 5 })
		less("insulation", func(o *supply.Laid) { o.InsulationC = supply.Insulations(hertz)[0] })
		if i > 0 {
			less("size", func(o *supply.Laid) { o.Size = sizes[i-1] })
			thinner := l
			thinner.Size = sizes[i-1]
			o, _ := supply.CodeOf(hertz, nil).Carries(thinner)
			assert.Greater(t, real(o.Ohm), real(c.Ohm))
		}
		l.Material, l.InsulationC = supply.Aluminium, supply.Insulations(hertz)[0]
		if a, ok := supply.CodeOf(hertz, nil).Carries(l); ok {
			assert.InDelta(t, 1.65, real(a.Ohm)/real(c.Ohm), 0.13)
			assert.Less(t, a.Amps, c.Amps+1e-9)
		}
	})
}

// A source's ohms by its kVA: at the amps of its kVA its percent impedance is lost, and a dead short
// takes so many times them.
func TestByTransformer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := supply.Supply{
			Kind:  "split-phase",
			Class: supply.ByTransformer,
			Volts: 240,
			Hertz: 60,
			KVA: rapid.Float64Range(5, 200).
				Draw(t, "kva"),
			ImpedancePercent: rapid.Float64Range(0.5, 10).Draw(t, "percent"),
		}
		settled := s.Settled()
		z := math.Hypot(settled.ResistanceOhm, settled.ReactanceOhm)
		rated := 1000 * s.KVA / s.Volts
		assert.InDelta(t, s.ImpedancePercent, 100*rated*z/s.Volts, 1e-9)
		assert.InEpsilon(t, rated*100/s.ImpedancePercent, s.Volts/z, 1e-9)
		wired := s
		wired.WireSize, wired.WireMetre = "2 AWG", rapid.Float64Range(1, 100).Draw(t, "metre")
		more := wired.Settled()
		wire, _ := supply.CodeOf(60, nil).Carries(supply.Laid{Size: "2 AWG"})
		assert.InDelta(t, 2*wired.WireMetre*real(wire.Ohm), more.ResistanceOhm-settled.ResistanceOhm, 1e-12)
	})
	generator := supply.Supply{
		Kind:  supply.Generator,
		Class: supply.ByTransformer,
		Volts: 240,
		Hertz: 60,
		KVA:   10,
	}.Settled()
	assert.Greater(t, generator.ReactanceOhm, 5*generator.ResistanceOhm)
	assert.InDelta(t, 0.2*240*240/10000, math.Hypot(generator.ResistanceOhm, generator.ReactanceOhm), 1e-9)
	assert.Len(t, supply.Supply{Class: supply.ByTransformer, Hertz: 60, WireSize: "9 mm²"}.Problems(), 2)
	assert.Empty(t, supply.Supply{Class: "usual", Hertz: 60}.Problems())
	for _, c := range append(supply.Classes, supply.Class{Name: supply.Own}) {
		assert.NotEmpty(t, supply.Supply{Class: c.Name, KVA: 25}.OhmsBy())
	}
	assert.Equal(t, "10 kVA, 33\u00a0ft of 2 AWG", supply.Supply{
		Class: supply.ByTransformer, KVA: 10, WireSize: "2 AWG", WireMetre: 10, Hertz: 60,
	}.OhmsBy())
}

// Receptacles by NEMA WD 6 and IEC 60309: what a number in their names says is what they are for.
func TestReceptacles(t *testing.T) {
	for _, hertz := range []float64{50, 60} {
		seen := map[string]bool{}
		for _, r := range supply.Receptacles(hertz) {
			assert.False(t, seen[r.Name])
			seen[r.Name] = true
			assert.NotEmpty(t, r.Not)
			assert.Contains(t, []int{1, 3}, r.Phases)
			if r.Name != "BS 1363" {
				assert.Contains(t, r.Title, fmt.Sprint(r.Amps), r.Name)
			}
			got, ok := supply.ReceptacleOf(r.Name, hertz)
			assert.True(t, ok)
			assert.Equal(t, r, got)
		}
	}
	us := func(name string) supply.Receptacle { r, _ := supply.ReceptacleOf(name, 60); return r }
	for _, family := range []string{"15-", "L15-", "L16-"} { // three poles and earth, three-phase
		assert.Equal(t, 3, us(family+"30R").Phases, family)
	}
	for _, family := range []string{"14-", "L14-", "L6-", "6-"} {
		assert.Equal(t, 1, us(family+"30R").Phases, family)
	}
	_, ok := supply.ReceptacleOf("L14-30R", 50)
	assert.False(t, ok)
}

// What a motor's device may be at most, by NEC 430.52 and the next size of 240.6; its overload by
// 430.32, and by plate amps elsewhere.
func TestDevicesAndOverloads(t *testing.T) {
	for _, c := range []struct {
		device     string
		amps, most float64
	}{{"", 9.6, 25}, {"inverse-time", 15.2, 40}, {"dual-element", 15.2, 30}, {"fuse", 15.2, 50},
		{"inverse-time", 28, 70}} {
		got, ok := supply.CodeOf(60, nil).MostFor(c.device, c.amps)
		require.True(t, ok)
		assert.InDelta(t, c.most, got, 1e-9, "%s for %g A", c.device, c.amps)
	}
	_, ok := supply.CodeOf(60, nil).MostFor("gG", 5)
	assert.False(t, ok)
	for _, c := range []struct{ factor, hertz, percent float64 }{{1.15, 60, 125}, {1, 60, 115}, {1.25, 50, 100}} {
		got, by := supply.CodeOf(c.hertz, nil).Overload(c.factor)
		assert.InDelta(t, c.percent, got, 1e-9)
		assert.NotEmpty(t, by)
		trips, _ := supply.CodeOf(c.hertz, nil).OverloadTrips(c.factor)
		assert.GreaterOrEqual(t, trips, got)
	}
	for _, hertz := range []float64{50, 60} {
		for _, d := range supply.Devices(hertz) {
			assert.Positive(t, d.Holds)
			if d.Trips > 0 {
				assert.Greater(t, d.Trips, d.Holds)
			}
		}
	}
	assert.InDelta(t, 250, supply.CodeOf(60, nil).ConverterAmps(100).Amps, 1e-9)
}

// The tables against the formula that they follow: a conductor's amps go with the root of the rise
// that its insulation is left, from its air to what it bears (IEC 60287; NEC 310.14(B)); so do the
// corrections for air, by the upper end of their band, and the columns beside one another. Aluminium has 1.64 times
// copper's ohms.
func TestLaidInClosedForm(t *testing.T) {
	carries := func(hertz float64, l supply.Laid) float64 {
		c, ok := supply.CodeOf(hertz, nil).Carries(l)
		require.True(t, ok, "%+v", l)
		return c.Amps
	}
	for _, c := range []struct {
		hertz float64
		size  string
		bears int
	}{{60, "4/0 AWG", 60}, {60, "6 AWG", 60}, {60, "4/0 AWG", 75}, {50, "16 mm²", 70}, {50, "16 mm²", 90}} {
		at30 := carries(c.hertz, supply.Laid{Size: c.size, InsulationC: c.bears})
		for air := 35.0; air <= 55; air += 5 {
			want := math.Sqrt((float64(c.bears) - air) / (float64(c.bears) - 30))
			got := carries(c.hertz, supply.Laid{Size: c.size, InsulationC: c.bears, AirC: air}) / at30
			assert.InDelta(t, want, got, 0.006, "%s of %d °C in %g °C", c.size, c.bears, air)
		}
	}
	for _, table := range codeTables("us-conductors") {
		for _, row := range table.Rows {
			var v [6]float64
			for i := range v {
				v[i], _ = strconv.ParseFloat(row[i+1], 64)
			}
			assert.InDelta(t, math.Sqrt(45.0/30), v[1]/v[0], 0.12, row[0])
			assert.InDelta(t, math.Sqrt(60.0/30), v[2]/v[0], 0.26, row[0])
			for i := range 3 {
				if v[3+i] > 0 {
					assert.InDelta(t, 1/math.Sqrt(1.64), v[3+i]/v[i], 0.1, row[0])
				}
			}
		}
	}
	for _, size := range supply.Sizes(50) {
		for _, method := range supply.Methods(50) {
			pvc := carries(50, supply.Laid{Size: size, Method: method})
			xl := carries(50, supply.Laid{Size: size, Method: method, InsulationC: 90})
			assert.InDelta(t, math.Sqrt(60.0/40), xl/pvc, 0.14, "%s %s", size, method)
			if c, ok := supply.CodeOf(50, nil).Carries(
				supply.Laid{Size: size, Method: method, Material: supply.Aluminium},
			); ok {
				assert.InDelta(t, 1/math.Sqrt(1.64), c.Amps/pvc, 0.045, "%s %s", size, method)
			}
		}
	}
}
