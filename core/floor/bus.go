package floor

import (
	"fmt"
	"math"
	"sync"

	"brackmoor/core/drive"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
	"brackmoor/core/site"
)

// bus is a dc bus that drives of several motors hang on, as one front end for all of them. Points are
// what it takes at shares of their full output, by dc watts, up to what a start of all of them takes;
// they end where it finds no steady state.
type bus struct {
	in     drive.Input // all its motors as one
	front  rectifier.Front
	full   float64 // dc watts at full output of all
	points []busPoint
}

// busPoint is a bus at some watts: amps on the line, volts and their ripple.
type busPoint struct{ watts, amps, volts, ripple float64 }

// busShares are the shares of full output at which a bus is worked out.
var busShares = []float64{0.03, 0.1, 0.25, 0.5, 0.75, 1, 1.25, drive.StartTimes}

// makeBuses readies every bus to be worked out when it is first asked for.
func (f *Floor) makeBuses() {
	f.buses = map[string]func() *bus{}
	for i := range f.Shop.Site.Converters {
		if c := &f.Shop.Site.Converters[i]; c.Kind == site.BusKind {
			f.buses[c.ID] = sync.OnceValue(func() *bus { return f.makeBus(c) })
		}
	}
}

// onBus are the known motors on a bus.
func (f *Floor) onBus(id string) (list []*motor) {
	for i := range f.machines {
		for k := range f.machines[i].motors {
			if m := &f.machines[i].motors[k]; m.place.On == id && m.q != nil {
				list = append(list, m)
			}
		}
	}
	return list
}

func (f *Floor) makeBus(c *site.Converter) *bus {
	b := &bus{}
	shaft, electric, ratings := 0.0, 0.0, 0.0
	for _, m := range f.onBus(c.ID) {
		one := drive.Input{Machine: m.q.Machine, Kind: drive.Bus}
		if shaft == 0 {
			b.in = one
		}
		shaft += m.q.Watts()
		electric += m.q.Watts() / m.q.Plate.Efficiency.Value
		ratings += one.Rating()
	}
	if shaft == 0 {
		return b
	}
	b.in.Plate.Output.Value, b.in.Plate.Efficiency.Value = shaft, shaft/electric
	b.in.LoadShare = new(1.0)
	b.full = electric / (1 - drive.Losses)
	if c.BusMicrofarad > 0 || c.ChokeMH > 0 {
		b.front = b.in.Given(ratings, c.BusMicrofarad, c.ChokeMH)
	} else {
		b.front, _ = b.in.Bus(ratings)
	}
	for _, share := range busShares {
		r, err := b.in.Takes(b.front, share*shaft)
		if err != nil {
			break
		}
		b.points = append(b.points, busPoint{share * b.full, r.InputRMSAmps, r.BusMeanVolts, r.RipplePPVolts})
	}
	return b
}

// at is a bus at some dc watts, between its points; steady is false past the last of them.
func (b *bus) at(watts float64) (p busPoint, steady bool) {
	if len(b.points) == 0 {
		return busPoint{watts: watts}, false
	}
	i := 0
	for i < len(b.points)-1 && b.points[i].watts < watts {
		i++
	}
	to := b.points[i]
	from := busPoint{volts: math.Sqrt2 * b.in.Supply.Volts} // nothing on it
	if i > 0 {
		from = b.points[i-1]
	}
	share := (watts - from.watts) / (to.watts - from.watts)
	mix := func(a, b float64) float64 { return a + (b-a)*share }
	p = busPoint{watts, mix(from.amps, to.amps), mix(from.volts, to.volts), mix(from.ripple, to.ripple)}
	return p, watts <= b.points[len(b.points)-1].watts*(1+1e-9)
}

// takes is what a drive takes of its bus at a share of its motor's output, in dc watts.
func (m *motor) takes(share float64) float64 {
	const idle = 0.03 // of plate output, that drive and motor take idling
	shaft := math.Max(idle, share) * m.q.Watts()
	return shaft / m.q.Plate.Efficiency.Value / (1 - drive.Losses)
}

