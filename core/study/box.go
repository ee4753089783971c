package study

import (
	"fmt"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/load"
	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/rule"
)

// Fact is something to be known, with its figure and a sentence.
type Fact struct {
	Title string `json:"title"`
	Value string `json:"value"`
	Says  string `json:"says"`
}

// Accept judges the motor on its capacitors state by state.
func (s Study) Accept(a *capacitor.Answer) []rule.Judged { return capacitor.Accept(s.Input, &a.Live) }

// BoxFacts is what must be known of a static converter or a phase-shifting box: what it
// leaves by the model beside the schools, what happens when load slows the motor, whether
// it may stay in circuit, and what must never hang on it.
func (s Study) BoxFacts(a *capacitor.Answer) []Fact {
	l := &a.Live
	hertz := s.Input.Supply.Hertz
	left := "none"
	if l.Usable != nil {
		left = quantity.PowerRange(l.Usable.LowWatts, l.Usable.HighWatts, hertz)
	}
	var schools []string
	for _, school := range a.OutputSchools {
		part := fmt.Sprintf("%.0f–%.0f %%", 100*school.Low, 100*school.High)
		if school.High-school.Low < 0.005 {
			part = fmt.Sprintf("%.0f %%", 100*school.High)
		}
		schools = append(schools, strings.ToLower(school.Title)+" "+part)
	}
	facts := []Fact{
		{"Output left", left, "by the model, no winding past plate amps; schools: " + strings.Join(schools, ", ")},
	}
	most := 0.0
	for _, p := range l.Heat {
		if p.Percent != nil {
			most = p.LoadShare
		}
	}
	turns := Fact{"It turns up to", fmt.Sprintf("%.0f %% load", 100*most), "beyond that it stalls"}
	if most >= 1 {
		turns.Says = "and a little more before it stalls"
	}
	start := Fact{"Its start", "none", "it starts by itself"}
	if l.StartMicrofarad > 0 {
		start.Value, start.Says = quantity.Figures(
			l.StartMicrofarad,
			3,
		)+" µF", fmt.Sprintf(
			"by the model: %.1f times the torque asked",
			l.OverBreakaway,
		)
	}
	for _, c := range a.StartSchools {
		if c.School.Applies && c.School.Name != capacitor.ModelStart {
			start.Says += fmt.Sprintf(
				"; school, %s: %s µF, %.1f times",
				c.School.Title,
				quantity.Figures(c.School.Microfarad, 3),
				c.OverBreak,
			)
		}
	}
	facts = append(facts, start)
	if s.Route() == route.Static {
		if l.StartMicrofarad > 0 {
			turns.Says += fmt.Sprintf(
				"; slowed below about %.0f rpm its relay falls back and the start capacitors come in again, under "+
					"load, over and over: switch off",
				l.CutOutRPM,
			)
		}
		facts = append(
			facts,
			turns,
			Fact{
				"May it stay in circuit",
				"yes, its start out",
				"once up, the start capacitors must be out; a box whose relay chatters or stays in is disconnected " +
					"before anything burns",
			},
		)
	} else {
		facts = append(
			facts,
			turns,
			Fact{
				"May it stay in circuit",
				"yes",
				"its run capacitors stay in; they are set for load, so it must not be left idling where the idle " +
					"line below is not accepted",
			},
			Fact{
				"Rated range must hold",
				quantity.Figures(s.Plate.Amps.Value, 3) + " A",
				"the motor’s plate amps, as joined",
			},
		)
	}
	var never []string
	for _, kind := range load.Kinds {
		if route.NeverStatic(kind) != nil {
			never = append(never, strings.ToLower(kind.Title))
		}
	}
	near, far := "a", "b"
	if s.Input.TowardsB {
		near, far = far, near
	}
	volts := s.Input.Supply.Volts
	before := fmt.Sprintf(
		"motor joined and standing, its start out: c reads about %.0f V to either line; motor off and a capacitor "+
			"left in: near 0 V to %s and %.0f V to %s. It is live all the same",
		volts/2,
		near,
		volts,
		far,
	)
	return append(
		facts,
		Fact{
			"Never on it",
			"stop",
			strings.Join(never, ", ") + "; electronics and coils on the third leg; a second motor beside it",
		},
		Fact{"Before it turns", "c is live", before},
	)
}
