// Package driven is what ways with a drive have in common: a drive built for one phase, a
// larger one built for three, or drives on a dc bus. They share one sizing of a drive.
package driven

import (
	"fmt"
	"math"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// Way is one way of the family.
type Way struct {
	About feed.Info
	// Of is the kind of drive.
	Of drive.Kind
	// Permit says that the drive's maker must permit one phase, and Said that its word is
	// told beside the other ways too.
	Permit, Said bool
	// NotDoubled says that there is none on a supply whose volts a drive doubles.
	NotDoubled bool
	// Outlined completes an outline by the sizing that all drives share.
	Outlined func(q *feed.Question, a *drive.Answer, outline Outliner) *feed.Outline
	// Against is what speaks against it whatever is wished.
	Against   func(o *feed.Outline) []feed.Against
	BaseHours float64
}

// Outliner makes the outline of a drive of a rating in watts, and gives what is added to a
// bus in microfarads.
type Outliner func(rating float64) (o *feed.Outline, front rectifier.Front, added float64)

// usualRamp is the seconds that a drive takes over a start.
const (
	usualRamp = 5.0
	idleShare = 0.03 // of plate output, that the drive itself takes idling
)

// Info is what is known of it without a machine.
func (w *Way) Info() feed.Info { return w.About }

// Kind of its drive.
func (w *Way) Kind() drive.Kind { return w.Of }

// input is the machine as this way's drive is sized for it.
func (w *Way) input(q *feed.Question) drive.Input {
	in := drive.Input{Machine: q.Machine, Kind: w.Of}
	// What was said of the drive at hand is said of the drive that is taken.
	if taken := q.Choice.Taken().Info(); taken.Family != w.About.Family || taken.Name == w.About.Name {
		in.BusMicrofarad, in.Reactor = q.Choice.BusMicrofarad, q.Choice.Reactor
	}
	return in
}

// onHand is the drive of the shop's stores that is taken for one of a rating in watts; nil for none. It is computed
// as the rating that was asked for: one that is larger does no less.
func (w *Way) onHand(q *feed.Question, watts float64) *stock.Item {
	if w.Of == drive.Bus || len(several(q).Motors) > 1 {
		return nil
	}
	return stock.Drive(q.Stores, watts, q.Plate.Amps.Value, q.Plate.Volts.Value, w.Of == drive.OnePhase, q.MachineID)
}

type sized struct {
	answer drive.Answer
	err    error
}

// Outline is what it comes to beside the other ways.
func (w *Way) Outline(q *feed.Question) *feed.Outline {
	want := drive.Input{Machine: q.Machine}
	if w.NotDoubled && want.Doubles() {
		return nil
	}
	key := "drives"
	if own := w.input(q); own.Doubles() && !want.Doubles() {
		key, want = key+" "+w.About.Name, own
	}
	s := feed.Shared(q, key, func() *sized {
		a, err := drive.Size(want)
		return &sized{a, err}
	})
	if s.err != nil {
		o := &feed.Outline{
			TorqueBy: torqueBy, AmpsBy: ampsBy,
			Verdicts: append([]rule.Verdict{
				drive.Unsteady(
					fmt.Sprintf(
						"On this feed no steady state of the front end is found: %s.",
						s.err,
					),
				),
			}, drive.Standing()...),
		}
		o.Refused = feed.Refusal(o, "drive.")
		return o
	}
	a := &s.answer
	o := w.Outlined(q, a, func(rating float64) (*feed.Outline, rectifier.Front, float64) {
		return outline(q, w.input(q), rating, a)
	})
	o.Refused = feed.Refusal(o, "drive.")
	return o
}

const (
	torqueBy = "usual current limit of drives, 150 % of rated torque"
	ampsBy   = "model of a drive's front end, at its periodic state"
)

func outline(
	q *feed.Question, want drive.Input, rating float64, a *drive.Answer,
) (o *feed.Outline, front rectifier.Front, added float64) {
	plate := q.Plate
	o = &feed.Outline{
		Verdicts: append(a.Weak(), drive.Standing()...),
		Unsolved: []string{
			"controls, coils and lamps of the machine want their own feed",
			"its switches must move to low-voltage inputs",
		},
		TorqueBy: torqueBy, AmpsBy: ampsBy, Ramp: true,
	}
	margin, weak := want.Start()
	// Above its base point the volts stay behind, and torque falls with their square.
	if flux := a.BaseHertz / plate.Hertz.Value; flux < 1 {
		o.Keep("base_hertz", "base point", a.BaseHertz, "Hz")
	}
	o.Starts, o.Margin, o.Seconds = len(weak) == 0, &margin, new(usualRamp)
	o.Verdicts = append(o.Verdicts, weak...)
	usable := 0.0
	for _, s := range a.Speed {
		if math.Abs(s.Hertz-plate.Hertz.Value) < 1e-6 {
			usable = math.Min(s.ShaftWatts, q.Watts())
		}
	}
	if usable > 0 {
		o.UsableWatts = &[2]float64{0, usable}
	}
	on := func(share float64) (m network.MotorResult, ok bool) {
		one := q.NetworkMotor("m")
		one.Load = &network.Load{Kind: "power", Watts: share * q.Watts()}
		result, err := network.Solve(network.Case{
			Supply: network.Supply{
				Phases: 3,
				Volts:  math.Min(plate.Volts.Value, plate.Volts.Value*a.BaseHertz/plate.Hertz.Value),
				Hertz:  plate.Hertz.Value,
			},
			Motors: []network.Motor{one},
		})
		if err != nil || result.Motors[0].State != network.Running {
			return m, false
		}
		return result.Motors[0], true
	}
	hottest := func(share float64) *float64 {
		m, ok := on(share)
		if !ok {
			return nil
		}
		return new(100 * m.LineAmps.A / plate.Amps.Value)
	}
	o.Duty = q.Usable(func(share float64) (h motor.Heating, ok bool) {
		m, ok := on(share)
		if !ok {
			return h, false
		}
		return q.Heating(m.WindingAmps, m.InputWatts-m.ShaftWatts, true), true
	})
	share := q.Share()
	o.Hottest = feed.Three{Idle: hottest(0), Load: hottest(share), Full: hottest(1)}
	o.Unbalance = feed.Three{Idle: new(0.0), Load: new(0.0), Full: new(0.0)}
	front, added, unsteady := want.Fed(rating)
	line := func(watts float64) *float64 {
		r, err := want.Takes(front, watts)
		if err != nil {
			unsteady = err
			return nil
		}
		switch watts {
		case q.Watts():
			o.Verdicts = append(o.Verdicts, want.Dips(r)...)
		case share * q.Watts():
			o.Verdicts = append(o.Verdicts, drive.Alternating(r)...)
		}
		return &r.InputRMSAmps
	}
	idle := q.Fit.FrictionWatts + idleShare*q.Watts()
	o.SupplyAmps = feed.Amps{
		Three:    feed.Three{Idle: line(idle), Load: line(share * q.Watts()), Full: line(q.Watts())},
		Starting: line(drive.StartTimes * q.Watts()),
	}
	if unsteady != nil {
		// What is sized by part of it would be sized too small.
		o.SupplyAmps, o.Starts = feed.Amps{}, false
		o.Verdicts = append(o.Verdicts, drive.Unsteady(
			"At full output or at a start its front end finds no steady state: no breaker or conductor is sized."))
	}
	o.LossWatts = new(share * q.Watts() * (1/plate.Efficiency.Value/(1-drive.Losses) - 1))
	o.Keep("drive_watts", "drive", rating, "W")
	o.Keep("drive_output_amps", "drive's output", plate.Amps.Value, "A")
	o.Keep("overload_amps", "overload", plate.Amps.Value, "A")
	if o.SupplyAmps.Full != nil {
		o.Keep("input_amps", "takes at full output", *o.SupplyAmps.Full, "A")
	}
	o.Verdicts = rule.Sorted(o.Verdicts)
	return o, front, added
}

// Weigh has its rewiring against it, and, where its maker's word is asked for, that.
func (w *Way) Weigh(q *feed.Question, o *feed.Outline) (list []feed.Against) {
	if q.Matters.KeepSwitchgear {
		list = append(list, feed.Against{Weight: "rewiring", Says: "its switches and interlocks must be rewired"})
	}
	permits := q.Matters.OnePhaseAllowed()
	if w.Said {
		o.Verdicts = rule.Sorted(append(append([]rule.Verdict{}, o.Verdicts...), MakersWord(permits)...))
	}
	if w.Permit && permits == nil {
		list = append(list, feed.Against{Weight: "permit", Says: "its maker must permit one phase"})
	}
	if w.Against != nil {
		list = append(list, w.Against(o)...)
	}
	return list
}

// MakersWord says what the maker of a three-phase drive has to do with one phase: nil for
// not known. Its word stands above any derating.
func MakersWord(permits *bool) []rule.Verdict {
	switch {
	case permits == nil:
		return []rule.Verdict{rule.Speak("drive.one-phase-unknown", nil,
			"Read its manual for one-phase input, and for its input phase-loss check.",
			"Whether the drive's maker permits one phase is not known.")}
	case !*permits:
		return []rule.Verdict{
			rule.Speak("drive.one-phase-forbidden", nil, "Take a drive whose maker permits one phase.",
				"The maker of the drive at hand does not permit one phase: no derating makes up for that."),
		}
	}
	return nil
}

// Hours of wiring: every reversing switch and interlock becomes a low-voltage input.
func (w *Way) Hours(c feed.Controls) float64 {
	hours := w.BaseHours
	if (drive.Existing{Switch: c.Switch, Reversing: c.Reversing}).TurnsRound() {
		hours += 1.5
	}
	if c.Brake {
		hours++
	}
	return hours + (1.0*float64(c.Interlocks) + 1.5*float64(c.Motors-1))
}

// Cautions are those of drives.
func (w *Way) Cautions() []string {
	list := []string{"drive.bus-charged", "drive.no-contactor", "drive.residual-current", "drive.leakage",
		"always.overload-by-drive", "drive.old-insulation", "drive.harmonics"}
	if w.Of == drive.Bus {
		list = append(list, "bus.fault-energy")
	}
	return list
}

// Reversal is by the drive.
func (w *Way) Reversal() string {
	return "by the drive's direction input, or exchange two leads at the motor; " +
		"never by a switch between drive and motor"
}

// Cost is what a drive of a rating in watts costs, so many times a three-phase one.
func Cost(q *feed.Question, watts, times float64) float64 {
	return (q.Prices.DriveBase + q.Prices.DrivePerKilowatt*watts/1000) * times
}

// power prints the output of a drive where there is little room.
func power(watts float64) string { return fmt.Sprintf("%s kW", figures(watts/1000)) }
