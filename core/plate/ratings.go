package plate

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// stanza is what a plate says together: in one line or column of it, or in all of it.
type stanza struct {
	volts, amps, factorAmps groups
	joints                  []string
	hertz, rpm              []float64
	watts                   []float64
	duty                    string
}

// rows are the rows of the plate. A figure that is said as often as there are rows has one
// for each; one that is said once holds for all of them. Of others each row takes the one on
// its line, or else the last before it.
func (a *assembly) rows() []stanza {
	a.oneOutput()
	anchor, n := "volts", len(a.volts)
	byDuty := false
	if n < 2 {
		if len(a.hertz) > 1 {
			anchor, n = "hertz", len(a.hertz)
		} else if len(a.duty) > 1 && len(a.output) == len(a.duty) {
			anchor, n, byDuty = "duty", len(a.duty), true
		} else if a.twoSpeeds() {
			anchor, n = "rpm", 2
		} else {
			n = 1
		}
	}
	// of gives each row the number of its claim, -1 for none.
	of := func(field string, i int) int {
		said := a.claims[field]
		switch {
		case len(said) == 0:
			return -1
		case len(said) == n, n == 1:
			return min(i, len(said)-1)
		case len(said) == 1 && byDuty && i > 0 && field != "volts" && field != "hertz":
			return -1
		case len(said) == 1 && said[0].under && said[0].line != a.claims[anchor][min(i, len(a.claims[anchor])-1)].line:
			return -1 // the cell of this line was not read
		case len(said) == 1:
			return 0
		}
		here, best := a.claims[anchor][min(i, len(a.claims[anchor])-1)], 0
		for k, c := range said {
			if c.line == here.line {
				return k
			}
			if c.from < here.from {
				best = k
			}
		}
		return best
	}
	list := make([]stanza, n)
	for i := range list {
		r := &list[i]
		if k := of("volts", i); k >= 0 {
			r.volts, r.joints = a.volts[k], a.joints[k]
		}
		// What is one motor joined two ways has each frequency on both.
		dual := len(a.volts) > 1 && dual([]float64{flat(a.volts[0])[0], flat(a.volts[1])[0]}) ||
			len(a.volts) == 1 && len(flat(a.volts[0])) == n && (byDuty || dual(flat(a.volts[0])))
		each := len(a.volts) > 1 || !dual // volts that stand by themselves have amps each
		if anchor == "hertz" {
			r.volts = mine(a.volts, of("volts", i), i, n, dual)
		}
		r.amps = mine(a.amps, of("amps", i), i, n, !each)
		r.factorAmps = mine(a.factorAmps, of("service_factor_amps", i), i, n, !each)
		r.hertz = flat(mine(singly(a.hertz), of("hertz", i), i, n, dual))
		r.rpm = flat(mine(singly(a.rpm), of("rpm", i), i, n, dual))
		if k := of("output", i); k >= 0 {
			r.watts = a.output[k].watts
			if len(a.output) == 1 && len(r.watts) == n && n > 1 && !dual {
				r.watts = r.watts[i : i+1]
			}
		}
		if k := of("duty", i); k >= 0 && byDuty {
			r.duty = a.duty[k]
		}
		if k := of(
			"connection",
			i,
		); k >= 0 && len(r.joints) == 0 &&
			(len(flat(r.volts)) == 1 || oneRange(flat(r.volts))) &&
			(n > 1 && len(a.connection) == n || n == 1) {
			r.joints = a.connection[k : k+1]
		}
	}
	if n == 1 {
		for _, field := range []string{"amps", "service_factor_amps", "rpm", "output", "duty"} {
			a.onlyFirst(field)
		}
	}
	return list
}

// twoSpeeds says whether the plate is of a motor that changes its poles: two speeds far apart
// on one voltage and frequency.
func (a *assembly) twoSpeeds() bool {
	speeds := slices.Concat(a.rpm...)
	return len(a.volts) == 1 && len(flat(a.volts[0])) == 1 && len(slices.Concat(a.hertz...)) <= 1 && len(speeds) == 2 &&
		slices.Max(speeds) >= leastSpeeds*slices.Min(speeds)
}

// leastSpeeds is how far apart the speeds of a motor for two are at least: 8 and 6 poles.
var leastSpeeds = rule.Limit("plate.two-speeds", "least_factor")

// mine is a row's figure: what is said for it, or its part of a list for all rows.
func mine(said []groups, k, i, n int, dual bool) groups {
	if k < 0 {
		return nil
	}
	if all := flat(said[k]); len(said) == 1 && n > 1 && len(all) == n && !dual {
		return groups{{all[i]}}
	}
	return said[k]
}

// singly parts lists of figures into groups of one.
func singly(lists [][]float64) (all []groups) {
	for _, list := range lists {
		var g groups
		for _, v := range list {
			g = append(g, []float64{v})
		}
		all = append(all, g)
	}
	return all
}

