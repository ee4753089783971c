package learn

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"brackmoor/core/network"
)

// Expected is what the next reading of a state is foretold to be: its volts with the 90 percent band that a meter reads
// them in, how far they are apart, and the hottest line of the idler in percent of its plate.
type Expected struct {
	On           []string      `json:"on" nullable:"false"`
	Volts        network.Lines `json:"volts"`
	Unbalance    float64       `json:"unbalance_percent"`
	Low          network.Lines `json:"low"`
	High         network.Lines `json:"high"`
	IdlerPercent float64       `json:"idler_percent"`
}

// ninety is how many standard deviations 90 percent lie within, to either side.
const ninety = 1.6449

// Foretell says what will be read in a state with capacitors; ok is false where the model settles nowhere.
func (l *Learned) Foretell(s *State, b Bank) (e Expected, ok bool) {
	v, ok := l.m.solve(s, b, -1)
	if !ok {
		return e, false
	}
	e = Expected{On: append([]string{}, s.On...), Volts: v.volts, Unbalance: v.volts.Unbalance(),
		IdlerPercent: l.percent(&v)}
	places := []Place{{At: "ab"}, {At: "bc"}, {At: "ca"}}
	doubts := l.doubts(s, b, &v, places...)
	for i, p := range []struct{ is, low, high *float64 }{
		{&e.Volts.AB, &e.Low.AB, &e.High.AB}, {&e.Volts.BC, &e.Low.BC, &e.High.BC},
		{&e.Volts.CA, &e.Low.CA, &e.High.CA},
	} {
		*p.low, *p.high = *p.is-ninety*doubts[i], *p.is+ninety*doubts[i]
	}
	return e, true
}

// Figure is what is foretold at one place of a state, and how far a usual meter may read off it: one standard
// deviation.
func (l *Learned) Figure(s *State, b Bank, p Place) (value, sigma float64, ok bool) {
	v, ok := l.m.solve(s, b, -1)
	if !ok || math.IsNaN(v.figure(p)) {
		return 0, 0, false
	}
	return v.figure(p), l.doubts(s, b, &v, p)[0], true
}

// SupplyVolts are those of the supply with nothing on it, and how far a usual meter may read off them.
func (l *Learned) SupplyVolts() (value, sigma float64) {
	value = l.m.c.Supply.Volts
	for i := range l.m.dials {
		if d := &l.m.dials[i]; d.kind == sourceVolts {
			value = d.value(l.m.u[i])
			sigma = d.spread(l.m.u[i], math.Sqrt(math.Max(0, l.spread.At(i, i))))
		}
	}
	f := Figure{Place: Place{At: "ab"}, Value: value}
	return value, math.Hypot(sigma, f.sigma())
}

// percent is the hottest line of the idler, or of the machine that stands alone, in percent of plate amps.
func (l *Learned) percent(v *seen) float64 {
	own := l.m.c.Idler
	if own == nil {
		own = &l.m.c.Machines[0]
	}
	return 100 * v.idler / own.Amps
}

// doubts are the standard deviations of figures that are foretold: of the dials, the meter and the model together.
func (l *Learned) doubts(s *State, b Bank, v *seen, places ...Place) (list []float64) {
	n := len(l.m.dials)
	slopes := mat.NewDense(len(places), n, nil)
	parallel(n, func(i int) {
		u := slices.Clone(l.m.u)
		u[i] += nudge
		m := l.m.at(u)
		if other, ok := m.solve(s, b, -1); ok {
			for k, p := range places {
				slopes.Set(k, i, (other.figure(p)-v.figure(p))/nudge)
			}
		}
	})
	for k, p := range places {
		slope := slopes.RowView(k)
		f := Figure{Place: p, Value: v.figure(p)}
		list = append(list, math.Sqrt(math.Max(0, mat.Inner(slope, l.spread, slope))+f.sigma()*f.sigma()))
	}
	return list
}
