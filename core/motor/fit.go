package motor

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"

	"brackmoor/core/rule"
)

// Goal is what is known of one figure of starting. Stated is the plate's own
// and is aimed at; otherwise Typical is, softly, and Least and Most are the
// limits of its class, one-sided. Zero means not known.
type Goal struct {
	Stated, Typical, Least, Most float64
}

// Target is what a circuit is fitted to: the rated point at one voltage (line
// amps, shaft watts, input power factor), and starting figures as multiples of
// rated amps and rated torque.
type Target struct {
	Volts, Hertz, RPM, Amps, OutputWatts, PowerFactor float64
	Poles                                             int
	LockedRotorAmps, LockedRotorTorque, Breakdown     Goal
	// measured, hot, per phase of the wye equivalent; 0 where it was not
	StatorOhm float64
}

// Slip is the slip of the rated point.
func (t Target) Slip() float64 { return 1 - t.RPM/SynchronousRPM(t.Hertz, t.Poles) }

// Efficiency is output over input of the rated point.
func (t Target) Efficiency() float64 {
	return t.OutputWatts / (math.Sqrt(3) * t.Volts * t.Amps * t.PowerFactor)
}

// Residual is how well the circuit gives one figure back. Kind is "rated",
// "stated", "limit" (a class minimum or maximum) or "typical". Holds says that
// it is within 0.5, 5, and 15 percent on the wrong side; a typical figure
// always holds.
type Residual struct {
	Name         string  `json:"name"`
	Kind         string  `json:"kind" enum:"rated,stated,limit,typical"`
	Target       float64 `json:"target"`
	Got          float64 `json:"got"`
	ErrorPercent float64 `json:"error_percent"`
	Holds        bool    `json:"holds"`
}