// onlyFirst leaves what is said again without a place among the words that are not read.
func (a *assembly) onlyFirst(field string) {
	said := a.claims[field]
	if len(said) < 2 {
		return
	}
	delete(a.d.From, field)
	a.tell(said[0])
	for _, c := range said[1:] {
		a.d.Unread = append(a.d.Unread, c.words)
	}
}

// oneOutput takes horsepower and kilowatts of the same for one output: that in the unit in
// which motors for such a frequency are made counts, and the other has checked it.
func (a *assembly) oneOutput() {
	sixty := len(a.hertz) > 0 && quantity.SixtyHertz(a.hertz[0][0])
	fifty := len(a.hertz) > 0 && !sixty
	for i := 0; i+1 < len(a.output); i++ {
		p, q := a.output[i], a.output[i+1]
		if p.unit == q.unit || len(p.watts) != len(q.watts) || math.Abs(p.watts[0]/q.watts[0]-1) > 0.06 {
			continue
		}
		first := true
		switch {
		case q.unit == "kW" && (fifty || p.unit != "hp"), sixty && q.unit == "hp":
			first = false
		}
		said := a.claims["output"]
		if !first {
			a.output[i], said[i] = q, said[i+1]
		}
		a.output = slices.Delete(a.output, i+1, i+2)
		a.claims["output"] = slices.Delete(said, i+1, i+2)
	}
}

// ratings makes one rating for each voltage, and for each frequency where the
// plate gives several with figures of their own.
func (a *assembly) ratings() {
	rows := a.rows()
	p := &a.d.Plate
	a.whichUnit(rows)
	var outputs []float64
	for _, r := range rows {
		outputs = append(outputs, r.watts...)
	}
	if len(rows[0].watts) > 0 {
		p.OutputWatts = &outputs[0]
	}
	several := slices.ContainsFunc(outputs, func(w float64) bool { return p.OutputWatts == nil || w != outputs[0] })
	if len(a.duty) > 0 {
		p.Duty = &a.duty[0]
	}
	for _, r := range rows {
		p.Ratings = append(p.Ratings, r.ratings(several)...)
	}
	a.connections()
	a.loneFactorAmps()
}

// whichUnit finds the unit of an output that has none: the one that goes with the volts and
// amps. Where there is none the output is not read.
func (a *assembly) whichUnit(rows []stanza) {
	for i, o := range a.output {
		if o.unit != "" {
			continue
		}
		best, name := math.Inf(1), ""
		volts, amps := flat(rows[min(i, len(rows)-1)].volts), flat(rows[min(i, len(rows)-1)].amps)
		for _, unit := range []string{"kW", "hp", "W"} {
			watts := o.watts[0] / 1000 * map[string]float64{"kW": 1000, "hp": quantity.WattsPerHorsepower, "W": 1}[unit]
			if len(volts) == 0 || len(amps) == 0 || watts < 20 || watts > 200e3 {
				continue
			}
			powerFactor, _ := Usual(watts, 4)
			efficiency, _, _ := ClassEfficiency("IE2", watts, 4)
			off := math.Abs(math.Log(watts / (math.Sqrt(3) * volts[0] * amps[0]) / (powerFactor * efficiency)))
			if off < best && off < 0.4 {
				best, name = off, unit
				o.watts[0] = watts // shared with the rows
			}
		}
		if name == "" {
			c := a.claims["output"][i]
			a.d.Unread = append(a.d.Unread, c.words)
			delete(a.d.From, "output")
			for k := range rows {
				rows[k].watts = nil
			}
			continue
		}
		a.output[i].unit = name
		a.d.Deduced = append(a.d.Deduced, Deduced{"output", fmt.Sprintf(
			"no unit stands with it; of kW, hp and W only %s goes with %.4g V and %.3g A", name, volts[0], amps[0])})
	}
}

// paired is how many volts belong to each of several frequencies: one, as 200/220 V on 50/60 Hz,
// or two for the ways of joining it, as 190/380 and 230/460 V; 0 where all hold for each.
func (r stanza) paired() int {
	n, volts := len(r.hertz), flat(r.volts)
	switch {
	case n < 2 || len(r.volts) != len(volts):
	case len(volts) == n && !dual(volts):
		return 1
	case len(volts) == 2*n && !slices.ContainsFunc(slices.Collect(slices.Chunk(volts, 2)),
		func(pair []float64) bool { return !dual(pair) }):
		return 2
	}
	return 0
}

