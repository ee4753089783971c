package supply

import (
	"fmt"

	"brackmoor/core/quantity"
)

// Receptacle is a socket by its standard's name. Volts are those that it is for, Phases those that
// it carries. Not says what it must not be confused with.
type Receptacle struct {
	Name   string  `json:"name"`
	Title  string  `json:"title"`
	Amps   float64 `json:"amps"`
	Volts  float64 `json:"volts"`
	Phases int     `json:"phases"`
	Not    string  `json:"not"`
}

// receptacles are those of NEMA WD 6 on 60 Hz, and of IEC 60309-2 and BS 1363 on 50 Hz.
var receptacles = map[bool][]Receptacle{
	true: {
		{"5-15R", "NEMA 5-15R", 15, 125, 1, "one blade turned makes 6-15: 250 V"},
		{"5-20R", "NEMA 5-20R", 20, 125, 1, "6-20 has its turned blade at the other side: 250 V"},
		{"6-15R", "NEMA 6-15R", 15, 250, 1, "5-15, which is 125 V"},
		{"6-20R", "NEMA 6-20R", 20, 250, 1, "5-20, its mirror image, which is 125 V"},
		{"6-30R", "NEMA 6-30R", 30, 250, 1, "10-30, which has a neutral and no earth"},
		{"6-50R", "NEMA 6-50R", 50, 250, 1, "14-50 and 10-50, which have a neutral"},
		{"14-30R", "NEMA 14-30R", 30, 250, 1, "15-30, which is three-phase, with as many blades"},
		{"14-50R", "NEMA 14-50R", 50, 250, 1, "15-50, which is three-phase, with as many blades"},
		{"L6-20R", "NEMA L6-20R", 20, 250, 1, "L5-20 and L7-20, of the same size: 125 and 277 V"},
		{"L6-30R", "NEMA L6-30R", 30, 250, 1, "L5-30 and L7-30, of the same size: 125 and 277 V"},
		{"L14-20R", "NEMA L14-20R", 20, 250, 1, "L15-20, which is three-phase, with as many blades"},
		{"L14-30R", "NEMA L14-30R", 30, 250, 1, "L15-30, which is three-phase, with as many blades"},
		{"15-20R", "NEMA 15-20R", 20, 250, 3, "14-20, which is single-phase with a neutral"},
		{"15-30R", "NEMA 15-30R", 30, 250, 3, "14-30, which is single-phase with a neutral"},
		{"15-50R", "NEMA 15-50R", 50, 250, 3, "14-50, which is single-phase with a neutral"},
		{"15-60R", "NEMA 15-60R", 60, 250, 3, "14-60, which is single-phase with a neutral"},
		{"L15-20R", "NEMA L15-20R", 20, 250, 3, "L14-20, which is single-phase; L16-20, which is 480 V"},
		{"L15-30R", "NEMA L15-30R", 30, 250, 3, "L14-30, which is single-phase; L16-30, which is 480 V"},
		{"L16-20R", "NEMA L16-20R", 20, 480, 3, "L15-20, of the same size: 250 V"},
		{"L16-30R", "NEMA L16-30R", 30, 480, 3, "L15-30, of the same size: 250 V"},
	},
	false: {
		{"BS 1363", "BS 1363, 13 A", 13, 230, 1, "its plug's own fuse is no protection of a motor"},
		{"309-16-2P+E-6h", "IEC 60309, 16 A 2P+E 230 V, 6 h", 16, 230, 1, "the yellow 4 h of 110 V"},
		{"309-32-2P+E-6h", "IEC 60309, 32 A 2P+E 230 V, 6 h", 32, 230, 1, "the yellow 4 h of 110 V"},
		{"309-63-2P+E-6h", "IEC 60309, 63 A 2P+E 230 V, 6 h", 63, 230, 1, "the yellow 4 h of 110 V"},
		{"309-16-3P+E-9h", "IEC 60309, 16 A 3P+E 230 V, 9 h", 16, 230, 3, "the red 6 h of 400 V; 2P+E of one phase"},
		{"309-32-3P+E-9h", "IEC 60309, 32 A 3P+E 230 V, 9 h", 32, 230, 3, "the red 6 h of 400 V; 2P+E of one phase"},
		{"309-16-3P+E-6h", "IEC 60309, 16 A 3P+E 400 V, 6 h", 16, 400, 3, "the blue 9 h of 230 V, three-phase"},
		{"309-32-3P+E-6h", "IEC 60309, 32 A 3P+E 400 V, 6 h", 32, 400, 3, "the blue 9 h of 230 V, three-phase"},
		{"309-16-3P+N+E-6h", "IEC 60309, 16 A 3P+N+E 400 V, 6 h", 16, 400, 3, "3P+E; a made leg has no neutral"},
		{"309-32-3P+N+E-6h", "IEC 60309, 32 A 3P+N+E 400 V, 6 h", 32, 400, 3, "3P+E; a made leg has no neutral"},
	},
}