// Parameter is one fitted parameter and the bounds it must keep, per unit of
// rated volts over rated amps, or as Unit says.
type Parameter struct {
	Name  string  `json:"name"`
	Unit  string  `json:"unit"`
	Value float64 `json:"value"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

// fence is how near to a bound, as a share of it, a parameter rests on it: the fit fences its
// bounds softly, from two percent inside.
const fence = 0.025

// Inside says whether the parameter is inside its bounds and does not rest on one of them.
func (p Parameter) Inside() bool { return p.Value >= p.Low*(1+fence) && p.Value <= p.High*(1-fence) }

// Fit is a fitted motor at the volts of its target.
type Fit struct {
	Circuit       Circuit
	FrictionWatts float64
	RatedNm       float64 // rated shaft torque
	Residuals     []Residual
	Parameters    []Parameter
}

// Holds says whether every residual holds and every parameter is inside its
// bounds without resting on one.
func (f Fit) Holds() bool {
	for _, r := range f.Residuals {
		if !r.Holds {
			return false
		}
	}
	return f.InBounds()
}

// InBounds says whether no parameter was driven onto a bound.
func (f Fit) InBounds() bool {
	for _, p := range f.Parameters {
		if !p.Inside() {
			return false
		}
	}
	return true
}

// ErrTarget says that the figures of a target contradict each other; the
// sentence says which.
var ErrTarget = errors.New("the plate's figures contradict each other")

// parameters of the search, in the order of bounds below.
const (
	pR1 = iota
	pX1
	pXm
	pCore     // core loss as a share of all losses
	pFriction // friction, windage and stray load loss as a share of all losses
	pRi       // inner cage
	pXi
	pRo // outer cage
	pXo
	pFloor
	pOnset // × rated amps
	parameters
)

// bound is the plausible range of a parameter and where it lies when nothing
// else speaks: small industrial machines in per unit of their input, after
// Alger, Induction Machines, and the loss shares usual below 20 kW. width is
// the spread of the prior in natural logarithms.
type bound struct {
	name, unit              string
	low, usual, high, width float64
}

var bounds = [parameters]bound{
	pR1:       {"stator resistance", "per unit", 0.004, 0.045, 0.25, 0.9},
	pX1:       {"stator leakage", "per unit", 0.025, 0.09, 0.25, 0.5},
	pXm:       {"magnetising reactance", "per unit", 0.8, 2.0, 3.5, 0.6},
	pCore:     {"core loss", "share of losses", 0.04, 0.19, 0.45, 0.4},
	pFriction: {"friction, windage and stray", "share of losses", 0.03, 0.13, 0.35, 0.4},
	pRi:       {"inner cage resistance", "per unit", 0.006, 0.06, 0.40, 1.0},
	pXi:       {"inner cage leakage", "per unit", 0.03, 0.13, 0.60, 0.6},
	pRo:       {"outer cage resistance", "per unit", 0.02, 0.20, 2.5, 0.9},
	pXo:       {"outer cage leakage", "per unit", 0.015, 0.06, 0.80, 0.8},
	pFloor:    {"leakage floor", "share", 0.25, 0.65, 0.98, 0.5},
	pOnset:    {"leakage onset", "× rated amps", 1.15, 2.0, 4.5, 0.4},
}

type fitting struct {
	t        Target
	balanced Balanced
	ohms     float64 // base
	losses   float64
	ratedNm  float64
	usual    [parameters]float64
	bounds   [parameters]bound
	seen     []Observation
	trust    float64 // weight of what yields
}

func (f *fitting) circuit(u []float64) (c Circuit, friction float64) {
	var v [parameters]float64
	for i := range v {
		v[i] = math.Exp(u[i])
	}
	phase := f.t.Volts / math.Sqrt(3)
	return Circuit{
		R1Ohm: v[pR1] * f.ohms, X1Ohm: v[pX1] * f.ohms, XmOhm: v[pXm] * f.ohms,
		RcOhm:   3 * phase * phase * 0.92 / (v[pCore] * f.losses), // air-gap volts about 0.96 of terminal
		Cages:   []Cage{{v[pRi] * f.ohms, v[pXi] * f.ohms}, {v[pRo] * f.ohms, v[pXo] * f.ohms}},
		Leakage: LeakageSaturation{OnsetAmps: v[pOnset] * f.t.Amps, Floor: v[pFloor]},
	}, v[pFriction] * f.losses
}

// candidate works the states of a circuit out, the most torque at a slip that is known of a
// neighbour, or looked for where it is 0.
func (f *fitting) candidate(u []float64, topSlip float64) *Candidate {
	c := &Candidate{Lines: f.balanced, logs: u}
	c.Circuit, c.Lines.FrictionWatts = f.circuit(u)
	slip := f.t.Slip()
	c.Rated, c.Locked = c.Lines.At(&c.Circuit, slip), c.Lines.At(&c.Circuit, 1)
	if topSlip > 0 {
		c.Top = c.Lines.At(&c.Circuit, topSlip)
	} else {
		c.Top = c.Lines.Breakdown(&c.Circuit, slip)
	}
	return c
}

// weigh fills the residuals of a state, and returns the slip of its most torque.
func (f *fitting) weigh(u, out []float64, topSlip float64) float64 {
	c := f.candidate(u, topSlip)
	for i := range f.seen {
		out[i] = f.seen[i].residual(c, f.trust)
	}
	return c.Top.Slip
}

// Check refuses a rated point that no motor can have, and says why; the error
// wraps ErrTarget.
func (t Target) Check() error {
	slip := t.Slip()
	switch {
	case !(t.OutputWatts > 0 && t.Volts > 0 && t.Hertz > 0 && t.Amps > 0 && t.Poles >= 2):
		return fmt.Errorf("%w: output, volts, amps, hertz and poles must all be known", ErrTarget)
	case slip <= 0 || slip >= 0.2:
		return fmt.Errorf(
			"%w: %.0f rpm on %d poles at %.0f Hz is a slip of %.1f percent, which must lie between 0 and 20",
			ErrTarget,
			t.RPM,
			t.Poles,
			t.Hertz,
			100*slip,
		)
	case t.PowerFactor <= 0.2 || t.PowerFactor > 0.97:
		return fmt.Errorf(
			"%w: a power factor of %.2f is outside what an induction motor has (0.2 to 0.97)",
			ErrTarget,
			t.PowerFactor,
		)
	case t.Efficiency() > 0.985:
		return fmt.Errorf("%w: output %.0f W from %.0f W input would be an efficiency of %.0f percent",
			ErrTarget, t.OutputWatts, t.OutputWatts/t.Efficiency(), 100*t.Efficiency())
	case t.Efficiency() < 0.15:
		return fmt.Errorf(
			"%w: an efficiency of %.0f percent is too low for amps and output to belong together",
			ErrTarget,
			100*t.Efficiency(),
		)
	}
	losses := t.OutputWatts * (1/t.Efficiency() - 1)
	if rotor := t.OutputWatts * slip / (1 - slip); rotor > 0.85*losses {
		return fmt.Errorf(
			"%w: a slip of %.1f percent alone loses %.0f W in the rotor, but output, amps and power factor leave "+
				"only %.0f W for all losses",
			ErrTarget,
			100*slip,
			rotor,
			losses,
		)
	}
	return nil
}

// FitCircuit fits a two-cage circuit to a target by damped least squares with
// priors (Levenberg and Marquardt; Nocedal and Wright, Numerical Optimization,
// chapter 10). It is deterministic. The error wraps ErrTarget when the rated
// point contradicts itself or cannot be met within 0.5 percent.
func FitCircuit(t Target) (Fit, error) { return FitTo(t, nil) }

// FitTo is FitCircuit with more that was seen of the motor, such as readings.
func FitTo(t Target, more []Observation) (Fit, error) {
	if err := t.Check(); err != nil {
		return Fit{}, err
	}
	f := &fitting{t: t, ohms: t.Volts / (math.Sqrt(3) * t.Amps), losses: t.OutputWatts * (1/t.Efficiency() - 1)}
	f.balanced = Balanced{Volts: t.Volts, Hertz: t.Hertz, Poles: t.Poles}
	f.ratedNm = t.OutputWatts / (t.RPM * math.Pi / 30)
	f.bounds = bounds
	f.prior()
	f.seen = append(f.observations(), more...)
	var fit Fit
	var err error
	// Starting figures that the rated point cannot live with give way to it.
	for _, f.trust = range []float64{1, 0.1, 0.01} {
		u := make([]float64, parameters)
		for i := range u {
			u[i] = math.Log(f.usual[i])
		}
		f.search(u)
		if fit, err = f.report(u); err == nil {
			break
		}
	}
	return fit, err
}

// prior places the usual value of each parameter by the rated point: rotor
// resistance by slip, magnetising reactance by the reactive power, stator
// resistance by the losses that are left.
func (f *fitting) prior() {
	for i, b := range bounds {
		f.usual[i] = b.usual
	}
	clamp := func(i int, value float64) {
		f.usual[i] = math.Min(math.Max(value, bounds[i].low*1.05), bounds[i].high*0.95)
	}
	t := f.t
	slip := t.Slip()
	load := t.PowerFactor * t.Efficiency() // output, per unit
	losses := load/t.Efficiency() - load
	rotor := load * slip / (1 - slip)
	clamp(pRi, 1.25*slip/load*0.85)
	clamp(pRo, 5*slip/load*0.85)
	reactive := math.Sqrt(1-t.PowerFactor*t.PowerFactor) - 0.16
	clamp(pXm, 0.9/math.Max(reactive, 0.1))
	clamp(pR1, losses-rotor-losses*(bounds[pCore].usual+bounds[pFriction].usual))
	if t.StatorOhm > 0 {
		// A measured resistance is kept, wherever it lies.
		f.usual[pR1] = t.StatorOhm / f.ohms
		f.bounds[pR1].name, f.bounds[pR1].width = "stator resistance, measured", 0.001
		f.bounds[pR1].low, f.bounds[pR1].high = f.usual[pR1]*0.9, f.usual[pR1]*1.1
	}
}

// search is the damped least-squares descent.
func (f *fitting) search(u []float64) {
	n, m := int(parameters), len(f.seen)
	r, trial, moved := make([]float64, m), make([]float64, m), make([]float64, n)
	jacobian := mat.NewDense(m, n, nil)
	damping := 1e-2
	top := f.weigh(u, r, 0)
	cost := sumSquares(r)
	var gradient mat.VecDense
	var step mat.VecDense
	normal, damped := mat.NewSymDense(n, nil), mat.NewSymDense(n, nil)
	var cholesky mat.Cholesky
	for range 120 {
		for j := range n {
			const h = 1e-5
			keep := u[j]
			u[j] = keep + h
			f.weigh(u, trial, top) // at a maximum its place moves nothing
			u[j] = keep
			for i := range m {
				jacobian.Set(i, j, (trial[i]-r[i])/h)
			}
		}
		normal.SymOuterK(1, jacobian.T())
		gradient.MulVec(jacobian.T(), mat.NewVecDense(m, r))
		improved := false
		for range 12 {
			damped.CopySym(normal)
			for j := range n {
				damped.SetSym(j, j, normal.At(j, j)*(1+damping)+1e-9)
			}
			if !cholesky.Factorize(damped) {
				damping *= 10
				continue
			}
			if err := cholesky.SolveVecTo(&step, &gradient); err != nil {
				damping *= 10
				continue
			}
			for j := range n {
				moved[j] = u[j] - math.Min(math.Max(step.AtVec(j), -0.7), 0.7)
			}
			newTop := f.weigh(moved, trial, 0)
			if next := sumSquares(trial); next < cost {
				gain := cost - next
				top = newTop
				copy(u, moved)
				copy(r, trial)
				cost, improved = next, true
				damping = math.Max(damping/5, 1e-9)
				if gain < 1e-5*cost {
					return
				}
				break
			}
			damping *= 4
		}
		if !improved {
			return
		}
	}
}

func sumSquares(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x * x
	}
	if math.IsNaN(sum) {
		return math.Inf(1)
	}
	return sum
}

// report measures the finished circuit and adds the magnetising curve.
func (f *fitting) report(u []float64) (Fit, error) {
	at := f.candidate(u, 0)
	fit := Fit{Circuit: at.Circuit, FrictionWatts: at.Lines.FrictionWatts, RatedNm: f.ratedNm}
	for i, p := range f.bounds {
		fit.Parameters = append(fit.Parameters, Parameter{p.name, p.unit, math.Exp(u[i]), p.low, p.high})
	}
	rated := at.Rated
	for _, r := range []Residual{
		{Name: "output", Target: f.t.OutputWatts, Got: rated.ShaftWatts},
		{Name: "amps", Target: f.t.Amps, Got: rated.LineAmps},
		{Name: "power factor", Target: f.t.PowerFactor, Got: rated.PowerFactor},
	} {
		r.Kind, r.ErrorPercent = "rated", 100*(r.Got/r.Target-1)
		r.Holds = math.Abs(r.ErrorPercent) <= 0.5
		fit.Residuals = append(fit.Residuals, r)
		if !r.Holds {
			return fit, fmt.Errorf(
				"%w: no circuit gives %s back to 0.5 percent (it comes out at %.4g instead of %.4g); check output, "+
					"amps, power factor, efficiency and rpm against each other",
				ErrTarget,
				r.Name,
				r.Got,
				r.Target,
			)
		}
	}
	for _, s := range f.starting() {
		fit.Residuals = append(fit.Residuals, s.goal.residual(s.name, s.predict(at)))
	}
	fit.Circuit.Curve = TypicalCurve(at.Circuit, f.t.Volts)
	return fit, nil
}

func (g Goal) residual(name string, got float64) Residual {
	r := Residual{Name: name, Got: got, Holds: true}
	stated := rule.Limit("plate.starting-figures", "most_error_stated_percent") / 100
	class := rule.Limit("plate.starting-figures", "most_error_class_percent") / 100
	switch {
	case g.Stated > 0:
		r.Kind, r.Target = "stated", g.Stated
		r.Holds = math.Abs(got/g.Stated-1) <= stated
	case g.Least > 0 && got < g.Least:
		r.Kind, r.Target = "limit", g.Least
		r.Holds = got >= (1-class)*g.Least
	case g.Most > 0 && got > g.Most:
		r.Kind, r.Target = "limit", g.Most
		r.Holds = got <= (1+class)*g.Most
	default:
		r.Kind, r.Target = "typical", g.Typical
	}
	if r.Target > 0 {
		r.ErrorPercent = 100 * (got/r.Target - 1)
	}
	return r
}

// TypicalCurve is the magnetising curve taken where nothing is known: no-load
// amps 1.3 times at 110 percent volts, 1.8 at 120 and 2.6 at 130. volts is
// line to line, at rated hertz.
func TypicalCurve(c Circuit, volts float64) []CurvePoint {
	knee := volts / math.Sqrt(3) * c.XmOhm / (c.XmOhm + c.X1Ohm)
	amps := knee / c.XmOhm
	return []CurvePoint{{knee, amps}, {1.1 * knee, 1.3 * amps}, {1.2 * knee, 1.8 * amps}, {1.3 * knee, 2.6 * amps}}
}
