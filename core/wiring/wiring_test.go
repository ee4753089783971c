package wiring_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/wiring"
)

func motorOn(line string) wiring.CapacitorMotor {
	return wiring.CapacitorMotor{Supply: "240 V 60 Hz single phase", Line: line, Run: "Run 40 + 15 µF 370 V ac", RunBleed: "bleed on each: 56 kΩ 3 W",
		Start: "Start 145–174 µF 330 V ac", StartBleed: "bleed on each: 12 kΩ 10 W", CutOut: "contact opens at 1440 rpm", Overload: "set 9 A", Motor: "3 hp", Plate: "joined for 230 V"}
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

func TestEverythingIsInsideThePicture(t *testing.T) {
	for _, line := range []string{"a", "b"} {
		d := wiring.CapacitorCircuit(motorOn(line))
		for _, i := range d.Items {
			for _, p := range i.Points {
				assert.True(t, p.X >= 0 && p.X <= d.Width && p.Y >= 0 && p.Y <= d.Height, "%s %+v", line, i)
			}
			assert.Contains(t, []string{"line", "rect", "circle", "text"}, i.Kind)
			assert.NotEmpty(t, i.Class)
		}
	}
}

func TestTheDrawingSaysWhatMatters(t *testing.T) {
	all := texts(wiring.CapacitorCircuit(motorOn("a")))
	for _, text := range []string{"Isolator", "Contactor", "Overload", "set 9 A", "made leg:", "live", "contact opens at 1440 rpm", "bond", "Run 40 + 15 µF 370 V ac",
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
