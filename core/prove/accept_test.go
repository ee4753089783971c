package prove_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/prove"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// all is everything done.
var all = prove.Done{Checks: 9, Passed: 9, Steps: 8, Well: 8}

// put puts a figure in the place of what a reading has.
func put(r *prove.Reading, place string, value float64) {
	for i := range r.Figures {
		if r.Figures[i].Place == place {
			r.Figures[i].Value = value
			return
		}
	}
	r.Figures = append(r.Figures, prove.Figure{Place: place, Value: value})
}

// complete is every reading that a way asks for, as its own model gives them.
func complete(t testing.TB, q *feed.Question) (list []prove.Reading) {
	t.Helper()
	page, err := prove.Of(q, nil)
	require.NoError(t, err)
	for i, s := range page.States {
		var r prove.Reading
		switch {
		case s.Name == prove.Starting:
			continue
		case s.Name == prove.Standing:
			r = prove.Reading{State: s.Name}
			put(&r, "volts.ab", q.Supply.Volts)
		case len(page.Banks) == 0:
			r = prove.Reading{State: s.Name}
			for _, place := range []string{"amps.machine.a", "amps.machine.b", "amps.machine.c"} {
				put(&r, place, 0.8*q.Plate.Amps.Value)
			}
			put(&r, "hertz", q.Supply.Hertz)
			put(&r, "amps.supply", 12)
			put(&r, "volts.ab", q.Supply.Volts)       // of a motor of one phase
			for _, cell := range page.Rows[i].Cells { // as a drive's outline foretells it
				if cell.Low != nil {
					put(&r, cell.Place, (*cell.Low+*cell.High)/2)
				}
			}
		case s.Name == prove.Alone:
			r = read(t, q, fmt.Sprint(i), s.Name, -1, 0)
		default:
			r = read(t, q, fmt.Sprint(i), s.Name, *s.Share, 0)
		}
		r.ID, r.At, r.Hand = fmt.Sprint(i), fmt.Sprintf("2026-03-0%dT08:00:00Z", i+1), "B."
		if s.Name == prove.Part || s.Name == prove.Full {
			for place, value := range map[string]float64{"frame": 45, "room": 20, "up": 2} {
				put(&r, place, value)
			}
		}
		list = append(list, r)
	}
	return list
}

// of is the reading of a state among others.
func of(list []prove.Reading, state string) *prove.Reading {
	return &list[slices.IndexFunc(list, func(r prove.Reading) bool { return r.State == state })]
}

// On every way what its own model reads is accepted once everything is read and done, unless the plan itself stops it
// or a state is past its limits; and nothing is accepted before.
func TestEveryWayIsAcceptedByItsOwnModel(t *testing.T) {
	for _, w := range feed.All() {
		q := asked(t, w.Info().Name)
		a, err := prove.Accept(q, nil, prove.Done{Checks: 9, Steps: 8})
		require.NoError(t, err)
		assert.NotEqual(t, prove.Pass, a.Verdict, w.Info().Name)
		for _, n := range a.Needs {
			assert.False(t, n.Done, "%s: %s", w.Info().Name, n.Title)
			assert.NotEmpty(t, n.Says)
		}
		list := complete(t, q)
		a, err = prove.Accept(q, list, all)
		require.NoError(t, err)
		for _, n := range a.Needs {
			assert.True(t, n.Done, "%s: %s %s", w.Info().Name, n.Title, n.Says)
		}
		assert.NotEqual(t, prove.NotYet, a.Verdict)
		assert.Equal(t, rule.Worst(a.Verdicts) == rule.Stop, a.Verdict == prove.Fail, w.Info().Name)
		if a.Verdict == prove.WithLimits {
			assert.NotEmpty(t, a.Limits, w.Info().Name)
		}
		// Each thing that is asked for is missed where it is not there.
		for i := range list {
			less := slices.Delete(slices.Clone(list), i, i+1)
			b, err := prove.Accept(q, less, all)
			require.NoError(t, err)
			assert.True(t, slices.ContainsFunc(b.Needs, func(n prove.Need) bool { return !n.Done }),
				"%s without %s", w.Info().Name, list[i].State)
		}
	}
}

