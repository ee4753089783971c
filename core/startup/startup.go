// Package startup brings motors up to speed on a network: J·dω/dt is what the motor
// makes less what friction and load take, the network solved anew at every speed. It
// says how long a start takes, whether it hangs, what it heats, and when the start
// capacitor should leave. Motors that run already dip together with the made leg.
package startup

import (
	"errors"
	"math"

	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Motor is a motor of the network with its shaft. InertiaKgm2 is rotor and load
// together. InitialRPM is positive in the abc sense: one that was spun up by hand begins
// there. One that is Running begins at the speed it has with the others that run.
type Motor struct {
	network.Motor
	Shaft      *load.Curve `json:"load"`
	InitialRPM float64     `json:"initial_rpm"`
	Running    bool        `json:"running"`
}

// Out says when a capacitor leaves: By "speed" (rpm of a motor, either way), "seconds",
// or "volts" across its own pair, as a potential relay does. BackAt, for volts, is
// where it comes in again; 0 never.
type Out struct {
	By     string  `json:"by"`
	At     float64 `json:"at"`
	Motor  string  `json:"motor"`
	BackAt float64 `json:"back_at"`
}

// The ways for a capacitor to leave.
const (
	BySpeed   = "speed"
	BySeconds = "seconds"
	ByVolts   = "volts"
)

// Capacitor is a capacitor that may leave.
type Capacitor struct {
	network.Capacitor
	Out *Out `json:"out"`
}

// Case is a start. MostSeconds zero means DefaultSeconds.
type Case struct {
	Supply          network.Supply        `json:"supply"`
	Motors          []Motor               `json:"motors"`
	Capacitors      []Capacitor           `json:"capacitors"`
	Loads           []network.Impedance   `json:"loads"`
	ThreePhaseLoads []network.ThreePhase  `json:"three_phase_loads"`
	Rectifiers      []network.Rectifier   `json:"rectifiers"`
	Transformers    []network.Transformer `json:"transformers"`
	MostSeconds     float64               `json:"most_s"`
	Pony            *Pony                 `json:"pony"` // brings the first motor up before it is connected
}

// DefaultSeconds is how long a start is followed where nothing is said.
const DefaultSeconds = 30

// MotorResult is what came of one motor. Seconds are nil if never; State is that of the
// end: network.Running, Crawling or Stalled, or Rising when the time was over first.
// LowestRPM is the least magnitude of its speed, and WindingAmps2Seconds ∫I²dt of its
// windings.
type MotorResult struct {
	ID                  string     `json:"id"`
	State               string     `json:"state"`
	TimeTo90            *float64   `json:"time_to_90_percent_s"`
	TimeTo95            *float64   `json:"time_to_95_percent_s"`
	FinalRPM            float64    `json:"final_rpm"`
	LowestRPM           float64    `json:"lowest_rpm"`
	PeakLineAmps        float64    `json:"peak_line_amps"`
	WindingAmps2Seconds [3]float64 `json:"winding_amps2_s" nullable:"false"`
	CopperJoules        float64    `json:"copper_joules"`
}

// Rising is the state of a motor whose speed still changes at the end.
const Rising = "rising"

// CapacitorResult is when a capacitor left, nil if it stayed, and how often it came in
// again.
type CapacitorResult struct {
	ID         string   `json:"id"`
	OutSeconds *float64 `json:"out_s"`
	Again      int      `json:"again"`
}

// Point is a moment of a start. Torques are air-gap torque and what opposes it.
type Point struct {
	Seconds    float64       `json:"t_s"`
	Volts      network.Lines `json:"volts"`
	SupplyAmps float64       `json:"supply_amps"`
	Motors     []MotorPoint  `json:"motors" nullable:"false"`
}

// MotorPoint is one motor at a moment.
type MotorPoint struct {
	RPM         float64    `json:"rpm"`
	TorqueNm    float64    `json:"torque_nm"`
	LoadNm      float64    `json:"load_nm"`
	WindingAmps [3]float64 `json:"winding_amps" nullable:"false"`
}

// Result is a start followed to its end. LowestVolts are those of each pair after the
// first instant.
type Result struct {
	Seconds        float64           `json:"seconds"`
	Motors         []MotorResult     `json:"motors" nullable:"false"`
	Capacitors     []CapacitorResult `json:"capacitors" nullable:"false"`
	LowestVolts    network.Lines     `json:"lowest_volts"`
	PeakSupplyAmps float64           `json:"peak_supply_amps"`
	Points         []Point           `json:"points" nullable:"false"`
	Pony           *PonyResult       `json:"pony,omitempty"`
	Spin           *Spin             `json:"spin,omitempty"`
	Verdicts       []rule.Verdict    `json:"verdicts" nullable:"false"`
}

// ErrBudget says that the time asked for takes more steps than are spent on one start.
var ErrBudget = errors.New("the step budget is spent before the start was over")

const (
	mostSteps  = 20_000
	tolerance  = 3e-4     // of synchronous speed, in a step
	most       = 1.0 / 40 // of synchronous speed, that a step may gain
	still      = 1e-6     // of synchronous speed: standing
	calm       = 1e-3     // of the largest torque so far: nothing changes any more
	mostAgain  = 20       // comings back of a relay before it is said to chatter
	damps      = 1.6      // step times rate, at which the method's swing has all but died
	firstStep  = 1e-4
	underSpeed = 0.9 // of synchronous speed: below it a stable point is a crawl
)

// run is a start under way.
type run struct {
	c           Case
	solver      *network.Solver
	synchronous []float64 // rad/s
	friction    []float64 // N·m for each rad/s
	largest     []float64 // torque so far, N·m
	copper      []float64 // watts at the last moment
	rate        []float64 // by which the acceleration changes with speed, by the last step
	slips       []float64
	in          []bool
	result      Result
}

// Run follows a start and judges it. The case must have passed its checks.
func Run(c Case) (Result, error) {
	var pony *PonyResult
	if c.Pony != nil {
		c.Motors = append([]Motor{}, c.Motors...)
		p := c.Pony.lift(c)
		pony, c.Motors[0].InitialRPM = &p, p.RPM
	}
	result, err := follow(c)
	if err != nil {
		return Result{}, err
	}
	if result.Pony = pony; pony != nil {
		pony.PullInRPM = PullIn(c, 0, math.Copysign(1, pony.RPM))
	}
	if result.Spin, err = spin(c, &result); err != nil {
		return Result{}, err
	}
	result.Verdicts = rule.Sorted(judge(c, &result))
	return result, nil
}

// follow steps a start to its end.
func follow(c Case) (Result, error) {
	r := newRun(c)
	n := len(c.Motors)
	omega, slope := make([]float64, n), make([]float64, n)
	if err := r.begin(omega); err != nil {
		return Result{}, err
	}
	end := c.MostSeconds
	if end <= 0 {
		end = DefaultSeconds
	}
	if err := r.slope(omega, slope); err != nil {
		return Result{}, err
	}
	r.take(0, omega, 0)
	k2, k3, k4, next, try := make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n)
	at, h := 0.0, firstStep
	for steps := 0; at < end; steps++ {
		if steps > mostSteps {
			return Result{}, ErrBudget
		}
		if r.quiet(slope) && !r.waiting(at) {
			break
		}
		for i := range omega {
			if rate := math.Abs(slope[i]); rate > 0 {
				h = math.Min(h, most*r.synchronous[i]/rate)
			}
			// Longer steps would swing about the speed at which torque is spent, for ever.
			if r.rate[i] < 0 {
				h = math.Min(h, -damps/r.rate[i])
			}
		}
		h = math.Min(h, r.due(at, end)-at)
		// Bogacki and Shampine's pair of orders three and two.
		step := func(to, from []float64, share float64) {
			for i := range to {
				to[i] = omega[i] + h*share*from[i]
			}
		}
		step(try, slope, 0.5)
		if err := r.slope(try, k2); err != nil {
			return Result{}, err
		}
		step(try, k2, 0.75)
		if err := r.slope(try, k3); err != nil {
			return Result{}, err
		}
		for i := range next {
			next[i] = omega[i] + h*(2*slope[i]+3*k2[i]+4*k3[i])/9
			if omega[i]*next[i] < 0 {
				next[i] = 0 // it comes to rest before it turns the other way
			}
		}
		if err := r.slope(next, k4); err != nil {
			return Result{}, err
		}
		worst := 0.0
		for i := range next {
			e := h * (-5.0/72*slope[i] + slope2*k2[i] + slope3*k3[i] - slope4*k4[i])
			worst = math.Max(worst, math.Abs(e)/(tolerance*r.synchronous[i]))
		}
		if worst > 1 && h > firstStep/100 {
			h *= math.Max(0.2, 0.9*math.Pow(worst, -1.0/3))
			continue
		}
		for i := range omega {
			r.rate[i] = 0
			// At rest a load gives way to nothing: there it is no rate.
			if gained := h * 0.5 * slope[i]; math.Abs(gained) > 1e-7*r.synchronous[i] && next[i] != 0 {
				r.rate[i] = (k2[i] - slope[i]) / gained
			}
		}
		copy(omega, next)
		copy(slope, k4)
		at += h
		if r.leave(at, omega) {
			if err := r.hold(omega); err != nil {
				return Result{}, err
			}
			r.take(at, omega, h)
			if err := r.slope(omega, slope); err != nil {
				return Result{}, err
			}
			clear(r.rate)
			h = firstStep
			continue
		}
		r.take(at, omega, h)
		h *= math.Min(4, 0.9*math.Pow(math.Max(worst, 1e-4), -1.0/3))
	}
	r.finish(at, omega, slope)
	return r.result, nil
}

