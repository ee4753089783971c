package drive

import (
	"math"

	"brackmoor/core/network"
)

// Shows is what a drive's display tells at a step of its first run, its motor set as the list has it: what is far off
// is a setting, a joint or a plate that is wrong. RPM is the shaft's, by a tachometer; a display reckons its own.
type Shows struct {
	Step  string  `json:"step"`
	Hertz float64 `json:"hertz"`
	Amps  float64 `json:"amps"`
	Volts float64 `json:"volts"` // line to line, rms of the fundamental
	RPM   float64 `json:"rpm"`
	Bus   float64 `json:"bus_volts"`
}

// FirstHertz is what a motor is first turned at, uncoupled, to see its direction (shop practice).
const FirstHertz = 5.0

// Expected is what the display tells at each step, of a motor without a load and then with it, by the volts that its
// drive gives at each frequency. A step that has no steady state is left out.
func Expected(in Input, a Answer) (list []Shows) {
	bus := math.Sqrt2 * in.most()
	curve := in.shape(in.most())
	if curve.Square = in.Load.Exponent == 2; !curve.Square {
		curve.BoostPercent = boostPercent
	}
	base := math.Min(a.BaseHertz, in.Plate.Hertz.Value)
	list = []Shows{{Step: "Power on, the motor standing", Bus: bus}}
	for _, s := range []struct {
		step         string
		hertz, share float64
		bus          float64
	}{
		{"First turn, uncoupled", FirstHertz, 0, bus},
		{"Half the frequency, uncoupled", base / 2, 0, bus},
		{"Base frequency, uncoupled", base, 0, bus},
		{"At its load", base, in.Share(), a.Load.BusMeanVolts},
		{"At plate torque", base, 1, a.Full.BusMeanVolts},
	} {
		if s.bus == 0 {
			continue
		}
		m := in.NetworkMotor("motor")
		if s.share > 0 {
			m.Load = &network.Load{Kind: "torque", NewtonMetre: s.share * in.Fit.RatedNm, AtRPM: in.Plate.RPM.Value}
		}
		volts := math.Min(curve.Volts(s.hertz), s.bus/math.Sqrt2)
		solved, err := network.Solve(network.Case{
			Supply: network.Supply{Phases: 3, Volts: volts, Hertz: s.hertz}, Motors: []network.Motor{m},
		})
		if err != nil || solved.Motors[0].RPM <= 0 {
			continue
		}
		got := solved.Motors[0]
		list = append(list, Shows{s.step, s.hertz, got.LineAmps.A, volts, got.RPM, s.bus})
	}
	return list
}
