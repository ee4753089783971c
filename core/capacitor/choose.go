package capacitor

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/search"
)

// most is the largest run capacitance worth looking at.
func (in Input) most() float64 {
	return 2.2 * perKilowatt * in.Plate.Output.Value / 1000 * in.scale() * math.Max(
		1,
		in.Plate.Amps.Value/in.usualAmps(),
	)
}

func (in Input) usualAmps() float64 {
	return in.Plate.Output.Value / (math.Sqrt(3) * in.Plate.Volts.Value * 0.6)
}

// stalledCost stands for a state that does not run.
const stalledCost = 1000.0

// hottest is the hottest winding at a load, a motor that does not run there
// counting as far too hot.
func (r *rig) hottest(microfarad, share float64) float64 {
	s := r.at(microfarad, share)
	if s.Motor != network.Running {
		return stalledCost
	}
	return s.HottestPercent
}

// idleLimit leaves room for the nearest standard value to lie a little above
// the one computed.
const idleLimit = 97.0

// coolest is the model's own choice of run capacitance: the least hottest
// winding at the load that is really run. A machine that idles keeps every
// winding within plate amps at idle too; where the two cannot both be had, the
// worse of idle and load is made least. Where no capacitance carries the load
// at all, it is the one of most usable output. kept says that the limit at
// idle is kept.
func (r *rig) coolest(share float64) (microfarad float64, kept bool) {
	atLoad := func(c float64) float64 { return r.hottest(c, share) }
	if !r.in.Load.Idles {
		if c, cost := r.minimum(atLoad); cost < stalledCost {
			return c, r.hottest(c, 0) <= platePercent
		}
	} else {
		both := func(c float64) float64 { return math.Max(r.hottest(c, 0), r.hottest(c, share)) }
		c, cost := r.minimum(func(c float64) float64 {
			if idle := r.hottest(c, 0); idle > idleLimit {
				return stalledCost + idle
			}
			return atLoad(c)
		})
		if cost <= platePercent {
			return c, true
		}
		if c, cost = r.minimum(both); cost < stalledCost {
			return c, r.hottest(c, 0) <= platePercent
		}
	}
	best, most := 0.0, -1.0
	const few = 12
	for i := range few + 1 {
		c := r.in.most() * float64(i) / (2 * few)
		if u := r.usable(c); u != nil && u.HighWatts > most {
			best, most = c, u.HighWatts
		}
	}
	return best, r.hottest(best, 0) <= platePercent
}

// minimum searches the run capacitances on a grid and then closely around the
// best of it.
func (r *rig) minimum(cost func(microfarad float64) float64) (microfarad, least float64) {
	most := r.in.most()
	const grid = 40
	least = math.Inf(1)
	for i := range grid + 1 {
		c := most * float64(i) / grid
		if value := cost(c); value < least {
			microfarad, least = c, value
		}
	}
	low, high := math.Max(microfarad-most/grid, 0), microfarad+most/grid
	low, high = search.Section(low, high, 22, func(l, h float64) bool { return cost(l) < cost(h) })
	if middle := (low + high) / 2; cost(middle) < least {
		microfarad, least = middle, cost(middle)
	}
	return microfarad, least
}

// least is the smallest run capacitance that carries the load with no winding
// past plate amps; ok is false when none does.
func (r *rig) least(share float64) (microfarad float64, ok bool) {
	most := r.in.most()
	const grid = 40
	for i := range grid + 1 {
		c := most * float64(i) / grid
		if r.hottest(c, share) > platePercent {
			continue
		}
		borne := func(c float64) bool { return r.hottest(c, share) <= platePercent }
		return search.Edge(c, math.Max(0, c-most/grid), 12, borne), true
	}
	return 0, false
}

// startMargin is the margin over breakaway torque that a start capacitor is
// sized for.
var startMargin = rule.Limit("capacitor.hard-start", "least_margin")

// wayMargin is the margin over the load's torque on the way up, which cold grease and low
// volts take from it. Shop practice.
const wayMargin = 1.1

// onTheWay are the shares of synchronous speed at which torque is looked at on the way up, to
// where a start capacitor leaves.
var onTheWay = []float64{0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.75}

// climbs says whether capacitors carry the load on the whole way up, by torque brought down
// to the minimum of the motor's class.
func (r *rig) climbs(total float64) bool {
	curve := r.in.LoadCurve(r.in.Share())
	for _, speed := range onTheWay {
		asked := curve.At(speed * r.synchrony)
		if r.torqueFactor*r.held(total, 1-speed).TorqueNm < wayMargin*asked {
			return false
		}
	}
	return true
}

// starting sizes the start capacitor beside a run capacitor: the least total
// that breaks the load away with a margin and carries it up to where it leaves, or one that
// breaks it away where none carries it, or the total of most torque when
// none reaches even that.
func (r *rig) starting(run float64) (start float64, reached bool) {
	needed := startMargin * r.in.Load.BreakawayShare
	torque := func(total float64) float64 { share, _ := r.standing(total); return share }
	enough := func(total float64) bool { return torque(total) >= needed && r.climbs(total) }
	if enough(run) {
		return 0, true
	}
	// Torque over capacitance has one peak: find it, then the rise before it.
	low, high := search.Section(run, run+8*r.in.most(), 40, func(l, h float64) bool { return torque(l) > torque(h) })
	peak := (low + high) / 2
	if torque(peak) < needed {
		return peak - run, false
	}
	breaks := run
	if torque(run) < needed {
		breaks = search.Edge(peak, run, 40, func(c float64) bool { return torque(c) >= needed })
	}
	// What breaks it away may still hang on the way: the least of those above that climbs.
	const steps = 16
	for i := range steps + 1 {
		total := breaks + (peak-breaks)*float64(i)/steps
		if !r.climbs(total) {
			continue
		}
		if i > 0 {
			below := breaks + (peak-breaks)*float64(i-1)/steps
			total = search.Edge(total, below, 12, r.climbs)
		}
		return total - run, true
	}
	return breaks - run, true
}
