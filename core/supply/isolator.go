package supply

import (
	"fmt"

	"brackmoor/core/quantity"
)

// Locked-rotor amps by horsepower, by which an isolator rated in it is chosen (US, 2023).
var (
	onePhaseLocked = ratedAmps{
		"us-one-phase-locked",
		"Locked-rotor amps of single-phase motors",
		"NEC 430.251(A) (US, 2023): for isolators and controllers",
		[]float64{115, 208, 230},
		[]ratedRow{
			{1. / 2, []float64{58.8, 32.5, 29.4}},
			{3. / 4, []float64{82.8, 45.8, 41.4}},
			{1, []float64{96, 53, 48}},
			{1.5, []float64{120, 66, 60}},
			{2, []float64{144, 80, 72}},
			{3, []float64{204, 113, 102}},
			{5, []float64{336, 186, 168}},
			{7.5, []float64{480, 265, 240}},
			{10, []float64{600, 332, 300}},
		},
	}
	threePhaseLocked = ratedAmps{
		"us-three-phase-locked",
		"Locked-rotor amps of three-phase motors",
		"NEC 430.251(B) (US, 2023), designs B, C and D: for isolators and controllers",
		[]float64{115, 200, 208, 230, 460},
		[]ratedRow{
			{1. / 2, []float64{40, 23, 22.1, 20, 10}},
			{3. / 4, []float64{50, 28.8, 27.6, 25, 12.5}},
			{1, []float64{60, 34.5, 33, 30, 15}},
			{1.5, []float64{80, 46, 44, 40, 20}},
			{2, []float64{100, 57.5, 55, 50, 25}},
			{3, []float64{0, 73.6, 71, 64, 32}},
			{5, []float64{0, 105.8, 102, 92, 46}},
			{7.5, []float64{0, 146, 140, 127, 63.5}},
			{10, []float64{0, 186.3, 179, 162, 81}},
			{15, []float64{0, 267, 257, 232, 116}},
			{20, []float64{0, 334, 321, 290, 145}},
			{25, []float64{0, 420, 404, 365, 183}},
			{30, []float64{0, 500, 481, 435, 218}},
			{40, []float64{0, 667, 641, 580, 290}},
		},
	}
)

// What codes have of an isolator.
var (
	isolates  = factor{"Isolator of motors or of a converter, of their amps", 115, "NEC 430.110(A), 455.8(C)"}
	converted = factor{"Isolator of a converter, of its loads’ locked-rotor amps", 200, "NEC 455.8(C)(2)"}
)

// ThreePhaseLockedAmps are the table's locked-rotor amps of a three-phase motor of an output in watts; ok is
// false where the table ends and on 50 Hz.
func (c Code) ThreePhaseLockedAmps(watts, volts float64) (amps float64, ok bool) {
	amps, _, ok = c.table(threePhaseLocked, watts, volts)
	return amps, ok
}

// OnePhaseLockedAmps are those of a single-phase motor.
func (c Code) OnePhaseLockedAmps(watts, volts float64) (amps float64, ok bool) {
	amps, _, ok = c.table(onePhaseLocked, watts, volts)
	return amps, ok
}

// ConverterLocked is what an isolator ahead of a converter counts as locked-rotor amps, by the sum of those of
// its largest motor and the amps of its other loads.
func (c Code) ConverterLocked(loads float64) float64 {
	percent, _ := c.percent(converted)
	return percent / 100 * loads
}

// Isolator is what a switch that isolates motors is for at least. Watts are its rating in horsepower, of a motor
// of one or three phases, 0 for one that needs none. Beyond says that the tables end below it.
type Isolator struct {
	Amps   float64
	Watts  float64
	Beyond bool
	By     string
}

// Isolator is that of motors that take so many amps together, and so many at the worst start, on volts of one or
// three phases; locked amps of 0 are those of what is no motor across the lines. Elsewhere than on 60 Hz it is
// for their amps.
func (c Code) Isolator(full, locked, volts float64, phases int) Isolator {
	if !quantity.SixtyHertz(c.hertz) {
		return Isolator{Amps: full, By: "IEC 60204-1, 5.3"}
	}
	percent, source := c.percent(isolates)
	i := Isolator{Amps: percent / 100 * full, By: source}
	if locked == 0 {
		return i
	}
	rated, stands, name := onePhase, onePhaseLocked, "430.248, 430.251(A)"
	if phases == 3 {
		rated, stands, name = threePhase, threePhaseLocked, "430.250, 430.251(B)"
	}
	i.By += fmt.Sprintf("; in horsepower by %s A running and %s A at standstill: %s",
		quantity.Figures(full, 3), quantity.Figures(locked, 3), name)
	for _, row := range stands.rows {
		watts := row.horses * quantity.WattsPerHorsepower
		runs, _, ok := c.table(rated, watts, volts)
		begins, _, known := c.table(stands, watts, volts)
		if ok && known && runs >= full && begins >= locked {
			i.Watts = watts
			return i
		}
	}
	i.Beyond = true
	return i
}
