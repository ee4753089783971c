package motor

import (
	"fmt"
	"math"
	"strings"

	"brackmoor/core/rule"
	"brackmoor/core/search"
)

// Thermal is a motor as bodies that store heat: each winding, and the frame with the
// iron. Rises are in kelvin over ambient at plate load on balanced lines, settled;
// minutes are time constants of winding to frame and of frame to air. A shaft fan
// stands with its motor: StandingShare of the frame's cooling is left then. CopperShare is
// what the stator's copper has of the losses at plate load: it heats the windings, and through
// them the frame; the rest heats the frame at once. LimitC is what the insulation bears, by
// resistance.
type Thermal struct {
	AmbientC       float64 `json:"ambient_c"`
	WindingRiseK   float64 `json:"winding_rise_k"`
	RiseAssumed    bool    `json:"rise_assumed"`
	FrameRiseK     float64 `json:"frame_rise_k"`
	WindingMinutes float64 `json:"winding_minutes"`
	FrameMinutes   float64 `json:"frame_minutes"`
	StandingShare  float64 `json:"standing_share"`
	CopperShare    float64 `json:"copper_share"`
	LimitC         float64 `json:"limit_c"`
	Class          string  `json:"class"`
	ClassAssumed   bool    `json:"class_assumed"`
}

// classRise is the temperature rise that a class of insulation bears over 40 °C, by
// resistance (IEC 60034-1, table of indirect air cooling below 600 kW; NEMA MG 1,
// 12.43).
var classRise = map[string]float64{"A": 60, "E": 75, "B": 80, "F": 105, "H": 125}

// Body is a motor as far as it stores heat: its output in watts, its insulation class (empty
// where unknown: B is then assumed), the rise in kelvin that its plate states (0 for none), the
// air around it in °C, the mass in kg that its frame is usual for (0 where the frame is not
// known), what it loses at plate load in watts and the share of the stator's copper in that
// (0 where not known), and whether air goes through it.
type Body struct {
	Watts       float64
	Class       string
	RiseK       float64
	AmbientC    float64
	MassKg      float64
	LostWatts   float64
	CopperShare float64
	Open        bool
}

// cooled is how a kind of enclosure gives its heat off, between textbook values of small
// machines: what share of the winding's rise the frame shows, what is left of its cooling at
// standstill, its mass and its copper's current density over those of a closed one.
type cooled struct{ frame, standing, mass, density float64 }

var (
	closed = cooled{0.55, 0.35, 1, 1}
	open   = cooled{0.40, 0.25, 0.8, 1.15} // air goes through it, over the windings themselves
)

const (
	ratedAmbientC = 40
	usualRiseK    = 80  // what most motors of class B and F rise by at plate load
	usualCopper   = 0.4 // share of the stator's copper in all losses, small motors
	usualLoss     = 0.22

	// J/(kg·K): steel has 480, aluminium 900, copper 385.
	massHeat = 480.0
	// A winding's first rise at plate amps is ρ·J²/(c·γ): ρ of hot copper in Ω·m, c·γ in
	// J/(m³·K), with a quarter more for insulation and the teeth's share.
	copperOhm  = 2.2e-8
	copperHeat = 3.45e6
	insulation = 1.25
)

// ThermalOf is the usual thermal model of a standard motor. The frame's time constant is its
// mass times what a kilogram stores over what it gives off a kelvin; the winding's follows from
// the current density that is usual for its size (4 to 7 A/mm²). Both are assumed, to a third
// either way: Doubt.
func ThermalOf(b Body) Thermal {
	kind := closed
	if b.Open {
		kind = open
	}
	t := Thermal{AmbientC: b.AmbientC, StandingShare: kind.standing, Class: strings.ToUpper(b.Class)}
	limit, known := classRise[t.Class]
	if !known {
		t.Class, t.ClassAssumed, limit = "B", true, classRise["B"]
	}
	t.LimitC = ratedAmbientC + limit
	t.WindingRiseK = b.RiseK
	if b.RiseK <= 0 {
		t.WindingRiseK, t.RiseAssumed = math.Min(usualRiseK, limit), true
	}
	t.FrameRiseK = kind.frame * t.WindingRiseK
	kilowatts := math.Max(b.Watts, 50) / 1000
	mass, lost := b.MassKg, b.LostWatts
	if mass <= 0 {
		mass = 13.5 * math.Pow(kilowatts, 0.7) // usual mass of four poles
	}
	if lost <= 0 {
		lost = usualLoss * 1000 * math.Pow(kilowatts, 0.75)
	}
	t.CopperShare = b.CopperShare
	if t.CopperShare <= 0 {
		t.CopperShare = usualCopper
	}
	t.FrameMinutes = kind.mass * mass * massHeat * t.FrameRiseK / lost / 60
	density := kind.density * 6.3e6 * math.Pow(kilowatts, -0.08) // A/m²
	first := copperOhm * density * density / (insulation * copperHeat)
	t.WindingMinutes = (t.WindingRiseK - t.FrameRiseK) / first / 60
	return t
}

