package rotary_test

import (
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
)

func sized(t testing.TB, output, kind string) rotary.Input {
	t.Helper()
	p, problems := plate.Read(plate.Typed{Output: output, Volts: "230/460", RPM: "1745", Hertz: "60"})
	require.Empty(t, problems)
	filled, problems := plate.Fill(p, plate.Supply{Volts: 240, Hertz: 60})
	require.Empty(t, problems)
	fit, err := motor.FitCircuit(filled.Target())
	require.NoError(t, err)
	k, ok := load.ByName(kind)
	require.True(t, ok)
	return rotary.Input{
		Machine: machine.Machine{
			Plate:  filled,
			Fit:    fit,
			Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.08, ReactanceOhm: 0.04},
			Load:   k,
		},
		Tariff:      0.2,
		HoursPerDay: 5,
	}
}

func size(t *testing.T, in rotary.Input) rotary.Answer {
	t.Helper()
	a, err := rotary.Size(in)
	require.NoError(t, err)
	return a
}

func TestSize(t *testing.T) {
	a := size(t, sized(t, "3 hp", "ram"))
	require.True(t, a.ModelReached)
	assert.InDelta(t, 5*745.7, a.IdlerWatts, 1)
	assert.InDelta(t, 3*745.7, a.Schools[0].Watts, 1e-6)
	assert.InDelta(t, 5*745.7, a.Schools[2].Watts, 1e-6, "half as much again, the next standard one")
	require.Len(t, a.States, 4)
	assert.Equal(t, "idler alone", a.States[0].Title)
	require.NotNil(t, a.StartSeconds)
	assert.GreaterOrEqual(t, a.StartMargin, 1.2)
	assert.Less(t, a.States[2].HottestPercent, 100.5)
	assert.InDelta(t, a.IdleWatts/1000*5*0.2, a.IdlePerDay, 1e-9)
	require.NotNil(t, a.Idler.Seconds)
	assert.Less(t, *a.Idler.Seconds, 3.0)
	// What is found is the smallest: the rating below it does not do.
	ratings := rotary.Ratings(60)
	for i, r := range ratings {
		if math.Abs(r-a.ModelWatts) < 1 {
			in := sized(t, "3 hp", "ram")
			in.IdlerWatts = &ratings[i-1]
			smaller := size(t, in)
			rules := []string{}
			for _, v := range smaller.Verdicts {
				rules = append(rules, v.Rule)
			}
			assert.Contains(t, rules, "rotary.idler-small")
		}
	}
}

// The closed form of the idler alone balances it, put back into the network: the idler
// stands at its slip, nothing saturates further.
func TestClosedFormBalancesTheIdler(t *testing.T) {
	a := size(t, sized(t, "3 hp", "spindle"))
	lag := math.Atan2(
		math.Sqrt(3)*(a.ClosedAC+a.ClosedBC),
		a.ClosedAC-a.ClosedBC,
	) // from their ratio: sin(120°−φ) and sin(φ−60°)
	ac, bc := network.BalancingMicrofarads(1, lag, 60)
	assert.InEpsilon(t, a.ClosedAC/a.ClosedBC, ac/bc, 1e-9)
	assert.Greater(t, lag, math.Pi/3)
	assert.Less(t, lag, math.Pi/2)
}

// On a stiff supply, of idlers with one circuit per unit the bigger never starts a
// machine worse.
func TestABiggerIdlerNeverStartsWorse(t *testing.T) {
	in := sized(t, "2 hp", "compressor-loaded")
	in.Supply.ResistanceOhm, in.Supply.ReactanceOhm = 0, 0
	last := 0.0
	for _, watts := range rotary.Ratings(60)[2:] {
		in.IdlerWatts = &watts
		a := size(t, in)
		assert.GreaterOrEqual(t, a.StartMargin, 0.98*last, "capacitors are whole microfarads")
		last = math.Max(last, a.StartMargin)
	}
}

// A harder start never takes a smaller idler, nor a bigger motor.
func TestHarderNeverTakesASmallerIdler(t *testing.T) {
	last := 0.0
	for _, kind := range []string{"spindle", "compressor-unloaded", "compressor-loaded"} {
		in := sized(t, "2 hp", kind)
		in.LoadShare = new(0.6)
		a := size(t, in)
		assert.GreaterOrEqual(t, a.ModelWatts, last)
		last = a.ModelWatts
	}
	last = 0
	for _, output := range []string{"0.5 hp", "1 hp", "2 hp", "5 hp"} {
		a := size(t, sized(t, output, "saw"))
		assert.GreaterOrEqual(t, a.ModelWatts, last)
		last = a.ModelWatts
	}
}

func TestWhatCannotBe(t *testing.T) {
	in := sized(t, "10 hp", "winch")
	in.Supply.ResistanceOhm = 0.6
	a := size(t, in)
	assert.False(t, a.ModelReached)
	assert.Equal(t, "rotary.none", a.Verdicts[0].Rule)
}

