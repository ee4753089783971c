package prove

import (
	"fmt"
	"math"

	"brackmoor/core/bench"
	"brackmoor/core/feed"
	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// Plant is a fault that a teacher puts into a rig: what it is called, and how it is done.
type Plant struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	do    func(c *bench.Case)
}

// Plants are those that there are; the first is none.
var Plants = []Plant{
	{"", "nothing", func(*bench.Case) {}},
	{"weak-can", "the planned capacitor on a is down to half", func(c *bench.Case) { weaken(c, 0.5) }},
	{"open-can", "the planned capacitor on a is open", func(c *bench.Case) { weaken(c, 1e-4) }},
	{"low-supply", "the supply is seven percent low", func(c *bench.Case) { c.Supply.Volts *= 0.93 }},
	{"long-line", "the line has four times its ohms", func(c *bench.Case) { c.Supply.ResistanceOhm *= 4 }},
	{"drag", "the machine's bearings drag", func(c *bench.Case) {
		c.Machine.Network.FrictionWatts += 0.25 * c.Machine.RatedNm * c.Machine.RatedRPM * math.Pi / 30
	}},
	{"damp", "the machine's windings are damp", func(c *bench.Case) { c.Machine.Megohms = 0.6 }},
	{"tired-iron", "the machine's iron is tired: it magnetises with half as many amps again", func(c *bench.Case) {
		c.Machine.Network.Circuit.XmOhm /= 1.5
	}},
}

// weaken leaves a share of the first planned capacitor.
func weaken(c *bench.Case, share float64) {
	if len(c.Cans) > 0 {
		c.Cans[0].Left = share
	}
}

// benchCelsius is the air around a rig.
const benchCelsius = 22.0

// Fits says why a rig is not in a state, "" where it is: what is read of it would be taken for another.
func Fits(b *bench.Bench, state string) string {
	p := b.Picture()
	turns, brake := map[string]bool{}, 0.0
	for _, m := range p.Motors {
		if p.On[m.ID] && m.Turns < 0 && !m.Crossed {
			return "it turns backward: what stands on one line now would be foretold on the other"
		}
		turns[m.ID] = p.On[m.ID] && m.Turns != 0
		if m.ID == bench.Machine {
			brake = m.Brake
		}
	}
	wanted := map[string]bool{
		Standing: !turns[bench.Idler] && !turns[bench.Machine], Alone: turns[bench.Idler] && !p.On[bench.Machine],
		Idle: turns[bench.Machine] && brake == 0, Part: turns[bench.Machine] && brake > 0,
		Full: turns[bench.Machine] && math.Abs(brake-1) < nearFull,
	}
	switch {
	case !p.On[bench.Supply]:
		return "the supply is off"
	case !wanted[state]:
		return "the rig is not in this state: look at what is on, what turns and what the brake holds"
	}
	return ""
}

// nearFull is by how much of its rated torque a brake may be off for a state to be the plate's.
const nearFull = 0.075

// Loose are the cans that lie beside a rig, in µF: what a shop's shelf has.
var Loose = []float64{10, 20, 20, 40, 40, 80}