// MassOf is the usual mass in kg of a motor of a shaft height in mm, which goes nearly as its
// cube: 9 kg at 71, 24 at 100, 54 at 132, 94 at 160.
func MassOf(heightMM float64) float64 { return 24 * math.Pow(heightMM/100, 2.9) }

// Doubt is the model at its less and at its more favourable end: time constants a third off
// and, where the plate states no rise, a tenth of the rise.
func (t Thermal) Doubt() (worse, better Thermal) {
	const minutes, rise = 1.4, 1.1
	worse, better = t, t
	worse.WindingMinutes, worse.FrameMinutes = t.WindingMinutes/minutes, t.FrameMinutes/minutes
	better.WindingMinutes, better.FrameMinutes = t.WindingMinutes*minutes, t.FrameMinutes*minutes
	if t.RiseAssumed {
		worse.WindingRiseK, worse.FrameRiseK = t.WindingRiseK*rise, t.FrameRiseK*rise
		better.WindingRiseK, better.FrameRiseK = t.WindingRiseK/rise, t.FrameRiseK/rise
	}
	return worse, better
}

// Heating is what heats at one state of running: the square of each winding's amps over
// rated, and all losses over those at plate load. A motor that stands takes none.
type Heating struct {
	Windings [3]float64
	Losses   float64
	Turning  bool
}

// Spell is a time in minutes in one state.
type Spell struct {
	Minutes float64
	Heating
}

// Temperatures are °C at one time.
type Temperatures struct {
	Minutes  float64    `json:"minutes"`
	Windings [3]float64 `json:"windings_c" nullable:"false"`
	Frame    float64    `json:"frame_c"`
}

// Hottest is the hottest winding.
func (t Temperatures) Hottest() float64 { return max(t.Windings[0], t.Windings[1], t.Windings[2]) }

// copperZero is minus the temperature at which copper's resistance would be nothing, by
// its slope about 20 °C (IEC 60034-1).
const copperZero = 234.5

// runaway bounds temperatures, °C: a winding has burnt long before.
const runaway = 1000

// heat is by how much copper at a temperature in °C loses more than at rated heat.
func (t Thermal) heat(celsius float64) float64 {
	return (copperZero + celsius) / (copperZero + t.AmbientC + t.WindingRiseK)
}

// slope is the change of all temperatures in kelvin a minute.
func (t Thermal) slope(h Heating, at Temperatures) (d Temperatures) {
	cooling := 1.0
	if !h.Turning {
		cooling = t.StandingShare
	}
	for k, w := range at.Windings {
		gain := h.Windings[k] * (t.WindingRiseK - t.FrameRiseK) * t.heat(math.Min(w, runaway))
		d.Windings[k] = (gain - (w - at.Frame)) / t.WindingMinutes
	}
	through := 0.0
	for _, w := range at.Windings {
		through += (w - at.Frame) / 3
	}
	gain := t.direct(h) + t.CopperShare*through/(t.WindingRiseK-t.FrameRiseK)
	d.Frame = (gain*t.FrameRiseK - cooling*(at.Frame-t.AmbientC)) / t.FrameMinutes
	return d
}

// direct is what heats the frame at once, over the losses at plate load: all losses but those
// of the stator's copper, which come through the windings.
func (t Thermal) direct(h Heating) float64 {
	return math.Max(0, h.Losses-t.CopperShare*(h.Windings[0]+h.Windings[1]+h.Windings[2])/3)
}

func (t Temperatures) plus(d Temperatures, h float64) Temperatures {
	for k := range t.Windings {
		t.Windings[k] = math.Min(t.Windings[k]+h*d.Windings[k], runaway)
	}
	t.Frame = math.Min(t.Frame+h*d.Frame, runaway)
	t.Minutes += h
	return t
}

