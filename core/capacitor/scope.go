package capacitor

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/waveform"
)

// Mark is something that happens in a trace.
type Mark struct {
	Seconds float64 `json:"t_s"`
	Title   string  `json:"title"`
}

// Trace is a start, a run and a switch-off through time: volts of the three pairs, amps
// of the motor's lines, its speed and torque, and what happens when. Inrush are the
// highest instantaneous amps of the start, CapacitorPeak the highest volts of each
// capacitor, StartKeeps what the start capacitor still holds at the end.
type Trace struct {
	Seconds       []float64
	Channels      [][]float64 // in the order of TraceChannels
	Marks         []Mark
	InrushAmps    float64
	PeakTorqueNm  float64
	CapacitorPeak map[string]float64
	StartKeeps    float64
}

// TraceChannels names the channels of a trace.
var TraceChannels = []string{"ab", "bc", "ca", "a", "b", "c", "rpm", "torque"}

const (
	traceSamples = 100_000
	longestTrace = 8.0 // seconds of the start that are followed
	runBefore    = 0.25
	watchAfter   = 0.75
)

// Scope steps a start and a switch-off through time, with the capacitors and the load
// given.
func Scope(in Input, run, start, share float64) (Trace, error) {
	r := newRig(in)
	r.orient()
	cutOut := 0.0
	if start > 0 {
		cutOut = r.cutOut(run, start)
	}
	up := r.runUp(run, start, share, cutOut)
	c := r.wave(run, start, share, up)
	c.DurationSeconds = 0.6
	out := 0.0
	switch {
	case up.CutOutSeconds != nil:
		// The contact opens at a speed: when that comes is asked of the same model.
		var err error
		if out, err = reaches(c, cutOut, math.Min(1.5**up.CutOutSeconds+0.3, longestTrace)); err != nil {
			return Trace{}, err
		}
		c.DurationSeconds = out + runBefore
	case up.Seconds != nil:
		c.DurationSeconds = math.Min(*up.Seconds, longestTrace) + runBefore
	}
	off := c.DurationSeconds
	c.DurationSeconds += watchAfter
	var marks []Mark
	if out > 0 {
		c.Events = append(c.Events, waveform.Event{AtSeconds: out, Switch: startID, To: waveform.Open})
		marks = append(marks, Mark{out, "start out"})
	}
	c.Events = append(c.Events, waveform.Event{AtSeconds: off, Switch: waveform.SupplyID, To: waveform.Open})
	marks = append(marks, Mark{off, "supply off"})
	c.SampleSeconds = c.DurationSeconds / traceSamples
	w, err := waveform.Solve(c)
	if err != nil {
		return Trace{}, err
	}
	s := w.Series.Motors[motorID]
	m := w.Motors[0]
	t := Trace{
		Seconds: w.Series.Seconds,
		Channels: [][]float64{
			w.Series.Volts.AB,
			w.Series.Volts.BC,
			w.Series.Volts.CA,
			s.Amps.A,
			s.Amps.B,
			s.Amps.C,
			s.RPM,
			s.TorqueNm,
		},
		Marks:         marks,
		PeakTorqueNm:  m.PeakTorqueNm,
		CapacitorPeak: map[string]float64{},
		InrushAmps:    m.PeakLineAmps.Max(),
	}
	for _, p := range w.Capacitors {
		t.CapacitorPeak[p.ID] = p.PeakVolts
		if p.ID == startID && out > 0 {
			t.StartKeeps = math.Abs(p.FinalVolts)
		}
	}
	return t, nil
}

// reaches is when the motor comes to a speed in rpm, at the latest after so many
// seconds.
func reaches(c waveform.Case, rpm, latest float64) (float64, error) {
	c.DurationSeconds, c.SampleSeconds = latest, latest/2000
	w, err := waveform.Solve(c)
	if err != nil {
		return 0, err
	}
	for i, n := range w.Series.Motors[motorID].RPM {
		if math.Abs(n) >= rpm {
			return w.Series.Seconds[i], nil
		}
	}
	return latest, nil
}

// wave is the motor on its capacitors, to be stepped through time from standstill, with
// what it drives while it comes up.
func (r *rig) wave(run, start, share float64, up RunUp) waveform.Case {
	n := r.network(0)
	m := waveform.Motor{Motor: n.Motors[0]}
	m.InertiaKgm2 = up.Shaft.RotorKgm2 + up.Shaft.LoadKgm2
	curve := r.in.LoadCurve(share)
	m.Load = &network.Load{Kind: "torque", NewtonMetre: curve.NewtonMetre, AtRPM: curve.AtRPM, Exponent: curve.Exponent}
	c := waveform.Case{
		Supply: waveform.Supply{Supply: r.in.Supply}, Motors: []waveform.Motor{m}, Stop: r.in.Stop,
	}
	for _, p := range []network.Capacitor{{ID: runID, Between: r.pair, Microfarad: run}, {ID: startID, Between: r.pair,
		Microfarad: start}} {
		if p.Microfarad > 0 {
			c.Capacitors = append(c.Capacitors, waveform.Capacitor{Capacitor: p})
		}
	}
	return c
}

// After is what the terminals do once the supply opens on the unloaded motor.
type After struct {
	Off      waveform.Off   `json:"off"`
	Verdicts []rule.Verdict `json:"verdicts" nullable:"false"`
}

// watchSeconds is how long the terminals are watched.
const watchSeconds = 8

// SwitchOff opens the supply on the motor running idle on its run capacitor.
func SwitchOff(in Input, run float64) (After, error) {
	r := newRig(in)
	r.orient()
	idle := r.at(run, 0)
	if idle.Motor != network.Running {
		return After{Verdicts: []rule.Verdict{}}, nil
	}
	s := r.in.Shaft()
	c := r.wave(run, 0, 0, RunUp{Shaft: s})
	c.Motors[0].Load = nil
	c.Motors[0].InitialRPM = r.sense * idle.RPM
	off, err := waveform.SwitchOff(c, watchSeconds)
	if err == nil && len(off.Judge(run)) > 0 {
		err = off.Search(c)
	}
	return After{off, append([]rule.Verdict{}, off.Judge(run)...)}, err
}
