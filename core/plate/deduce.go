package plate

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"brackmoor/core/motor"
	"brackmoor/core/rule"
)

// deduce adds the few fields that follow from others.
func (a *assembly) deduce() {
	p := &a.d.Plate
	for _, r := range p.Ratings {
		if p.Poles != nil || r.RPM == nil || r.Hertz == nil {
			continue
		}
		if poles := Poles(*r.RPM, *r.Hertz); poles > 0 {
			p.Poles = &poles
			a.d.Deduced = append(
				a.d.Deduced,
				Deduced{
					"poles",
					fmt.Sprintf(
						"%.0f rpm at %.0f Hz is just under %.0f",
						*r.RPM,
						*r.Hertz,
						120**r.Hertz/float64(poles),
					),
				},
			)
		}
	}
	if p.Phases == nil {
		if phases, because := p.phases(); phases > 0 {
			p.Phases = &phases
			a.d.Deduced = append(a.d.Deduced, Deduced{"phases", because})
		}
	}
}

// phases tells one phase from three by the figures: output over volt-amperes
// must be a power factor times an efficiency.
func (p *Sheet) phases() (phases int, because string) {
	for _, r := range p.Ratings {
		if r.Connection != nil && (*r.Connection == Wye || *r.Connection == Delta) {
			return 3, "wye and delta are connections of three phases"
		}
	}
	if p.DesignLetter != nil {
		return 3, "design letters are given to three-phase motors"
	}
	for _, r := range p.Ratings {
		if r.Amps == nil || p.OutputWatts == nil {
			continue
		}
		single := *p.OutputWatts / (r.Volts * *r.Amps)
		powerFactor, efficiency := Usual(*p.OutputWatts, 4)
		switch {
		case single > 0.90:
			return 3, fmt.Sprintf(
				"%.0f W from %.4g V and %.3g A on one phase would need power factor times efficiency of %.2f",
				*p.OutputWatts,
				r.Volts,
				*r.Amps,
				single,
			)
		case r.Volts < 300 && single/math.Sqrt(3) < 0.6*powerFactor*efficiency &&
			single > 0.5*powerFactor*efficiency: // below that they are not the amps of one phase either
			return 1, fmt.Sprintf(
				"%.0f W from %.4g V and %.3g A is too little for three phases",
				*p.OutputWatts,
				r.Volts,
				*r.Amps,
			)
		}
	}
	return 0, ""
}

// judge runs the plate's own checks on what was read.
func (a *assembly) judge() []rule.Verdict {
	p := &a.d.Plate
	if p.Phases != nil && *p.Phases != 3 {
		return []rule.Verdict{
			rule.Speak(
				"plate.not-three-phase",
				rule.Numbers{"phases": float64(*p.Phases)},
				"This motor runs on its own supply; nothing here is made for it.",
				"The plate is that of a motor for %d phase%s.",
				*p.Phases,
				map[bool]string{true: "", false: "s"}[*p.Phases == 1],
			),
		}
	}
	plate, ok := p.Plain()
	if !ok {
		return nil
	}
	supply := p.supply()
	filled, problems := Fill(plate, supply)
	if len(problems) > 0 {
		contradiction := rule.Speak("plate.contradiction", nil, "Read the plate again.", "%s", problems[0].Says)
		return append([]rule.Verdict{contradiction}, LikelyMisreading(plate, supply)...)
	}
	verdicts := Check(filled)
	if err := filled.Target().Check(); err != nil {
		verdicts = append(verdicts, Contradiction(err))
	}
	return append(verdicts, LikelyMisreading(plate, supply)...)
}

// Contradiction words the error of a plate that no motor has.
func Contradiction(err error) rule.Verdict {
	says := "No circuit was found for this plate."
	if errors.Is(err, motor.ErrTarget) {
		says = strings.TrimPrefix(err.Error(), motor.ErrTarget.Error()+": ")
		says = strings.ToUpper(says[:1]) + strings.TrimSuffix(says[1:], ".") + "."
	}
	return rule.Speak("plate.contradiction", nil, "Read the plate again, output and amps first.", "%s", says)
}
