package motor

import (
	"math"
	"math/cmplx"
)

// Balanced is a motor on three balanced lines: the textbook machine.
type Balanced struct {
	Volts         float64 // line to line
	Hertz         float64 // of the supply and of the circuit's ohms
	Poles         int
	FrictionWatts float64 // at synchronous speed, torque proportional to speed
}

// Point is a steady state on three balanced lines. TorqueNm is in the air gap.
type Point struct {
	Slip, LineAmps, PowerFactor, InputWatts, ShaftWatts, TorqueNm float64
}

// SynchronousRPM is 120·f/poles.
func SynchronousRPM(hertz float64, poles int) float64 { return 120 * hertz / float64(poles) }

// At computes the balanced steady state at a slip, leakage saturation
// included, the magnetising branch taken at XmOhm.
func (b Balanced) At(c *Circuit, slip float64) Point {
	p, _ := b.from(c, slip, 1)
	return p
}

// from is At with a first guess of the leakage factor, which it returns
// settled.
func (b Balanced) from(c *Circuit, slip, leakage float64) (Point, float64) {
	phase := b.Volts / math.Sqrt(3)
	var branch Branch
	var amps float64
	// The factor that follows from the amps must be the one they were computed
	// with: repetition, sped up by the secant through the last two.
	last, lastGap := leakage, 0.0
	for i := range 200 {
		branch = c.At(slip, 1, c.XmOhm, leakage)
		amps = phase * cmplx.Abs(branch.Admittance)
		gap := c.LeakageFactor(amps) - leakage
		if math.Abs(gap) < 1e-12 {
			break
		}
		next := leakage + gap
		if i > 0 && gap != lastGap {
			if secant := leakage - gap*(leakage-last)/(gap-lastGap); secant > c.Leakage.Floor && secant <= 1 {
				next = secant
			}
		}
		last, lastGap, leakage = leakage, gap, next
	}
	emf := phase * cmplx.Abs(branch.EMFPerVolt)
	synchronous := SynchronousRPM(b.Hertz, b.Poles) * math.Pi / 30
	gap := 3 * emf * emf * branch.Conductance
	input := 3 * phase * phase * real(branch.Admittance)
	speed := 1 - slip
	p := Point{Slip: slip, LineAmps: amps, InputWatts: input, TorqueNm: gap / synchronous,
		ShaftWatts: gap*speed - b.FrictionWatts*speed*speed}
	if amps > 0 {
		p.PowerFactor = input / (3 * phase * amps)
	}
	return p, leakage
}

// Breakdown is the largest air-gap torque between a slip and standstill, and
// the slip it stands at.
func (b Balanced) Breakdown(c *Circuit, above float64) Point {
	const steps = 16
	ratio := math.Pow(1/above, 1.0/(steps-1))
	var torques [steps]float64
	leakage, best := 1.0, 0
	slip := above
	for i := range steps {
		var p Point
		p, leakage = b.from(c, math.Min(slip, 1), leakage)
		torques[i] = p.TorqueNm
		if p.TorqueNm > torques[best] {
			best = i
		}
		slip *= ratio
	}
	at := float64(best)
	if best > 0 && best < steps-1 {
		l, m, r := torques[best-1], torques[best], torques[best+1]
		at += 0.5 * (l - r) / (l - 2*m + r)
	}
	return b.At(c, math.Min(above*math.Pow(ratio, at), 1))
}
