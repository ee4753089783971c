package network_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"math/cmplx"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/network"
)

// onCircuit puts a case's elements on a circuit, their ids made its own.
func onCircuit(id string, c network.Case) network.Circuit {
	for i := range c.Motors {
		c.Motors[i].ID = id + c.Motors[i].ID
		if b := c.Motors[i].Behind; b != "" {
			c.Motors[i].Behind = id + b
		}
	}
	for i := range c.Capacitors {
		c.Capacitors[i].ID = id + c.Capacitors[i].ID
	}
	for i := range c.Loads {
		c.Loads[i].ID = id + c.Loads[i].ID
	}
	for i := range c.ThreePhaseLoads {
		c.ThreePhaseLoads[i].ID = id + c.ThreePhaseLoads[i].ID
		if b := c.ThreePhaseLoads[i].Behind; b != "" {
			c.ThreePhaseLoads[i].Behind = id + b
		}
	}
	for i := range c.Rectifiers {
		c.Rectifiers[i].ID = id + c.Rectifiers[i].ID
	}
	for i := range c.Transformers {
		c.Transformers[i].ID = id + c.Transformers[i].ID
	}
	return network.Circuit{
		ID: id, Transformer: c.Supply.Transformer, Motors: c.Motors, Capacitors: c.Capacitors, Loads: c.Loads,
		ThreePhaseLoads: c.ThreePhaseLoads, Rectifiers: c.Rectifiers, Transformers: c.Transformers,
	}
}

// feeders draws a conductor's ohms.
func feeders(t *rapid.T) network.Conductor {
	return network.Conductor{
		ResistanceOhm: rapid.Float64Range(0, 0.4).
			Draw(t, "run"),
		ReactanceOhm: rapid.Float64Range(0, 0.1).Draw(t, "run x"),
	}
}

// onePhase draws a case on one phase without ohms.
func onePhase(t *rapid.T, loaded, saturating bool, volts, hertz float64) network.Case {
	c := cases(t, loaded, saturating)
	c.Supply = network.Supply{Phases: 1, Volts: volts, Hertz: hertz, Transformer: c.Supply.Transformer}
	for i := range c.Motors {
		c.Motors[i].RatedHertz = hertz
	}
	return c
}

// plain are the elements of a result without the circuits that they are on.
func plain(t require.TestingT, r network.Result) (elements map[string]any) {
	text, err := json.Marshal([]any{r.Motors, r.Capacitors, r.Loads, r.ThreePhaseLoads, r.Rectifiers, r.Transformers})
	require.NoError(t, err)
	var lists [][]map[string]any
	require.NoError(t, json.Unmarshal(text, &lists))
	elements = map[string]any{}
	for _, list := range lists {
		for _, e := range list {
			id := e["id"].(string)
			delete(e, "id")
			delete(e, "circuit")
			elements[id] = e
		}
	}
	return elements
}

// alike holds elements to others within a share of each figure's size.
func alike(t require.TestingT, want, got any, within float64, place string) {
	switch want := want.(type) {
	case map[string]any:
		got, ok := got.(map[string]any)
		require.True(t, ok, place)
		for k, v := range want {
			alike(t, v, got[k], within, place+"."+k)
		}
	case []any:
		for k, v := range want {
			alike(t, v, got.([]any)[k], within, fmt.Sprint(place, "[", k, "]"))
		}
	case float64:
		assert.InDelta(t, want, got.(float64), within*(1+math.Abs(want)), place)
	default:
		assert.Equal(t, want, got, place)
	}
}

