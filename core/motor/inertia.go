package motor

import (
	"math"

	"brackmoor/core/quantity"
)

// RotorInertia is a usual inertia of a standard motor's own rotor in kg·m², by output
// in watts and poles: an assumption between catalogue values of four-pole machines of
// 0.2 to 20 kW, which scatter by half either way.
func RotorInertia(watts float64, poles int) float64 {
	return 0.0027 * math.Pow(watts/1000, 1.2) * math.Pow(float64(poles)/4, 1.5)
}

// MostLoadInertia is the load inertia in kg·m², at the motor's shaft, that a standard
// motor of an output in watts and a synchronous speed can bring up twice in a row from
// ambient temperature on its rated volts, the load's torque going with the square of
// speed (NEMA MG 1-2016, 12.54 and 12.55: Wk² in lb·ft²).
func MostLoadInertia(watts, synchronousRPM float64) float64 {
	const poundFoot2 = 0.042140
	hp, speed := watts/quantity.WattsPerHorsepower, synchronousRPM/1000
	a := 24.0
	if synchronousRPM > 1800.5 {
		a = 27
	}
	return poundFoot2 * (a*math.Pow(hp, 0.95)/math.Pow(speed, 2.4) - 0.0685*math.Pow(hp, 1.5)/math.Pow(speed, 1.8))
}
