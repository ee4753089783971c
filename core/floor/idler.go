package floor

import (
	"cmp"
	"fmt"
	"math"
	"math/cmplx"
	"slices"

	circuit "brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/site"
	"brackmoor/core/startup"
)

// usualStart is the microfarads for each kilowatt that start an idler where nothing is said (shop
// practice).
const usualStart = 90.0

// usualTimer is when a timer takes start capacitors out where nothing is said, in seconds (shop
// practice).
const usualTimer = 2.5

// comesUp is the start of a converter's idler with nothing on it, all but what feeds it, and by what
// it starts in a few words.
func (f *Floor) comesUp(c *site.Converter) (start startup.Case, by string) {
	own, hertz := f.idlers[c.ID], f.Shop.Supply.Hertz
	start.Motors = []startup.Motor{{Motor: own.Motor, Shaft: own.Drag(hertz)}}
	for _, p := range []network.Capacitor{
		{ID: "ac", Between: network.AC, Microfarad: c.BalanceAC},
		{ID: "bc", Between: network.BC, Microfarad: c.BalanceBC},
	} {
		if p.Microfarad > 0 {
			start.Capacitors = append(start.Capacitors, startup.Capacitor{Capacitor: p})
		}
	}
	if c.StartBy == site.ByPony {
		synchronous := c.PonySynchronous(hertz)
		start.Pony = &startup.Pony{
			Watts: c.PonyWatts, RPM: c.PonyRPM, SynchronousRPM: synchronous, BeltRatio: c.Ratio(),
		}
		return start, fmt.Sprintf("brought up by a pony motor of %s, %s rpm of its own for each of the idler’s",
			quantity.Power(c.PonyWatts, hertz), quantity.Figures(1/c.Ratio(), 3))
	}
	microfarad := c.Start
	by = quantity.Figures(microfarad, 3) + " µF"
	if microfarad == 0 {
		microfarad = usualStart * own.Watts / 1000
		by = quantity.Figures(microfarad, 2) + " µF assumed to start it"
	}
	out := startup.Out{By: startup.BySpeed, At: rotary.CutOutShare * circuit.SynchronousRPM(hertz, own.Motor.Poles)}
	switch c.StartBy {
	case site.ByTimer:
		out = startup.Out{By: startup.BySeconds, At: c.TimerSeconds}
		if out.At == 0 {
			out.At = usualTimer
		}
		by += fmt.Sprintf(", out after %s s", quantity.Figures(out.At, 2))
	case site.ByBox:
		by += ", in a start box that leaves by itself"
	}
	start.Capacitors = append(start.Capacitors, startup.Capacitor{
		Capacitor: network.Capacitor{ID: "start", Between: network.AC, Microfarad: microfarad}, Out: &out,
	})
	return start, by
}

// mayStart says what keeps a converter from starting in a state; false where it cannot at all.
func (f *Floor) mayStart(st *Start, before *site.State, c *site.Converter) bool {
	own := f.idlers[c.ID]
	switch {
	case own.unknown:
		st.judged.say(
			"floor.unread",
			c.ID,
			0,
			0,
			"Read the plate of its idler.",
			"What idles in %s is not known.",
			c.Name,
		)
		return false
	case f.dead(before, c.On, c.Side):
		st.judged.thrown(before, c.ID, c.Name, f.Shop.Site.Circuit(c.On))
		return false
	case c.StartBy == site.ByPony && (c.PonyWatts == 0 || c.PonyRPM == 0):
		st.judged.say("floor.unread", c.ID, 0, 0, "Put in what the pony motor’s plate says.",
			"%s starts by a pony motor of which nothing is known.", c.Name)
		return false
	}
	for i := range f.machines {
		for k := range f.machines[i].motors {
			if m := &f.machines[i].motors[k]; m.place.On == c.ID && m.on(before) {
				st.judged.say("floor.load-before-converter", m.ID, 0, 0, "Switch it off first.",
					"%s is switched in while %s starts.", m.name, c.Name)
			}
		}
	}
	if c.StartBy == site.ByBox && c.BoxWatts > 0 && c.BoxWatts < own.Watts {
		hertz := f.Shop.Supply.Hertz
		st.judged.say("floor.start-box", c.ID, own.Watts, c.BoxWatts, "One for this idler, or a smaller idler.",
			"The start box of %s is for %s, its idler is of %s.", c.Name, quantity.Power(c.BoxWatts, hertz),
			quantity.Power(own.Watts, hertz))
	}
	return true
}

