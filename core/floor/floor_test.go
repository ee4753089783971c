package floor_test

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	_ "brackmoor/core/feed/ways"
	"brackmoor/core/floor"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/demo"
)

var anew = flag.Bool("anew", false, "write the golden shops anew")

// fit is motor.FitCircuit, remembered over all tests.
func fit(t motor.Target) (motor.Fit, error) {
	if f, ok := fits.Load(t); ok {
		return f.(motor.Fit), nil
	}
	f, err := motor.FitCircuit(t)
	if err == nil {
		fits.Store(t, f)
	}
	return f, err
}

var fits sync.Map

// shopOf is a demo shop, or an invented one of testdata.
func shopOf(t testing.TB, name string) shop.Shop {
	t.Helper()
	text, err := demo.Files.ReadFile(name + ".json")
	if err != nil {
		text, err = os.ReadFile(filepath.Join("testdata", name+".json"))
	}
	require.NoError(t, err)
	file, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	return file.Shops[0]
}

var golden = []string{
	"tarn-hollow", "ferry-stairs", "alder-loft", "sedge-garage", "quoin-works", "marram-shed", "tallow-mill",
	"cold-harbour",
}

// all is a state in which everything is on.
func all(sh shop.Shop) site.State {
	s := sh.State
	s.On = sh.Site.IDs()
	for _, m := range sh.Machines {
		s.On = append(s.On, m.ID)
	}
	return s
}

// What was learned of a converter's idler on a machine behind it counts on the floor, the last of it; of an idler of
// another size nothing does.
func TestALearnedIdler(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	percent := func() float64 {
		p, err := floor.Of(sh, fit).Solve(all(sh))
		require.NoError(t, err)
		require.NotEmpty(t, p.Converters)
		return p.Converters[0].IdlerPercent
	}
	before, watts := percent(), 0.0
	for _, m := range sh.Machines {
		if m.ID == sh.Site.Converters[0].Idler {
			read, _ := plate.Read(m.Motors[0].Plate)
			watts = read.OutputWatts
		}
	}
	heavy := motor.Same
	heavy.Magnetising = 0.7 // takes more amps to idle
	learned := func(watts float64, idler motor.Turned) {
		for i := range sh.Machines {
			m := &sh.Machines[i]
			if sh.Site.Place(m.ID, m.Motors[0].ID).On == sh.Site.Converters[0].ID {
				m.Motors[0].Learned = &machine.Learned{
					At: "2026-01-01T10:00:00Z", Hand: "A.", Readings: 3, Motor: motor.Same, Idler: idler,
					IdlerWatts: watts, Resistance: 1, Reactance: 1,
				}
				return
			}
		}
	}
	learned(watts, motor.Same)
	assert.InDelta(t, before, percent(), 1e-9, "as its plate says")
	learned(watts, heavy)
	assert.Greater(t, percent(), before+1)
	learned(2*watts, heavy)
	assert.InDelta(t, before, percent(), 1e-9, "another idler")
}

