package install

import (
	"fmt"
	"math"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Enclosure is the box that a circuit wants. Kelvin is how much warmer it gets inside than the air around it.
type Enclosure struct {
	WidthMM    float64    `json:"width_mm"`
	HeightMM   float64    `json:"height_mm"`
	DepthMM    float64    `json:"depth_mm"`
	Size       string     `json:"size"`
	Words      string     `json:"words"`
	Protection string     `json:"protection"` // class by the place
	Watts      float64    `json:"watts"`
	Kelvin     float64    `json:"kelvin"`
	Fan        bool       `json:"fan"` // it gets too warm shut
	Rails      int        `json:"rails"`
	Glands     []string   `json:"glands" nullable:"false"`
	Rows       []rule.Row `json:"rows" nullable:"false"`
}

// boxes are usual sizes of wall boxes, width, height and depth in mm.
var boxes = [][3]float64{
	{
		200,
		300,
		150,
	},
	{300, 400, 200},
	{400, 400, 200},
	{400, 500, 200},
	{400, 600, 250},
	{500, 700, 250},
	{600, 800, 250},
	{600, 1000, 250},
	{800, 1000, 300},
	{800, 1200, 300},
	{1000, 1400, 300},
	{1200, 1600, 400},
	{1200, 2000, 400},
}

// protections are the classes that a box wants by what is in the air where it hangs: IEC 60529, NEMA 250.
var protections = map[string]struct{ says, ip, nema string }{
	circuit.Dusty: {"dust and chips", "IP54", "type 12"}, circuit.Dry: {"dry and clean", "IP30", "type 1"},
	circuit.Coolant: {"coolant and splashes", "IP65", "type 13"}, circuit.Outside: {"outside, rain", "IP65", "type 4"},
}

// Figures of heat (IEC TR 60890 for the surface of a box on a wall; painted steel, shop practice).
const (
	perSquareMetre = 5.5  // watts for each kelvin
	mostKelvin     = 20.0 // above a workshop of 35 °C at most: a drive is for 50, most relays for 55
	spare          = 1.2  // of the plate, for what comes later
)

// enclosure chooses a box: by what stands in it, then larger while it gets too warm.
func enclosure(c *circuit.Circuit, at Site, b box) Enclosure {
	e := Enclosure{Glands: []string{}, Rails: len(b.ducts) - 1, Protection: protection(c, at)}
	for _, s := range b.spots {
		e.Watts += s.watts
	}
	fits := func(size [3]float64) bool {
		return size[0] >= b.wide+60 && size[1] >= spare*b.high+40 && size[2] >= b.deep+40
	}
	chosen := -1
	for i, size := range boxes {
		if !fits(size) {
			continue
		}
		if chosen < 0 {
			chosen = i
		}
		if warmer(size, e.Watts) <= mostKelvin {
			chosen = i
			break
		}
		if size[0]*size[1] > 4*boxes[chosen][0]*boxes[chosen][1] {
			break // a fan is cheaper
		}
	}
	if chosen < 0 {
		chosen = len(boxes) - 1
	}
	first := chosen
	for i, size := range boxes { // the smallest that holds it, where none near its size stays cool
		if fits(size) {
			first = i
			break
		}
	}
	if warmer(boxes[chosen], e.Watts) > mostKelvin {
		chosen = first
	}
	size := boxes[chosen]
	e.WidthMM, e.HeightMM, e.DepthMM = size[0], size[1], size[2]
	e.Kelvin = warmer(size, e.Watts)
	e.Fan = e.Kelvin > mostKelvin
	e.Size = fmt.Sprintf("%.0f × %.0f × %.0f mm", size[0], size[1], size[2])
	if c.Region == circuit.US {
		e.Size = fmt.Sprintf("%.0f × %.0f × %.0f in", math.Ceil(size[0]/25.4), math.Ceil(size[1]/25.4),
			math.Ceil(size[2]/25.4))
	}
	e.Words = e.Size + ", " + e.Protection
	e.glands(c)
	e.rows(at)
	return e
}

func protection(c *circuit.Circuit, at Site) string {
	p := protections[at.Place]
	if c.Region == circuit.US {
		return p.nema
	}
	return p.ip
}

// warmer is how much warmer a shut box gets: its losses over its surface, that of one on a wall.
func warmer(size [3]float64, watts float64) float64 {
	w, h, d := size[0]/1000, size[1]/1000, size[2]/1000
	surface := 1.4*w*(h+d) + 1.8*d*h // IEC TR 60890, one on a wall
	return watts / (perSquareMetre * surface)
}

// glands are for the cables that leave the box.
func (e *Enclosure) glands(c *circuit.Circuit) {
	e.Glands = append(e.Glands, "the supply’s cable")
	for i := range c.Parts {
		p := &c.Parts[i]
		switch where, _ := standing(p); {
		case where != apart:
		case p.Kind == circuit.Interlock:
			e.Glands = append(e.Glands, "the cable to the contactor of "+p.Name)
		case p.Kind == circuit.GuardSwitch || p.Kind == circuit.BrakeResistor || p.Kind == circuit.StartBox,
			p.Kind == circuit.Motor, p.Kind == circuit.SinglePhaseMotor, p.Kind == circuit.Transformer:
			e.Glands = append(e.Glands, fmt.Sprintf("the cable of %s", p.ID))
		}
	}
}

func (e *Enclosure) rows(at Site) {
	heat := rule.Row{
		Label:   "Gives off",
		Value:   quantity.Figures(e.Watts, 2) + " W",
		Assumed: true,
		Remark: fmt.Sprintf(
			"shut it gets %s K warmer than the air: losses over %.1f W/m²K of its surface, IEC TR 60890",
			quantity.Figures(e.Kelvin, 2),
			perSquareMetre,
		),
	}
	if e.Fan {
		heat.Remark += "; too warm: a fan with filters, or a box of its own for the drive"
	}
	e.Rows = []rule.Row{
		{Label: "Box", Value: e.Size, Remark: "the parts with their ducts, and a fifth spare", Assumed: true},
		{Label: "Protection", Value: e.Protection, Remark: protections[at.Place].says + ": IEC 60529, NEMA 250"},
		heat,
		{
			Label:  "Cables",
			Value:  fmt.Sprintf("%d glands", len(e.Glands)),
			Remark: "each of the cable’s size, from below; every other hole closed; strain taken first",
		},
		{Label: "It stands", Value: "out of chips and coolant", Remark: "its door opens fully; the isolator’s handle " +
			"between 0.6 and 1.9 m: IEC 60204-1, 5.3.4"},
		{Label: "Capacitors", Value: "lowest, upright", Remark: "apart from what is hot, in a vented part with their " +
			"bleeds; a can that fails vents upwards"},
		{
			Label: "An idler",
			Value: "on rubber, guarded",
			Remark: "shaft and belt covered, its key taken out; where it " +
				"can be heard, and reached to be switched off",
		},
	}
}