// Each rule of acceptance speaks where it should, and does not where it should not.
func TestAcceptanceRules(t *testing.T) {
	q := asked(t, "rotary")
	// At a quarter over what its class bears, by the resistance of copper.
	hot := func(times float64) float64 {
		rise := times * (q.Thermal.LimitC - 40)
		return (235 + 20 + rise) / (235 + 20)
	}
	for _, c := range []struct {
		rule      string
		fine, bad func(list []prove.Reading, d *prove.Done)
		verdict   string
	}{
		{"prove.step-open", func([]prove.Reading, *prove.Done) {}, func(_ []prove.Reading, d *prove.Done) {
			d.Failed = []string{"It hums and stands."}
		}, prove.Fail},
		{"prove.unloaded", func([]prove.Reading, *prove.Done) {}, func(l []prove.Reading, _ *prove.Done) {
			full := of(l, prove.Full)
			full.Figures, full.Unable = nil, true
		}, prove.WithLimits},
		{"prove.volts-far", func(l []prove.Reading, _ *prove.Done) {
			put(of(l, prove.Full), "volts.bc", 208)
		}, func(l []prove.Reading, _ *prove.Done) { put(of(l, prove.Full), "volts.bc", 200) }, prove.WithLimits},
		{"prove.winding-hot", func(l []prove.Reading, _ *prove.Done) {
			put(of(l, prove.Part), "ohm-cold", 2)
			put(of(l, prove.Part), "ohm-hot", 2*hot(0.9))
		}, func(l []prove.Reading, _ *prove.Done) {
			put(of(l, prove.Part), "ohm-cold", 2)
			put(of(l, prove.Part), "ohm-hot", 2*hot(1.25))
		}, prove.Fail},
		{"prove.frame-hot", func(l []prove.Reading, _ *prove.Done) {
			put(of(l, prove.Full), "frame", 20+q.Thermal.FrameRiseK)
		}, func(l []prove.Reading, _ *prove.Done) {
			put(of(l, prove.Full), "frame", 20+1.5*q.Thermal.FrameRiseK)
		}, prove.WithLimits},
		{"prove.far-off", func([]prove.Reading, *prove.Done) {}, func(l []prove.Reading, _ *prove.Done) {
			put(of(l, prove.Idle), "amps.machine.b", 0.1)
		}, prove.WithLimits},
	} {
		says := func(change func([]prove.Reading, *prove.Done)) (bool, prove.Acceptance) {
			list, done := complete(t, q), all
			change(list, &done)
			a, err := prove.Accept(q, list, done)
			require.NoError(t, err)
			return slices.ContainsFunc(a.Verdicts, func(v rule.Verdict) bool { return v.Rule == c.rule }), a
		}
		there, _ := says(c.fine)
		assert.False(t, there, c.rule)
		there, a := says(c.bad)
		assert.True(t, there, c.rule)
		assert.Equal(t, c.verdict, a.Verdict, c.rule)
	}
}

// While another starts the made leg may dip to three quarters of the lines and no deeper; nothing else is asked of it.
func TestADipWhileAnotherStarts(t *testing.T) {
	q := asked(t, "rotary")
	for volts, bad := range map[float64]bool{0.8: false, 0.7: true} {
		list := complete(t, q)
		r := prove.Reading{ID: "s", At: "2026-03-08T08:00:00Z", Hand: "B.", State: prove.Starting,
			AC: of(list, prove.Idle).AC, BC: of(list, prove.Idle).BC}
		for place, value := range map[string]float64{"volts.ab": 236, "volts.bc": volts * 230, "volts.ca": 225} {
			put(&r, place, value)
		}
		a, err := prove.Accept(q, append(list, r), all)
		require.NoError(t, err)
		assert.Equal(t, bad, slices.ContainsFunc(a.Verdicts, func(v rule.Verdict) bool {
			return v.Rule == "prove.dip"
		}), volts)
	}
}

// A stop of the plan stands until the state in which it would show was read and was good; it says then by what.
func TestStopsOfThePlanAreCleared(t *testing.T) {
	q := asked(t, "run-capacitor").With(func(q *feed.Question) { q.Bank.RunMicrofarad = new(20.0) })
	o := q.Choice.Taken().Outline(q)
	require.NotNil(t, o)
	var stops []string
	for _, v := range o.Verdicts {
		if v.Severity == rule.Stop {
			stops = append(stops, v.Rule)
		}
	}
	require.NotEmpty(t, stops, "a spindle does not start on a run capacitor alone")
	list := complete(t, q)
	for i := range list {
		list[i].Figures = slices.DeleteFunc(list[i].Figures, func(f prove.Figure) bool { return f.Place == "up" })
	}
	before, err := prove.Accept(q, list, all)
	require.NoError(t, err)
	assert.Equal(t, prove.Fail, before.Verdict)
	assert.True(
		t,
		slices.ContainsFunc(before.Verdicts, func(v rule.Verdict) bool { return v.Rule == "prove.plan-stop" }),
	)
	put(of(list, prove.Part), "up", 1.4)
	after, err := prove.Accept(q, list, all)
	require.NoError(t, err)
	require.NotEmpty(t, after.Cleared)
	assert.Contains(t, after.Cleared[0].Cleared, "1.4 s")
	marked := after.Clear(o.Verdicts)
	assert.True(t, slices.ContainsFunc(marked, func(v rule.Verdict) bool { return v.Cleared != "" }))
	assert.Empty(t, o.Verdicts[0].Cleared, "the plan itself stays as it was")
}