// startIdler brings a converter up with nothing on it.
func (f *Floor) startIdler(st *Start, before *site.State, c *site.Converter) error {
	if !f.mayStart(st, before, c) {
		return nil
	}
	su, err := f.seen(before, c.On, startPeak*f.idlers[c.ID].Watts/f.Shop.Supply.Volts, nil)
	if err != nil {
		return err
	}
	start, by := f.comesUp(c)
	start.Supply, st.beside, st.timed, st.ratio = su.Supply, su.beside, c.RunUpSeconds, f.ratio(c)
	start.Supply.Transformer = f.ahead(c)
	r, err := startup.Run(start)
	if err != nil {
		return err
	}
	f.tellIdler(st, &start, &r, c, by)
	return nil
}

// tellIdler puts what came of an idler's start in the shop's words.
func (f *Floor) tellIdler(st *Start, start *startup.Case, r *startup.Result, c *site.Converter, by string) {
	if r.Pony != nil {
		st.PeakAmps = startPeak * f.ponyAmps(c)
	}
	f.tell(st, start, r, c.On, 0, comer{c.ID, "The idler of " + c.Name})
	st.By += ", " + by
	if p := r.Pony; p != nil {
		f.tellPony(st, r, c)
	}
	if c.RunUpSeconds == 0 {
		return
	}
	st.By += fmt.Sprintf("; timed at %s s", quantity.Figures(c.RunUpSeconds, 2))
	apart := rule.Limit("floor.run-up-apart", "most_factor")
	if st.Seconds != nil && math.Max(c.RunUpSeconds / *st.Seconds, *st.Seconds/c.RunUpSeconds) > apart {
		st.judged.say("floor.run-up-apart", c.ID, c.RunUpSeconds, *st.Seconds,
			"Look at its start capacitors, bearings and belt, and at the plate of its idler.",
			"%s came up in %s s by the stopwatch, %s by the model.", c.Name, quantity.Figures(c.RunUpSeconds, 2),
			quantity.Figures(*st.Seconds, 2))
	}
}

// tellPony puts the pony motor's part before that of the idler by itself.
func (f *Floor) tellPony(st *Start, r *startup.Result, c *site.Converter) {
	p := r.Pony
	if p.Seconds == nil {
		st.Seconds = nil
		st.judged.say("floor.start-hangs", c.ID, 0, p.MostRPM, "A larger pony motor, or another ratio.",
			"The pony motor does not turn the idler of %s.", c.Name)
		return
	}
	for i := range st.Points {
		st.Points[i].Seconds += *p.Seconds
	}
	volts := network.Lines{AB: f.voltsOn(c)}
	st.Points = append([]Instant{{Volts: volts, Amps: st.PeakAmps}}, st.Points...)
	if st.Seconds != nil {
		st.Seconds = new(*st.Seconds + *p.Seconds)
	}
	st.By += fmt.Sprintf(" to %s rpm in %s s", quantity.Figures(math.Abs(p.RPM), 3), quantity.Figures(*p.Seconds, 2))
	if p.PullInRPM != nil {
		st.By += fmt.Sprintf(", from %s rpm on it pulls itself up", quantity.Figures(*p.PullInRPM, 3))
	}
	if r.Spin != nil && r.Spin.Other != "" && r.Spin.Ends != r.Spin.Other {
		st.judged.say("floor.follows-spin", c.ID, 0, 0,
			"Mark the sense at the belt, and prove the sequence before a machine is switched in.",
			"%s turns as its pony motor turns it; the other way round its machines turn the wrong way.", c.Name)
	}
}

// ponyAmps are those of a pony motor's plate, or a code's table's, or about those of so small a motor.
func (f *Floor) ponyAmps(c *site.Converter) float64 {
	if c.PonyAmps > 0 {
		return c.PonyAmps
	}
	if amps, ok := f.code.OnePhaseTableAmps(c.PonyWatts, f.Shop.Supply.Volts); ok {
		return amps
	}
	const work = 0.5 // efficiency times power factor (shop practice)
	return c.PonyWatts / work / f.Shop.Supply.Volts
}

