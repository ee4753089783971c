package drive

import (
	"fmt"
	"math"

	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
)

// Fed is a drive as one way of feeding it has it, at a load: what its front end sees over a cycle, nil where the bus
// does not hold, and what it trips on, "" for nothing, with what is to be said of that.
type Fed struct {
	Title  string            `json:"title"`
	Result *rectifier.Result `json:"result"`
	Trips  string            `json:"trips"` // a name of Faults
	Says   string            `json:"says" told:"figures"`
}

// TripLow is the bus in volts below which a usual drive trips that gives its motor so many volts.
func TripLow(volts float64) float64 {
	return rule.Limit("drive.bus-ripple", "trip_percent") / 100 * math.Sqrt2 * volts
}

// Swing is the ripple of a bus, peak to peak over its mean, past which a drive that expects three lines takes one for
// lost.
func Swing() float64 { return rule.Limit("drive.bus-ripple", "lost_line_percent") / 100 }

// on says what a drive trips on.
func (f *Fed) on(fault, says string) { f.Trips, f.Says = fault, says }

// Feeds sets the same drive on three lines, on two, and on a dc bus that a rectifier with a choke makes of two, at a
// share of the motor's plate output. The drive is a usual one that is built for three lines, of the rating that its
// amps on two ask for. On a supply whose volts a drive would double there is none.
func (in Input) Feeds(share float64) (list []Fed, err error) {
	if in.Doubles() {
		return []Fed{}, nil
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
		case rectifier.Unsteady(err):
			fed.on("undervoltage", "Its bus finds no steady state: it trips.")
		case err != nil:
			return nil, err
		default:
			fed.Result = &r
			switch least := r.BusMeanVolts - r.RipplePPVolts/2; {
			case least < TripLow(in.most()):
				fed.on("undervoltage", fmt.Sprintf("Its bus falls to %.0f V between pulses: it trips.", least))
			case f.asked && r.RipplePPVolts > Swing()*r.BusMeanVolts:
				fed.on("phase-lost", fmt.Sprintf("Its bus swings by %.0f percent: it takes a line for lost and trips, "+
					"where that check is on.", 100*r.RipplePPVolts/r.BusMeanVolts))
			}
		}
		list = append(list, fed)
	}
	return list, nil
}

// OverThree is how many times the motor a drive built for three lines is taken for two (shop practice).
const OverThree = 2.0
