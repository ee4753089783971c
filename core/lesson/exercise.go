package lesson

import (
	"fmt"
	"math"
	"math/rand/v2"

	"brackmoor/core/plate"
	"brackmoor/core/quantity"
)

// Exercise is a made-up plate with one figure on it that is wrong. Which one, and why, is told once it was answered.
type Exercise struct {
	Seed   uint64      `json:"seed"`
	Level  int         `json:"level"`
	Plate  plate.Typed `json:"plate"`
	Fields []Field     `json:"fields" nullable:"false"` // that may be wrong
}

// Field is one of a plate's, and what stands there.
type Field struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Value string `json:"value"`
}

// Answered is what an answer came to: the figure that is wrong, what should stand there, and how one sees it.
type Answered struct {
	Right  bool   `json:"right"`
	Field  string `json:"field"`
	Title  string `json:"title"`
	Should string `json:"should"`
	Says   string `json:"says" told:"figures"`
}

// Levels of exercises.
const (
	Easy  = 1
	Usual = 2
	Hard  = 3
)

// planted is an error: on which field, how it is put there, and how one sees it. ok is false where it cannot be put
// on a plate.
type planted struct {
	level int
	field string
	put   func(p *plate.Plate) (wrong string, ok bool)
	says  string
}

// errors that are planted, by level: what worn plates and tired eyes make of figures.
var errors = []planted{
	{Easy, "amps", func(p *plate.Plate) (string, bool) {
		return pair(p, 10), true
	}, "A point was lost: √3 · volts · amps would be ten times what the shaft gives."},
	{Easy, "rpm", func(p *plate.Plate) (string, bool) {
		return fmt.Sprintf("%.0f", 120*p.Hertz/4+35), true
	}, "No motor turns faster than its field: 120 · hertz / poles is the most."},
	{Easy, "output", func(p *plate.Plate) (string, bool) {
		return quantity.Figures(p.OutputWatts/100, 2) + " kW", true
	}, "Ten times the output for the same amps: efficiency times power factor would be far above one."},
	{Usual, "amps", func(p *plate.Plate) (string, bool) {
		low, high := p.Ratings[0].Amps, p.Ratings[len(p.Ratings)-1].Amps
		return ampsOf(high) + "/" + ampsOf(low), len(p.Ratings) == 2
	}, "The amps stand the wrong way round: the lower volts have the more amps."},
	{Usual, "output", func(p *plate.Plate) (string, bool) {
		return quantity.Figures(p.OutputWatts/quantity.WattsPerHorsepower, 2) + " kW", p.OutputUnit == "hp"
	}, "Horses were written as kilowatts: a third more output than its amps can carry."},
	{Usual, "hertz", func(p *plate.Plate) (string, bool) {
		if p.Hertz > 55 {
			return "50", true
		}
		return "60", p.RPM > 0 && p.RPM < 1500
	}, "Its speed is just under that of the other country's field: slip would be none, or a fifth."},
	{Hard, "amps", func(p *plate.Plate) (string, bool) {
		return pair(p, 0.6), true
	}, "Efficiency times power factor comes out above what any motor of its size has: a digit was misread."},
	{Hard, "efficiency", func(p *plate.Plate) (string, bool) {
		return fmt.Sprintf("%.1f", 100*lowEfficiency*p.Efficiency), true
	}, "Output over √3 · volts · amps · power factor is the efficiency, and that is another."},
	{Hard, "power_factor", func(*plate.Plate) (string, bool) {
		return "0.38", true
	}, "With that power factor its amps would carry half of its output."},
}

// lowEfficiency is what a misread efficiency has of the right one: a first digit that was worn.
const lowEfficiency = 0.6

// ampsOf prints amps as a plate has them.
func ampsOf(v float64) string { return quantity.Figures(v, 2) }

// pair prints a plate's amps times a factor.
func pair(p *plate.Plate, times float64) string {
	text := ""
	for i, r := range p.Ratings {
		if i > 0 {
			text += "/"
		}
		text += ampsOf(times * r.Amps)
	}
	return text
}

// sound are outputs, poles and the slip of plates of two countries that agree with themselves.
var sound = []struct {
	output, volts string
	poles         int
	hertz, slip   float64
}{
	{"1 hp", "230/460", 4, 60, 0.035}, {"2 hp", "230/460", 4, 60, 0.031}, {"3 hp", "230/460", 4, 60, 0.028},
	{"5 hp", "230/460", 4, 60, 0.026}, {"1 1/2 hp", "230/460", 4, 60, 0.033}, {"7 1/2 hp", "230/460", 4, 60, 0.022},
	{"0.75 kW", "230/400", 4, 50, 0.06}, {"1.5 kW", "230/400", 4, 50, 0.055}, {"2.2 kW", "230/400", 4, 50, 0.05},
	{"4 kW", "230/400", 4, 50, 0.04}, {"3 kW", "230/400", 4, 50, 0.047},
}

