package learn

import (
	"math"
	"slices"

	"brackmoor/core/motor"
	"brackmoor/core/quantity"
)

// Parameter is something of the real machines that readings tell of: as the plate or the marks have it, as it was
// learned, and its standard deviation then, in its unit.
type Parameter struct {
	Name  string  `json:"parameter"`
	Of    string  `json:"of"` // a motor's id, supply or capacitors
	Unit  string  `json:"unit"`
	Prior float64 `json:"prior"`
	Value float64 `json:"value"`
	Sigma float64 `json:"sigma"`
	// Shrunk is what is left of the doubt that there was before anything was read, from 0 to 1.
	Shrunk float64 `json:"-"`
}

// How far each lies from its prior: the standard deviation of its natural logarithm, of a bank and a load of itself.
// Motors of one plate differ so by make and age; a source is seldom known better than by half; motor-run capacitors
// come within five percent (IEC 60252-1, 2.7); what is idle in a gearbox is not on the plate.
const (
	widthMagnetising = 0.15
	widthSaturation  = 0.35
	widthLeakage     = 0.18
	widthStator      = 0.12
	widthRotor       = 0.15
	widthLosses      = 0.40
	widthSource      = 0.50
	widthVolts       = 0.015
	widthCapacitor   = 0.05
	widthIron        = 0.15 // of the reactance of iron that is not saturated, over that at the supply's volts
	widthShare       = 0.35 // of plate output, not of its logarithm
	usualShare       = 0.4  // where a load is not known
)

// kinds of parameters.
const (
	magnetising = iota
	saturation
	leakage
	stator
	rotor
	losses
	ofMotor // how many a motor has
)

// dial is one direction in which the model may differ: kind of whom, and its width.
type dial struct {
	Parameter
	motor   string // whose, "" for the supply, the capacitors or a load
	kind    int
	width   float64
	reading int     // of an unknown load: where it was read
	marked  float64 // of a bank: the microfarads on its cans at the last reading
}

// kinds of dials beside those of motors.
const (
	sourceOhm = ofMotor + iota
	sourceReactance
	sourceVolts
	bankAC
	bankBC
	loadShare
	unsaturated // of a motor, at reduced volts
)

// dials are all in which a case may differ from its plates.
func (c *Case) dials() (list []dial) {
	add := func(d dial) { list = append(list, d) }
	each := func(m *Motor) {
		own := &m.Network
		for kind, p := range []struct {
			name, unit   string
			prior, width float64
		}{
			{"magnetising reactance", "Ω", own.Circuit.XmOhm, widthMagnetising},
			{"saturation", "× of its curve", 1, widthSaturation},
			{"leakage", "Ω", own.Circuit.X1Ohm, widthLeakage},
			{"stator resistance", "Ω", own.Circuit.R1Ohm, widthStator},
			{"rotor resistance", "Ω", own.Circuit.Cages[0].ROhm, widthRotor},
			{"friction and core", "W", own.FrictionWatts, widthLosses},
		} {
			if kind == saturation && len(own.Circuit.Curve) < 2 {
				continue
			}
			add(dial{Parameter{Name: p.name, Of: m.ID, Unit: p.unit, Prior: p.prior}, m.ID, kind, p.width, -1, 0})
		}
		if slices.ContainsFunc(c.Readings, func(r Reading) bool { return r.reduced() }) {
			own := Parameter{Name: "iron unsaturated", Of: m.ID, Unit: "× of its reactance at full volts", Prior: 1}
			add(dial{own, m.ID, unsaturated, widthIron, -1, 0})
		}
	}
	if c.Idler != nil {
		each(c.Idler)
	}
	for i := range c.Machines {
		each(&c.Machines[i])
	}
	for _, s := range []struct {
		name, unit   string
		kind         int
		prior, width float64
	}{
		{"supply’s resistance", "Ω", sourceOhm, c.Supply.ResistanceOhm, widthSource},
		{"supply’s reactance", "Ω", sourceReactance, c.Supply.ReactanceOhm, widthSource},
		{"supply’s volts", "V", sourceVolts, c.Supply.Volts, widthVolts},
	} {
		if s.prior > 0 {
			add(dial{Parameter{Name: s.name, Of: Supply, Unit: s.unit, Prior: s.prior}, "", s.kind, s.width, -1, 0})
		}
	}
	lines := quantity.LinesAt(c.Supply.Hertz)
	for i, letter := range []string{"a", "b"} {
		own := Parameter{Name: lines.To(letter), Of: "capacitors", Unit: "× of their marks", Prior: 1}
		add(dial{own, "", bankAC + i, widthCapacitor, -1, c.marked(bankAC + i)})
	}
	for i := range c.Readings {
		r := &c.Readings[i]
		for _, m := range c.motors(&r.State) {
			if m != c.Idler && r.Share[m.ID] == nil {
				add(dial{Parameter{Name: "load", Of: m.ID, Unit: "× of plate output", Prior: usualShare}, m.ID,
					loadShare, widthShare, i, 0})
			}
		}
	}
	return list
}