// The embedded error's weights: the third-order ones less the second-order ones.
const (
	slope2 = 1.0/3 - 1.0/4
	slope3 = 4.0/9 - 1.0/3
	slope4 = 1.0 / 8
)

// network is what all motors and capacitors hang on.
func (c Case) network() network.Case {
	return network.Case{Supply: c.Supply, Loads: c.Loads, ThreePhaseLoads: c.ThreePhaseLoads, Rectifiers: c.Rectifiers, Transformers: c.Transformers}
}

func newRun(c Case) *run {
	n := c.network()
	r := &run{c: c, result: Result{Motors: []MotorResult{}, Capacitors: []CapacitorResult{}, Points: []Point{}}}
	held := 1.0
	for _, m := range c.Motors {
		m.Slip, m.Load, m.Direction = &held, nil, "" // speeds are counted in the abc sense
		n.Motors = append(n.Motors, m.Motor)
		r.synchronous = append(r.synchronous, motor.SynchronousRPM(c.Supply.Hertz, m.Poles)*math.Pi/30)
		rated := motor.SynchronousRPM(m.RatedHertz, m.Poles) * math.Pi / 30
		r.friction = append(r.friction, m.FrictionWatts/(rated*rated))
		r.result.Motors = append(r.result.Motors, MotorResult{ID: m.ID, LowestRPM: math.Inf(1)})
	}
	for _, p := range c.Capacitors {
		n.Capacitors = append(n.Capacitors, p.Capacitor)
		r.in = append(r.in, true)
		r.result.Capacitors = append(r.result.Capacitors, CapacitorResult{ID: p.ID})
	}
	for _, to := range []*[]float64{&r.slips, &r.largest, &r.copper, &r.rate} {
		*to = make([]float64, len(c.Motors))
	}
	r.solver = network.New(n)
	return r
}

