// Package casefile reads the open network case format and writes its results.
package casefile

import (
	"encoding/json"
	"fmt"
	"math"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/drive"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
	"brackmoor/core/strict"
	"brackmoor/core/waveform"
	"brackmoor/docs/schema"
)

// compiledCase is the published schema, which is also what is enforced.
var compiledCase = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Case) })

// The analyses.
const (
	steady     = "steady"
	waves      = "waveform"
	rectifying = "rectifier"
	stopping   = "stop"
	starting   = "start"
	switched   = "switch-off"
	heating    = "heat"
	driving    = "drive"
)

// Document is a case of one of the analyses; the others' parts are empty.
type Document struct {
	Analysis  string
	Steady    network.Case
	Waveform  waveform.Case
	Rectifier Front
	Stop      drive.Stop
	Start     startup.Case
	Off       Off
	Heat      Heat
	Drive     Drive
}

// Read understands a case. What it returns without problems can be solved.
func Read(text []byte) (Document, []strict.Problem) {
	var head struct{ Analysis string }
	if problems := strict.Read(text, compiledCase(), &head); problems != nil {
		return Document{}, problems
	}
	d := Document{Analysis: head.Analysis}
	var part any
	var check func() []strict.Problem
	switch d.Analysis {
	case waves:
		part, check = &d.Waveform, func() []strict.Problem { return stepped(d.Waveform) }
	case rectifying:
		part, check = &d.Rectifier, func() []strict.Problem { return front(d.Rectifier) }
	case starting:
		part, check = &d.Start, func() []strict.Problem { return rising(d.Start) }
	case switched:
		part, check = &d.Off, func() []strict.Problem { return validate(d.Off.Case) }
	case heating:
		part, check = &struct{ Heat *Heat }{&d.Heat}, func() []strict.Problem { return nil }
	case driving:
		part, check = &d.Drive, func() []strict.Problem { return d.Drive.check() }
	case stopping:
		part, check = &struct{ Stop *drive.Stop }{&d.Stop}, func() []strict.Problem { return ramp(d.Stop) }
	default:
		part, check = &d.Steady, func() []strict.Problem { return validate(d.Steady) }
	}
	if err := json.Unmarshal(text, part); err != nil {
		return Document{}, []strict.Problem{{Path: "$", Says: "could not be read: " + err.Error()}}
	}
	if d.Analysis == steady && d.Steady.Supply.Phases == 0 {
		d.Steady.Supply.Phases = 1
	}
	return d, check()
}

// mostSamples bounds the length of a series.
const mostSamples = 200_000

// stepped holds the rules of a waveform that a schema cannot: those of the network,
// and that every event names an element and lies within the time asked for.
func stepped(c waveform.Case) []strict.Problem {
	standing := 1.0 // in time no motor is held at a slip
	n := network.Case{Supply: c.Supply.Supply, ThreePhaseLoads: c.ThreePhaseLoads}
	known := map[string]bool{waveform.SupplyID: true}
	for _, m := range c.Motors {
		if m.Load == nil {
			m.Slip = &standing
		}
		n.Motors = append(n.Motors, m.Motor)
		known[m.ID] = true
	}
	for _, p := range c.Capacitors {
		n.Capacitors = append(n.Capacitors, p.Capacitor)
		known[p.ID] = true
	}
	for _, p := range c.Loads {
		n.Loads = append(n.Loads, p.Impedance)
		known[p.ID] = true
	}
	fixed := map[string]bool{}
	for _, p := range c.ThreePhaseLoads {
		fixed[p.ID] = true
	}
	problems := validate(n)
	for i, e := range c.Events {
		at := fmt.Sprintf("$.events[%d]", i)
		if fixed[e.Switch] {
			problems = append(
				problems,
				strict.Problem{
					Path: at + ".switch",
					Says: fmt.Sprintf("%q is a three-phase load: those stay as they are in time", e.Switch),
				},
			)
		} else if !known[e.Switch] {
			problems = append(
				problems,
				strict.Problem{Path: at + ".switch", Says: fmt.Sprintf("%q names no element", e.Switch)},
			)
		}
		if e.AtSeconds > c.DurationSeconds {
			problems = append(problems, strict.Problem{Path: at + ".at_s", Says: "lies after duration_s"})
		}
	}
	if c.SampleSeconds > 0 && c.DurationSeconds/c.SampleSeconds > mostSamples {
		problems = append(
			problems,
			strict.Problem{Path: "$.sample_s", Says: fmt.Sprintf("gives more than %d samples", mostSamples)},
		)
	}
	return problems
}