// AtOnce starts converters together, as when volts come back to all that were left switched in: each
// sees the volts that the others pull down meanwhile. They are in the order asked for; what could not
// start alone does not start here.
func (f *Floor) AtOnce(s site.State, ids []string) ([]Start, error) {
	type one struct {
		c     *site.Converter
		st    Start
		start startup.Case
		by    string
		sight sight
		r     startup.Result
	}
	before := s
	for _, id := range ids {
		before = f.without(before, id)
	}
	all, others := []*one{}, map[string]string{}
	for _, id := range ids {
		if c := f.Shop.Site.Converter(id); c != nil && c.Kind != site.BusKind {
			o := &one{c: c, st: Start{ID: id, IdlerHolds: true, Points: []Instant{}, judged: &judgement{}}}
			if f.mayStart(&o.st, &before, c) {
				o.start, o.by = f.comesUp(c)
				others[id] = c.On
			}
			all = append(all, o)
		}
	}
	live := []*one{}
	for _, o := range all {
		if _, starts := others[o.c.ID]; !starts {
			continue
		}
		var err error
		probe := startPeak * f.idlers[o.c.ID].Watts / f.Shop.Supply.Volts
		if o.sight, err = f.seen(&before, o.c.On, probe, others); err != nil {
			return nil, err
		}
		o.start.Supply, o.st.timed, o.st.ratio = o.sight.Supply, o.c.RunUpSeconds, f.ratio(o.c)
		o.start.Supply.Transformer = f.ahead(o.c)
		live = append(live, o)
	}
	for round := range mostRounds {
		moved := 0.0
		for _, o := range live {
			was := o.r.PeakSupplyAmps
			o.start.Sags = nil
			for _, by := range live {
				if by != o && round > 0 {
					o.start.Sags = sagged(o.start.Sags, o.sight.Volts, by.sight.far[o.c.ID], by.r.Points)
				}
			}
			var err error
			if o.r, err = startup.Run(o.start); err != nil {
				return nil, err
			}
			moved = math.Max(moved, math.Abs(o.r.PeakSupplyAmps-was)/o.r.PeakSupplyAmps)
		}
		if moved < settledShare && round > 1 {
			break
		}
	}
	list := []Start{}
	for _, o := range live {
		o.st.beside = map[string]float64{}
		for id, amps := range o.sight.beside {
			o.st.beside[id] = amps
		}
		for _, by := range live { // what of the others comes the same way
			if by == o {
				continue
			}
			o.st.beside[""] += by.r.PeakSupplyAmps
			for on := by.c.On; on != ""; on = f.Shop.Site.Circuit(on).From {
				o.st.beside[on] += by.r.PeakSupplyAmps
			}
		}
		f.tellIdler(&o.st, &o.start, &o.r, o.c, o.by)
	}
	for _, o := range all {
		o.st.finish()
		list = append(list, o.st)
	}
	return list, nil
}

// mostRounds is how often starts at once are followed with each other's amps, and settledShare the
// change of their peaks below which they agree.
const (
	mostRounds   = 12
	settledShare = 1e-3
)

// sagged are volts over time as the amps of a start elsewhere pull them down, on top of what others
// do already.
func sagged(already []startup.Sag, volts float64, ohms complex128, points []startup.Point) []startup.Sag {
	own := startup.Case{Sags: already}
	list := make([]startup.Sag, 0, len(points)+len(already))
	falls := make([]startup.Sag, len(points))
	for i, p := range points {
		falls[i] = startup.Sag{Seconds: p.Seconds, Volts: cmplx.Abs(complex(volts, 0)-ohms*p.Drawn) - volts}
	}
	fallen := startup.Case{Sags: falls}
	at := map[float64]bool{}
	for _, sags := range [][]startup.Sag{already, falls} {
		for _, s := range sags {
			if at[s.Seconds] {
				continue
			}
			at[s.Seconds] = true
			left := volts + fallen.SourceVolts(s.Seconds)
			if already != nil {
				left += own.SourceVolts(s.Seconds) - volts
			}
			list = append(list, startup.Sag{Seconds: s.Seconds, Volts: left})
		}
	}
	slices.SortFunc(list, func(a, b startup.Sag) int { return cmp.Compare(a.Seconds, b.Seconds) })
	return list
}
