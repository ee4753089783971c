// Package inverter is a drive simulated in time: rectifier, bus, inverter and motor, with its parameters, keypad,
// terminals and protection. It is a stand-in for a real one, to practise on and to test against; it knows no clock and
// is stepped by whoever has one, so that the same steps give the same figures to the bit.
//
// The front end is that of core/rectifier, stepped through each cycle; the motor that of core/waveform on a source
// whose volts and frequency follow the ramp, the pulses left out: their effect is a loss and a ripple that core/drive
// works out. The heat sink is one time constant, the motor's overload the square of its amps over another (IEC
// 60947-4-1, class 10).
package inverter

import (
	"math"

	"brackmoor/core/drive"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/waveform"
)

// Rating is a drive as it is built: the amps of its output, its bus, and whether its input is for three lines.
type Rating struct {
	Watts         float64 `json:"watts"`
	Amps          float64 `json:"amps"`
	BusMicrofarad float64 `json:"bus_microfarad"`
	ThreePhase    bool    `json:"three_phase"`
}

// Case is a drive, its motor and what they stand on. Draw gives numbers from 0 up to 1, by which this drive and this
// motor differ a little from what is written on them; nil for none.
type Case struct {
	Profile drive.Profile
	Rating  Rating
	Supply  rectifier.Supply
	Motor   network.Motor
	Load    *network.Load
	Draw    func() float64
}

// Tick is the time in seconds by which a drive thinks.
const Tick = 1e-3

// Inputs is what is wired to its terminals, and how it stands.
type Inputs struct {
	Lines    int     `json:"lines"` // that feed it: 0, 2 or 3
	Run      bool    `json:"run"`
	Reverse  bool    `json:"reverse"`
	Preset   int     `json:"preset"` // 0 for none, to 3
	Turned   float64 `json:"turned"` // of the potentiometer, 0 to 1
	Enable   bool    `json:"enable"`
	EarthBad bool    `json:"earth_bad"` // its motor's insulation
}

// Drive is a drive under way. It is not safe for use by more than one goroutine.
type Drive struct {
	c         Case
	raw       map[string]uint32 // what stands in its settings
	front     *rectifier.Running
	motor     *waveform.Stepper
	in        Inputs
	seconds   float64
	powered   bool // its electronics live
	precharge bool

	run       bool // it is to turn, by whatever commands it
	wasRun    bool // by its terminals, so that a new edge is seen
	output    bool // the inverter switches
	hertz     float64
	braking   float64 // seconds of direct current left
	reference float64 // hertz, of keypad and bus
	fault     string
	faultAt   float64
	Log       []Trip

	amps, watts float64                       // of the motor, rms and as the bus gives them
	shown       struct{ amps, watts float64 } // as its display has them, evened out
	rpm         float64
	heat        float64 // of the motor's overload: 1 is its amps for good
	sink        float64 // °C
	phaseLost   float64 // seconds for which its bus swings too far
	heard       float64 // when its bus last said something
	local       bool    // its keypad has taken command

	pad pad
}

// Trip is a fault as it was logged.
type Trip struct {
	Seconds float64 `json:"seconds"`
	Fault   string  `json:"fault"`
	Hertz   float64 `json:"hertz"`
	Amps    float64 `json:"amps"`
	Bus     float64 `json:"bus_volts"`
}

const motorID = "motor"

// Figures of drives of 200 to 240 V (shop practice).
const (
	startOver   = 1.1   // of the bus at which it trips, from which on it starts
	awake       = 150.0 // V of the bus above which its electronics live
	prechargeTo = 0.9   // of the line's peak
	ownLosses   = 0.03  // of what goes through, without what the carrier takes
	overcurrent = 2.2   // of its amps, at which its transistors are shut at once

	roomCelsius  = 25.0
	carrierUsual = 4.0 // kHz
	sinkSeconds  = 120.0
	heatSeconds  = 290.0 // class 10: six times its amps from cold for ten seconds
	heatMost     = 1.21
	swingSeconds = 1.0
	evenSeconds  = 0.1 // of its display
	standing     = 0.3 // Hz below which a ramp has ended
	resetSeconds = 5.0 // after which one that resets by itself does
	logged       = 12
)

