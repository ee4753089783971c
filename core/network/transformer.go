package network

import (
	"math"
	"math/cmplx"
)

// Winding is a transformer's electrical side: Ratio is secondary volts over primary
// volts. The series ohms are seen from the secondary, at supply hertz, in each line of
// a three-phase transformer and in the whole loop of a one-phase one. CoreOhm and
// MagnetisingOhm lie across its primary (wye-equivalent on three lines), zero for none.
//
// KneePercent is the flux at which its iron saturates, in percent of the peak flux at
// nominal volts; AirCoreOhm the reactance that its primary has beyond it. Both zero
// leave its inrush unasked.
type Winding struct {
	Ratio          float64 `json:"ratio"`
	ResistanceOhm  float64 `json:"resistance_ohm"`
	ReactanceOhm   float64 `json:"reactance_ohm"`
	CoreOhm        float64 `json:"core_ohm"`
	MagnetisingOhm float64 `json:"magnetising_ohm"`
	KneePercent    float64 `json:"knee_percent"`
	AirCoreOhm     float64 `json:"air_core_ohm"`
	RatedVA        float64 `json:"rated_va"`
}

// Transformer is a three-phase one, its windings alike on both sides (wye-wye,
// delta-delta or an autotransformer), so that volts are not turned in phase.
type Transformer struct {
	ID string `json:"id"`
	Winding
}

// TransformerResult is one transformer: amps of its primary lines, volts of its
// secondary ones, watts lost in it, and the peak amps of its primary when switched on
// at the worst instant (nil where its iron is not described).
type TransformerResult struct {
	ID             string   `json:"id,omitempty"`
	Circuit        string   `json:"circuit,omitempty"`
	PrimaryAmps    Legs     `json:"primary_amps"`
	SecondaryVolts Lines    `json:"secondary_volts"`
	Watts          float64  `json:"watts"`
	LoadPercent    *float64 `json:"load_percent"`
	InrushPeakAmps *float64 `json:"inrush_peak_amps"`
}

func (w *Winding) ohms() complex128 { return complex(w.ResistanceOhm, w.ReactanceOhm) }

// idle is the admittance of the iron across the primary.
func (w *Winding) idle() (y complex128) {
	if w.CoreOhm > 0 {
		y += complex(1/w.CoreOhm, 0)
	}
	if w.MagnetisingOhm > 0 {
		y += complex(0, -1/w.MagnetisingOhm)
	}
	return y
}

func (r *TransformerResult) load(w *Winding, voltAmperes float64) {
	if w.RatedVA > 0 {
		percent := 100 * voltAmperes / w.RatedVA
		r.LoadPercent = &percent
	}
}

// result reads a three-phase transformer out, and the watts lost in it.
func (b *bank) result(s *Solver) (TransformerResult, float64) {
	i1, i2 := b.v1*b.y1, b.v2*b.y2 // secondary lines
	ratio := complex(b.Ratio, 0)
	primary1, primary2 := ratio*i1+s.v1*b.idle(), ratio*i2+s.v2*b.idle()
	node := lines(b.v1, b.v2)
	watts := 3*(square(i1)+square(i2))*b.ResistanceOhm + 3*(square(s.v1)+square(s.v2))*real(b.idle())
	r := TransformerResult{ID: b.ID, PrimaryAmps: legs(lines(primary1, primary2)), Watts: watts,
		SecondaryVolts: Lines{cmplx.Abs(node[0] - node[1]), cmplx.Abs(node[1] - node[2]), cmplx.Abs(node[2] - node[0])}}
	r.load(&b.Winding, 3*math.Sqrt(square(s.v1)+square(s.v2))*math.Sqrt(square(primary1)+square(primary2)))
	r.InrushPeakAmps = b.Inrush(s.behind())
	return r, watts
}

// behind is the supply as it is seen from the lines, past its own transformer.
func (s *Solver) behind() Supply {
	seen := s.supply
	if t := seen.Transformer; t != nil {
		seen.Volts *= t.Ratio
	}
	seen.ResistanceOhm, seen.ReactanceOhm = real(s.series), imag(s.series)
	return seen
}

// remanence is the flux that iron keeps, as a share of its nominal peak: a usual high
// value of stacked cores (Fitzgerald, Electric Machinery, chapter 2, on inrush).
const remanence = 0.6

// Inrush is the highest peak of primary amps after switching on with nothing behind
// it: at the zero of the volts, the iron's remanence the same way. The worst winding of
// three sees line to neutral volts. It steps flux linkage over the first cycle, the
// source's ohms and the windings' resistance in the loop. Nil where the iron is not
// described.
func (w *Winding) Inrush(s Supply) *float64 {
	if w.KneePercent <= 0 || w.AirCoreOhm <= 0 {
		return nil
	}
	volts := s.Volts
	if s.Phases == 3 {
		volts /= math.Sqrt(3)
	}
	omega := 2 * math.Pi * s.Hertz
	nominal := math.Sqrt2 * volts / omega
	knee := w.KneePercent / 100 * nominal
	air, source := w.AirCoreOhm/omega, s.ReactanceOhm/omega
	iron := math.Inf(1)
	if w.MagnetisingOhm > 0 {
		iron = w.MagnetisingOhm / omega
	}
	ohm := s.ResistanceOhm + w.ResistanceOhm/(w.Ratio*w.Ratio)
	// amps for the loop's whole linkage: that of the iron and of the source's reactance.
	amps := func(linkage float64) float64 {
		size := math.Abs(linkage)
		atKnee := knee / iron
		if limit := knee + source*atKnee; size > limit {
			return math.Copysign(atKnee+(size-limit)/(air+source), linkage)
		}
		return linkage / (iron + source)
	}
	slope := func(t, linkage float64) float64 {
		return math.Sqrt2*volts*math.Sin(omega*t) - ohm*amps(linkage)
	}
	const steps = 2000
	h := 1 / s.Hertz / steps
	linkage, peak := remanence*nominal, 0.0
	for i := range steps {
		t := float64(i) * h
		k1 := slope(t, linkage)
		k2 := slope(t+h/2, linkage+h/2*k1)
		k3 := slope(t+h/2, linkage+h/2*k2)
		k4 := slope(t+h, linkage+h*k3)
		linkage += h / 6 * (k1 + 2*k2 + 2*k3 + k4)
		peak = math.Max(peak, math.Abs(amps(linkage)))
	}
	return &peak
}
