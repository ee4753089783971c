package bench

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/waveform"
)

// rig is a 3 hp machine beside a 5 hp idler, or alone, on 240 V 60 Hz.
func rig(idler bool, draw func() float64) Case {
	of := func(k float64) Motor {
		m := Motor{
			RatedAmps: 9 * k, RatedNm: 12 * k, RatedRPM: 1745, Losses: 380 * k, Megohms: 150,
			Thermal: motor.ThermalOf(motor.Body{Watts: 2237 * k, AmbientC: 25}),
			Network: network.Motor{
				Poles: 4, RatedHertz: 60, Connection: "wye", InertiaKgm2: 0.02 * k, FrictionWatts: 40 * k,
				Circuit: motor.Circuit{
					R1Ohm: 0.65 / k, X1Ohm: 1.2 / k, XmOhm: 26 / k, RcOhm: 900 / k,
					Cages: []motor.Cage{{ROhm: 0.5 / k, XOhm: 1.2 / k}},
				},
			},
		}
		return m
	}
	c := Case{
		Supply:  network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.15, ReactanceOhm: 0.08},
		Machine: of(1),
		Cans:    []Can{{ID: "c1", Microfarad: 40}, {ID: "c3", Microfarad: 60}, {ID: "s1", Microfarad: 250}},
		Draw:    draw,
	}
	if idler {
		c.Idler = new(of(1.7))
	}
	return c
}

// do does things, and none of them wrongly.
func do(t *testing.T, b *Bench, list ...Doing) {
	t.Helper()
	before := len(b.Mistakes)
	for _, d := range list {
		b.Do(d)
	}
	require.Len(t, b.Mistakes, before, "%v", b.Mistakes)
}

// What is done by hand comes to what the same events of a network in time come to, and what meters show of it settled
// to what the network of phasors has.
func TestTheBenchIsTheNetworkInTime(t *testing.T) {
	c := rig(false, nil)
	c.Supply.Earthing = network.EarthMid
	b := New(c)
	assert.Equal(t, "floats", b.Read("volts", "ce").Word)
	do(t, b, Doing{What: Clip, Of: "c3", To: "ac"}, Doing{What: Clip, Of: "s1", To: "ac"})
	require.NoError(t, b.Advance(0.1))
	do(t, b, Doing{What: Close, Of: Supply}, Doing{What: Close, Of: Machine})
	require.NoError(t, b.Advance(0.6))
	b.Do(Doing{What: Unclip, Of: "s1"}) // a start switch does so too: counted here, where a hand does it
	require.Len(t, b.Mistakes, 1)
	require.NoError(t, b.Advance(2))

	m := c.Machine.Network
	m.ID = Machine
	w := waveform.Begin(waveform.Case{
		Supply: waveform.Supply{Supply: c.Supply}, Motors: []waveform.Motor{{Motor: m, Closed: new(false)}},
		Capacitors: []waveform.Capacitor{
			{Capacitor: network.Capacitor{ID: "run", Between: network.AC, Microfarad: 60, ESROhm: canOhm}},
			{Capacitor: network.Capacitor{ID: "start", Between: network.AC, Microfarad: 250, ESROhm: canOhm}},
		},
	})
	w.Drive(0, 60)
	require.NoError(t, w.Advance(0.1))
	w.Drive(240, 60)
	w.Switch(Machine, waveform.Closed)
	require.NoError(t, w.Advance(0.7))
	w.Switch("start", waveform.Open)
	require.NoError(t, w.Advance(2.7))
	want, got := w.Read(), b.w.Read()
	assert.InEpsilon(t, want.Motors[0].RPM, got.Motors[0].RPM, 1e-3)

	m.Load = nil
	settled, err := network.Solve(network.Case{
		Supply: c.Supply, Motors: []network.Motor{m},
		Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 60, ESROhm: canOhm}},
	})
	require.NoError(t, err)
	for place, volts := range map[string]float64{
		"ab": settled.Volts.AB, "bc": settled.Volts.BC, "ca": settled.Volts.CA,
		"ae": settled.EarthVolts.A, "be": settled.EarthVolts.B, "ce": settled.EarthVolts.C,
	} {
		assert.InEpsilon(t, volts, *b.Read("volts", place).Value, 2e-3, place)
	}
	assert.InEpsilon(t, settled.Motors[0].LineAmps.C, *b.Read("amps", "machine.c").Value, 5e-3)
	assert.InEpsilon(t, settled.Supply.Amps, *b.Read("amps", "supply.a").Value, 5e-3)
	round := b.Read("amps", "machine.ab")
	assert.InEpsilon(t, settled.Motors[0].LineAmps.C, *round.Value, 5e-3, "round two it has the third's")
	assert.Contains(t, round.Says, "the third's")
	assert.InEpsilon(t, settled.Motors[0].RPM, *b.Read("rpm", Machine).Value, 2e-3)
}