// New is a drive as it ships, without a line.
func New(c Case) *Drive {
	draw := c.Draw
	if draw == nil {
		draw = func() float64 { return 0.5 }
	}
	off := func(share float64) float64 { return 1 + share*(2*draw()-1) }
	c.Motor.ID, c.Motor.Load = motorID, c.Load
	c.Motor.Circuit.R1Ohm *= off(0.04)
	c.Motor.Circuit.XmOhm *= off(0.06)
	d := &Drive{c: c, sink: roomCelsius, in: Inputs{Enable: true}}
	d.front = rectifier.Run(rectifier.Case{
		Supply: c.Supply,
		Bridge: rectifier.Front{
			Phases: 3, Topology: rectifier.Bridge, BusMicrofarad: c.Rating.BusMicrofarad * off(0.08),
			BusESROhm: rectifier.ESR(rectifier.TanDeltaElectrolytic, c.Rating.BusMicrofarad, c.Supply.Hertz),
		},
	})
	d.front.Feed(0, 0)
	d.motor = waveform.Begin(waveform.Case{
		Supply: waveform.Supply{Supply: network.Supply{
			Phases: 3, Volts: c.Supply.Volts, Hertz: c.Motor.RatedHertz,
		}},
		Motors: []waveform.Motor{{Motor: c.Motor}},
	})
	d.motor.Drive(0, c.Motor.RatedHertz) // no volts, so that it opens at once
	d.motor.Switch(waveform.SupplyID, waveform.Open)
	for _, l := range c.Profile.Links {
		if l.For == "enable" {
			d.in.Enable = l.Fitted // as it ships
		}
	}
	d.Factory()
	return d
}

// Factory puts every setting back to what it ships with; while it runs it does not.
func (d *Drive) Factory() bool {
	if d.run || d.output {
		return false
	}
	d.raw = map[string]uint32{}
	for _, r := range d.c.Profile.Registers {
		if drive.Set(r.Setting) {
			d.raw[r.Setting] = r.Ships
		}
	}
	d.reference, d.local = 0, false
	d.pad = pad{}
	return true
}

// Profile is the one that it goes by.
func (d *Drive) Profile() *drive.Profile { return &d.c.Profile }

// Wire sets its terminals.
func (d *Drive) Wire(in Inputs) {
	if in.Lines != d.in.Lines {
		d.front.Feed(in.Lines, d.c.Supply.Volts)
	}
	d.in = in
}

// Inputs are its terminals as they stand.
func (d *Drive) Inputs() Inputs { return d.in }

// Load puts another load on the motor's shaft.
func (d *Drive) Load(load *network.Load) { d.motor.Load(motorID, load) }

// figure is a setting's, or what is usual where it has none.
func (d *Drive) figure(setting string, usual float64) float64 {
	raw, ok := d.raw[setting]
	if !ok {
		return usual
	}
	return d.c.Profile.Register(setting).Decode(raw).Number
}

// word is a setting's, or what is usual where it has none.
func (d *Drive) word(setting, usual string) string {
	raw, ok := d.raw[setting]
	if !ok {
		return usual
	}
	return d.c.Profile.Register(setting).Decode(raw).Word
}

// Advance goes on by so many seconds.
func (d *Drive) Advance(seconds float64) {
	for range int(math.Round(seconds / Tick)) {
		d.tick()
	}
}

func (d *Drive) tick() {
	d.seconds += Tick
	bus := d.front.Volts()
	wasPowered := d.powered
	d.powered = bus > awake
	if d.powered && !wasPowered {
		d.wake()
	}
	if !d.powered {
		d.off()
		d.run = false
	}
	if full := prechargeTo * math.Sqrt2 * d.c.Supply.Volts; bus < 0.6*full {
		d.precharge = true
	} else if bus > full {
		d.precharge = false
	}
	d.front.Through(0)
	if d.precharge {
		d.front.Through(drive.PrechargeOhm)
	}
	d.command()
	d.ramp()
	d.turn()
	load := 0.0
	if d.output {
		load = d.watts + ownLosses*math.Abs(d.watts) + d.switching()
	}
	if d.powered {
		load += ownWatts
	}
	d.front.Advance(Tick, load)
	d.guard()
}

// ownWatts are those of its electronics and fan, which also empty its bus when its line is gone.
const ownWatts = 12.0

// wake is power that comes back: nothing runs unless it is set to, and a command that still stands is none.
func (d *Drive) wake() {
	if d.word("restart", "off") == "off" {
		d.wasRun = d.in.Run || d.in.Reverse
	} else {
		d.wasRun = false
	}
	d.pad.mode, d.fault = monitoring, ""
}

// Place is where its commands come from: keypad, terminals or bus.
func (d *Drive) Place() string {
	if d.local {
		return "keypad"
	}
	return d.word("run_source", "keypad")
}

// enabled says whether its enable lets it run.
func (d *Drive) enabled() bool { return d.word("enable", "") == "bridged" || d.in.Enable }

