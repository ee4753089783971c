package rotary

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
)

// fed is a machine on a usual supply.
func fed(t testing.TB, typed plate.Typed, kind string, volts float64) Input {
	t.Helper()
	p, problems := plate.Read(typed)
	require.Empty(t, problems)
	hertz := p.Hertz
	filled, problems := plate.Fill(p, plate.Supply{Volts: volts, Hertz: hertz})
	require.Empty(t, problems)
	fit, err := motor.FitCircuit(filled.Target())
	require.NoError(t, err)
	k, ok := load.ByName(kind)
	require.True(t, ok)
	return Input{Machine: machine.Machine{
		Plate: filled, Fit: fit, Load: k,
		Supply: network.Supply{Phases: 1, Volts: volts, Hertz: hertz, ResistanceOhm: 0.08, ReactanceOhm: 0.04},
	}}
}

// several are machines of both regions, of all sizes and kinds of load.
func several(t testing.TB) (list []Input) {
	for i, output := range []string{"0.5 hp", "1 hp", "2 hp", "3 hp", "5 hp", "7.5 hp", "10 hp"} {
		for k, kind := range []string{"spindle", "ram", "saw", "fan", "compressor-unloaded"} {
			typed := plate.Typed{
				Output: output,
				Volts:  "230/460",
				RPM:    []string{"1745", "3450", "1160"}[(i+k)%3],
				Hertz:  "60",
			}
			if (i+k)%2 == 0 {
				typed.ServiceFactor = "1.15"
			}
			list = append(list, fed(t, typed, kind, 240))
		}
	}
	for i, output := range []string{"0.55 kW", "1.5 kW", "2.2 kW", "4 kW", "5.5 kW"} {
		for k, kind := range []string{"spindle", "planer"} {
			list = append(list, fed(t, plate.Typed{Output: output, Volts: "230/400",
				RPM: []string{"1420", "2850", "945"}[(i+k)%3], Hertz: "50"}, kind, 230))
		}
	}
	return list
}

// The search finds what a grid over all capacitors finds, for every aim: its own cost is no
// further above the best of the grid's whole microfarads than rounding is.
func TestTheSearchAgainstAGrid(t *testing.T) {
	all := several(t)
	for i := 0; i < len(all); i += 4 {
		in := all[i]
		in.Balance = Balances[i/4%len(Balances)].Name
		ref, err := referenceIdler(in.Supply.Volts, in.Supply.Hertz)
		require.NoError(t, err)
		for _, watts := range sizes(in) {
			r := newRig(in, ref, watts)
			r.tune()
			b := newBench(r)
			grid := func(a aim, foundAC, foundBC float64) {
				found, best := b.cost(a, foundAC, foundBC), math.Inf(1)
				most := 3 * math.Max(foundAC, 10)
				step := math.Max(1, math.Round(most/30))
				for ac := a.least[0]; ac <= most; ac += step {
					for bc := a.least[1]; bc <= most; bc += step {
						best = math.Min(best, b.cost(a, ac, bc))
					}
				}
				assert.LessOrEqual(t, found, 1.005*best, "%s %s at %.0f W: %.0f and %.0f µF",
					in.Balance, in.Load.Name, watts, foundAC, foundBC)
			}
			grid(r.aim(), r.ac, r.bc)
			if in.Balance == Switched {
				grid(aim{share: 1, least: [2]float64{r.ac, r.bc}}, r.ac+r.second[0], r.bc+r.second[1])
			}
		}
	}
}