// begin sets the speeds at which the motors begin.
func (r *run) begin(omega []float64) error {
	already := r.c.network()
	already.Motors, already.Capacitors = nil, nil
	var who []int
	for i, m := range r.c.Motors {
		omega[i] = m.InitialRPM * math.Pi / 30
		if !m.Running {
			continue
		}
		who = append(who, i)
		m.Slip, m.Load = nil, &network.Load{Kind: "power"}
		if m.Shaft != nil {
			m.Load = &network.Load{Kind: "torque", NewtonMetre: m.Shaft.NewtonMetre, AtRPM: m.Shaft.AtRPM, Exponent: m.Shaft.Exponent}
		}
		already.Motors = append(already.Motors, m.Motor)
	}
	if who == nil {
		return nil
	}
	for _, p := range r.c.Capacitors {
		if p.Out == nil { // a start capacitor has left long ago
			already.Capacitors = append(already.Capacitors, p.Capacitor)
		}
	}
	before, err := network.Solve(already)
	for k, i := range who {
		if err == nil {
			omega[i] = before.Motors[k].RPM * math.Pi / 30
		}
	}
	return err
}

// hold solves the network at speeds in rad/s.
func (r *run) hold(omega []float64) error {
	for i := range omega {
		r.slips[i] = 1 - omega[i]/r.synchronous[i]
	}
	return r.solver.Hold(r.slips)
}

