package floor

import (
	"math"

	circuit "brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
)

// comer is what comes up in a start: where it is told, and its name.
type comer struct{ id, name string }

// follow runs a start through its seconds and judges it; so many of its motors run before, and the
// others come up.
func (f *Floor) follow(
	st *Start,
	c startup.Case,
	on string,
	runBefore int,
	coming ...comer,
) (startup.Result, error) {
	r, err := startup.Run(c)
	if err != nil {
		return r, err
	}
	f.tell(st, &c, &r, on, runBefore, coming...)
	return r, nil
}

// tell puts what came of a start in the shop's words.
func (f *Floor) tell(st *Start, c *startup.Case, r *startup.Result, on string, runBefore int, coming ...comer) {
	alone := runBefore == 0 || f.Shop.Site.Converter(f.placeOf(coming[0].id)) == nil
	st.By = "machine model, every shaft in time"
	st.PeakAmps = max(st.PeakAmps, r.PeakSupplyAmps)
	lowest := min(r.LowestVolts.AB, r.LowestVolts.BC, r.LowestVolts.CA)
	if st.LowestVolts == 0 || lowest < st.LowestVolts {
		st.LowestVolts = lowest
	}
	up := true
	for i, m := range coming {
		o := r.Motors[runBefore+i]
		if o.TimeTo90 == nil || o.State != network.Running {
			up = false
			st.judged.say("floor.start-hangs", m.id, o.FinalRPM, leastRPM(c.Supply.Hertz, c.Motors[runBefore+i].Poles),
				"Fewer machines on, an easier start, or a larger idler.",
				"%s hangs at %s rpm.", m.name, quantity.Fixed(math.Abs(o.FinalRPM), 0))
		} else if st.Seconds == nil || *o.TimeTo90 > *st.Seconds {
			st.Seconds = o.TimeTo90
		}
	}
	if !up {
		st.Seconds = nil
	}
	for i := range runBefore {
		o := r.Motors[i]
		name, known := f.nameOf(o.ID)
		if o.State == network.Running {
			continue
		}
		if !known {
			st.IdlerHolds = false
			name = "The idler"
		}
		st.judged.say("floor.start-drops", o.ID, o.LowestRPM, leastRPM(f.Shop.Supply.Hertz, c.Motors[i].Poles),
			"Start it first, before the others are loaded.", "%s falls to %s rpm and does not come back.", name,
			quantity.Fixed(o.LowestRPM, 0))
	}
	lowestVolts := r.LowestVolts
	if alone {
		lowestVolts.BC, lowestVolts.CA = math.Inf(1), math.Inf(1) // nobody else's coil hangs there
	}
	f.dips(st, lowestVolts)
	f.trips(st, on, max(r.Seconds, st.timed))
	for _, p := range thinned(r.Points) {
		at := Instant{Seconds: p.Seconds, Volts: p.Volts, Amps: p.SupplyAmps, Speed: math.Inf(1)}
		for i := runBefore; i < len(p.Motors); i++ {
			at.Speed = min(
				at.Speed,
				math.Abs(p.Motors[i].RPM)/circuit.SynchronousRPM(c.Supply.Hertz, c.Motors[i].Poles),
			)
		}
		st.Points = append(st.Points, at)
	}
}

// mostInstants is how many moments of a start are told.
const mostInstants = 120

// thinned are moments of a start, few enough to be drawn.
func thinned(points []startup.Point) (list []startup.Point) {
	every := len(points)/mostInstants + 1
	for i, p := range points {
		if i%every == 0 || i == len(points)-1 {
			list = append(list, p)
		}
	}
	return list
}

// placeOf is what a motor hangs on.
func (f *Floor) placeOf(id string) string {
	for _, m := range f.starting(id) {
		return m.place.On
	}
	return ""
}

func (f *Floor) nameOf(id string) (string, bool) {
	for _, m := range f.machines {
		for _, o := range m.motors {
			if o.ID == id {
				return o.name, true
			}
		}
	}
	return "", false
}

// dips says where contactors may let go.
func (f *Floor) dips(st *Start, lowest network.Lines) {
	least := rule.Limit("floor.start-dip", "least_percent")
	service := f.Shop.Supply.Volts
	if st.ratio > 0 {
		service *= st.ratio
	}
	for _, pair := range []struct {
		name  string
		volts float64
	}{{"between the supply's lines", lowest.AB}, {"at the made leg", min(lowest.BC, lowest.CA)}} {
		if share := 100 * pair.volts / service; share < least && pair.volts > 0 {
			st.judged.say("floor.start-dip", st.ID, share, least,
				"Coils between the two supply lines, not on the made leg; start it first.",
				"While it starts %s are left %s, %s of the service.", volts(pair.volts), pair.name, percent(share))
		}
	}
}

// trips says which breakers on the way may open, by what starts and what they carry beside it; the
// amps are added as if they were in phase, which is the most that they come to.
func (f *Floor) trips(st *Start, on string, seconds float64) {
	most, long := rule.Limit("floor.start-breaker", "most_factor"), rule.Limit("floor.start-breaker", "long_factor")
	lasts := rule.Limit("floor.start-breaker", "long_seconds")
	look := func(where, name, id string, breaker float64) {
		carries := st.PeakAmps + st.beside[id]
		times := carries / breaker
		if times > most || times > long && seconds > lasts {
			st.judged.say("floor.start-breaker", where, times, most,
				"A breaker with a slower trip, as large as the code allows, or an easier start.",
				"%s at the start, %s times the breaker of %s.", amps(carries), quantity.Figures(times, 2), name)
		}
	}
	for c := f.Shop.Site.Circuit(on); c != nil; c = f.Shop.Site.Circuit(c.From) {
		look(c.ID, c.Name, c.ID, c.BreakerAmps)
	}
	if f.Shop.Supply.MainAmps > 0 {
		look("main", "the service", "", f.Shop.Supply.MainAmps)
	}
}
