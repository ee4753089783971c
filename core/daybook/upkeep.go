package daybook

// Upkeep is something that falls due again and again at a machine: what it is called, what is done, and after how many
// days or hours of its counter it is usual; 0 for none.
type Upkeep struct {
	Name  string  `json:"name"`
	Title string  `json:"title"`
	Says  string  `json:"says" told:"figures"`
	Days  int     `json:"days"`
	Hours float64 `json:"hours"`
}

// Upkeeps are those that are usual (shop practice; emergency stops and residual-current devices by their makers' test
// buttons, IEC 60364-6, 6.5).
var Upkeeps = []Upkeep{
	{"lugs", "Lugs", "Isolated and proved dead: tighten and look at every lug, from the panel to the machine.", 365, 0},
	{
		"sealed",
		"Bearings, sealed",
		"Turn by hand, listen, feel for play and heat; sealed ones are changed, not greased.",
		365,
		5000,
	},
	{"greased", "Bearings, greased", "Grease the open bearings, a little, drain open; note the grease.", 180, 2000},
	{"belts", "Belts", "Belts: tension, cracks, glaze; guards back on.", 180, 500},
	{
		"cans",
		"Capacitors",
		"Isolated, discharged: measure every capacitor, and look for bulges and burnt bleeds.",
		365,
		0,
	},
	{"fuses", "Fuses in stock", "One set of every fuse in the stores, of the right kind and amps.", 365, 0},
	{"labels", "Labels", "Labels, sequence and drawing in the box are there and true.", 365, 0},
	{
		"stops",
		"Emergency stops",
		"Press every emergency stop and guard while it idles: it stops, and stays stopped.",
		30,
		0,
	},
	{"residual", "Residual-current device", "Press its test button: it opens.", 180, 0},
}
