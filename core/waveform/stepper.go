package waveform

import (
	"math"

	"brackmoor/core/network"
)

const (
	// cycleSteps is how many steps a cycle is given at least.
	cycleSteps = 24
	// first is how much of a cycle the first step after a switching takes, and instant how
	// much is no time at all.
	first = 1.0 / 2000
	// stopEvery is after how many steps it is looked whether anybody still waits.
	stopEvery = 256
	instant   = 1e-6
)

// Stepper is a network under way: it can be advanced, switched and read while it runs. It
// stands at time zero until it is advanced; the same calls give the same figures to the
// bit. It is not safe for use by more than one goroutine.
type Stepper struct {
	*stepper
	period, tiny float64 // seconds
	h            float64 // the step to be tried next
	most         int     // steps that may be taken in all
	begun        bool
	watch        watcher
}

// watcher sees every step that is taken.
type watcher func(s *stepper)

// Begin makes a stepper of a case that has passed Validate. Its duration, samples and
// events are for Solve.
func Begin(c Case) *Stepper {
	c = c.Plain()
	tol := c.Tolerance
	if tol == 0 {
		tol = tolerance
	}
	period := 1 / c.Supply.Hertz
	return &Stepper{
		stepper: newStepper(newCircuit(c), tol), period: period, tiny: period * instant, h: period * first,
	}
}

// Seconds is where it stands.
func (w *Stepper) Seconds() float64 { return w.time }

// Switch opens or closes an element by its id, SupplyID for the supply, and says whether
// there is such an element. What opens does so at its next current zeros.
func (w *Stepper) Switch(id, to string) bool {
	known := w.apply(id, to)
	if known && w.begun {
		w.jump()
		w.h = w.period * first
	}
	return known
}

// Advance steps on to a time in seconds; a time that is past leaves it where it stands.
// ErrBudget says that this one advance takes more steps than are spent on one.
func (w *Stepper) Advance(to float64) error {
	w.begin()
	w.most = w.steps + w.budget()
	for w.time < to-w.tiny {
		if err := w.step(to, w.period/cycleSteps); err != nil {
			return err
		}
	}
	return nil
}

// budget is how many steps are spent at a time.
func (w *Stepper) budget() int { return mostWork / (1 + len(w.machines)) }

// begin lets in what a source forces at once.
func (w *Stepper) begin() {
	if !w.begun {
		w.begun = true
		w.jump()
	}
}

// jump swallows what jumps when something is switched.
func (w *Stepper) jump() {
	w.settle(w.tiny)
	w.remember()
}

// step takes one step, at most to a time and at most so many seconds.
func (w *Stepper) step(to, limit float64) error {
	s := w.stepper
	if s.steps%stopEvery == 0 {
		if err := s.c.Stop.Err(); err != nil {
			return err
		}
	}
	for {
		if s.steps++; s.steps > w.most {
			return ErrBudget
		}
		step := min(w.h, limit, to-s.time)
		failed := s.try(step)
		if failed > 1 && step > w.tiny {
			w.h = step * max(0.2, 0.85*math.Pow(failed, -1.0/embeddedOrder))
			continue
		}
		if share := s.crossing(); share < 0.999 && step > w.tiny {
			step *= max(share, 1e-3)
			s.try(step)
		}
		s.accept(step)
		if w.watch != nil {
			w.watch(s)
		}
		if s.release(s.y, s.time) {
			s.settle(w.tiny)
			w.h = w.period * first
		} else {
			w.h = step * min(3, 0.85*math.Pow(max(failed, 1e-3), -1.0/embeddedOrder))
		}
		s.remember()
		return nil
	}
}

// Reading is what a meter and an eye would see at an instant.
type Reading struct {
	Seconds    float64
	Volts      network.Lines // a–b, b–c and c–a
	Supply     float64       // amps of the source's line a
	Motors     []MotorReading
	Capacitors []CapacitorReading
}

// MotorReading is a motor at an instant, Closed its three contacts.
type MotorReading struct {
	ID       string
	RPM      float64
	TorqueNm float64
	Amps     network.Legs
	Closed   [3]bool
}

// CapacitorReading is a capacitor at an instant.
type CapacitorReading struct {
	ID     string
	Volts  float64
	Closed bool
}

// Read reads all of it without moving anything.
func (w *Stepper) Read() Reading {
	w.begin()
	pairs := w.pairs()
	r := Reading{
		Seconds: w.time, Volts: network.Lines{AB: pairs[0], BC: pairs[1], CA: pairs[2]},
		Supply: w.source[0], Motors: []MotorReading{}, Capacitors: []CapacitorReading{},
	}
	for i, m := range w.machines {
		r.Motors = append(r.Motors, MotorReading{
			ID: m.ID, RPM: w.rpm(i), TorqueNm: m.torque, Amps: m.byLine(), Closed: m.closed,
		})
	}
	for i, p := range w.c.Capacitors {
		r.Capacitors = append(r.Capacitors, CapacitorReading{
			ID: p.ID, Volts: w.charge(i), Closed: w.plains[i].closed,
		})
	}
	return r
}

// Openings are the contacts that have opened, in their order.
func (w *Stepper) Openings() []Opening { return append([]Opening{}, w.openings...) }

// pairs are the volts between the lines.
func (s *stepper) pairs() [3]float64 {
	u := s.volts
	return [3]float64{u[0] - u[1], u[1] - u[2], u[2] - u[0]}
}

// rpm is the speed of a motor, charge the volts of a capacitor.
func (s *stepper) rpm(motor int) float64 { return s.y[motorStates*motor+speed] * 30 / math.Pi }

func (s *stepper) charge(capacitor int) float64 { return s.y[motorStates*len(s.machines)+capacitor] }
