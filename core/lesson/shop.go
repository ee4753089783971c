package lesson

import (
	"fmt"
	"math"

	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/winding"
)

// The lessons on what is done by hand: starting, reversing, joining, tuning, finding leads and reading plates.

func ponyEarly(m *machine.Machine, l *Lesson) bool {
	volts, at := m.Plate.Volts.Value, 0.4 // slip
	r, ok := lines(m, volts, &at, 0)
	standing := 1.0
	start, okStart := lines(m, volts, &standing, 0)
	if !ok || !okStart {
		return false
	}
	right := r.Motors[0].LineAmps.Max() / m.Plate.Amps.Value
	l.Says = []string{
		"A pony brings an idler up so that its lines can be joined without the amps of a start. Those amps fall " +
			"little until the last stretch of its speed: they are nearly all there at half speed.",
		"Joined early the pony was for nothing, and belt and pony take the jerk. A tachometer or the ear tells.",
	}
	l.Do = "On Wire, with an idler and a pony, play a start and join the lines too soon."
	l.Question = fmt.Sprintf("Standing it draws %s plate amps. And when it is joined at 60 %% of its speed?",
		times(start.Motors[0].LineAmps.Max()/m.Plate.Amps.Value))
	l.Because = fmt.Sprintf("The circuit comes to %s: slip is still 40 %%, and leakage still rules.", times(right))
	return l.asks(right, times, 1, 0.4*right, 1.7*right)
}

func reversing(_ *machine.Machine, l *Lesson) bool {
	right := rotorHeat(2) / rotorHeat(1)
	l.Says = []string{
		"What a rotor takes as heat while it comes up goes with its slip: from standstill, as much as then turns in " +
			"the shaft. Switched to the other way at full speed its slip is two.",
		"Amps are a little above those of a start, torque jerks the machine, and a screwed-on chuck comes off. It is " +
			"reversed from standstill.",
	}
	l.Do = "On Wire, see that neither direction can be switched while the other still runs out."
	l.Question = "Reversed at full speed, how many times the heat of one start goes into its rotor?"
	l.Because = fmt.Sprintf("Slip by slip it comes to %s: three times to stop it, once more to bring it up.",
		times(right))
	return l.asks(right, times, 1, 2, 8)
}

// rotorHeat is what goes into the rotor while it comes up from a slip, over the energy that then turns: slip times the
// gap's energy, of which the torque falls out, since more of it takes less time.
func rotorHeat(from float64) float64 {
	const steps = 2000
	sum, h := 0.0, from/steps
	for k := range steps {
		slip := from - (float64(k)+0.5)*h
		sum += 2 * slip * h
	}
	return sum
}

func machineFirst(m *machine.Machine, l *Lesson) bool {
	standing := 1.0
	r, okOne := alone(m, &standing)
	three, okThree := lines(m, m.Plate.Volts.Value, &standing, 0)
	if !okOne || !okThree {
		return false
	}
	right := math.Abs(r.Motors[0].TorqueNm / three.Motors[0].TorqueNm)
	l.Says = []string{
		"The day begins with the converter and ends with it: idler up and even, then machines, one after the other; " +
			"at night machines off, then the converter, then the main, and cans are left to their bleeds.",
		"A machine that is switched on before the idler turns has two lines and no field that turns.",
	}
	l.Do = "On Wire, look for what keeps the load off until the converter is up."
	l.Question = "On two lines alone, at standstill, how much of its starting torque has it?"
	l.Because = fmt.Sprintf("The circuit comes to %s, at %s plate amps: two fields turn against one another, and it "+
		"hums.", percent(right), times(r.Motors[0].LineAmps.Max()/m.Plate.Amps.Value))
	return l.asks(right, percent, 1.0/3, 0.58, 1)
}

func nineLeads(_ *machine.Machine, l *Lesson) bool {
	const leads = 9
	right := float64(winding.Bound(leads))
	pairs := float64(leads * (leads - 1) / 2)
	count := func(v float64) string { return fmt.Sprintf("%.0f readings", v) }
	l.Says = []string{
		"Nine leads of a dual-voltage motor hide three pairs and one group of three, or three groups of three. An " +
			"ohmmeter tells which belong together; ends are told by a battery and a needle.",
		"Whoever asks the right pair next needs far fewer readings than there are pairs.",
	}
	l.Do = "On the Leads step of a machine with nine leads, follow what it asks to measure next."
	l.Question = fmt.Sprintf("Nine leads make %.0f pairs. How many readings settle which belong together, at the most?",
		pairs)
	l.Because = fmt.Sprintf("Each is chosen so that its worse answer leaves the fewest ways: %.0f at the most.", right)
	return l.asks(right, count, pairs, leads, 2*pairs)
}

func twoChanges(m *machine.Machine, l *Lesson) bool {
	const share = 0.5
	off := func(microfarad float64) (float64, bool) {
		r, ok := lonely(m, microfarad, share)
		return (r.Volts.BC+r.Volts.CA)/2 - r.Volts.AB, ok
	}
	best, ok := even(m, share)
	low, high := 0.7*best, 1.1*best
	a, okA := off(low)
	b, okB := off(high)
	if !ok || !okA || !okB || a*b > 0 {
		return false
	}
	line := low - a*(high-low)/(b-a)
	for range 60 { // where they really meet, by halving
		middle := (low + high) / 2
		if v, _ := off(middle); v < 0 {
			low = middle
		} else {
			high = middle
		}
	}
	right := low
	microfarads := func(v float64) string { return quantity.Figures(v, 2) + " µF" }
	volts := func(v float64) string { return fmt.Sprintf("%+.0f V", v) }
	l.Says = []string{
		"Made volts rise with the capacitor nearly along a straight line, over a range that matters. Two readings " +
			"with two known cans give the line, and the line says where to go.",
		"The third change is then a small one, and the last. Who adds a can at a time never knows whether it is done.",
	}
	l.Do = "On Prove, write two readings with different capacitors in, and see what it wants next."
	l.Question = fmt.Sprintf("At half load the made pairs stand %s off the lines with %s, and %s with %s. With how "+
		"many are they level?", volts(a), microfarads(0.7*best), volts(b), microfarads(1.1*best))
	l.Because = fmt.Sprintf("The straight line says %s, the model %s.", microfarads(line), microfarads(right))
	return l.asks(right, microfarads, 0.5*right, 1.35*right, 1.8*right)
}

func wrongPlate(m *machine.Machine, l *Lesson) bool {
	right := 2 * m.Plate.PowerFactor.Value * m.Plate.Efficiency.Value
	l.Says = []string{
		"Plates are stamped, worn, and read in bad light; the amps of the higher volts are taken for those of the " +
			"lower, a point is lost, kilowatts are taken for horses.",
		"Output over √3 · volts · amps is efficiency times power factor. It lies between a half and nine tenths, or " +
			"something is wrong.",
	}
	l.Do = "Halve the amps on its plate, and see what the plate says of itself."
	l.Question = "Were its amps half of what they are, what would efficiency times power factor come to?"
	l.Because = fmt.Sprintf("It comes to %s. Nothing gives more than it takes: somebody took the amps of the higher "+
		"volts.", percent(right))
	return right > 1 && l.asks(right, percent, right/4, right/2, 0.9)
}
