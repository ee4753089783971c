package study

import (
	"fmt"
	"math"

	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
)

// SuitRow is one figure of the motor on its own volts and hertz and on the supply's.
type SuitRow struct {
	Name string `json:"name"`
	Unit string `json:"unit"`
	Own  string `json:"own" told:"figures"`
	Here string `json:"here" told:"figures"`
}

// Remedy is something that would put a motor's volts per hertz right.
type Remedy struct {
	Title string `json:"title"`
	Says  string `json:"says" told:"figures"`
}

// Suit is a plate against a supply: what the model says of the motor on balanced
// lines of the supply's volts and hertz, and what would suit it better.
type Suit struct {
	Plate    string    `json:"plate"`
	Supply   string    `json:"supply"`
	Flux     float64   `json:"flux_percent"`
	Suits    bool      `json:"suits"`
	Rows     []SuitRow `json:"rows" nullable:"false"`
	Remedies []Remedy  `json:"remedies" nullable:"false"`
}

// onLines is the motor on balanced lines.
type onLines struct {
	idleAmps, loadedAmps, loadedRPM float64
	loadedWatts, copper             float64 // at rated torque; copper in watts, stator and rotor
	standingNm, breakdownNm         float64
	stalls                          bool
}

// onBalanced solves the studied motor on three balanced lines at rated torque, idle,
// standing, and where its torque is highest.
func (s Study) onBalanced(volts, hertz float64) onLines {
	m := s.Machine.NetworkMotor("motor")
	lines := network.Supply{Phases: 3, Volts: volts, Hertz: hertz}
	solve := func(edit func(*network.Motor)) (network.MotorResult, bool) {
		one := m
		edit(&one)
		r, err := network.Solve(network.Case{Supply: lines, Motors: []network.Motor{one}})
		if err != nil {
			return network.MotorResult{}, false
		}
		return r.Motors[0], true
	}
	var o onLines
	held := func(slip float64) float64 {
		r, _ := solve(func(m *network.Motor) { m.Slip = &slip })
		return r.TorqueNm
	}
	o.standingNm = held(1)
	for i := range 40 {
		o.breakdownNm = math.Max(o.breakdownNm, held(math.Pow(0.01, 1-float64(i)/39)))
	}
	if r, ok := solve(func(m *network.Motor) { m.Load = &network.Load{Kind: "power"} }); ok {
		o.idleAmps = r.LineAmps.A
	}
	r, ok := solve(func(m *network.Motor) {
		m.Load = &network.Load{Kind: "torque", NewtonMetre: s.Machine.Fit.RatedNm, AtRPM: s.Plate.RPM.Value}
	})
	o.stalls = !ok || r.State != network.Running
	if !o.stalls {
		o.loadedAmps, o.loadedRPM, o.loadedWatts = r.LineAmps.A, r.RPM, r.ShaftWatts
		slip := 1 - r.RPM/(120*hertz/s.Plate.Poles.Value)
		o.copper = 3*r.LineAmps.A*r.LineAmps.A*s.Machine.Fit.Circuit.R1Ohm + slip/(1-slip)*r.ShaftWatts
	}
	return o
}

