// Package casefile reads the open network case format and writes its results.
package casefile

import (
	"encoding/json"
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
	Steady    network.Installation
	Waveform  waveform.Case
	Rectifier Front
	Stop      drive.Stop
	Start     startup.Case
	Off       Off
	Heat      Heat
	Drive     Drive
}

// Read understands a case. What it returns without problems can be solved.
func Read(text []byte) (Document, rule.Problems) {
	var head struct{ Analysis string }
	if problems := strict.Read(text, compiledCase(), &head); problems != nil {
		return Document{}, problems
	}
	d := Document{Analysis: head.Analysis}
	var part any
	var check func() rule.Problems
	switch d.Analysis {
	case waves:
		part, check = &d.Waveform, func() rule.Problems { return d.Waveform.Validate() }
	case rectifying:
		part, check = &d.Rectifier, func() rule.Problems { return d.Rectifier.check() }
	case starting:
		part, check = &d.Start, func() rule.Problems { return d.Start.Validate() }
	case switched:
		part, check = &d.Off, func() rule.Problems { return d.Off.Validate() }
	case heating:
		part, check = &struct{ Heat *Heat }{&d.Heat}, func() rule.Problems { return nil }
	case driving:
		part, check = &d.Drive, func() rule.Problems { return d.Drive.check() }
	case stopping:
		part, check = &struct{ Stop *drive.Stop }{&d.Stop}, func() rule.Problems { return d.Stop.Validate() }
	default:
		part, check = &d.Steady, func() rule.Problems { return d.Steady.Validate() }
	}
	if err := json.Unmarshal(text, part); err != nil {
		return Document{}, rule.Problems{{Path: "$", Says: "could not be read: " + err.Error()}}
	}
	if d.Analysis == steady && d.Steady.Supply.Phases == 0 {
		d.Steady.Supply.Phases = 1
	}
	return d, check()
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
	// Installed is the result of several circuits in their steady state.
	Installed struct {
		head
		network.InstallationResult
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
	if len(d.Steady.Circuits) > 0 {
		r, err := network.SolveInstallation(d.Steady)
		return Installed{h, r}, err
	}
	r, err := network.Solve(d.Steady.Case)
	return Steady{h, r}, err
}
