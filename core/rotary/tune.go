package rotary

import (
	"cmp"
	"math"
	"slices"

	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Balance is what the balance capacitors of an idler are chosen for.
type Balance struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Says  string `json:"says" told:"figures"` // its consequence
}

// Names of what capacitors are chosen for.
const (
	ForSafety = "safe"
	ForLoad   = "load"
	ForIdle   = "idle"
	ForFull   = "full"
	Switched  = "switched"
)

// Balances are what the balance capacitors can be chosen for, the usual one first.
var Balances = []Balance{
	{
		ForSafety,
		"Full output, idle leg safe",
		"coolest at full output, the made leg never past a tenth over plate volts",
	},
	{ForLoad, "The load meant", "coolest at the load that it is meant for, the made leg safe"},
	{ForIdle, "Idle", "legs alike while nothing is cut; under load the made leg falls"},
	{ForFull, "Full output alone", "coolest at full output; idle, the made leg stands high"},
	{Switched, "Switched with the load", "one bank for idle, a second that comes in with the load, by hand or by a " +
		"current relay, and must leave with it"},
}

// balanced is a state of work in few figures, percents of plate amps.
type balanced struct {
	runs                  bool
	machine, idler, apart float64
	made                  float64 // the higher of the made pairs, in volts
}

// bench solves one rig in its states again and again with other capacitors, each from
// where it was the last time.
type bench struct {
	r       *rig
	solvers map[float64]*network.Solver // by share of output, −1 for the idler alone
	most    float64                     // microfarads that are looked at
}

func newBench(r *rig) *bench {
	return &bench{r: r, solvers: map[float64]*network.Solver{}, most: math.Inf(1)}
}

// at is the state at a share of output with capacitors in microfarads.
func (b *bench) at(share, ac, bc float64) (s balanced) {
	solver, again := b.solvers[share]
	if !again {
		solver = network.New(b.r.network(share))
		b.solvers[share] = solver
	}
	solver.Bank(network.Capacitor{Between: network.AC, Microfarad: ac},
		network.Capacitor{Between: network.BC, Microfarad: bc})
	if solver.Follow() != nil {
		return s
	}
	idler := solver.Motor(0)
	s.runs = idler.State == network.Running
	s.idler = 100 * idler.LineAmps.Max() / b.r.amps
	if share >= 0 {
		m := solver.Motor(1)
		s.runs = s.runs && m.State == network.Running
		for _, amps := range m.WindingAmps {
			s.machine = math.Max(s.machine, 100*amps/b.r.in.WindingAmps())
		}
	}
	volts := solver.Lines()
	s.made, s.apart = max(volts.BC, volts.CA), volts.Unbalance()
	return s
}

// What a limit that is passed costs, in percent of plate amps for each percent: so much that
// no cooler winding pays for it.
const beyond = 20

// aim is what two capacitors are looked for: the share of output at which the hottest winding
// is to be small, whether legs that are alike count in its place, the states without load that
// they stand in too, and whether the made leg is to be safe in those.
type aim struct {
	share       float64
	alike, safe bool
	unloaded    []float64
	least       [2]float64 // microfarads that are there already, a to c and b to c
}

// aim is what the capacitors of one bank are for.
func (r *rig) aim() aim {
	a := aim{share: 1, safe: true, unloaded: []float64{-1, 0}}
	switch r.in.Balance {
	case ForLoad:
		a.share = r.in.Share()
	case ForIdle, Switched:
		a.share, a.alike = 0, true
	case ForFull:
		a.safe = false
	}
	return a
}

// cost is what is to be made small: the hottest winding, machine's and idler's, in the state
// that the capacitors are for, or the legs' difference, with what passes a limit on top.
func (b *bench) cost(a aim, ac, bc float64) float64 {
	if ac < a.least[0] || bc < a.least[1] || max(ac, bc) > b.most {
		return math.Inf(1)
	}
	loaded := b.at(a.share, ac, bc)
	runs, idler, apart, made := loaded.runs, loaded.idler, 0.0, 0.0
	for _, share := range a.unloaded {
		s := b.at(share, ac, bc)
		runs = runs && s.runs
		idler, apart, made = max(idler, s.idler), max(apart, s.apart), max(made, s.made)
	}
	if !runs {
		return 1e4 - ac/b.most // more capacitance brings it up
	}
	hottest := max(loaded.machine, idler)
	cost := hottest
	if a.alike {
		cost = apart + hottest/1e4
	}
	cost += beyond * math.Max(0, idler-100)
	if a.safe {
		cost += beyond * math.Max(0, 100*made/b.r.plateVolts()-mostMade)
	}
	return cost
}

