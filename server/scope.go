package server

import (
	"context"
	"errors"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/capacitor"
	"brackmoor/core/drive"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/core/study"
	"brackmoor/core/waveform"
	"brackmoor/sheet"
	"brackmoor/store"
)

// tried is a motor at a version on its shop's supply, with capacitors and load.
type tried struct {
	motor, route      string
	motorV, shopV     int
	run, start, share float64
}

type traced struct {
	trace capacitor.Trace
	err   error
}

type opened struct {
	after capacitor.After
	err   error
}

type sized struct {
	answer drive.Answer
	err    error
}

// ScopeView is a window of a trace, thinned to what a picture can show: every channel by
// its name, at shared instants.
type ScopeView struct {
	Seconds  []float64            `json:"t_s" nullable:"false"`
	Channels map[string][]float64 `json:"channels"`
	Marks    []capacitor.Mark     `json:"marks" nullable:"false"`
	End      float64              `json:"end_s"`
	Samples  int                  `json:"samples"` // of the whole trace

	InrushAmps    float64            `json:"inrush_amps"`
	PeakTorqueNm  float64            `json:"peak_torque_nm"`
	CapacitorPeak map[string]float64 `json:"capacitor_peak_volts"`
	StartKeeps    float64            `json:"start_keeps_volts"`
}

type scopeWindow struct {
	WhatIf
	From    float64 `query:"from" default:"0" minimum:"0" maximum:"1000" doc:"seconds"`
	To      float64 `query:"to" default:"100" minimum:"0" maximum:"1000" doc:"seconds"`
	Buckets int     `query:"buckets" default:"600" minimum:"10" maximum:"4000" doc:"pairs of least and greatest values"`
}

// DriveView is a drive sized for the motor, and its figures.
type DriveView struct {
	Answer     drive.Answer    `json:"answer"`
	Headline   []sheet.Row     `json:"headline" nullable:"false"`
	Rows       []sheet.Row     `json:"rows" nullable:"false"`
	Controls   []drive.Control `json:"controls" nullable:"false"`
	Several    drive.Several   `json:"several"`
	ChangeOver []string        `json:"change_over" nullable:"false"` // for a supply with lower volts
}

// choices are the capacitors and the load that a what-if stands for.
func (in WhatIf) choices(p store.Place, st study.Study) tried {
	t := tried{p.Motor.ID, st.Route(), p.Motor.Version, p.Shop.Version, in.Run, in.Start, in.Share}
	if min(in.Run, in.Start, in.Share) < 0 {
		l := st.Size().Live
		for _, c := range []struct {
			to   *float64
			kept float64
		}{{&t.run, l.RunMicrofarad}, {&t.start, l.StartMicrofarad}, {&t.share, l.LoadShare}} {
			if *c.to < 0 {
				*c.to = c.kept
			}
		}
	}
	return t
}

// unstepped words a case that could not be stepped through.
func (s *service) unstepped(ctx context.Context, err error) error {
	for _, known := range []error{rectifier.ErrCollapse, rectifier.ErrSwing, rectifier.ErrBudget} {
		if errors.Is(err, known) {
			return huma.Error409Conflict("The drive's front end finds no steady state here: " + known.Error() + ".")
		}
	}
	if errors.Is(err, waveform.ErrBudget) {
		return huma.Error409Conflict(
			"This takes more steps through time than are spent on one: try other capacitors or a lighter load.",
		)
	}
	return s.fault(ctx, err)
}

func (s *service) scopes(api huma.API) {
	s.traces.most, s.offs.most, s.drives.most = 6, 200, 100
	huma.Register(
		api,
		operation(
			"scopeOfMotor",
			"GET",
			"/motors/{id}/scope",
			"A start, a run and a switch-off through time, thinned to a window",
		),
		func(ctx context.Context, in *scopeWindow) (*body[ScopeView], error) {
			p, st, err := s.studied(ctx, in.WhatIf)
			if err != nil {
				return nil, err
			}
			key := in.choices(p, st)
			made := s.traces.get(key, func() traced {
				t, err := st.Scope(key.run, key.start, key.share)
				return traced{t, err}
			})
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			t := made.trace
			times, thin := waveform.Window(t.Seconds, t.Channels, in.From, in.To, in.Buckets)
			v := ScopeView{
				Seconds:       times,
				Channels:      map[string][]float64{},
				Marks:         t.Marks,
				End:           t.Seconds[len(t.Seconds)-1],
				Samples:       len(t.Seconds),
				InrushAmps:    t.InrushAmps,
				PeakTorqueNm:  t.PeakTorqueNm,
				CapacitorPeak: t.CapacitorPeak,
				StartKeeps:    t.StartKeeps,
			}
			for k, name := range capacitor.TraceChannels {
				v.Channels[name] = thin[k]
			}
			return &body[ScopeView]{v}, nil
		},
	)
	huma.Register(
		api,
		operation("driveOfMotor", "GET", "/motors/{id}/drive", "A drive sized for the motor on one phase"),
		func(ctx context.Context, in *WhatIf) (*body[DriveView], error) {
			p, st, err := s.studied(ctx, *in)
			if err != nil {
				return nil, err
			}
			key := in.choices(p, st)
			key.run, key.start = 0, 0
			share := key.share
			if in.Quick {
				key.run, key.share = 1, 0 // one for all that are tried
			}
			made := s.drives.get(key, func() sized {
				a, err := st.Drive(share, p.Motor.Matters)
				return sized{a, err}
			})
			if made.err == nil && in.Quick {
				made.answer, made.err = st.TryDrive(made.answer, share, p.Motor.Matters)
			}
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			a := &made.answer
			v := DriveView{
				*a,
				sheet.DriveHeadline(a),
				sheet.DriveRows(a),
				drive.Controls(p.Motor.Matters.Existing()),
				drive.Share(study.Others(p.Machine, p.Shop.Supply), p.Motor.Way.OneEach),
				st.ChangeOver(a),
			}
			v.Answer.Verdicts = rule.Sorted(append(append([]rule.Verdict{}, a.Verdicts...), v.Several.Verdicts...))
			return &body[DriveView]{v}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"switchOffMotor",
			"GET",
			"/motors/{id}/off",
			"What the terminals do once the supply opens on the unloaded motor",
		),
		func(ctx context.Context, in *WhatIf) (*body[capacitor.After], error) {
			p, st, err := s.studied(ctx, *in)
			if err != nil {
				return nil, err
			}
			key := in.choices(p, st)
			key.start, key.share = 0, 0 // the start capacitor is long out, and nothing is on the spindle
			made := s.offs.get(key, func() opened {
				after, err := st.SwitchOff(key.run)
				return opened{after, err}
			})
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			return &body[capacitor.After]{made.after}, nil
		},
	)
}