// Receptacles are those of a country, by its hertz.
func Receptacles(hertz float64) []Receptacle { return receptacles[quantity.SixtyHertz(hertz)] }

// ReceptacleOf finds one by its name.
func ReceptacleOf(name string, hertz float64) (r Receptacle, ok bool) {
	for _, r := range Receptacles(hertz) {
		if r.Name == name {
			return r, true
		}
	}
	return r, false
}

// Device is a kind of protective device. Holds is what it never trips at within a moment, in times
// of its rating, and Trips what it opens at without delay, 0 where its kind does not say.
type Device struct {
	Name  string  `json:"name"`
	Title string  `json:"title"`
	Holds float64 `json:"holds"`
	Trips float64 `json:"trips"`
}

// devices are those of the NEC, and of IEC 60898-1 and 60269.
var devices = map[bool][]Device{
	true: {
		{"inverse-time", "Inverse-time breaker", 5, 0},
		{"dual-element", "Dual-element fuse", 5, 0},
		{"fuse", "Fuse without delay", 2, 0},
	},
	false: {
		{"B", "Breaker, curve B", 3, 5}, {"C", "Breaker, curve C", 5, 10}, {"D", "Breaker, curve D", 10, 20},
		{"gG", "Fuse gG", 4, 0}, {"aM", "Fuse aM", 6.3, 0},
	},
}

// Devices are the kinds of a country, by its hertz, the usual one first.
func Devices(hertz float64) []Device { return devices[quantity.SixtyHertz(hertz)] }

// DeviceOf finds a kind by its name, the usual one for an empty name.
func DeviceOf(name string, hertz float64) (d Device, ok bool) {
	for _, d := range Devices(hertz) {
		if d.Name == name || name == "" {
			return d, true
		}
	}
	return d, false
}

// mostOfTable is what a device of one motor may be of its table's amps, the next standard size
// allowed.
var mostOfTable = map[string]factor{"inverse-time": quick, "dual-element": delayed, "fuse": plain}

// MostFor is the largest device of a kind in amps for one motor of table amps; ok is false on 50 Hz.
func (c Code) MostFor(device string, amps float64) (rating float64, ok bool) {
	d, known := DeviceOf(device, 60)
	if !known || !quantity.SixtyHertz(c.hertz) {
		return 0, false
	}
	percent, _ := c.percent(mostOfTable[d.Name])
	return c.Next(percent / 100 * amps)
}

// OverloadTrips is the line amps in percent of plate amps at which an overload that is set as the
// code has it opens for sure within hours.
func (c Code) OverloadTrips(serviceFactor float64) (percent float64, by string) {
	percent, by = c.Overload(serviceFactor)
	if !quantity.SixtyHertz(c.hertz) {
		times, source := c.percent(opens)
		return percent * times / 100, fmt.Sprintf("set to %.0f %% of plate amps it opens at %.0f %% of its setting: %s",
			percent, times, source)
	}
	return percent, by
}

// Overload is the most that an overload of a motor is set to, in percent of plate amps.
func (c Code) Overload(serviceFactor float64) (percent float64, by string) {
	switch {
	case !quantity.SixtyHertz(c.hertz):
		return c.percent(overloadIEC)
	case serviceFactor >= 1.15:
		return c.percent(served)
	}
	return c.percent(overload)
}