// opposing is what load takes of a motor at a speed, without friction and sign.
func (r *run) opposing(i int, omega float64) float64 {
	if r.c.Motors[i].Shaft == nil {
		return 0
	}
	return r.c.Motors[i].Shaft.At(omega * 30 / math.Pi)
}

// slope is the acceleration of each shaft.
func (r *run) slope(omega, slope []float64) error {
	if err := r.hold(omega); err != nil {
		return err
	}
	for i, m := range r.c.Motors {
		torque, against := r.solver.Moment(i).TorqueNm, r.opposing(i, omega[i])
		r.largest[i] = math.Max(r.largest[i], math.Abs(torque))
		sense := math.Copysign(1, omega[i])
		if math.Abs(omega[i]) < still*r.synchronous[i] {
			if math.Abs(torque) <= against {
				slope[i] = 0 // it does not break away
				continue
			}
			sense = math.Copysign(1, torque)
		}
		slope[i] = (torque - sense*against - r.friction[i]*omega[i]) / m.InertiaKgm2
	}
	return nil
}

// quiet says whether no speed changes any more.
func (r *run) quiet(slope []float64) bool {
	for i := range slope {
		if r.moves(i, slope[i]) {
			return false
		}
	}
	return true
}

// moves says whether a motor's speed still changes: neither is its torque spent, nor is
// the rest of its way, as the last step foretells it, within the tolerance.
func (r *run) moves(i int, slope float64) bool {
	spent := math.Abs(slope)*r.c.Motors[i].InertiaKgm2 <= calm*r.largest[i]
	there := r.rate[i] < 0 && math.Abs(slope) < -r.rate[i]*tolerance*r.synchronous[i]
	return !spent && !there
}

// waiting says whether a timer still has a capacitor to take out.
func (r *run) waiting(at float64) bool {
	for i, p := range r.c.Capacitors {
		if r.in[i] && p.Out != nil && p.Out.By == BySeconds && p.Out.At > at {
			return true
		}
	}
	return false
}

// due is the next time at which a step must end.
func (r *run) due(at, end float64) float64 {
	for i, p := range r.c.Capacitors {
		if r.in[i] && p.Out != nil && p.Out.By == BySeconds && p.Out.At > at {
			end = math.Min(end, p.Out.At)
		}
	}
	return end
}

// across is the volts of a pair.
func across(l network.Lines, p network.Pair) float64 {
	switch p {
	case network.AB:
		return l.AB
	case network.BC:
		return l.BC
	}
	return l.CA
}

