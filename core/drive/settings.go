package drive

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
)

// Setting is one entry of the list that a drive is to be set by, under a plain name of
// our own. Value is in words, Number the figure behind it where there is one. Wrong is
// what drives are mostly found set to, empty where they come set right. First is what it is set to for the motor's
// first turn, where that is something else.
type Setting struct {
	Name   string   `json:"name"`
	Title  string   `json:"title"`
	Value  string   `json:"value"`
	Number *float64 `json:"number"`
	Unit   string   `json:"unit"`
	Why    string   `json:"why" told:"figures"`
	Wrong  string   `json:"wrong" told:"figures"`
	First  string   `json:"first,omitempty"`
}

// Use is how the motor is used, for the settings: Square for a load that goes with the
// square of speed, Reverse where the machine may turn both ways, LeastHertz what its
// maker sets as the least, 0 where that is not known, and Speed what turns its speed, "" for a
// potentiometer.
type Use struct {
	Square, Reverse bool
	LeastHertz      float64
	Speed           string
}

// speeds are why a speed comes from where it does.
var speeds = map[string]string{
	"potentiometer": "turned at the machine; a fixed speed does as well",
	"presets":       "a switch at the machine picks one of several that are set",
	"keypad":        "set at the drive; it must stand where it can be reached",
}

// usual settings: shop practice.
const (
	carrierKHz   = 4.0
	leastRamp    = 3.0  // s
	mostRamp     = 60.0 // s, to coast rather than wait longer
	boostPercent = 3.0
	limitPercent = 150.0 // of motor amps
	holdSeconds  = 0.5   // of direct current at the end of a ramp
	holdPercent  = 50.0  // of motor amps, of direct current
	skipBand     = 2.0   // Hz
	mostSilence  = 1.0   // s, of a bus by which it may be started
)

// settings is a list under way.
type settings []Setting

func (l *settings) add(s Setting) {
	// A drive that comes set right comes with nothing wrong.
	if s.Wrong == s.Value || s.Number != nil && s.Wrong+" "+s.Unit == s.Value {
		s.Wrong = ""
	}
	*l = append(*l, s)
}

func (l *settings) words(name, value, why, wrong string) {
	l.add(Setting{Name: name, Title: Title(name), Value: value, Why: why, Wrong: wrong})
}

// figure adds a value that is rounded to so many figures, in the setting's unit.
func (l *settings) figure(name string, value float64, figures int, why, wrong string) {
	unit := find(name).Unit
	text := quantity.Figures(value, figures)
	if unit != "" {
		text += " " + unit
	}
	rounded := value
	if value != 0 {
		size := math.Pow(10, float64(figures)-1-math.Floor(math.Log10(math.Max(math.Abs(value), 1e-9))))
		rounded = math.Round(value*size) / size
	}
	l.add(Setting{Name: name, Title: Title(name), Value: text, Number: &rounded, Unit: unit, Why: why, Wrong: wrong})
}

// Settings lists what a drive of an answer is to be set to.
func Settings(in Input, a Answer, use Use) []Setting {
	p := in.Plate
	hertz := p.Hertz.Value
	var list settings
	list.words(
		"run_source",
		"terminals",
		"the machine's own switch starts it, by a low-voltage input",
		"keypad",
	)
	speed, usual := use.Speed, "keypad"
	switch speed {
	case "":
		speed = "potentiometer"
	case "keypad":
		usual = "potentiometer"
	}
	list.words("speed_source", speed, speeds[speed], usual)
	// Base frequency and motor volts are one setting: together they are the plate's volts
	// per hertz, no higher than the supply's volts.
	base, volts, why := hertz, p.Volts.Value, "from the plate: with the motor's volts it sets the volts per hertz"
	if a.BaseHertz < hertz {
		base, volts = a.BaseHertz, p.Volts.Value*a.BaseHertz/hertz
		why = "where the drive's volts end at the plate's volts per hertz; above it torque falls"
	}
	list.figure("base_hertz", base, 3, why, "50 on a 60 Hz motor, or the other way")
	list.figure(
		"maximum_hertz",
		hertz,
		3,
		"plate frequency; a fifth above it at most, where spindle, chuck and bearings bear it",
		"the base frequency of another country",
	)
	least := use.LeastHertz
	why = "the least that the machine's maker sets"
	if least == 0 {
		least, why = fullCooling*hertz, "below it a shaft fan no longer cools full torque"
	}
	list.figure("minimum_hertz", least, 2, why, "0")
	joined := "as the motor is joined"
	if a.BaseHertz < hertz {
		joined = fmt.Sprintf(
			"what the drive gives at the base frequency: the motor is joined for %.0f, and those volts set here "+
				"would over-flux it",
			p.Volts.Value,
		)
	}
	list.figure("motor_volts", volts, 3, joined, "400 on a motor joined for 230")
	list.figure("motor_amps", p.Amps.Value, 3, "plate amps at those volts", "the drive's own")
	list.figure("motor_output", p.Output.Value, 3, "from the plate", "the drive's own")
	list.figure(
		"motor_rpm",
		p.RPM.Value,
		4,
		"from the plate, not the synchronous speed: the slip is meant",
		"1400",
	)
	list.figure("power_factor", p.PowerFactor.Value, 2, "from the plate", "0.8")
	list.figure("poles", p.Poles.Value, 2, "from speed and frequency", "4")
	if use.Square {
		list.words("shape", "square", "fan and pump take little torque at low speed", "linear")
		list.figure("boost_percent", 0, 1, "a fan needs none", "5")
	} else {
		list.words(
			"shape",
			"linear",
			"full torque down to low speed",
			"square, which starves a machine tool",
		)
		list.figure(
			"boost_percent",
			boostPercent,
			2,
			"makes up for the stator's resistance at low speed; more only heats it",
			"0, or 10",
		)
	}
	list.ramps(in, a, use)
	list.speeds(hertz, least, use)
	list.guards(in)
	if use.Reverse {
		list.words("reverse", "allowed", "the machine is made to turn both ways", "allowed")
	} else {
		list.words("reverse", "barred", "a screwed-on chuck or wheel comes off when it is reversed", "allowed")
	}
	list.figure("link_loss_s", mostSilence, 2,
		"should its bus ever start it, it stops when nothing speaks to it any more", "0, never")
	unit := "kW"
	if in.Supply.Hertz > 55 {
		unit = "hp"
	}
	list.words("power_unit", unit, "as on the plates of this supply's country", "kW")
	for i := range list {
		list[i].First = firstTurn[list[i].Name]
	}
	return list
}

