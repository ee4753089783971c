package wiring

import (
	"fmt"
	"strings"
)

// BoxLead is one lead in the terminal box: its mark in both standards, and what it
// is called by whoever sorted it, "" when that is its mark.
type BoxLead struct{ NEMA, IEC, Name string }

// BoxJoint is a point where leads come together; Line is the supply line that feeds
// it, "" for none.
type BoxJoint struct {
	Line  string
	Leads []BoxLead
}

// TerminalBox is what the drawing of a terminal box shows. Volts says what it is
// joined for. Posts are drawn for six leads, wire nuts otherwise.
type TerminalBox struct {
	Volts, Connection string
	Joints            []BoxJoint
	Posts             bool
	Feeds             [3]string // what lines a, b and c are called where it stands
	Made              bool      // the third is a made leg
	Capacitors        bool      // their lead comes to the made leg, and no line of a supply
	Stops             []string
}

// Box draws the terminal box as it is seen with its cover off: supply leads from
// above, the motor's leads from below, and what joins them.
func Box(b TerminalBox) Drawing {
	d := Drawing{Width: 520, Height: 246, Title: "Terminal box, joined " + b.Connection + " for " + b.Volts}
	d.Text("label", "start", 8, 18, "Joined "+b.Connection+" for "+b.Volts)
	d.Text("small", "end", 512, 18, "cover off")
	d.Rect("box", 8, 62, 504, 176)
	if b.Posts {
		b.posts(&d)
	} else {
		b.nuts(&d)
	}
	d.Paragraph(
		"caution",
		8,
		"Isolate, lock, prove dead, discharge every capacitor. A star point goes to neither neutral nor earth. Every "+
			"joint tight and insulated; cover on before it is live. Local code has the last word.",
	)
	d.Stops(8, b.Stops)
	return d
}

// feed brings a supply line into the box from above.
func (b TerminalBox) feed(d *Drawing, line string, x, to float64) {
	d.Line("wire-"+line, x, 30, x, to)
	class := "label"
	if line == "c" && b.Made {
		class = "caution"
	}
	d.Text(class, "start", x+8, 44, b.Feeds[strings.Index("abc", line)])
	if line == "c" && b.Capacitors {
		d.Text("small", "start", x+8, 57, "the capacitors’ lead")
	}
}

// posts draws the six posts in their usual two rows, so that upright links make a
// delta and a level one a star.
func (b TerminalBox) posts(d *Drawing) {
	lead := map[string]BoxLead{}
	joint := map[string]int{}
	line := map[int]string{}
	for i, j := range b.Joints {
		line[i] = j.Line
		for _, l := range j.Leads {
			lead[l.NEMA], joint[l.NEMA] = l, i
		}
	}
	columns := [3]float64{90, 240, 390}
	top, bottom := [3]string{"T1", "T2", "T3"}, [3]string{"T6", "T4", "T5"}
	const upper, lower = 112.0, 184.0
	for i, x := range columns {
		if name := line[joint[top[i]]]; name != "" {
			b.feed(d, name, x, upper)
		}
		if joint[top[i]] == joint[bottom[i]] {
			d.Rect("link-bar", x-9, upper, 18, lower-upper)
		}
	}
	if joint["T4"] == joint["T5"] {
		d.Rect("link-bar", columns[0], lower-9, columns[2]-columns[0], 18)
		d.Text("small", "middle", (columns[0]+columns[1])/2, lower-16, "star link")
	}
	for i, x := range columns {
		for _, p := range []struct {
			mark string
			y    float64
		}{{top[i], upper}, {bottom[i], lower}} {
			d.Circle("post", x, p.y, 12)
			d.Circle("part", x, p.y, 5)
			l := lead[p.mark]
			d.Text("label", "start", x+20, p.y+2, l.IEC+" · "+l.NEMA)
			if l.Name != "" {
				d.Text("small", "start", x+20, p.y+17, "lead "+l.Name)
			}
		}
		d.Line("part", x, lower+12, x, 232)
	}
	d.Text("small", "end", 504, 230, "to the windings")
}

// nuts draws a row of wire nuts, those that the supply feeds first.
func (b TerminalBox) nuts(d *Drawing) {
	total := 0
	for _, j := range b.Joints {
		total += len(j.Leads)
	}
	const pitch = 34.0
	gap := (500 - pitch*float64(total)) / float64(len(b.Joints))
	x := 10 + gap/2
	for _, j := range b.Joints {
		width := pitch * float64(len(j.Leads))
		middle := x + width/2
		const cap, mouth, end = 84.0, 122.0, 184.0
		if j.Line != "" {
			b.feed(d, j.Line, middle, mouth)
		}
		if len(j.Leads) == 1 && j.Line == "" {
			d.Line(
				"part",
				middle-10,
				mouth-8,
				middle+10,
				mouth-8,
				middle+10,
				mouth+10,
				middle-10,
				mouth+10,
				middle-10,
				mouth-8,
			)
			d.Text("small", "middle", middle, mouth-16, "capped, alone")
		} else {
			d.Line("nut", middle-13, cap, middle+13, cap, middle+20, mouth, middle-20, mouth, middle-13, cap)
			for _, dx := range []float64{-7, 0, 7} {
				d.Line("nut", middle+dx, cap+5, middle+dx*1.4, mouth-5)
			}
		}
		for i, l := range j.Leads {
			at := x + pitch*(float64(i)+0.5)
			class := "part"
			if j.Line != "" {
				class = "wire-" + j.Line
			}
			d.Line(class, middle+(at-middle)*0.4, mouth+2, at, mouth+26, at, end)
			d.Text("label", "middle", at, end+15, l.NEMA)
			d.Text("small", "middle", at, end+30, l.IEC)
			if l.Name != "" {
				d.Text("small", "middle", at, end+45, fmt.Sprintf("(%s)", l.Name))
			}
		}
		x += width + gap
	}
}