// What is signed holds for its way and its capacitors, and no longer as it was once more is read.
func TestSigned(t *testing.T) {
	q := asked(t, "rotary")
	list := complete(t, q)
	a, err := prove.Accept(q, list[:4], all)
	require.NoError(t, err)
	signed := a.Sign()
	assert.Empty(t, a.Since(signed))
	assert.Contains(t, signed.Words(), a.Title)
	more, err := prove.Accept(q, list, all)
	require.NoError(t, err)
	assert.Contains(t, more.Since(signed), "came after")
	mended := list[2]
	mended.ID, mended.Corrects = "mended", list[2].ID
	corrected, err := prove.Accept(q, append(slices.Clone(list[:4]), mended), all)
	require.NoError(t, err)
	assert.Contains(t, corrected.Since(signed), "were corrected")
	failed := all
	failed.Failed = []string{"It hums and stands."}
	worse, err := prove.Accept(q, list[:4], failed)
	require.NoError(t, err)
	assert.Contains(t, worse.Since(signed), "would now be")
	other := q.With(func(q *feed.Question) { q.Choice.BalanceAC = new(90.0) })
	changed, err := prove.Accept(other, list[:4], all)
	require.NoError(t, err)
	assert.Contains(t, changed.Since(signed), "90")
}

// Two lamps and a capacitor of a lamp's ohms on balanced lines: 1.50 and 0.40 of the phase volts, the bright one on the
// line that follows the capacitor's (closed form); with two lines exchanged, the other one is bright.
func TestLampsTellTheSequence(t *testing.T) {
	const hertz, ohm = 60, 2304
	microfarad := 1e6 / (2 * math.Pi * hertz * ohm)
	v := network.Lines{AB: 240, BC: 240, CA: 240}
	b, c := prove.Lamps(v, hertz, microfarad, ohm)
	phase := 240 / math.Sqrt(3)
	assert.InDelta(t, math.Hypot(0.3, math.Sqrt(0.75)+0.6)*phase, b, 1e-9)
	assert.InDelta(t, math.Hypot(0.3, math.Sqrt(0.75)-0.6)*phase, c, 1e-9)
	page, err := prove.Of(asked(t, "rotary"), nil)
	require.NoError(t, err)
	assert.Len(t, page.Sequence, 4)
	assert.Contains(t, page.Sequence[2].Value, "bright")
}

// An idler turned up takes more amps at every step, and stops past what is foretold; at each step, full volts among
// them, the network alone solved at those volts lies between.
func TestARampOfReducedVolts(t *testing.T) {
	q := asked(t, "rotary")
	page, err := prove.Of(q, nil)
	require.NoError(t, err)
	require.Len(t, page.Ramp, 4)
	hung, err := q.Choice.Taken().Hang(q, "machine", 0)
	require.NoError(t, err)
	last := 0.0
	for i, r := range page.Ramp {
		var low, high, stop float64
		_, err := fmt.Sscanf(r.Value, "%g–%g A", &low, &high)
		require.NoError(t, err, r.Value)
		_, err = fmt.Sscanf(r.Remark, "stop at %g A", &stop)
		require.NoError(t, err, r.Remark)
		assert.Greater(t, high, last)
		assert.GreaterOrEqual(t, stop, high)
		last = high
		c := network.Case{Supply: q.Supply, Motors: hung.Motors[1:]}
		by := float64(i+1) / 4
		c.Supply.Phases = 1
		c.Supply.Volts *= by
		c.Supply.ResistanceOhm *= by * by
		c.Supply.ReactanceOhm *= by * by
		s, err := network.Solve(c)
		require.NoError(t, err)
		assert.Less(t, low, s.Motors[0].LineAmps.A)
		assert.Greater(t, high, s.Motors[0].LineAmps.A)
	}
}

