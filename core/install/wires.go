package install

import (
	"fmt"
	"math"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
)

// Landing is a wire as it is laid: where it goes, how long it is, and how it ends. Key is what it is ticked by, the
// same however wires are numbered.
type Landing struct {
	circuit.Wire
	Key     string  `json:"key"`
	FromAt  string  `json:"from_at"` // by the marks of the region
	ToAt    string  `json:"to_at"`
	FromIs  string  `json:"from_is"` // what stands there
	ToIs    string  `json:"to_is" told:"figures"`
	Metre   float64 `json:"metre"`
	Length  string  `json:"length" told:"figures"`
	Assumed bool    `json:"assumed"` // its length, of what leaves the box
	Ferrule string  `json:"ferrule" told:"figures"`
	Torque  string  `json:"torque" told:"figures"`
	Outside bool    `json:"outside"` // it leaves the box
}

// Lengths of wires, in metres (shop practice): what is left at both ends, to the door and back, from a supply or to a
// machine where nothing is known, and between a motor and what hangs at it.
const (
	slack     = 0.25
	toDoor    = 0.8
	usualAway = 3.0
	near      = 0.5
)

// landings are the wires of a circuit as they are laid.
func landings(c *circuit.Circuit, at Site, b box) []Landing {
	list := []Landing{}
	for _, w := range c.Wires {
		l := Landing{Wire: w, Key: w.From + ">" + w.To, FromAt: c.Marked(w.From), ToAt: c.Marked(w.To),
			FromIs: stood(c, w.From), ToIs: stood(c, w.To)}
		l.Metre, l.Assumed, l.Outside = lengthOf(w, at, &b)
		l.Length = quantity.Run(l.Metre, hertz(c))
		l.Ferrule, l.Torque = ends(w.Size)
		list = append(list, l)
	}
	return list
}

// hertz are those of a circuit's region.
func hertz(c *circuit.Circuit) float64 {
	if c.Region == circuit.UK {
		return 50
	}
	return 60
}

// stood is what stands at an end, in words.
func stood(c *circuit.Circuit, end string) string {
	id, _, of := strings.Cut(end, ":")
	if !of {
		return "supply"
	}
	p := c.Part(id)
	if p == nil {
		return ""
	}
	if p.Name == "" {
		return strings.ReplaceAll(string(p.Kind), "-", " ")
	}
	return p.Name
}

// lengthOf is that of a wire by where its ends stand: along the ducts in the box, and by usual runs out of it.
func lengthOf(w circuit.Wire, at Site, b *box) (metre float64, assumed, outside bool) {
	away := at.Away
	if away == 0 {
		away, assumed = usualAway, true
	}
	place := func(end string) (id string, where stands) {
		id, _, of := strings.Cut(end, ":")
		if !of {
			return "", apart
		}
		return id, b.where[id]
	}
	from, fromAt := place(w.From)
	to, toAt := place(w.To)
	switch {
	case from == to && from != "":
		return 2 * slack / 5, false, false // a bridge
	case fromAt == apart && toAt == apart && from != "" && to != "":
		return near + slack, true, true
	case fromAt == apart || toAt == apart:
		return away + slack, assumed, true
	case fromAt == onDoor && toAt == onDoor:
		return near + slack, false, false
	case fromAt == onDoor || toAt == onDoor:
		return toDoor + slack, false, false
	}
	x1, y1, ok1 := b.middle(from)
	x2, y2, ok2 := b.middle(to)
	if !ok1 || !ok2 { // a bleed at its can
		return slack, false, false
	}
	level := 0.0
	if y1 == y2 { // up to the duct and down again
		level = 2 * (duct + air + 40)
	}
	mm := math.Abs(x1-x2) + math.Abs(y1-y2) + level
	return math.Ceil(20*(mm/1000+slack)) / 20, false, false
}

// ending is how wires of a size end: the sleeve of a fine-stranded one (DIN 46228-4), and the torque where the part
// does not say one: IEC 60947-1, table 4, by the thread of usual terminals, and NEC (US, 2023), annex I, table I.1.
type ending struct{ sleeve, torque string }

var endings = map[string]ending{
	"1 mm²": {
		"1 mm², 8 mm",
		"0.8 N·m",
	},
	"1.5 mm²": {"1.5 mm², 8 mm", "0.8 N·m"},
	"2.5 mm²": {"2.5 mm², 8 mm", "0.8 N·m"},
	"4 mm²":   {"4 mm², 10 mm", "1.2 N·m"},
	"6 mm²":   {"6 mm², 12 mm", "1.2 N·m"},
	"10 mm²":  {"10 mm², 12 mm", "2 N·m"},
	"16 mm²": {
		"16 mm², 12 mm",
		"2 N·m",
	},
	"25 mm²": {"25 mm², 16 mm", "2.5 N·m"},
	"35 mm²": {"35 mm², 16 mm", "2.5 N·m"},
	"18 AWG": {
		"18 AWG, 8 mm",
		"20 lb·in",
	},
	"16 AWG": {"16 AWG, 8 mm", "20 lb·in"},
	"14 AWG": {"14 AWG, 8 mm", "20 lb·in"},
	"12 AWG": {"12 AWG, 10 mm", "20 lb·in"},
	"10 AWG": {"10 AWG, 12 mm", "20 lb·in"},
	"8 AWG":  {"none", "25 lb·in"},
	"6 AWG":  {"none", "35 lb·in"},
	"4 AWG":  {"none", "35 lb·in"},
	"3 AWG":  {"none", "35 lb·in"},
	"2 AWG":  {"none", "40 lb·in"},
}

// ends are the ferrule and the torque of a size; empty for one that is not known.
func ends(size string) (ferrule, torque string) {
	e, ok := endings[size]
	if !ok {
		return "", ""
	}
	return e.sleeve, fmt.Sprintf("as the part says; else %s", e.torque)
}
