package supply

import (
	"fmt"
	"strconv"

	"brackmoor/core/rule"
)

// usCords is the name of the table of flexible cords.
const usCords = "us-cords"

// cords are flexible cords of copper by NEC 400.5(A)(1) (US, 2023): amps with three conductors that carry
// current (column A) and with two (column B).
var cords = []struct {
	size       string
	three, two float64
}{
	{"14 AWG", 15, 18}, {"12 AWG", 20, 25}, {"10 AWG", 25, 30}, {"8 AWG", 35, 40}, {"6 AWG", 45, 55},
	{"4 AWG", 60, 70}, {"2 AWG", 80, 95},
}

// The heads of its columns.
const (
	threeLoaded = "3 loaded"
	twoLoaded   = "2 loaded"
)

// cord is what a flexible cord of two loaded conductors carries; ok is false where the table does not have
// it.
func (c Code) cord(l Laid) (carried Carried, ok bool) {
	for _, k := range cords {
		if k.size != l.Size || l.Material == Aluminium {
			continue
		}
		amps, own := c.figure(usCords, k.size, twoLoaded, k.two)
		air := warmer(warmUS[60], l.AirC)
		carried.Amps = amps * air
		carried.By = fmt.Sprintf("%s flexible cord, two loaded: %g A", k.size, amps) + corrections(air, 1) + ": " +
			by(own, "NEC 400.5(A)(1) (US, 2023)")
		for _, g := range gauges {
			if g.size == k.size {
				carried.Ohm = complex(g.ohm*kilometre, reactance) / 1000
			}
		}
		carried.Most = c.mostOfSmall(l)
		return carried, true
	}
	return carried, false
}

// mostOfSmall is the most that protects a small conductor, 0 for none of those.
func (c Code) mostOfSmall(l Laid) float64 {
	most, _ := c.figure(smallUS, l.Size, usMaterial[l.Material], small[l.Material][l.Size])
	return most
}

func cordTable() rule.Table {
	t := rule.Table{Name: usCords, Title: "Flexible cords, copper, A", Source: "NEC 400.5(A)(1) (US, 2023): 30 °C",
		Head: []string{"Size", threeLoaded, twoLoaded}, Open: []string{threeLoaded, twoLoaded}, Rows: [][]string{}}
	for _, k := range cords {
		t.Rows = append(t.Rows, []string{
			k.size, strconv.FormatFloat(k.three, 'g', 4, 64), strconv.FormatFloat(k.two, 'g', 4, 64),
		})
	}
	return t
}