// Rig is a motor on its way as one would find it on a bench, and what is clipped in to begin with: its machines a
// little off their plates by draw, with a fault planted by its name. Only ways with their motor on lines that
// capacitors or an idler make can be rigged.
func Rig(q *feed.Question, plant string, draw func() float64) (c bench.Case, clipped []bench.Doing, err error) {
	hung, err := q.Choice.Taken().Hang(q, machineID, 0)
	if err != nil {
		return c, nil, err
	}
	p := &proof{q: q, way: q.Choice.Taken()}
	p.gather(hung)
	if len(p.c.Machines) == 0 || len(hung.Rectifiers) > 0 {
		return c, nil, fmt.Errorf("%s has no lines of its own that could be rigged", p.way.Info().Title)
	}
	c = bench.Case{Supply: p.c.Supply, Draw: draw}
	c.Supply.Transformer = nil
	if t := p.c.Supply.Transformer; t != nil {
		c.Supply = q.Stepped().Supply
	}
	c.Machine = hidden(p.c.Machines[0].Network, draw)
	c.Machine.Network.InertiaKgm2 = q.Shaft().Kgm2()
	c.Machine.RatedAmps, c.Machine.RatedNm = q.Plate.Amps.Value, q.Fit.RatedNm
	c.Machine.Thermal = q.Whole().Thermal
	c.Machine.Thermal.AmbientC = benchCelsius
	c.Machine.RatedRPM, c.Machine.Losses, c.Machine.Megohms = q.RatedRPM(), q.RatedLosses(), megohms(draw)
	if i := p.c.Idler; i != nil {
		idler := hidden(i.Network, draw)
		rated, err := ratedOf(c.Supply, i.Network, i.Watts)
		if err != nil {
			return c, nil, err
		}
		idler.RatedRPM, idler.Losses = rated.RPM, rated.InputWatts-i.Watts
		idler.RatedAmps, idler.RatedNm, idler.Megohms = i.Amps, i.Watts/(rated.RPM*math.Pi/30), megohms(draw)
		idler.Thermal = motor.ThermalOf(motor.Body{Watts: i.Watts, AmbientC: benchCelsius})
		c.Idler = &idler
	}
	bank := bankOf(hung)
	for _, planned := range []struct {
		id         string
		microfarad float64
		pair       network.Pair
	}{{"a", bank.AC, network.AC}, {"b", bank.BC, network.BC}} {
		if planned.microfarad > 0 {
			c.Cans = append(c.Cans, bench.Can{ID: "planned-" + planned.id, Microfarad: planned.microfarad})
			clipped = append(clipped, bench.Doing{
				What: bench.Clip, Of: "planned-" + planned.id, To: string(planned.pair),
			})
		}
	}
	for i, microfarad := range Loose {
		c.Cans = append(c.Cans, bench.Can{ID: fmt.Sprintf("loose-%d", i+1), Microfarad: microfarad})
	}
	for _, x := range Plants {
		if x.Name == plant {
			x.do(&c)
		}
	}
	return c, clipped, nil
}

// megohms is what an insulation tester finds of sound windings.
func megohms(draw func() float64) float64 {
	const usual, spread = 200.0, 1.2
	if draw == nil {
		return usual
	}
	return usual * math.Exp(spread*(2*draw()-1))
}

// ratedOf is a motor at its plate output on three even lines of a supply's volts.
func ratedOf(s network.Supply, m network.Motor, watts float64) (network.MotorResult, error) {
	m.Load = &network.Load{Kind: "power", Watts: watts}
	solved, err := network.Solve(network.Case{
		Supply: network.Supply{Phases: 3, Volts: s.Volts, Hertz: s.Hertz}, Motors: []network.Motor{m},
	})
	if err != nil {
		return network.MotorResult{}, err
	}
	return solved.Motors[0], nil
}

// hidden is a motor that is not as its plate says: by draw within what readings of real ones showed.
func hidden(m network.Motor, draw func() float64) (out bench.Motor) {
	if draw == nil {
		return bench.Motor{Network: m}
	}
	off := func(share float64) float64 { return math.Exp(share * (2*draw() - 1)) }
	t := motor.Turned{
		Magnetising: off(0.12), Saturation: off(0.15), Leakage: off(0.12), Stator: off(0.06), Rotor: off(0.1),
		Losses: off(0.25),
	}
	m.Circuit, m.FrictionWatts = t.Turn(m.Circuit, m.FrictionWatts)
	return bench.Motor{Network: m}
}

// ReadOff is a reading of a rig as it stands, off its meters, in a state, as it would be typed: volts of its pairs,
// amps of its lines, speed and frame, and the capacitors that are clipped in by what is written on them.
func ReadOff(b *bench.Bench, state string) (r Reading) {
	p := b.Picture()
	r.State, r.Class = state, 1
	add := func(place, meter, at string) {
		if shown := b.Read(meter, at); shown.Value != nil {
			r.Figures = append(r.Figures, Figure{Place: place, Value: *shown.Value})
		}
	}
	for _, pair := range []string{"ab", "bc", "ca"} {
		add("volts."+pair, "volts", pair)
	}
	add("amps.supply", "amps", "supply.a")
	for _, m := range p.Motors {
		if !p.On[m.ID] {
			continue
		}
		for _, line := range []string{"a", "b", "c"} {
			add("amps."+m.ID+"."+line, "amps", m.ID+"."+line)
		}
		if m.ID == bench.Machine {
			add("rpm", "rpm", m.ID)
			if state == Part || state == Full {
				r.Share = new(m.Brake)
			}
		}
	}
	r.AC, r.BC = Clipped(b)
	if p.Percent != 100 {
		r.Volts = p.Percent
	}
	return r
}

// Clipped is what is clipped in of a rig to a and to b, by what is written on its cans.
func Clipped(b *bench.Bench) (ac, bc float64) {
	for _, c := range b.Picture().Cans {
		switch network.Pair(c.Pair) {
		case network.AC:
			ac += c.Microfarad
		case network.BC:
			bc += c.Microfarad
		}
	}
	return ac, bc
}
