package network_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

var house = network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.08, ReactanceOhm: 0.04}

func loaded(id string, load network.Load) network.Motor {
	m := shaper("wye")
	m.ID, m.Load = id, &load
	return m
}

func TestStates(t *testing.T) {
	// One high-resistance cage has its greatest torque near standstill: a load
	// that grows with speed is then carried at a crawl.
	slow := loaded("slow", network.Load{Kind: "torque", NewtonMetre: 22, AtRPM: 1000, Exponent: 2})
	slow.Circuit = motor.Circuit{R1Ohm: 0.59, X1Ohm: 1.18, XmOhm: 29.5, Cages: []motor.Cage{{ROhm: 4, XOhm: 1.5}}}
	run := []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 55}}
	for _, c := range []struct {
		name   string
		motor  network.Motor
		bank   []network.Capacitor
		supply network.Supply
		state  string
	}{
		{"carries a light load", loaded("m", network.Load{Kind: "power", Watts: 500}), run, house, network.Running},
		{"on two bare legs it runs once " +
			"turning", loaded("m", network.Load{Kind: "power", Watts: 500}), nil, house, network.Running},
		{"far too much power", loaded("m", network.Load{Kind: "power", Watts: 20000}), run, house, network.Stalled},
		{"far too much torque", loaded("m", network.Load{Kind: "torque", NewtonMetre: 200, AtRPM: 1745}), run, house,
			network.Stalled},
		{"a fan on a soft rotor", slow, run, house, network.Crawling},
		{"the wrong way round", func() network.Motor {
			m := loaded("m", network.Load{Kind: "power", Watts: 100})
			m.Direction = "acb"
			return m
		}(), nil, network.Supply{Phases: 3, Volts: 240, Hertz: 60}, network.Stalled},
	} {
		t.Run(c.name, func(t *testing.T) {
			r, err := network.Solve(
				network.Case{Supply: c.supply, Motors: []network.Motor{c.motor}, Capacitors: c.bank},
			)
			require.NoError(t, err)
			m := r.Motors[0]
			assert.Equal(t, c.state, m.State)
			if c.state == network.Stalled {
				assert.Equal(t, 1.0, m.Slip)
				assert.Zero(t, m.RPM)
				assert.Zero(t, m.ShaftWatts)
			}
		})
	}
}

func TestIdleWithoutFrictionTurnsAtSynchronousSpeed(t *testing.T) {
	m := loaded("m", network.Load{Kind: "power"})
	m.FrictionWatts = 0
	r, err := network.Solve(
		network.Case{Supply: network.Supply{Phases: 3, Volts: 240, Hertz: 60}, Motors: []network.Motor{m}},
	)
	require.NoError(t, err)
	assert.InDelta(t, 1800, r.Motors[0].RPM, 1e-6)
	assert.InDelta(t, 0, r.Motors[0].TorqueNm, 1e-9)
}

func TestTheLoadIsMet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := cases(t, true, true)
		r, err := network.Solve(c)
		require.NoError(t, err)
		for i, m := range r.Motors {
			if m.State == network.Stalled {
				continue
			}
			want := c.Motors[i].Load.Watts
			if l := c.Motors[i].Load; l.Kind == "torque" {
				want = l.NewtonMetre * math.Pow(m.RPM/l.AtRPM, float64(l.Exponent)) * m.RPM * math.Pi / 30
			}
			assert.InDelta(t, want, m.ShaftWatts, 1e-5*math.Max(want, 100))
		}
	})
}

// A stalled machine pulls the made leg down; the idler goes on turning beside it.
func TestOthersAreSolvedAroundAStalledMotor(t *testing.T) {
	idler := loaded("idler", network.Load{Kind: "power"})
	stuck := loaded("stuck", network.Load{Kind: "torque", NewtonMetre: 150, AtRPM: 1745})
	bank := []network.Capacitor{{ID: "x", Between: network.AC, Microfarad: 60}}
	alone, err := network.Solve(network.Case{Supply: house, Motors: []network.Motor{idler}, Capacitors: bank})
	require.NoError(t, err)
	both, err := network.Solve(network.Case{Supply: house, Motors: []network.Motor{idler, stuck}, Capacitors: bank})
	require.NoError(t, err)
	assert.Equal(t, network.Running, both.Motors[0].State)
	assert.Equal(t, network.Stalled, both.Motors[1].State)
	assert.Less(t, both.Volts.CA, alone.Volts.CA)
	assert.Less(t, both.Motors[0].RPM, alone.Motors[0].RPM)
}

