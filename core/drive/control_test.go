package drive_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
)

// Every machine keeps its emergency stop and its isolator in the enable, and no contactor
// between drive and motor; what switches it becomes low-voltage inputs.
func TestControls(t *testing.T) {
	inputs := func(e drive.Existing) map[string]string {
		by := map[string]string{}
		for _, c := range drive.Controls(e) {
			assert.NotEmpty(t, c.Becomes)
			by[c.Has] = c.Input
		}
		assert.Equal(t, "safe torque off", by["Emergency stop"])
		// What reverses has an input for it, and what has one is not barred from it.
		reverses := false
		for _, c := range drive.Controls(e) {
			reverses = reverses || c.Input == "run reverse"
		}
		assert.Equal(t, e.TurnsRound(), reverses)
		assert.Equal(t, "enable", by["Isolator at the machine"])
		assert.Empty(t, by["Main contactor"])
		return by
	}
	for name, c := range map[string]struct {
		has  drive.Existing
		want map[string]string
		not  string
	}{
		"not looked at": {drive.Existing{}, map[string]string{"Start switch": "run forward"}, "Brake"},
		"buttons": {drive.Existing{Switch: "three-wire", Reversing: true},
			map[string]string{"Start button": "run, by an edge", "Stop button": "stop",
				"Reversing switch": "run reverse"}, "Start switch"},
		"drum alone": {drive.Existing{Switch: "drum"},
			map[string]string{"Drum switch, reverse": "run reverse"}, "Brake"},
		"drum": {drive.Existing{Switch: "drum", Reversing: true, Interlocks: 2, Brake: true},
			map[string]string{"Drum switch, forward": "run forward", "Drum switch, reverse": "run reverse",
				"Interlocks, 2": "safe torque off", "Brake": ""}, "Reversing switch"},
	} {
		t.Run(name, func(t *testing.T) {
			by := inputs(c.has)
			for has, input := range c.want {
				require.Contains(t, by, has)
				assert.Equal(t, input, by[has])
			}
			assert.NotContains(t, by, c.not)
		})
	}
}

func TestShare(t *testing.T) {
	motors := []drive.Driven{{Name: "Spindle", Amps: 4.6}, {Name: "Pump", Amps: 1.1}}
	all := drive.Share(motors, false)
	assert.InDelta(t, 5.7, all.Amps, 1e-9)
	require.Len(t, all.Verdicts, 1)
	assert.Equal(t, "drive.several", all.Verdicts[0].Rule)
	assert.Contains(t, all.Verdicts[0].Do, "5.7 A added")
	unknown := drive.Share(append(motors, drive.Driven{Name: "Old"}), false)
	assert.False(t, unknown.Known)
	assert.Contains(t, unknown.Verdicts[0].Do, "the plate amps of all of them added")
	assert.Equal(t, "drive.one-each", drive.Share(motors, true).Verdicts[0].Rule)
	assert.Empty(t, drive.Share(motors[:1], false).Verdicts)
}

// Twice the volts, half the amps.
func TestChangeOver(t *testing.T) {
	list := drive.ChangeOver(115, 230, 14)
	assert.Contains(t, list[2], "at its load about 7.0 A at 230 V where it took 14.0 A at 115 V")
	assert.Contains(t, list[3], "Cord and plug for 230 V")
	assert.Greater(t, len(list), 5)
}

// Settings name what is known, in its order, with the words there may be.
func TestKnownSettings(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	a, err := drive.Size(in)
	require.NoError(t, err)
	for _, use := range []drive.Use{{Speed: "presets"}, {Square: true, Reverse: true, Speed: "presets"}} {
		settings := drive.Settings(in, a, use)
		require.Len(t, settings, len(drive.Known))
		for i, s := range settings {
			k := drive.Known[i]
			require.Equal(t, k.Name, s.Name)
			assert.Equal(t, k.Title, s.Title)
			assert.Equal(t, k.Unit, s.Unit)
			if s.Number == nil {
				assert.Contains(t, k.Words, s.Value)
			} else {
				assert.Empty(t, k.Words, s.Name)
			}
		}
	}
	for _, p := range drive.Profiles() {
		assert.Empty(t, p.Check())
	}
	assert.Len(t, drive.Profile{}.Check(), 2)
}

// A choke takes harmonics off the line and ripple off nothing it makes worse: fewer amps
// for the same watts. Where the bus swings against it, a smaller one is found.
func TestChoke(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	in.Kind = drive.OnePhase
	a, err := drive.Size(in)
	require.NoError(t, err)
	k := a.Choke
	assert.Greater(t, k.MilliHenry, 0.0)
	assert.Less(t, k.With.Amps, 0.9*k.Bare.Amps)
	assert.Less(t, k.With.THD, k.Bare.THD)
	assert.InDelta(t, a.Load.InputRMSAmps, k.Bare.Amps, 1e-9)
	in.Kind = drive.Bus
	bus, err := drive.Size(in)
	require.NoError(t, err)
	assert.InEpsilon(t, bus.Choke.With.Amps, bus.Load.InputRMSAmps, 1e-9, "its own front end has the choke")
	assert.Less(t, bus.LoadVolts, a.LoadVolts, "and less of the supply's peak on its bus")
	assert.Less(t, bus.LoadBaseHertz, a.BaseHertz)
	// Another load on the same answer is what that load sizes by itself.
	tried, err := drive.Try(in, bus)
	require.NoError(t, err)
	assert.InEpsilon(t, bus.Load.InputRMSAmps, tried.Load.InputRMSAmps, 1e-12)
}

// A brake resistor holds the chopper's volts at the first watts of the stop.
func TestBrakeResistor(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	in.Known = whole(in, 0.2)
	a, err := drive.Size(in)
	require.NoError(t, err)
	require.NotNil(t, a.Brake)
	volts := 0.95 * 400.0 // under the trip of drives for 200 to 240 V
	assert.InEpsilon(t, volts*volts/a.Brake.MostOhm, a.Brake.PeakWatts, 1e-9)
	omega := in.Plate.RPM.Value * 3.141592653589793 / 30
	assert.Less(t, a.Brake.MeanWatts, 0.2*omega*omega/2/a.Brake.Seconds, "not more than what turned")
	small := sizing(t, "0.37 kW", 0.6)
	small.Known.Kgm2 = 1e-6 // hardly more than its rotor
	light, err := drive.Size(small)
	require.NoError(t, err)
	assert.Nil(t, light.Brake)
}
