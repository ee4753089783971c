package sheet

import (
	"encoding/xml"
	"fmt"
	"strings"

	"brackmoor/core/wiring"
)

// pen is how a class of lines is drawn: colour, width, dashes, and what fills a
// shape, white where it is empty.
type pen struct {
	colour string
	width  float64
	dashes []float64
	fill   string
}

func (p pen) inside() string {
	if p.fill == "" {
		return "#FFFFFF"
	}
	return p.fill
}

// pens are the tokens of the drawings. Legs are told apart by dash as well as
// colour.
var pens = map[string]pen{
	"wire-a": {
		"#1F5FA8",
		2.4,
		nil,
		"",
	},
	"wire-b": {"#A8322A", 2.4, []float64{9, 5}, ""},
	"wire-c": {"#6E3FA0", 2.4, []float64{2, 4, 9, 4}, ""},
	"wire-n": {"#5B5F57", 1.8, []float64{1, 4}, ""},
	"wire-d": {"#1D2522", 2.4, nil, ""},
	"wire-e": {"#2E6B3A", 2, []float64{6, 3}, ""},
	"wire-k": {"#1D2522", 1.5, nil, ""},
	"wire-l": {"#3A6B82", 1.5, nil, ""},
	"dot-d":  {"#1D2522", 1, nil, "#1D2522"},
	"dot-e":  {"#2E6B3A", 1, nil, "#2E6B3A"},
	"dot-k":  {"#1D2522", 1, nil, "#1D2522"},
	"dot-l":  {"#3A6B82", 1, nil, "#3A6B82"},
	"dot-a": {
		"#1F5FA8",
		1,
		nil,
		"#1F5FA8",
	},
	"dot-b": {"#A8322A", 1, nil, "#A8322A"},
	"dot-c": {"#6E3FA0", 1, nil, "#6E3FA0"},
	"part": {
		"#1D2522",
		1.8,
		nil,
		"",
	},
	"link":    {"#1D2522", 1, []float64{3, 4}, ""},
	"machine": {"#1D2522", 2.2, nil, ""},
	"earth":   {"#2E6B3A", 2, nil, ""},
	"box": {
		"#8A8677",
		2,
		nil,
		"#FBF9F4",
	},
	"post":     {"#1D2522", 2, nil, "#E4E1D8"},
	"link-bar": {"#7A5210", 1.6, nil, "#E9D3A6"},
	"nut":      {"#1D2522", 1.6, nil, ""},
	"duct":     {"#B8B2A0", 1, nil, "#EDE9DF"},
}

// SVG writes a drawing as a file that stands alone.
func SVG(d wiring.Drawing) []byte {
	var b strings.Builder
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" width="%g" height="%g" `+
			`role="img"><title>%s</title>`,
		d.Width,
		d.Height,
		d.Width,
		d.Height,
		escape(d.Title),
	)
	fmt.Fprintf(&b, `<rect width="%g" height="%g" fill="#FFFFFF"/>`, d.Width, d.Height)
	for _, item := range d.Items {
		switch p := pens[item.Class]; item.Kind {
		case "line":
			var points []string
			for _, q := range item.Points {
				points = append(points, fmt.Sprintf("%g,%g", q.X, q.Y))
			}
			fmt.Fprintf(
				&b,
				`<polyline points="%s" fill="none" stroke="%s" stroke-width="%g"%s/>`,
				strings.Join(points, " "),
				p.colour,
				p.width,
				dashes(p),
			)
		case "rect":
			q, r := item.Points[0], item.Points[1]
			fmt.Fprintf(
				&b,
				`<rect x="%g" y="%g" width="%g" height="%g" fill="%s" stroke="%s" stroke-width="%g"/>`,
				q.X,
				q.Y,
				r.X-q.X,
				r.Y-q.Y,
				p.inside(),
				p.colour,
				p.width,
			)
		case "circle":
			fmt.Fprintf(
				&b,
				`<circle cx="%g" cy="%g" r="%g" fill="%s" stroke="%s" stroke-width="%g"/>`,
				item.Points[0].X,
				item.Points[0].Y,
				item.Radius,
				p.inside(),
				p.colour,
				max(p.width, 1),
			)
		case "text":
			size, colour, weight := 14, "#1D2522", 600
			switch item.Class {
			case "small":
				size, weight = 12, 400
			case "mark":
				size, weight = 10, 400
			case "number":
				size, weight, colour = 10, 400, "#5B5F57"
			case "caution":
				size, colour = 12, "#855800"
			case "stop":
				size, colour = 12, "#B3261E"
			}
			fmt.Fprintf(
				&b,
				`<text x="%g" y="%g" text-anchor="%s" font-family="sans-serif" font-size="%d" font-weight="%d" `+
					`fill="%s">%s</text>`,
				item.Points[0].X,
				item.Points[0].Y,
				item.Anchor,
				size,
				weight,
				colour,
				escape(item.Text),
			)
		}
	}
	b.WriteString("</svg>\n")
	return []byte(b.String())
}

func dashes(p pen) string {
	if len(p.dashes) == 0 {
		return ""
	}
	return ` stroke-dasharray="` + strings.Trim(fmt.Sprint(p.dashes), "[]") + `"`
}

func escape(text string) string {
	var b strings.Builder
	// EscapeText only fails when its writer does.
	_ = xml.EscapeText(&b, []byte(text))
	return b.String()
}
