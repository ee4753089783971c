package winding

import (
	"math"

	"brackmoor/core/motor"
)

// ReferenceCelsius is the temperature at which winding ohms are given.
const ReferenceCelsius = 20

// AtCelsius turns copper ohms at one temperature into those at another
// (IEC 60034-1, 8.6.2: 235 K below 0 °C for copper).
func AtCelsius(ohms, from, to float64) float64 { return ohms * (235 + to) / (235 + from) }

// HotCelsius is the winding temperature for which efficiency is stated, by class
// of insulation (IEC 60034-2-1, reference temperature); class B is taken where the
// plate does not say.
func HotCelsius(class string) float64 {
	switch class {
	case "A", "E":
		return 75
	case "F":
		return 115
	case "H", "N":
		return 130
	}
	return 95
}

// ohms are the resistances of a settled motor at one temperature.
type ohms struct {
	coil    float64 // mean of the coils; of three leads, as if wye
	delta   float64 // of three leads, as if delta; otherwise 0
	percent float64 // largest deviation of like readings from their mean
	odd     reading // the reading that deviates most
}

// resistances compares like readings with like: single coils with each other,
// pairs of coils in series with each other, and both kinds' means.
func (f *found) resistances() (o ohms, ok bool) {
	byCoils := map[int][]reading{}
	for _, r := range f.coils {
		byCoils[r.coils] = append(byCoils[r.coils], r)
	}
	var means []reading
	count := 0.0
	for coils := 1; coils <= 2; coils++ {
		list := byCoils[coils]
		if len(list) == 0 {
			continue
		}
		mean := 0.0
		for _, r := range list {
			mean += r.ohms / float64(len(list))
		}
		if mean <= 0 {
			return o, false
		}
		o.compare(list, mean)
		means = append(means, reading{list[0].between, mean, coils})
		o.coil += mean / float64(coils) * float64(len(list))
		count += float64(len(list))
	}
	if count == 0 {
		return o, false
	}
	o.coil /= count
	if len(means) == 2 {
		for i := range means {
			means[i] = reading{means[i].between, means[i].each(), 1}
		}
		o.compare(means, (means[0].ohms+means[1].ohms)/2)
	}
	if f.kind == ThreeLead {
		o.delta = 3 * o.coil
	}
	return o, true
}

func (o *ohms) compare(list []reading, mean float64) {
	for _, r := range list {
		if d := 100 * math.Abs(r.ohms/mean-1); d > o.percent {
			o.percent, o.odd = d, reading{r.between, r.ohms / mean, r.coils}
		}
	}
}

// Measured is a stator resistance that replaces an assumed one: wye-equivalent ohms
// at the terminals, hot.
func Measured(c Connection, coilOhm float64, class string) float64 {
	return AtCelsius(c.StatorOhm(coilOhm), ReferenceCelsius, HotCelsius(class))
}

// CopperShare is the copper loss in the stator at an rms line current, as a share
// of all the losses of a target in watts.
func CopperShare(statorOhm float64, t motor.Target) float64 {
	losses := t.OutputWatts * (1/t.Efficiency() - 1)
	return 3 * t.Amps * t.Amps * statorOhm / losses
}
