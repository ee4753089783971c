package network

import "math"

// BalancingMicrofarads returns the two capacitors that give a motor three equal
// volts from two lines: siemens and lag are the magnitude of its admittance per
// phase (wye equivalent) and the angle, in radians, by which its current lags.
// From V2 = 0 at the made leg:
//
//	C_ac = (2/3)(|Y|/ω)·sin(120° − φ),  C_bc = (2/3)(|Y|/ω)·sin(φ − 60°)
//
// A negative value asks for an inductor, which a motor under load (φ < 60°)
// does on bc; one capacitor alone balances only φ = 60°.
func BalancingMicrofarads(siemens, lag, hertz float64) (ac, bc float64) {
	scale := 2.0 / 3 * siemens / (2 * math.Pi * hertz) * 1e6
	return scale * math.Sin(2*math.Pi/3-lag), scale * math.Sin(lag-math.Pi/3)
}
