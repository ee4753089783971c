// Package rectifier steps the front end of a drive to its periodic state: a diode
// bridge on one phase or three, or a doubler, with line ohms, reactor and choke in
// front of a bus capacitor and a constant-power load.
//
// Diodes are straight lines, a drop and ohms once they conduct. Each step is an
// L-stable one of second order (the SDIRK method of Alexander, SIAM Journal on
// Numerical Analysis 14, 1977), in which the diodes' states are found by turning
// over the one that contradicts its volts or amps most.
package rectifier

import (
	"errors"
	"math"
	"math/cmplx"
)

// Topologies of the front end.
const (
	Bridge  = "bridge"
	Doubler = "doubler"
)

// Supply is the source: volts rms (line to line on three phases), and the ohms in
// each line conductor, of which one phase has two in its loop.
type Supply struct {
	Volts             float64 `json:"volts"`
	Hertz             float64 `json:"hertz"`
	LineResistanceOhm float64 `json:"line_resistance_ohm"`
	LineReactanceOhm  float64 `json:"line_reactance_ohm"`
}

// Front is the rectifier and its bus. LineReactorOhm is in each line, at supply
// hertz. For a doubler BusMicrofarad is each of its two capacitors.
type Front struct {
	Phases         int     `json:"phases"`
	Topology       string  `json:"topology"`
	BusMicrofarad  float64 `json:"bus_microfarad"`
	DCChokeMH      float64 `json:"dc_choke_mh"`
	DCChokeOhm     float64 `json:"dc_choke_ohm"`
	LineReactorOhm float64 `json:"line_reactor_ohm"`
}

// Case is a front end under load.
type Case struct {
	Supply    Supply  `json:"supply"`
	Bridge    Front   `json:"bridge"`
	LoadWatts float64 `json:"load_watts"`
	// Series asks for the waves of one cycle.
	Series bool `json:"series"`
}

// Result is the periodic state. Input figures are of one line, the power factors at
// the source, before its impedance; capacitor amps are of one can; diode amps of
// one diode.
type Result struct {
	BusMeanVolts       float64 `json:"bus_mean_volts"`
	RipplePPVolts      float64 `json:"ripple_pp_volts"`
	RippleRMSVolts     float64 `json:"ripple_rms_volts"`
	InputRMSAmps       float64 `json:"input_rms_amps"`
	InputPeakAmps      float64 `json:"input_peak_amps"`
	TruePowerFactor    float64 `json:"true_power_factor"`
	DisplacementFactor float64 `json:"displacement_factor"`
	CapacitorRMSAmps   float64 `json:"capacitor_rms_amps"`
	DiodeAverageAmps   float64 `json:"diode_average_amps"`
	DiodeRMSAmps       float64 `json:"diode_rms_amps"`
	// InputHarmonicAmps are the rms amps of the first to the twenty-fifth harmonic of the
	// input, InputTHDPercent all above the first over the first.
	InputHarmonicAmps [harmonics]float64 `json:"input_harmonic_amps" nullable:"false"`
	InputTHDPercent   float64            `json:"input_thd_percent"`
	Series            *Series            `json:"series,omitempty"`
}

// harmonics that are given, the fundamental the first.
const harmonics = 25

// Series is one cycle of the periodic state.
type Series struct {
	Seconds   []float64 `json:"t_s" nullable:"false"`
	BusVolts  []float64 `json:"bus_volts" nullable:"false"`
	InputAmps []float64 `json:"input_amps" nullable:"false"`
}

// A diode that conducts.
const (
	dropVolts = 0.8
	dropOhm   = 0.010
)

// Errors of a case that has no periodic state to give.
var (
	// ErrCollapse says that the line cannot carry the load, or the capacitors not hold it.
	ErrCollapse = errors.New("the bus collapses: line or capacitors are too small for this load")
	// ErrBudget says that the periodic state was not reached within the step budget.
	ErrBudget = errors.New("the step budget is spent before the periodic state was reached")
	// ErrSwing says that there is a periodic state but that nothing stays in it.
	ErrSwing = errors.New(
		"the bus swings against the constant-power load and never settles: it takes more capacitance, or more ohms " +
			"in the choke",
	)
)

// steps in a cycle, the most cycles that are stepped, and of the search with a choke
// the cycles before it and its most iterations.
const (
	stepsPerCycle = 2400
	mostCycles    = 400
	warmUp        = 3
	mostNewton    = 60
)

// state is what a circuit carries from step to step.
type state struct {
	line  [3]float64 // amps into the bridge
	choke float64    // amps
	bus   [2]float64 // volts: of the bus, or of a doubler's two cans
}

// combine is a·s + b·t.
func combine(a float64, s state, b float64, t state) state {
	var r state
	for i := range r.line {
		r.line[i] = a*s.line[i] + b*t.line[i]
	}
	r.choke = a*s.choke + b*t.choke
	for i := range r.bus {
		r.bus[i] = a*s.bus[i] + b*t.bus[i]
	}
	return r
}

