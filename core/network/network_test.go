package network_test

import (
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// a1 is the operator 1∠120°.
var a1 = cmplx.Rect(1, 2*math.Pi/3)

func slip(s float64) *float64 { return &s }

// circuits draws plausible motors of 0.2 to 20 kW; saturating ones on demand.
func circuits(t *rapid.T, saturating bool) motor.Circuit {
	base := rapid.Float64Range(1, 60).Draw(t, "base ohms")
	of := func(low, high float64, name string) float64 {
		return base * rapid.Float64Range(low, high).Draw(t, name)
	}
	c := motor.Circuit{
		R1Ohm: of(0.01, 0.12, "r1"),
		X1Ohm: of(0.03, 0.15, "x1"),
		XmOhm: of(1.2, 3.5, "xm"),
		Cages: []motor.Cage{
			{ROhm: of(0.02, 0.1, "ri"), XOhm: of(0.05, 0.2, "xi")},
			{ROhm: of(0.1, 0.6, "ro"), XOhm: of(0.03, 0.1, "xo")},
		},
	}
	if rapid.Bool().Draw(t, "core loss") {
		c.RcOhm = of(10, 60, "rc")
	}
	if rapid.Bool().Draw(t, "one cage") {
		c.Cages = c.Cages[:1]
	}
	if saturating {
		c.Curve = motor.TypicalCurve(c, 240)
		c.Leakage = motor.LeakageSaturation{
			OnsetAmps: 240 / base * rapid.Float64Range(0.6, 2).Draw(t, "onset"),
			Floor:     rapid.Float64Range(0.4, 0.9).Draw(t, "floor"),
		}
	}
	return c
}

// close compares line amps with k times others, by the largest: a bare made
// leg carries nothing but rounding.
func close(t require.TestingT, want, got network.Legs, k float64) {
	size := want.Max()
	assert.InDelta(t, want.A/size, k*got.A/size, 1e-6)
	assert.InDelta(t, want.B/size, k*got.B/size, 1e-6)
	assert.InDelta(t, want.C/size, k*got.C/size, 1e-6)
}

// cases draws networks of one to three motors with capacitors and loads.
func cases(t *rapid.T, loaded, saturating bool) network.Case {
	c := network.Case{
		Supply: network.Supply{
			Phases: rapid.SampledFrom([]int{1, 1, 3}).Draw(t, "phases"),
			Volts:  rapid.Float64Range(200, 260).Draw(t, "volts"),
			Hertz:  rapid.SampledFrom([]float64{50, 60}).Draw(t, "hertz"),
		},
	}
	if rapid.Bool().Draw(t, "source ohms") {
		c.Supply.ResistanceOhm, c.Supply.ReactanceOhm = rapid.Float64Range(0, 0.3).
			Draw(t, "r"),
			rapid.Float64Range(0, 0.2).
				Draw(t, "x")
	}
	for i := range rapid.IntRange(1, 3).Draw(t, "motors") {
		m := network.Motor{
			ID:         string(rune('m' + i)),
			Poles:      2 * rapid.IntRange(1, 3).Draw(t, "pole pairs"),
			RatedHertz: c.Supply.Hertz,
			Connection: rapid.SampledFrom([]string{"wye", "delta"}).
				Draw(t, "joined"),
			Direction:     rapid.SampledFrom([]string{"abc", "acb"}).Draw(t, "direction"),
			FrictionWatts: rapid.Float64Range(0, 60).Draw(t, "friction"),
			Circuit:       circuits(t, saturating),
		}
		if loaded {
			m.Direction = "abc"
			if rapid.Bool().Draw(t, "power load") {
				m.Load = &network.Load{Kind: "power", Watts: rapid.Float64Range(0, 3000).Draw(t, "watts")}
			} else {
				m.Load = &network.Load{
					Kind:        "torque",
					NewtonMetre: rapid.Float64Range(0, 20).Draw(t, "nm"),
					AtRPM:       1500,
					Exponent:    rapid.IntRange(0, 2).Draw(t, "exponent"),
				}
			}
		} else {
			m.Slip = slip(rapid.Float64Range(0, 2).Draw(t, "slip"))
		}
		c.Motors = append(c.Motors, m)
	}
	pairs := []network.Pair{network.AB, network.AC, network.BC}
	furnish(t, &c, loaded, pairs)
	for i := range rapid.IntRange(0, 3).Draw(t, "capacitors") {
		c.Capacitors = append(
			c.Capacitors,
			network.Capacitor{ID: string(rune('p' + i)), Between: rapid.SampledFrom(pairs).Draw(t, "pair"),
				Microfarad: rapid.Float64Range(0, 200).Draw(t, "µF"), ESROhm: rapid.Float64Range(0, 1).Draw(t, "esr")},
		)
	}
	for i := range rapid.IntRange(0, 2).Draw(t, "loads") {
		c.Loads = append(
			c.Loads,
			network.Impedance{
				ID:      string(rune('u' + i)),
				Between: rapid.SampledFrom(pairs).Draw(t, "pair"),
				ResistanceOhm: rapid.Float64Range(5, 200).
					Draw(t, "ohms"),
				ReactanceOhm: rapid.Float64Range(0, 50).Draw(t, "reactance"),
			},
		)
	}
	return c
}

// furnish hangs what a shop has besides motors on a drawn case.
func furnish(t *rapid.T, c *network.Case, loaded bool, pairs []network.Pair) {
	ohms := func(most float64, name string) float64 { return rapid.Float64Range(0, most).Draw(t, name) }
	if rapid.Bool().Draw(t, "transformer") {
		c.Transformers = []network.Transformer{
			{ID: "t", Winding: network.Winding{
				Ratio: rapid.Float64Range(0.9, 1.2).Draw(t, "ratio"),
				ResistanceOhm: ohms(
					0.2,
					"tr",
				),
				ReactanceOhm:   ohms(0.3, "tx"),
				CoreOhm:        200 + ohms(3000, "core"),
				MagnetisingOhm: 100 + ohms(1000, "magnetising"),
			}},
		}
		c.Motors[0].Behind = "t"
	}
	if c.Supply.Phases == 1 && rapid.Bool().Draw(t, "supply transformer") {
		ratio := rapid.Float64Range(0.5, 3).Draw(t, "supply ratio")
		c.Supply.Volts /= ratio
		c.Supply.Transformer = &network.Winding{
			Ratio:         ratio,
			ResistanceOhm: ohms(0.1, "sr"),
			ReactanceOhm:  ohms(0.2, "sx"),
			CoreOhm:       200 + ohms(2000, "s core"),
		}
	}
	for i := range c.Motors {
		if rapid.Bool().Draw(t, "conductor") {
			c.Motors[i].Conductor = network.Conductor{ResistanceOhm: ohms(0.3, "cr"), ReactanceOhm: ohms(0.1, "cx")}
		}
	}
	if rapid.Bool().Draw(t, "heater") {
		c.ThreePhaseLoads = []network.ThreePhase{
			{
				ID:         "h",
				Connection: rapid.SampledFrom([]string{"wye", "delta"}).Draw(t, "h joined"),
				ResistanceOhm: rapid.Float64Range(20, 200).
					Draw(t, "hr"),
				ReactanceOhm: ohms(30, "hx"),
				Behind:       rapid.SampledFrom([]string{"", "t"}).Draw(t, "h behind"),
			},
		}
		if c.Transformers == nil {
			c.ThreePhaseLoads[0].Behind = ""
		}
	}
	if rapid.Bool().Draw(t, "drive") {
		c.Rectifiers = []network.Rectifier{
			{
				ID:                 "d",
				Between:            rapid.SampledFrom(pairs).Draw(t, "d pair"),
				Watts:              rapid.Float64Range(0, 800).Draw(t, "d watts"),
				DisplacementFactor: rapid.Float64Range(0.6, 1).Draw(t, "dpf"),
			},
		}
		if !loaded {
			c.Rectifiers[0].Between = network.AB // at held slips the made leg may have no volts for constant power
		}
	}
}

// Identity 1: on three balanced stiff lines the network is the textbook motor.
func TestBalancedLinesGiveTheTextbookMotor(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := circuits(t, false)
		s := rapid.Float64Range(0.001, 1).Draw(t, "slip")
		supply := network.Supply{Phases: 3, Volts: 400, Hertz: 50}
		r, err := network.Solve(
			network.Case{
				Supply: supply,
				Motors: []network.Motor{{ID: "m", Poles: 4, RatedHertz: 50, Circuit: c, Slip: slip(s)}},
			},
		)
		require.NoError(t, err)
		// Impedances in series and parallel, as in Fitzgerald, chapter 6.
		rotor := complex(0, 0)
		for _, g := range c.Cages {
			rotor += 1 / complex(g.ROhm/s, g.XOhm)
		}
		gap := 1/complex(0, c.XmOhm) + rotor
		if c.RcOhm > 0 {
			gap += complex(1/c.RcOhm, 0)
		}
		amps := complex(400/math.Sqrt(3), 0) / (complex(c.R1Ohm, c.X1Ohm) + 1/gap)
		emf := cmplx.Abs(amps / gap)
		torque := 3 * emf * emf * real(rotor) / (50 * math.Pi)
		m := r.Motors[0]
		assert.InEpsilon(t, cmplx.Abs(amps), m.LineAmps.A, 1e-9)
		assert.InEpsilon(t, cmplx.Abs(amps), m.LineAmps.C, 1e-9)
		assert.InEpsilon(t, math.Cos(cmplx.Phase(amps)), m.PowerFactor, 1e-9)
		assert.InEpsilon(t, torque, m.TorqueNm, 1e-9)
		assert.InDelta(t, 0, r.UnbalancePercent, 1e-9)
		assert.Equal(t, "abc", r.Sequence)
	})
}

