package lesson_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/lesson"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

func machines(t testing.TB) (list []machine.Machine) {
	for _, p := range []plate.Typed{
		{Output: "1 hp", Volts: "230/460", Amps: "3.2/1.6", RPM: "1740", Hertz: "60"},
		{Output: "3 hp", Volts: "230/460", Amps: "8.6/4.3", RPM: "1755", Hertz: "60"},
		{Output: "2.2 kW", Volts: "230/400", Amps: "8.7/5.0", RPM: "1420", Hertz: "50"},
		{Output: "0.75 kW", Volts: "230/400", Amps: "3.3/1.9", RPM: "2820", Hertz: "50"},
	} {
		su := supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}
		if p.Hertz == "50" {
			su = supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"}
		}
		st := study.Of(su, shop.Motor{Plate: p}, motor.FitCircuit)
		require.True(t, st.Reading.Sound)
		list = append(list, st.Machine)
	}
	return list
}

// Every lesson can be taught on most motors: one right answer among others that read differently, and a reason.
func TestLessonsStandOnEveryMotor(t *testing.T) {
	names := map[string]int{}
	for _, m := range machines(t) {
		for _, l := range lesson.All(&m) {
			names[l.Name]++
			require.GreaterOrEqual(t, len(l.Choices), 3, l.Name)
			seen := map[string]bool{}
			for _, c := range l.Choices {
				assert.False(t, seen[c], "%s: %s twice", l.Name, c)
				seen[c] = true
			}
			require.Less(t, l.Right, len(l.Choices))
			assert.NotEmpty(t, l.Says)
			assert.NotEmpty(t, l.Do)
			assert.NotEmpty(t, l.Because)
			assert.True(t, strings.HasSuffix(l.Question, "?"))
		}
	}
	assert.Len(t, names, 23)
	for name, count := range names {
		if name != "star-for-delta" {
			assert.GreaterOrEqual(t, count, 3, name)
		}
	}
}

// What each lesson claims holds on every motor, by what a textbook says of it.
func TestClaims(t *testing.T) {
	claims := map[string]func(t *testing.T, right float64){
		"star-for-delta":  func(t *testing.T, v float64) { assert.InDelta(t, 33, v, 4) },
		"high-volts":      func(t *testing.T, v float64) { assert.InDelta(t, 25, v, 5) },
		"no-magnet":       func(t *testing.T, v float64) { assert.Greater(t, v, 70.0) },
		"shifts":          func(t *testing.T, v float64) { assert.InDelta(t, 101, v, 2) },
		"idle-lies":       func(t *testing.T, v float64) { assert.Greater(t, v, 4.0) },
		"hottest-winding": func(t *testing.T, v float64) { assert.Greater(t, v, 100.0) },
		"start-left-in":   func(t *testing.T, v float64) { assert.Greater(t, v, 1.5) },
		"too-much-flux":   func(t *testing.T, v float64) { assert.Greater(t, v, 1.3) },
		"too-few-volts":   func(t *testing.T, v float64) { assert.Greater(t, v, 1.02) },
		"one-line-lost":   func(t *testing.T, v float64) { assert.Greater(t, v, 1.6) },
		// Amps at a start fall little until near the breakdown.
		"pony-early": func(t *testing.T, v float64) { assert.Greater(t, v, 3.0) },
		// Three times the shaft's energy to stop it by plugging, once to bring it up, of which a start is one.
		"reversing":     func(t *testing.T, v float64) { assert.InDelta(t, 4, v, 0.01) },
		"machine-first": func(t *testing.T, v float64) { assert.InDelta(t, 0, v, 1) },
		"nine-leads":    func(t *testing.T, v float64) { assert.Less(t, v, 36.0) },
		"wrong-plate":   func(t *testing.T, v float64) { assert.Greater(t, v, 100.0) },
		// √3 by even sines; a capacitor bus makes more of it.
		"two-lines":  func(t *testing.T, v float64) { assert.InDelta(t, 2, v, 0.45) },
		"carrier":    func(t *testing.T, v float64) { assert.InDelta(t, 33, v, 3) },
		"ramp-trips": func(t *testing.T, v float64) { assert.Greater(t, v, 2.0) },
		"slow-running": func(t *testing.T, v float64) {
			assert.Greater(t, v, 40.0)
			assert.Less(t, v, 95.0)
		},
	}
	for _, m := range machines(t) {
		for _, l := range lesson.All(&m) {
			claim, ok := claims[l.Name]
			if !ok {
				continue
			}
			var right float64
			_, err := sscan(l.Choices[l.Right], &right)
			require.NoError(t, err, l.Choices[l.Right])
			t.Run(l.Name, func(t *testing.T) { claim(t, right) })
		}
	}
}

// What a rotor takes while it comes up, stepped with a motor's own torque, is what the lesson's sum says, which has no
// torque in it.
func TestTheHeatOfAReversal(t *testing.T) {
	for _, m := range machines(t) {
		heat := func(from float64) float64 {
			const step = 1e-3 // of slip
			joules, kgm2, synchronous := 0.0, 0.05, m.SynchronousRPM()*math.Pi/30
			for slip := from - step/2; slip > 0.02; slip -= step {
				own := m.NetworkMotor("m")
				own.Slip = &slip
				r, err := network.Solve(network.Case{
					Supply: network.Supply{Phases: 3, Volts: m.Plate.Volts.Value, Hertz: m.Plate.Hertz.Value},
					Motors: []network.Motor{own},
				})
				require.NoError(t, err)
				torque := r.Motors[0].TorqueNm
				seconds := kgm2 * synchronous * step / torque
				joules += torque * synchronous * slip * seconds
			}
			return joules
		}
		assert.InEpsilon(t, 4, heat(2)/heat(1), 0.01)
	}
}

// sscan reads the figure that a choice begins with.
func sscan(text string, to *float64) (int, error) { return fmt.Sscan(strings.Fields(text)[0], to) }
