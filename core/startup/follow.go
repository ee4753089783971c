package startup

import (
	"math"

	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

const (
	mostSteps  = 20_000
	tolerance  = 3e-4     // of synchronous speed, in a step
	most       = 1.0 / 40 // of synchronous speed, that a step may gain
	still      = 1e-6     // of synchronous speed: standing
	calm       = 1e-3     // of the largest torque so far: nothing changes any more
	mostAgain  = 20       // comings back of a relay before it is said to chatter
	damps      = 1.6      // step times rate, at which the method's swing has all but died
	firstStep  = 1e-4
	sagStep    = 0.02                  // seconds, while the source's volts change
	underSpeed = 1 - network.CrawlSlip // of synchronous speed
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
	now         float64   // seconds, of what is solved next
	sees        []float64 // what a relay or switch saw at the last moment, by capacitor
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
	r.look()
	r.take(0, omega, 0)
	var k2, k3, k4, next, try []float64
	for _, to := range []*[]float64{&k2, &k3, &k4, &next, &try} {
		*to = make([]float64, n)
	}
	at, h := 0.0, firstStep
	for steps := 0; at < end; steps++ {
		if steps > mostSteps {
			return Result{}, ErrBudget
		}
		if r.quiet(slope) && !r.waiting(at) && !c.sagging(at) {
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
		if c.sagging(at) {
			h = math.Min(h, sagStep)
		}
		h = math.Min(h, r.due(at, end)-at)
		// Bogacki and Shampine's pair of orders three and two.
		step := func(to, from []float64, share float64) {
			for i := range to {
				to[i] = omega[i] + h*share*from[i]
			}
		}
		step(try, slope, 0.5)
		r.now = at + 0.5*h
		if err := r.slope(try, k2); err != nil {
			return Result{}, err
		}
		step(try, k2, 0.75)
		r.now = at + 0.75*h
		if err := r.slope(try, k3); err != nil {
			return Result{}, err
		}
		for i := range next {
			next[i] = omega[i] + h*(2*slope[i]+3*k2[i]+4*k3[i])/9
			if omega[i]*next[i] < 0 {
				next[i] = 0 // it comes to rest before it turns the other way
			}
		}
		r.now = at + h
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
		if share := r.crossed(omega, next); share < 1 && h > firstStep/100 {
			h *= share
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
			r.look()
			h = firstStep
			continue
		}
		r.look()
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
	return network.Case{
		Supply:          c.Supply,
		Loads:           c.Loads,
		ThreePhaseLoads: c.ThreePhaseLoads,
		Rectifiers:      c.Rectifiers,
		Transformers:    c.Transformers,
	}
}

func newRun(c Case) *run {
	n := c.network()
	r := &run{c: c, result: Result{Motors: []MotorResult{}, Capacitors: []CapacitorResult{}, Points: []Point{}}}
	held := 1.0
	for _, m := range c.Motors {
		m.Slip, m.Load, m.Direction = &held, nil, "" // speeds are counted in the abc sense
		n.Motors = append(n.Motors, m.Motor)
		r.synchronous = append(r.synchronous, motor.SynchronousRPM(c.Supply.Hertz, m.Poles)*math.Pi/30)
		r.friction = append(r.friction, m.FrictionCoefficient())
		r.result.Motors = append(r.result.Motors, MotorResult{ID: m.ID, LowestRPM: math.Inf(1)})
	}
	for _, p := range c.Capacitors {
		n.Capacitors = append(n.Capacitors, p.Capacitor)
		r.in = append(r.in, true)
		r.sees = append(r.sees, 0)
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
			m.Load = &network.Load{
				Kind:        "torque",
				NewtonMetre: m.Shaft.NewtonMetre,
				AtRPM:       m.Shaft.AtRPM,
				Exponent:    m.Shaft.Exponent,
			}
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
