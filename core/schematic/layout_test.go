package schematic_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/schematic"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/core/wiring"
)

// made are circuits of every way in both regions, by choices that change them.
func made(t testing.TB) map[string]circuit.Circuit {
	list := map[string]circuit.Circuit{}
	for _, region := range []struct {
		name string
		su   supply.Supply
		p    plate.Typed
	}{
		{circuit.US, supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"},
			plate.Typed{Output: "2 hp", Volts: "230/460", Amps: "5.8/2.9", RPM: "1745", Hertz: "60"}},
		{circuit.UK, supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"},
			plate.Typed{Output: "1.5 kW", Volts: "230/400", Amps: "5.9/3.4", RPM: "1420", Hertz: "50"}},
	} {
		m := shop.Motor{Plate: region.p, Driven: shop.Driven{Load: "spindle"}}
		st := study.Of(region.su, m, motor.FitCircuit)
		require.True(t, st.Reading.Sound)
		q := st.Ask(shop.Shop{Supply: region.su}, shop.Machine{Motors: []shop.Motor{m}})
		for _, w := range feed.All() {
			for _, how := range []circuit.Choices{
				{}, {Start: circuit.ByRelay, Stop: circuit.StopGuard, Control: 24, Stations: 4, Lamp: true},
				{Start: circuit.ByButton, Backup: true, Stop: circuit.StopButton}, {Start: circuit.ByPony, Lamp: true},
				{Start: circuit.ByBox, Control: 120, Stations: 2}, {Command: circuit.Drum, Safe: circuit.SafeTorqueOff},
				{Command: circuit.TwoWire, Safe: circuit.SafeContactor, Brake: true, Stations: 3},
				{Start: circuit.BySwitch, Safe: circuit.SafeTorqueOff, Relay: true, Between: true, Lamp: true,
					Speed: circuit.ByPresets, Apart: [][]string{{"Kiln"}, {"Planer", "Saw"}}},
				{Start: circuit.ByPony, Gap: true, Safe: circuit.SafeContactor, Relay: true, Stop: circuit.StopGuard,
					Speed: circuit.ByKeypad},
			} {
				if c := w.Wire(q, how); len(c.Parts) > 0 {
					list[fmt.Sprintf("%s %s %+v", region.name, w.Info().Name, how)] = c
				}
			}
		}
	}
	require.Greater(t, len(list), 60)
	return list
}

// A sheet shows what the circuit has: every terminal with a wire once, and what its lines join is what its wires join.
func TestSheetsShowTheCircuit(t *testing.T) {
	for name, c := range made(t) {
		shown(t, name, &c)
	}
}

// So does that of any circuit, however it is joined.
func TestAnyCircuitIsShown(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		c := random(r)
		shown(r, "random", &c)
	})
}

type failing interface {
	assert.TestingT
	Helper()
}

func shown(t failing, name string, c *circuit.Circuit) {
	t.Helper()
	marks := map[string]int{}
	for _, sheet := range schematic.Sheets {
		d := schematic.Draw(c, sheet, nil)
		clear(t, name+" "+string(sheet), d)
		for end := range joined(t, name, c, d) {
			marks[end]++
		}
	}
	for _, n := range c.Nets() {
		for _, end := range n.Ends {
			if part, mark, of := strings.Cut(end, ":"); of && c.Part(part) != nil &&
				!(c.Part(part).Kind == circuit.Bleed) {
				assert.Equal(t, 1, marks[end], "%s: terminal %s of %s is drawn on so many sheets", name, mark, part)
			}
		}
	}
}

// box is where something is.
type box struct{ left, top, right, bottom float64 }

func (b box) over(o box) bool {
	return b.left < o.right && o.left < b.right && b.top < o.bottom && o.top < b.bottom
}

// sizes of letters by the class of a text, as they are drawn.
var letters = map[string][2]float64{"label": {7.6, 11}, "small": {6.2, 9}, "mark": {5.6, 7.5}, "number": {5.4, 7.5}}

