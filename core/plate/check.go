package plate

import (
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Check judges a filled plate against itself.
func Check(f Filled) []rule.Verdict {
	var v []rule.Verdict
	for _, check := range []func(Filled) *rule.Verdict{ampsAgainstOutput, voltsTimesAmps, speedAgainstPoles,
		powerFactorTimesEfficiency, codeLetter, frameAgainstOutput, fiftyAgainstSixty, serviceFactor} {
		if verdict := check(f); verdict != nil {
			v = append(v, *verdict)
		}
	}
	return v
}

func speak(id string, n rule.Numbers, do, format string, args ...any) *rule.Verdict {
	v := rule.Speak(id, n, do, format, args...)
	return &v
}

func ampsAgainstOutput(f Filled) *rule.Verdict {
	const id = "plate.amps-against-output"
	if f.Amps.Origin == rule.Assumed {
		return nil
	}
	product := f.Output.Value / (math.Sqrt(3) * f.Volts.Value * f.Amps.Value)
	poles := int(f.Poles.Value)
	efficiency, _, _ := ClassEfficiency("IE2", f.Output.Value, poles)
	usual := usualPowerFactor.at(f.Output.Value, poles) * efficiency
	numbers := rule.Numbers{"product": product, "usual_product": usual}
	switch {
	case product > rule.Limit(id, "most_product"):
		return speak(
			id,
			numbers,
			"Read amps and output again: has output been taken for input, or amps from the column of other volts?",
			"%s from %s A at %s V would need power factor times efficiency of %.2f; no motor has that.",
			f.Plate.Power(f.Output.Value, f.Hertz.Value),
			quantity.Figures(f.Amps.Value, 3),
			quantity.Figures(f.Volts.Value, 4),
			product,
		)
	case product < rule.Limit(id, "least_product"), product < usual*rule.Limit(id, "least_share_of_usual"):
		return speak(
			id,
			numbers,
			"Read amps and output again: are the amps those of other volts?",
			"%s A at %s V is far more than %s needs: power factor times efficiency would be %.2f, where %.2f is usual.",
			quantity.Figures(
				f.Amps.Value,
				3,
			),
			quantity.Figures(f.Volts.Value, 4),
			f.Plate.Power(f.Output.Value, f.Hertz.Value),
			product,
			usual,
		)
	case product > usual*rule.Limit(id, "most_share_of_usual"):
		return speak(
			id,
			numbers,
			"Read amps and output again.",
			"%s A at %s V is little for %s: power factor times efficiency would be %.2f, where %.2f is usual.",
			quantity.Figures(
				f.Amps.Value,
				3,
			),
			quantity.Figures(f.Volts.Value, 4),
			f.Plate.Power(f.Output.Value, f.Hertz.Value),
			product,
			usual,
		)
	}
	return nil
}

func voltsTimesAmps(f Filled) *rule.Verdict {
	const id = "plate.volts-times-amps"
	var worst float64
	var a, b Rating
	for i, r := range f.Plate.Ratings {
		for _, q := range f.Plate.Ratings[i+1:] {
			if r.Amps == 0 || q.Amps == 0 {
				continue
			}
			if d := math.Abs(math.Log(r.Volts * r.Amps / (q.Volts * q.Amps))); d > worst {
				worst, a, b = d, r, q
			}
		}
	}
	percent := 100 * (math.Exp(worst) - 1)
	if percent <= rule.Limit(id, "most_difference_percent") {
		return nil
	}
	return speak(
		id,
		rule.Numbers{"difference_percent": percent},
		"Read both pairs again; volts and amps must stand in the same order.",
		"%s V × %s A and %s V × %s A differ by %.0f percent; the same motor takes the same volt-amperes on both.",
		quantity.Figures(
			a.Volts,
			4,
		),
		quantity.Figures(a.Amps, 3),
		quantity.Figures(b.Volts, 4),
		quantity.Figures(b.Amps, 3),
		percent,
	)
}

func speedAgainstPoles(f Filled) *rule.Verdict {
	const id = "plate.rpm-against-poles"
	if f.RPM.Origin != rule.Stated {
		return nil
	}
	slip := 100 * f.Slip()
	if slip >= rule.Limit(id, "least_slip_percent") && slip <= rule.Limit(id, "most_slip_percent") {
		return nil
	}
	return speak(
		id,
		rule.Numbers{"slip_percent": slip, "poles": f.Poles.Value},
		"Read rpm and hertz again; a 50 Hz plate belongs with 50 Hz speeds.",
		"%.0f rpm on %.0f poles at %.0f Hz is a slip of %.1f percent; 1 to 8 is usual.",
		f.RPM.Value,
		f.Poles.Value,
		f.Hertz.Value,
		slip,
	)
}

func powerFactorTimesEfficiency(f Filled) *rule.Verdict {
	const id = "plate.power-factor-efficiency"
	p := f.Plate
	if p.PowerFactor == 0 || p.Efficiency == 0 || f.Amps.Origin == rule.Assumed {
		return nil
	}
	implied := p.OutputWatts / (math.Sqrt(3) * f.Volts.Value * f.Amps.Value)
	difference := 100 * math.Abs(p.PowerFactor*p.Efficiency/implied-1)
	if difference <= rule.Limit(id, "most_difference_percent") {
		return nil
	}
	return speak(
		id,
		rule.Numbers{
			"stated_product":     p.PowerFactor * p.Efficiency,
			"implied_product":    implied,
			"difference_percent": difference,
		},
		"Amps and efficiency are used, and the power factor that follows from them.",
		"Power factor %.2f times efficiency %.2f is %.2f, but output and amps need %.2f.",
		p.PowerFactor,
		p.Efficiency,
		p.PowerFactor*p.Efficiency,
		implied,
	)
}

func codeLetter(f Filled) *rule.Verdict {
	p := f.Plate
	from, below, ok := CodeBand(p.CodeLetter)
	if !ok || p.LockedRotorAmps == 0 {
		return nil
	}
	kva := math.Sqrt(3) * p.Ratings[0].Volts * p.LockedRotorAmps / 1000 / (p.OutputWatts / quantity.WattsPerHorsepower)
	if kva >= 0.95*from && kva < 1.05*below {
		return nil
	}
	return speak(
		"plate.code-letter",
		rule.Numbers{"kva_per_hp": kva, "from": from, "below": below},
		"Read the code letter and the locked-rotor amps again.",
		"%s locked-rotor amps are %.1f kVA a horsepower; letter %s stands for %.1f to %.1f.",
		quantity.Figures(p.LockedRotorAmps, 3),
		kva,
		p.CodeLetter,
		from,
		below,
	)
}

func serviceFactor(f Filled) *rule.Verdict {
	if f.ServiceFactor.Value >= rule.Limit("plate.service-factor", "margin") {
		return nil
	}
	says := "The service factor is %.2f: there is no margin for unbalanced legs."
	if f.ServiceFactor.Origin == rule.Assumed {
		says = "The plate states no service factor; %.2f is taken, with no margin for unbalanced legs."
	}
	return speak(
		"plate.service-factor",
		rule.Numbers{"service_factor": f.ServiceFactor.Value},
		"Keep every winding at or below plate amps.",
		says,
		f.ServiceFactor.Value,
	)
}

// CheckSupply judges the joined voltage and hertz against the supply.
func CheckSupply(f Filled, s Supply) []rule.Verdict {
	flux := FluxPercent(f, s)
	numbers := rule.Numbers{
		"flux_percent": flux,
		"plate_volts":  f.Volts.Value,
		"plate_hertz":  f.Hertz.Value,
		"supply_volts": s.Volts,
		"supply_hertz": s.Hertz,
	}
	on := quantity.Figures(f.Volts.Value, 4) + " V " + quantity.Figures(f.Hertz.Value, 3) + " Hz on " +
		quantity.Figures(s.Volts, 4) + " V " + quantity.Figures(s.Hertz, 3) + " Hz"
	v := otherHertz(f, s)
	say := func(id, do, format string, args ...any) {
		v = append(v, rule.Speak(id, numbers, do, format, args...))
	}
	switch {
	case flux > rule.Limit("supply.far-over-flux", "most_percent"):
		say("supply.far-over-flux", "Join it for higher volts if the plate allows, or step the volts down.",
			"%s is %.0f percent of rated flux.", on, flux)
	case flux > rule.Limit("supply.over-flux", "most_percent"):
		say(
			"supply.over-flux",
			"Watch the amps with nothing on the spindle; step the volts down if they pass the plate's.",
			"%s is %.0f percent of rated flux.",
			on,
			flux,
		)
	case flux <= rule.Limit("supply.third-of-torque", "most_flux_percent"):
		say(
			"supply.third-of-torque",
			"Join it for the supply's volts (delta instead of star, parallel instead of series), or step the volts up.",
			"%s is %.0f percent of rated flux, so %.0f percent of its torque.",
			on,
			flux,
			flux*flux/100,
		)
	case flux < rule.Limit("supply.under-flux", "least_percent"):
		say("supply.under-flux", "Expect a weaker start and more slip; load it less, or step the volts up.",
			"%s is %.0f percent of rated flux, so %.0f percent of its torque.", on, flux, flux*flux/100)
	}
	return v
}

// otherHertz speaks of a plate whose frequency is not the supply's.
func otherHertz(f Filled, s Supply) []rule.Verdict {
	const id = "supply.other-hertz"
	ratio := s.Hertz / f.Hertz.Value
	if 100*math.Abs(ratio-1) <= rule.Limit(id, "most_percent") {
		return nil
	}
	faster := "faster"
	do := "Look whether spindle, belts, fan and bearings may run so fast; a fan or pump takes far more power. Change " +
		"the pulleys."
	if ratio < 1 {
		faster, do = "slower", "Its own fan cools it less: keep the load down, or change the pulleys."
	}
	return []rule.Verdict{
		rule.Speak(id, rule.Numbers{"hertz_ratio": ratio}, do, "A %s Hz motor on %s Hz turns %.0f percent %s.",
			quantity.Figures(f.Hertz.Value, 3), quantity.Figures(s.Hertz, 3), 100*math.Abs(ratio-1), faster),
	}
}

// FluxPercent is the volts per hertz on the supply over those of the plate.
func FluxPercent(f Filled, s Supply) float64 {
	return 100 * (s.Volts / s.Hertz) / (f.Volts.Value / f.Hertz.Value)
}
