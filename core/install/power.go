package install

import (
	"fmt"
	"hash/fnv"
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/prove"
	"brackmoor/core/quantity"
	"brackmoor/core/stock"
)

// Step is one of what is done in order: what to do, what is seen, and what it means where it is not.
type Step struct {
	Do  string `json:"do" told:"figures"`
	See string `json:"see" told:"figures"`
	Not string `json:"not" told:"figures"`
	// State is that in which something is read at it, as prove has them; "" for none.
	State string `json:"state"`
}

// Key tells a step from the others by what is done in it, so that it is the same step in another circuit.
func (s *Step) Key() string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(s.Do)) // it never fails
	return fmt.Sprintf("%016x", h.Sum64())
}

// powering are the steps of the first power, stage by stage: the supply alone, the control, what makes lines, and only
// then a motor with nothing on it.
func powering(c *circuit.Circuit) []Step {
	s := &steps{}
	volts := c.SupplyVolts()
	earth := fmt.Sprintf("%.0f V between the lines, %.0f V from each to earth", volts, volts/2)
	if c.Region == circuit.UK {
		earth = fmt.Sprintf(
			"%.0f V between line and neutral, the same from line to earth, under 5 V from neutral to earth",
			volts,
		)
	}
	s.say(
		"Every check before power is passed. Covers on, guards on, nobody at the machine, a hand at the isolator.",
		"",
		"",
	)
	s.say("Control fuses out. Isolator on.", earth, "Isolator off. Another service, or a line is missing.")
	control, timers := "the coils’ volts at their fuses; nothing pulls in", ""
	for i := range c.Parts {
		switch p := &c.Parts[i]; {
		case p.Kind == circuit.ControlTransformer:
			control = fmt.Sprintf("%.0f V on %s:X1 to X2; nothing pulls in", p.Secondary, p.ID)
		case p.Kind == circuit.Timer && p.Seconds > 0:
			timers += fmt.Sprintf(", %s %s s", p.ID, quantity.Figures(p.Seconds, 2))
		}
	}
	drive := firstOf(c, circuit.Drive)
	if firstOf(c, circuit.Fuse) != nil && drive == nil {
		s.say(
			"Isolator off, control fuses in, isolator on.",
			control,
			"Something pulls in by itself: off, and look for it.",
		)
	}
	switch {
	case drive != nil:
		s.drive(drive)
	default:
		s.contactors(c, timers)
	}
	leaves := ""
	if startsByCan(c) {
		leaves = "; its start capacitor leaves within a second or two, with a click"
	}
	s.say(
		"Motor with nothing on it: belt off, or gearbox in neutral. A moment’s start.",
		"it turns the right way, evenly, without a hum"+leaves,
		"Stop at once. Wrong way: isolate, prove dead, exchange the two leads that the way allows. A chuck or a blade "+
			"that runs backwards comes off.",
	)
	s.say(
		"Coupled: belt, chuck or blade on, guards shut, nothing cut.",
		"it comes up evenly; volts and amps of all lines",
		"It labours or stands: off within three seconds, and look at belt, gearbox and the start part.",
	)
	s.reads(prove.Idle)
	s.say(
		"A part of the load, then what it works at, for a quarter of an hour.",
		"amps of each line within its overload’s setting; no winding, lug or can hotter than a hand bears",
		"Stop, isolate, and read the amps of all lines again.",
	)
	s.reads(prove.Part)
	s.say(
		"As much as it will ever do, for as long as it will do it. What cannot be loaded is written down as that.",
		"no winding past its plate, its frame as warm as its load explains",
		"Take the load off: what it gives is less than its plate. It is accepted within that, or the way is changed.",
	)
	s.reads(prove.Full)
	stop := "Stop. Isolator off."
	if roled(c, circuit.Idler) != nil {
		stop = "In order: the machine off first, then the converter, then the isolator."
	}
	s.say(
		stop+" Wait a minute, and prove it dead with a meter that is proved before and after.",
		"it stands; no volts are left on any terminal",
		"What still has volts is a capacitor or a bus: wait, measure, find why its bleed does not discharge it.",
	)
	return s.list
}

type steps struct{ list []Step }

func (s *steps) say(do, see, not string) { s.list = append(s.list, Step{Do: do, See: see, Not: not}) }

// reads says that something is read in a state at the last step.
func (s *steps) reads(state string) { s.list[len(s.list)-1].State = state }

// drive are the steps of a drive alone, its motor's leads off and capped.
func (s *steps) drive(p *circuit.Part) {
	s.say("Isolator off, wait for the bus, motor leads off "+p.ID+" and capped. Isolator on.", "its display comes on, "+
		"without a fault", "A fault for its input: it is set for three lines, or for other volts.")
	s.say("Settings as the Settings step lists them, one by one, read back.", "each is kept after off and on again",
		"It has gone back to its maker’s: its supply is too weak, or it is locked.")
	s.say(
		"Enable open, then a start.",
		"it does not run",
		"Its enable is not looked at: set it, before the motor is on.",
	)
	s.say("Enable shut, a start, 5 Hz.", "it runs; the display shows 5 Hz; stop and emergency stop stop it",
		"An input at the wrong terminal, or set to something else.")
	s.say(
		"Isolator off, wait for the bus, motor leads on. Isolator on.",
		"no fault",
		"An earth fault: a lead or a winding "+
			"touches the frame.",
	)
}