// command looks at what tells it to run.
func (d *Drive) command() {
	closed := d.in.Run || d.in.Reverse
	if d.Place() != "terminals" {
		d.wasRun = closed // one that is closed already starts nothing when commands come from there again
	}
	if d.Place() == "terminals" && d.powered {
		switch {
		case !closed:
			d.run, d.wasRun = false, false
		case !d.wasRun && d.filled(): // a bus that is not full yet is waited for
			d.start()
			d.wasRun = true
		}
	}
	if !d.enabled() || d.fault != "" {
		if d.run || d.output {
			d.off()
		}
		d.run = false
	}
	if d.fault != "" && d.word("fault_reset", "by hand") == "by itself" && d.seconds-d.faultAt > resetSeconds {
		d.fault, d.wasRun = "", false
	}
}

// filled says whether its bus is full enough to start, and no resistor stands before it any more.
func (d *Drive) filled() bool {
	return d.powered && !d.precharge && d.front.Volts() > startOver*d.tripLow()
}

// start makes it run, where it may.
func (d *Drive) start() bool {
	if !d.filled() || d.fault != "" || !d.enabled() {
		return false
	}
	d.run, d.heard = true, d.seconds
	return true
}

// Wanted is the frequency that it is to turn at, in hertz, below zero for the other way.
func (d *Drive) Wanted() float64 {
	most := d.figure("maximum_hertz", d.c.Motor.RatedHertz)
	least := math.Min(d.figure("minimum_hertz", 0), most)
	wanted := d.reference
	source := d.word("speed_source", "keypad")
	switch {
	case d.local:
	case source == "potentiometer":
		wanted = d.in.Turned * most
	case source == "presets" && d.in.Preset > 0:
		wanted = d.figure([]string{"preset_1_hertz", "preset_2_hertz", "preset_3_hertz"}[d.in.Preset-1], most)
	}
	wanted = math.Min(math.Max(wanted, least), most)
	if band := d.figure("skip_band_hertz", 0); band > 0 {
		if at := d.figure("skip_hertz", 0); at > 0 && math.Abs(wanted-at) < band/2 {
			wanted = at - band/2
		}
	}
	if d.in.Reverse && !d.in.Run && d.Place() == "terminals" && d.word("reverse", "allowed") == "allowed" {
		wanted = -wanted
	}
	return wanted
}

// ramp moves the frequency towards what is wanted, and ends a stop.
func (d *Drive) ramp() {
	if !d.run && !d.output {
		return
	}
	if !d.output { // it begins
		d.output, d.hertz, d.braking = true, 0, d.figure("dc_brake_s", 0)
		d.motor.Drive(0, 0)
		d.motor.Switch(waveform.SupplyID, waveform.Closed)
	}
	wanted := 0.0
	if d.run {
		wanted, d.braking = d.Wanted(), d.figure("dc_brake_s", 0)
	} else if d.word("stop_mode", "ramp") == "coast" {
		d.off()
		return
	}
	span := math.Max(1, d.figure("maximum_hertz", d.c.Motor.RatedHertz))
	up := span / math.Max(0.05, d.figure("acceleration_s", 5)) * Tick
	down := span / math.Max(0.05, d.figure("deceleration_s", 5)) * Tick
	limit := d.figure("current_limit_percent", 150) / 100 * d.figure("motor_amps", d.c.Rating.Amps)
	step, slower := wanted-d.hertz, math.Abs(wanted) < math.Abs(d.hertz) || wanted*d.hertz < 0
	switch {
	case slower:
		step = math.Copysign(math.Min(math.Abs(step), down), step)
	case d.amps > limit: // it gives way rather than trip
		step = -math.Copysign(math.Min(math.Abs(d.hertz), up), d.hertz)
	default:
		step = math.Copysign(math.Min(math.Abs(step), up), step)
	}
	d.hertz += step
	if !d.run && math.Abs(d.hertz) < standing {
		d.hertz = 0
		if d.braking -= Tick; d.braking <= 0 {
			d.off()
		}
	}
}

// tripLow is the bus in volts below which it trips.
func (d *Drive) tripLow() float64 { return drive.TripLow(d.c.Supply.Volts) }

// off shuts the inverter: the motor coasts.
func (d *Drive) off() {
	if !d.output {
		return
	}
	if math.Abs(d.hertz) < standing {
		d.motor.Drive(1, d.c.Motor.RatedHertz) // direct current has no zero to open at
	}
	d.output, d.hertz = false, 0
	d.motor.Switch(waveform.SupplyID, waveform.Open)
}

