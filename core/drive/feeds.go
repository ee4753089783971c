package drive

import "brackmoor/core/rectifier"

// Fed is a drive as one way of feeding it has it, at a load: what its front end sees over a cycle, nil where the bus
// does not hold, and what it trips on, "" for nothing.
type Fed struct {
	Title  string            `json:"title"`
	Result *rectifier.Result `json:"result"`
	Trips  string            `json:"trips"` // a name of Faults
}

// TripLow is the bus in volts below which a usual drive for 200 to 240 V trips, and swing the ripple of it, of its
// mean, past which one that expects three lines takes one for lost (shop practice).
const (
	TripLow = 200.0
	Swing   = 0.12
)

// Feeds sets the same drive on three lines, on two, and on a dc bus that a rectifier with a choke makes of two, at a
// share of the motor's plate output. The drive is a usual one that is built for three lines, of the rating that its
// amps on two ask for. On a supply whose volts a drive would double there is none.
func (in Input) Feeds(share float64) (list []Fed) {
	if in.Doubles() {
		return []Fed{}
	}
	in.Kind, in.Reactor = Three, NoReactor
	rating, _ := in.Next(OverThree*in.Plate.Output.Value, OverThree*in.Plate.Amps.Value)
	watts := in.input(share * in.Plate.Output.Value)
	three := in.on(in.Front(rating), watts)
	three.Bridge.Phases = 3
	two := in.on(in.Front(rating), watts)
	bus := in
	bus.Kind = Bus
	front, _ := bus.Bus(rating)
	for _, f := range []struct {
		title string
		c     rectifier.Case
		asked bool // it looks for a line that is lost
	}{
		{"Three lines", three, true},
		{"Two lines", two, true},
		{"A dc bus, fed by two lines", in.on(front, watts), false},
	} {
		f.c.Series = true
		fed := Fed{Title: f.title}
		r, err := rectifier.Solve(f.c)
		switch {
		case err != nil:
			fed.Trips = "undervoltage"
		default:
			fed.Result = &r
			switch {
			case r.BusMeanVolts-r.RipplePPVolts/2 < TripLow:
				fed.Trips = "undervoltage"
			case f.asked && r.RipplePPVolts > Swing*r.BusMeanVolts:
				fed.Trips = "phase-lost"
			}
		}
		list = append(list, fed)
	}
	return list
}

// OverThree is how many times the motor a drive built for three lines is taken for two (shop practice).
const OverThree = 2.0
