package wiring_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/wiring"
)

func motorOn(line string) wiring.CapacitorMotor {
	return wiring.CapacitorMotor{
		Fed:        wiring.Fed{Supply: "240 V 60 Hz single phase", Guards: 2},
		Line:       line,
		Run:        "Run 40 + 15 µF 370 V ac",
		RunBleed:   "bleed on each: 56 kΩ 3 W",
		Start:      "Start 145–174 µF 330 V ac",
		StartBleed: "bleed on each: 12 kΩ 10 W",
		CutOut:     "contact opens at 1440 rpm",
		Overload:   "set 9 A",
		Motor:      "3 hp",
		Plate:      "joined for 230 V",
	}
}

func texts(d wiring.Drawing) map[string]bool {
	all := map[string]bool{}
	for _, i := range d.Items {
		if i.Kind == "text" {
			all[i.Text] = true
		}
	}
	return all
}

func drawings() map[string]wiring.Drawing {
	idler := wiring.IdlerMotor{
		Fed:       wiring.Fed{Supply: "240 V 60 Hz single phase", Guards: 1, Stops: []string{"Too small."}},
		Idler:     "5 hp",
		BalanceAC: "balance 91 µF",
		BalanceBC: "balance 40 µF",
		Start:     "Start 91 µF",
		CutOut:    "out at 1404 rpm",
		Overload:  "set 9 A",
		Motor:     "3 hp",
		Plate:     "joined for 230 V",
		SecondAC:  "63 µF",
		SecondBC:  "10 µF",
	}
	driven := wiring.DriveMotor{
		Fed:   wiring.Fed{Supply: "230 V 50 Hz single phase", Neutral: true},
		Drive: "2.2 kW",
		Bus:   "5.3 mH",
		Inputs: []wiring.DriveInput{
			{Has: "Start button", Input: "run"},
			{Has: "Emergency stop", Input: "safe torque off", Opens: true},
			{Has: "Interlocks, 2", Input: "safe torque off", Opens: true},
		},
		Motor: "3 hp",
		Plate: "joined for 230 V",
	}
	single := wiring.SinglePhaseMotor{
		Fed:      wiring.Fed{Supply: "230 V 50 Hz single phase", Neutral: true},
		Overload: "set 17 A",
		Motor:    "3 hp",
		Plate:    "1745 rpm",
	}
	return map[string]wiring.Drawing{
		"capacitors on a": wiring.CapacitorCircuit(motorOn("a")),
		"capacitors on b": wiring.CapacitorCircuit(motorOn("b")),
		"idler":           wiring.IdlerCircuit(idler),
		"drive":           wiring.DriveCircuit(driven),
		"single":          wiring.SinglePhaseCircuit(single),
	}
}

func TestEverythingIsInsideThePicture(t *testing.T) {
	for name, d := range drawings() {
		for _, i := range d.Items {
			for _, p := range i.Points {
				assert.True(t, p.X >= 0 && p.X <= d.Width && p.Y >= 0 && p.Y <= d.Height, "%s %+v", name, i)
			}
			assert.Contains(t, []string{"line", "rect", "circle", "text"}, i.Kind)
			assert.NotEmpty(t, i.Class)
		}
	}
}

// Each circuit says what keeps it safe: an idler's made leg and the contactor behind it,
// a drive's charged bus and the line that nothing switches.
func TestEachCircuitCarriesItsCautions(t *testing.T) {
	for name, list := range map[string][]string{
		"idler": {"made leg:", "live", "Idler", "Machine’s contactor K2", "its own overload,",
			"K1 and idler up", "closes only when the idler is up; coil on a " +
				"and b", "shaft guarded", "STOP: Too small."},
		"drive": {"nothing switches here", "bus charged after switch-off", "Low-voltage inputs, apart from " +
			"mains", "in series with it", "Rectifier"},
		"single": {"M 1~", "Overload", "set 17 A", "PE", "neutral: no fuse"},
	} {
		all := texts(drawings()[name])
		for _, text := range list {
			assert.True(t, all[text], "%s: %s", name, text)
		}
	}
	// The made leg reaches no coil: its line class appears in no drive's circuit.
	for _, i := range drawings()["drive"].Items {
		assert.NotEqual(t, "wire-c", i.Class)
	}
}

