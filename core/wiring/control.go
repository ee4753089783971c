package wiring

import "fmt"

// contactor is a coil of a control circuit with what must be closed before it, in the order
// in which its line passes them.
type contactor struct {
	name   string
	before []controlContact
}

// controlContact is a contact of a control circuit: one that opens to stop, or that closes to
// start. Sealed has the coil's own contact beside it, which holds it once it was closed and
// drops it with the volts.
type controlContact struct {
	opens, sealed bool
	name, under   string
}

// opening is a contact that is closed and opens: on an emergency stop, a guard, an overload's
// trip.
func opening(name, under string) controlContact {
	return controlContact{opens: true, name: name, under: under}
}

// stopsAll are the contacts that stop a machine whatever it does.
func (f Fed) stopsAll() []controlContact {
	return append([]controlContact{emergencyStop()}, f.guards()...)
}

func emergencyStop() controlContact { return opening("Emergency stop", "latches") }

// guards are the machine's guards and interlocks in series, where it has any.
func (f Fed) guards() []controlContact {
	if f.Guards == 0 {
		return nil
	}
	return []controlContact{opening("Guards", fmt.Sprintf("%d in series", f.Guards))}
}

// starting are a stop button and a start button that its contactor's own contact holds.
func starting(stop, start string) []controlContact {
	return []controlContact{opening(stop, ""), {sealed: true, name: start, under: "held by its contactor"}}
}

// Where a control circuit stands across the drawing.
const (
	railLeft, railRight = 108.0, 700.0
	coilAt              = 640.0
	rungPitch           = 92.0
)

// control draws the control circuit at a height: its fuses, then a rung for each contactor,
// between lines a and b. A neutral has no fuse.
func (d *Drawing) control(f Fed, top float64, list []contactor) (bottom float64) {
	title := "Control, on a and b, never on the made leg; nothing starts again by itself"
	if f.Step != "" {
		title = "Control, on a and b ahead of T1, never on the made leg; nothing starts again by itself"
	}
	d.text("label", "start", 12, top, title)
	y := top + 34
	last := y + rungPitch*float64(len(list)-1)
	d.text("label", "middle", 20, y+5, "a")
	d.line("wire-a", 34, y, 62, y)
	d.rect("part", 62, y-7, 30, 14)
	d.line("part", 62, y, railLeft, y)
	d.text("small", "middle", 77, y+22, "fuse")
	d.line("part", railLeft, y, railLeft, last)
	d.line("part", railRight, y, railRight, last)
	if f.Neutral {
		d.line("wire-b", railRight, y, 786, y)
		d.text("small", "middle", 744, y+22, "neutral: no fuse")
	} else {
		d.line("part", railRight, y, 746, y)
		d.rect("part", 716, y-7, 30, 14)
		d.line("wire-b", 746, y, 786, y)
		d.text("small", "middle", 731, y+22, "fuse")
	}
	d.text("label", "middle", 802, y+5, "b")
	for i, k := range list {
		d.rung(y+rungPitch*float64(i), k)
	}
	return last + 52
}

// rung draws one line of a control circuit.
func (d *Drawing) rung(y float64, k contactor) {
	const wide = 32.0
	pitch := (coilAt - 30 - railLeft) / float64(len(k.before))
	x := railLeft
	for i, c := range k.before {
		left := railLeft + pitch*(float64(i)+0.5) - wide/2
		d.line("part", x, y, left, y)
		x = left + wide
		if c.opens {
			d.opens(left, x, y)
		} else {
			d.contact("part", left, x, y)
		}
		under := y + 18
		if c.sealed {
			d.line("part", left-12, y, left-12, y+24, left, y+24)
			d.contact("part", left, x, y+24)
			d.line("part", x, y+24, x+12, y+24, x+12, y)
			under = y + 40
			d.text("small", "middle", left+wide/2, y-20, c.name)
		} else {
			d.text("small", "middle", left+wide/2, under, c.name)
			under += 15
		}
		if c.under != "" {
			d.text("small", "middle", left+wide/2, under, c.under)
		}
	}
	d.line("part", x, y, coilAt-20, y)
	d.rect("part", coilAt-20, y-12, 40, 24)
	d.text("label", "middle", coilAt, y+5, k.name)
	d.line("part", coilAt+20, y, railRight, y)
}

// opens draws a closed contact that opens, its arm on a stop at its right end.
func (d *Drawing) opens(x1, x2, y float64) {
	d.circle("part", x1, y, 3)
	d.circle("part", x2, y, 3)
	d.line("part", x1, y, x2+4, y-9)
	d.line("part", x2, y-3, x2, y-12)
}