// Identity 2: watts from the source are every loss and the shaft.
func TestWattsBalance(t *testing.T) {
	for _, mode := range []struct {
		name               string
		loaded, saturating bool
	}{{"fixed slips", false, false}, {"saturating", false, true}, {"loaded and saturating", true, true}} {
		t.Run(mode.name, rapid.MakeCheck(func(t *rapid.T) {
			r, err := network.Solve(cases(t, mode.loaded, mode.saturating))
			require.NoError(t, err)
			turned := math.Abs(r.Supply.Watts)
			for _, m := range r.Motors {
				turned = math.Max(turned, math.Abs(m.InputWatts))
			}
			assert.LessOrEqual(t, math.Abs(r.PowerBalanceWatts), 1e-9*math.Max(turned, 1))
		}))
	}
}

// Identity 3: the closed forms balance a motor, linear and without losses in
// the capacitors.
func TestClosedFormsBalance(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := circuits(t, false)
		s := rapid.Float64Range(1e-5, 0.03).Draw(t, "slip")
		y := c.At(s, 1, c.XmOhm, 1).Admittance
		lag := -cmplx.Phase(y)
		if lag < math.Pi/3 || lag > 2*math.Pi/3 {
			t.Skip("loaded: it would need an inductor")
		}
		ac, bc := network.BalancingMicrofarads(cmplx.Abs(y), lag, 60)
		r, err := network.Solve(network.Case{
			Supply: network.Supply{Volts: 240, Hertz: 60},
			Motors: []network.Motor{{ID: "m", Poles: 4, RatedHertz: 60, Circuit: c, Slip: slip(s)}},
			Capacitors: []network.Capacitor{
				{ID: "ac", Between: network.AC, Microfarad: ac},
				{ID: "bc", Between: network.BC, Microfarad: bc},
			},
		})
		require.NoError(t, err)
		assert.Less(t, r.UnbalancePercent, 1e-9)
		assert.Less(t, r.NegativeSequencePercent, 1e-9)
	})
}