// No lamp of a sequence indicator has more volts than it is made for, on 400 V behind a transformer neither; the
// brightest is well lit.
func TestNoLampBursts(t *testing.T) {
	for _, way := range []string{"230/460", "400"} {
		su := supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"}
		p := plate.Typed{Output: "1.5 kW", Volts: way, Amps: "3.5", RPM: "1430", Hertz: "50"}
		if way != "400" {
			p.Amps = "6/3"
		}
		m := shop.Motor{
			Plate:  p,
			Driven: shop.Driven{Load: "spindle"},
			Fed:    shop.Fed{Way: feed.Choice{Route: "rotary"}},
		}
		st := study.Of(su, m, motor.FitCircuit)
		require.True(t, st.Reading.Sound)
		page, err := prove.Of(st.Ask(shop.Shop{Supply: su}, shop.Machine{Motors: []shop.Motor{m}}), nil)
		require.NoError(t, err)
		require.Len(t, page.Sequence, 4)
		text := page.Sequence[2].Value
		var bright float64
		_, err = fmt.Sscanf(text[strings.Index(text, "on N ")+len("on N "):], "%g V, bright", &bright)
		require.NoError(t, err, text)
		row := 1.0
		if strings.Contains(text, "in a row") {
			_, err = fmt.Sscanf(text[strings.Index(text, "; ")+2:], "%g lamps", &row)
			require.NoError(t, err, text)
		}
		assert.LessOrEqual(t, bright, 240*row, text)
		assert.Greater(t, bright, 120*row, text)
		assert.Equal(t, way == "400", row > 1, text)
	}
}

// The plate's, the leads' and the circuit's own stops stand whatever is read; the supply's amps are held to its
// breaker.
func TestWhatStopsAnAcceptance(t *testing.T) {
	q := asked(t, "rotary").With(func(q *feed.Question) { q.Fed.BreakerAmps = 30 })
	spoke := func(a prove.Acceptance, id string) bool {
		return slices.ContainsFunc(a.Verdicts, func(v rule.Verdict) bool { return v.Rule == id })
	}
	for amps, over := range map[float64]bool{23.5: false, 25: true} { // of 24 that a breaker of 30 carries for hours
		list := complete(t, q)
		put(of(list, prove.Part), "amps.supply", amps)
		a, err := prove.Accept(q, list, all)
		require.NoError(t, err)
		assert.Equal(t, over, spoke(a, "route.circuit"), amps)
	}
	done := all
	done.Stops = []string{"Insulation too low."}
	a, err := prove.Accept(q, complete(t, q), done)
	require.NoError(t, err)
	assert.Equal(t, prove.Fail, a.Verdict)
	assert.True(t, spoke(a, "prove.plan-stop"))
}

// Only a load, or another's start, may be written down as out of reach.
func TestOutOfReach(t *testing.T) {
	for state, fine := range map[string]bool{
		prove.Standing: false, prove.Alone: false, prove.Idle: false, prove.Part: true, prove.Full: true,
		prove.Starting: true,
	} {
		r := prove.Reading{ID: "x", At: "2026-03-01T08:00:00Z", Hand: "B.", State: state, Unable: true}
		assert.Equal(t, fine, r.Check() == nil, state)
	}
}

// Behind a drive its motor's amps, its line's, hertz and bus stand beside what its outline gives: full output at
// plate amps, more from the line the more it does; where nobody knows its share nothing is foretold of it.
func TestBehindADrive(t *testing.T) {
	q := asked(t, "drive-single-phase")
	page, err := prove.Of(q, nil)
	require.NoError(t, err)
	middle := func(state, place string) float64 {
		for _, c := range row(t, page, state).Cells {
			if c.Place == place && c.Low != nil {
				assert.Less(t, *c.Low, *c.High)
				return (*c.Low + *c.High) / 2
			}
		}
		return 0
	}
	assert.InEpsilon(t, q.Plate.Amps.Value, middle(prove.Full, "amps.machine.b"), 0.05)
	assert.InDelta(t, 60, middle(prove.Full, "hertz"), 0.1)
	assert.InEpsilon(t, math.Sqrt2*240, middle(prove.Standing, "bus"), 1e-6)
	assert.Less(t, middle(prove.Idle, "amps.machine.a"), middle(prove.Part, "amps.machine.a"))
	assert.Less(t, middle(prove.Part, "amps.supply"), middle(prove.Full, "amps.supply"))
	assert.Contains(t, row(t, page, prove.Full).Says[0], "would prove it")
}