// Session repeats the spells of a duty from cold until a time in minutes is over, and
// returns the temperatures over it, a few hundred of them, every spell's end among
// them. Spells without a length are passed over.
func (t Thermal) Session(duty []Spell, minutes float64) []Temperatures {
	now := t.Cold()
	list := []Temperatures{now}
	whole := 0.0
	for _, s := range duty {
		whole += math.Max(s.Minutes, 0)
	}
	if !(whole > 0) || !(minutes > 0) {
		return list
	}
	const most, points = 1000, 400.0
	if whole < minutes/most {
		duty = []Spell{mean(duty, whole, minutes)}
	}
	step := math.Max(t.WindingMinutes/10, minutes/most/20)
	every := minutes / points
	for now.Minutes < minutes*(1-1e-12) {
		for _, s := range duty {
			end := math.Min(now.Minutes+math.Max(s.Minutes, 0), minutes)
			for now.Minutes < end*(1-1e-12) {
				h := math.Min(step, end-now.Minutes)
				now = t.step(s.Heating, now, h)
				if now.Minutes >= list[len(list)-1].Minutes+every || now.Minutes >= end*(1-1e-12) {
					list = append(list, now)
				}
			}
		}
	}
	return list
}

// step goes on by so many minutes, few against the time constants (the classical method of Runge and Kutta).
func (t Thermal) step(heating Heating, now Temperatures, h float64) Temperatures {
	k1 := t.slope(heating, now)
	k2 := t.slope(heating, now.plus(k1, h/2))
	k3 := t.slope(heating, now.plus(k2, h/2))
	k4 := t.slope(heating, now.plus(k3, h))
	at := now.Minutes
	now = now.plus(k1, h/6).plus(k2, h/3).plus(k3, h/3).plus(k4, h/6)
	now.Minutes = at + h
	return now
}

// Cold is a motor that has stood for long.
func (t Thermal) Cold() Temperatures {
	return Temperatures{Windings: [3]float64{t.AmbientC, t.AmbientC, t.AmbientC}, Frame: t.AmbientC}
}

// On goes on from temperatures by so many minutes in one state.
func (t Thermal) On(heating Heating, now Temperatures, minutes float64) Temperatures {
	most := t.WindingMinutes / 10
	for minutes > 0 {
		h := math.Min(most, minutes)
		now = t.step(heating, now, h)
		minutes -= h
	}
	return now
}

// mean is a duty of spells too short to be told apart, as one.
func mean(duty []Spell, whole, minutes float64) Spell {
	m := Spell{Minutes: minutes}
	turning := 0.0
	for _, s := range duty {
		share := math.Max(s.Minutes, 0) / whole
		for k, q := range s.Windings {
			m.Windings[k] += share * q
		}
		m.Losses += share * s.Losses
		if s.Turning {
			turning += share
		}
	}
	m.Turning = turning > 0.5
	return m
}

// Settled is where the temperatures end when a state goes on for good; a state that
// runs away ends at the bound.
func (t Thermal) Settled(h Heating) Temperatures {
	cooling := 1.0
	if !h.Turning {
		cooling = t.StandingShare
	}
	// w = F + g·(z + w) with g = q·Δ/(z + rated), and F − air = D + s·R/Δ·mean(w − F): straight
	// in F as long as no winding runs away.
	z, rise := copperZero, t.WindingRiseK-t.FrameRiseK
	var gain [3]float64
	through, settles := 0.0, true
	for k, q := range h.Windings {
		gain[k] = q * rise / (z + t.AmbientC + t.WindingRiseK)
		settles = settles && gain[k] < 1
		through += t.CopperShare * t.FrameRiseK / rise * gain[k] / (1 - gain[k]) / 3 / cooling
	}
	if settles = settles && through < 1; !settles {
		return Temperatures{Windings: [3]float64{runaway, runaway, runaway}, Frame: runaway}
	}
	var s Temperatures
	s.Frame = math.Min((t.AmbientC+t.direct(h)*t.FrameRiseK/cooling+z*through)/(1-through), runaway)
	for k := range h.Windings {
		s.Windings[k] = math.Min((s.Frame+gain[k]*z)/(1-gain[k]), runaway)
	}
	return s
}

// StartRiseK is by how many kelvin a start heats each winding, its heat not yet gone
// anywhere: ratedAmps2Seconds is ∫(amps/rated)²dt, as heat at rated temperature.
func (t Thermal) StartRiseK(ratedAmps2Seconds float64) float64 {
	return ratedAmps2Seconds / 60 / t.WindingMinutes * (t.WindingRiseK - t.FrameRiseK)
}