// The golden shops give what they gave, in the state that they were left in and with everything on,
// and what may run together there. What they give is checked another way by the tests below.
func TestGoldenShops(t *testing.T) {
	for _, name := range golden {
		sh := shopOf(t, name)
		f := floor.Of(sh, fit)
		var b strings.Builder
		for _, state := range []struct {
			title string
			s     site.State
		}{{"as left", sh.State}, {"all on", all(sh)}} {
			p, err := f.Solve(state.s)
			require.NoError(t, err, name)
			fmt.Fprintf(&b, "%s: main %.2f A %.1f V\n", state.title, p.Main.Amps, p.Main.Volts)
			for _, c := range p.Circuits {
				fmt.Fprintf(&b, "  %s %.2f A %.2f V\n", c.ID, c.Amps, c.Volts)
			}
			for _, c := range p.Converters {
				fmt.Fprintf(
					&b,
					"  %s %.1f %.1f %.1f V idler %.1f %% %.0f W\n",
					c.ID,
					c.Volts.AB,
					c.Volts.BC,
					c.Volts.CA,
					c.IdlerPercent,
					c.Watts,
				)
			}
			for _, m := range p.Machines {
				for _, o := range m.Motors {
					if o.Live {
						fmt.Fprintf(
							&b,
							"  %s %s %.2f A %.1f %% %.0f C %.0f rpm\n",
							o.ID,
							o.State,
							o.Amps,
							o.HottestPercent,
							o.Celsius,
							o.RPM,
						)
					}
				}
			}
			for _, x := range p.Broken {
				fmt.Fprintf(&b, "  ! %s %s %s\n", x.Severity, x.Rule, x.Where)
			}
		}
		together, err := f.Together(context.Background(), sh.State)
		require.NoError(t, err)
		for _, x := range together.Largest {
			fmt.Fprintln(&b, "together", strings.Join(x, " "))
		}
		for _, x := range together.Forbidden {
			fmt.Fprintln(&b, "never", strings.Join(x.Machines, " "), x.Rule)
		}
		for _, c := range f.Cards() {
			for _, x := range c.Broken {
				fmt.Fprintf(&b, "card %s: %s %s\n", c.ID, x.Severity, x.Rule)
			}
		}
		path := filepath.Join("testdata", name+".txt")
		if *anew {
			require.NoError(t, os.WriteFile(path, []byte(b.String()), 0o600))
		}
		want, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, string(want), b.String(), name)
	}
}

// A machine on a converter is the motors, capacitors and ohms that it is made of, put together by
// hand as one case: all figures agree.
func TestAConverterIsItsParts(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	f := floor.Of(sh, fit)
	on := []string{"tarn-converter", "tarn-hobber", "tarn-extractor"}
	p, err := f.Solve(site.State{On: on, Shares: map[string]float64{"tarn-hobber-m1": 0.7}})
	require.NoError(t, err)
	c := network.Case{Supply: sh.Supply.Network()}
	for _, x := range []struct {
		size  string
		metre float64
	}{{"4 AWG", 80 * 0.3048}, {"4 AWG", 20 * 0.3048}} {
		wire, _ := supply.CodeOf(60, nil).Carries(supply.Laid{Size: x.size})
		c.Supply.ResistanceOhm += 2 * x.metre * real(wire.Ohm)
		c.Supply.ReactanceOhm += 2 * x.metre * imag(wire.Ohm)
	}
	shares := map[string]float64{"tarn-idler": 0, "tarn-hobber": 0.7, "tarn-extractor": 0.85}
	for _, m := range sh.Machines {
		share, in := shares[m.ID]
		if !in {
			continue
		}
		st := study.Of(sh.Supply, m.Motors[0], fit)
		one := st.Machine.NetworkMotor(m.ID)
		one.Load = &network.Load{Kind: "power", Watts: share * st.Machine.Watts()}
		c.Motors = append(c.Motors, one)
	}
	c.Capacitors = []network.Capacitor{
		{ID: "ac", Between: network.AC, Microfarad: 100}, {ID: "bc", Between: network.BC, Microfarad: 60},
	}
	r, err := network.Solve(c)
	require.NoError(t, err)
	assert.InEpsilon(t, r.Supply.Amps, p.Main.Amps, 1e-6)
	assert.InEpsilon(t, r.Volts.BC, p.Converters[0].Volts.BC, 1e-6)
	assert.InEpsilon(t, r.Volts.CA, p.Converters[0].Volts.CA, 1e-6)
	byID := map[string]network.MotorResult{}
	for _, m := range r.Motors {
		byID[m.ID] = m
	}
	for _, m := range p.Machines {
		if got, in := byID[m.ID]; in {
			assert.InEpsilon(t, got.LineAmps.Max(), m.Motors[0].Amps, 1e-5, m.ID)
			assert.InEpsilon(t, got.RPM, m.Motors[0].RPM, 1e-6, m.ID)
		}
	}
	idle := byID["tarn-idler"]
	assert.InEpsilon(t, 100*max(idle.WindingAmps[0], idle.WindingAmps[1], idle.WindingAmps[2])/20,
		p.Converters[0].IdlerPercent, 1e-5)
}

