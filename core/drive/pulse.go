package drive

import (
	"errors"
	"math"
	"math/cmplx"

	"brackmoor/core/network"
)

// Pulses asks for a drive's output at one running point: the bus, the fundamental that
// the motor is to get, the carrier, and the motor's slip there.
type Pulses struct {
	BusVolts     float64 `json:"bus_volts"`
	Volts        float64 `json:"volts"` // line to line, rms
	Hertz        float64 `json:"hertz"`
	CarrierHertz float64 `json:"carrier_hertz"`
	Slip         float64 `json:"slip"`
}

// Pulsed is one cycle of the output. Ripple is what the pulses add to the sine of the
// motor's amps; it goes through the leakage of stator and rotor alone, since the carrier
// is far above the slip.
type Pulsed struct {
	Seconds      []float64 `json:"t_s"`
	VoltsAB      []float64 `json:"volts_ab"`
	AmpsA        []float64 `json:"amps_a"`
	FundamentalV float64   `json:"fundamental_volts"`  // of the pulses, line to line rms, by Fourier
	RippleRMS    float64   `json:"ripple_rms_amps"`    // of line a
	RMSAmps      float64   `json:"rms_amps"`           // with the ripple
	PeakAmps     float64   `json:"peak_amps"`          // with the ripple
	Index        float64   `json:"modulation_index"`   // 1 is the most without over-modulation
	PerSecond    float64   `json:"switchings_per_leg"` // a second
}

// Errors of an output that a drive cannot make.
var (
	ErrBus     = errors.New("the bus has too few volts for the volts asked of the output")
	ErrCarrier = errors.New(
		"the carrier must be at least nine times the output's frequency and at most two thousand times",
	)
)

// points of one carrier cycle.
const perCarrier = 60

// Output makes the pulses of a sine compared with a triangle, the third harmonic that
// three legs have in common added so that the bus is used to the full (Mohan, Undeland
// and Robbins, Power Electronics, sections 8-2 and 8-4).
func (p Pulses) Output(m network.Motor) (Pulsed, error) {
	ratio := p.CarrierHertz / p.Hertz
	if !(ratio >= 9 && ratio <= 2000) {
		return Pulsed{}, ErrCarrier
	}
	phase := p.Volts * math.Sqrt2 / math.Sqrt(3) // peak, line to neutral
	index := phase / (p.BusVolts / math.Sqrt(3))
	if !(index <= 1) {
		return Pulsed{}, ErrBus
	}
	// A whole number of carriers in the cycle: the pattern then repeats.
	ratio = math.Round(ratio)
	n := int(ratio) * perCarrier
	h := 1 / p.Hertz / float64(n)
	omega := 2 * math.Pi * p.Hertz
	frequency := p.Hertz / m.RatedHertz
	// The fundamental by the circuit, the ripple by its leakage.
	branch := m.Circuit.At(p.Slip, frequency, m.Circuit.XmOhm*frequency, 1)
	fundamental := complex(phase, 0) * branch.Admittance
	henry := leakageHenry(m)
	out := Pulsed{Index: index, PerSecond: ratio * p.Hertz * 2}
	ripple, mean := make([]float64, n), 0.0
	flux := 0.0
	var first complex128
	for i := range n {
		at := (float64(i) + 0.5) * h
		// The triangle between −1 and 1.
		x := at * ratio * p.Hertz
		x -= math.Floor(x)
		triangle := 4*math.Abs(x-0.5) - 1
		third := phase / 6 * math.Sin(3*omega*at)
		var leg [3]float64
		for k := range leg {
			want := (phase*math.Sin(omega*at-float64(k)*2*math.Pi/3) + third) / (p.BusVolts / 2)
			// The share of this short time for which the leg is up.
			leg[k] = p.BusVolts / 2 * clamp((want-triangle)/(4/float64(perCarrier)))
		}
		ab := leg[0] - leg[1]
		a := (2*leg[0] - leg[1] - leg[2]) / 3
		flux += (a - phase*math.Sin(omega*at)) * h
		ripple[i] = flux / henry
		mean += ripple[i] / float64(n)
		first += complex(ab*2/float64(n), 0) * cmplx.Rect(1, -omega*at)
		out.Seconds, out.VoltsAB = append(out.Seconds, at), append(out.VoltsAB, ab)
	}
	out.FundamentalV = cmplx.Abs(first) / math.Sqrt2
	squares, all := 0.0, 0.0
	for i, r := range ripple {
		r -= mean
		at := out.Seconds[i]
		sine := cmplx.Abs(fundamental) * math.Sin(omega*at+cmplx.Phase(fundamental))
		out.AmpsA = append(out.AmpsA, sine+r)
		out.PeakAmps = math.Max(out.PeakAmps, math.Abs(sine+r))
		squares += r * r / float64(n)
		all += (sine + r) * (sine + r) / float64(n)
	}
	out.RippleRMS, out.RMSAmps = math.Sqrt(squares), math.Sqrt(all)
	return out, nil
}

func clamp(x float64) float64 { return math.Max(-1, math.Min(1, x)) }

// leakageHenry is what the pulses meet: stator leakage and that of the cages in
// parallel.
func leakageHenry(m network.Motor) float64 {
	omega := 2 * math.Pi * m.RatedHertz
	across := 1 / m.Circuit.XmOhm // siemens
	for _, g := range m.Circuit.Cages {
		across += 1 / math.Max(g.XOhm, 1e-6)
	}
	return math.Max((m.Circuit.X1Ohm+1/across)/omega, 1e-6)
}
