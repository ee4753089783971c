package spice_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/casefile"
	"brackmoor/core/drive"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/startup"
	"brackmoor/core/waveform"
	"brackmoor/sheet/spice"
)

// Friction is of the shaft: off rated hertz, steady state, run-up, time domain, drive and
// netlist have the same torque for a speed.
func TestFrictionIsTheShaftsOffRatedHertz(t *testing.T) {
	supply := network.Supply{Phases: 3, Volts: 200, Hertz: 50}
	m := network.Motor{
		ID: "m", Poles: 4, RatedHertz: 60, FrictionWatts: 800, InertiaKgm2: 0.02,
		Circuit: motor.Circuit{
			R1Ohm: 0.6, X1Ohm: 1.2, XmOhm: 30, Cages: []motor.Cage{{ROhm: 0.5, XOhm: 1.9}, {ROhm: 1.6, XOhm: 0.8}},
		},
	}
	coefficient := 800 / (60 * math.Pi * 60 * math.Pi)

	loaded := m
	loaded.Load = &network.Load{Kind: "power"}
	steady, err := network.Solve(network.Case{Supply: supply, Motors: []network.Motor{loaded}})
	require.NoError(t, err)
	rpm := steady.Motors[0].RPM
	require.InEpsilon(t, coefficient*rpm*math.Pi/30, steady.Motors[0].TorqueNm, 1e-9)

	up, err := startup.Run(startup.Case{Supply: supply, Motors: []startup.Motor{{Motor: m}}})
	require.NoError(t, err)
	assert.InDelta(t, rpm, up.Motors[0].FinalRPM, 6e-4*1500)

	wave := waveform.Case{
		Supply: waveform.Supply{Supply: supply}, Motors: []waveform.Motor{{Motor: m}}, DurationSeconds: 1.5,
	}
	stepped, err := waveform.Solve(wave)
	require.NoError(t, err)
	assert.InDelta(t, rpm, stepped.Motors[0].FinalRPM, 0.5)

	// A drive's torque at the shaft is that of the air gap less friction's.
	points, err := (drive.Motor{Motor: m, RatedAmps: 9}).Across(
		drive.VHz{MotorVolts: 200, MotorHertz: 50, MostVolts: 200}, []float64{50})
	require.NoError(t, err)
	held := m
	held.Slip = new(1 - points[0].RPM/1500)
	at, err := network.Solve(network.Case{Supply: supply, Motors: []network.Motor{held}})
	require.NoError(t, err)
	assert.InEpsilon(t, at.Motors[0].TorqueNm-coefficient*points[0].RPM*math.Pi/30, points[0].TorqueNm, 1e-6)

	netlist, err := spice.Netlist(casefile.Document{Analysis: "waveform", Waveform: wave})
	require.NoError(t, err)
	assert.Contains(t, netlist, fmt.Sprintf("- %.9g*", coefficient))
}