// contactors are the steps of what contactors switch: control alone, then what makes the third line.
func (s *steps) contactors(c *circuit.Circuit, timers string) {
	s.say("Power breaker off behind the control’s fuses, or the load’s leads off. Start, stop, emergency stop, each "+
		"overload’s test.", "contactors pull in at start and hold, drop at each of the others"+timers,
		"A contact at the wrong mark, or a wire: look at the run on the drawing beside it.")
	if roled(c, circuit.Idler) != nil {
		s.say(
			"A large or unknown idler first at reduced volts: a variable transformer ahead, balance capacitors off, "+
				"spun up by hand or by its start part, then turned up in steps. One that is known: pass on.",
			"the amps of its lines at each step, even, without a growl",
			"Stop at the amps that stand beside the step. Joined for other volts, a winding reversed, or a bearing.",
		)
		s.reads(prove.Reduced)
		s.say(
			"Machines off. Idler alone, at the supply’s own volts.",
			"it comes up in "+upIn(c)+" and the start part leaves; it hums evenly",
			"It hums and stands: off within three seconds. Start capacitor, its contact, or one lead. A growl: a "+
				"winding reversed, or a bearing.",
		)
		s.say("Made leg to each line, nothing on it.", "within ten percent of the supply’s volts", "Far off: balance "+
			"capacitors, or the leg’s lead.")
		s.reads(prove.Alone)
		s.say(
			"The sequence of the lines at the machine’s terminals, before it turns: by one of these.",
			"the same at every machine behind it; it is written down and on the panel’s label",
			"The other sequence: isolate, prove dead, exchange the two leads that the way allows, ahead of the panel, "+
				"so that every machine turns with it.",
		)
		s.reads(prove.Sequence)
	}
}

// upIn is in how many seconds the idler of a circuit is up, in words.
func upIn(c *circuit.Circuit) string {
	if p := roled(c, circuit.Idler); p != nil && p.Seconds > 0 {
		return "about " + quantity.Figures(p.Seconds, 2) + " s"
	}
	return "a few seconds"
}

// startsByCan says whether a motor of a circuit without an idler has a start capacitor.
func startsByCan(c *circuit.Circuit) bool {
	return roled(c, circuit.Idler) == nil &&
		slices.ContainsFunc(c.Parts, func(p circuit.Part) bool { return p.Duty == stock.Start })
}

// roled is the part of a circuit that has a role, nil for none.
func roled(c *circuit.Circuit, role string) *circuit.Part {
	for i := range c.Parts {
		if c.Parts[i].Role == role {
			return &c.Parts[i]
		}
	}
	return nil
}

// firstOf is the first part of a kind, nil for none.
func firstOf(c *circuit.Circuit, kind circuit.Kind) *circuit.Part {
	for i := range c.Parts {
		if c.Parts[i].Kind == kind {
			return &c.Parts[i]
		}
	}
	return nil
}

// otherVolts are the steps by which a drive is changed to other input volts, up or down; none for what is no drive.
func otherVolts(c *circuit.Circuit) []Step {
	p := firstOf(c, circuit.Drive)
	if p == nil {
		return nil
	}
	s := &steps{}
	line := fmt.Sprintf("%.0f V", c.SupplyVolts())
	s.say("Off, plug out or isolator locked, and wait the minutes of its label.", "under 50 V on its bus, by a meter",
		"Wait longer: never short a bus.")
	s.say("Line cord and protective conductor off its input, the strain relief first.", "", "")
	s.say("Its selector, or its link, to the new volts: 115 or 230. A drive that doubles 115 V has a link for it; one "+
		"without either is for one of them alone.", "the label at its terminals names them", "It is not for them: "+
		"another drive.")
	s.say(
		"A cord for the new amps: at half the volts it takes twice as many.",
		"its size by the Size step’s circuit for "+
			"the new volts; its breaker too",
		"",
	)
	s.say(
		"The plug that fits the new volts and amps, and no other: the old one comes off.",
		"it goes into no outlet of "+
			"other volts in the shop",
		"",
	)
	s.say(
		"A white or blue core that is live now is marked at both ends, black or brown.",
		"no white or blue core is at a "+
			"line without its mark",
		"",
	)
	s.say("Motor left joined as it was, for "+line+" or what the drive gives.", "plate volts and base hertz in its "+
		"settings are still true", "At 115 V in, a doubling drive still gives 230 V; another gives 115 V at most.")
	s.say("Protective conductor first, then lines, strain relief, cover. Power on, motor’s leads still off.",
		"its bus shows √2 times the new volts, or twice that where it doubles", "Off: the selector is wrong.")
	return s.list
}