// Order must not matter: the same motors in another order settle alike.
func TestOrderOfMotorsDoesNotMatter(t *testing.T) {
	a := loaded("a", network.Load{Kind: "power", Watts: 900})
	b := loaded("b", network.Load{Kind: "torque", NewtonMetre: 4, AtRPM: 1745, Exponent: 2})
	d := loaded("d", network.Load{Kind: "power"})
	bank := []network.Capacitor{{ID: "x", Between: network.AC, Microfarad: 80}}
	one, err := network.Solve(network.Case{Supply: house, Motors: []network.Motor{a, b, d}, Capacitors: bank})
	require.NoError(t, err)
	two, err := network.Solve(network.Case{Supply: house, Motors: []network.Motor{d, a, b}, Capacitors: bank})
	require.NoError(t, err)
	for i, k := range []int{1, 2, 0} {
		assert.InDelta(t, one.Motors[i].Slip, two.Motors[k].Slip, 1e-9)
	}
}

func TestDirectionFollowsTheCapacitor(t *testing.T) {
	for pair, want := range map[network.Pair]float64{network.AC: 1, network.BC: -1} {
		m := shaper("wye")
		m.Load, m.Slip = nil, slip(1)
		r, err := network.Solve(
			network.Case{
				Supply:     house,
				Motors:     []network.Motor{m},
				Capacitors: []network.Capacitor{{ID: "run", Between: pair, Microfarad: 120}},
			},
		)
		require.NoError(t, err)
		assert.Positive(t, want*r.Motors[0].TorqueNm, "%s", pair)
		assert.Equal(t, map[float64]string{1: "abc", -1: "acb"}[want], r.Sequence)
	}
}

// Without a capacitor a single-phase field makes no torque at standstill.
func TestBareLegsMakeNoStartingTorque(t *testing.T) {
	m := shaper("wye")
	m.Load, m.Slip = nil, slip(1)
	r, err := network.Solve(network.Case{Supply: house, Motors: []network.Motor{m}})
	require.NoError(t, err)
	assert.InDelta(t, 0, r.Motors[0].TorqueNm, 1e-9)
	assert.InDelta(t, 0, r.Motors[0].LineAmps.C, 1e-9)
}

func TestResonanceWithoutLossesIsRefused(t *testing.T) {
	// An inductor on bc and a capacitor on ac of equal reactance, nothing else.
	omega := 2 * math.Pi * 60
	_, err := network.Solve(network.Case{Supply: network.Supply{Volts: 240, Hertz: 60},
		Capacitors: []network.Capacitor{{ID: "c", Between: network.AC, Microfarad: 1e6 / (omega * 10)}},
		Loads:      []network.Impedance{{ID: "l", Between: network.BC, ReactanceOhm: 10}}})
	assert.ErrorIs(t, err, network.ErrResonance)
}

func BenchmarkStep(b *testing.B) {
	m := shaper("wye")
	m.Load, m.Slip = nil, slip(0.03)
	s := network.New(
		network.Case{
			Supply:     house,
			Motors:     []network.Motor{m},
			Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 55}},
		},
	)
	b.ReportAllocs()
	for b.Loop() {
		if err := s.Step(); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkOperateTwoSaturatingMotors(b *testing.B) {
	idler := loaded("idler", network.Load{Kind: "power"})
	c := network.Case{
		Supply: house,
		Motors: []network.Motor{idler, loaded("m", network.Load{Kind: "power", Watts: 1100})},
		Capacitors: []network.Capacitor{
			{ID: "x", Between: network.AC, Microfarad: 90},
			{ID: "y", Between: network.BC, Microfarad: 50},
		},
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := network.Solve(c); err != nil {
			b.Fatal(err)
		}
	}
}

// A shop of many motors, all overloaded, must end within the step budget.
func TestManyOverloadedMotorsEnd(t *testing.T) {
	c := network.Case{Supply: house, Capacitors: []network.Capacitor{{ID: "x", Between: network.AC, Microfarad: 90}}}
	for i := range 50 {
		c.Motors = append(c.Motors, loaded(fmt.Sprint("m", i), network.Load{Kind: "power", Watts: 400 + 20*float64(i)}))
	}
	r, err := network.Solve(c)
	if err != nil {
		require.ErrorIs(t, err, network.ErrNoConvergence)
		return
	}
	assert.Len(t, r.Motors, 50)
}
