package lesson

import (
	"fmt"
	"math"

	"brackmoor/core/machine"
	"brackmoor/core/quantity"
)

// The lessons, one by one. Each says what is told, has the reader do one thing, and asks for a figure.

func ampsOfPlate(m *machine.Machine, l *Lesson) bool {
	watts, volts := m.Watts(), m.Plate.Volts.Value
	right := m.Plate.Amps.Value
	l.Says = []string{
		"A plate’s watts are what the shaft gives. What it takes is more, by its efficiency; and the amps are more " +
			"again, by its power factor: part of them only magnetises iron and gives nothing.",
		"The sum that leaves both out is quick, and a third too small.",
	}
	l.Do = "Empty the amps on the plate: what is then assumed has both in it."
	l.Question = fmt.Sprintf("%s on three lines of %.0f V: how many amps has its plate?",
		m.Plate.Plate.Power(watts, m.Plate.Hertz.Value), volts)
	simple := watts / (math.Sqrt(3) * volts)
	l.Because = fmt.Sprintf("%s W / (√3 · %.0f V · %.2f · %.2f) is %s; without power factor and efficiency it would "+
		"be %s.",
		quantity.Figures(watts, 4), volts, m.Plate.PowerFactor.Value, m.Plate.Efficiency.Value, amps(right),
		amps(simple))
	return l.asks(right, amps, simple, watts/volts, simple/m.Plate.PowerFactor.Value, 1.7*right)
}

// torqueOf is a circuit's torque at standstill over that of the motor as it is joined, on the same lines.
func torqueOf(m *machine.Machine, scaled float64) (ratio float64, ok bool) {
	standing, volts := 1.0, m.Plate.Volts.Value
	as, okA := lines(m, volts, &standing, 0)
	other := *m
	other.Fit.Circuit = m.Fit.Circuit.Scaled(scaled)
	is, okB := lines(&other, volts, &standing, 0)
	return is.Motors[0].TorqueNm / as.Motors[0].TorqueNm, okA && okB
}

func starForDelta(m *machine.Machine, l *Lesson) bool {
	right, ok := torqueOf(m, 3)
	if !ok || !m.Plate.Delta {
		return false
	}
	l.Says = []string{
		"In star a winding has the line’s volts over √3, and torque goes with volts squared.",
		"It starts light things softly so; left in star it is a weak motor that slips and heats.",
	}
	l.Do = "Put its links in star on the Leads step and see the torque at standstill fall."
	l.Question = "Joined in star where delta is meant, how much of its starting torque is left?"
	l.Because = fmt.Sprintf("The model comes to %s: 1 / √3 squared is a third, and a little less leakage saturates "+
		"at fewer amps.", percent(right))
	return l.asks(right, percent, 1/math.Sqrt(3), 0.5, 0.85)
}

func highVolts(m *machine.Machine, l *Lesson) bool {
	right, ok := torqueOf(m, 4)
	if !ok {
		return false
	}
	l.Says = []string{
		"A motor for two volts has its coils in halves: in parallel for the low, in series for the high. In series " +
			"on the low volts each half has half of what it wants.",
		"It hums, starts nothing heavy, and draws so little that no overload notices.",
	}
	l.Do = "Choose the higher volts at “joined for” on the plate: the verdicts say what becomes of it."
	l.Question = "Joined for twice the volts that it stands on, how much of its starting torque is left?"
	l.Because = fmt.Sprintf("The model comes to %s: half the volts squared is a quarter, and a little less as "+
		"leakage saturates at fewer amps.", percent(right))
	return l.asks(right, percent, 0.5, 1/math.Sqrt(3), 0.75)
}

func noMagnet(m *machine.Machine, l *Lesson) bool {
	r, ok := alone(m, nil)
	if !ok {
		return false
	}
	right := min(r.Volts.BC, r.Volts.CA) / r.Volts.AB
	l.Says = []string{
		"There is no magnet in a squirrel cage. What turns is copper or aluminium in which the lines’ own field " +
			"drives amps; their field turns with the shaft and induces volts in the third winding.",
		"So an idler makes a leg only while it is fed and turns, and a motor that stands makes none.",
	}
	l.Do = "Take the run capacitor to nothing on the Size step while it idles: the made leg stays up."
	l.Question = "Running idle on two lines alone, without any capacitor: how high is its lower made pair, of the " +
		"lines’ volts?"
	l.Because = fmt.Sprintf("The model comes to %s, by turning alone; at standstill it is half.", percent(right))
	return l.asks(right, percent, 0.5, 0, 1.25)
}