// ratings are those of one row.
func (r stanza) ratings(several bool) (list []SheetRating) {
	r = r.crossed()
	volts := flat(r.volts)
	frequencies := r.hertz
	if len(frequencies) == 0 {
		frequencies = []float64{0}
	}
	for k, hertz := range frequencies {
		for i, v := range volts {
			if per := r.paired(); per > 0 && i/per != k {
				continue
			}
			one := SheetRating{Volts: v, Connection: r.joint(i)}
			if hertz > 0 {
				one.Hertz = ptr(hertz)
			}
			one.RPM = pick(r.rpm, k, len(frequencies))
			if len(frequencies) == 1 && len(r.rpm) == len(volts) {
				one.RPM = ptr(r.rpm[i])
			}
			one.Amps = r.grouped(r.amps, i, k, len(frequencies))
			one.ServiceFactorAmps = r.grouped(r.factorAmps, i, k, len(frequencies))
			if several {
				one.OutputWatts = pick(r.watts, k, len(frequencies))
				if len(r.watts) == 1 {
					one.OutputWatts = ptr(r.watts[0])
				}
			}
			if r.duty != "" {
				one.Duty = ptr(r.duty)
			}
			list = append(list, one)
		}
	}
	return list
}

// crossed turns volts that stand together by their joining, such as 230-265/400-460 V at 50-60 Hz,
// into what stands together by its frequency, with their amps.
func (r stanza) crossed() stanza {
	if len(r.hertz) != 2 || r.hertz[0] >= r.hertz[1] || len(r.volts) != 2 {
		return r
	}
	for _, g := range r.volts {
		if len(g) != 2 || g[1] < leastCrossed*g[0] || g[1] > 1.25*g[0] {
			return r // a range, which holds at both
		}
	}
	turned := func(g groups) groups {
		if len(g) != 2 || len(g[0]) != 2 || len(g[1]) != 2 {
			return g
		}
		return groups{{g[0][0]}, {g[1][0]}, {g[0][1]}, {g[1][1]}}
	}
	r.volts, r.amps, r.factorAmps = turned(r.volts), turned(r.amps), turned(r.factorAmps)
	return r
}

// leastCrossed is how far apart volts for 50 and 60 Hz are at least; closer ones are a range.
const leastCrossed = 1.14

// joint is the connection that is marked for voltage i: one for each, one for each group, or
// one for a range and for volts of which each belongs to another frequency.
func (r stanza) joint(i int) *string {
	if len(r.joints) == 1 && (r.paired() == 1 || oneRange(flat(r.volts))) {
		return ptr(r.joints[0])
	}
	switch len(r.joints) {
	case len(flat(r.volts)):
		return ptr(r.joints[i])
	case len(r.volts):
		for g, group := range r.volts {
			if i -= len(group); i < 0 {
				return ptr(r.joints[g])
			}
		}
	}
	return nil
}

// pick is the value of frequency k: one for all, or one for each.
func pick(values []float64, k, of int) *float64 {
	switch {
	case len(values) == 1 && of == 1, len(values) == of && of > 1:
		return ptr(values[min(k, len(values)-1)])
	}
	return nil
}

// grouped is the amps of voltage i: one for each voltage, or one for each group
// of them, where they belong to the group's last.
func (r stanza) grouped(amps groups, i, k, frequencies int) *float64 {
	all, volts := flat(amps), flat(r.volts)
	switch {
	case r.paired() == 1 && len(all) == frequencies:
		return ptr(all[k])
	case r.paired() == 2 && len(all) == len(volts):
		return ptr(all[i])
	case frequencies > 1 && len(all) == len(volts)*frequencies:
		return ptr(all[k*len(volts)+i])
	case frequencies > 1:
		return nil // whose they are is not said
	case len(all) == len(volts):
		return ptr(all[i])
	case len(all) == 1 && oneRange(volts):
		if i == len(volts)-1 {
			return ptr(all[0]) // of a range, as of a group
		}
	case len(amps) == len(r.volts) && len(all) == len(amps):
		end := 0
		for g, group := range r.volts {
			if end += len(group); i == end-1 {
				return ptr(all[g])
			}
		}
	}
	return nil
}

// oneRange says whether volts are one range, however they are parted.
func oneRange(volts []float64) bool {
	return len(volts) > 1 && slices.Max(volts) <= 1.15*slices.Min(volts)
}

// connections gives voltages without a mark the connection that follows from the ratio of
// the volts, at each frequency by itself.
func (a *assembly) connections() {
	list := a.d.Plate.Ratings
	if slices.ContainsFunc(list, func(r SheetRating) bool { return r.Connection != nil }) {
		return
	}
	found := false
	for i := range list {
		var alike []int
		for k, r := range list {
			if valueOf(r.Hertz) == valueOf(list[i].Hertz) && valueOf(r.Duty) == valueOf(list[i].Duty) {
				alike = append(alike, k)
			}
		}
		if alike[0] != i {
			continue
		}
		ratings := make([]Rating, len(alike))
		for k, at := range alike {
			ratings[k].Volts = list[at].Volts
		}
		(&reader{}).connect("", ratings)
		for k, at := range alike {
			if ratings[k].Connection != "" {
				list[at].Connection, found = ptr(ratings[k].Connection), true
			}
		}
	}
	if found {
		a.d.Deduced = append(a.d.Deduced, Deduced{"connection",
			"the ratio of the volts: √3 is delta and wye of the same windings, two is parallel and series"})
	}
}
