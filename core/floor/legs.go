package floor

import (
	"math"
	"math/cmplx"

	"brackmoor/core/network"
	"brackmoor/core/site"
)

// A load from one line to the neutral takes I from that line alone. The two lines' difference, which
// the network solves, is as with half of I between them; the other half is common to both and goes
// home by the neutral. It loads one line more and the other less, at every breaker on its way.

// leg is the line on which a load hangs whose other end is the neutral, 0 for none, and the volts of
// that line to the neutral for each volt between the lines. On a breaker of one pole that is so
// whatever is said.
func (f *Floor) leg(l *site.Load) (line int, volts complex128) {
	a, b, legged := f.Shop.Supply.Legs()
	c := f.Shop.Site.Circuit(l.On)
	switch {
	case !legged || f.Shop.Site.Converter(l.On) != nil:
		return 0, 0
	case l.Between == site.LineB:
		return 2, b
	case l.Between == site.LineA, c != nil && c.Poles == 1:
		return 1, a
	}
	return 0, 0
}

// onePole says that a circuit takes one line and the neutral, so that its wire's ohms count four times
// beside those of what hangs between the lines.
func (f *Floor) onePole(c *site.Circuit) bool {
	_, _, legged := f.Shop.Supply.Legs()
	return legged && c.Poles == 1
}

// voltsOf are the volts that a circuit is for.
func (f *Floor) voltsOf(c *site.Circuit) float64 {
	if f.onePole(c) {
		return f.Shop.Supply.Volts * f.Shop.Supply.LegShare()
	}
	return f.Shop.Supply.Volts
}

// onOnePole says what wants both lines and hangs on a breaker of one pole.
func (f *Floor) onOnePole(j *judgement, c *site.Circuit) {
	if !f.onePole(c) {
		return
	}
	var names []string
	for _, m := range f.hangOn(c.ID) {
		names = append(names, m.name)
	}
	for _, v := range f.Shop.Site.Converters {
		if v.On == c.ID {
			names = append(names, v.Name)
		}
	}
	for i := range f.Shop.Site.Circuits {
		if inner := &f.Shop.Site.Circuits[i]; inner.From == c.ID && !f.onePole(inner) {
			names = append(names, inner.Name)
		}
	}
	for _, name := range names {
		j.say("floor.code-poles", c.ID, 1, 2, "A two-pole breaker, or another circuit.",
			"%s is behind one pole, %s: %s wants both lines.", c.Name, volts(f.voltsOf(c)), name)
	}
}

// poleOhms are how many times the ohms of such a circuit count.
const poleOhms = 4

// between are the ohms between the lines that take half of what ohms from a line to the neutral do.
func between(line int, volts, ohms complex128) complex128 {
	if line == 2 {
		volts = -volts
	}
	return 2 * ohms / volts
}

// lineAmps are the amps of the fuller line of every circuit of a solved shop, and under "" those of
// the service.
func (f *Floor) lineAmps(r *network.InstallationResult) map[string]float64 {
	common := f.common(r)
	amps := map[string]float64{"": fuller(r.Supply.Current, common[""])}
	for _, c := range r.Circuits {
		amps[c.ID] = fuller(c.Supply.Current, common[c.ID])
	}
	return amps
}

func fuller(difference, common complex128) float64 {
	return math.Max(cmplx.Abs(difference+common), cmplx.Abs(difference-common))
}

// common is what the two lines of each circuit carry the same way, by the loads that hang on a
// line and the neutral.
func (f *Floor) common(r *network.InstallationResult) map[string]complex128 {
	sums := map[string]complex128{}
	var ends map[string]complex128 // volts at the ends of circuits
	for i := range f.Shop.Site.Loads {
		l := &f.Shop.Site.Loads[i]
		line, _ := f.leg(l)
		if line == 0 {
			continue
		}
		if ends == nil {
			ends = map[string]complex128{}
			for _, c := range r.Circuits {
				ends[c.ID] = cmplx.Rect(c.Volts.AB, c.Degrees.AB*math.Pi/180)
			}
		}
		var half complex128
		for _, x := range r.Loads {
			if x.ID == l.ID {
				half = cmplx.Rect(x.Amps, cmplx.Phase(ends[x.Circuit])-x.Angle)
			}
		}
		for _, x := range r.Rectifiers {
			if x.ID == l.ID {
				half = cmplx.Rect(x.FundamentalAmps, cmplx.Phase(ends[x.Circuit])-math.Acos(network.UsualDisplacement))
			}
		}
		if line == 2 {
			half = -half
		}
		sums[""] += half
		for on := l.On; on != ""; on = f.Shop.Site.Circuit(on).From {
			sums[on] += half
		}
	}
	return sums
}

// commonWatts are those that the service gives what hangs on a line and the neutral beside what the
// difference of its lines does: none where the neutral stands in the middle between them.
func (f *Floor) commonWatts(r *network.InstallationResult) float64 {
	a, b, _ := f.Shop.Supply.Legs()
	middle := (a + b) / 2 * complex(f.Shop.Supply.Volts, 0)
	if middle == 0 {
		return 0
	}
	return real(middle * cmplx.Conj(2*f.common(r)[""]))
}
