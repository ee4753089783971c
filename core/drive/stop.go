// Package drive computes what a drive does with its motor: the volts it gives for a
// frequency and the torque that is left across speed, the pulses of its output, and how
// fast it can stop a load without its bus tripping.
package drive

import (
	"math"

	"brackmoor/core/rule"
)

// Stop is a load that a drive ramps down linearly to standstill. One of LossWatts
// and FrictionNm is given; StopSeconds and ChopperVolts are given together or not at
// all.
type Stop struct {
	InertiaKgm2   float64  `json:"inertia_kgm2"`
	RPM           float64  `json:"rpm"`
	BusMicrofarad float64  `json:"bus_microfarad"`
	BusVolts      float64  `json:"bus_volts"`
	TripVolts     float64  `json:"trip_volts"`
	LossWatts     *float64 `json:"loss_watts"`
	FrictionNm    *float64 `json:"friction_nm"`
	StopSeconds   *float64 `json:"stop_s"`
	ChopperVolts  *float64 `json:"chopper_volts"`
}

// Stopping is what a stop takes. ShortestSeconds is without a resistor, the bus just
// reaching its trip: 0 when the bus takes it all, nil when it never can. The other
// figures stand only where a stop time was asked for; ResistorMaxOhm is nil when no
// resistor is needed.
type Stopping struct {
	ShortestSeconds   *float64  `json:"shortest_stop_s"`
	BusPeakVolts      *float64  `json:"bus_peak_volts,omitempty"`
	ResistorPeakWatts *float64  `json:"resistor_peak_watts,omitempty"`
	ResistorMeanWatts *float64  `json:"resistor_mean_watts,omitempty"`
	ResistorMaxOhm    **float64 `json:"resistor_max_ohm,omitempty"`
}

// Validate says what is wrong with a stop, by JSON paths; one without problems has an answer.
func (s Stop) Validate() (problems rule.Problems) {
	if (s.LossWatts == nil) == (s.FrictionNm == nil) {
		problems.Say("$.stop", "needs either loss_watts or friction_nm, and not both")
	}
	if (s.StopSeconds == nil) != (s.ChopperVolts == nil) {
		problems.Say("$.stop", "stop_s and chopper_volts stand together or are both left out")
	}
	if s.TripVolts <= s.BusVolts {
		problems.Say("$.stop.trip_volts", "must be above bus_volts")
	}
	if s.ChopperVolts != nil && (*s.ChopperVolts <= s.BusVolts || *s.ChopperVolts > s.TripVolts) {
		problems.Say("$.stop.chopper_volts", "must lie above bus_volts and not above trip_volts")
	}
	return problems
}

// Kinetic is the energy of the load at speed, in joules.
func (s Stop) Kinetic() float64 {
	omega := s.RPM * math.Pi / 30
	return s.InertiaKgm2 * omega * omega / 2
}

// room is the energy that lifts the bus from one voltage to another, in joules.
func (s Stop) room(from, to float64) float64 {
	return s.BusMicrofarad * 1e-6 * (to*to - from*from) / 2
}

// Room is the energy that lifts the bus to its trip, in joules.
func (s Stop) Room() float64 { return s.room(s.BusVolts, s.TripVolts) }

// losses are the watts lost at the first instant.
func (s Stop) losses() float64 {
	if s.FrictionNm != nil {
		return *s.FrictionNm * s.RPM * math.Pi / 30
	}
	return *s.LossWatts
}

// recovered is the energy that comes back to the bus over a linear ramp of t
// seconds. The power from the shaft is (2·E/t)·u, u falling from one to nothing;
// friction takes its share at every speed, constant watts only until they are more
// than what comes.
func (s Stop) recovered(t float64) float64 {
	energy, loss := s.Kinetic(), s.losses()
	if s.FrictionNm != nil {
		return math.Max(0, energy-loss*t/2)
	}
	rest := 1 - loss*t/(2*energy)
	if rest <= 0 {
		return 0
	}
	return energy * rest * rest
}

// Ramp computes a stop.
func (s Stop) Ramp() Stopping {
	var out Stopping
	energy, loss, room := s.Kinetic(), s.losses(), s.Room()
	switch {
	case energy <= room:
		out.ShortestSeconds = new(0.0)
	case loss > 0 && s.FrictionNm != nil:
		out.ShortestSeconds = new(2 * (energy - room) / loss)
	case loss > 0:
		out.ShortestSeconds = new(2 * (energy - math.Sqrt(energy*room)) / loss)
	}
	if s.StopSeconds == nil {
		return out
	}
	t := *s.StopSeconds
	back := s.recovered(t)
	peak := math.Sqrt(s.BusVolts*s.BusVolts + 2*back/(s.BusMicrofarad*1e-6))
	var watts, mean float64
	var most *float64
	if peak > s.TripVolts {
		watts = math.Max(0, 2*energy/t-loss)
		mean = math.Max(0, back-s.room(s.BusVolts, *s.ChopperVolts)) / t
		most = new(*s.ChopperVolts * *s.ChopperVolts / watts)
	}
	out.BusPeakVolts, out.ResistorPeakWatts, out.ResistorMeanWatts, out.ResistorMaxOhm = &peak, &watts, &mean, &most
	return out
}

// Brake is a resistor on the bus for a stop in Seconds: its most ohms, and the watts that
// it takes at first and in the mean of the stop.
type Brake struct {
	Seconds   float64 `json:"seconds"`
	MostOhm   float64 `json:"most_ohm"`
	PeakWatts float64 `json:"peak_watts"`
	MeanWatts float64 `json:"mean_watts"`
}

// brakeSeconds is the stop that a brake resistor is sized for: a usual one of machine
// tools (shop practice). chopperUnder is where the chopper holds the bus, of the volts at
// which it trips.
const (
	brakeSeconds = 2.0
	chopperUnder = 0.95
)

// resistor sizes a brake resistor for a usual stop; nil where the bus takes it.
func (s Stop) resistor() *Brake {
	s.StopSeconds, s.ChopperVolts = new(brakeSeconds), new(chopperUnder*s.TripVolts)
	r := s.Ramp()
	if *r.ResistorMaxOhm == nil {
		return nil
	}
	return &Brake{brakeSeconds, **r.ResistorMaxOhm, *r.ResistorPeakWatts, *r.ResistorMeanWatts}
}
