package drive

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
)

// Setting is one entry of the list that a drive is to be set by, under a plain name of
// our own. Value is in words, Number the figure behind it where there is one. Wrong is
// what drives are mostly found set to, empty where they come set right.
type Setting struct {
	Name   string   `json:"name"`
	Title  string   `json:"title"`
	Value  string   `json:"value"`
	Number *float64 `json:"number"`
	Unit   string   `json:"unit"`
	Why    string   `json:"why"`
	Wrong  string   `json:"wrong"`
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
)

// Settings lists what a drive of an answer is to be set to.
func Settings(in Input, a Answer, use Use) []Setting {
	p := in.Plate
	hertz := p.Hertz.Value
	var list []Setting
	add := func(s Setting) {
		// A drive that comes set right comes with nothing wrong.
		if s.Wrong == s.Value || s.Number != nil && s.Wrong+" "+s.Unit == s.Value {
			s.Wrong = ""
		}
		list = append(list, s)
	}
	words := func(name, title, value, why, wrong string) {
		add(Setting{Name: name, Title: title, Value: value, Why: why, Wrong: wrong})
	}
	figure := func(name, title string, value float64, figures int, unit, why, wrong string) {
		text := quantity.Figures(value, figures)
		if unit != "" {
			text += " " + unit
		}
		rounded := value
		if size := math.Pow(
			10,
			float64(figures)-1-math.Floor(math.Log10(math.Max(math.Abs(value), 1e-9))),
		); value != 0 {
			rounded = math.Round(value*size) / size
		}
		add(Setting{Name: name, Title: title, Value: text, Number: &rounded, Unit: unit, Why: why, Wrong: wrong})
	}
	words(
		"run_source",
		"Run command from",
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
	words("speed_source", "Speed from", speed, speeds[speed], usual)
	// Base frequency and motor volts are one setting: together they are the plate's volts
	// per hertz, no higher than the supply's volts.
	base, volts, why := hertz, p.Volts.Value, "from the plate: with the motor's volts it sets the volts per hertz"
	if a.BaseHertz < hertz {
		base, volts = a.BaseHertz, p.Volts.Value*a.BaseHertz/hertz
		why = "where the drive's volts end at the plate's volts per hertz; above it torque falls"
	}
	figure("base_hertz", "Base frequency", base, 3, "Hz", why, "50 on a 60 Hz motor, or the other way")
	figure(
		"maximum_hertz",
		"Highest frequency",
		hertz,
		3,
		"Hz",
		"plate frequency; a fifth above it at most, where spindle, chuck and bearings bear it",
		"the base frequency of another country",
	)
	least := use.LeastHertz
	why = "the least that the machine's maker sets"
	if least == 0 {
		least, why = fullCooling*hertz, "below it a shaft fan no longer cools full torque"
	}
	figure("minimum_hertz", "Lowest frequency", least, 2, "Hz", why, "0")
	joined := "as the motor is joined"
	if a.BaseHertz < hertz {
		joined = fmt.Sprintf(
			"what the drive gives at the base frequency: the motor is joined for %.0f, and those volts set here "+
				"would over-flux it",
			p.Volts.Value,
		)
	}
	figure("motor_volts", "Motor volts", volts, 3, "V", joined, "400 on a motor joined for 230")
	figure("motor_amps", "Motor amps", p.Amps.Value, 3, "A", "plate amps at those volts", "the drive's own")
	figure("motor_output", "Motor output", p.Output.Value, 3, "W", "from the plate", "the drive's own")
	figure(
		"motor_rpm",
		"Motor rpm",
		p.RPM.Value,
		4,
		"rpm",
		"from the plate, not the synchronous speed: the slip is meant",
		"1400",
	)
	figure("power_factor", "Motor power factor", p.PowerFactor.Value, 2, "", "from the plate", "0.8")
	figure("poles", "Poles", p.Poles.Value, 2, "", "from speed and frequency", "4")
	if use.Square {
		words("shape", "Volts over frequency", "square", "fan and pump take little torque at low speed", "linear")
		figure("boost_percent", "Boost", 0, 1, "%", "a fan needs none", "5")
	} else {
		words(
			"shape",
			"Volts over frequency",
			"linear",
			"full torque down to low speed",
			"square, which starves a machine tool",
		)
		figure(
			"boost_percent",
			"Boost",
			boostPercent,
			2,
			"%",
			"makes up for the stator's resistance at low speed; more only heats it",
			"0, or 10",
		)
	}
	// Half of rated torque is left for the ramp.
	omega := p.RPM.Value * math.Pi / 30
	up := math.Max(leastRamp, math.Ceil(in.Shaft().Kgm2()*omega/(0.5*in.Fit.RatedNm)))
	figure(
		"acceleration_s",
		"Ramp up",
		up,
		2,
		"s",
		fmt.Sprintf("brings %s kg·m² up with half of rated torque", quantity.Figures(in.Shaft().Kgm2(), 2)),
		"1",
	)
	down, coast := leastRamp, a.ShortestStop == nil || *a.ShortestStop > mostRamp/1.3
	if !coast {
		down = math.Max(leastRamp, math.Ceil(1.3**a.ShortestStop))
		figure(
			"deceleration_s",
			"Ramp down",
			down,
			2,
			"s",
			fmt.Sprintf("the bus would trip below %s s without a brake resistor", quantity.Figures(*a.ShortestStop, 2)),
			"1",
		)
		words("stop_mode", "Stop", "ramp", "it stands in a known time", "coast")
	} else {
		figure("deceleration_s", "Ramp down", mostRamp, 2, "s", "for changes of speed; to stop it coasts", "1")
		words(
			"stop_mode",
			"Stop",
			"coast",
			"so heavy a load would trip the bus on any ramp worth waiting for; a brake resistor or a mechanical "+
				"brake stops it sooner",
			"ramp",
		)
	}
	figure(
		"carrier_khz",
		"Carrier",
		carrierKHz,
		2,
		"kHz",
		"low and cool; a higher one is quieter and takes amps from the drive",
		"15",
	)
	figure(
		"overload_amps",
		"Motor overload",
		p.Amps.Value,
		3,
		"A",
		"plate amps, class 10: the drive sees the winding's current",
		"off, or the drive's own amps",
	)
	words(
		"input_phase_loss",
		"Input phase loss",
		"off",
		"on one phase a line is always missing; only where the maker permits it",
		"on, and it trips at once",
	)
	words("restart", "Restart after power loss", "off", "nothing restarts by itself", "on")
	words(
		"enable",
		"Enable input",
		"terminal must be closed",
		"stop circuit, guard switches and an isolator's early contact open it",
		"bridged at the factory",
	)
	if use.Reverse {
		words("reverse", "Reverse", "allowed", "the machine is made to turn both ways", "allowed")
	} else {
		words("reverse", "Reverse", "barred", "a screwed-on chuck or wheel comes off when it is reversed", "allowed")
	}
	return list
}