// circuit makes one implicit stage: the state after tau seconds that grew from a
// base, at a time.
type circuit interface {
	stage(base state, at, tau float64) state
	read(s state, at float64) sample
	repeats() int         // in a cycle
	turned(s state) state // as it would be one repeat earlier, its diodes too
}

// sample is what is measured at an instant.
type sample struct {
	bus, input, power, capacitor, diode float64
}

// gamma is the parameter of the two-stage method.
var gamma = 1 - 1/math.Sqrt2

// step advances a circuit by h seconds.
func step(c circuit, s state, at, h float64) state {
	tau := gamma * h
	first := c.stage(s, at+tau, tau)
	// The slope of the first stage carries over by (1 − γ).
	grown := combine(1-(1-gamma)/gamma, s, (1-gamma)/gamma, first)
	return c.stage(grown, at+h, tau)
}

// Solve steps a case to its periodic state.
func Solve(c Case) (Result, error) {
	peak := math.Sqrt2 * c.Supply.Volts
	period := 1 / c.Supply.Hertz
	h := period / stepsPerCycle
	var front circuit
	s := state{bus: [2]float64{0.97 * peak, 0}}
	if c.Bridge.Topology == Doubler {
		front, s.bus[1] = newDoubler(c), s.bus[0]
	} else {
		front = newBridge(c)
		if c.Bridge.Phases == 3 {
			s.bus[0] = 0.95 * peak
		}
	}
	// A front end repeats itself within the cycle, its lines having changed places:
	// only so much of it is stepped.
	part := stepsPerCycle / front.repeats()
	cycle := func(s state) (state, error) {
		for i := range part {
			if s = step(
				front,
				s,
				float64(i)*h,
				h,
			); !(s.bus[0] > 0.15*peak) ||
				c.Bridge.Topology == Doubler && !(s.bus[1] > 0.15*peak) {
				return s, ErrCollapse
			}
		}
		return front.turned(s), nil
	}
	apart := func(a, b state) float64 {
		return settled(a, b) / (math.Abs(a.line[0]) + c.LoadWatts/peak + 0.05)
	}
	var err error
	switch {
	case c.Bridge.Topology == Doubler:
		s, err = settleTwo(s, peak, apart, cycle, func(s *state) *float64 { return &s.bus[1] })
	case c.Bridge.DCChokeMH > 0:
		s, err = settleTwo(s, peak, apart, cycle, func(s *state) *float64 { return &s.choke })
	default:
		s, err = settleBus(s, peak, apart, func(s state) (state, error) {
			var err error
			for range front.repeats() {
				if s, err = cycle(s); err != nil {
					return s, err
				}
			}
			return s, nil
		})
	}
	if err != nil {
		return Result{}, err
	}
	return measure(c, front, s, h), nil
}

// enough is the drift over a cycle, as a share of the peak volts and of the line's
// amps, that counts as periodic.
const enough = 4e-6

type cycler func(state) (state, error)

// settleBus finds the periodic state of a bridge without a choke. Its bus is the one
// slow state: what a cycle changes it by goes to nothing along a straight line, on
// which the next start is taken.
func settleBus(s state, peak float64, apart func(a, b state) float64, cycle cycler) (state, error) {
	last, lastGain := 0.0, 0.0
	for k := range mostCycles {
		end, err := cycle(s)
		if err != nil {
			return s, err
		}
		start, gain := s.bus[0], end.bus[0]-s.bus[0]
		if math.Abs(gain)/peak+apart(s, end) < enough {
			return end, nil
		}
		s = end
		if k >= 2 && k%2 == 0 && gain != lastGain {
			if jump := -gain * (start - last) / (gain - lastGain); math.Abs(jump) < 0.1*peak {
				s.bus[0] = start + jump
			}
		}
		last, lastGain = start, gain
	}
	return s, ErrBudget
}

