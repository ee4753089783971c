package inverter

import (
	"brackmoor/core/drive"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
)

// Of is a usual drive for a machine, of a profile: by the kind that is asked for, built for one phase, or a larger one
// built for three, which expects them all. Draw is as in Case.
func Of(in drive.Input, p drive.Profile, draw func() float64) Case {
	watts, amps := in.Plate.Output.Value, in.Plate.Amps.Value
	times := 1.0
	if in.Kind == drive.Three {
		times = drive.OverThree
	}
	rating, _ := in.Next(times*watts, times*amps)
	m := in.NetworkMotor(motorID)
	m.InertiaKgm2 = in.Shaft().Kgm2()
	return Case{
		Profile: p,
		Rating: Rating{
			Watts: rating, Amps: drive.RatedAmps(rating, in.Supply.Volts), ThreePhase: in.Kind == drive.Three,
			BusMicrofarad: in.Front(rating).BusMicrofarad,
		},
		Supply: rectifier.Supply{
			Volts: in.Supply.Volts, Hertz: in.Supply.Hertz,
			LineResistanceOhm: in.Supply.ResistanceOhm / 2, LineReactanceOhm: in.Supply.ReactanceOhm / 2,
		},
		Motor: m,
		Load:  Braked(in, 0),
		Draw:  draw,
	}
}

// Braked is a load of a share of the machine's rated torque on its shaft, as a brake holds it; nil for none.
func Braked(in drive.Input, share float64) *network.Load {
	if share <= 0 {
		return nil
	}
	return &network.Load{Kind: "torque", NewtonMetre: share * in.Fit.RatedNm, AtRPM: in.Plate.RPM.Value}
}