func TestOneCapacitorBalancesAtHalfPowerFactor(t *testing.T) {
	ac, bc := network.BalancingMicrofarads(0.1, math.Pi/3, 50)
	assert.InDelta(t, 0, bc, 1e-12)
	assert.InEpsilon(t, 1e6*0.1/(math.Sqrt(3)*2*math.Pi*50), ac, 1e-12)
}

// Identity 4: scaling ohms divides amps; doubling volts quadruples torque.
func TestScaling(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := cases(t, false, false)
		k := rapid.Float64Range(0.2, 5).Draw(t, "k")
		scaled := c
		scaled.Motors, scaled.Capacitors, scaled.Loads = nil, nil, nil
		scaled.Supply.ResistanceOhm *= k
		scaled.Supply.ReactanceOhm *= k
		for _, m := range c.Motors {
			m.Circuit = m.Circuit.Scaled(k)
			m.Conductor.ResistanceOhm *= k
			m.Conductor.ReactanceOhm *= k
			scaled.Motors = append(scaled.Motors, m)
		}
		for _, p := range c.Capacitors {
			p.Microfarad /= k
			p.ESROhm *= k
			scaled.Capacitors = append(scaled.Capacitors, p)
		}
		for _, l := range c.Loads {
			l.ResistanceOhm *= k
			l.ReactanceOhm *= k
			scaled.Loads = append(scaled.Loads, l)
		}
		stretch := func(w network.Winding) network.Winding {
			w.ResistanceOhm, w.ReactanceOhm, w.CoreOhm, w.MagnetisingOhm = k*w.ResistanceOhm, k*w.ReactanceOhm,
				k*w.CoreOhm, k*w.MagnetisingOhm
			return w
		}
		scaled.Transformers, scaled.ThreePhaseLoads, scaled.Rectifiers = nil, nil, nil
		if w := c.Supply.Transformer; w != nil {
			scaled.Supply.Transformer = new(stretch(*w))
		}
		for _, x := range c.Transformers {
			x.Winding = stretch(x.Winding)
			scaled.Transformers = append(scaled.Transformers, x)
		}
		for _, l := range c.ThreePhaseLoads {
			l.ResistanceOhm, l.ReactanceOhm = k*l.ResistanceOhm, k*l.ReactanceOhm
			scaled.ThreePhaseLoads = append(scaled.ThreePhaseLoads, l)
		}
		doubled := c
		doubled.Supply.Volts *= 2
		doubled.Rectifiers = nil
		for _, l := range c.Rectifiers {
			l.Watts /= k
			scaled.Rectifiers = append(scaled.Rectifiers, l)
			l.Watts *= 4 * k
			doubled.Rectifiers = append(doubled.Rectifiers, l)
		}
		r, err := network.Solve(c)
		require.NoError(t, err)
		s, err := network.Solve(scaled)
		require.NoError(t, err)
		d, err := network.Solve(doubled)
		require.NoError(t, err)
		assert.InEpsilon(t, r.Volts.BC, s.Volts.BC, 1e-8)
		assert.InEpsilon(t, r.Supply.Amps, k*s.Supply.Amps, 1e-8)
		for i := range r.Motors {
			size := math.Abs(r.Motors[i].TorqueNm) + 1e-6
			assert.InDelta(t, 4*r.Motors[i].TorqueNm/size, d.Motors[i].TorqueNm/size, 1e-6)
			close(t, r.Motors[i].LineAmps, s.Motors[i].LineAmps, k)
		}
	})
}