// An idler too small is told what it does not do, and one just large enough is not.
func TestTheSmallestIdlerIsAnEdge(t *testing.T) {
	told := func(a rotary.Answer, id string) bool {
		return slices.ContainsFunc(a.Verdicts, func(v rule.Verdict) bool { return v.Rule == id })
	}
	for _, c := range []struct {
		rule, kind string
		wrong      func(a rotary.Answer) bool
	}{
		{"rotary.no-start", "compressor-loaded", func(a rotary.Answer) bool {
			return a.StartMargin < 1 ||
				a.StartSeconds == nil
		}},
		{"capacitor.winding-at-load", "compressor-loaded", func(a rotary.Answer) bool {
			return a.States[2].Runs && left(a) < a.LoadShare*3*745.7
		}},
		{"capacitor.winding-at-full", "saw", func(a rotary.Answer) bool {
			return left(a) >= a.LoadShare*3*745.7 && left(a) < 3*745.7
		}},
	} {
		seen := map[bool]bool{}
		for _, watts := range rotary.Ratings(60) {
			in := sized(t, "3 hp", c.kind)
			in.IdlerWatts = &watts
			a := size(t, in)
			assert.Equal(t, c.wrong(a), told(a, c.rule), "%s at %.0f W", c.rule, watts)
			seen[c.wrong(a)] = true
		}
		assert.Len(t, seen, 2, "%s is tripped and not", c.rule)
	}
}

// left is what is left of the output by service factor or by heat.
func left(a rotary.Answer) (watts float64) {
	for _, w := range []*float64{a.FactorWatts, &a.Duty.Watts} {
		if w != nil {
			watts = math.Max(watts, *w)
		}
	}
	return watts
}

func BenchmarkSize(b *testing.B) {
	in := sized(b, "3 hp", "ram")
	for b.Loop() {
		if _, err := rotary.Size(in); err != nil {
			b.Fatal(err)
		}
	}
}

// Ways of bringing the idler up: the start capacitors' relay sees volts that rise, a pony
// brings it past where it pulls in, and no rope is advised.
func TestStarts(t *testing.T) {
	for _, c := range []struct{ output, kind string }{{"3 hp", "ram"}, {"1 hp", "saw"}, {"5 hp", "planer"}} {
		a := size(t, sized(t, c.output, c.kind))
		by := map[string]rotary.Start{}
		advised := 0
		for _, s := range a.Starts {
			by[s.Name] = s
			if s.Advised {
				advised++
			}
		}
		assert.Equal(t, 1, advised)
		assert.True(t, by["capacitors"].Advised)
		require.NotNil(t, a.Idler.Relay)
		assert.Greater(t, *a.Idler.Relay.PickUp, 1.15*a.Idler.Relay.Standing)
		assert.Less(t, *a.Idler.Relay.PickUp, a.States[0].Volts.BC, "it stays picked up once it runs")
		require.NotNil(t, by["packaged"].Seconds)
		assert.Less(t, *by["packaged"].Seconds, *by["capacitors"].Seconds, "more capacitance, a shorter start")
		require.NotNil(t, by["pony"].Seconds)
		assert.Greater(t, *by["pony"].Seconds, *by["capacitors"].Seconds)
		assert.Nil(t, by["rope"].Seconds)
		assert.Contains(t, by["rope"].Says, "never")
		assert.Greater(t, a.StartsAnHour, 1.0)
		assert.Equal(t, "L1 and L2", a.Electronics.Pair)
		assert.Greater(t, a.Electronics.Dip, 5.0, "a start pulls the made leg down")
	}
}

// What is tried with the choices of an answer is that answer; other capacitors move the
// legs, and are kept when they are somebody's choice.
func TestTry(t *testing.T) {
	in := sized(t, "3 hp", "ram")
	a := size(t, in)
	in.IdlerWatts, in.BalanceAC, in.BalanceBC = &a.IdlerWatts, &a.BalanceAC, &a.BalanceBC
	tried, err := rotary.Try(in)
	require.NoError(t, err)
	assert.Equal(t, a.States, tried.States)
	assert.Equal(t, a.Accept, tried.Accept)
	in.BalanceAC = new(0.0)
	bare, err := rotary.Try(in)
	require.NoError(t, err)
	assert.Greater(t, bare.States[2].Unbalance, a.States[2].Unbalance)
	whole := size(t, in)
	assert.InDelta(t, 0, whole.BalanceAC, 1e-12)
	assert.InDelta(t, a.BalanceAC, whole.TunedAC, 1e-9, "the model's own is told beside it")
}

