package learn

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
)

// Misread is a figure that fits nothing: where it stands, and what it looks like.
type Misread struct {
	Reading int    `json:"reading"`
	Place   string `json:"place"`
	Says    string `json:"says" told:"figures"`
}

// A figure is taken for misread from so many standard deviations on, of what is left of it when it is foretold by all
// the others; and one that another story tells must be told within fewer.
const (
	misreadAt = 5.0
	toldBy    = 3.0
	// mostMisread is the share of all figures that may be: past it the machine is another one than its plate says.
	mostMisread = 0.3
)

// sort leaves out the figures that fit nothing, the worst first, until all that are left fit.
func (l *Learned) sort() (list []Misread) {
	list = []Misread{}
	figures := 0
	for _, r := range l.m.c.Readings {
		figures += len(r.Figures)
	}
	for len(l.without) < int(mostMisread*float64(figures)) {
		var worst *row
		most := misreadAt
		for k := range l.rows {
			r := &l.rows[k]
			if apart := math.Abs(r.off) / math.Sqrt(1-l.hold(r)); apart > most {
				worst, most = r, apart
			}
		}
		if worst == nil {
			return list
		}
		says, also := l.story(worst.spot)
		l.without[worst.spot] = true
		if also != nil {
			l.without[*also] = true
		}
		f := &l.m.c.Readings[worst.reading].Figures[worst.figure]
		list = append(list, Misread{worst.reading, f.Place.String(), says})
		l.fit()
	}
	return list
}

// hold is how much of a figure's own place in the fit it made itself, from 0 to nearly 1.
func (l *Learned) hold(r *row) float64 {
	slope := mat.NewVecDense(len(r.slope), r.slope)
	return math.Min(0.95, weight(r.off)*mat.Inner(slope, l.spread, slope))
}

// story is what a figure that fits nothing looks like, and the other figure of that story.
func (l *Learned) story(at spot) (says string, also *spot) {
	r := &l.m.c.Readings[at.reading]
	f := &r.Figures[at.figure]
	v, ok := l.m.solve(&r.State, r.Bank, at.reading)
	if !ok {
		return "Nothing settles in this state by the model: read it again.", nil
	}
	is := func(value float64, p Place) bool {
		own := Figure{Place: p, Value: value}
		return math.Abs(value-v.figure(p)) < toldBy*own.sigma()
	}
	for _, by := range []float64{10, 0.1} {
		if is(by*f.Value, f.Place) {
			return fmt.Sprintf("It looks like a slip of the point: %.3g would fit, and %.3g is written.", by*f.Value,
				f.Value), nil
		}
	}
	for k := range r.Figures {
		g := &r.Figures[k]
		if k == at.figure || g.Place.Of != f.Place.Of {
			continue
		}
		if is(f.Value, g.Place) && is(g.Value, f.Place) {
			also = &spot{at.reading, k}
			return fmt.Sprintf("It looks exchanged with %s: each fits where the other stands.", g.Place), also
		}
	}
	others := map[string][]string{
		"a": {"b", "c"}, "b": {"a", "c"}, "c": {"a", "b"}, "ab": {"bc", "ca"}, "bc": {"ab", "ca"}, "ca": {"ab", "bc"},
	}[f.Place.At]
	for _, other := range others {
		p := Place{f.Place.Of, other}
		if !is(f.Value, p) {
			continue
		}
		if f.Place.Volts() {
			return fmt.Sprintf("It reads like %s: on the wrong pair?", p), nil
		}
		third := others[0]
		if third == other {
			third = others[1]
		}
		return fmt.Sprintf("It reads like %s: on the wrong line, or a clamp round %s and %s together?", p, f.Place.At,
			third), nil
	}
	if !f.Place.Volts() && is(f.Value/2, f.Place) {
		return "It is twice what fits: a clamp with the wire through it twice?", nil
	}
	return fmt.Sprintf("Nothing fits it: about %.3g is foretold by all the others. Read it again.",
		v.figure(f.Place)), nil
}
