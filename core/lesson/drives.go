package lesson

import (
	"fmt"
	"math"

	"brackmoor/core/drive"
	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
)

// The lessons on drives: what stands before one, what it makes of its bus, and what it asks of its motor.

func volts(v float64) string { return quantity.Figures(v, 2) + " V" }

// usualVolts are those of the supply that a drive of these lessons stands on, by the motor's frequency.
func usualVolts(m *machine.Machine) float64 {
	if m.Plate.Hertz.Value > 55 {
		return 240
	}
	return 230
}

// fronts is a usual drive's front end for a motor at its plate output, on two lines and on three.
func fronts(m *machine.Machine) (two, three rectifier.Result, ok bool) {
	on, hertz := usualVolts(m), m.Plate.Hertz.Value
	c := rectifier.Case{
		Supply:    rectifier.Supply{Volts: on, Hertz: hertz, LineResistanceOhm: 0.08, LineReactanceOhm: 0.05},
		Bridge:    drive.Front(drive.Three, 2*m.Watts(), on, hertz),
		LoadWatts: m.Watts() / m.Plate.Efficiency.Value / (1 - drive.Losses),
	}
	var errs [2]error
	three, errs[0] = rectifier.Solve(c)
	c.Bridge.Phases = 1
	two, errs[1] = rectifier.Solve(c)
	return two, three, errs[0] == nil && errs[1] == nil
}

func twoLines(m *machine.Machine, l *Lesson) bool {
	two, three, ok := fronts(m)
	if !ok {
		return false
	}
	right := two.InputRMSAmps / three.InputRMSAmps
	l.Says = []string{
		"A rectifier draws no sine. It takes short pulses while a line stands above its bus: six of them a cycle " +
			"on three lines, two on two.",
		"Less time for the same watts means higher pulses, and what heats diodes, terminals and fuses goes with " +
			"their square.",
	}
	l.Do = "On Route, compare the supply amps of the drives with those of the motor’s plate."
	l.Question = fmt.Sprintf("The same drive at the motor’s plate output, on two lines of %.0f V in place of three: "+
		"how many times the amps in a line?", usualVolts(m))
	l.Because = fmt.Sprintf("The bridge comes to %s: %s on two lines, %s on three. √3 is what even sines would make "+
		"of it.", times(right), amps(two.InputRMSAmps), amps(three.InputRMSAmps))
	return l.asks(right, times, 1, 0.67*right, 1.8*right)
}

func busRipple(m *machine.Machine, l *Lesson) bool {
	two, three, ok := fronts(m)
	if !ok {
		return false
	}
	right := two.RipplePPVolts
	l.Says = []string{
		"Between pulses the motor lives on the bus’s capacitors. On three lines the gaps are a sixth of a cycle and " +
			"shallow; on two they are half a cycle.",
		"A drive that was built for three takes so deep a swing for a lost line. Where its maker permits one phase, " +
			"that check is off and its output is taken down.",
	}
	l.Do = "On Size, with a drive taken, look at the bus beside its ripple as the load rises."
	l.Question = fmt.Sprintf("On three lines its bus swings by %s. By how much on two?", volts(three.RipplePPVolts))
	l.Because = fmt.Sprintf("The bridge comes to %s, of a bus of %s.", volts(right),
		quantity.Figures(two.BusMeanVolts, 3)+" V")
	return l.asks(right, volts, three.RipplePPVolts, 0.4*right, 2.5*right)
}

