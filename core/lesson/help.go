package lesson

// Help is what a screen is for, in one sentence, and the lesson that goes with it.
type Help struct {
	Place  string `json:"place"` // a place of the application, or a step of a machine's card
	Says   string `json:"says"`
	Lesson string `json:"lesson"` // its name
	Title  string `json:"title"`  // of the lesson
}

// Helps lists one for every screen.
var Helps = withTitles([]Help{
	{"floor", "Switch things on as you would in the shop, and see what every line, breaker and winding then carries.",
		"hottest-winding", ""},
	{
		"machines",
		"Each machine as its plate, with what feeds it and the worst that is said of it.",
		"amps-of-a-plate",
		"",
	},
	{"day", "What may run together today, to hang up beside the switches.", "idle-lies", ""},
	{
		"converters",
		"One converter and all that hangs on it: how it is brought up, and what it bears.",
		"pony-early",
		"",
	},
	{"stores", "What lies on the shelf is taken before anything is bought, where it can be trusted.", "discharge", ""},
	{"bench", "Try it where nothing is live: the same model, stepped in time, with what would have hurt counted.",
		"start-left-in", ""},
	{
		"daybook",
		"What was done, read and found stays written down; a correction is a line of its own.",
		"two-changes",
		"",
	},
	{"rulebook", "Every rule with its figures and its source, and the shop's own beside them.", "no-magnet", ""},
	{"motors", "The sheet to print and take along: what to build, set, read and beware of.", "hottest-winding", ""},
	{
		"plate",
		"Type what stands on the plate, paste it, or read it from a photo; what is missing is assumed and marked.",
		"amps-of-a-plate",
		"",
	},
	{
		"leads",
		"Find which leads belong together by ohms, and join them for the volts that are there.",
		"nine-leads",
		"",
	},
	{"route", "The ways of feeding it side by side; say what matters, and they are ranked by it.", "two-lines", ""},
	{"size", "Drag what you may choose; legs, windings and torque follow, before anything is bought.", "shifts", ""},
	{"wire", "The circuit, wire by wire, run through every state before it is built.", "one-line-lost", ""},
	{"settings", "What the drive is to be set to, and why; write down what it was before.", "carrier", ""},
	{"run", "From dead to loaded, step by step, with what you should see and when to stop.", "machine-first", ""},
	{"prove", "Read volts and amps in each state, and see whether they are what was foretold.", "idle-lies", ""},
	{"fault", "Say what is seen and heard; it tells the next look that parts the causes best.", "one-line-lost", ""},
})

func withTitles(list []Help) []Help {
	for i := range list {
		for _, l := range lessons {
			if l.name == list[i].Lesson {
				list[i].Title = l.title
			}
		}
	}
	return list
}