// Identity 5: exchanging the capacitors' lines mirrors the result.
func TestMirror(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := cases(t, false, true)
		c.Supply.Phases = 1
		mirrored := c
		mirrored.Motors, mirrored.Capacitors, mirrored.Loads = nil, nil, nil
		swap := map[network.Pair]network.Pair{network.AB: network.AB, network.AC: network.BC, network.BC: network.AC}
		for _, m := range c.Motors {
			m.Direction = map[string]string{"abc": "acb", "acb": "abc"}[m.Direction]
			mirrored.Motors = append(mirrored.Motors, m)
		}
		for _, p := range c.Capacitors {
			p.Between = swap[p.Between]
			mirrored.Capacitors = append(mirrored.Capacitors, p)
		}
		for _, l := range c.Loads {
			l.Between = swap[l.Between]
			mirrored.Loads = append(mirrored.Loads, l)
		}
		mirrored.Rectifiers = nil
		for _, l := range c.Rectifiers {
			l.Between = swap[l.Between]
			mirrored.Rectifiers = append(mirrored.Rectifiers, l)
		}
		r, err := network.Solve(c)
		require.NoError(t, err)
		m, err := network.Solve(mirrored)
		require.NoError(t, err)
		assert.InEpsilon(t, r.Volts.BC, m.Volts.CA, 1e-7)
		assert.InEpsilon(t, r.Volts.CA, m.Volts.BC, 1e-7)
		for i := range r.Motors {
			size := math.Abs(r.Motors[i].TorqueNm) + 1e-3
			assert.InDelta(t, r.Motors[i].TorqueNm/size, -m.Motors[i].TorqueNm/size, 1e-6)
			other := m.Motors[i].LineAmps
			close(t, r.Motors[i].LineAmps, network.Legs{A: other.B, B: other.A, C: other.C}, 1)
		}
	})
}

// Identity 7: whatever validation lets through, figures come out finite.
func TestFigures(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r, err := network.Solve(cases(t, rapid.Bool().Draw(t, "loaded"), rapid.Bool().Draw(t, "saturating")))
		if err != nil {
			require.ErrorIs(t, err, network.ErrResonance)
			return
		}
		figures := []float64{
			r.Volts.AB,
			r.Volts.BC,
			r.Volts.CA,
			r.UnbalancePercent,
			r.NegativeSequencePercent,
			r.Supply.Amps,
			r.Supply.Watts,
			r.Supply.PowerFactor,
		}
		for _, m := range r.Motors {
			figures = append(
				figures,
				m.Slip,
				m.RPM,
				m.TorqueNm,
				m.ShaftWatts,
				m.PowerFactor,
				m.LineAmps.A,
				m.LineAmps.B,
				m.LineAmps.C,
				m.WindingAmps[0],
			)
			assert.GreaterOrEqual(t, m.PowerFactor, 0.0)
			assert.LessOrEqual(t, m.PowerFactor, 1+1e-9)
		}
		for _, f := range figures {
			assert.False(t, math.IsNaN(f) || math.IsInf(f, 0))
		}
	})
}