// Most dials stand near where the plate has them. A bank is within its marks, or a can of it is open or at its end: it
// is let go of the more, the farther off it is (Student's t).
const (
	farthest     = 4.0 // standard deviations
	farthestBank = 30.0
	freedomBank  = 3.0
)

func (d *dial) ofBank() bool { return d.kind == bankAC || d.kind == bankBC }

// farthest is how many standard deviations a dial is turned at most.
func (d *dial) farthest() float64 {
	if d.ofBank() {
		return farthestBank
	}
	return farthest
}

// holds is the weight with which a dial is held to its prior, and costs what standing off it costs.
func (d *dial) holds(u float64) float64 {
	if d.ofBank() {
		return freedomBank / (freedomBank + u*u)
	}
	return 1
}

func (d *dial) costs(u float64) float64 {
	if d.ofBank() {
		return freedomBank * math.Log1p(u*u/freedomBank)
	}
	return u * u
}

// marked is what is printed on the cans of a bank at the last reading that has any.
func (c *Case) marked(kind int) (microfarad float64) {
	for i := range c.Readings {
		now := c.Readings[i].AC
		if kind == bankBC {
			now = c.Readings[i].BC
		}
		if now > 0 {
			microfarad = now
		}
	}
	return microfarad
}

// inCircuit is what a bank of so many microfarads by its marks has: what the cans that were read lack they go on
// lacking, and cans that are put in beside them have what is printed on them.
func (d *dial) inCircuit(u, microfarad float64) float64 {
	return math.Max(0, microfarad+(d.value(u)-1)*d.marked)
}

// value is a dial's at so many standard deviations from its prior.
func (d *dial) value(u float64) float64 {
	if d.kind == loadShare || d.ofBank() {
		return math.Max(0, d.Prior+d.width*u)
	}
	return d.Prior * math.Exp(d.width*u)
}

// spread is the standard deviation of its value, by that of u.
func (d *dial) spread(u, sigma float64) float64 {
	if d.kind == loadShare || d.ofBank() {
		return d.width * sigma
	}
	return d.value(u) * d.width * sigma
}

// turns is by how much a motor differs from its plate where dials stand at u.
func turns(id string, dials []dial, u []float64) motor.Turned {
	t := motor.Same
	for i := range dials {
		if d := &dials[i]; d.motor == id && d.kind < ofMotor {
			*[]*float64{&t.Magnetising, &t.Saturation, &t.Leakage, &t.Stator, &t.Rotor, &t.Losses}[d.kind] =
				math.Exp(d.width * u[i])
		}
	}
	return t
}

// Turned is by how much a motor of the case differs from its plate, as it was learned.
func (l *Learned) Turned(id string) motor.Turned { return turns(id, l.m.dials, l.m.u) }

// Source is by how much the supply's resistance and reactance differ from what was assumed, as factors.
func (l *Learned) Source() (resistance, reactance float64) {
	resistance, reactance = 1, 1
	for kind, of := range map[int]*float64{sourceOhm: &resistance, sourceReactance: &reactance} {
		if d, u := l.m.dialed(kind, "", -1); d != nil {
			*of = math.Exp(d.width * u)
		}
	}
	return resistance, reactance
}
