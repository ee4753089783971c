package quantity

import (
	"math"
	"strconv"
	"strings"
)

// Figures prints a value with n significant figures and no exponent, trailing
// zeros behind the point cut off: Figures(62.04, 3) is "62", and
// Figures(0.07126, 3) is "0.0713".
func Figures(value float64, n int) string {
	if value == 0 || math.IsNaN(value) || math.IsInf(value, 0) {
		return "0"
	}
	decimals := n - 1 - int(math.Floor(math.Log10(math.Abs(value))))
	if decimals < 0 {
		scale := math.Pow(10, float64(-decimals))
		return strconv.FormatFloat(math.Round(value/scale)*scale, 'f', 0, 64)
	}
	text := strconv.FormatFloat(value, 'f', decimals, 64)
	if strings.Contains(text, ".") {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	return text
}

// Fixed prints a value with the given decimals, "0" never with a minus sign.
func Fixed(value float64, decimals int) string {
	text := strconv.FormatFloat(value, 'f', decimals, 64)
	if strings.Trim(text, "-0.") == "" {
		return strings.TrimPrefix(text, "-")
	}
	return text
}

// SixtyHertz says whether a frequency is that of a country of 60 Hz, which has units,
// standard parts and a code of its own, rather than of 50 Hz.
func SixtyHertz(hertz float64) bool { return hertz >= 55 }

// feetPerMetre is exact.
const feetPerMetre = 1 / 0.3048

// RunUnit is the unit in which runs of wire are reckoned in a country, and how many make a metre.
func RunUnit(hertz float64) (unit string, perMetre float64) {
	if SixtyHertz(hertz) {
		return "ft", feetPerMetre
	}
	return "m", 1
}

// Run prints the length of a run of wire in the unit of its country.
func Run(metres, hertz float64) string {
	unit, perMetre := RunUnit(hertz)
	return strconv.FormatFloat(metres*perMetre, 'f', 0, 64) + "\u00a0" + unit
}

// Power prints watts in the unit a plate of that country would use: kW at
// 50 Hz, hp at 60 Hz with the usual fractions.
func Power(watts, hertz float64) string {
	if !SixtyHertz(hertz) {
		return Figures(watts/1000, 3) + " kW"
	}
	return Horsepower(watts) + " hp"
}

// PowerIn prints watts in a unit of PowerUnit, in that of the country where it is none.
func PowerIn(unit string, watts, hertz float64) string {
	switch unit {
	case "kW", "W":
		return Figures(watts/1000, 3) + " kW"
	case "hp":
		return Horsepower(watts) + " hp"
	case "PS":
		return Figures(watts/WattsPerMetricHorsepower, 3) + " PS"
	}
	return Power(watts, hertz)
}

// PowerRange prints two powers in one unit, the lower with two figures.
func PowerRange(low, high, hertz float64) string {
	if !SixtyHertz(hertz) {
		return Figures(low/1000, 2) + "–" + Figures(high/1000, 3) + " kW"
	}
	return Figures(low/WattsPerHorsepower, 2) + "–" + Figures(high/WattsPerHorsepower, 3) + " hp"
}

// Horsepower prints watts as horsepower, with a common fraction where the
// value is one of the standard ratings.
func Horsepower(watts float64) string {
	hp := watts / WattsPerHorsepower
	whole, part := math.Modf(hp)
	for mark, share := range vulgar {
		if math.Abs(part-share) < 0.003*math.Min(hp, 1.3) && hp < 10 {
			if whole == 0 {
				return string(mark)
			}
			return strconv.Itoa(int(whole)) + string(mark)
		}
	}
	return Figures(hp, 3)
}