func shifts(m *machine.Machine, l *Lesson) bool {
	const share = 0.5
	c, ok := even(m, share)
	r, runs := lonely(m, c, share)
	if !ok || !runs {
		return false
	}
	right := r.Supply.Watts / r.Motors[0].InputWatts
	l.Says = []string{
		"A capacitor gives back in one quarter of a cycle what it took in another. It moves amps in time, so that " +
			"the third winding has some at the right moment; it adds no power.",
		"The shaft’s watts come through the two lines, all of them.",
	}
	l.Do = "Move the run capacitor on the Size step and watch watts from the supply: they follow the losses alone."
	l.Question = "At half load with its best capacitor, what does the supply give, over what the motor takes?"
	l.Because = fmt.Sprintf("The model comes to %s: what is above 100 %% heats the line.", percent(right))
	return l.asks(right, percent, 0.67, 0.58, 1.5)
}

func idleLies(m *machine.Machine, l *Lesson) bool {
	c, ok := even(m, 0)
	idle, runs := lonely(m, c, 0)
	loaded, works := lonely(m, c, 0.7)
	if !ok || !runs || !works {
		return false
	}
	right := loaded.UnbalancePercent / 100
	l.Says = []string{
		"Legs that are even with nothing to do are made so by a capacitor that suits that state. A load draws other " +
			"amps at another power factor, and the same capacitor is wrong for it.",
		"Only what was read in a state proves it.",
	}
	l.Do = "On Prove, look at what is foretold for the loaded states before anything loaded is read."
	l.Question = fmt.Sprintf("Even to %.1f %% when idle, on %s µF: how far apart are the legs at 70 %% of its load?",
		idle.UnbalancePercent, quantity.Figures(c, 2))
	l.Because = fmt.Sprintf("The model comes to %s.", percent(right))
	return l.asks(right, percent, idle.UnbalancePercent/100, right/3, 2.5*right)
}

func hottestWinding(m *machine.Machine, l *Lesson) bool {
	const share = 0.8
	c, ok := even(m, share)
	r, runs := lonely(m, 1.5*c, share)
	if !ok || !runs {
		return false
	}
	w := r.Motors[0].WindingAmps
	right := hottest(m, &r)
	mean := math.Sqrt((w[0]*w[0]+w[1]*w[1]+w[2]*w[2])/3) / m.WindingAmps()
	l.Says = []string{
		"A frame shows what all three windings lose together, after an hour. One of them may be far past its plate " +
			"while the others rest, and its varnish does not wait for the frame.",
		"An ohmmeter on each winding, hot, tells them apart; a hand does not.",
	}
	l.Do = "Raise the run capacitor by half on the Size step: the mean hardly moves, one bar runs away."
	l.Question = fmt.Sprintf("At 80 %% load with half as much capacitor again as is best, the windings are at %s of "+
		"plate amps on the mean of their heat. And the hottest?", percent(mean))
	l.Because = fmt.Sprintf("The model comes to %s: its copper heats by %s of plate.", percent(right),
		percent(right*right))
	return l.asks(right, percent, mean, (mean+2)/3, 1.5*right)
}

func startLeftIn(m *machine.Machine, l *Lesson) bool {
	const share = 0.5
	c, ok := even(m, share)
	r, runs := lonely(m, 4*c, share)
	if !ok || !runs {
		return false
	}
	right := hottest(m, &r)
	l.Says = []string{
		"A start capacitor is several times what runs well. It makes torque for a second or two, at amps that " +
			"neither the winding nor the can bears for a minute.",
		"Its relay, timer or switch is what keeps the motor alive: it is looked at first.",
	}
	l.Do = "On Wire, break the start contact so that it is welded, and play the start."
	l.Question = "Four times its best run capacitor stays in at half load: how many times plate amps has the " +
		"hottest winding?"
	l.Because = fmt.Sprintf("The model comes to %s, which is %s of its heat.", times(right), percent(right*right))
	return l.asks(right, times, 1, 0.6, 2*right)
}