// One circuit is the same case as one without circuits, to the bit: its conductor's ohms are
// those of the supply.
func TestOneCircuitIsACase(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := onePhase(t, rapid.Bool().Draw(t, "loaded"), rapid.Bool().Draw(t, "saturating"), 240, 60)
		run := feeders(t)
		behind := c
		behind.Supply.ResistanceOhm, behind.Supply.ReactanceOhm = run.ResistanceOhm, run.ReactanceOhm
		if len(behind.Validate()) > 0 {
			t.Skip("nothing on the made leg")
		}
		want, err := network.Solve(behind)
		if err != nil {
			t.Skip(err)
		}
		text, err := json.Marshal(c)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(text, &c)) // ids are changed in a copy
		n := network.Installation{Case: network.Case{Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60}}}
		n.Circuits = []network.Circuit{onCircuit("", c)}
		n.Circuits[0].ID, n.Circuits[0].Conductor = "one", run
		if rapid.Bool().Draw(t, "in the source") {
			n.Circuits[0].Conductor = network.Conductor{}
			n.Supply.ResistanceOhm, n.Supply.ReactanceOhm = run.ResistanceOhm, run.ReactanceOhm
		}
		require.Empty(t, n.Validate())
		got, err := network.SolveInstallation(n)
		require.NoError(t, err)
		assert.Equal(t, plain(t, want), plain(t, got.Result))
		one := got.Circuits[0]
		assert.Equal(t, want.Volts, one.Volts)
		assert.Equal(t, want.Degrees, one.Degrees)
		assert.Equal(t, want.UnbalancePercent, one.UnbalancePercent)
		assert.Equal(t, want.SupplyTransformer, one.SupplyTransformer)
		assert.InDelta(t, want.Supply.Amps, got.Supply.Amps, 1e-12*want.Supply.Amps)
		assert.InDelta(t, want.Supply.Watts, got.Supply.Watts, 1e-12*240*want.Supply.Amps)
		assert.InDelta(t, 0, got.PowerBalanceWatts, 1e-7*(1+240*want.Supply.Amps))
	})
}

// On a source without ohms circuits know nothing of each other.
func TestOnAStiffSourceCircuitsAreApart(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := network.Installation{Case: network.Case{Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60}}}
		want := map[string]any{}
		for _, id := range []string{"x", "y", "z"}[:rapid.IntRange(2, 3).Draw(t, "circuits")] {
			c := onePhase(t, rapid.Bool().Draw(t, "loaded"), true, 240, 60)
			circuit := onCircuit(id, c)
			circuit.Conductor = feeders(t)
			run := circuit.Conductor
			c.Supply.ResistanceOhm, c.Supply.ReactanceOhm = run.ResistanceOhm, run.ReactanceOhm
			if len(c.Validate()) > 0 {
				t.Skip("nothing on the made leg")
			}
			alone, err := network.Solve(c)
			if err != nil {
				t.Skip(err)
			}
			for k, v := range plain(t, alone) {
				want[k] = v
			}
			n.Circuits = append(n.Circuits, circuit)
		}
		require.Empty(t, n.Validate())
		got, err := network.SolveInstallation(n)
		require.NoError(t, err)
		alike(t, want, plain(t, got.Result), 1e-9, "")
	})
}

// Circuits that are alike draw alike, so each of them sees the source's ohms so many times: the
// same motors stand still, too.
func TestAlikeCircuitsShareTheSourcesOhms(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := onePhase(t, true, rapid.Bool().Draw(t, "saturating"), 240, 60)
		c.Supply.Transformer = nil
		count := rapid.IntRange(2, 4).Draw(t, "count")
		r, x := rapid.Float64Range(0, 0.3).Draw(t, "r"), rapid.Float64Range(0, 0.2).Draw(t, "x")
		text, err := json.Marshal(c)
		require.NoError(t, err)
		n := network.Installation{Case: network.Case{
			Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: r, ReactanceOhm: x},
		}}
		for k := range count {
			var copied network.Case
			require.NoError(t, json.Unmarshal(text, &copied))
			n.Circuits = append(n.Circuits, onCircuit(string(rune('h'+k)), copied))
		}
		c.Supply.ResistanceOhm, c.Supply.ReactanceOhm = r*float64(count), x*float64(count)
		if len(c.Validate()) > 0 {
			t.Skip("nothing on the made leg")
		}
		want, err := network.Solve(c)
		if err != nil {
			t.Skip(err)
		}
		got, err := network.SolveInstallation(n)
		require.NoError(t, err)
		one := got.Result
		one.Motors = one.Motors[:len(c.Motors)]
		crawls := func(m network.MotorResult) bool { return m.State == network.Crawling }
		if slices.ContainsFunc(slices.Concat(want.Motors, one.Motors), crawls) {
			t.Skip("one hangs at a low speed, where there are several places to hang")
		}
		for i := range one.Motors {
			assert.Equal(t, want.Motors[i].State, one.Motors[i].State, "motor %d", i)
			assert.InDelta(t, want.Motors[i].Slip, one.Motors[i].Slip, 1e-7)
			assert.InDelta(t, want.Motors[i].InputWatts, one.Motors[i].InputWatts, 1e-5*(1+want.Supply.Amps*240))
		}
		assert.InDelta(t, float64(count)*want.Supply.Amps, got.Supply.Amps, 1e-6*(1+got.Supply.Amps))
	})
}