// Two shops on one stiff source do not feel one another: each is as if it were alone.
func TestCircuitsOfAStiffSourceAreApart(t *testing.T) {
	sh := shopOf(t, "tallow-mill")
	sh.Supply.Class, sh.Supply.ResistanceOhm, sh.Supply.ReactanceOhm = "stiff", 0, 0
	f := floor.Of(sh, fit)
	whole, err := f.Solve(sh.State)
	require.NoError(t, err)
	for i, c := range sh.Site.Converters {
		alone := site.State{On: []string{c.ID}}
		for _, h := range sh.Site.Hung {
			if h.On == c.ID && sh.State.Has(h.ID) {
				alone.On = append(alone.On, h.ID)
			}
		}
		p, err := f.Solve(alone)
		require.NoError(t, err)
		assert.InDelta(t, whole.Converters[i].Volts.BC, p.Converters[i].Volts.BC, 1e-6, c.ID)
		assert.InEpsilon(t, whole.Converters[i].IdlerPercent, p.Converters[i].IdlerPercent, 1e-7, c.ID)
	}
}

// The amps of a main are those of its circuits, and a circuit's those of what hangs on it: with
// resistors alone they add up as figures.
func TestAmpsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sh := shop.Shop{
			Supply: supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "stiff"},
		}
		sum := 0.0
		s := site.State{}
		for i := range rapid.IntRange(1, 5).Draw(t, "circuits") {
			c := site.Circuit{ID: fmt.Sprint("c", i), Name: "C", BreakerAmps: 30}
			sh.Site.Circuits = append(sh.Site.Circuits, c)
			for k := range rapid.IntRange(0, 3).Draw(t, "loads") {
				l := site.Load{ID: fmt.Sprint("l", i, k), On: c.ID, Kind: "heater",
					Amps: rapid.Float64Range(0.1, 20).Draw(t, "amps")}
				sh.Site.Loads = append(sh.Site.Loads, l)
				if rapid.Bool().Draw(t, "on") {
					s.On = append(s.On, l.ID)
					sum += l.Amps
				}
			}
		}
		p, err := floor.Of(sh, fit).Solve(s)
		require.NoError(t, err)
		assert.InDelta(t, sum, p.Main.Amps, 1e-9)
		circuits := 0.0
		for _, c := range p.Circuits {
			circuits += c.Amps
		}
		assert.InDelta(t, sum, circuits, 1e-9)
	})
}

// A drive's amps count with their harmonics, all the way up.
func TestHarmonicsAreCountedUpToTheMain(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	p, err := floor.Of(sh, fit).Solve(site.State{On: []string{"tarn-borer-m1"}})
	require.NoError(t, err)
	taken := p.Machines[5].Motors[0].Amps
	require.Equal(t, "tarn-borer-m1", p.Machines[5].Motors[0].ID)
	assert.InDelta(t, taken, p.Main.Amps, 0.02*taken)
	assert.InDelta(t, taken, p.Circuits[0].Amps, 0.02*taken)
	assert.False(t, p.Machines[5].Motors[1].On, "its pump is off")
}

// What a start sees of the supply is what a whole network with the motor standing in it shows: the
// first instant agrees.
func TestAStartSeesTheWholeShop(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	f := floor.Of(sh, fit)
	s := site.State{
		On: []string{"tarn-converter", "tarn-hobber", "tarn-borer", "tarn-grinder", "tarn-lights", "tarn-shaper"},
	}
	st, err := f.Start(s, "tarn-shaper")
	require.NoError(t, err)
	require.True(t, st.Permitted, st.Broken)
	before := s
	before.On = slices.DeleteFunc(slices.Clone(s.On), func(id string) bool { return id == "tarn-shaper" })
	n, err := f.Network(&before)
	require.NoError(t, err)
	running, err := network.SolveInstallation(n)
	require.NoError(t, err)
	n, err = f.Network(&s)
	require.NoError(t, err)
	for i := range n.Circuits {
		for k := range n.Circuits[i].Motors { // shafts keep their speed through the first instant
			m := &n.Circuits[i].Motors[k]
			m.Load, m.Slip = nil, new(1.0)
			for _, was := range running.Motors {
				if was.ID == m.ID {
					m.Slip = new(was.Slip)
				}
			}
		}
	}
	r, err := network.SolveInstallation(n)
	require.NoError(t, err)
	var lines network.Lines
	for _, c := range r.Circuits {
		if c.ID == "tarn-converter" {
			lines = c.Volts
		}
	}
	first := st.Points[0].Volts
	assert.InEpsilon(t, lines.AB, first.AB, 0.01)
	assert.InEpsilon(t, lines.BC, first.BC, 0.02)
	assert.InEpsilon(t, lines.CA, first.CA, 0.02)
	assert.Greater(t, *st.Seconds, 0.05)
	end := st.Points[len(st.Points)-1]
	assert.Greater(t, end.Speed, 0.95)
	assert.LessOrEqual(t, st.LowestVolts, min(first.AB, first.BC, first.CA)+1e-9)
}

