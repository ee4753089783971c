package startup

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/search"
)

// Pony is a small motor that brings an idler up by a belt before it is connected.
// BeltRatio is idler rpm over pony rpm. Its torque follows a straight line from its
// rated point to nothing at synchronous speed, and below that is StartTorqueTimes of
// rated. Backwards spins the idler against the abc sense. At ReleaseRPM the idler is
// connected; zero means as fast as the pony brings it.
type Pony struct {
	Watts            float64 `json:"watts"`
	RPM              float64 `json:"rpm"`
	SynchronousRPM   float64 `json:"synchronous_rpm"`
	BeltRatio        float64 `json:"belt_ratio"`
	StartTorqueTimes float64 `json:"start_torque_times"`
	ReleaseRPM       float64 `json:"release_rpm"`
	Backwards        bool    `json:"backwards"`
}

// PonyResult is what a pony motor does: the idler's rpm when it is connected, the
// seconds to there (nil when the pony never gets it there), what to set the timer to,
// and the least rpm from which the idler pulls itself up.
type PonyResult struct {
	RPM          float64  `json:"rpm"`
	MostRPM      float64  `json:"most_rpm"`
	Seconds      *float64 `json:"seconds"`
	TimerSeconds *float64 `json:"timer_s"`
	PullInRPM    *float64 `json:"pull_in_rpm"`
}

// timerMargin is what a timer is set above the time computed: cold grease and low volts
// make it longer. Shop practice.
const timerMargin = 1.5

// nearly is the share of its most speed to which the pony is waited for.
const nearly = 0.97

func (p *Pony) torque(rpm float64) float64 {
	rated := p.Watts / (p.RPM * math.Pi / 30)
	times := p.StartTorqueTimes
	if times == 0 {
		times = 1.5
	}
	return math.Min(times, (p.SynchronousRPM-rpm)/(p.SynchronousRPM-p.RPM)) * rated
}

// lift brings the first motor of a case up by the pony.
func (p *Pony) lift(c Case) PonyResult {
	m := &c.Motors[0]
	friction := m.FrictionCoefficient()
	net := func(omega float64) float64 {
		rpm := omega * 30 / math.Pi
		against := friction * omega
		if m.Shaft != nil {
			against += m.Shaft.At(rpm)
		}
		return p.torque(rpm/p.BeltRatio)/p.BeltRatio - against
	}
	most := p.SynchronousRPM * p.BeltRatio * math.Pi / 30
	if net(0) <= 0 {
		return PonyResult{}
	}
	low, high := 0.0, most
	const grid = 400
	for i := 1; i <= grid; i++ {
		if high = most * float64(i) / grid; net(high) <= 0 {
			break
		}
		low = high
	}
	low = search.Edge(low, high, 50, func(omega float64) bool { return net(omega) > 0 })
	out := PonyResult{MostRPM: low * 30 / math.Pi}
	to := nearly * low
	if p.ReleaseRPM > 0 {
		to = p.ReleaseRPM * math.Pi / 30
	}
	out.RPM = math.Min(to, low) * 30 / math.Pi
	if to < low {
		// Simpson's rule over what an inertia takes at each speed.
		const n = 400
		seconds := 0.0
		for i := range n + 1 {
			weight := 2.0 + 2*float64(i%2)
			if i == 0 || i == n {
				weight = 1
			}
			seconds += weight * m.InertiaKgm2 / net(to*float64(i)/n)
		}
		seconds *= to / n / 3
		out.Seconds, out.TimerSeconds = new(seconds), new(timerMargin*seconds)
	}
	if p.Backwards {
		out.RPM = -out.RPM
	}
	return out
}

// PullIn is the least rpm, turning in a sense of 1 or −1, from which a motor pulls
// itself up with everything else standing as it begins: 0 when it does from standstill,
// nil when it does from none.
func PullIn(c Case, i int, sense float64) *float64 {
	r := newRun(c)
	omega := make([]float64, len(c.Motors))
	if err := r.begin(omega); err != nil {
		return nil
	}
	good := func(share float64) bool {
		omega[i] = sense * share * r.synchronous[i]
		if r.hold(omega) != nil {
			return false
		}
		return sense*r.solver.Moment(i).TorqueNm > r.opposing(i, omega[i])+r.friction[i]*math.Abs(omega[i])
	}
	// From near synchronous speed down: the first speed at which it gains, then on to
	// where it gains no more.
	const grid = 200
	last := -1.0
	for k := grid - 1; k >= 0; k-- {
		share := float64(k) / grid
		if good(share) {
			last = share
			continue
		}
		if last >= 0 {
			return new(search.Edge(last, share, 30, good) * r.synchronous[i] * 30 / math.Pi)
		}
	}
	if last < 0 {
		return nil
	}
	return new(0.0)
}

// Spin is which way the first motor turns. Given is the sense it was spun in, "" for
// none; Capacitors that in which the capacitors alone would turn it, "" where they have
// no torque; Ends that in which it turned at the end, "" where it did not. Other is
// where it ends when it is spun the other way.
type Spin struct {
	Given      string `json:"given"`
	Capacitors string `json:"capacitors"`
	Ends       string `json:"ends"`
	Other      string `json:"other"`
}

func sense(rpm float64) string {
	switch {
	case rpm > 0:
		return "abc"
	case rpm < 0:
		return "acb"
	}
	return ""
}

// slightTorque is the share of standstill copper watts over speed under which capacitors decide
// nothing.
const slightTorque = 0.01

// spin tells which way the first motor goes when it is spun either way. It is nil for a
// motor that is not spun: its own torque then turns it.
func spin(c Case, result *Result) (*Spin, error) {
	if len(c.Motors) == 0 || c.Motors[0].InitialRPM == 0 {
		return nil, nil
	}
	r := newRun(c)
	omega := make([]float64, len(c.Motors))
	if err := r.begin(omega); err != nil {
		return nil, err
	}
	first := c.Motors[0]
	omega[0] = 0
	if err := r.hold(omega); err != nil {
		return nil, err
	}
	m := r.solver.Moment(0)
	s := &Spin{Given: sense(first.InitialRPM)}
	if math.Abs(m.TorqueNm) > slightTorque*m.CopperWatts/r.synchronous[0] {
		s.Capacitors = sense(m.TorqueNm)
	}
	ends := func(result *Result) string {
		if m := result.Motors[0]; m.State == network.Running {
			return sense(m.FinalRPM)
		}
		return ""
	}
	s.Ends = ends(result)
	mirror := c
	mirror.Motors = append([]Motor{}, c.Motors...)
	mirror.Motors[0].InitialRPM = -first.InitialRPM
	other, err := follow(mirror)
	if err != nil {
		return nil, err
	}
	s.Other = ends(&other)
	return s, nil
}