// A second bank that comes in with the load leaves about as much as capacitors for full output alone,
// with the idle leg as even as those for idle have it; left in, it does what those for full
// output do, and that is said.
func TestASecondBank(t *testing.T) {
	all := several(t)
	for i := 2; i < len(all); i += 6 {
		answers := map[string]Answer{}
		rungs := map[string]Rung{}
		for _, balance := range []string{ForIdle, ForFull, Switched} {
			in := all[i]
			in.Balance, in.IdlerWatts = balance, new(standard(1.5*in.Plate.Output.Value, in.Supply.Hertz))
			a, err := Size(in)
			require.NoError(t, err)
			answers[balance] = a
			ref, err := referenceIdler(in.Supply.Volts, in.Supply.Hertz)
			require.NoError(t, err)
			r := newRig(in, ref, *in.IdlerWatts)
			r.tune()
			rungs[balance] = r.rung()
		}
		a, output := answers[Switched], all[i].Plate.Output.Value
		require.NotNil(t, a.Second)
		assert.Nil(t, answers[ForFull].Second)
		assert.InDelta(t, answers[ForIdle].BalanceAC, a.BalanceAC, 1e-9)
		assert.InDelta(t, answers[ForIdle].States[1].Unbalance, a.States[1].Unbalance, 1e-9)
		// All but what the bank for idle, which stays, takes of it.
		assert.GreaterOrEqual(t, rungs[Switched].best(output), 0.92*rungs[ForFull].best(output))
		assert.GreaterOrEqual(t, rungs[Switched].best(output), 0.98*rungs[ForIdle].best(output))
		assert.Greater(t, a.Second.LoadAmps, 0.0)
		assert.GreaterOrEqual(t, a.Second.LeftIn, 100*max(a.States[0].Volts.BC, a.States[0].Volts.CA)/
			all[i].Plate.Volts.Value, "it pushes the idle leg up")
		said := false
		for _, v := range a.Verdicts {
			said = said || v.Rule == "rotary.second-bank"
		}
		assert.Equal(t, a.Second.AC+a.Second.BC > 0, said)
		// By hand it is another.
		in := all[i]
		in.Balance, in.IdlerWatts, in.BalanceAC, in.BalanceBC = Switched, &a.IdlerWatts, &a.BalanceAC, &a.BalanceBC
		in.SecondAC, in.SecondBC = new(0.0), new(0.0)
		without, err := Try(in)
		require.NoError(t, err)
		in.SecondAC, in.SecondBC = &a.Second.AC, &a.Second.BC
		with, err := Try(in)
		require.NoError(t, err)
		assert.InDelta(t, a.States[3].HottestPercent, with.States[3].HottestPercent, 0.1)
		assert.InDelta(t, without.States[1].Unbalance, with.States[1].Unbalance, 0.05, "it is out while it idles")
	}
}

// The usual choice is what a search over every standard idler comes to: none that is smaller
// meets the same rules, none of a usual size leaves more where none leaves all, and it
// carries no stop of its own making.
func TestTheUsualChoiceAgainstAllIdlers(t *testing.T) {
	all := several(t)
	require.GreaterOrEqual(t, len(all), 40)
	full, none := 0, 0
	for _, in := range all {
		a, err := Size(in)
		require.NoError(t, err)
		ladder, err := Ladder(in, a)
		require.NoError(t, err)
		name := fmt.Sprintf("%.0f W %s", in.Plate.Output.Value, in.Load.Name)
		if !a.ModelReached {
			none++
			for _, g := range ladder {
				assert.False(t, g.Fits, "%s: %.0f W fits", name, g.Watts)
			}
			continue
		}
		var taken Rung
		for _, g := range ladder {
			if g.Usual {
				taken = g
			}
		}
		require.True(t, taken.Fits, name)
		assert.Equal(t, taken.Full, a.ModelFull, name)
		for _, g := range ladder {
			if g.Watts < taken.Watts {
				assert.False(t, g.Fits && g.Full, "%s: %.0f W is enough", name, g.Watts)
			}
			if !taken.Full && g.Fits && g.Times <= usualTimes/nearly {
				assert.False(t, g.Full, name)
				assert.LessOrEqual(t, g.best(in.Plate.Output.Value), alike*taken.best(in.Plate.Output.Value), name)
			}
		}
		if taken.Full {
			full++
		}
		for _, v := range a.Verdicts {
			assert.NotEqual(t, "stop", string(v.Severity), "%s: %s", name, v.Says)
		}
	}
	assert.Greater(t, full, 3, "some leave the whole output")
	assert.Less(t, full+none, len(all), "some leave a part")
	assert.Less(t, none, len(all)/10)
}

// On a ladder each larger idler starts the machine better, leaves as much at least, and takes
// more when it idles.
func TestALadderClimbs(t *testing.T) {
	all := several(t)
	for i := 1; i < len(all); i += 3 {
		in := all[i]
		in.Supply.ResistanceOhm, in.Supply.ReactanceOhm = 0, 0 // a weak supply holds a large idler back
		a, err := Size(in)
		require.NoError(t, err)
		ladder, err := Ladder(in, a)
		require.NoError(t, err)
		output := in.Plate.Output.Value
		for k := 1; k < len(ladder); k++ {
			below, g := ladder[k-1], ladder[k]
			assert.Greater(t, g.Watts, below.Watts)
			assert.GreaterOrEqual(t, g.StartMargin, 0.98*below.StartMargin)
			assert.Greater(t, g.IdleWatts, below.IdleWatts)
			assert.GreaterOrEqual(t, g.best(output), 0.98*below.best(output), "%.0f W", g.Watts)
		}
	}
}