// firstTurn is what is set for the first turn of the motor, from the keypad with the motor uncoupled, before the
// machine's own switches take over.
var firstTurn = map[string]string{"run_source": "keypad", "speed_source": "keypad"}

// ramps are how it comes up and stops.
func (l *settings) ramps(in Input, a Answer, use Use) {
	// Half of rated torque is left for the ramp.
	kgm2 := in.Shaft().Kgm2()
	up := math.Max(leastRamp, math.Ceil(kgm2*in.Plate.RPM.Value*math.Pi/30/(0.5*in.Fit.RatedNm)))
	l.figure("acceleration_s", up, 2,
		fmt.Sprintf("brings %s kg·m² up with half of rated torque", quantity.Figures(kgm2, 2)), "1")
	coast := a.ShortestStop == nil || *a.ShortestStop > mostRamp/1.3
	if coast {
		l.figure("deceleration_s", mostRamp, 2, "for changes of speed; to stop it coasts", "1")
		l.words("stop_mode", "coast", "so heavy a load would trip the bus on any ramp worth waiting for; a brake "+
			"resistor or a mechanical brake stops it sooner", "ramp")
	} else {
		l.figure("deceleration_s", math.Max(leastRamp, math.Ceil(1.3**a.ShortestStop)), 2, fmt.Sprintf(
			"the bus would trip below %s s without a brake resistor", quantity.Figures(*a.ShortestStop, 2)), "1")
		l.words("stop_mode", "ramp", "it stands in a known time", "coast")
	}
	hold, why := holdSeconds, "holds the shaft at the end of the ramp; longer only heats the winding"
	switch {
	case coast:
		hold, why = 0, "it coasts: direct current would stop it with a jerk, in the winding's heat"
	case !use.Reverse:
		hold, why = 0, "a screwed-on chuck or wheel comes off when the shaft is stopped hard"
	}
	l.figure("dc_brake_s", hold, 2, why, "")
	l.figure(
		"dc_brake_percent",
		holdPercent,
		2,
		"of motor amps, should it ever be used: all of it turns to heat",
		"100",
	)
}

// speeds are those between which and at which it runs, up to plate frequency.
func (l *settings) speeds(plated, least float64, use Use) {
	if use.Speed == "presets" {
		for k, hertz := range []float64{least, (least + plated) / 2, plated} {
			l.figure(fmt.Sprintf("preset_%d_hertz", k+1), hertz, 3, []string{
				"the lowest that still cools", "half way", "plate speed",
			}[k], "")
		}
	}
	l.figure("skip_hertz", 0, 2,
		"none, until a speed is found at which the machine sings or shakes: then that one", "")
	l.figure("skip_band_hertz", skipBand, 2, "passed over around it, should there be one", "0")
}

// guards are what keeps drive, motor and people whole.
func (l *settings) guards(in Input) {
	amps := in.Plate.Amps.Value
	l.figure("carrier_khz", carrierKHz, 2, "low and cool; a higher one is quieter and takes amps from the drive", "15")
	l.figure("current_limit_percent", limitPercent, 3,
		"of motor amps: brings a spindle up, and holds the ramp rather than trip", "200")
	l.figure("overload_amps", amps, 3, "plate amps, class 10: the drive sees the winding's current",
		"off, or the drive's own amps")
	l.words("input_phase_loss", "off", "on one phase a line is always missing; only where the maker permits it",
		"on, and it trips at once")
	l.words("restart", "off", "nothing restarts by itself", "on")
	l.words("fault_reset", "by hand", "a fault is looked at before it is cleared, and nothing restarts by itself",
		"by itself")
	l.words("enable", "terminal must be closed",
		"stop circuit, guard switches and an isolator's early contact open it", "bridged at the factory")
}
