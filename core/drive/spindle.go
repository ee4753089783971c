package drive

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"brackmoor/core/quantity"
)

// Gear is a step of pulleys or gears: spindle rpm over motor rpm.
type Gear struct {
	Title string  `json:"title"` // as typed
	Ratio float64 `json:"ratio"`
}

// mostGears bounds what is typed.
const mostGears = 12

// ParseGears reads steps of pulleys and gears parted by commas or blanks: "0.5", "80/160"
// (driving over driven diameter or teeth), "1:3" (so many turns of the motor, the second,
// for those of the spindle).
func ParseGears(text string) ([]Gear, error) {
	words := strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == ';' || r == '\t' || r == '\n' })
	var gears []Gear
	for _, w := range words {
		w = strings.Trim(w, ",")
		if w == "" {
			continue
		}
		first, second, pair := strings.Cut(strings.Replace(w, ":", "/", 1), "/")
		ratio, err := quantity.ParseNumber(first)
		if err == nil && pair {
			var over float64
			over, err = quantity.ParseNumber(second)
			ratio /= over
		}
		switch {
		case err != nil:
			return nil, fmt.Errorf("“%s” is no step: write spindle over motor, such as 0.5, 80/160 or 1:2", w)
		case !(ratio >= 0.001 && ratio <= 100): // and not 0/0 either
			return nil, fmt.Errorf("“%s” is no ratio that a machine has", w)
		case len(gears) == mostGears:
			return nil, fmt.Errorf("at most %d steps are taken", mostGears)
		}
		gears = append(gears, Gear{w, ratio})
	}
	return gears, nil
}

// Material is what is cut, with a usual cutting speed of high-speed steel in metres a
// minute (shop practice, between the values of textbooks of machining).
type Material struct {
	Name           string  `json:"name"`
	Title          string  `json:"title"`
	MetrePerMinute float64 `json:"metre_per_minute"`
	Speed          string  `json:"speed,omitempty" told:"figures"` // in the units of a country
}

// Materials lists them.
var Materials = []Material{
	{"mild-steel", "Mild steel", 28, ""},
	{"tool-steel", "Tool steel", 15, ""},
	{"stainless", "Stainless steel", 14, ""},
	{"cast-iron", "Cast iron", 20, ""},
	{"brass", "Brass", 60, ""},
	{"bronze", "Bronze", 30, ""},
	{"aluminium", "Aluminium", 80, ""},
	{"wood", "Wood", 500, ""},
}

// FootPerMinute is surface feet a minute of metres a minute, to the next five.
func FootPerMinute(metrePerMinute float64) float64 { return 5 * math.Round(metrePerMinute/0.3048/5) }

// MaterialsAt lists them with their speed in the units of a country, by its frequency.
func MaterialsAt(hertz float64) []Material {
	list := slices.Clone(Materials)
	for i := range list {
		m := &list[i]
		m.Speed = quantity.Figures(m.MetrePerMinute, 3) + " m/min"
		if quantity.SixtyHertz(hertz) {
			m.Speed = quantity.Figures(FootPerMinute(m.MetrePerMinute), 3) + " surface ft/min"
		}
	}
	return list
}

// SpindlePoint is a spindle at a frequency: its rpm, and the torque it may give for good.
type SpindlePoint struct {
	Hertz    float64 `json:"hertz"`
	RPM      float64 `json:"rpm"`
	TorqueNm float64 `json:"torque_nm"`
}

// SpindleRow is a step over the frequencies.
type SpindleRow struct {
	Gear
	Points []SpindlePoint `json:"points" nullable:"false"`
}

// Cut is the step and the frequency for a tool in a material.
type Cut struct {
	RPM      float64 `json:"rpm"` // wanted: 1000·v/(π·d)
	Gear     string  `json:"gear"`
	Hertz    float64 `json:"hertz"`
	Got      float64 `json:"got_rpm"`
	TorqueNm float64 `json:"torque_nm"`
	Reached  bool    `json:"reached"` // within a tenth of what is wanted
}

// Spindle is the rpm and the torque of each step at the frequencies of an answer between
// least and most, slow steps first.
func Spindle(gears []Gear, speed []SpeedPoint, least, most float64) []SpindleRow {
	gears = append([]Gear{}, gears...)
	sort.SliceStable(gears, func(i, k int) bool { return gears[i].Ratio < gears[k].Ratio })
	rows := make([]SpindleRow, 0, len(gears))
	for _, g := range gears {
		r := SpindleRow{Gear: g, Points: []SpindlePoint{}}
		for _, p := range speed {
			if p.Hertz >= least*0.999 && p.Hertz <= most*1.001 {
				r.Points = append(r.Points, SpindlePoint{p.Hertz, p.RPM * g.Ratio, p.TorqueNm / g.Ratio})
			}
		}
		rows = append(rows, r)
	}
	return rows
}

// Choose is the step and frequency for a tool of a diameter in millimetres at a cutting
// speed in metres a minute: of what reaches it, the most torque at the spindle; else the
// nearest.
func Choose(rows []SpindleRow, millimetre, metrePerMinute float64) Cut {
	c := Cut{RPM: 1000 * metrePerMinute / (math.Pi * millimetre)}
	nearest := math.Inf(1)
	for _, r := range rows {
		for i, p := range r.Points {
			// Between two frequencies along a straight line; else at the ends of the range.
			at := p
			if i > 0 && r.Points[i-1].RPM <= c.RPM && c.RPM <= p.RPM {
				q := r.Points[i-1]
				share := (c.RPM - q.RPM) / (p.RPM - q.RPM)
				at = SpindlePoint{q.Hertz + share*(p.Hertz-q.Hertz), c.RPM, q.TorqueNm + share*(p.TorqueNm-q.TorqueNm)}
			} else if i > 0 && i < len(r.Points)-1 {
				continue
			}
			apart := math.Abs(at.RPM/c.RPM - 1)
			reached := apart < 0.1
			better := apart < nearest-1e-9
			if reached && c.Reached {
				better = at.TorqueNm > c.TorqueNm
			}
			if better && (reached || !c.Reached) {
				nearest = apart
				c.Gear, c.Hertz, c.Got, c.TorqueNm, c.Reached = r.Title, at.Hertz, at.RPM, at.TorqueNm, reached
			}
		}
	}
	return c
}
