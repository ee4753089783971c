package plate

import (
	"fmt"
	"math"

	"brackmoor/core/motor"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Value is a figure with where it came from.
type Value struct {
	Value  float64     `json:"value"`
	Origin rule.Origin `json:"origin"`
	Source string      `json:"source"`
}

// Term makes the value a term of a working.
func (v Value) Term(name, unit string) rule.Term {
	return rule.Term{Name: name, Value: v.Value, Unit: unit, Origin: v.Origin, Source: v.Source}
}

// Choice is one way in which the motor can be joined.
type Choice struct {
	Volts      float64 `json:"volts"`
	Connection string  `json:"connection"` // "" when the plate does not tell
	Deduced    bool    `json:"deduced"`    // from the leads, not on the plate
	Delta      bool    `json:"delta"`      // the windings lie between lines
	Needs      string  `json:"needs"`      // work that must be done first
}

// Filled is a plate with nothing missing: every figure at the voltage the
// motor is joined for, marked stated, derived or assumed.
type Filled struct {
	Plate         Plate       `json:"-"`
	Output        Value       `json:"output"`
	Volts         Value       `json:"volts"`
	Amps          Value       `json:"amps"`
	Hertz         Value       `json:"hertz"`
	RPM           Value       `json:"rpm"`
	Poles         Value       `json:"poles"`
	PowerFactor   Value       `json:"power_factor"`
	Efficiency    Value       `json:"efficiency"`
	ServiceFactor Value       `json:"service_factor"`
	Connection    string      `json:"connection"`
	ConnectionBy  rule.Origin `json:"connection_by"`
	Delta         bool        `json:"delta"` // the windings lie between lines as joined
	Choices       []Choice    `json:"choices" nullable:"false"`

	LockedRotorAmps   motor.Goal `json:"-"` // × rated amps
	LockedRotorTorque motor.Goal `json:"-"` // × rated torque
	Breakdown         motor.Goal `json:"-"` // × rated torque
	Class             string     `json:"class"`
}

// Supply is what the plate is to be used on.
type Supply struct{ Volts, Hertz float64 }

// Fill completes a plate for a supply. It needs one voltage, and the output or amps; the
// problems say what is missing.
func Fill(p Plate, s Supply) (Filled, []Problem) {
	p = p.On(s.Hertz)
	f := Filled{Plate: p}
	var problems []Problem
	output := Value{p.OutputWatts, rule.Stated, "plate"}
	if p.OutputWatts == 0 {
		output = p.outputFromAmps()
		p.OutputWatts, f.Plate.OutputWatts = output.Value, output.Value
	}
	if p.OutputWatts == 0 {
		problems = append(
			problems,
			Problem{"output", "The output is needed: hp or kW as on the plate, or else its amps."},
		)
	}
	if len(p.Ratings) == 0 {
		problems = append(problems, Problem{"volts", "The plate's volts are needed."})
	}
	if len(problems) > 0 {
		return f, problems
	}
	stated := func(value float64) Value { return Value{value, rule.Stated, "plate"} }
	f.Output = output
	f.Hertz = stated(p.Hertz)
	if p.Hertz == 0 {
		f.Hertz = hertzOf(p.RPM, s.Hertz)
	}
	if problem := f.speed(); problem != nil {
		return f, []Problem{*problem}
	}
	if problem := f.join(s); problem != nil {
		return f, []Problem{*problem}
	}
	f.power()
	f.ServiceFactor = stated(p.ServiceFactor)
	if p.ServiceFactor == 0 {
		f.ServiceFactor = Value{1, rule.Assumed, "none on the plate"}
	}
	f.starting()
	return f, nil
}

// outputFromAmps is the output of a plate that states volts and amps alone, by the power
// factor and efficiency that are usual for a motor of that output.
func (p Plate) outputFromAmps() Value {
	for _, r := range p.Ratings {
		if r.Amps == 0 {
			continue
		}
		apparent := math.Sqrt(3) * r.Volts * r.Amps
		poles := Poles(p.RPM, p.Hertz)
		if poles == 0 {
			poles = 4
		}
		// What is usual grows slowly with output, so that the output settles at once.
		watts := 0.6 * apparent
		for range 40 {
			powerFactor, efficiency := Usual(watts, poles)
			if p.PowerFactor > 0 {
				powerFactor = p.PowerFactor
			}
			if p.Efficiency > 0 {
				efficiency = p.Efficiency
			}
			watts = apparent * powerFactor * efficiency
		}
		origin, source := rule.Assumed, fmt.Sprintf(
			"√3·%.4g V·%.3g A by the power factor and efficiency that are usual for such a motor; %s",
			r.Volts, r.Amps, usualPowerFactor.source)
		if p.PowerFactor > 0 && p.Efficiency > 0 {
			origin, source = rule.Derived, "W = √3·V·I·pf·eff"
		}
		return Value{watts, origin, source}
	}
	return Value{}
}

// hertzOf is the frequency of a plate that does not state it: the supply's,
// unless the speed belongs to the other usual one (1440 rpm is a 50 Hz speed).
func hertzOf(rpm, supply float64) Value {
	usual := func(hertz float64) bool {
		poles := Poles(rpm, hertz)
		if poles == 0 {
			return false
		}
		slip := 100 * (1 - rpm/motor.SynchronousRPM(hertz, poles))
		return slip >= rule.Limit("plate.rpm-against-poles", "least_slip_percent") &&
			slip <= rule.Limit("plate.rpm-against-poles", "most_slip_percent")
	}
	if rpm > 0 && !usual(supply) {
		for _, other := range []float64{50, 60} {
			if usual(other) {
				return Value{
					other,
					rule.Derived,
					fmt.Sprintf(
						"%.0f rpm is just under a synchronous speed at %.0f Hz, not at %.0f",
						rpm,
						other,
						supply,
					),
				}
			}
		}
	}
	return Value{supply, rule.Assumed, "the supply's hertz"}
}

// speed settles rpm and poles.
func (f *Filled) speed() *Problem {
	p, hertz := f.Plate, f.Hertz.Value
	if p.RPM == 0 {
		slip := UsualSlip(p.OutputWatts, hertz, 4)
		f.Poles = Value{4, rule.Assumed, "four poles are the commonest"}
		f.RPM = Value{math.Round(30 * hertz * (1 - slip)), rule.Assumed, usualSlip.source}
		return nil
	}
	poles := Poles(p.RPM, hertz)
	if poles == 0 {
		return &Problem{
			"rpm",
			fmt.Sprintf(
				"%.0f rpm is at or above the %.0f rpm of two poles at %.0f Hz, which an induction motor cannot reach.",
				p.RPM,
				60*hertz,
				hertz,
			),
		}
	}
	f.RPM = Value{p.RPM, rule.Stated, "plate"}
	f.Poles = Value{
		float64(poles),
		rule.Derived,
		fmt.Sprintf("%.0f rpm at %.0f Hz is just under %.0f", p.RPM, hertz, 120*hertz/float64(poles)),
	}
	return nil
}

// Slip is the rated slip.
func (f Filled) Slip() float64 {
	return 1 - f.RPM.Value/motor.SynchronousRPM(f.Hertz.Value, int(f.Poles.Value))
}

// join picks the voltage the motor is joined for: the one asked for, else the
// one whose flux on this supply is nearest to rated.
func (f *Filled) join(s Supply) *Problem {
	p := f.Plate
	f.Choices = append(f.Choices, p.Ways...)
	if p.Ways == nil {
		for _, r := range p.Ratings {
			f.Choices = append(
				f.Choices,
				Choice{Volts: r.Volts, Connection: r.Connection, Delta: r.Connection == Delta},
			)
		}
	}
	if len(p.Ratings) == 1 && p.Ways == nil {
		r := p.Ratings[0]
		add := func(volts float64, connection string) {
			f.Choices = append(
				f.Choices,
				Choice{Volts: math.Round(volts), Connection: connection, Deduced: true, Delta: connection == Delta},
			)
		}
		switch {
		case p.Leads == 6 && r.Connection == Wye:
			add(r.Volts/math.Sqrt(3), Delta)
		case p.Leads == 6 && r.Connection == Delta:
			add(r.Volts*math.Sqrt(3), Wye)
		case (p.Leads == 9 || p.Leads == 12) && r.Connection != Parallel:
			add(r.Volts/2, Parallel)
		}
	}
	best, distance := f.Choices[0], math.Inf(1)
	for _, c := range f.Choices {
		d := math.Abs(math.Log(s.Volts / s.Hertz * f.Hertz.Value / c.Volts))
		if p.JoinedVolts > 0 {
			d = math.Abs(math.Log(p.JoinedVolts / c.Volts))
		} else if c.Needs != "" {
			continue // nobody opens a winding unasked
		}
		if d < distance {
			best, distance = c, d
		}
	}
	if p.JoinedVolts > 0 && distance > 0.06 {
		return &Problem{"joined", fmt.Sprintf("The plate gives no way to join it for %.4g V.", p.JoinedVolts)}
	}
	f.Volts = Value{best.Volts, rule.Stated, "plate"}
	if best.Deduced {
		f.Volts = Value{best.Volts, rule.Derived, "the leads let it be joined " + best.Connection}
	}
	f.Connection, f.ConnectionBy, f.Delta = best.Connection, rule.Derived, best.Delta
	if f.Connection == "" {
		f.Connection, f.ConnectionBy = Wye, rule.Assumed
	}
	return nil
}

// ratedAmps returns the plate's amps at the joined voltage, from another
// voltage when need be.
func (f *Filled) ratedAmps() (Value, bool) {
	for _, r := range f.Plate.Ratings {
		if r.Volts == f.Volts.Value && r.Amps > 0 {
			return Value{r.Amps, rule.Stated, "plate"}, true
		}
	}
	for _, r := range f.Plate.Ratings {
		if r.Amps > 0 {
			return Value{r.Amps * r.Volts / f.Volts.Value, rule.Derived,
				fmt.Sprintf("the same volt-amperes as %.4g A at %.4g V", r.Amps, r.Volts)}, true
		}
	}
	return Value{}, false
}

// power settles amps, power factor and efficiency, of which two with the
// output make the third.
func (f *Filled) power() {
	p := f.Plate
	watts := p.OutputWatts
	poles := int(f.Poles.Value)
	usual, source, _ := ClassEfficiency("IE1", watts, poles)
	if quantity.SixtyHertz(f.Hertz.Value) {
		source = "standard efficiency taken as IE1; " + source
	}
	// The slip alone loses s/(1−s) of the output, at most about half of all losses.
	slip := f.Slip()
	ceiling := 1 / (1 + 1.9*math.Max(slip, 0)/(1-slip))
	efficiency := Value{math.Min(usual, ceiling), rule.Assumed, source}
	powerFactor := Value{usualPowerFactor.at(watts, poles), rule.Assumed, usualPowerFactor.source}
	if p.Efficiency > 0 {
		efficiency = Value{p.Efficiency, rule.Stated, "plate"}
	}
	if p.PowerFactor > 0 {
		powerFactor = Value{p.PowerFactor, rule.Stated, "plate"}
	}
	amps, known := f.ratedAmps()
	const formula = "W = √3·V·I·pf·eff"
	switch {
	case !known:
		amps = Value{
			watts / (math.Sqrt(3) * f.Volts.Value * powerFactor.Value * efficiency.Value),
			rule.Derived,
			formula,
		}
		if efficiency.Origin == rule.Assumed || powerFactor.Origin == rule.Assumed {
			amps.Origin = rule.Assumed
		}
	case p.PowerFactor == 0 && p.Efficiency > 0:
		powerFactor = Value{
			watts / (math.Sqrt(3) * f.Volts.Value * amps.Value * efficiency.Value),
			rule.Derived,
			formula,
		}
	case p.PowerFactor > 0 && p.Efficiency == 0:
		efficiency = Value{
			watts / (math.Sqrt(3) * f.Volts.Value * amps.Value * powerFactor.Value),
			rule.Derived,
			formula,
		}
	case p.PowerFactor == 0:
		product := watts / (math.Sqrt(3) * f.Volts.Value * amps.Value)
		// Keep the power factor one that a motor of this speed can have.
		most := 0.90
		if product/efficiency.Value > most {
			efficiency.Value = math.Min(product/most, ceiling)
			efficiency.Source = "raised until the power factor from plate amps is within 0.90"
		}
		powerFactor = Value{product / efficiency.Value, rule.Assumed, formula + " with the assumed efficiency"}
	default:
		// All on the plate: amps rule, power factor follows if they disagree.
		powerFactor.Value = watts / (math.Sqrt(3) * f.Volts.Value * amps.Value * efficiency.Value)
		if math.Abs(powerFactor.Value/p.PowerFactor-1) > 1e-3 {
			powerFactor.Origin, powerFactor.Source = rule.Derived, formula+" from plate amps and efficiency"
		} else {
			powerFactor.Origin, powerFactor.Source = rule.Stated, "plate"
		}
	}
	f.Amps, f.PowerFactor, f.Efficiency = amps, powerFactor, efficiency
}

// Motors of a better class have less resistance and less leakage for the same output, and take
// more amps standing, over fewer at full output: usual figures of published ranges.
const (
	lockedOfIE2 = 1.1
	lockedOfIE3 = 1.2
)

// lockedByClass is how usual locked-rotor amps go with the class that a stated efficiency
// reaches.
func (f *Filled) lockedByClass() float64 {
	classes := [2]string{"IE2", "IE3"}
	if quantity.SixtyHertz(f.Hertz.Value) {
		classes = [2]string{"energy-efficient", "premium"}
	}
	times := 1.0
	for i, name := range classes {
		least, _, _ := ClassEfficiency(name, f.Output.Value, int(f.Poles.Value))
		if f.Efficiency.Origin == rule.Stated && f.Efficiency.Value >= least-classRounding {
			times = [2]float64{lockedOfIE2, lockedOfIE3}[i]
		}
	}
	return times
}

// classRounding is what a plate's efficiency is rounded by.
const classRounding = 0.0015

// starting sets the locked-rotor and breakdown figures: the plate's own, or
// the class's limits with the usual value inside them.
func (f *Filled) starting() {
	p, watts, poles := f.Plate, f.Output.Value, int(f.Poles.Value)
	// × rated amps per kVA/hp
	perHorsepower := 1000 * watts / quantity.WattsPerHorsepower / (math.Sqrt(3) * f.Volts.Value * f.Amps.Value)
	usual := usualLockedRotor.at(watts, poles) * f.lockedByClass()
	design := p.DesignLetter
	if design == "" {
		design = "B"
		if !quantity.SixtyHertz(f.Hertz.Value) {
			design = "N"
		}
	}
	amps := motor.Goal{Typical: usual}
	var locked, breakdown motor.Goal
	switch design {
	case "N":
		f.Class = designNLocked.source
		amps.Most = designNApparent.at(watts, poles) * watts / (math.Sqrt(3) * f.Volts.Value * f.Amps.Value)
		locked.Least, breakdown.Least = designNLocked.at(watts, poles)/100, designNBreakdown.at(watts, poles)/100
		locked.Typical, breakdown.Typical = 1.2*locked.Least, 1.3*breakdown.Least
	case "H":
		// Design H starts with one and a half times the torque of N.
		f.Class = "IEC 60034-12, design H"
		amps.Most = designNApparent.at(watts, poles) * watts / (math.Sqrt(3) * f.Volts.Value * f.Amps.Value)
		locked.Least, breakdown.Least = math.Max(
			2,
			1.5*designNLocked.at(watts, poles)/100,
		), math.Max(
			2,
			designNBreakdown.at(watts, poles)/100,
		)
		locked.Typical, breakdown.Typical = 1.1*locked.Least, 1.2*breakdown.Least
	case "C":
		f.Class = designCLocked.source
		locked.Least, breakdown.Least = designCLocked.at(watts, poles)/100, designCBreakdown.at(watts, poles)/100
		locked.Typical, breakdown.Typical = 1.08*locked.Least, 1.15*breakdown.Least
	case "D":
		f.Class = "NEMA MG 1, 12.38, design D"
		locked.Least, locked.Typical, breakdown.Least, breakdown.Typical = 2.75, 2.9, 2.75, 2.9
	default:
		f.Class = designBLocked.source
		locked.Least, breakdown.Least = designBLocked.at(watts, poles)/100, designBBreakdown.at(watts, poles)/100
		locked.Typical, breakdown.Typical = 1.1*locked.Least, 1.12*breakdown.Least
		if !designBLocked.holds(watts, poles) {
			// The standard has no least torque for smaller ones; they start no worse than those that
			// the other standard has.
			f.Class = designNLocked.source + ", where design B has none"
			locked.Least, breakdown.Least = designNLocked.at(watts, poles)/100, designNBreakdown.at(watts, poles)/100
		}
	}
	if design == "B" || design == "C" || design == "D" {
		amps.Most = designBAmps.at(watts, poles) * 230 / f.Volts.Value / f.Amps.Value
		// Fractional ratings stay far below the standard's ceiling: about letter L.
		amps.Typical = math.Min(0.9*amps.Most, 9.5*perHorsepower)
	}
	if amps.Most > 0 {
		amps.Typical = math.Min(amps.Typical, 0.95*amps.Most)
	}
	if from, below, ok := CodeBand(p.CodeLetter); ok {
		amps = motor.Goal{
			Least:   from * perHorsepower,
			Most:    below * perHorsepower,
			Typical: (from + below) / 2 * perHorsepower,
		}
	}
	if p.LockedRotorAmps > 0 {
		amps = motor.Goal{Stated: p.LockedRotorAmps * p.Ratings[0].Volts / f.Volts.Value / f.Amps.Value}
	}
	f.LockedRotorAmps, f.LockedRotorTorque, f.Breakdown = amps, locked, breakdown
}

// Target is the filled plate as a target for the circuit.
func (f Filled) Target() motor.Target {
	return motor.Target{
		Volts:             f.Volts.Value,
		Hertz:             f.Hertz.Value,
		RPM:               f.RPM.Value,
		Amps:              f.Amps.Value,
		OutputWatts:       f.Output.Value,
		PowerFactor:       f.PowerFactor.Value,
		Poles:             int(f.Poles.Value),
		LockedRotorAmps:   f.LockedRotorAmps,
		LockedRotorTorque: f.LockedRotorTorque,
		Breakdown:         f.Breakdown,
		StatorOhm:         f.Plate.StatorOhm,
	}
}

// Usual returns the usual full-load power factor and efficiency of a standard
// motor of an output in watts and a pole count.
func Usual(watts float64, poles int) (powerFactor, efficiency float64) {
	efficiency, _, _ = ClassEfficiency("IE1", watts, poles)
	return usualPowerFactor.at(watts, poles), efficiency
}

// UsualSlip returns the usual full-load slip, as a share, of a standard motor
// of an output in watts and a pole count: the table's at 50 Hz, and four fifths
// of it at 60 Hz, where the same rotor slips by as many revolutions a minute.
func UsualSlip(watts, hertz float64, poles int) float64 {
	slip := usualSlip.at(watts, poles) / 100
	if quantity.SixtyHertz(hertz) {
		slip *= 0.8
	}
	return slip
}
