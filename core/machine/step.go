package machine

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

// Transformer is an autotransformer ahead of a machine that cannot be joined for the supply's
// volts: from and to in volts, the standard size in volt-amperes that it passes on, those of
// its own core, and what it takes by itself. It changes volts only; by itself it makes no third
// leg.
type Transformer struct {
	FromVolts float64 `json:"from_volts"`
	ToVolts   float64 `json:"to_volts"`
	VA        float64 `json:"va"`
	OwnVA     float64 `json:"own_va"`
	IdleAmps  float64 `json:"idle_amps"`
	IdleWatts float64 `json:"idle_watts"`
}

// Ratio is its high volts over its low, or the other way where it steps down.
func (t *Transformer) Ratio() float64 { return t.ToVolts / t.FromVolts }

// Winding is the transformer as a network has it: of its throughput only what it makes itself
// passes its windings, so its ohms are that share.
func (t *Transformer) Winding() *network.Winding {
	base := t.ToVolts * t.ToVolts / t.VA * t.OwnVA / t.VA
	idle := t.IdleAmps * t.FromVolts
	return &network.Winding{
		Ratio: t.Ratio(), ResistanceOhm: seriesOhm * base, ReactanceOhm: seriesLeakage * base,
		CoreOhm:        t.FromVolts * t.FromVolts / t.IdleWatts,
		MagnetisingOhm: t.FromVolts * t.FromVolts / math.Sqrt(idle*idle-t.IdleWatts*t.IdleWatts),
		RatedVA:        t.VA,
	}
}

// transformerVA are the standard sizes of single-phase transformers in volt-amperes (from 10 kVA
// IEEE C57.12.00), past what a residential service gives.
var transformerVA = []float64{
	500, 750, 1000, 1500, 2000, 3000, 5000, 7500, 10000, 15000, 25000, 37500, 50000, 75000, 100000, 167000, 250000,
	333000, 500000,
}

// What a usual small transformer is made like: of its own volt-amperes, its resistance, its
// leakage, its iron's amps and watts (shop practice).
const (
	seriesOhm     = 0.025
	seriesLeakage = 0.03
	idleShare     = 0.06
	ironShare     = 0.012
)

// Isolating is a transformer of two windings between volts, of a size in volt-amperes and an impedance in
// percent, 0 for a usual one, as a network has it.
func Isolating(from, to, va, percent float64) *network.Winding {
	times := 1.0
	if percent > 0 {
		times = percent / 100 / math.Hypot(seriesOhm, seriesLeakage)
	}
	base := to * to / va
	return &network.Winding{
		Ratio: to / from, ResistanceOhm: times * seriesOhm * base, ReactanceOhm: times * seriesLeakage * base,
		CoreOhm:        from * from / (ironShare * va),
		MagnetisingOhm: from * from / (va * math.Sqrt(idleShare*idleShare-ironShare*ironShare)), RatedVA: va,
	}
}

// transformer is what stands ahead of the machine, nil where it may be fed across the supply's
// volts, with a caution or without.
func (m *Machine) transformer() *Transformer {
	s := plate.Supply{Volts: m.Supply.Volts, Hertz: m.Supply.Hertz}
	step, flux := plate.TransformerFor(m.Plate, s), m.FluxPercent()
	if step == nil || flux > rule.Limit("supply.third-of-torque", "most_flux_percent") &&
		flux <= rule.Limit("supply.far-over-flux", "most_percent") {
		return nil
	}
	t := &Transformer{FromVolts: step.FromVolts, ToVolts: step.ToVolts, VA: step.VA}
	for _, size := range transformerVA {
		if size >= step.VA {
			t.VA = size
			break
		}
	}
	t.OwnVA = t.VA * (1 - math.Min(t.FromVolts, t.ToVolts)/math.Max(t.FromVolts, t.ToVolts))
	t.IdleAmps, t.IdleWatts = idleShare*t.OwnVA/t.FromVolts, ironShare*t.OwnVA
	return t
}

// Stepped is the machine behind an autotransformer where the supply's volts would stop it, and
// the machine as it is where they would not: its supply is then what the transformer gives, the
// source's ohms seen through it and its own in series. What it takes from the mains is Mains.
func (m Machine) Stepped() Machine {
	t := m.transformer()
	if t == nil || m.Step != nil {
		return m
	}
	ratio, own := t.Ratio(), t.Winding()
	m.Step = t
	m.Supply = network.Supply{
		Phases: m.Supply.Phases, Volts: t.ToVolts, Hertz: m.Supply.Hertz, Earthing: m.Supply.Earthing,
		ResistanceOhm: m.Supply.ResistanceOhm*ratio*ratio + own.ResistanceOhm,
		ReactanceOhm:  m.Supply.ReactanceOhm*ratio*ratio + own.ReactanceOhm,
	}
	return m
}

// Mains are the supply's amps where its lines take so many: those of its transformer, and
// what that takes itself, added as if they were in phase.
func (m *Machine) Mains(amps float64) float64 {
	if m.Step == nil {
		return amps
	}
	return amps*m.Step.Ratio() + m.Step.IdleAmps
}

// MainsVolts are the supply's, ahead of its transformer.
func (m *Machine) MainsVolts() float64 {
	if m.Step == nil {
		return m.Supply.Volts
	}
	return m.Step.FromVolts
}

// MainsWatts are the supply's watts where its lines take so many.
func (m *Machine) MainsWatts(watts float64) float64 {
	if m.Step == nil {
		return watts
	}
	return watts + m.Step.IdleWatts
}