// Every instrument shows what is there within its class, whatever it is off by, and a digit.
func TestMetersAreWithinTheirClass(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 0))
		for _, kind := range Meters {
			m := meter{Meter: kind, gain: kind.ClassPercent / 100 * gainShare * (2*r.Float64() - 1), draw: r.Float64}
			if kind.Digit == 0 {
				continue
			}
			v := rapid.Float64Range(0.1, 2000).Draw(t, kind.Name)
			assert.LessOrEqual(t, math.Abs(m.show(v)-v), kind.ClassPercent/100*v+kind.Digit/2*(1+1e-9), kind.Name)
		}
	})
}

// A session that is done again, sample by sample, gives the same figures to the bit.
func TestASessionIsDoneAgain(t *testing.T) {
	seeded := func() Case { return rig(true, rand.New(rand.NewPCG(7, 7)).Float64) }
	b := New(seeded())
	do(t, b, Doing{What: Clip, Of: "c3", To: "ac"}, Doing{What: Spin, Of: Idler, By: 900})
	require.NoError(t, b.Advance(0.05))
	b.Do(Doing{What: Close, Of: Supply})
	b.Do(Doing{What: Close, Of: Idler})
	require.NoError(t, b.Advance(0.8))
	b.Do(Doing{What: Close, Of: Machine})
	b.Do(Doing{What: Brake, Of: Machine, By: 0.4})
	require.NoError(t, b.Advance(0.37))
	b.Do(Doing{What: Turn, By: 90})
	require.NoError(t, b.Advance(0.3))
	again, err := Replay(seeded(), b.Log, b.Seconds())
	require.NoError(t, err)
	assert.Equal(t, b.Picture(), again.Picture())
	assert.Equal(t, b.Traces(b.Signals()), again.Traces(b.Signals()))
	assert.Equal(t, b.Read("volts", "bc"), again.Read("volts", "bc"))
}

// What would have hurt somebody is counted, and what is done in its order is not.
func TestMistakesAreCounted(t *testing.T) {
	up := []Doing{
		{What: Clip, Of: "c3", To: "ac"},
		{What: Spin, Of: Idler, By: 1700},
		{What: Close, Of: Supply},
		{What: Close, Of: Idler},
	}
	for says, c := range map[string]struct {
		first []Doing
		then  func(b *Bench)
	}{
		"": {up, func(b *Bench) {
			b.Do(Doing{What: Close, Of: Machine})
			require.NoError(t, b.Advance(0.5))
			b.Do(Doing{What: Open, Of: Machine})
			b.Do(Doing{What: Open, Of: Idler})
			b.Do(Doing{What: Open, Of: Supply})
		}},
		"before its idler was up": {up[2:], func(b *Bench) { b.Do(Doing{What: Close, Of: Machine}) }},
		"under a machine that still runs": {up, func(b *Bench) {
			b.Do(Doing{What: Close, Of: Machine})
			require.NoError(t, b.Advance(0.3))
			b.Do(Doing{What: Open, Of: Supply})
		}},
		"clipped to lines under volts": {up, func(b *Bench) { b.Do(Doing{What: Clip, Of: "c1", To: "bc"}) }},
		"unclipped from lines":         {up, func(b *Bench) { b.Do(Doing{What: Unclip, Of: "c3"}) }},
		"Terminals under volts":        {up, func(b *Bench) { b.Do(Doing{What: Touch, Of: "c3"}) }},
		"A can was touched with":       {up, charged(Doing{What: Touch, Of: "c3"})},
		"A can was clipped in with":    {up, charged(Doing{What: Clip, Of: "c3", To: "bc"})},
		"The capacitance meter was put": {up, func(b *Bench) {
			charged(Doing{What: Brake, Of: Machine})(b)
			b.Read("can", "c3")
		}},
		"Ohmmeter on a circuit":          {up, func(b *Bench) { b.Read("ohms", Idler) }},
		"Insulation tester on a circuit": {up, func(b *Bench) { b.Read("insulation", Idler) }},
		"A hand went to a shaft":         {up, func(b *Bench) { b.Do(Doing{What: Spin, Of: Idler, By: 100}) }},
	} {
		b := New(rig(true, nil))
		do(t, b, c.first...)
		require.NoError(t, b.Advance(0.4))
		c.then(b)
		if says == "" {
			assert.Empty(t, b.Mistakes)
			continue
		}
		require.NotEmpty(t, b.Mistakes, says)
		assert.Contains(t, b.Mistakes[len(b.Mistakes)-1].Says, says)
	}
}

