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
// middle or end). Class says what it stands for: wire-a, wire-b, wire-c, wire-e of a
// protective conductor, wire-k of control, wire-l of low volts, earth, part, link-bar, nut,
// post, box, label, small, mark, caution, stop.
type Item struct {
	Kind   string  `json:"kind"`
	Class  string  `json:"class"`
	Points []Point `json:"points" nullable:"false"`
	Radius float64 `json:"radius"`
	Text   string  `json:"text"`
	Anchor string  `json:"anchor"`
	Of     string  `json:"of,omitempty"`   // the part that it is drawn of
	Live   bool    `json:"live,omitempty"` // it has volts, or conducts, as a circuit is run
}

// Drawing is a picture with its size and a title that says what is seen.
type Drawing struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Title  string  `json:"title"`
	Items  []Item  `json:"items" nullable:"false"`
}

// Line draws one through points, x and y by turns.
func (d *Drawing) Line(class string, xy ...float64) {
	item := Item{Kind: "line", Class: class}
	for i := 0; i+1 < len(xy); i += 2 {
		item.Points = append(item.Points, Point{xy[i], xy[i+1]})
	}
	d.Items = append(d.Items, item)
}

// Rect draws one by its upper left corner, width and height.
func (d *Drawing) Rect(class string, x, y, w, h float64) {
	d.Items = append(d.Items, Item{Kind: "rect", Class: class, Points: []Point{{x, y}, {x + w, y + h}}})
}

// Circle draws one by its middle and radius.
func (d *Drawing) Circle(class string, x, y, r float64) {
	d.Items = append(d.Items, Item{Kind: "circle", Class: class, Points: []Point{{x, y}}, Radius: r})
}

// Text writes one at a point, anchored at its start, middle or end.
func (d *Drawing) Text(class, anchor string, x, y float64, text string) {
	d.Items = append(d.Items, Item{Kind: "text", Class: class, Anchor: anchor, Points: []Point{{x, y}}, Text: text})
}

// Paragraph writes a text below what is drawn, on as many lines as it needs, and
// makes the drawing so much higher.
func (d *Drawing) Paragraph(class string, x float64, text string) {
	const pitch, letter = 17.0, 6.9
	line := ""
	end := func() {
		d.Height += pitch
		d.Text(class, "start", x, d.Height-5, line)
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

// Stops writes what must not be passed below the drawing.
func (d *Drawing) Stops(x float64, stops []string) {
	for _, stop := range stops {
		d.Paragraph("stop", x, "STOP: "+stop)
	}
}
