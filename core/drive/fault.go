package drive

// Fault is what a drive trips on: what it means on a motor that runs from one phase, and what is looked at first.
type Fault struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Means string `json:"means"`
	Look  string `json:"look"`
}

// Faults a drive trips on, by names of our own.
var Faults = []Fault{
	{
		"overvoltage",
		"Bus too high",
		"The load drives the motor faster than its frequency, and lifts the bus: mostly a ramp down too short.",
		"A longer ramp down, or coast; a brake resistor where it must be short.",
	},
	{
		"undervoltage", "Bus too low",
		"The line sags, a contact is loose, or the bus is too small for the load on one phase.",
		"Volts at its input terminals while it is loaded.",
	},
	{
		"phase-lost", "Input phase missing",
		"Built for three lines and fed by two, its bus swings twice a half cycle more than it allows.",
		"Whether its maker permits one phase, and only then this check off and the output derated.",
	},
	{
		"overload", "Motor overload",
		"More than the motor's amps for longer than its class bears, as the drive reckons it.",
		"Motor amps as they are set against the plate; then the load.",
	},
	{
		"overcurrent", "Overcurrent",
		"Amps past what its transistors bear: a ramp up too short, a jam, boost too high, or a short.",
		"Ramp up and boost; then, dead, the motor and its cable.",
	},
	{
		"overheat", "Drive too hot",
		"Its heat sink is past its limit: a high carrier, a clogged fan, a warm box.",
		"The carrier, air and fan; at a high carrier it gives fewer amps.",
	},
	{
		"earth", "Earth fault",
		"Amps that leave by the motor's lines and do not come back by them: damp or hurt insulation.",
		"Dead and disconnected: insulation of cable and motor against the frame, never with the drive joined.",
	},
	{
		"link-lost", "Bus link lost",
		"It ran by its bus and heard nothing for longer than it waits.",
		"The cable and what was to speak to it; it is not started anew by itself.",
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
