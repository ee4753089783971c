package capacitor

import (
	"math"

	"brackmoor/core/machine"
	"brackmoor/core/network"
	"brackmoor/core/search"
	"brackmoor/core/supply"
)

// Input is a machine on capacitors. RunMicrofarad and StartMicrofarad are somebody's
// choice; nil leaves it to the model.
type Input struct {
	machine.Machine
	RunMicrofarad   *float64
	StartMicrofarad *float64
	TowardsB        bool            // the motor is to turn the other way round
	Figures         []supply.Figure // a shop's own in the place of a code's
}

// State is the motor at one load on one set of capacitors. Percents of amps
// are of plate amps in the line, or in the winding for WindingPercent.
type State struct {
	LoadShare        float64       `json:"load_share"`
	Motor            string        `json:"motor"` // running, crawling or stalled
	RPM              float64       `json:"rpm"`
	Volts            network.Lines `json:"volts"`
	Degrees          network.Lines `json:"degrees"`
	UnbalancePercent float64       `json:"unbalance_percent"`
	LineAmps         network.Legs  `json:"line_amps"`
	LinePercent      network.Legs  `json:"line_percent"`
	WindingPercent   [3]float64    `json:"winding_percent" nullable:"false"`
	WindingOver      [3]bool       `json:"winding_over" nullable:"false"` // past plate amps and their rounding
	HottestPercent   float64       `json:"hottest_percent"`
	Over             bool          `json:"over"` // the hottest winding is past plate amps and their rounding
	CapacitorVolts   float64       `json:"capacitor_volts"`
	CapacitorAmps    float64       `json:"capacitor_amps"`
	SupplyAmps       float64       `json:"supply_amps"`
	SupplyWatts      float64       `json:"supply_watts"`
	ShaftWatts       float64       `json:"shaft_watts"`
	LossWatts        float64       `json:"loss_watts"` // in the motor
	TorqueNm         float64       `json:"torque_nm"`
}

// rig is one motor with one capacitor bank on one supply, asked at many loads.
type rig struct {
	in           Input
	pair         network.Pair
	sense        float64    // of turning: 1 for a→b→c, −1 for the other
	synchrony    float64    // rpm
	windings     float64    // rated winding amps
	torqueFactor float64    // of a verdict on standing torque
	slip         [1]float64 // storage of a held slip
	memory       map[[2]float64]State
}

func newRig(in Input) *rig {
	in.Machine = in.Whole()
	return &rig{
		in: in, pair: network.AC, sense: 1, windings: in.WindingAmps(), synchrony: in.SynchronousRPM(),
		torqueFactor: in.TorqueFactor(), memory: map[[2]float64]State{},
	}
}

func (r *rig) network(microfarad float64) network.Case {
	c := network.Case{Supply: r.in.Supply, Motors: []network.Motor{r.in.NetworkMotor(motorID)}}
	if r.sense < 0 {
		c.Motors[0].Direction = "acb"
	}
	if microfarad > 0 {
		c.Capacitors = []network.Capacitor{{ID: "bank", Between: r.pair, Microfarad: microfarad}}
	}
	return c
}

// at finds the operating point at a share of plate output. A solver that finds
// none within its budget leaves the motor counted as stalled.
func (r *rig) at(microfarad, share float64) State {
	key := [2]float64{microfarad, share}
	if s, ok := r.memory[key]; ok {
		return s
	}
	c := r.network(microfarad)
	c.Motors[0].Load = &network.Load{Kind: "power", Watts: share * r.in.Plate.Output.Value}
	s := r.state(c)
	s.LoadShare = share
	r.memory[key] = s
	return s
}

// held is the state at a fixed slip.
func (r *rig) held(microfarad, slip float64) State {
	c := r.network(microfarad)
	r.slip[0] = slip
	c.Motors[0].Slip = &r.slip[0]
	return r.state(c)
}

func (r *rig) state(c network.Case) State {
	result, err := network.Solve(c)
	if err != nil {
		return State{Motor: network.Stalled}
	}
	m := result.Motors[0]
	rated := r.in.Plate.Amps.Value
	s := State{
		Motor:            m.State,
		RPM:              r.sense * m.RPM,
		Volts:            result.Volts,
		Degrees:          result.Degrees,
		UnbalancePercent: result.UnbalancePercent,
		LineAmps:         m.LineAmps,
		LinePercent: network.Legs{
			A: 100 * m.LineAmps.A / rated,
			B: 100 * m.LineAmps.B / rated,
			C: 100 * m.LineAmps.C / rated,
		},
		SupplyAmps:  r.in.Mains(result.Supply.Amps),
		SupplyWatts: r.in.MainsWatts(result.Supply.Watts),
		ShaftWatts:  m.ShaftWatts,
		LossWatts:   m.InputWatts - m.ShaftWatts,
		TorqueNm:    r.sense * m.TorqueNm,
	}
	for i, amps := range m.WindingAmps {
		s.WindingPercent[i] = 100 * amps / r.windings
		s.WindingOver[i] = s.WindingPercent[i] > platePercent+hair
		s.HottestPercent = math.Max(s.HottestPercent, s.WindingPercent[i])
		s.Over = s.Over || s.WindingOver[i]
	}
	// The volts stand on the pair whether a capacitor is on it or not.
	s.CapacitorVolts = result.Volts.CA
	if r.pair == network.BC {
		s.CapacitorVolts = result.Volts.BC
	}
	if len(result.Capacitors) > 0 {
		s.CapacitorAmps = result.Capacitors[0].Amps
	}
	return s
}

// standing is the share of rated torque at standstill that a verdict may count
// on: where the plate does not state it, the circuit's torque is brought down
// to the minimum of the motor's class.
func (r *rig) standing(microfarad float64) (share float64, s State) {
	s = r.held(microfarad, 1)
	return s.TorqueNm / r.in.Fit.RatedNm * r.torqueFactor, s
}

// Range is shaft power in watts within which no winding passes plate amps.
type Range struct {
	LowWatts  float64 `json:"low_watts"`
	HighWatts float64 `json:"high_watts"`
}

// ExcludesIdling tells whether the range begins above what an unloaded machine
// takes, counted as five percent of the plate's output in watts.
func (r Range) ExcludesIdling(outputWatts float64) bool {
	return r.LowWatts >= 0.05*outputWatts
}

// usable is the range of shaft power, from none to plate output, in which the
// motor runs with every winding within plate amps; nil when there is none.
func (r *rig) usable(microfarad float64) *Range { return r.within(microfarad, 1) }

// within is usable for windings within plate amps so many times.
func (r *rig) within(microfarad, times float64) *Range {
	good := func(share float64) bool {
		s := r.at(microfarad, share)
		return s.Motor == network.Running && s.HottestPercent <= times*platePercent+hair
	}
	edge := func(in, out float64) float64 { return search.Edge(in, out, 14, good) }
	const steps = 20
	low, high := -1.0, -1.0
	for i := range steps + 1 {
		share := float64(i) / steps
		fine := good(share)
		if fine && low < 0 {
			low = share
			if i > 0 {
				low = edge(share, share-1.0/steps)
			}
		}
		if !fine && low >= 0 {
			high = edge(high, share)
			break
		}
		if fine {
			high = share
		}
	}
	if low < 0 {
		return nil
	}
	watts := r.in.Plate.Output.Value
	return &Range{low * watts, high * watts}
}