// busWatts are those that a bus gives in a state.
func (f *Floor) busWatts(id string, s *site.State) (watts float64) {
	for _, m := range f.onBus(id) {
		if m.on(s) {
			watts += m.takes(m.share(s))
		}
	}
	return watts
}

// bridge is a bus as the network has it at some dc watts: a rectifier.
func (f *Floor) bridge(c *site.Converter, watts float64) network.Circuit {
	lines := network.Circuit{ID: c.ID, From: c.On}
	if watts == 0 {
		return lines
	}
	p, _ := f.buses[c.ID]().at(watts)
	r := network.Rectifier{
		ID: c.ID + "-bridge", Between: network.AB, Watts: watts, DisplacementFactor: network.UsualDisplacement,
		TruePowerFactor: network.UsualTrue,
	}
	if volts := f.Shop.Supply.Volts; p.amps > 0 {
		r.TruePowerFactor = math.Min(watts/(volts*p.amps), r.DisplacementFactor)
	}
	lines.Rectifiers = []network.Rectifier{r}
	return lines
}

// BusState is a dc bus: volts in the mean and their ripple, peak to peak, and the amps that it gives.
type BusState struct {
	Volts  float64 `json:"volts"`
	Ripple float64 `json:"ripple_volts"`
	Amps   float64 `json:"dc_amps"`
}

// busState reads a bus that is on.
func (f *Floor) busState(c *site.Converter, s *site.State, state *ConverterState) {
	watts := f.busWatts(c.ID, s)
	p, _ := f.buses[c.ID]().at(watts)
	state.State = network.Running
	state.Bus = &BusState{Volts: p.volts, Ripple: p.ripple}
	if p.volts > 0 {
		state.Bus.Amps = watts / p.volts
	}
	state.Working = fmt.Sprintf(
		"%.0f W into the drives on it over %.0f V; its rectifier stepped to its periodic state "+
			"at shares of full output",
		watts,
		p.volts,
	)
}

// judgeBus says what a bus that is on bears not.
func (f *Floor) judgeBus(j *judgement, s *site.State, c *site.Converter, state *ConverterState) {
	b := f.buses[c.ID]()
	watts := f.busWatts(c.ID, s)
	if _, steady := b.at(watts); watts > 0 && !steady {
		j.say("floor.bus-unsteady", c.ID, watts, b.most(), "Less on it, more capacitance, or another choke.",
			"With %s W asked of it %s finds no steady state.", quantity.Figures(watts, 3), c.Name)
	}
	f.judgeLabel(j, s, c, state)
}

// most are the watts up to which a bus is steady.
func (b *bus) most() float64 {
	if len(b.points) == 0 {
		return 0
	}
	return b.points[len(b.points)-1].watts
}

// busDraw is what a bus's circuit is sized for: all its drives at full output, or its label's amps.
func (f *Floor) busDraw(c *site.Converter) draw {
	b := f.buses[c.ID]()
	full, _ := b.at(b.full)
	start, _ := b.at(b.most())
	d := draw{side: c.Side, amps: math.Max(full.amps, c.Label.InputAmps), starting: start.amps}
	d.carry = f.code.Spare() * d.amps
	d.by = f.either(
		fmt.Sprintf("%.0f %% of its amps: NEC 430.122 (US, 2023)", 100*f.code.Spare()),
		"its amps: IEC 60364-4-43, 433.1",
	)
	return d
}