// mostMade is the percent of plate volts that an idle made leg is to stay under.
var mostMade = rule.Limit("capacitor.made-leg-high", "most_percent")

// plateVolts are what the made leg is judged by: the plate's at this frequency.
func (r *rig) plateVolts() float64 {
	return r.in.Plate.Volts.Value * r.in.Supply.Hertz / r.in.Plate.Hertz.Value
}

// turn is the angle by which the directions of the search are turned each time that none of
// them helps: by no part of a circle, so that they come to lie everywhere.
const turn = 2.399963229728653

// tune looks for the capacitors of least cost: one bank of two, or one for idle and a second
// beside it for full output.
func (r *rig) tune() {
	b := newBench(r)
	r.ac, r.bc = b.search(r.aim())
	if r.in.Balance == Switched {
		ac, bc := b.search(aim{share: 1, least: [2]float64{r.ac, r.bc}})
		r.second = [2]float64{ac - r.ac, bc - r.bc}
	}
}

// search looks for the two capacitors of least cost. The hottest of several windings has
// kinks, on which a search along few directions sticks: so it goes out in directions that
// keep turning, from each of several places (mesh adaptive direct search; Audet and Dennis,
// SIAM Journal on Optimization 17, 2006).
func (b *bench) search(a aim) (ac, bc float64) {
	idleAC, idleBC := b.r.closed(-1)
	loadAC, loadBC := b.r.closed(b.r.in.Share())
	fullAC, fullBC := b.r.closed(1)
	scale := math.Max(max(idleAC, loadAC, fullAC), 10)
	b.most = 5 * scale
	var places []place
	for _, p := range []place{
		{ac: idleAC, bc: idleBC}, {ac: loadAC, bc: loadBC}, {ac: fullAC, bc: fullBC}, {ac: 1.3 * idleAC, bc: idleBC},
		{ac: 1.6 * idleAC, bc: 0.6 * idleBC}, {ac: 0.5 * idleAC, bc: 0.5 * idleBC},
	} {
		p.ac, p.bc = math.Max(p.ac, a.least[0]), math.Max(p.bc, a.least[1])
		p.cost = b.cost(a, p.ac, p.bc)
		places = append(places, b.descend(a, p, 0.3*scale, 0.08*scale))
	}
	slices.SortStableFunc(places, func(a, b place) int { return cmp.Compare(a.cost, b.cost) })
	best := places[0]
	for _, p := range places[:2] {
		if p = b.descend(a, p, 0.08*scale, 0.004*scale); p.cost < best.cost {
			best = p
		}
	}
	// Capacitors come in whole microfarads: the best of those around.
	whole := place{cost: math.Inf(1)}
	for ac := math.Floor(best.ac) - 1; ac <= best.ac+2; ac++ {
		for bc := math.Floor(best.bc) - 1; bc <= best.bc+2; bc++ {
			if cost := b.cost(a, ac, bc); cost < whole.cost {
				whole = place{ac, bc, cost}
			}
		}
	}
	return whole.ac, whole.bc
}

// place is a pair of capacitors in microfarads with its cost.
type place struct{ ac, bc, cost float64 }

// descend goes on from a place, in steps that shrink from the first to the last.
func (b *bench) descend(a aim, p place, first, last float64) place {
	angle := 0.0
	for step := first; step > last; {
		moved := false
		for k := range 6 {
			towards := angle + float64(k)*math.Pi/3
			ac, bc := p.ac+step*math.Cos(towards), p.bc+step*math.Sin(towards)
			if cost := b.cost(a, ac, bc); cost < p.cost {
				p, moved = place{ac, bc, cost}, true
				break
			}
		}
		if !moved {
			step /= 2
			angle += turn
		}
	}
	return p
}
