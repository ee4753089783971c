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

	"brackmoor/core/halt"
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
// hertz. For a doubler BusMicrofarad is each of its two capacitors. BusESROhm is the
// equivalent series resistance of that capacitance, 0 for a capacitor without losses.
type Front struct {
	Phases         int     `json:"phases"`
	Topology       string  `json:"topology"`
	BusMicrofarad  float64 `json:"bus_microfarad"`
	BusESROhm      float64 `json:"bus_esr_ohm"`
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
	Series bool      `json:"series"`
	Stop   halt.Sign `json:"-"`
}

// Result is the periodic state. Input figures are of one line, the power factors at
// the source, before its impedance; capacitor amps are of one can; diode amps of the diode
// that carries most.
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
	// Alternates says that the period is a whole cycle of the line, or two of a doubler: on a
	// load of constant power neighbouring pulses differ, nothing damping them.
	Alternates bool    `json:"alternates,omitempty"`
	Series     *Series `json:"series,omitempty"`
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

// Unsteady says that an error is one of a case that has no periodic state to give.
func Unsteady(err error) bool {
	return errors.Is(err, ErrCollapse) || errors.Is(err, ErrBudget) || errors.Is(err, ErrSwing)
}

// stepsPerCycle are the steps of a cycle.
const stepsPerCycle = 2400

// state is what a circuit carries from step to step.
type state struct {
	line  [3]float64 // amps into the bridge
	choke float64    // amps
	bus   [2]float64 // volts of the bus capacitor, or of a doubler's two cans, behind their ohms
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
	repeats() int // in a cycle
	// coast is the state h seconds on where nothing conducts all the while, ok false where
	// something does, or may.
	coast(s state, at, h float64) (next state, ok bool)
	turned(s state) state // as it would be one repeat earlier, its diodes too
}

// sample is what is measured at an instant.
type sample struct {
	bus, input, power, capacitor float64
	diodes                       [2]float64 // of either half cycle
}

// gamma is the parameter of the two-stage method.
var gamma = 1 - 1/math.Sqrt2

// step advances a circuit by h seconds.
func step(c circuit, s state, at, h float64) state {
	if next, ok := c.coast(s, at, h); ok {
		return next
	}
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
	once := func(s state) (state, error) {
		if err := c.Stop.Err(); err != nil {
			return s, err
		}
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
	q := &search{once: once, peak: peak, amps: c.LoadWatts / peak}
	q.companion = func(s *state) *float64 { return &s.choke }
	if c.Bridge.Topology == Doubler {
		q.companion = func(s *state) *float64 { return &s.bus[1] }
	}
	s, repeats, err := q.settle(s)
	if err != nil {
		return Result{}, err
	}
	cycles := 1
	if repeats > 2 {
		cycles = 2
	}
	r := measure(c, front, s, h, cycles)
	r.Alternates = repeats > 1
	return r, nil
}

// measure reads the periodic state over so many cycles by the trapezoidal rule, which for
// whole periods is that of every order.
func measure(c Case, front circuit, s state, h float64, cycles int) Result {
	var r Result
	var bus2, input2, power, capacitor2 float64
	var diode, diode2 [2]float64
	var sums [harmonics]complex128
	if c.Series {
		r.Series = &Series{}
	}
	low, high := math.Inf(1), 0.0
	omega := 2 * math.Pi * c.Supply.Hertz
	steps := cycles * stepsPerCycle
	share := 1 / float64(steps)
	for i := range steps {
		at := float64(i+1) * h
		s = step(front, s, float64(i)*h, h)
		m := front.read(s, at)
		r.BusMeanVolts += m.bus * share
		bus2 += m.bus * m.bus * share
		input2 += m.input * m.input * share
		power += m.power * share
		capacitor2 += m.capacitor * m.capacitor * share
		for k, amps := range m.diodes {
			diode[k] += amps * share
			diode2[k] += amps * amps * share
		}
		if m.input != 0 {
			turn := cmplx.Rect(1, -omega*at)
			phase := complex(m.input*math.Sqrt2*share, 0)
			for k := range sums {
				phase *= turn
				sums[k] += phase
			}
		}
		if r.Series != nil && i%4 == 0 && i < stepsPerCycle {
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
	// Where halves differ, of the diode that carries more.
	r.DiodeAverageAmps, r.DiodeRMSAmps = max(diode[0], diode[1]), math.Sqrt(max(diode2[0], diode2[1]))
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