// busCard is what is known of a bus whatever is on.
func (f *Floor) busCard(c *site.Converter) Card {
	card, j := newCard(c.ID), &judgement{}
	b := f.buses[c.ID]()
	if b.full == 0 {
		return card.Card
	}
	by := "the least with which it is steady up to a start of all its drives"
	if c.BusMicrofarad > 0 || c.ChokeMH > 0 {
		by = "as put in"
	}
	card.add(
		"Choke and capacitance",
		fmt.Sprintf(
			"%s mH, %s µF in all",
			quantity.Figures(b.front.DCChokeMH, 2),
			quantity.Figures(b.front.BusMicrofarad, 3),
		),
		by,
	)
	if p, steady := b.at(b.full); steady {
		card.add(
			"With all at full output",
			fmt.Sprintf("%s in, %.0f V dc, ripple %.0f V", amps(p.amps), p.volts, p.ripple),
			"every drive at its motor’s plate output; its rectifier carries that for hours",
		)
	}
	if m := b.most(); m < drive.StartTimes*b.full*(1-1e-9) {
		j.say("floor.bus-unsteady", c.ID, m, drive.StartTimes*b.full, "More capacitance, or another choke.",
			"%s is steady up to %s W; a start of all its drives asks %s.", c.Name, quantity.Figures(m, 3),
			quantity.Figures(drive.StartTimes*b.full, 3))
	}
	for _, m := range f.onBus(c.ID) {
		volts := math.Sqrt2 * f.Shop.Supply.Volts
		if p, _ := b.at(b.full); p.volts > 0 {
			volts = p.volts
		}
		card.add("Its drive: "+m.name, amps(m.takes(1)/volts)+" dc",
			"at full output; a fuse rated for direct current in both poles, by its maker's table")
	}
	card.add("Charging", "through a resistor that is bridged once it is up",
		"a bus of such capacitance closed at once is a short; it stays charged after switch-off: wait and measure")
	card.Broken = j.sorted()
	return card.Card
}

// startBus charges a bus; its drives are told to run once it is up.
func (f *Floor) startBus(st *Start, before *site.State, c *site.Converter) error {
	if f.dead(before, c.On, c.Side) {
		st.judged.thrown(before, c.ID, c.Name, f.Shop.Site.Circuit(c.On))
		return nil
	}
	front := f.buses[c.ID]().front
	const ohms = drive.PrechargeOhm
	volts := f.Shop.Supply.Volts
	const constants = 5 // of time, until it is charged
	st.Seconds = new(constants * ohms * front.BusMicrofarad / 1e6)
	st.PeakAmps, st.LowestVolts = math.Sqrt2*volts/ohms, volts
	st.By = fmt.Sprintf("%.0f Ω charge %s µF", ohms, quantity.Figures(front.BusMicrofarad, 3))
	return nil
}

// startOnBus ramps motors up on a bus with the most that their drives give.
func (f *Floor) startOnBus(st *Start, before *site.State, c *site.Converter, motors []*motor) error {
	n, err := f.Network(before)
	if err != nil {
		return err
	}
	open, err := network.SolveInstallation(n)
	if err != nil {
		return err
	}
	st.beside = f.lineAmps(&open)
	b, watts := f.buses[c.ID](), f.busWatts(c.ID, before)
	was, _ := b.at(watts)
	seconds := 0.0
	for _, m := range motors {
		watts += drive.StartTimes * m.takes(1)
		if o := m.way.Outline(m.q); o != nil && o.Seconds != nil && *o.Seconds > seconds {
			seconds = *o.Seconds
		}
	}
	p, steady := b.at(watts)
	if !steady {
		st.judged.say(
			"floor.bus-unsteady",
			c.ID,
			watts,
			b.most(),
			"Start it before the others are loaded, or with a longer ramp.",
			"The start asks %s W of %s, which is steady up to %s.",
			quantity.Figures(watts, 3),
			c.Name,
			quantity.Figures(b.most(), 3),
		)
	}
	for i := range n.Circuits {
		if n.Circuits[i].ID == c.ID {
			n.Circuits[i] = f.bridge(c, watts)
		}
	}
	r, err := network.SolveInstallation(n)
	if err != nil {
		return err
	}
	for _, x := range r.Circuits {
		if x.ID == c.ID {
			st.LowestVolts = x.Volts.AB
		}
	}
	st.By, st.PeakAmps = "its drive's ramp, on the bus as it is", p.amps-was.amps
	if seconds > 0 {
		st.Seconds = new(seconds)
	}
	f.dips(st, network.Lines{AB: st.LowestVolts, BC: math.Inf(1), CA: math.Inf(1)})
	f.trips(st, c.On, seconds)
	return nil
}
