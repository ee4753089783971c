package drive

// Fault is what a drive trips on: what it means on a motor that runs from one phase, and what is looked at first.
type Fault struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Means string `json:"means"`
	Look  string `json:"look"`
	// Settings are those that may be behind it.
	Settings []string `json:"settings" nullable:"false"`
}

// Faults a drive trips on, by names of our own.
var Faults = []Fault{
	{
		"overvoltage",
		"Bus too high",
		"The load drives the motor faster than its frequency, and lifts the bus: mostly a ramp down too short.",
		"A longer ramp down, or coast; a brake resistor where it must be short.",
		[]string{"deceleration_s", "stop_mode"},
	},
	{
		"undervoltage", "Bus too low",
		"The line sags, a contact is loose, or the bus is too small for the load on one phase.",
		"Volts at its input terminals while it is loaded.",
		[]string{},
	},
	{
		"phase-lost", "Input phase missing",
		"Built for three lines and fed by two, its bus swings twice a half cycle more than it allows.",
		"Whether its maker permits one phase, and only then this check off and the output derated.",
		[]string{"input_phase_loss"},
	},
	{
		"overload", "Motor overload",
		"More than the motor's amps for longer than its class bears, as the drive reckons it.",
		"Motor amps as they are set against the plate; then the load.",
		[]string{"motor_amps", "overload_amps", "boost_percent"},
	},
	{
		"overcurrent", "Overcurrent",
		"Amps past what its transistors bear: a ramp up too short, a jam, boost too high, or a short.",
		"Ramp up and boost; then, dead, the motor and its cable.",
		[]string{"acceleration_s", "boost_percent", "motor_volts", "base_hertz", "current_limit_percent"},
	},
	{
		"overheat", "Drive too hot",
		"Its heat sink is past its limit: a high carrier, a clogged fan, a warm box.",
		"The carrier, air and fan; at a high carrier it gives fewer amps.",
		[]string{"carrier_khz"},
	},
	{
		"earth", "Earth fault",
		"Amps that leave by the motor's lines and do not come back by them: damp or hurt insulation.",
		"Dead and disconnected: insulation of cable and motor against the frame, never with the drive joined.",
		[]string{},
	},
	{
		"link-lost", "Bus link lost",
		"It ran by its bus and heard nothing for longer than it waits.",
		"The cable and what was to speak to it; it is not started anew by itself.",
		[]string{"link_loss_s", "run_source"},
	},
}

// Signs are what a drive does wrong without a fault.
var Signs = []Fault{
	{
		"dark", "Its display is dark",
		"It has no bus: no line, a breaker that is off, or its own fuse.",
		"Volts at its input terminals, by a meter that was proved; then isolate, wait, and look at its fuse.",
		[]string{},
	},
	{
		"dead-keys", "Its run key does nothing",
		"It takes its commands from elsewhere, or its enable is open.",
		"Which lamp of its places is lit; then, isolated, the wire to its enable and what may open it.",
		[]string{"run_source", "enable"},
	},
	{
		"starts-itself", "It starts as power comes",
		"A run contact stays closed and nothing asks it to be opened first: somebody can be hurt by it.",
		"Isolate at once and lock. Then its restart and what its run contact is.",
		[]string{"restart", "fault_reset", "run_source"},
	},
	{
		"wrong-way", "It turns the wrong way",
		"Two of its motor's lines are exchanged, or it is told to reverse.",
		"Isolated, bus waited for and measured: exchange two lines to the motor. Those of its input change nothing.",
		[]string{"reverse"},
	},
	{
		"wrong-speed", "Its full speed is not the plate's",
		"It is set for another country's hertz, or stopped short by its highest frequency.",
		"Hertz on its display at full, and rpm at the shaft.",
		[]string{"base_hertz", "maximum_hertz", "minimum_hertz", "motor_rpm"},
	},
	{
		"weak", "It turns and has no strength",
		"Volts per hertz are too low: motor volts set too low, a square curve on a machine tool, or joined for the " +
			"higher volts.",
		"Motor volts on its display at base frequency; then, dead, its links.",
		[]string{"motor_volts", "base_hertz", "shape", "boost_percent"},
	},
	{
		"hot-idle", "The motor is hot with nothing to do",
		"Too many volts per hertz, or too much boost: its iron is full. Slow for hours, its fan does not cool.",
		"Amps on its display uncoupled, against what it is to tell.",
		[]string{"motor_volts", "base_hertz", "boost_percent", "minimum_hertz"},
	},
	{
		"sings", "It sings, or shakes at one speed",
		"The carrier sings; a machine that shakes at one speed has a resonance there.",
		"Whether it goes with the carrier or with the speed.",
		[]string{"carrier_khz", "skip_hertz", "skip_band_hertz"},
	},
	{
		"buttons-other", "Its buttons do the other thing",
		"An input is set for the other use, or its contact opens where it should close.",
		"Isolated: each wire at its inputs against the drawing; contacts that stop open, those that start close.",
		[]string{"run_source", "reverse"},
	},
}

func faultNames() (names []string) {
	for _, f := range Faults {
		names = append(names, f.Name)
	}
	return names
}

// FaultOf finds a fault by its name, nil for none.
func FaultOf(name string) *Fault {
	for i := range Faults {
		if Faults[i].Name == name {
			return &Faults[i]
		}
	}
	return nil
}
