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
// stands with its motor: StandingShare of the frame's cooling is left then. LimitC is
// what the insulation bears, by resistance.
type Thermal struct {
	AmbientC       float64 `json:"ambient_c"`
	WindingRiseK   float64 `json:"winding_rise_k"`
	FrameRiseK     float64 `json:"frame_rise_k"`
	WindingMinutes float64 `json:"winding_minutes"`
	FrameMinutes   float64 `json:"frame_minutes"`
	StandingShare  float64 `json:"standing_share"`
	LimitC         float64 `json:"limit_c"`
	Class          string  `json:"class"`
	ClassAssumed   bool    `json:"class_assumed"`
}

// classRise is the temperature rise that a class of insulation bears over 40 °C, by
// resistance (IEC 60034-1, table of indirect air cooling below 600 kW; NEMA MG 1,
// 12.43).
var classRise = map[string]float64{"A": 60, "E": 75, "B": 80, "F": 105, "H": 125}

const (
	ratedAmbientC = 40
	usualRiseK    = 80   // what most motors of class B and F rise by at plate load
	frameShare    = 0.55 // of the winding's rise, that the frame shows
	standing      = 0.35
)

// ThermalOf is the usual thermal model of a standard enclosed motor by its output in
// watts, its insulation class (empty where unknown: B is then assumed), the rise in
// kelvin that its plate states (0 for none) and the air around it in °C. Time constants
// are assumed, between textbook values of small enclosed machines.
func ThermalOf(watts float64, class string, riseK, ambientC float64) Thermal {
	t := Thermal{AmbientC: ambientC, StandingShare: standing, Class: strings.ToUpper(class)}
	limit, known := classRise[t.Class]
	if !known {
		t.Class, t.ClassAssumed, limit = "B", true, classRise["B"]
	}
	t.LimitC = ratedAmbientC + limit
	t.WindingRiseK = riseK
	if riseK <= 0 {
		t.WindingRiseK = math.Min(usualRiseK, limit)
	}
	t.FrameRiseK = frameShare * t.WindingRiseK
	kilowatts := math.Max(watts, 50) / 1000
	t.WindingMinutes = 4 * math.Pow(kilowatts, 0.2)
	t.FrameMinutes = 30 * math.Pow(kilowatts, 0.25)
	return t
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
	d.Frame = (h.Losses*t.FrameRiseK - cooling*(at.Frame-t.AmbientC)) / t.FrameMinutes
	return d
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
	now := Temperatures{Windings: [3]float64{t.AmbientC, t.AmbientC, t.AmbientC}, Frame: t.AmbientC}
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
	step := math.Max(t.WindingMinutes/20, minutes/most/20)
	every := minutes / points
	for now.Minutes < minutes*(1-1e-12) {
		for _, s := range duty {
			end := math.Min(now.Minutes+math.Max(s.Minutes, 0), minutes)
			for now.Minutes < end*(1-1e-12) {
				h := math.Min(step, end-now.Minutes)
				k1 := t.slope(s.Heating, now)
				k2 := t.slope(s.Heating, now.plus(k1, h/2))
				k3 := t.slope(s.Heating, now.plus(k2, h/2))
				k4 := t.slope(s.Heating, now.plus(k3, h))
				at := now.Minutes
				now = now.plus(k1, h/6).plus(k2, h/3).plus(k3, h/3).plus(k4, h/6)
				now.Minutes = at + h
				if now.Minutes >= list[len(list)-1].Minutes+every || now.Minutes >= end*(1-1e-12) {
					list = append(list, now)
				}
			}
		}
	}
	return list
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
	var s Temperatures
	s.Frame = math.Min(t.AmbientC+h.Losses*t.FrameRiseK/cooling, runaway)
	for k, q := range h.Windings {
		// w = frame + q·Δ·(z + w)/(z + rated), which is straight in w.
		gain := q * (t.WindingRiseK - t.FrameRiseK) / (copperZero + t.AmbientC + t.WindingRiseK)
		s.Windings[k] = runaway
		if gain < 1 {
			s.Windings[k] = math.Min((s.Frame+gain*copperZero)/(1-gain), runaway)
		}
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

// MostShare is the largest share of plate output, a fifth above it at most, at which a
// round of spells, gone through again and again for a session, keeps the hottest winding
// within its limit; nil where none does. spells gives nothing where the motor
// does not run; a single spell counts as going on for good.
func (t Thermal) MostShare(spells func(share float64) []Spell) *float64 {
	good := func(share float64) bool {
		switch round := spells(share); len(round) {
		case 0:
			return false
		case 1:
			return t.Settled(round[0].Heating).Hottest() <= t.LimitC
		default:
			return HottestOf(t.Session(round, SessionMinutes)).Hottest() <= t.LimitC
		}
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