// leave takes out, or in again, the capacitors whose time has come.
func (r *run) leave(at float64, omega []float64) (moved bool) {
	for i, p := range r.c.Capacitors {
		if p.Out == nil {
			continue
		}
		volts := across(r.solver.Lines(), p.Between)
		o := &r.result.Capacitors[i]
		wants := r.in[i]
		switch {
		case r.in[i]:
			switch p.Out.By {
			case BySeconds:
				wants = at < p.Out.At-1e-9
			case ByVolts:
				wants = volts < p.Out.At
			default:
				wants = math.Abs(r.speedOf(p.Out.Motor, omega)) < p.Out.At
			}
		case p.Out.By == ByVolts && p.Out.BackAt > 0 && o.Again < mostAgain:
			wants = volts < p.Out.BackAt
		}
		if wants == r.in[i] {
			continue
		}
		r.in[i], moved = wants, true
		r.solver.Switch(p.Capacitor, wants)
		if wants {
			o.Again++
			o.OutSeconds = nil
		} else {
			o.OutSeconds = new(at)
		}
	}
	return moved
}

// speedOf is a motor's speed in rpm, the first's where none is named.
func (r *run) speedOf(id string, omega []float64) float64 {
	for i, m := range r.c.Motors {
		if m.ID == id || id == "" {
			return omega[i] * 30 / math.Pi
		}
	}
	return 0
}

// take records a moment, h seconds after the last.
func (r *run) take(at float64, omega []float64, h float64) {
	p := Point{Seconds: at, Volts: r.solver.Lines(), SupplyAmps: r.solver.SupplyAmps()}
	out := &r.result
	if len(out.Points) == 0 {
		out.LowestVolts = p.Volts
	} else {
		l := &out.LowestVolts
		l.AB, l.BC, l.CA = math.Min(l.AB, p.Volts.AB), math.Min(l.BC, p.Volts.BC), math.Min(l.CA, p.Volts.CA)
	}
	out.PeakSupplyAmps = math.Max(out.PeakSupplyAmps, p.SupplyAmps)
	for i := range omega {
		m := r.solver.Moment(i)
		o := &out.Motors[i]
		rpm := omega[i] * 30 / math.Pi
		for _, t := range []struct {
			to    **float64
			share float64
		}{{&o.TimeTo90, underSpeed}, {&o.TimeTo95, 0.95}} {
			if *t.to == nil && math.Abs(omega[i]) >= t.share*r.synchronous[i] {
				*t.to = new(r.crossing(at, h, i, rpm, t.share))
			}
		}
		o.LowestRPM = math.Min(o.LowestRPM, math.Abs(rpm))
		o.PeakLineAmps = math.Max(o.PeakLineAmps, m.LineAmps.Max())
		if last := len(out.Points) - 1; last >= 0 {
			before := out.Points[last].Motors[i].WindingAmps
			for k, amps := range m.WindingAmps {
				o.WindingAmps2Seconds[k] += h * (amps*amps + before[k]*before[k]) / 2
			}
		}
		o.CopperJoules += h * (m.CopperWatts + r.copper[i]) / 2
		r.copper[i] = m.CopperWatts
		p.Motors = append(p.Motors, MotorPoint{RPM: rpm, TorqueNm: m.TorqueNm, LoadNm: r.opposing(i, omega[i]), WindingAmps: m.WindingAmps})
	}
	out.Points = append(out.Points, p)
}

// crossing is when, in the step that ends now, a motor passed a share of its
// synchronous speed.
func (r *run) crossing(at, h float64, i int, rpm, share float64) float64 {
	last := len(r.result.Points) - 1
	if last < 0 {
		return at
	}
	before, wanted := math.Abs(r.result.Points[last].Motors[i].RPM), share*r.synchronous[i]*30/math.Pi
	if gained := math.Abs(rpm) - before; gained > 0 {
		return at - h*(math.Abs(rpm)-wanted)/gained
	}
	return at
}

// finish judges where each motor ended.
func (r *run) finish(at float64, omega, slope []float64) {
	r.result.Seconds = at
	for i := range omega {
		o := &r.result.Motors[i]
		o.FinalRPM = omega[i] * 30 / math.Pi
		share := math.Abs(omega[i]) / r.synchronous[i]
		switch {
		case share >= underSpeed:
			o.State = network.Running
		case r.moves(i, slope[i]):
			o.State = Rising
		case share < 0.01:
			o.State = network.Stalled
		default:
			o.State = network.Crawling
		}
	}
}