// front holds the rules of a front end that a schema cannot.
func front(c Front) []strict.Problem {
	var problems []strict.Problem
	for i, d := range c.Drives {
		for k := range i {
			if c.Drives[k].ID == d.ID {
				problems = append(
					problems,
					strict.Problem{
						Path: fmt.Sprintf("$.drives[%d].id", i),
						Says: fmt.Sprintf("%q is taken by $.drives[%d]", d.ID, k),
					},
				)
			}
		}
	}
	if c.Bridge.Topology != rectifier.Doubler {
		return problems
	}
	if c.Derate {
		problems = append(
			problems,
			strict.Problem{Path: "$.derate", Says: "a doubler is no three-phase bridge to be derated"},
		)
	}
	if len(c.Drives) > 0 {
		problems = append(
			problems,
			strict.Problem{Path: "$.drives", Says: "drives share the bus of a bridge, not of a doubler"},
		)
	}
	if c.Bridge.Phases != 1 {
		problems = append(problems, strict.Problem{Path: "$.bridge.phases", Says: "a doubler has one phase"})
	}
	if c.Bridge.DCChokeMH > 0 || c.Bridge.DCChokeOhm > 0 {
		problems = append(
			problems,
			strict.Problem{
				Path: "$.bridge",
				Says: "a doubler has no place for a dc choke: its line goes to the middle of the bus",
			},
		)
	}
	return problems
}

// ramp holds the rules of a stop that a schema cannot.
func ramp(s drive.Stop) (problems []strict.Problem) {
	say := func(path, says string) { problems = append(problems, strict.Problem{Path: path, Says: says}) }
	if (s.LossWatts == nil) == (s.FrictionNm == nil) {
		say("$.stop", "needs either loss_watts or friction_nm, and not both")
	}
	if (s.StopSeconds == nil) != (s.ChopperVolts == nil) {
		say("$.stop", "stop_s and chopper_volts stand together or are both left out")
	}
	if s.TripVolts <= s.BusVolts {
		say("$.stop.trip_volts", "must be above bus_volts")
	}
	if s.ChopperVolts != nil && (*s.ChopperVolts <= s.BusVolts || *s.ChopperVolts > s.TripVolts) {
		say("$.stop.chopper_volts", "must lie above bus_volts and not above trip_volts")
	}
	return problems
}

