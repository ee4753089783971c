package rule

// learnRules are those of readings, and of what is learned from them.
var learnRules = []Rule{
	{"learn.misread", Caution, "A reading that fits nothing",
		"One figure exchanged, off by the point or from a clamp in the wrong place bends all that is learned: it is " +
			"left out until it is read again.",
		"robust regression, Gelman and others, Bayesian Data Analysis, 17", nil},
	{"learn.unlike-plate", Caution, "Not the machine of its plate",
		"What is learned lies far outside what motors of one plate differ by: another motor, another connection, or " +
			"a part at its end.",
		shop, Numbers{"most_usual": 3}},
	{"learn.can-weak", Caution, "A bank has less than is printed on it",
		"A run capacitor is at its end once it has lost a tenth; one that is open is no capacitor.",
		"IEC 60252-1, 2.13", Numbers{"least_share": 0.9}},
	{"learn.unproved", Note, "Not loaded, so not proved",
		"Only what was read in a state proves it; idle readings foretell a load, with a doubt, and prove none.",
		shop, nil},
	{
		"learn.reduced",
		Note,
		"Read at reduced volts only",
		"Iron that is not saturated says nothing of the amps that it takes at full volts, nor of the volts of the " +
			"made leg then.",
		"magnetising curve, Fitzgerald, Electric Machinery",
		Numbers{"least_percent": 85},
	},
	{"learn.out-of-reach", Caution, "Out of reach of the shelf",
		"No combination of the cans on hand brings every state that matters within the limits.",
		"exhaustive search", Numbers{"aim_percent": 3}},
}

func init() { Catalogue = append(Catalogue, learnRules...) }
