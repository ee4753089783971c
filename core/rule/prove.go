package rule

// proveRules are those by which a machine is accepted from what was read on it, beside the rules that it was sized by.
var proveRules = []Rule{
	{"prove.step-open", Stop, "A step of the first run did not go well",
		"What did not go well is a fault that is still there until the step is done again and goes well.",
		"IEC 60204-1, 18: verification", nil},
	{"prove.plan-stop", Stop, "A stop of the plan still stands",
		"What the plan warned of is not disproved until the state in which it would show was read and was good.",
		shop, nil},
	{"prove.unloaded", Caution, "Could not be loaded, so unproved",
		"Idle legs and amps say nothing of a load: a state that was not brought about is foretold at best.",
		shop, nil},
	{"prove.volts-far", Caution, "Volts far from the plate’s",
		"Past ten percent off its rated volts a motor is outside of what its plate answers for.",
		"IEC 60034-1, 7.3; NEMA MG 1, 12.44", Numbers{"least_percent": 90, "most_percent": 110}},
	{"prove.dip", Caution, "Contactors may drop while another starts",
		"A contactor may let go below three quarters of its coil’s volts, and what it holds drops with it.",
		"IEC 60947-4-1, limits of operation", Numbers{"least_percent": 75}},
	{"prove.winding-hot", Stop, "A winding hotter than its class",
		"The resistance of copper tells the mean of the whole winding, where a hand on the frame tells nothing; past " +
			"its class insulation is used up in months.",
		"IEC 60034-1, 8.5 and 8.10, rise by resistance", Numbers{"most_percent": 100}},
	{"prove.frame-hot", Caution, "A frame hotter than its load explains",
		"A frame far warmer than plate load makes it is cooled too little, overloaded, or heated by one winding alone.",
		shop, Numbers{"most_usual_percent": 130}},
	{"prove.can-loses", Caution, "A bank loses capacitance",
		"A run capacitor is at its end once it has lost a tenth of what it had.",
		"IEC 60252-1, 2.13", Numbers{"most_percent": 10}},
	{"prove.drag-grows", Caution, "It takes more to idle than it did",
		"What an idling machine takes beyond what it took is friction: a bearing, a belt, grease that has set.",
		shop, Numbers{"most_percent": 20}},
	{"prove.runs-down-sooner", Caution, "It runs down sooner than it did",
		"A shaft that coasts for less time than it did has more friction.",
		"coasting, J·dω/dt = friction torque", Numbers{"most_percent": 20}},
	{
		"prove.drop-grows",
		Caution,
		"The supply drops more than it did",
		"The ohms between the meter and the machine grow where a lug or a contact works loose, and heat there by " +
			"their square.",
		"Ohm’s law; " + shop,
		Numbers{"most_percent": 30},
	},
	{"prove.far-off", Caution, "Far from what was foretold",
		"A figure far outside of its band is a misread one, or a machine or circuit that is not the one of the plan.",
		"band of the fitted model", nil},
}

func init() { Catalogue = append(Catalogue, proveRules...) }