// Of one heater beside it a supply's ohms are known in closed form.
func TestSeenInClosedForm(t *testing.T) {
	sh := shop.Shop{
		Supply: supply.Supply{
			Kind:          "split-phase",
			Volts:         240,
			Hertz:         60,
			MainAmps:      100,
			Class:         supply.Own,
			ResistanceOhm: 0.2,
		},
		Site: site.Site{
			Circuits: []site.Circuit{{ID: "c", Name: "C", BreakerAmps: 50}},
			Loads:    []site.Load{{ID: "heater", Name: "H", Kind: "heater", Amps: 24}}, // 10 Ω
		},
	}
	got, err := floor.Of(sh, fit).Seen(site.State{On: []string{"heater"}}, "c", 30)
	require.NoError(t, err)
	assert.InDelta(t, 240*10/10.2, got.Volts, 1e-6)
	assert.InDelta(t, 0.2*10/10.2, got.ResistanceOhm, 1e-6)
	assert.InDelta(t, 0, got.ReactanceOhm, 1e-6)
}

// small is a random shop of a few machines on one or two converters, or on capacitors of their own.
func small(t *rapid.T) shop.Shop {
	sh := shop.Shop{ID: "s", Supply: supply.Supply{
		Kind:     "split-phase",
		Volts:    240,
		Hertz:    60,
		MainAmps: rapid.Float64Range(30, 90).Draw(t, "main"),
		Class:    "usual",
	}}
	converters := rapid.IntRange(1, 2).Draw(t, "converters")
	for i := range converters {
		c := fmt.Sprint("circuit", i)
		hp := rapid.SampledFrom([]float64{3, 5, 7.5}).Draw(t, "idler")
		sh.Site.Circuits = append(sh.Site.Circuits, site.Circuit{
			ID: c, Name: c, BreakerAmps: rapid.SampledFrom([]float64{30, 40, 50}).Draw(t, "breaker"),
			Laid: supply.Laid{Size: "8 AWG"}, Metre: 20,
		})
		sh.Site.Converters = append(sh.Site.Converters, site.Converter{
			ID: fmt.Sprint(
				"converter",
				i,
			),
			Name:       "C",
			On:         c,
			IdlerWatts: hp * 745.7,
			BalanceAC:  18 * hp,
			BalanceBC:  9 * hp,
		})
	}
	plates := []plate.Typed{
		{Output: "2 hp", Volts: "230/460", Amps: "6/3", Hertz: "60", RPM: "1740"},
		{Output: "3 hp", Volts: "230/460", Amps: "8.8/4.4", Hertz: "60", RPM: "1750"},
		{Output: "5 hp", Volts: "230/460", Amps: "13.6/6.8", Hertz: "60", RPM: "1750"},
	}
	for i := range rapid.IntRange(2, 5).Draw(t, "machines") {
		id := fmt.Sprint("m", i)
		m := shop.Motor{ID: id + "-m", Plate: rapid.SampledFrom(plates).Draw(t, "plate")}
		m.Load = rapid.SampledFrom([]string{"spindle", "fan", "saw"}).Draw(t, "load")
		sh.Machines = append(sh.Machines, shop.Machine{ID: id, Name: id, Motors: []shop.Motor{m.Filled()}})
		sh.Site.Hung = append(sh.Site.Hung, site.Hung{
			ID: id, On: fmt.Sprint("converter", rapid.IntRange(0, converters-1).Draw(t, "on")),
		})
	}
	if rapid.Bool().Draw(t, "heater") {
		sh.Site.Loads = []site.Load{{ID: "heater", Name: "Heater", Kind: "heater",
			Amps: rapid.Float64Range(5, 30).Draw(t, "amps")}}
	}
	return sh
}