// Volts are those of the output, line to line, rms of the fundamental.
func (d *Drive) Volts() float64 {
	if !d.output {
		return 0
	}
	motor := d.figure("motor_volts", d.c.Supply.Volts)
	if !d.run && d.hertz == 0 { // direct current, by the ohms that it meets
		return d.figure("dc_brake_percent", 50) / 100 * d.figure("motor_amps", d.c.Rating.Amps) *
			d.c.Motor.Circuit.R1Ohm * math.Sqrt(3)
	}
	curve := drive.VHz{
		MotorVolts: motor, MotorHertz: d.figure("base_hertz", d.c.Motor.RatedHertz),
		MostVolts: math.Min(motor, d.front.Volts()/math.Sqrt2), BoostPercent: d.figure("boost_percent", 0),
		Square: d.word("shape", "linear") == "square",
	}
	return curve.Volts(math.Abs(d.hertz))
}

// turn steps the motor on.
func (d *Drive) turn() {
	if d.output {
		d.motor.Drive(d.Volts(), d.hertz)
	}
	if err := d.motor.Advance(d.seconds); err != nil {
		d.trip("overcurrent") // no motor takes so many steps that turns
		return
	}
	r := d.motor.Read()
	m := r.Motors[0]
	d.rpm = m.RPM
	d.amps = math.Sqrt((m.Amps.A*m.Amps.A + m.Amps.B*m.Amps.B + m.Amps.C*m.Amps.C) / 3)
	// Two meters: the third line's amps come back by the other two.
	d.watts = r.Volts.AB*m.Amps.A - r.Volts.BC*m.Amps.C
	if !d.output {
		d.amps, d.watts = 0, 0
	}
	d.shown.amps += Tick / evenSeconds * (d.amps - d.shown.amps)
	d.shown.watts += Tick / evenSeconds * (d.watts - d.shown.watts)
}

// switching are the watts that the transistors take by their carrier.
func (d *Drive) switching() float64 {
	return 0.004 * d.c.Rating.Watts * d.amps / d.c.Rating.Amps * d.figure("carrier_khz", carrierUsual)
}

// trip shuts it for a fault.
func (d *Drive) trip(fault string) {
	if d.fault != "" {
		return
	}
	d.Log = append([]Trip{{d.seconds, fault, d.hertz, d.amps, d.front.Volts()}}, d.Log...)
	if len(d.Log) > logged {
		d.Log = d.Log[:logged]
	}
	d.fault, d.faultAt, d.run = fault, d.seconds, false
	d.off()
}

// Reset clears a fault, once what tripped it is gone.
func (d *Drive) Reset() bool {
	bus := d.front.Volts()
	if d.fault == "" || bus > drive.TripVolts || d.fault == "undervoltage" && bus < d.tripLow() ||
		d.fault == "overheat" && d.sink > drive.SinkMost-5 || d.fault == "overload" && d.heat > 1 {
		return false
	}
	d.fault = ""
	// A command that still stands is none: it has to be given anew.
	d.wasRun = d.in.Run || d.in.Reverse
	return true
}

// guard trips it on what hurts.
func (d *Drive) guard() {
	bus := d.front.Volts()
	ratio := d.amps / math.Max(0.1, d.figure("overload_amps", d.c.Rating.Amps))
	d.heat += Tick / heatSeconds * (ratio*ratio - d.heat)
	share := d.amps / d.c.Rating.Amps
	rise := drive.SinkRise(share, d.figure("carrier_khz", carrierUsual))
	d.sink += Tick / sinkSeconds * (roomCelsius + rise - d.sink)
	seen := d.front.Seen
	if d.c.Rating.ThreePhase && d.output && seen.MostVolts-seen.LeastVolts > drive.Swing()*seen.MeanVolts {
		d.phaseLost += Tick
	} else {
		d.phaseLost = 0
	}
	silent := d.figure("link_loss_s", 0)
	switch {
	case !d.powered:
	case bus > drive.TripVolts:
		d.trip("overvoltage")
	case d.output && bus < d.tripLow():
		if d.word("restart", "off") == "on" { // it waits for its line, and goes on
			d.off()
			d.run, d.wasRun = false, false
			break
		}
		d.trip("undervoltage")
	case d.output && d.in.EarthBad && math.Abs(d.hertz) > 1:
		d.trip("earth")
	case d.output && d.amps > overcurrent*d.c.Rating.Amps:
		d.trip("overcurrent")
	case d.output && d.heat > heatMost:
		d.trip("overload")
	case d.output && d.sink > drive.SinkMost:
		d.trip("overheat")
	case d.phaseLost > swingSeconds && d.word("input_phase_loss", "off") == "on":
		d.trip("phase-lost")
	case d.output && d.Place() == "bus" && silent > 0 && d.seconds-d.heard > silent:
		d.trip("link-lost")
	}
}
