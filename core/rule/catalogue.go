package rule

const shop = "shop practice"

// Catalogue holds every rule, by subject.
var Catalogue = []Rule{
	// The plate against itself.
	{
		"plate.amps-against-output",
		Caution,
		"Amps and output do not belong together",
		"Output over √3·volts·amps is power factor times efficiency; outside the usual range one of the three was " +
			"misread.",
		"three-phase power, W = √3·V·I·pf·eff; range: " + shop,
		Numbers{
			"least_product":        0.35,
			"most_product":         0.90,
			"least_share_of_usual": 0.65,
			"most_share_of_usual":  1.35,
		},
	},
	{"plate.volts-times-amps", Caution, "Volts times amps differ between voltages",
		"The same motor joined for another voltage takes the same volt-amperes, so volts times amps must agree.",
		"IEC 60034-1, rated output", Numbers{"most_difference_percent": 8}},
	{"plate.rpm-against-poles", Caution, "Speed and pole count are odd",
		"A loaded motor turns 1 to 8 percent below a synchronous speed; much more means a misread speed or frequency.",
		"synchronous rpm = 120·f/poles; range: " + shop, Numbers{"least_slip_percent": 0.7, "most_slip_percent": 10}},
	{"plate.power-factor-efficiency", Caution, "Power factor, efficiency and amps disagree",
		"Power factor and efficiency on the plate must give back its own amps.",
		"three-phase power, W = √3·V·I·pf·eff", Numbers{"most_difference_percent": 8}},
	{
		"plate.contradiction",
		Stop,
		"No motor has this plate",
		"The figures contradict each other so far that no circuit gives them back; nothing sized from them can be " +
			"trusted.",
		"equivalent circuit, Fitzgerald, Electric Machinery",
		nil,
	},
	{"plate.likely-misreading", Note, "Likely misread",
		"Of the corrections of one field that make the plate agree with itself, the likeliest comes first.",
		"consistency of the plate's figures; likelihoods: " + shop, nil},
	{"plate.not-three-phase", Stop, "Not a three-phase motor",
		"Capacitors, converters and drives of this kind are for three-phase motors only.",
		shop, nil},
	{
		"plate.starting-figures",
		Caution,
		"Starting figures are not met",
		"No plausible circuit gives these starting figures together with the rated point, so what is said of " +
			"starting is less sure.",
		"least-squares fit of the equivalent circuit with bounds",
		Numbers{"most_error_stated_percent": 5, "most_error_class_percent": 15},
	},
	{
		"plate.unusual-circuit",
		Caution,
		"An unusual motor",
		"The plate is met only by a circuit outside what small industrial motors have, so a figure on it was perhaps " +
			"misread, and the answers are less sure.",
		"per-unit bounds of small machines, Alger, Induction Machines",
		nil,
	},
	{
		"plate.two-speeds", Caution, "A motor for two speeds",
		"Its winding is joined anew for each speed, with an output and amps of its own: what is right at one is not " +
			"at the other.", "IEC 60034-8; factor: 8 and 6 poles", Numbers{"least_factor": 1.25}},
	{"plate.code-letter", Caution, "Locked-rotor amps and code letter disagree",
		"The code letter is a band of locked-rotor kVA per horsepower.", "NEMA MG 1, 10.37", nil},
	{
		"plate.frame-against-output",
		Caution,
		"Frame and output do not belong together",
		"A frame holds so much copper and iron: far more or far less output than usual is a misread figure or " +
			"another motor's plate.",
		"NEMA MG 1, part 13; EN 50347; range: " + shop,
		Numbers{"least_share_of_usual": 0.2, "most_share_of_usual": 2},
	},
	{
		"plate.fifty-against-sixty",
		Caution,
		"The figures of the two frequencies do not agree",
		"The same windings turn faster with the frequency, slip alike, and give as much or up to the frequency's " +
			"share more.",
		"IEC 60034-1; synchronous rpm = 120·f/poles; range: " + shop,
		Numbers{
			"most_speed_percent":         3,
			"least_output_share":         0.97,
			"most_output_share_of_hertz": 1.06,
			"most_apparent_percent":      22,
		},
	},
	{"plate.service-factor", Note, "No margin in the service factor",
		"An unbalanced supply heats one winding more than the others; a service factor of 1.0 leaves no room for it.",
		"NEMA MG 1, 14.36; " + shop, Numbers{"margin": 1.15}},

	// The plate against the supply.
	{"supply.over-flux", Caution, "Too many volts per hertz",
		"Iron driven past its rated flux takes magnetising amps out of all proportion and heats at no load.",
		"IEC 60034-1, zone B; NEMA MG 1, 12.44", Numbers{"most_percent": 110}},
	{"supply.far-over-flux", Stop, "Far too many volts per hertz",
		"Well past the knee of its iron the motor burns without any load.",
		"typical magnetising curve; " + shop, Numbers{"most_percent": 120}},
	{"supply.under-flux", Caution, "Too few volts per hertz",
		"Torque falls with the square of the flux: the motor starts weakly, slips more and draws more amps under load.",
		"IEC 60034-1, zone B; NEMA MG 1, 12.44", Numbers{"least_percent": 90}},
	{
		"supply.other-hertz",
		Caution,
		"Another frequency than the plate's",
		"Speed follows the frequency, and with it the power of fans, the cooling, and what spindle and bearings may " +
			"bear.",
		"synchronous rpm = 120·f/poles; affinity laws of fans and pumps",
		Numbers{"most_percent": 2},
	},
	{
		"supply.third-of-torque",
		Stop,
		"Joined for higher volts: most of its torque is gone",
		"A motor left in star, or in series, below its plate volts has about half its flux, and torque goes as the " +
			"square of that: a third of it is left in star on delta's volts, a quarter in series on parallel's.",
		"torque goes as volts squared, Fitzgerald, Electric Machinery",
		Numbers{"most_flux_percent": 66},
	},

	{"supply.lifts", Stop, "A load hangs on it",
		"A lifted load overhauls its motor, falls when a brake lets go before the torque is there, and is held by no " +
			"motor that has lost a leg: brake, limits and what feeds it are for the hoist's maker to decide.",
		"EN 14492-2; " + shop, nil},

	// Coming up to speed.
	{"start.stands", Stop, "It does not break away",
		"A motor that stands under full volts takes locked-rotor amps and burns within a minute or less.",
		"locked-rotor state, Fitzgerald, Electric Machinery", nil},
	{"start.crawls", Stop, "It hangs below speed",
		"Where load meets torque below running speed the motor stays there on several times its amps.",
		"stable points of torque and load, Fitzgerald, Electric Machinery", nil},
	{
		"start.slow",
		Caution,
		"A long start",
		"At 7.2 times its setting an overload relay of class 10 trips within ten seconds, and every second heats the " +
			"windings.",
		"IEC 60947-4-1, trip class 10",
		Numbers{"most_seconds": 10},
	},
	{
		"start.heat",
		Caution,
		"A start heats much",
		"The heat of a start stays in the copper at first: a second start on top of it may be too much.",
		"adiabatic heating of windings; NEMA MG 1, 12.54, two starts from cold or one from hot",
		Numbers{"most_kelvin_share": 0.3},
	},
	{"start.seldom", Stop, "No start from warm",
		"After running at its load, one start would take the hottest winding past what its insulation bears.",
		"NEMA MG 1, 12.54; insulation classes of IEC 60034-1", nil},
	{"start.inertia", Caution, "Heavy to bring up",
		"Standard motors are built to bring up only so much inertia on their full volts.",
		"NEMA MG 1, 12.55, load inertia of standard motors", nil},
	{
		"start.no-relay",
		Note,
		"No relay by volts",
		"A potential relay knows the speed by the made leg's volts, so they must rise clearly from standstill to " +
			"cut-out.",
		shop,
		Numbers{"least_margin": 1.15},
	},
	{"start.dip", Caution, "The made leg dips",
		"While a machine starts on an idler the made leg falls for all that hang on it.",
		shop, Numbers{"least_percent": 80}},
	{"start.relay-chatters", Stop, "The start relay chatters",
		"A relay that drops the capacitor and takes it back burns its contacts and the capacitor.",
		"makers of such relays let them fall at a third to a half of the volts at which they pull; " + shop,
		Numbers{"falls_share": 0.4}},
	{
		"start.follows-spin",
		Caution,
		"It follows its spin",
		"Without capacitors to decide it, an idler keeps the sense in which hand or pony motor turned it, and the " +
			"sequence of all three legs goes with it.",
		"double-revolving-field theory, Fitzgerald, Electric Machinery",
		nil,
	},
	{"start.spin-against-capacitors", Caution, "Spin and capacitors disagree",
		"Capacitors turn an idler one way; spun the other way it fights them, or runs the sequence of the day.",
		"double-revolving-field theory, Fitzgerald, Electric Machinery", nil},
	{"start.pony-too-slow", Stop, "The pony motor is too slow",
		"Connected below the speed from which it pulls itself up, an idler stays there on locked-rotor amps.",
		"torque of the single-phase connection, Fitzgerald, Electric Machinery", nil},
	{
		"start.excites-itself",
		Stop,
		"Live after switch-off",
		"With capacitors across it a motor that spins on excites itself, and its terminals stay live with the supply " +
			"open.",
		"self-excited induction generator, Krause, Analysis of Electric Machinery; IEC 60204-1, 60 V within 5 s",
		Numbers{"most_volts": 60, "most_seconds": 5},
	},
	{
		"start.live-while-it-spins",
		Caution,
		"Live for a while after switch-off",
		"Until its flux has died away a motor holds its terminals, and its capacitors, at dangerous volts.",
		"decay of rotor flux, Krause, Analysis of Electric Machinery; IEC 60204-1, 60 V, 1 s at plug pins",
		Numbers{"most_volts": 60, "most_seconds": 1},
	},

	// Routes side by side.
	{
		"route.circuit",
		Stop,
		"More than the circuit carries",
		"For hours a circuit is loaded to four fifths of its breaker's rating in the US, and to no more than the " +
			"rating elsewhere: past that it runs hot, and in time it trips.",
		"NEC 210.20(A), continuous loads at 125 percent (US, 2023); IEC 60364-4-43, 433.1",
		Numbers{"most_percent": 80, "most_percent_iec": 100},
	},
	{
		"route.long-run",
		Caution,
		"Too long a run",
		"Volts that are lost on the way are missing at the machine: torque falls with their square, contactors " +
			"chatter, and lamps on the same run dip at each start.",
		"NEC 210.19(A), informational note: 3 percent on a branch (US, 2023); IEC 60364-5-52, annex G: 5 percent " +
			"from the origin; a tenth at a start by shop practice",
		Numbers{"most_running_percent": 3, "most_starting_percent": 10},
	},
	{
		"route.hard-start",
		Caution,
		"Too little for a hard start",
		"A start that is known to be hard wants half as much torque again as the usual figure.",
		shop,
		Numbers{"least_margin": 1.5},
	},
	{
		"route.static-hard-start",
		Stop,
		"Never on a static converter",
		"What starts against its load again and again falls back on the start box each time, and burns it or the " +
			"motor.",
		shop,
		Numbers{"most_breakaway_percent": 100},
	},
	{
		"route.single-phase-large",
		Stop,
		"No such single-phase motor",
		"Single-phase motors end at about ten horsepower, and strain a residential supply long before.",
		shop,
		Numbers{"most_watts": 7500},
	},

	{
		"route.transformer",
		Caution,
		"Behind an autotransformer",
		"It brings the supply's volts to the motor's, changes nothing else and makes no third leg. Its high line " +
			"stands at the high volts against the common one, and with it at more to earth than the supply's; it " +
			"parts nothing from the mains.",
		"transformers, Fitzgerald, Electric Machinery; NEC 450.4 (US, 2023); IEC 61558-2-13",
		nil,
	},

	// A rotary converter.
	{"rotary.none", Stop, "No idler does",
		"The idler must hold the made leg up against the machine's locked rotor and carry its load within amps.",
		"machine model, start of a machine on a running idler", nil},
	{"rotary.no-start", Stop, "The machine does not start on this idler",
		"A starting machine pulls the made leg down, and torque goes with the square of what is left.",
		"machine model, start of a machine on a running idler", nil},
	{"rotary.hard-start", Caution, "Little torque to spare at the start",
		"Cold grease and low volts take more torque than a warm day's figure.", shop, Numbers{"least_margin": 1.2}},
	{"rotary.unbalance", Caution, "The legs differ under load",
		"Unequal volts heat one winding; above five percent a motor is not to be run loaded.",
		"NEMA MG 1, 14.36, voltage unbalance", Numbers{"most_percent": 5}},
	{"rotary.idler-small", Caution, "A small idler",
		"The smaller the idler, the further the made leg falls with load and at a start.", "machine model", nil},
	{"rotary.part-output", Note, "Not the whole output",
		"The legs match at one load only: a smaller idler, or capacitors that spare the idle leg, leave part of it.",
		"machine model, hottest winding by plate amps, service factor and heat", nil},
	{"rotary.idler-hot", Caution, "The idler is past its plate amps",
		"Capacitors sized for load push an idle idler's amps up.", "machine model", nil},
	{"rotary.second-bank", Caution, "The second bank leaves with the load",
		"Capacitors for full output, left in while nothing is cut, push the made leg high and the idler's amps up; a " +
			"bank that is switched in charged draws a surge that welds contacts.",
		"machine model; IEC 60831-1, switching of capacitors", nil},
	{"rotary.guard", Caution, "It turns all day",
		"An idler's shaft and any belt need a guard, its frame a bond and a firm foot.", "IEC 60204-1; " + shop, nil},
	{"rotary.made-leg", Caution, "Mark the made leg",
		"The made leg feeds no control, no coil and no single-phase load, and is marked at every terminal.",
		"NEC 455.6(B) and 455.9 (US, 2023); a contactor may fall from 0.75 of its volts on, IEC 60947-4-1",
		Numbers{"coil_falls_share": 0.75}},
	{
		"rotary.load-last",
		Caution,
		"Idler first, machine after",
		"A machine switched in before the idler is up, or still switched in when it starts, stalls both; loss of " +
			"volts must drop them all.",
		"NEC 455.21 and 455.22 (US, 2023); IEC 60204-1",
		nil,
	},
	{
		"rotary.noise",
		Note,
		"Set it soft and far",
		"Rubber feet, a flexible lead and a place behind a wall take the hum away; air must still pass its cowl.",
		shop,
		nil,
	},
	{
		"rotary.rope",
		Note,
		"Not by rope or hand",
		"Pulled up by hand it starts in the sense it is pulled, beside a shaft that takes hold of rope and sleeve.",
		shop,
		nil,
	},

	// A drive in front of the motor.
	{"drive.one-phase-forbidden", Stop, "Its maker forbids one phase",
		"A drive whose maker forbids one-phase input may trip, or burn its bus, whatever is left of its rating.",
		"the maker's word stands above any derating, NEC 110.3(B) (US, 2023)", nil},
	{"drive.one-phase-unknown", Caution, "Ask the maker about one phase",
		"Some drives stop on a missing input line, some are not permitted on one phase at all.", shop, nil},
	{
		"drive.several",
		Caution,
		"Several motors on one drive",
		"A drive sees only the sum of their amps, and a motor switched in live takes its starting amps from it.",
		"NEC 430.32 and 430.122 (US, 2023); " + shop,
		nil,
	},
	{
		"drive.one-each",
		Note,
		"A drive for each motor",
		"Each motor keeps its own speed and is protected by its own drive.",
		shop,
		nil,
	},
	{
		"drive.no-contactor",
		Caution,
		"Nothing switches between drive and motor",
		"A contact that opens on a running drive draws an arc, and one that closes on it trips or kills it.",
		"IEC 60204-1; " + shop,
		nil,
	},
	{
		"drive.bus-charged",
		Caution,
		"The bus stays charged",
		"A drive's capacitors hold a lethal charge for minutes after it is off: wait as its label says, then measure.",
		"IEC 60204-1; IEC 61800-5-1",
		nil,
	},
	{
		"drive.residual-current",
		Caution,
		"A residual-current device of the right type",
		"A drive leaks with smooth direct current in it, which blinds common types: type B, or as the drive's maker " +
			"says.",
		"IEC 62423; IEC 60364-5-53",
		nil,
	},
	{"drive.too-large", Stop, "No standard drive is large enough",
		"Diodes, bus capacitors and ripple leave less of a drive on one phase than this motor needs.",
		"front end stepped to its periodic state", nil},
	{
		"drive.weak-start",
		Stop,
		"Too little torque for its start",
		"A drive's current limit bounds what it gives a standing load; cold grease takes more than a warm day's " +
			"figure.",
		"usual current limit of drives; " + shop,
		Numbers{"least_margin": 1.2},
	},
	{
		"drive.no-steady-state",
		Stop,
		"Its bus finds no steady state",
		"A drive takes constant power: the lower its bus, the more amps it draws. A feed of many ohms lets the bus " +
			"collapse; one of inductance without ohms may let it swing ever wider.",
		"front end stepped to its periodic state",
		nil,
	},
	{
		"drive.pulses-alternate",
		Note,
		"Its pulses alternate",
		"On a load of constant power one half cycle fills the bus too much and the next too little, by turns: amps " +
			"and " +
			"ripple are those over the whole cycle, and a meter may show some direct current in the line.",
		"front end stepped to its periodic state",
		nil,
	},
	{
		"drive.weak-at-plate-hertz",
		Stop,
		"Too little torque at plate frequency",
		"Volts that the supply does not have cannot be driven: above the base point flux falls, and what a winding " +
			"bears gives less torque.",
		"V/Hz with the base point, Fitzgerald, Electric Machinery",
		Numbers{"rounding_share": 0.01},
	},
	{
		"drive.one-phase-rare",
		Caution,
		"Few drives of this size are built for one phase",
		"Drives for one phase are common to a few kilowatts; above that they are few and dear: see that one is to be " +
			"had before the route is taken.",
		shop,
		Numbers{"most_watts": 4000},
	},
	{
		"drive.left-on-one-phase",
		Note,
		"What one phase leaves",
		"On one phase four diodes carry what six did, and two lines what three did: their amps leave about half of a " +
			"drive's rating whatever its bus, which is the trade's twice the amps.",
		"front end stepped to its periodic state, against the same on three phases at its rating",
		nil,
	},
	{
		"drive.bus-ripple",
		Caution,
		"Its bus falls far between pulses",
		"On one phase a bus is filled twice a cycle in place of six times. It takes volts from the motor, and a " +
			"drive stops where its bus is too low; one that expects three lines takes a deep swing for a lost line. " +
			"How far it falls goes with microfarads that few makers print.",
		"front end stepped to its periodic state; trip and ripple borne: " + shop,
		Numbers{"trip_percent": 65, "low_line_percent": 90, "borne_ripple_percent": 10, "lost_line_percent": 12},
	},

	// Heat over a session.
	{"heat.past-class", Stop, "Hotter than its insulation bears",
		"Insulation ages twice as fast for every ten kelvin, and a winding past its class does not last.",
		"IEC 60034-1, temperature rise of classes A to H by resistance; Arrhenius ageing", nil},
	{"heat.frame-hides", Caution, "The frame hides it",
		"On unequal legs one winding runs far hotter than the frame, which shows only the mean of all losses.",
		"losses per winding by the machine model", Numbers{"most_kelvin_share": 0.6}},

	// The leads, before anything is joined.
	{
		"leads.condition",
		Stop,
		"Not fit to be joined",
		"A damp winding, a burnt joint, a seized bearing or a missing bond hurts the motor or somebody at the first " +
			"start.",
		"IEC 60204-1, verification; " + shop,
		nil,
	},
	{"leads.condition-open", Caution, "Condition not looked at",
		"What nobody has looked at is not known to be good.", "IEC 60204-1, verification; " + shop, nil},
	{"leads.count-against-plate", Caution, "Leads and plate differ in number",
		"Leads may be cut off, joined inside, or a plate may be another motor's.", shop, nil},
	{
		"leads.resistance-against-plate",
		Caution,
		"Measured resistance does not suit the plate",
		"The copper loss of the measured resistance at plate amps must leave room for the motor's other losses.",
		"losses of the induction motor, Fitzgerald, Electric Machinery",
		Numbers{"most_share_of_losses": 0.75, "least_share_of_losses": 0.05},
	},
	{
		"leads.joined-inside",
		Caution,
		"Joined inside for one voltage only",
		"A plate with two voltages and three leads is joined inside for one of them, which the plate does not tell.",
		shop,
		nil,
	},
	{"leads.star-point", Caution, "The star point stays by itself",
		"Joined to neutral or earth, a star point lets currents through the windings that no overload sees.",
		"zero-sequence currents, Fitzgerald, Electric Machinery", nil},
	{
		"leads.kick",
		Caution,
		"The kick can shock",
		"When the battery comes off, the winding throws some hundred volts: clip the battery on with insulated " +
			"clips, one hand away from the bare ends, nobody touching any lead.",
		"voltage of a broken inductive circuit, Fitzgerald, Electric Machinery",
		nil,
	},
	{"leads.discharge", Caution, "Discharge after an insulation test",
		"A winding stays charged after the test: short it to the frame for four times as long as it was tested.",
		"IEEE 43-2013, discharge after test", nil},
	{"leads.grounded", Stop, "A winding touches the frame",
		"A winding with continuity to the frame makes the frame live and trips or burns at the first start.",
		"IEEE 43-2013; IEC 60204-1", nil},
	{"leads.insulation-low", Stop, "Insulation too low",
		"Below kilovolts plus one, in megohms at 40 °C, a winding is not to be energised.",
		"IEEE 43-2013, table 3: kV + 1, for windings up to 500 V", Numbers{"least_megohms_at_40": 1.5}},
	{"leads.insulation-weak", Caution, "Insulation weak",
		"Random-wound stators below 1 kV are to read 5 megohms or more at 40 °C; damp and dirt lower it.",
		"IEEE 43-2013, table 3", Numbers{"least_megohms_at_40": 5}},
	{
		"leads.insulation-unproved",
		Caution,
		"Insulation not proved",
		"Continuity proves nothing about insulation: only a test at some hundred volts shows a winding that leaks to " +
			"the frame.",
		"IEEE 43-2013; IEC 60204-1, insulation resistance test",
		nil,
	},
	{"leads.test-volts", Caution, "Not the usual test voltage",
		"Too few volts find no weak spot, too many harm an old winding: 500 V dc is meant for windings below 1 kV.",
		"IEEE 43-2013, table 1", Numbers{"least_volts": 250, "most_volts": 1000}},
	{"leads.leakage", Caution, "Neither winding nor insulation",
		"Kilohms between leads are a path through damp or dirt.", shop, nil},
	{
		"leads.link",
		Stop,
		"No resistance between leads",
		"A reading of nothing is a link left in, two leads that touch, or a short circuit, never a winding.",
		shop,
		nil,
	},
	{"leads.open-winding", Stop, "A winding is open",
		"A lead that reaches no other is the end of a broken winding.", shop, nil},
	{"leads.not-apart", Stop, "Leads are joined that should stand apart",
		"Links, wire nuts and supply leads join windings, and the readings then tell nothing.", shop, nil},
	{
		"leads.two-sets",
		Stop,
		"Two windings of three leads",
		"Two-speed and part-winding motors are joined by their own diagrams, which these readings cannot give.",
		shop,
		nil,
	},
	{"leads.no-star-point", Stop, "No star point found",
		"To a star point one coil is read, between the others two: these resistances fit neither.", shop, nil},
	{"leads.readings-contradict", Stop, "Readings contradict each other",
		"What is joined to the same lead is joined to each other.", shop, nil},
	{"leads.unequal", Caution, "Windings differ",
		"The windings of a sound motor are alike within the error of the meter at one temperature.",
		shop, Numbers{"most_percent": 5}},
	{"leads.far-unequal", Stop, "Windings differ far",
		"So large a difference is shorted turns or a bad joint, which burn out under power.",
		shop, Numbers{"most_percent": 15}},
	{"leads.wye-or-delta", Note, "Wye and delta cannot be told apart",
		"Three leads read the same whether the windings inside are joined wye or delta.",
		"delta and wye equivalence of three resistances", nil},
	{"leads.polarity-unknown", Stop, "Grouped, polarity unknown",
		"A winding joined by the wrong end bucks the others: the motor growls, hardly turns, and burns.",
		"rotating field of three windings, Fitzgerald, Electric Machinery", nil},
	{"leads.polarity-contradicts", Stop, "Polarity readings contradict each other",
		"Windings at 120 degrees deflect each other in one way only.",
		"mutual flux of windings at 120 degrees, Fitzgerald, Electric Machinery", nil},
	{"leads.polarity-pair", Caution, "A polarity reading without use",
		"A kick is sensed on another winding than the one driven.", shop, nil},
	{"leads.polarity-unconfirmed", Caution, "One wrong note would not show",
		"Each deflection should be borne out by another, since one noted wrong turns a winding round.", shop, nil},
	{
		"leads.marks-trusted",
		Caution,
		"Marks taken on trust",
		"Marks agree with what the meter says but only polarity proves starts and finishes.",
		"NEMA MG 1, part 2; IEC 60034-8",
		nil,
	},
	{
		"leads.marks-alone",
		Caution,
		"By the marks alone",
		"A motor that was wound anew, or whose tags were changed, has marks that are not true; joined by them it may " +
			"burn at the first start.",
		"NEMA MG 1, part 2; IEC 60034-8",
		nil,
	},
	{"leads.marks-contradict", Stop, "Marks and readings disagree",
		"A lead marked wrong joins a winding by the wrong end.", "NEMA MG 1, part 2; IEC 60034-8", nil},

	{
		"energise.abort",
		Caution,
		"Switch off when the amps pass what is expected",
		"More than the expected amps at reduced volts means a wrong joint, a reversed winding or a rubbing rotor; at " +
			"full volts it would burn.",
		"machine model with saturation; margin: " + shop,
		Numbers{"over_percent": 30, "bare_breakaway_share": 0.04},
	},

	// Capacitors on the motor alone.
	{
		"capacitor.large",
		Caution,
		"Large for capacitors alone",
		"Above a few horsepower the start is hard, the lights dip and one capacitor fits one load only; an idler or " +
			"a drive serves better.",
		shop,
		Numbers{"most_watts": 2300},
	},
	{
		"capacitor.too-large",
		Stop,
		"Too large for capacitors alone",
		"At this size the starting amps and the winding heat are beyond what capacitors on the motor can be trusted " +
			"with: take an idler or a drive.",
		shop,
		Numbers{"most_watts": 4100},
	},
	{"capacitor.no-start", Stop, "Will not break the load away",
		"With the capacitors chosen the motor makes less torque at standstill than the load asks: it hums and burns.",
		"starting torque by the machine model", Numbers{"least_margin": 1.0}},
	{
		"capacitor.hard-start",
		Caution,
		"A hard start",
		"Little torque is left over to speed the load up, so the start is long and hot; cold grease or a low supply " +
			"will stall it.",
		"starting torque by the machine model; margin: " + shop,
		Numbers{"least_margin": 1.3},
	},
	{"capacitor.start-pull-back", Caution, "May fall back when the start capacitor goes out",
		"At the cut-out speed the motor on its run capacitor alone must make more torque than the load.",
		"steady torque curves by the machine model", nil},
	{"capacitor.stalls", Stop, "Stalls at this load",
		"No speed is found at which the motor carries this load on these capacitors.",
		"operating point by the machine model", nil},
	{
		"capacitor.winding-at-load",
		Stop,
		"A winding is past plate amps at the load it runs",
		"The hottest winding sets the limit, not the mean: past plate amps it ages fast, and the frame does not " +
			"show it.",
		"winding amps by the machine model; IEC 60034-1, rated current",
		Numbers{"most_percent": 100, "rounding_percent": 0.5},
	},
	{"capacitor.winding-at-full", Caution, "Not for full plate output",
		"At full output a winding passes plate amps: keep the load inside the usable range.",
		"winding amps by the machine model; IEC 60034-1, rated current", Numbers{"most_percent": 100}},
	{
		"capacitor.winding-at-idle",
		Caution,
		"A winding is past plate amps with nothing on the spindle",
		"A capacitor sized for load overfeeds the made leg at idle: do not leave it idling, or take a smaller " +
			"capacitor.",
		"winding amps by the machine model; IEC 60034-1, rated current",
		Numbers{"most_percent": 100},
	},
	{"capacitor.no-usable-output", Stop, "No load at which every winding stays within plate amps",
		"With this capacitor one winding or another is past plate amps at every load.",
		"winding amps by the machine model; IEC 60034-1, rated current", Numbers{"most_percent": 100}},
	{"capacitor.made-leg-high", Caution, "The made leg is high",
		"Above the plate's volts the iron saturates, and anything else on the leg suffers.",
		"NEMA MG 1, 12.44", Numbers{"most_percent": 110}},
	{
		"capacitor.volts",
		Note,
		"The capacitor sees more than the supply",
		"A capacitor stands across the made leg, which can be higher than the supply: its ac rating must cover the " +
			"highest rms, supply tolerance and margin included.",
		"IEC 60252-1, rated voltage; NEMA practice for run capacitors",
		Numbers{"supply_tolerance_percent": 10, "margin_percent": 5},
	},
	{
		"capacitor.kind",
		Caution,
		"Only alternating-current capacitors",
		"Run: motor-run, film, rated for continuous ac. Start: motor-start, rated for seconds only, out of circuit " +
			"once up to speed. Direct-current electrolytics burst on ac; parts of unknown life are not to be trusted.",
		"IEC 60252-1, IEC 60252-2",
		nil,
	},
	{
		"capacitor.charged",
		Caution,
		"Capacitors stay charged after switch-off",
		"A start capacitor that its contact has cut off keeps a lethal charge: bleed resistors on every capacitor, " +
			"wait, then prove dead with a proved meter before touching.",
		"NEC 460.6 (US, 2023): 50 V within 1 minute; IEC 60204-1: 60 V within 5 s",
		Numbers{"safe_volts": 50, "seconds": 5},
	},
	{
		"capacitor.not-for-electronics",
		Caution,
		"Not for electronics",
		"The legs differ too much for readouts, controls and drives: feed them from the two supply lines, never from " +
			"the made leg.",
		"unbalance limit: " + shop,
		Numbers{"most_unbalance_percent": 2},
	},

	// Cautions that always stand.
	{
		"always.isolate",
		Caution,
		"Isolate, lock, prove dead",
		"This is mains voltage. Isolate, lock off, prove dead with a meter that was proved before and after, and " +
			"discharge before any cover comes off.",
		"IEC 60204-1; OSHA 29 CFR 1910.147 (US)",
		nil,
	},
	{
		"always.made-leg",
		Caution,
		"The made leg is live",
		"Before the motor turns, the made leg may read near zero against one line. It is live all the same: never " +
			"judge it by that reading.",
		shop,
		nil,
	},
	{
		"always.overload",
		Caution,
		"Overload that sees the winding",
		"The overload relay sits in the motor's own leads, after the capacitors join, with all three poles used. In " +
			"the supply lines it does not see the winding's current.",
		"NEC 430.32, 455.23, 460.9 (US, 2023); IEC 60204-1",
		nil,
	},
	{
		"always.overload-by-drive",
		Caution,
		"Overload set to the plate",
		"A drive guards its motor only with its overload set to the plate's amps; of several motors on one drive " +
			"each has a relay of its own.",
		"NEC 430.124 (US, 2023); IEC 61800-5-1",
		nil,
	},
	{
		"always.overload-of-one-phase",
		Caution,
		"Overload for the motor put in",
		"The new motor's overload is set by its own plate, in its line lead, or is built into it; the old relay was " +
			"set for other amps.",
		"NEC 430.32 (US, 2023); IEC 60204-1",
		nil,
	},
	{
		"always.restart",
		Caution,
		"Nothing restarts by itself",
		"After a loss of volts the machine must stay off until somebody starts it: a contactor with a holding " +
			"contact, or an undervoltage release.",
		"IEC 60204-1, protection against unexpected start",
		nil,
	},
	{
		"always.bonding",
		Caution,
		"Bond, enclose, guard",
		"Bond motor, enclosure and machine to the protective conductor; no exposed terminals; covers and belt guards " +
			"on before it turns.",
		"IEC 60204-1; NEC article 250 (US, 2023)",
		nil,
	},
	{
		"always.residual-current",
		Caution,
		"Residual-current protection, where it must be",
		"A socket of up to 32 A (in the US a receptacle of a garage or workshop) has a residual-current " +
			"device, and a machine with filters or capacitors to earth may trip it: find the leak before the " +
			"device is blamed, and never bridge it.",
		"IEC 60364-4-41, 411.3.3; NEC 210.8 (US, 2023)",
		nil,
	},
	{
		"always.made-leg-to-earth",
		Caution,
		"The made leg stands high above earth",
		"Where the supply's middle is earthed the made leg stands at 0.87 of the supply's volts to earth, " +
			"about 208 V on 240: breakers with two ratings (120/240), surge parts and filters to earth are not " +
			"made for it.",
		"NEC 240.85 (US, 2023); machine model, leg volts to earth",
		nil,
	},
	{
		"always.plugs",
		Caution,
		"No plug that fits elsewhere",
		"The machine's plug and the converter's outlet fit nothing of other volts or phases in the shop: " +
			"what fits is plugged in some day.",
		"IEC 60309; NEC 406.4(F) (US, 2023)",
		nil,
	},
	{
		"always.utility",
		Note,
		"What the network bears",
		"Starting amps dip the lights, and networks limit them and the flicker of frequent starts; tell the " +
			"operator before a large motor or drive. A generator or inverter wants several times the motor's " +
			"size for its start.",
		"IEC 61000-3-3 and 61000-3-11; " + shop,
		nil,
	},
	{
		"always.old-gear",
		Caution,
		"Old cans and old gear",
		"Capacitors from before about 1980 may hold PCB, and old arc chutes, linings and boards asbestos: " +
			"do not open, drill or burn them; they are handed in as such.",
		"Stockholm Convention, annexes A and C; " + shop,
		nil,
	},
	{
		"always.control-transformer",
		Caution,
		"Control transformer on the two lines",
		"Coils, lamps and a control transformer's primary hang on the two lines, fused and earthed as it " +
			"came; on the made leg they see volts that move with the load.",
		"IEC 60204-1, control circuits; NEC 455.9 (US, 2023)",
		nil,
	},
	{
		"always.screwed-chuck",
		Caution,
		"A screwed chuck comes off in reverse",
		"A chuck that is screwed on unwinds when the spindle is turned round or braked hard: lock it on, or " +
			"bar reverse; and never turn round while it runs.",
		shop,
		nil,
	},
	{
		"capacitor.welded-start",
		Caution,
		"A start contact that welds",
		"A start capacitor that stays in bursts within a minute and burns a winding: fuse it, and listen " +
			"for the contact at each start.",
		"IEC 60252-2; " + shop,
		nil,
	},
	{
		"rotary.lost-line",
		Caution,
		"An idler that has lost a line",
		"With one supply line lost a turning idler keeps the machine's lines live and its motors humming: " +
			"the contactor must drop all of it, and a meter decides, not the silence.",
		"IEC 60204-1; NEC 455.22 (US, 2023); " + shop,
		nil,
	},
	{
		"drive.leakage",
		Caution,
		"A drive leaks to earth",
		"Its filter leaks more than 3.5 mA: fixed wiring and a second protective conductor, or one of 10 " +
			"mm² copper, and the motor's own conductor in the same cable.",
		"IEC 61800-5-1; IEC 60364-5-54, 543.7",
		nil,
	},
	{
		"drive.old-insulation",
		Caution,
		"Old windings and long leads",
		"A drive's steep pulses are twice the bus at the end of a long lead: old insulation may not bear " +
			"them. Keep the leads short, or add an output choke; bearings pit where shaft currents find a way.",
		"IEC TS 60034-25; NEMA MG 1, parts 30 and 31",
		nil,
	},
	{
		"drive.harmonics",
		Note,
		"It draws its amps in peaks",
		"A drive's amps are a third or more harmonics: a choke takes the worst of them; several drives heat " +
			"a shared neutral and transformer.",
		"IEC 61000-3-2 and 61000-3-12",
		nil,
	},
	{
		"bus.fault-energy",
		Caution,
		"A bus that a breaker does not clear",
		"The cans of a dc bus feed a fault before any ac breaker opens: fuses made for direct current at " +
			"each drive, in both conductors, and covers that hold.",
		"IEC 60269-2; IEC 61800-5-1",
		nil,
	},
	{"always.reversal-stop", Caution, "Turn it round only from standstill",
		"Wrong way round: isolate, prove dead and discharge before anything is exchanged.",
		"IEC 60204-1; machine model: direction follows the order of the legs", nil},
	{
		"always.feed",
		Note,
		"Breaker and conductor by the local code",
		"The amps given are what the motor draws; breaker, conductor, plug, and whether residual-current protection " +
			"is wanted and of what type, are sized by the code where you are.",
		"NEC 430.22, 430.52 (US, 2023); IEC 60364",
		nil,
	},
	{
		"always.local-code",
		Caution,
		"Local code has the last word",
		"Local code, permit and inspection, and a licensed electrician where one is wanted, come before anything on " +
			"this sheet.",
		"local law",
		nil,
	},
}