// settleTwo finds the periodic state where the bus has a companion as slow as itself,
// a choke or a second can, by Newton's method on both.
func settleTwo(
	s state,
	peak float64,
	apart func(a, b state) float64,
	cycle cycler,
	companion func(*state) *float64,
) (state, error) {
	var err error
	for range warmUp {
		if s, err = cycle(s); err != nil {
			return s, err
		}
	}
	// moved changes both; the line's amps go with a choke's, which are the same.
	moved := func(s state, bus, other float64) state {
		before := s.choke
		s.bus[0] += bus
		*companion(&s) = math.Max(0, *companion(&s)+other)
		if before > 0 {
			for k := range s.line {
				s.line[k] *= s.choke / before
			}
		}
		return s
	}
	stable := true
	for range mostNewton {
		end, err := cycle(s)
		if err != nil {
			return s, err
		}
		difference := func(a, b state) [2]float64 {
			return [2]float64{a.bus[0] - b.bus[0], *companion(&a) - *companion(&b)}
		}
		gain := difference(end, s)
		if (math.Abs(gain[0])+math.Abs(gain[1]))/peak+apart(s, end) < enough {
			if !stable {
				return end, ErrSwing
			}
			return end, nil
		}
		var slopes [2][2]float64 // of the gain, by bus and companion
		nudge := 1e-4 * peak
		for i, from := range []state{moved(s, nudge, 0), moved(s, 0, nudge)} {
			after, err := cycle(from)
			if err != nil {
				return s, err
			}
			other := difference(after, from)
			slopes[i] = [2]float64{(other[0] - gain[0]) / nudge, (other[1] - gain[1]) / nudge}
		}
		a, b, c, d := slopes[0][0], slopes[1][0], slopes[0][1], slopes[1][1]
		determinant := a*d - b*c
		stable = shrinks(a+d+2, determinant+a+d+1)
		bus, other := (b*gain[1]-d*gain[0])/determinant, (c*gain[0]-a*gain[1])/determinant
		if jump := math.Abs(bus) + math.Abs(other); jump < 0.3*peak {
			s = moved(s, bus, other)
		} else {
			s = end
		}
	}
	// Where currents stop short of the boundary the map has a kink; plain cycles get
	// there too.
	for range mostCycles {
		end, err := cycle(s)
		if err != nil {
			return s, err
		}
		if (math.Abs(end.bus[0]-s.bus[0])+math.Abs(*companion(&end)-*companion(&s)))/peak+apart(s, end) < enough {
			return end, nil
		}
		s = end
	}
	return s, ErrBudget
}

// shrinks says whether a map of two states, by its trace and determinant, brings
// neighbours closer (Jury's conditions, with a hair for rounding).
func shrinks(trace, determinant float64) bool {
	const hair = 1.002
	return math.Abs(determinant) < hair && math.Abs(trace) < hair+determinant
}

// settled is by how much the currents differ from one cycle to the next.
func settled(a, b state) float64 {
	most := math.Abs(a.choke - b.choke)
	for i := range a.line {
		most = math.Max(most, math.Abs(a.line[i]-b.line[i]))
	}
	return most
}

// measure reads one cycle of the periodic state by the trapezoidal rule, which for
// whole periods is that of every order.
func measure(c Case, front circuit, s state, h float64) Result {
	var r Result
	var bus2, input2, power, capacitor2, diode, diode2 float64
	var sums [harmonics]complex128
	if c.Series {
		r.Series = &Series{}
	}
	low, high := math.Inf(1), 0.0
	omega := 2 * math.Pi * c.Supply.Hertz
	for i := range stepsPerCycle {
		at := float64(i+1) * h
		s = step(front, s, float64(i)*h, h)
		m := front.read(s, at)
		r.BusMeanVolts += m.bus / stepsPerCycle
		bus2 += m.bus * m.bus / stepsPerCycle
		input2 += m.input * m.input / stepsPerCycle
		power += m.power / stepsPerCycle
		capacitor2 += m.capacitor * m.capacitor / stepsPerCycle
		diode += m.diode / stepsPerCycle
		diode2 += m.diode * m.diode / stepsPerCycle
		turn := cmplx.Rect(1, -omega*at)
		phase := complex(m.input*math.Sqrt2/stepsPerCycle, 0)
		for k := range sums {
			phase *= turn
			sums[k] += phase
		}
		if r.Series != nil && i%4 == 0 {
			x := r.Series
			x.Seconds, x.BusVolts = append(x.Seconds, at), append(x.BusVolts, m.bus)
			x.InputAmps = append(x.InputAmps, m.input)
		}
		low, high = math.Min(low, m.bus), math.Max(high, m.bus)
		r.InputPeakAmps = math.Max(r.InputPeakAmps, math.Abs(m.input))
	}
	r.RipplePPVolts = high - low
	r.RippleRMSVolts = math.Sqrt(math.Max(0, bus2-r.BusMeanVolts*r.BusMeanVolts))
	r.InputRMSAmps, r.CapacitorRMSAmps = math.Sqrt(input2), math.Sqrt(capacitor2)
	r.DiodeAverageAmps, r.DiodeRMSAmps = diode, math.Sqrt(diode2)
	apparent := c.Supply.Volts * r.InputRMSAmps
	if c.Bridge.Phases == 3 {
		apparent *= math.Sqrt(3)
	}
	for k, sum := range sums {
		r.InputHarmonicAmps[k] = cmplx.Abs(sum)
	}
	if first := r.InputHarmonicAmps[0]; apparent > 0 && first > 0 {
		r.TruePowerFactor = power / apparent
		// The source's volts are a sine: they lag their cosine by a quarter.
		r.DisplacementFactor = -imag(sums[0]) / first
		r.InputTHDPercent = 100 * math.Sqrt(math.Max(0, input2/(first*first)-1))
	}
	return r
}
