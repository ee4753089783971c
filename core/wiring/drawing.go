// Package wiring lays out drawings as data: plain shapes with a class each,
// which the screen, the sheet and the file writers all render alike.
package wiring

import (
	"strings"
	"unicode/utf8"
)

// Point is in drawing units, y down.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Item is one shape. Kind is "line" (through Points), "rect" (two corners),
// "circle" (one point and Radius) or "text" (one point, Text, Anchor start,
// middle or end). Class says what it stands for: wire-a, wire-b, wire-c, earth,
// part, link-bar, nut, post, box, label, small, caution, stop.
type Item struct {
	Kind   string  `json:"kind"`
	Class  string  `json:"class"`
	Points []Point `json:"points" nullable:"false"`
	Radius float64 `json:"radius"`
	Text   string  `json:"text"`
	Anchor string  `json:"anchor"`
}

// Drawing is a picture with its size and a title that says what is seen.
type Drawing struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Title  string  `json:"title"`
	Items  []Item  `json:"items" nullable:"false"`
}

func (d *Drawing) line(class string, xy ...float64) {
	item := Item{Kind: "line", Class: class}
	for i := 0; i+1 < len(xy); i += 2 {
		item.Points = append(item.Points, Point{xy[i], xy[i+1]})
	}
	d.Items = append(d.Items, item)
}

func (d *Drawing) rect(class string, x, y, w, h float64) {
	d.Items = append(d.Items, Item{Kind: "rect", Class: class, Points: []Point{{x, y}, {x + w, y + h}}})
}

func (d *Drawing) circle(class string, x, y, r float64) {
	d.Items = append(d.Items, Item{Kind: "circle", Class: class, Points: []Point{{x, y}}, Radius: r})
}

func (d *Drawing) text(class, anchor string, x, y float64, text string) {
	d.Items = append(d.Items, Item{Kind: "text", Class: class, Anchor: anchor, Points: []Point{{x, y}}, Text: text})
}

// contact draws an open contact in a line from the left to the right end.
func (d *Drawing) contact(class string, x1, x2, y float64) {
	d.circle("part", x1, y, 3)
	d.circle("part", x2, y, 3)
	d.line("part", x1, y, x2-2, y-14)
}

// paragraph writes a text below what is drawn, on as many lines as it needs, and
// makes the drawing so much higher.
func (d *Drawing) paragraph(class string, x float64, text string) {
	const pitch, letter = 17.0, 6.4
	line := ""
	end := func() {
		d.Height += pitch
		d.text(class, "start", x, d.Height-5, line)
		line = ""
	}
	for _, word := range strings.Fields(text) {
		if line != "" && letter*float64(utf8.RuneCountInString(line+" "+word)) > d.Width-2*x {
			end()
		}
		line = strings.TrimSpace(line + " " + word)
	}
	end()
}

// stops writes what must not be passed below the drawing.
func (d *Drawing) stops(x float64, stops []string) {
	for _, stop := range stops {
		d.paragraph("stop", x, "STOP: "+stop)
	}
}

// can draws a capacitor standing between two heights, with a bleed resistor
// beside it; its leads belong to the lines above and below it.
func (d *Drawing) can(above, below string, x, top, bottom float64) {
	middle := (top + bottom) / 2
	d.line(above, x, top, x, middle-5)
	d.line(below, x, middle+5, x, bottom)
	d.line("part", x-16, middle-5, x+16, middle-5)
	d.line("part", x-16, middle+5, x+16, middle+5)
	d.line("part", x, middle-22, x+28, middle-22, x+28, middle-11)
	d.rect("part", x+24, middle-11, 8, 22)
	d.line("part", x+28, middle+11, x+28, middle+22, x, middle+22)
}