func TestTheDrawingSaysWhatMatters(t *testing.T) {
	all := texts(wiring.CapacitorCircuit(motorOn("a")))
	for _, text := range []string{"Isolator", "Contactor K1", "Overload", "2-pole breaker",
		"Emergency stop", "Guards", "Overload 95–96",
		"Stop", "Start", "held by its contactor", "set 9 A", "made leg:", "live",
		"contact opens at 1440 rpm", "PE", "Run 40 + 15 µF 370 V ac",
		"Isolate, lock, prove dead, discharge every capacitor. Local code has the last word."} {
		assert.True(t, all[text], text)
	}
}

func TestBranchesThatAreNotThereAreNotDrawn(t *testing.T) {
	m := motorOn("a")
	m.Start, m.StartBleed, m.CutOut = "", "", ""
	all := texts(wiring.CapacitorCircuit(m))
	assert.False(t, all["contact opens at 1440 rpm"])
	fewer := len(wiring.CapacitorCircuit(m).Items)
	m.Run, m.RunBleed = "", ""
	assert.Less(t, len(wiring.CapacitorCircuit(m).Items), fewer)
}

// A stop stands on the drawing too, inside its frame.
func TestStopsAreOnTheDrawing(t *testing.T) {
	m := motorOn("b")
	m.Stops = []string{"Will not break the load away.", "A winding is past plate amps."}
	d := wiring.CapacitorCircuit(m)
	all := texts(d)
	assert.True(t, all["STOP: Will not break the load away."])
	for _, i := range d.Items {
		assert.LessOrEqual(t, i.Points[0].Y, d.Height)
	}
	assert.Greater(t, d.Height, wiring.CapacitorCircuit(motorOn("b")).Height)
}

// The capacitors hang between the chosen line and the made leg.
func TestTheBankHangsOnItsLine(t *testing.T) {
	for line, other := range map[string]string{"a": "b", "b": "a"} {
		dots := map[string]int{}
		for _, i := range wiring.CapacitorCircuit(motorOn(line)).Items {
			if i.Kind == "circle" {
				dots[i.Class]++
			}
		}
		assert.Equal(t, 2, dots["dot-"+line])
		assert.Equal(t, 2, dots["dot-c"])
		assert.Zero(t, dots["dot-"+other])
	}
}

// What keeps people safe is in every circuit: a breaker in both lines, a protective conductor
// that begins at the supply and ends at each machine's frame, stops that open, and no fuse in a
// neutral.
func TestEveryCircuitIsProtected(t *testing.T) {
	for name, d := range drawings() {
		all := texts(d)
		assert.True(t, all["2-pole breaker"], name)
		assert.True(t, all["PE"], name)
		var machines, joined, fuses int
		for _, i := range d.Items {
			switch {
			case i.Class == "machine":
				machines++
				for _, e := range d.Items {
					if e.Class != "earth" || e.Kind != "line" {
						continue
					}
					p := e.Points[0]
					off := math.Hypot(p.X-i.Points[0].X, p.Y-i.Points[0].Y)
					if math.Abs(off-i.Radius) < 2 {
						joined++
					}
				}
			case i.Text == "fuse":
				fuses++
			}
		}
		assert.Equal(t, machines, joined, "%s: every frame is bonded", name)
		if name == "single" {
			assert.Equal(t, 1, fuses, "the neutral has none")
		} else if name != "drive" {
			assert.Equal(t, 2, fuses, name)
		}
	}
	opens := 0
	for _, i := range drawings()["drive"].Items {
		if i.Kind == "line" && len(i.Points) == 2 && i.Points[0].X == 332 && i.Points[1].X == 332 {
			opens++ // the stop that the arm of an opening contact lies on
		}
	}
	assert.Equal(t, 2, opens, "emergency stop and interlocks open, the start closes")
	// The dc link is drawn as no line of the mains.
	for _, i := range drawings()["drive"].Items {
		if (i.Class == "wire-a" || i.Class == "wire-b") && i.Kind == "line" {
			for _, p := range i.Points {
				assert.LessOrEqual(t, p.X, 250.0)
			}
		}
	}
}