// words are where a drawing's texts stand.
func words(d wiring.Drawing) (list []box, texts []string) {
	for _, i := range d.Items {
		size, is := letters[i.Class]
		if i.Kind != "text" || !is {
			continue
		}
		wide := size[0] * float64(len([]rune(i.Text)))
		left := i.Points[0].X
		switch i.Anchor {
		case "middle":
			left -= wide / 2
		case "end":
			left -= wide
		}
		list = append(list, box{left, i.Points[0].Y - size[1], left + wide, i.Points[0].Y})
		texts = append(texts, i.Text)
	}
	return list, texts
}

// clear asserts that no words stand over others, that no wire crosses words, and that all of it is on the sheet.
func clear(t failing, name string, d wiring.Drawing) {
	list, texts := words(d)
	for i, a := range list {
		assert.True(
			t,
			a.left >= 0 && a.right <= d.Width && a.bottom <= d.Height,
			"%s: %q is off the sheet",
			name,
			texts[i],
		)
		for k, b := range list[:i] {
			assert.False(t, a.over(b), "%s: %q is over %q", name, texts[i], texts[k])
		}
		for _, item := range d.Items {
			if item.Kind != "line" || !strings.HasPrefix(item.Class, "wire-") {
				continue
			}
			for n := 1; n < len(item.Points); n++ {
				p, q := item.Points[n-1], item.Points[n]
				s := box{math.Min(p.X, q.X) - 0.5, math.Min(p.Y, q.Y) - 0.5, math.Max(p.X, q.X) + 0.5,
					math.Max(p.Y, q.Y) + 0.5}
				assert.False(t, a.over(s), "%s: a wire crosses %q at %v %v", name, texts[i], p, q)
			}
		}
	}
}

// joined follows the lines of a drawing: the ends that are drawn, and that lines join those, and only those, that the
// circuit's wires do. Lines that cross without a dot are not joined.
func joined(t failing, name string, c *circuit.Circuit, d wiring.Drawing) map[string]bool {
	type point struct{ x, y int }
	at := func(p wiring.Point) point { return point{int(math.Round(10 * p.X)), int(math.Round(10 * p.Y))} }
	of := map[point]point{}
	var find func(p point) point
	find = func(p point) point {
		if q, ok := of[p]; ok && q != p {
			of[p] = find(q)
			return of[p]
		}
		of[p] = p
		return p
	}
	type segment struct{ a, b point }
	var segments []segment
	for _, i := range d.Items {
		if i.Kind != "line" || !strings.HasPrefix(i.Class, "wire-") {
			continue
		}
		for n := 1; n < len(i.Points); n++ {
			a, b := at(i.Points[n-1]), at(i.Points[n])
			segments = append(segments, segment{a, b})
			of[find(a)] = find(b)
		}
	}
	for _, i := range d.Items { // a dot joins what passes through it
		if i.Kind != "circle" || !strings.HasPrefix(i.Class, "dot-") {
			continue
		}
		p := at(i.Points[0])
		for _, s := range segments {
			if min(s.a.x, s.b.x) <= p.x && p.x <= max(s.a.x, s.b.x) && min(s.a.y, s.b.y) <= p.y &&
				p.y <= max(s.a.y, s.b.y) {
				of[find(p)] = find(s.a)
			}
		}
	}
	// The marks stand over the ends of leads: 4 above and 3 within the column.
	ends := map[string]point{}
	for _, i := range d.Items {
		if i.Class != "mark" {
			continue
		}
		x := i.Points[0].X - 3
		if i.Anchor == "end" {
			x = i.Points[0].X + 3
		}
		text := i.Text
		if part := c.Part(i.Of); part.Kind == circuit.Motor && c.Region == circuit.US {
			if k := slices.Index([]string{"T1", "T2", "T3"}, text); k >= 0 {
				text = []string{"U", "V", "W"}[k]
			}
		}
		end, p := i.Of+":"+text, at(wiring.Point{X: x, Y: i.Points[0].Y + 4})
		if was, twice := ends[end]; twice { // the common terminal of a change-over contact
			assert.Equal(t, find(was), find(p), "%s: %s is drawn twice, and not joined", name, end)
			continue
		}
		ends[end] = p
	}
	net := map[string]int{}
	for k, n := range c.Nets() {
		for _, end := range n.Ends {
			net[end] = k
		}
	}
	groups, nets := map[point]int{}, map[int]point{}
	for end, p := range ends {
		r, k := find(p), net[end]
		if was, ok := groups[r]; ok {
			assert.Equal(t, was, k, "%s: lines join %s to another net", name, end)
		}
		if was, ok := nets[k]; ok {
			assert.Equal(t, was, r, "%s: lines leave %s alone", name, end)
		}
		groups[r], nets[k] = k, r
	}
	drawn := map[string]bool{}
	for end := range ends {
		drawn[end] = true
	}
	return drawn
}