// validate holds the rules that a schema cannot.
func validate(c network.Case) []strict.Problem {
	var problems []strict.Problem
	say := func(path, format string, args ...any) {
		problems = append(problems, strict.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
	}
	seen := map[string]string{"supply": "$.supply"}
	once := func(path, id string) {
		if first, taken := seen[id]; taken {
			say(path+".id", "%q is taken by %s", id, first)
			return
		}
		seen[id] = path
	}
	if c.Supply.Phases == 3 && c.Supply.Transformer != nil {
		say("$.supply.transformer", "is for a one-phase supply; the ohms of a three-phase one are its own")
	}
	switch {
	case c.Supply.Earthing == network.EarthMid && c.Supply.Phases == 3:
		say("$.supply.earthing", "three lines have no middle: take star")
	case c.Supply.Earthing == network.EarthStar && c.Supply.Phases != 3:
		say("$.supply.earthing", "one phase has no star point: take mid")
	}
	transformers := map[string]bool{}
	for i, t := range c.Transformers {
		once(fmt.Sprintf("$.transformers[%d]", i), t.ID)
		transformers[t.ID] = true
	}
	behind := func(at, id string) {
		if id != "" && !transformers[id] {
			say(at+".behind", "%q names no transformer", id)
		}
	}
	onC := c.Supply.Phases == 3
	for i, p := range c.ThreePhaseLoads {
		at := fmt.Sprintf("$.three_phase_loads[%d]", i)
		once(at, p.ID)
		behind(at, p.Behind)
		onC = true
		if p.ResistanceOhm == 0 && p.ReactanceOhm == 0 {
			say(at, "resistance_ohm and reactance_ohm cannot both be zero: that is a short circuit")
		}
	}
	for i, p := range c.Rectifiers {
		at := fmt.Sprintf("$.rectifiers[%d]", i)
		once(at, p.ID)
		if p.DisplacementFactor > 0 && p.TruePowerFactor > p.DisplacementFactor {
			say(at+".true_power_factor", "cannot be above displacement_factor")
		}
	}
	for i, m := range c.Motors {
		at := fmt.Sprintf("$.motors[%d]", i)
		once(at, m.ID)
		onC = true
		behind(at, m.Behind)
		if (m.Slip == nil) == (m.Load == nil) {
			say(at, "needs either slip or load, and not both")
		}
		curve(at+".circuit.magnetising_curve", m, say)
	}
	for i, p := range c.Capacitors {
		once(fmt.Sprintf("$.capacitors[%d]", i), p.ID)
		onC = onC || p.Between != network.AB && p.Microfarad > 0
	}
	for i, p := range c.Loads {
		at := fmt.Sprintf("$.loads[%d]", i)
		once(at, p.ID)
		onC = onC || p.Between != network.AB
		if p.ResistanceOhm == 0 && p.ReactanceOhm == 0 {
			say(at, "resistance_ohm and reactance_ohm cannot both be zero: that is a short circuit")
		}
	}
	if !onC && problems == nil {
		say("$", "nothing connects to the made leg c, so its volts are not defined")
	}
	return problems
}

func curve(at string, m network.Motor, say func(path, format string, args ...any)) {
	points := m.Circuit.Curve
	for i, p := range points {
		if i == 0 {
			if amps := p.AirgapVolts / m.Circuit.XmOhm; math.Abs(p.Amps/amps-1) > 0.001 {
				say(
					at+"[0]",
					"must lie on xm_ohm within 0.1 percent: %.6g V over %.6g ohm is %.6g A, not %.6g",
					p.AirgapVolts,
					m.Circuit.XmOhm,
					amps,
					p.Amps,
				)
			}
			continue
		}
		if p.AirgapVolts <= points[i-1].AirgapVolts || p.Amps <= points[i-1].Amps {
			say(fmt.Sprintf("%s[%d]", at, i), "both volts and amps must rise from point to point")
		}
	}
}

// Result documents: what each analysis gives.
type (
	head struct {
		Format   string `json:"format"`
		Analysis string `json:"analysis"`
	}
	// Steady is the result of a network in its steady state.
	Steady struct {
		head
		network.Result
	}
	// Stepped is the result of a network stepped through time.
	Stepped struct {
		head
		waveform.Result
	}
	// Rectified is the result of a front end in its periodic state, and of what else was
	// asked of it.
	Rectified struct {
		head
		rectifier.Result
		FrontResult
	}
	// Started is the result of a start.
	Started struct {
		head
		startup.Result
	}
	// Opened is the result of a supply that opens.
	Opened struct {
		head
		waveform.Off
		Verdicts []rule.Verdict `json:"verdicts"`
	}
	// Heated is the result of a duty.
	Heated struct {
		head
		HeatResult
	}
	// Driven is the result of a motor on a drive.
	Driven struct {
		head
		DriveResult
	}
	// Stopped is the result of a drive ramping down.
	Stopped struct {
		head
		drive.Stopping
	}
)

// Solve computes the result document of a case that Read accepted.
func Solve(d Document) (any, error) {
	h := head{"brackmoor.result/1", d.Analysis}
	switch d.Analysis {
	case waves:
		r, err := waveform.Solve(d.Waveform)
		return Stepped{h, r}, err
	case rectifying:
		r, more, err := d.Rectifier.solve()
		return Rectified{h, r, more}, err
	case starting:
		r, err := startup.Run(d.Start)
		return Started{h, r}, err
	case switched:
		off, verdicts, err := d.Off.solve()
		return Opened{h, off, verdicts}, err
	case heating:
		return Heated{h, d.Heat.solve()}, nil
	case driving:
		r, err := d.Drive.solve()
		return Driven{h, r}, err
	case stopping:
		return Stopped{h, d.Stop.Ramp()}, nil
	}
	r, err := network.Solve(d.Steady)
	return Steady{h, r}, err
}