// trees draws an installation of several circuits, some fed by others, some open.
func trees(t *rapid.T, loaded, saturating bool) network.Installation {
	n := network.Installation{Case: network.Case{Supply: network.Supply{
		Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: rapid.Float64Range(0, 0.2).Draw(t, "source r"),
		ReactanceOhm: rapid.Float64Range(0, 0.1).Draw(t, "source x"),
	}}}
	from := []string{""}
	for k := range rapid.IntRange(1, 5).Draw(t, "circuits") {
		id := string(rune('A' + k))
		var c network.Case
		if rapid.IntRange(0, 4).Draw(t, "what") > 0 {
			c = onePhase(t, loaded, saturating, 240, 60)
		}
		circuit := onCircuit(id, c)
		circuit.Conductor, circuit.From = feeders(t), rapid.SampledFrom(from).Draw(t, "from")
		if rapid.IntRange(0, 5).Draw(t, "open") == 0 {
			circuit.Closed = new(false)
		}
		if circuit.Transformer == nil {
			from = append(from, id)
		}
		n.Circuits = append(n.Circuits, circuit)
	}
	if rapid.Bool().Draw(t, "on the source") {
		own := onCircuit("o", onePhase(t, loaded, saturating, 240, 60))
		n.Motors, n.Capacitors, n.Loads = own.Motors, own.Capacitors, own.Loads
		for i := range n.Motors {
			n.Motors[i].Behind = ""
		}
	}
	return n
}

// Kirchhoff's laws hold over the tree, whose currents are added up here from what each element
// says that it takes; watts balance, and what is open is dead.
func TestKirchhoffOverTheTree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := trees(t, rapid.Bool().Draw(t, "loaded"), rapid.Bool().Draw(t, "saturating"))
		require.Empty(t, n.Validate())
		got, err := network.SolveInstallation(n)
		if err != nil {
			t.Skip(err) // a resonance without losses
		}
		_, err = json.Marshal(got) // which refuses what is no number
		require.NoError(t, err)
		assert.InDelta(t, 0, got.PowerBalanceWatts, 1e-6*(1+240*got.Supply.Amps))
		far := map[string]complex128{}
		phasor := func(volts, degrees float64) complex128 { return cmplx.Rect(volts, degrees*math.Pi/180) }
		source := complex(n.Supply.Volts, 0)
		far[""] = phasor(got.Volts.AB, got.Degrees.AB)
		drop := cmplx.Abs(source - far[""])
		ohms := cmplx.Abs(complex(n.Supply.ResistanceOhm, n.Supply.ReactanceOhm))
		assert.InDelta(t, ohms*got.Supply.Amps, drop, 1e-8*240)
		live := map[string]bool{"": true}
		for i, c := range got.Circuits {
			in := n.Circuits[i]
			live[in.ID] = live[in.From] && in.Closed == nil
			require.Equal(t, live[in.ID], c.Closed)
			if !c.Closed {
				assert.Zero(t, c.Supply)
				assert.Zero(t, c.Volts)
				continue
			}
			near := far[in.From]
			far[in.ID] = phasor(c.Volts.AB, c.Degrees.AB)
			if in.Transformer == nil {
				z := complex(in.Conductor.ResistanceOhm, in.Conductor.ReactanceOhm)
				assert.InDelta(t, cmplx.Abs(z)*c.Supply.Amps, cmplx.Abs(near-far[in.ID]), 1e-8*240, in.ID)
				if z != 0 && cmplx.Abs(z)*c.Supply.Amps > 1e-3 {
					i := (near - far[in.ID]) / z
					assert.InDelta(t, c.Supply.Watts, real(near*cmplx.Conj(i)), 1e-4*(1+c.Supply.Watts), in.ID)
				}
			}
		}
		for _, m := range got.Motors {
			if !live[m.Circuit] {
				assert.Equal(t, network.Stalled, m.State)
				assert.Zero(t, m.LineAmps)
			}
		}
	})
}