// charged takes the can out with what it had, everything dead, until its lines are, and then does something to it.
func charged(d Doing) func(b *Bench) {
	return func(b *Bench) {
		b.Do(Doing{What: Unclip, Of: "c3"})
		_ = b.Advance(0.05)
		b.Do(Doing{What: Open, Of: Idler})
		b.Do(Doing{What: Open, Of: Supply})
		_ = b.Advance(0.1)
		if volts := math.Abs(b.can("c3", b.w.Read())); volts < deadly {
			b.w.Charge("c3", 200) // it was caught at its zero
		}
		b.Do(d)
	}
}

// A can keeps what it had when it was opened, wherever it lies, until it is discharged.
func TestACanKeepsItsCharge(t *testing.T) {
	b := New(rig(false, nil))
	b.w.Charge("c1", 300)
	require.NoError(t, b.Advance(1))
	volts := *b.Read("volts", "c1").Value
	assert.InEpsilon(t, 300*math.Exp(-1/leakSeconds), volts, 0.01)
	assert.Contains(t, b.Do(Doing{What: Discharge, Of: "c1"}), "went through the resistor")
	assert.Zero(t, *b.Read("volts", "c1").Value)
	assert.Equal(t, "Nothing: it is empty.", b.Do(Doing{What: Touch, Of: "c1"}))
	assert.InEpsilon(t, 40, *b.Read("can", "c1").Value, 0.07)
}

// A motor that hums on two lines heats, by its own model: the frame follows its windings slowly.
func TestItHeatsAsItsModel(t *testing.T) {
	b := New(rig(false, nil))
	do(t, b, Doing{What: Close, Of: Supply}, Doing{What: Close, Of: Machine})
	require.NoError(t, b.Advance(3))
	p := b.Picture().Motors[0]
	assert.True(t, p.Hums)
	assert.Zero(t, p.Turns)
	assert.Greater(t, p.Winding, 30.0)
	frame := *b.Read("celsius", Machine).Value
	assert.Less(t, frame, p.Winding)
	do(t, b, Doing{What: Pass, By: 5})
	later := b.Picture().Motors[0]
	assert.True(t, later.Burnt, "five minutes of it, and it is gone")
	assert.Greater(t, *b.Read("ohms", Machine).Value+1, 1.0)
}

// What heats a loaded motor is what the network of phasors loses in it, joined in star and in delta: each winding's
// share of its rated amps, and what comes in by its lines and does not leave by its shaft.
func TestWhatHeatsItIsWhatIsLost(t *testing.T) {
	for _, joined := range []string{"wye", network.Delta} {
		c := rig(false, nil)
		m := &c.Machine
		m.Network.Connection = joined
		b := New(c)
		do(
			t, b, Doing{What: Clip, Of: "c3", To: "ac"}, Doing{What: Spin, Of: Machine, By: 1700},
			Doing{What: Close, Of: Supply}, Doing{What: Close, Of: Machine}, Doing{What: Brake, Of: Machine, By: 0.4},
		)
		require.NoError(t, b.Advance(2))
		of := m.Network
		of.ID = Machine
		of.Load = &network.Load{Kind: "torque", NewtonMetre: 0.4 * m.RatedNm, AtRPM: m.RatedRPM}
		settled, err := network.Solve(network.Case{
			Supply: c.Supply, Motors: []network.Motor{of},
			Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 60, ESROhm: canOhm}},
		})
		require.NoError(t, err)
		want, got := settled.Motors[0], b.motors[0].heating
		assert.InEpsilon(t, (want.InputWatts-want.ShaftWatts)/m.Losses, got.Losses, 0.01, joined)
		rated := m.RatedAmps
		if joined == network.Delta {
			rated /= math.Sqrt(3)
		}
		for k, amps := range want.WindingAmps {
			assert.InEpsilon(t, amps*amps/rated/rated, got.Windings[k], 0.02, "%s, winding %d", joined, k)
		}
	}
}