func carrier(m *machine.Machine, l *Lesson) bool {
	own := m.NetworkMotor("motor")
	pulsed := func(hertz float64) (float64, bool) {
		p, err := drive.Pulses{
			BusVolts: math.Sqrt2 * usualVolts(m), Volts: 0.8 * usualVolts(m), Hertz: 0.8 * m.Plate.Hertz.Value,
			CarrierHertz: hertz, Slip: 0.03,
		}.Output(own)
		return p.RippleRMS, err == nil
	}
	low, okA := pulsed(4000)
	high, okB := pulsed(12000)
	if !okA || !okB {
		return false
	}
	right := high / low
	l.Says = []string{
		"The motor gets no sine but pulses, as many a second as the carrier has. Its leakage smooths them; what is " +
			"left is a ripple in its amps, which sings and heats a little.",
		"A high carrier is quiet. Each pulse costs the drive’s transistors a little heat of its own, so that it " +
			"gives fewer amps.",
	}
	l.Do = "On the Bench, run a drive loaded at 16 kHz and watch its heat sink."
	l.Question = "From 4 kHz to 12, how much of the ripple in the motor’s amps is left?"
	l.Because = fmt.Sprintf("Pulse by pulse it comes to %s: a third of the time for each, a third of the swing.",
		percent(right))
	return l.asks(right, percent, 1, 1.0/9, 3)
}

func rampTrips(m *machine.Machine, l *Lesson) bool {
	on := usualVolts(m)
	front := drive.Front(drive.OnePhase, m.Watts(), on, m.Plate.Hertz.Value)
	kgm2, bus := m.Shaft().Kgm2(), math.Sqrt2*on
	stop := drive.Stop{
		InertiaKgm2: kgm2, RPM: m.Plate.RPM.Value, BusMicrofarad: front.BusMicrofarad, BusVolts: bus,
		TripVolts: drive.TripVolts, LossWatts: new(1.0),
	}
	right := stop.Kinetic() / stop.Room()
	if right < 2 {
		return false
	}
	l.Says = []string{
		"A shaft that is ramped down faster than it would coast drives its motor, and the energy goes into the bus: " +
			"there is no way back through a rectifier.",
		"The bus rises until the drive trips, and then the shaft coasts, just when it was to stop. A longer ramp " +
			"leaves the energy to losses, a resistor burns it.",
	}
	l.Do = "On the Bench, set the ramp down to its least, run, stop, and watch the bus."
	l.Question = fmt.Sprintf("Its shaft of %s kg·m² at full speed holds how many times what the bus takes up before "+
		"it trips?", quantity.Figures(kgm2, 2))
	l.Because = fmt.Sprintf("%s J turn; from %.0f V to %.0f V the bus takes %s J: %s.",
		quantity.Figures(stop.Kinetic(), 2), bus, drive.TripVolts, quantity.Figures(stop.Room(), 2), times(right))
	return l.asks(right, times, 1, right/4, 0.3)
}

func slowRunning(m *machine.Machine, l *Lesson) bool {
	own := drive.Motor{Motor: m.NetworkMotor("motor"), RatedAmps: m.Plate.Amps.Value, OwnFan: true}
	curve := drive.VHz{
		MotorVolts:   m.Plate.Volts.Value,
		MotorHertz:   m.Plate.Hertz.Value,
		MostVolts:    m.Plate.Volts.Value,
		BoostPercent: 3,
	}
	const share = 0.2
	at, err := own.Across(curve, []float64{share * m.Plate.Hertz.Value, m.Plate.Hertz.Value})
	if err != nil || at[1].TorqueNm <= 0 {
		return false
	}
	right := at[0].TorqueNm / at[1].TorqueNm
	l.Says = []string{
		"A fan on the shaft cools with the shaft’s speed; copper heats with amps, whatever the speed. Down to about " +
			"half speed a usual enclosed motor bears it.",
		"Slower than that for hours it wants less torque, a fan of its own, or belts and gears: at the machine’s " +
			"slow gear the motor runs fast and cool.",
	}
	l.Do = "On Settings, type the steps of its spindle and see what each gives at low frequency."
	l.Question = "At a fifth of its frequency, how much of its torque may it give for good?"
	l.Because = fmt.Sprintf("Its fan carries away %s of its losses there: it comes to %s.", percent(at[0].CoolingShare),
		percent(right))
	return l.asks(right, percent, 1, share, 0.4*right)
}