// random is any circuit: parts of many kinds, joined anyhow.
func random(r *rapid.T) circuit.Circuit {
	c := circuit.Circuit{Format: circuit.Format, Region: rapid.SampledFrom([]string{"us", "uk"}).Draw(r, "region"),
		Sources: []circuit.Source{{ID: "L1"}, {ID: "L2"}, {ID: "PE"}}}
	kinds := []struct {
		kind circuit.Kind
		has  string
	}{
		{circuit.Isolator, "1 2 3 4"}, {circuit.Contactor, "1 2 3 4 5 6 A1 A2 13 14 21 22"},
		{circuit.Overload, "1 2 3 4 5 6 95 96"}, {circuit.Fuse, "1 2"}, {circuit.Relay, "A1 A2 13 14"},
		{circuit.Timer, "A1 A2 15 16 18"}, {circuit.PushButton, "13 14"}, {circuit.EmergencyStop, "11 12 21 22"},
		{circuit.Motor, "U V W PE"}, {circuit.Capacitor, "1 2"}, {circuit.ControlTransformer, "H1 H2 X1 X2"},
		{circuit.Lamp, "X1 X2"}, {circuit.Drive, "L1 L2 U V W PE com di1 di2 enable"}, {circuit.Strip, "1 2 3"},
		{circuit.PotentialRelay, "1 2 5"}, {circuit.BrakeResistor, "1 2 95 96"}, {circuit.StartBox, "1 2 3"},
	}
	ends := []string{"L1", "L2", "PE"}
	for i := range rapid.IntRange(1, 9).Draw(r, "parts") {
		k := rapid.SampledFrom(kinds).Draw(r, "kind")
		p := circuit.Part{ID: fmt.Sprintf("%c%d", 'A'+i, i+1), Kind: k.kind, Terminals: strings.Fields(k.has),
			Name: rapid.SampledFrom([]string{"", "main", "overload of the machine", "a long name of many a word here"}).
				Draw(r, "name")}
		c.Parts = append(c.Parts, p)
		for _, mark := range p.Terminals {
			ends = append(ends, p.ID+":"+mark)
		}
	}
	classes := []circuit.Class{circuit.Power, circuit.Made, circuit.Control, circuit.LowVoltage, circuit.Protective}
	for i := range rapid.IntRange(0, 30).Draw(r, "wires") {
		from, to := rapid.SampledFrom(ends).Draw(r, "from"), rapid.SampledFrom(ends).Draw(r, "to")
		if from != to {
			c.Wires = append(c.Wires, circuit.Wire{Number: fmt.Sprint(i + 1), From: from, To: to,
				Class: rapid.SampledFrom(classes).Draw(r, "class")})
		}
	}
	return c
}

// The same circuit is drawn alike, and a contact that is closed is drawn so.
func TestDrawingsAreAlike(t *testing.T) {
	for name, c := range made(t) {
		for _, sheet := range schematic.Sheets {
			a, b := schematic.Draw(&c, sheet, nil), schematic.Draw(&c, sheet, nil)
			assert.True(t, assert.ObjectsAreEqual(a, b), name)
		}
	}
	for _, c := range made(t) {
		i := slices.IndexFunc(c.Parts, func(p circuit.Part) bool { return p.Kind == circuit.PushButton })
		if i < 0 {
			continue
		}
		s := c.Parts[i]
		contact := s.Contacts()[0]
		lit := func(at *schematic.Stance) (n int) {
			for _, item := range schematic.Draw(&c, schematic.Control, at).Items {
				if item.Of == s.ID && item.Live {
					n++
				}
			}
			return n
		}
		assert.Zero(t, lit(&schematic.Stance{}))
		assert.Positive(t, lit(&schematic.Stance{Closed: map[string]bool{s.ID + ":" + contact.From: true}}))
		break
	}
}