// Every permitted set is permitted when it is solved, every forbidden one is not, and any one of it
// off makes it so; nothing larger than a largest set is permitted. The search of larger shops finds
// the same where what is permitted stays so with a machine off.
func TestTogetherAgainstEverySet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sh := small(t)
		f := floor.Of(sh, fit)
		got, err := f.Together(context.Background(), site.State{})
		require.NoError(t, err)
		require.True(t, got.Exact)
		permitted := map[string]bool{"": true}
		key := func(ids []string) string { return strings.Join(slices.Sorted(slices.Values(ids)), " ") }
		var sets [][]string
		for x := 1; x < 1<<len(got.Among); x++ {
			var ids []string
			for i, id := range got.Among {
				if x>>i&1 == 1 {
					ids = append(ids, id)
				}
			}
			p, err := f.Solve(f.StateOf(site.State{}, ids))
			require.NoError(t, err)
			permitted[key(ids)] = p.Permitted
			sets = append(sets, ids)
		}
		without := func(ids []string, one string) []string {
			return slices.DeleteFunc(slices.Clone(ids), func(id string) bool { return id == one })
		}
		closed := true // what is permitted stays so with a machine off
		largest, forbidden := []string{}, []string{}
		for _, ids := range sets {
			good := permitted[key(ids)]
			minimal := true
			for _, id := range ids {
				below := permitted[key(without(ids, id))]
				minimal = minimal && below
				closed = closed && (below || !good)
			}
			if !good && minimal {
				forbidden = append(forbidden, key(ids))
			}
			if good && !slices.ContainsFunc(sets, func(other []string) bool {
				return len(other) > len(ids) && permitted[key(other)] &&
					!slices.ContainsFunc(ids, func(id string) bool { return !slices.Contains(other, id) })
			}) {
				largest = append(largest, key(ids))
			}
		}
		var gotLargest, gotForbidden []string
		for _, x := range got.Largest {
			gotLargest = append(gotLargest, key(x))
		}
		for _, x := range got.Forbidden {
			gotForbidden = append(gotForbidden, key(x.Machines))
			assert.NotEmpty(t, x.Rule)
		}
		assert.ElementsMatch(t, largest, gotLargest)
		assert.ElementsMatch(t, forbidden, gotForbidden)
		bad, good, err := f.Larger(context.Background(), site.State{})
		require.NoError(t, err)
		for _, x := range bad {
			assert.Contains(t, forbidden, key(x), "minimal, whatever is closed")
		}
		for _, x := range good {
			assert.True(t, permitted[key(x)])
		}
		if closed {
			assert.Len(t, bad, len(forbidden))
			assert.Len(t, good, len(largest))
		}
	})
}

// Startable says what a start by itself says.
func TestStartableIsWhatAStartSays(t *testing.T) {
	sh := shopOf(t, "alder-loft")
	f := floor.Of(sh, fit)
	got, err := f.Together(context.Background(), site.State{})
	require.NoError(t, err)
	checked := 0
	for id, s := range got.Startable {
		for _, other := range s.With {
			st, err := f.Start(f.StateOf(site.State{}, []string{id, other}), id)
			require.NoError(t, err)
			assert.True(t, st.Permitted, "%s beside %s", id, other)
			checked++
		}
		for _, others := range s.NotWith {
			st, err := f.Start(f.StateOf(site.State{}, append([]string{id}, others...)), id)
			require.NoError(t, err)
			assert.False(t, st.Permitted, "%s beside %v", id, others)
		}
	}
	assert.Positive(t, checked)
}

