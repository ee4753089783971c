package drive

import (
	"fmt"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Driven is a motor of a machine with its plate amps.
type Driven struct {
	Name string  `json:"name"`
	Amps float64 `json:"amps"` // 0 where its plate does not say
}

// Several is what several motors of a machine want of their drives. Amps is their sum,
// Known that all their plates are.
type Several struct {
	Motors   []Driven       `json:"motors" nullable:"false"`
	OneEach  bool           `json:"one_each"`
	Amps     float64        `json:"amps"`
	Known    bool           `json:"known"`
	Verdicts []rule.Verdict `json:"verdicts" nullable:"false"`
}

// Share puts the motors of a machine on one drive, or on one each.
func Share(motors []Driven, oneEach bool) Several {
	s := Several{Motors: motors, OneEach: oneEach, Known: true, Verdicts: []rule.Verdict{}}
	for _, m := range motors {
		s.Amps += m.Amps
		s.Known = s.Known && m.Amps > 0
	}
	if len(motors) < 2 {
		return s
	}
	if oneEach {
		s.Verdicts = append(
			s.Verdicts,
			rule.Speak(
				"drive.one-each",
				rule.Numbers{"motors": float64(len(motors))},
				"Each has its own settings and its own enable; one stop circuit drops all.",
				"%d motors, a drive for each.",
				len(motors),
			),
		)
		return s
	}
	sum := "the plate amps of all of them added"
	if s.Known {
		sum = quantity.Figures(s.Amps, 3) + " A added"
	}
	s.Verdicts = append(
		s.Verdicts,
		rule.Speak(
			"drive.several",
			rule.Numbers{"motors": float64(len(motors)), "amps": s.Amps},
			fmt.Sprintf(
				"Take the drive for %s; an overload relay for each motor, set to its own plate amps, its contact in "+
					"the enable.",
				sum,
			),
			"%d motors on one drive turn at one frequency, and none is switched in or out while it gives volts.",
			len(motors),
		),
	)
	return s
}