// StartsPerHour is how many evenly spread starts the hottest winding bears beside
// running in a state: after each, settled, it is at the limit. starts are the windings'
// ∫(amps/rated)²dt in seconds, joules the copper heat of one start, ratedLossWatts the
// losses at plate load.
func (t Thermal) StartsPerHour(running Heating, starts [3]float64, joules, ratedLossWatts float64) float64 {
	rise := 0.0
	for _, s := range starts {
		rise = math.Max(rise, t.StartRiseK(s))
	}
	good := func(n float64) bool {
		h := running
		for k := range h.Windings {
			h.Windings[k] += n * starts[k] / 3600
		}
		h.Losses += n * joules / 3600 / ratedLossWatts
		return t.Settled(h).Hottest()+rise <= t.LimitC
	}
	if !good(0) {
		return 0
	}
	low, high := 0.0, 1.0
	for good(high) && high < 4096 {
		low, high = high, 2*high
	}
	return search.Edge(low, high, 40, good)
}

// HottestOf is the hottest moment of a session.
func HottestOf(session []Temperatures) (worst Temperatures) {
	for _, at := range session {
		if at.Hottest() > worst.Hottest() {
			worst = at
		}
	}
	return worst
}

// SessionMinutes is how long a session of a duty is followed.
const SessionMinutes = 240

// Hottest is the most that a winding comes to in °C over a round of spells, gone through again and
// again for a session; a single spell counts as going on for good.
func (t Thermal) Hottest(round []Spell) float64 {
	if len(round) == 1 {
		return t.Settled(round[0].Heating).Hottest()
	}
	return HottestOf(t.Session(round, SessionMinutes)).Hottest()
}

// MostShare is the largest share of plate output, a fifth above it at most, at which a
// round of spells, gone through again and again for a session, keeps the hottest winding
// within its limit; nil where none does. spells gives nothing where the motor
// does not run; a single spell counts as going on for good.
func (t Thermal) MostShare(spells func(share float64) []Spell) *float64 {
	good := func(share float64) bool {
		round := spells(share)
		return len(round) > 0 && t.Hottest(round) <= t.LimitC
	}
	// From plate load down: the first that is borne, then closely.
	const steps, top = 20, 1.2
	for i := steps; i >= 0; i-- {
		low := float64(i) / steps
		if !good(low) {
			continue
		}
		high := low + 1.0/steps
		if i == steps {
			high = top
		}
		return new(search.Edge(low, high, 6, good))
	}
	return nil
}

// MostShares is MostShare, and between which shares it lies by what is not known of the motor;
// the band reaches down to nothing where the worse end bears none.
func (t Thermal) MostShares(spells func(share float64) []Spell) (most *float64, band [2]float64) {
	seen := map[float64][]Spell{}
	once := func(share float64) []Spell {
		round, ok := seen[share]
		if !ok {
			round = spells(share)
			seen[share] = round
		}
		return round
	}
	worse, better := t.Doubt()
	if most = t.MostShare(once); most == nil {
		return nil, band
	}
	for i, end := range []Thermal{worse, better} {
		if share := end.MostShare(once); share != nil {
			band[i] = *share
		}
	}
	return most, band
}

// Work is a round of minutes at work and of rest, for a motor whose start is not counted;
// without rest it is a single spell.
func (h Heating) Work(on, off float64) []Spell {
	if off <= 0 {
		return []Spell{{Minutes: on, Heating: h}}
	}
	return []Spell{{Minutes: on, Heating: h}, {Minutes: off}}
}

// unseenKelvin is a difference that degrees as they are printed do not show.
const unseenKelvin = 0.5

// Judge says what must be said of a session's temperatures.
func (t Thermal) Judge(session []Temperatures) (verdicts []rule.Verdict) {
	var worst Temperatures
	for _, at := range session {
		if at.Hottest() > worst.Hottest() {
			worst = at
		}
	}
	hottest := worst.Hottest()
	if hottest > t.LimitC+unseenKelvin {
		says := fmt.Sprintf("The hottest winding comes to %.0f °C; class %s bears %.0f.", hottest, t.Class, t.LimitC)
		if hottest >= runaway {
			says = fmt.Sprintf("The hottest winding runs away past what class %s bears, %.0f °C.", t.Class, t.LimitC)
		}
		verdicts = append(
			verdicts,
			rule.Speak("heat.past-class", rule.Numbers{"hottest_c": hottest, "limit_c": t.LimitC},
				"Less load, shorter spells, longer pauses, or another route.", "%s", says),
		)
	}
	if over := hottest - worst.Frame; over > rule.Limit("heat.frame-hides", "most_kelvin_share")*t.WindingRiseK {
		verdicts = append(
			verdicts,
			rule.Speak("heat.frame-hides", rule.Numbers{"hottest_c": hottest, "frame_c": worst.Frame},
				"Judge by the amps of the hottest winding, not by hand or thermometer on the frame.",
				"The hottest winding is at %.0f °C while the frame shows %.0f.", hottest, worst.Frame),
		)
	}
	return verdicts
}
