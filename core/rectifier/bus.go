package rectifier

import "math"

// Drive is one of several drives on a common bus: its own capacitor, and the watts that
// it draws.
type Drive struct {
	ID            string  `json:"id"`
	BusMicrofarad float64 `json:"bus_microfarad"`
	Watts         float64 `json:"watts"`
}

// Shared is several drives on the bus of one front end.
type Shared struct {
	Bus    Result        `json:"bus"`
	Drives []SharedDrive `json:"drives" nullable:"false"`
}

// SharedDrive is the ripple amps of one drive's capacitor on the common bus, and those
// it would have behind the same front end alone (nil where the bus would collapse).
type SharedDrive struct {
	ID         string   `json:"id"`
	RippleAmps float64  `json:"ripple_amps"`
	AloneAmps  *float64 `json:"alone_amps"`
}

// Share puts several drives behind one front end: their capacitors are one, and share
// its ripple amps by their microfarads. The case's own capacitor and load, where it has
// any, stay on the bus beside them.
func Share(c Case, drives []Drive) (Shared, error) {
	own := c.Bridge
	all := c
	for _, d := range drives {
		all.Bridge.BusMicrofarad += d.BusMicrofarad
		all.LoadWatts += d.Watts
	}
	all.Bridge.BusESROhm = own.esrOf(all.Bridge.BusMicrofarad)
	bus, err := Solve(all)
	if err != nil {
		return Shared{}, err
	}
	out := Shared{Bus: bus, Drives: []SharedDrive{}}
	for _, d := range drives {
		s := SharedDrive{ID: d.ID, RippleAmps: bus.CapacitorRMSAmps * d.BusMicrofarad / all.Bridge.BusMicrofarad}
		alone := c
		alone.Bridge.BusMicrofarad, alone.LoadWatts = own.BusMicrofarad+d.BusMicrofarad, d.Watts
		alone.Bridge.BusESROhm = own.esrOf(alone.Bridge.BusMicrofarad)
		if r, err := Solve(alone); err == nil {
			s.AloneAmps = new(r.CapacitorRMSAmps * d.BusMicrofarad / alone.Bridge.BusMicrofarad)
		}
		out.Drives = append(out.Drives, s)
	}
	return out, nil
}

// esrOf is the series resistance of a capacitance in µF of the same kind.
func (f Front) esrOf(microfarad float64) float64 { return f.BusESROhm * f.BusMicrofarad / microfarad }

// Loss factors (tan δ) of bus capacitors at 100 to 120 Hz. Aluminium electrolytic cans of
// 350 to 450 V: IEC 60384-4 lets makers state 0.15 to 0.20 at 20 °C; they measure about
// half, and warm about a third, which is taken since it damps least and draws most amps.
// Metallised polypropylene: IEC 61071.
const (
	TanDeltaElectrolytic = 0.05
	TanDeltaFilm         = 0.001
)

// ESR is the equivalent series resistance in ohms of a bus capacitance in µF of a kind
// with this loss factor, at twice the line's hertz, where it carries most:
// tan δ/(2π·2f·C).
func ESR(tanDelta, microfarad, hertz float64) float64 {
	return tanDelta / (2 * math.Pi * 2 * hertz * microfarad * 1e-6)
}

// Can is an electrolytic capacitor as its maker rates it: so many hours at an air
// temperature with its ripple amps, which heat its core by so many kelvin.
type Can struct {
	Hours     float64 `json:"hours"`
	AtCelsius float64 `json:"at_celsius"`
	Amps      float64 `json:"amps"`
	CoreRiseK float64 `json:"core_rise_k"`
}

// mostLife bounds a life in hours: seals dry out by age alone, after some fifteen years.
const mostLife = 130_000

// Life is the hours a can lasts with ripple amps in air of a temperature in °C: twice as
// long for every ten kelvin that its core is cooler (Arrhenius' law, as usual for
// aluminium electrolytics), at most some fifteen years.
func (k Can) Life(amps, celsius float64) float64 {
	core := celsius + k.CoreRiseK*(amps/k.Amps)*(amps/k.Amps)
	return math.Min(mostLife, k.Hours*math.Exp2((k.AtCelsius+k.CoreRiseK-core)/10))
}