func tooMuchFlux(m *machine.Machine, l *Lesson) bool {
	volts := m.Plate.Volts.Value
	usual, okA := lines(m, volts, nil, 0)
	high, okB := lines(m, 1.2*volts, nil, 0)
	if !okA || !okB {
		return false
	}
	right := high.Motors[0].LineAmps.Max() / usual.Motors[0].LineAmps.Max()
	l.Says = []string{
		"Iron takes amps in proportion to volts until it is full; past that they shoot up. Volts over hertz count: " +
			"50 Hz on a 60 Hz motor’s volts is the same as a fifth more volts.",
		"It growls and heats with nothing to do, and a load hides it.",
	}
	l.Do = "Type a fifth fewer volts on the plate and see what its supply does to its iron."
	l.Question = "A fifth too many volts for its hertz, with nothing to do: how many times its idle amps?"
	l.Because = fmt.Sprintf("The model comes to %s, where straight iron would take 1.2.", times(right))
	return l.asks(right, times, 1.2, 1/1.2, 2.5*right)
}

func tooFewVolts(m *machine.Machine, l *Lesson) bool {
	volts := m.Plate.Volts.Value
	usual, okA := lines(m, volts, nil, 1)
	low, okB := lines(m, 0.85*volts, nil, 1)
	if !okA || !okB {
		return false
	}
	right := low.Motors[0].LineAmps.Max() / usual.Motors[0].LineAmps.Max()
	l.Says = []string{
		"A machine asks for its power whatever the volts are. With fewer of them the motor slips until it draws the " +
			"amps that give it all the same.",
		"Lower volts are not gentler on a loaded motor; on one that idles they are.",
	}
	l.Do = "Lengthen the run on the Route step until its drop speaks up."
	l.Question = "At its full output and 15 % too few volts: how many times its plate amps?"
	l.Because = fmt.Sprintf("The model comes to %s.", times(right))
	return l.asks(right, times, 0.85, 0.72, 1)
}

func oneLineLost(m *machine.Machine, l *Lesson) bool {
	usual, okA := lines(m, m.Plate.Volts.Value, nil, 0.6)
	lost, okB := lonely(m, 0, 0.6)
	if !okA || !okB {
		return false
	}
	right := lost.Motors[0].LineAmps.Max() / usual.Motors[0].LineAmps.Max()
	l.Says = []string{
		"A motor that loses a line while it runs goes on running, on two. It asks the same power of them.",
		"Only an overload that looks at all three lines, or a relay for lost phases, sees it in time.",
	}
	l.Do = "On Wire, open a line in the run and see what its overload says."
	l.Question = "At 60 % load a line is lost: how many times the amps before do the two others carry?"
	l.Because = fmt.Sprintf("The model comes to %s: √3 for the same power, and the field that turns the wrong way "+
		"on top.",
		times(right))
	return l.asks(right, times, 1, 1.5, 3*right)
}

func discharge(m *machine.Machine, l *Lesson) bool {
	c, ok := even(m, 0.5)
	if !ok {
		return false
	}
	const ohms, safe = 100_000.0, 50.0
	peak := math.Sqrt2 * m.Plate.Volts.Value
	right := ohms * c * 1e-6 * math.Log(peak/safe)
	seconds := func(v float64) string { return quantity.Figures(v, 2) + " s" }
	l.Says = []string{
		"A can that is cut off at the top of the wave keeps its volts for hours. A bleed across it lets them down, " +
			"by the same share in every second: ohms times farads is the time to a third.",
		"Wait by that time, short it through a resistor, and prove it dead; the bleed may be the broken part.",
	}
	l.Do = "Read the bleeds of the circuit on Wire, and what each does in a minute."
	l.Question = fmt.Sprintf("%s µF at the peak of %.0f V with 100 kΩ across it: how long to %.0f V?",
		quantity.Figures(c, 2), m.Plate.Volts.Value, safe)
	l.Because = fmt.Sprintf("100 kΩ · %s µF · ln(%.0f / %.0f) is %s.", quantity.Figures(c, 2), peak, safe,
		seconds(right))
	return l.asks(right, seconds, right/10, right/3, 10*right)
}