// Balance capacitors are no worse than the best of a grid over all of them.
func TestTunedAgainstAGrid(t *testing.T) {
	for _, name := range []string{"tarn-hollow", "quoin-works"} {
		sh := shopOf(t, name)
		id := sh.Site.Converters[0].ID
		_, _, cost, strain := floor.Of(sh, fit).Tuned(id)
		best, at := math.Inf(1), [2]float64{}
		for ac := 0.0; ac <= 240; ac += 20 {
			for bc := 0.0; bc <= 160; bc += 20 {
				if c := strain(ac, bc); c < best {
					best, at = c, [2]float64{ac, bc}
				}
			}
		}
		assert.LessOrEqual(t, cost, best*1.001, "%s: the grid has %v", name, at)
	}
}

// What a converter could be: every size works by the same network as the Floor's, larger ones pull
// the legs nearer together and take more to idle.
func TestChoose(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	f := floor.Of(sh, fit)
	c, err := f.Choose(context.Background(), "tarn-converter")
	require.NoError(t, err)
	require.GreaterOrEqual(t, c.Best, 0)
	require.True(t, c.Rungs[0].AsItIs)
	alone, err := f.Solve(site.State{On: []string{"tarn-converter"}})
	require.NoError(t, err)
	assert.InDelta(t, alone.Converters[0].Watts, c.Rungs[0].IdleWatts, 1e-9)
	assert.InDelta(t, alone.Converters[0].IdlerPercent, c.Rungs[0].IdlePercent, 1e-9)
	for i := 2; i < len(c.Rungs); i++ {
		below, r := c.Rungs[i-1], c.Rungs[i]
		assert.Greater(t, r.Watts, below.Watts)
		assert.Less(t, r.ApartLoaded, below.ApartLoaded)
		assert.Greater(t, r.IdleWatts, below.IdleWatts)
		assert.Greater(t, r.Money, below.Money)
		for k := range r.Usable {
			assert.GreaterOrEqual(t, r.Usable[k].Share, below.Usable[k].Share-0.051, "%s", r.Usable[k].Name)
		}
	}
	assert.Len(t, c.Instead, 2)
	assert.InDelta(t, alone.Converters[0].Watts/1000*0.2, c.IdleHour, 0.01)
	assert.Positive(t, c.StartSeconds)
	none, err := f.Choose(context.Background(), "nowhere")
	require.NoError(t, err)
	assert.Equal(t, -1, none.Best)
	gone, stop := context.WithCancel(context.Background())
	stop()
	_, err = f.Choose(gone, "tarn-converter")
	require.ErrorIs(t, err, context.Canceled)
	_, err = f.Together(gone, site.State{})
	require.ErrorIs(t, err, context.Canceled)
}

// The day's card names every machine on a converter before it starts, and what it then reads.
func TestDay(t *testing.T) {
	d, err := floor.Of(shopOf(t, "tarn-hollow"), fit).Day(context.Background(), site.State{})
	require.NoError(t, err)
	begin := strings.Join(d.Begin, "\n")
	for _, words := range []string{
		"A for Enamelling kiln, B for Power hacksaw",
		"Gear hobber, Metal shaper, Dust extractor: every one switched off",
		"Start Rotary converter. It is up in about", "Read its made leg idle", "hardest to start first: Metal shaper",
	} {
		assert.Contains(t, begin, words)
	}
	assert.Less(t, strings.Index(begin, "switched off at its own switch"), strings.Index(begin, "Start Rotary"))
	end := strings.Join(d.End, "\n")
	assert.Less(t, strings.Index(end, "Every machine off"), strings.Index(end, "Rotary converter off"))
	assert.NotEmpty(t, d.Together)
	assert.NotEmpty(t, d.Never)
	assert.NotEmpty(t, d.Cautions)
}

// A printed floor names everything on it, and its words cannot break out of it.
func TestDrawing(t *testing.T) {
	sh := shopOf(t, "tallow-mill")
	f := floor.Of(sh, fit)
	p, err := f.Solve(all(sh))
	require.NoError(t, err)
	text, err := json.Marshal(f.Drawing(p))
	require.NoError(t, err)
	for _, m := range sh.Machines {
		assert.Contains(t, string(text), `"`+m.Name+`"`)
	}
	assert.Contains(t, string(text), "wire-c")
}
