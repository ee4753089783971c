package floor

import (
	"fmt"

	"brackmoor/core/quantity"
	"brackmoor/core/wiring"
)

// Drawing is the shop as it stands in a picture, to be printed: every box with its figures, one-line
// with a stroke for each of the lines.
func (f *Floor) Drawing(p Picture) wiring.Drawing {
	const margin, head = 14.0, 40.0
	l := f.Layout()
	d := wiring.Drawing{Title: f.Shop.Name, Width: l.Width + 2*margin, Height: l.Height + head + 2*margin}
	at := func(x, y float64) wiring.Point { return wiring.Point{X: x + margin, Y: y + margin + head} }
	text := func(x, y float64, class, words string) {
		d.Items = append(d.Items, wiring.Item{
			Kind: "text", Class: class, Text: words, Anchor: "start", Points: []wiring.Point{at(x, y)},
		})
	}
	for _, w := range l.Wires {
		for i, line := range w.Lines {
			off := 4 * (float64(i) - float64(len(w.Lines)-1)/2)
			points := make([]wiring.Point, len(w.Path))
			for k, q := range w.Path {
				points[k] = at(q.X+off, q.Y+off)
			}
			points[0].X, points[len(points)-1].X = points[0].X-off, points[len(points)-1].X-off
			d.Items = append(d.Items, wiring.Item{Kind: "line", Class: "wire-" + line, Points: points})
		}
	}
	words := f.words(p)
	for _, b := range l.Boxes {
		d.Items = append(d.Items, wiring.Item{
			Kind: "rect", Class: "box", Points: []wiring.Point{at(b.X, b.Y), at(b.X+b.W, b.Y+b.H)},
		})
		for i, line := range words[b.ID] {
			class := "small"
			if i == 0 {
				class = "name"
			}
			text(b.X+8, b.Y+18+18*float64(i), class, line)
		}
	}
	text(0, -head+14, "name", f.Shop.Name)
	y := -head + 32
	if stops := len(p.Broken); stops > 0 {
		text(0, y, "stop", p.Broken[0].Says)
	} else {
		text(0, y, "small", "Nothing here is past its limit. Local code and a licensed electrician have the last word.")
	}
	return d
}

// words are the lines of text of each box.
func (f *Floor) words(p Picture) map[string][]string {
	of := func(x, limit float64) string { return fmt.Sprintf("%.1f of %.0f A", x, limit) }
	w := map[string][]string{ServiceID: {"Service", of(p.Main.Amps, p.Main.LimitAmps), volts(p.Main.Volts)}}
	for i, c := range p.Circuits {
		own := f.Shop.Site.Circuits[i]
		w[c.ID] = []string{c.Name, of(c.Amps, c.LimitAmps), fmt.Sprintf("%s  %s", own.Size, volts(c.Volts))}
	}
	pairs := quantity.LinesAt(f.Shop.Supply.Hertz).Pairs()
	for _, c := range p.Converters {
		lines := []string{c.Name, "off"}
		if c.On {
			lines = []string{
				c.Name, fmt.Sprintf("idler %.0f %%, %.0f W", c.IdlerPercent, c.Watts),
				fmt.Sprintf("%s %.0f, %.1f A in", pairs[0], c.Volts.AB, c.Amps),
				fmt.Sprintf("%s %.0f, %s %.0f V", pairs[1], c.Volts.BC, pairs[2], c.Volts.CA),
			}
		}
		w[c.ID] = lines
	}
	for _, m := range p.Machines {
		lines := []string{m.Name}
		for _, o := range m.Motors {
			line := "off"
			if o.On {
				line = fmt.Sprintf("%.1f A, winding %.0f %%, load %.0f %%", o.Amps, o.HottestPercent, 100*o.LoadShare)
			}
			lines = append(lines, line)
		}
		w[m.ID] = lines
	}
	for _, l := range p.Loads {
		line := "off"
		if l.On {
			line = amps(l.Amps)
		}
		w[l.ID] = []string{l.Name, line}
	}
	return w
}