// The insulation tester shows the megohms that the windings have to their frame, while nothing is under volts.
func TestInsulationIsTheMotors(t *testing.T) {
	for _, megohms := range []float64{0.6, 25, 400} {
		c := rig(false, nil)
		c.Machine.Megohms = megohms
		shown := New(c).Read("insulation", Machine)
		require.NotNil(t, shown.Value)
		assert.InDelta(t, megohms, *shown.Value, 0.05*megohms+0.005)
	}
}

// The rotation meter tells the sense in which the idler turns, and is dark where a line is missing.
func TestSequence(t *testing.T) {
	for _, sense := range []float64{1, -1} {
		b := New(rig(true, nil))
		assert.Equal(t, "dark", b.Read("sequence", Idler).Word)
		do(
			t,
			b,
			Doing{What: Spin, Of: Idler, By: 1700 * sense},
			Doing{What: Close, Of: Supply},
			Doing{What: Close, Of: Idler},
		)
		require.NoError(t, b.Advance(0.6))
		assert.InDelta(t, sense, float64(b.Picture().Motors[0].Turns), 0)
		assert.Equal(t, map[float64]string{1: "a b c", -1: "a c b"}[sense], b.Read("sequence", Idler).Word)
		two := b.Read("two-lead", Idler)
		assert.Equal(t, b.Read("sequence", Idler).Word, two.Word)
		third := map[float64]float64{1: 1, -1: 2}[sense] * 1000 / 60 / 3
		assert.InDelta(t, third, *two.Value, 1.7, "a made leg is near its place")
	}
}

// Two leads exchanged while everything stands turn the machine the other way on the same converter; under volts it is a
// mistake.
func TestLeadsOfAMachineAreExchanged(t *testing.T) {
	turns := func(exchange bool) int {
		b := New(rig(true, nil))
		do(t, b, Doing{What: Clip, Of: "c3", To: "ac"}, Doing{What: Spin, Of: Idler, By: 1700})
		if exchange {
			do(t, b, Doing{What: Exchange, Of: Machine})
		}
		do(t, b, Doing{What: Close, Of: Supply}, Doing{What: Close, Of: Idler})
		require.NoError(t, b.Advance(0.5))
		do(t, b, Doing{What: Close, Of: Machine})
		require.NoError(t, b.Advance(1.5))
		p := b.Picture().Motors[1]
		assert.Equal(t, exchange, p.Crossed)
		assert.Contains(t, b.Do(Doing{What: Exchange, Of: Machine}), "under volts")
		return p.Turns
	}
	assert.Equal(t, 1, turns(false))
	assert.Equal(t, -1, turns(true))
}

// A meter past its range says so.
func TestMetersHaveARange(t *testing.T) {
	c := rig(false, nil)
	c.Supply.Volts = 700
	b := New(c)
	b.Do(Doing{What: Close, Of: Supply})
	require.NoError(t, b.Advance(3))
	assert.Equal(t, "over", b.Read("volts", "ab").Word)
}

// Whatever is done, in whatever order, the rig goes on and its figures stay figures.
func TestAnythingCanBeDone(t *testing.T) {
	whats := []string{Close, Open, Clip, Unclip, Discharge, Touch, Brake, Spin, Exchange, Turn, Pass, "sing"}
	ofs := []string{Supply, Idler, Machine, "c1", "c3", "s1", "tea"}
	rapid.Check(t, func(t *rapid.T) {
		b := New(rig(true, nil))
		for range rapid.IntRange(1, 14).Draw(t, "doings") {
			b.Do(Doing{
				What: rapid.SampledFrom(whats).Draw(t, "what"),
				Of:   rapid.SampledFrom(ofs).Draw(t, "of"),
				To: rapid.SampledFrom([]string{"ab", "bc", "ac", ""}).
					Draw(t, "to"),
				By: rapid.Float64Range(-50, 150).Draw(t, "by"),
			})
			require.NoError(t, b.Advance(0.03))
			for _, place := range []string{"ab", "bc", "ca"} {
				shown := b.Read("volts", place)
				require.True(t, shown.Word == "over" || !math.IsNaN(*shown.Value) && *shown.Value <= 600, place)
			}
		}
	})
}