// titles of the fields that may be wrong, in a plate's order.
var titles = []struct{ name, title string }{
	{"output", "Output"}, {"volts", "Volts"}, {"amps", "Amps"}, {"hertz", "Hertz"}, {"rpm", "rpm"},
	{"power_factor", "Power factor"}, {"efficiency", "Efficiency %"},
}

// at is a field of a typed plate.
func at(t *plate.Typed, name string) *string {
	return map[string]*string{
		"output": &t.Output, "volts": &t.Volts, "amps": &t.Amps, "hertz": &t.Hertz, "rpm": &t.RPM,
		"power_factor": &t.PowerFactor, "efficiency": &t.Efficiency,
	}[name]
}

// Invented is the plate of a machine that nobody has, by a seed, for a supply of so many hertz.
func Invented(seed uint64, hertz float64) plate.Typed {
	const between = 55.0 // Hz, of the two countries
	var here []int
	for i := range sound {
		if sound[i].hertz > between == (hertz > between) {
			here = append(here, i)
		}
	}
	return bareOf(here[rand.New(rand.NewPCG(seed, 77)).IntN(len(here))])
}

// bareOf is a sound plate without its amps and what belongs to them.
func bareOf(i int) plate.Typed {
	s := sound[i]
	return plate.Typed{
		Output: s.output, Volts: s.volts, Hertz: fmt.Sprintf("%.0f", s.hertz),
		RPM: fmt.Sprintf("%.0f", math.Round(120*s.hertz/float64(s.poles)*(1-s.slip)/5)*5),
	}
}

// made is an exercise with its answer: an error of the level, each as likely as the others, on the first plate that
// comes on which it can be seen.
func made(seed uint64, level int) (Exercise, planted, string) {
	r := rand.New(rand.NewPCG(seed, uint64(level)))
	var list []planted
	for _, e := range errors {
		if e.level == level {
			list = append(list, e)
		}
	}
	e := list[r.IntN(len(list))]
	for _, i := range r.Perm(len(sound)) {
		if x, should, ok := e.on(i); ok {
			x.Seed, x.Level = seed, level
			return x, e, should
		}
	}
	panic("lesson: no plate shows that its " + e.field + " is wrong") // a test plants each
}

// on puts an error on a sound plate; ok is false where it cannot be put there, or seen: it has to contradict the rest.
func (e planted) on(i int) (x Exercise, should string, ok bool) {
	t := bareOf(i)
	bare, problems := plate.Read(t)
	if problems != nil {
		return x, "", false
	}
	supply := plate.Supply{Volts: bare.Ratings[0].Volts, Hertz: bare.Hertz}
	filled, problems := plate.Fill(bare, supply)
	if problems != nil {
		return x, "", false
	}
	t.Amps = ampsOf(filled.Amps.Value) + "/" + ampsOf(filled.Amps.Value*supply.Volts/bare.Ratings[1].Volts)
	t.PowerFactor = quantity.Figures(filled.PowerFactor.Value, 2)
	t.Efficiency = fmt.Sprintf("%.1f", 100*filled.Efficiency.Value)
	p, problems := plate.Read(t)
	if problems != nil {
		return x, "", false
	}
	wrong, put := e.put(&p)
	is := at(&t, e.field)
	should = *is
	*is = wrong
	bad, problems := plate.Read(t)
	if !put || wrong == should || problems == nil && plate.Misreadings(bad, supply) == nil {
		return x, "", false
	}
	x.Plate = t
	for _, f := range titles {
		x.Fields = append(x.Fields, Field{f.name, f.title, *at(&t, f.name)})
	}
	return x, should, true
}

// ExerciseOf is the exercise of a seed at a level, 1 to 3: the same for everybody.
func ExerciseOf(seed uint64, level int) Exercise {
	x, _, _ := made(seed, min(max(level, Easy), Hard))
	return x
}

// Answer says whether a field is the one that is wrong, and names the mistake.
func Answer(seed uint64, level int, field string) Answered {
	_, e, should := made(seed, min(max(level, Easy), Hard))
	a := Answered{Right: field == e.field, Field: e.field, Should: should, Says: e.says}
	for _, f := range titles {
		if f.name == e.field {
			a.Title = f.title
		}
	}
	return a
}
