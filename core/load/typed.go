package load

import (
	"strings"

	"brackmoor/core/quantity"
)

// Typed is what somebody noted of a motor's shaft and of how it works, as typed. What
// is empty is left to the kind of machine.
type Typed struct {
	Inertia      string `json:"inertia"`       // of the load, without the rotor
	InertiaRPM   string `json:"inertia_rpm"`   // at which it turns while the motor turns at its own
	CoastRPM     string `json:"coast_rpm"`     // of the motor, when the power went off
	CoastSeconds string `json:"coast_seconds"` // to standstill
	CoastWatts   string `json:"coast_watts"`   // that the drag took at that speed
	OnMinutes    string `json:"on_minutes"`
	OffMinutes   string `json:"off_minutes"`
	Air          string `json:"air"` // around the motor
}

// Fields lists the texts by the names of their fields.
func (t Typed) Fields() map[string]string {
	return map[string]string{
		"inertia":       t.Inertia,
		"inertia_rpm":   t.InertiaRPM,
		"coast_rpm":     t.CoastRPM,
		"coast_seconds": t.CoastSeconds,
		"coast_watts":   t.CoastWatts,
		"on_minutes":    t.OnMinutes,
		"off_minutes":   t.OffMinutes,
		"air":           t.Air,
	}
}

// Problem is a field that was not understood, and why.
type Problem struct {
	Field string `json:"field"`
	Says  string `json:"says" told:"figures"`
}

// Shaft is what was understood: zero, or nil, where nothing is said.
type Shaft struct {
	Kgm2, ItsRPM float64
	Coast        *CoastDown // its drag may be missing still
	On, Off      float64    // minutes
	AirC         *float64
}

// Read understands the fields one by one; one that is not understood is a problem and
// counts as empty.
func (t Typed) Read() (s Shaft, problems []Problem) {
	read := func(field, text string, parse func(string) (float64, error), low, high float64, says string) float64 {
		if strings.TrimSpace(text) == "" {
			return 0
		}
		value, err := parse(text)
		if err != nil {
			problems = append(problems, Problem{field, err.Error()})
			return 0
		}
		if value < low || value > high {
			problems = append(problems, Problem{field, says})
			return 0
		}
		return value
	}
	s.Kgm2 = read(
		"inertia",
		t.Inertia,
		quantity.ParseInertia,
		1e-6,
		1e4,
		"An inertia lies between a millionth and ten thousand kg·m².",
	)
	s.ItsRPM = read("inertia_rpm", t.InertiaRPM, quantity.ParseRPM, 1, 60000, "A speed lies between 1 and 60 000 rpm.")
	if s.ItsRPM > 0 && s.Kgm2 == 0 && strings.TrimSpace(t.Inertia) == "" {
		problems = append(
			problems,
			Problem{"inertia", "A speed alone tells nothing: give the inertia that turns at it."},
		)
	}
	coast := CoastDown{
		FromRPM: read(
			"coast_rpm",
			t.CoastRPM,
			quantity.ParseRPM,
			10,
			60000,
			"A speed lies between 10 and 60 000 rpm.",
		),
		Seconds: read(
			"coast_seconds",
			t.CoastSeconds,
			quantity.ParseSeconds,
			0.1,
			7200,
			"A stop takes between a tenth of a second and two hours.",
		),
		DragWatts: read(
			"coast_watts",
			t.CoastWatts,
			quantity.ParsePower,
			0.1,
			1e5,
			"Drag lies between 0.1 W and 100 kW.",
		),
	}
	switch typed := strings.TrimSpace(t.CoastSeconds) != ""; {
	case coast.Seconds > 0:
		s.Coast = &coast
	case !typed && (coast.FromRPM > 0 || coast.DragWatts > 0):
		problems = append(
			problems,
			Problem{"coast_seconds", "Time it: how many seconds from that speed to standstill."},
		)
	}
	s.On = read(
		"on_minutes",
		t.OnMinutes,
		quantity.ParseMinutes,
		0.05,
		1440,
		"A spell lasts between three seconds and a day.",
	)
	s.Off = read(
		"off_minutes",
		t.OffMinutes,
		quantity.ParseMinutes,
		0.05,
		1440,
		"A pause lasts between three seconds and a day.",
	)
	if s.Off > 0 && s.On == 0 && strings.TrimSpace(t.OnMinutes) == "" {
		problems = append(problems, Problem{"on_minutes", "A pause alone is no duty: say how long it works between."})
	}
	if strings.TrimSpace(t.Air) != "" {
		air, err := quantity.ParseCelsius(t.Air)
		switch {
		case err != nil:
			problems = append(problems, Problem{"air", err.Error()})
		case air < -40 || air > 70:
			problems = append(problems, Problem{"air", "Air lies between −40 and 70 °C."})
		default:
			s.AirC = &air
		}
	}
	return s, problems
}
