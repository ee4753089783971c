package server

import (
	"context"
	"math"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/waveform"
)

// tried is a way with what is tried on it.
type tried struct {
	sized
	run, start, share float64
}

type traced struct {
	trace capacitor.Trace
	err   error
}

// ScopeView is a window of a trace, thinned to what a picture can show: channels by their
// names, at shared instants.
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

// scopeWindow is a window of a trace, and what is tried; -1 leaves a choice standing.
type scopeWindow struct {
	OnWay
	Run     float64  `query:"run_microfarad" default:"-1" minimum:"-1" maximum:"5000"`
	Start   float64  `query:"start_microfarad" default:"-1" minimum:"-1" maximum:"5000"`
	Share   float64  `query:"load_share" default:"-1" minimum:"-1" maximum:"1"`
	From    float64  `query:"from" default:"0" minimum:"0" maximum:"1000" doc:"seconds"`
	To      float64  `query:"to" default:"100" minimum:"0" maximum:"1000" doc:"seconds"`
	Asked   []string `query:"channels,explode" maxItems:"16" doc:"channels by name; all of them where none is named"`
	Buckets int      `query:"buckets" default:"600" minimum:"10" maximum:"4000" doc:"pairs of least and greatest values"`
}

// Resolve refuses what passes every bound and is no number.
func (in *scopeWindow) Resolve(huma.Context) (faults []error) {
	for name, value := range map[string]float64{
		"run_microfarad": in.Run, "start_microfarad": in.Start, "load_share": in.Share, "from": in.From, "to": in.To,
	} {
		if math.IsNaN(value) {
			faults = append(faults, &huma.ErrorDetail{Location: "query." + name, Message: "It must be a number."})
		}
	}
	for _, name := range in.Asked {
		if !slices.Contains(capacitor.TraceChannels, name) {
			faults = append(faults, &huma.ErrorDetail{
				Location: "query.channels",
				Message:  "There are these channels: " + strings.Join(capacitor.TraceChannels, ", ") + ".",
				Value:    name,
			})
		}
	}
	return faults
}

// trial is what a window tries.
func (in *scopeWindow) trial() (t Trial) {
	for _, c := range []struct {
		to   **float64
		from *float64
	}{{&t.RunMicrofarad, &in.Run}, {&t.StartMicrofarad, &in.Start}, {&t.LoadShare, &in.Share}} {
		if *c.from >= 0 {
			*c.to = c.from
		}
	}
	return t
}

func (s *service) scopes(api huma.API) {
	huma.Register(
		api,
		operation(
			"scopeWay",
			"GET",
			"/motors/{id}/ways/{way}/scope",
			"A start, a run and a switch-off through time, thinned to a window",
		),
		func(ctx context.Context, in *scopeWindow) (*body[ScopeView], error) {
			key, q, w, err := s.onWay(ctx, in.OnWay)
			if err != nil {
				return nil, err
			}
			scoped, ok := w.(feed.Scoped)
			if !ok {
				return nil, huma.Error404NotFound("There is no scope of this way of feeding.")
			}
			made, err := s.traces.get(
				ctx,
				tried{key, in.Run, in.Start, in.Share},
				slotted(s.slots, func(stop halt.Sign) traced {
					t, err := scoped.Scope(in.trial().into(q, w).Until(stop))
					return traced{t, err}
				}),
			)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			t := made.trace
			var names []string
			var channels [][]float64
			for k, name := range capacitor.TraceChannels {
				if len(in.Asked) == 0 || slices.Contains(in.Asked, name) {
					names, channels = append(names, name), append(channels, t.Channels[k])
				}
			}
			times, thin := waveform.Window(t.Seconds, channels, in.From, in.To, in.Buckets)
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
			waveform.Brief(times, 8)
			for k, name := range names {
				waveform.Brief(thin[k], 5)
				v.Channels[name] = thin[k]
			}
			return &body[ScopeView]{v}, nil
		},
	)
}