// Each state is judged by what counts in it.
func TestAccept(t *testing.T) {
	a := size(t, sized(t, "3 hp", "ram"))
	by := map[string]bool{}
	for _, j := range a.Accept {
		by[j.State+": "+j.Figure] = j.Accepted
		assert.Equal(t, j.Value <= j.Limit*1.005, j.Accepted, j.Figure)
	}
	assert.True(t, by["idler alone: made leg, of plate volts"])
	assert.True(t, by["at 60 % load: machine, hottest winding"])
	assert.False(t, by["at full output: machine, hottest winding"])
	assert.NotContains(t, by, "at 60 % load: made leg, of plate volts")
	assert.NotContains(t, by, "idler alone: legs apart")
}

// What balances and starts the idler is made up of what is sold, covers the highest volts
// of any state with supply tolerance and margin, and has a bleed on each part.
func TestBanks(t *testing.T) {
	for _, output := range []string{"1 hp", "3 hp", "10 hp"} {
		a := size(t, sized(t, output, "saw"))
		ca, bc := 240.0, 240.0
		for _, s := range a.States {
			ca, bc = math.Max(ca, s.Volts.CA), math.Max(bc, s.Volts.BC)
		}
		for _, c := range []struct {
			bank             capacitor.Bank
			microfarad, sees float64
		}{{a.Banks.AC, a.BalanceAC, ca}, {a.Banks.BC, a.BalanceBC, bc}} {
			sum := 0.0
			for _, part := range c.bank.Run {
				sum += part
			}
			assert.InDelta(t, c.microfarad, sum, 0.05*c.microfarad+1, output)
			assert.InEpsilon(t, c.sees, c.bank.Volts.Sees, 1e-9)
			assert.GreaterOrEqual(t, c.bank.Volts.Rated, 1.1*1.05*c.sees)
			assert.Len(t, c.bank.Bleeds, len(c.bank.Run))
		}
		low := 0.0
		for _, part := range a.Banks.Start.Start {
			low += part.Low
		}
		assert.GreaterOrEqual(t, low, a.Idler.StartMicrofarad, output)
		assert.GreaterOrEqual(t, a.Banks.Start.Volts.Rated, 1.1*1.05*240)
		assert.Len(t, a.Banks.Start.Bleeds, len(a.Banks.Start.Start))
	}
}

// A machine for other volts is told its transformer.
func TestTransformerAheadOfTheConverter(t *testing.T) {
	assert.Nil(t, size(t, sized(t, "3 hp", "ram")).Transformer)
	in := sized(t, "3 hp", "ram")
	in.Plate.Volts.Value, in.Plate.Amps.Value = 460, 4.5
	in.Machine = in.Stepped()
	step := size(t, in).Transformer
	require.NotNil(t, step)
	assert.InDelta(t, 240, step.FromVolts, 1e-9)
	assert.InDelta(t, 460, step.ToVolts, 1e-9)
}

// An idler that is just enough starts hard, and one whose capacitors are too large runs hot.
func TestWhatIsSaidOfAnIdler(t *testing.T) {
	said := map[string]bool{}
	for _, in := range []rotary.Input{sized(t, "3 hp", "ram"), sized(t, "5 hp", "spindle-in-gear")} {
		for _, times := range []float64{0.5, 0.67, 1, 1.5, 2} {
			in.IdlerWatts = new(times * in.Plate.Output.Value)
			for _, microfarad := range []*float64{nil, new(20.0), new(120.0), new(260.0)} {
				in.BalanceAC, in.BalanceBC = microfarad, microfarad
				a, err := rotary.Size(in)
				require.NoError(t, err)
				for _, v := range a.Verdicts {
					said[v.Rule] = true
				}
			}
		}
	}
	for _, id := range []string{"rotary.hard-start", "rotary.idler-hot", "rotary.idler-small", "rotary.unbalance"} {
		assert.True(t, said[id], id)
	}
}

// What is chosen for the capacitors is kept under the names that there are.
func TestBalancesHaveTheirNames(t *testing.T) {
	field, ok := reflect.TypeFor[feed.Choice]().FieldByName("Balance")
	require.True(t, ok)
	names := []string{""}
	for _, b := range rotary.Balances {
		names = append(names, b.Name)
		assert.NotEmpty(t, b.Says)
	}
	assert.Equal(t, strings.Join(names, ","), field.Tag.Get("enum"))
}

// Sources that are alike are 3 dB louder than one, and one that is far quieter adds nothing.
func TestLouder(t *testing.T) {
	assert.InDelta(t, 63.01, rotary.Louder(60, 60), 0.01)
	assert.InDelta(t, 60, rotary.Louder(60, 20), 0.01)
	assert.InDelta(t, 3.76, rotary.Decibels(8000, 60, 4)-rotary.Decibels(4000, 60, 4), 0.01)
	assert.Greater(t, rotary.Decibels(4000, 50, 2), rotary.Decibels(4000, 50, 4))
}