// A motor that its neighbours pull down stands, though each would run alone, and the others are
// solved around it; the order in which circuits are written changes nothing.
func TestNeighboursPullAMotorDown(t *testing.T) {
	weak := network.Installation{Case: network.Case{
		Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 1.6, ReactanceOhm: 0.4},
	}}
	for k := range 3 {
		m := shaper("power")
		m.ID, m.Load = fmt.Sprint("m", k), &network.Load{Kind: "power", Watts: 1900}
		weak.Circuits = append(weak.Circuits, network.Circuit{
			ID: fmt.Sprint("c", k), Motors: []network.Motor{m},
			Conductor:  network.Conductor{ResistanceOhm: 0.3 + 0.4*float64(k)},
			Capacitors: []network.Capacitor{{ID: fmt.Sprint("p", k), Between: network.AC, Microfarad: 60}},
		})
	}
	states := func(n network.Installation) map[string]string {
		r, err := network.SolveInstallation(n)
		require.NoError(t, err)
		by := map[string]string{}
		for _, m := range r.Motors {
			by[m.ID] = m.State
		}
		return by
	}
	for k, c := range weak.Circuits {
		alone := weak
		alone.Circuits = weak.Circuits[k : k+1]
		assert.Equal(t, network.Running, states(alone)[c.Motors[0].ID])
	}
	want := states(weak)
	assert.Contains(t, slices.Collect(maps.Values(want)), network.Stalled)
	turned := weak
	turned.Circuits = []network.Circuit{weak.Circuits[2], weak.Circuits[0], weak.Circuits[1]}
	assert.Equal(t, want, states(turned))
}

// A shop of twenty machines on three converters and circuits of their own.
func BenchmarkTwentyMachines(b *testing.B) {
	n := network.Installation{Case: network.Case{
		Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.02, ReactanceOhm: 0.02},
	}}
	for k := range 20 {
		m := shaper("power")
		m.ID, m.Load = fmt.Sprint("m", k), &network.Load{Kind: "power", Watts: 300 + 20*float64(k)}
		c := network.Circuit{
			ID: fmt.Sprint("c", k), Motors: []network.Motor{m}, Conductor: network.Conductor{ResistanceOhm: 0.3},
			Capacitors: []network.Capacitor{{ID: fmt.Sprint("p", k), Between: network.AC, Microfarad: 60}},
		}
		if k < 12 { // four machines to a converter
			at := k / 4
			if k%4 > 0 {
				shared := &n.Circuits[at]
				shared.Motors = append(shared.Motors, m)
				continue
			}
			idler := shaper("power")
			idler.ID, idler.Load = fmt.Sprint("idler", at), &network.Load{Kind: "power"}
			c.Motors = append(c.Motors, idler)
		}
		n.Circuits = append(n.Circuits, c)
	}
	require.Empty(b, n.Validate())
	for b.Loop() {
		_, err := network.SolveInstallation(n)
		require.NoError(b, err)
	}
}