// Suit sets a sound plate against the supply; nil when it is not sound.
func (s Study) Suit() *Suit {
	if !s.Reading.Sound {
		return nil
	}
	f, service := s.Plate, s.service
	name := func(volts, hertz float64) string {
		return quantity.Figures(volts, 4) + " V " + quantity.Figures(hertz, 3) + " Hz"
	}
	v := &Suit{
		Plate:    name(f.Volts.Value, f.Hertz.Value),
		Supply:   name(service.Volts, service.Hertz),
		Flux:     plate.FluxPercent(f, service),
		Remedies: []Remedy{},
	}
	v.Suits = plate.FluxSuits(v.Flux)
	own, here := s.onBalanced(f.Volts.Value, f.Hertz.Value), s.onBalanced(service.Volts, service.Hertz)
	row := func(title, unit, a, b string) { v.Rows = append(v.Rows, SuitRow{title, unit, a, b}) }
	amps := func(x float64) string { return quantity.Figures(x, 3) }
	percent := func(x float64) string { return quantity.Fixed(100*x, 0) }
	rated := s.Machine.Fit.RatedNm
	row("Flux, volts per hertz", "% of rated", "100", quantity.Fixed(v.Flux, 0))
	row("Amps with nothing on the shaft", "A", amps(own.idleAmps), amps(here.idleAmps))
	loaded := func(o onLines, show func(onLines) string) string {
		if o.stalls {
			return "stalls"
		}
		return show(o)
	}
	both := func(title, unit string, show func(onLines) string) {
		row(title, unit, loaded(own, show), loaded(here, show))
	}
	both("Amps at rated torque", "A", func(o onLines) string { return amps(o.loadedAmps) })
	both("Speed at rated torque", "rpm", func(o onLines) string { return quantity.Fixed(o.loadedRPM, 0) })
	both("Output at rated torque", "", func(o onLines) string { return quantity.Power(o.loadedWatts, service.Hertz) })
	both("Heat in the windings", "% of rated", func(o onLines) string { return percent(o.copper / own.copper) })
	row("Torque standing", "% of rated", percent(own.standingNm/rated), percent(here.standingNm/rated))
	row("Highest torque", "% of rated", percent(own.breakdownNm/rated), percent(here.breakdownNm/rated))
	s.remedies(v)
	return v
}

// remedies are the ways of bringing volts per hertz near the plate's.
func (s Study) remedies(v *Suit) {
	f, service := s.Plate, s.service
	add := func(title, format string, args ...any) {
		v.Remedies = append(v.Remedies, Remedy{title, fmt.Sprintf(format, args...)})
	}
	volts := func(x float64) string { return quantity.Figures(x, 3) + " V" }
	hertzRatio := service.Hertz / f.Hertz.Value
	if !v.Suits {
		for _, c := range f.Choices {
			other := f
			other.Volts.Value = c.Volts
			if flux := plate.FluxPercent(other, service); c.Volts != f.Volts.Value && plate.FluxSuits(flux) {
				first := ""
				if c.Needs != "" {
					first = ", after somebody could " + c.Needs
				}
				add(
					"Join it otherwise",
					"%s for %s is %.0f percent of rated flux%s.",
					c.Connection,
					volts(c.Volts),
					flux,
					first,
				)
			}
		}
		t := plate.TransformerFor(f, service)
		word := "up"
		if t.ToVolts < t.FromVolts {
			word = "down"
		}
		add(
			"Transformer, step-"+word,
			"from %s to %s, at least %s kVA with two windings; an autotransformer of that throughput needs %s kVA of "+
				"its own. It changes volts only: by itself it makes no third phase.",
			volts(t.FromVolts),
			volts(t.ToVolts),
			quantity.Figures(t.VA/1000, 2),
			quantity.Figures(t.AutoVA/1000, 2),
		)
	}
	if !v.Suits || math.Abs(hertzRatio-1) > 0.02 {
		base := f.Hertz.Value * service.Volts / f.Volts.Value
		switch {
		case base < 0.98*f.Hertz.Value:
			add(
				"Drive",
				"on %s it keeps rated volts per hertz up to a base point of %s Hz; set motor volts %s at that point. "+
					"Above it torque falls off, and %s Hz leaves %.0f percent.",
				volts(
					service.Volts,
				),
				quantity.Figures(base, 3),
				volts(service.Volts),
				quantity.Figures(f.Hertz.Value, 3),
				100*base/f.Hertz.Value,
			)
		default:
			add(
				"Drive",
				"set base point %s Hz and motor volts %s: rated flux and rated speed whatever the supply's hertz.",
				quantity.Figures(f.Hertz.Value, 3),
				volts(math.Min(f.Volts.Value, service.Volts)),
			)
		}
	}
	if math.Abs(hertzRatio-1) > 0.02 {
		add(
			"Pulleys",
			"a driver pulley %.2f times the size gives the machine its own speed back; without it a fan or pump "+
				"takes %.0f percent of its power.",
			1/hertzRatio,
			100*math.Pow(hertzRatio, 3),
		)
	}
}
