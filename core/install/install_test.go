package install_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/install"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/stock"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// made are circuits of every way in both regions.
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
		more := circuit.Choices{Control: 24, Stations: 3, Lamp: true, Backup: true, Brake: true}
		for _, w := range feed.All() {
			for _, how := range []circuit.Choices{{}, more} {
				if c := w.Wire(q, how); len(c.Parts) > 0 {
					list[fmt.Sprintf("%s %s %v", region.name, w.Info().Name, how.Lamp)] = c
				}
			}
		}
	}
	require.Greater(t, len(list), 25)
	return list
}

// The list of parts has every part of a circuit but the machine's own motor, every wire by its metres, two ferrules and
// two markers for each, and a gland for every cable out of the box.
func TestPartsAreComplete(t *testing.T) {
	for name, c := range made(t) {
		w := install.Of(&c, install.Site{Machine: "Lathe"})
		named := map[string]bool{}
		metres, ferrules, markers := 0.0, 0.0, 0.0
		for _, i := range w.Parts {
			assert.Positive(t, i.Count, "%s: %s", name, i.What)
			assert.NotEmpty(t, i.Says)
			for _, id := range strings.Split(i.For, ", ") {
				named[id] = true
			}
			switch {
			case strings.HasPrefix(i.What, "wire ") && i.Unit == "m" && !strings.HasPrefix(i.What, "wire duct"):
				metres += i.Count
			case strings.HasPrefix(i.What, "ferrule"):
				ferrules += i.Count
			case strings.HasPrefix(i.What, "wire markers"):
				markers += i.Count
			}
		}
		for _, p := range c.Parts {
			there := p.Role == circuit.Machine && p.Kind == circuit.Motor // but one of one phase takes its place
			assert.Equal(t, !there, named[p.ID], "%s: %s", name, p.ID)
		}
		sum, ends := 0.0, 0.0
		for i, l := range w.Wires {
			assert.Equal(t, c.Wires[i].From, l.From)
			assert.Positive(t, l.Metre, "%s: wire %s", name, l.Number)
			sum += l.Metre
			if l.Ferrule != "none" && l.Ferrule != "" {
				ends += 2
			}
			if l.Size != "" {
				assert.NotEmpty(t, l.Torque, "%s: %s", name, l.Size)
			}
		}
		assert.Greater(t, metres, sum, name)
		assert.Less(t, metres, 1.1*sum+0.5*float64(len(c.Wires)), name)
		assert.InDelta(t, ends, ferrules, 0, name)
		assert.InDelta(t, float64(2*len(c.Wires)), markers, 0, name)
	}
}

// What is to be bought costs what the shop says, or else what its prices of ways come to; what has no price is counted.
func TestPrices(t *testing.T) {
	for name, c := range made(t) {
		site := install.Site{Usual: func(p *circuit.Part) float64 { return p.Microfarad / 10 }}
		plain := install.Of(&c, site)
		site.Stores = []stock.Item{{ID: "w", Kind: "wire", Size: plain.Wires[0].Size, Count: 3, Price: 2}}
		wire := slices.IndexFunc(plain.Parts, func(i install.Item) bool { return i.Unit == "m" })
		site.Costs = []stock.Cost{
			{What: plain.Parts[0].What, Each: 12.5},
			{What: plain.Parts[wire].What, Each: 0.7},
			{What: "spare", Each: 4},
		}
		w := install.Of(&c, site)
		sum, had, unknown := 0.0, 0.0, 0
		for i, p := range w.Parts {
			want := plain.Parts[i].Each
			switch i {
			case 0:
				want = 12.5
			case wire:
				want = 0.7
			}
			assert.InDelta(t, want, p.Each, 0, "%s: %s", name, p.What)
			assert.InDelta(t, p.Count, p.OnHand+p.ToBuy, 1e-9)
			units := 1.0
			if p.Unit == "m" && c.Region == circuit.US {
				units = 1 / 0.3048
				assert.Equal(t, "ft", p.Per)
			}
			sum, had = sum+want*p.ToBuy*units, had+p.OnHand*p.Price
			if want == 0 && p.ToBuy > 0 {
				unknown++
			}
		}
		assert.InDelta(t, sum, w.Sum.Buy, 1e-9, name)
		assert.InDelta(t, had, w.Sum.OnHand, 1e-9, name)
		assert.Equal(t, unknown, w.Sum.Unpriced, name)
		assert.Contains(t, w.Sum.Says, "without a price")
	}
}

// A check that a hand changes reads otherwise while it is held, every exposed case is bonded, and keys are told apart.
func TestChecksBeforePower(t *testing.T) {
	for name, c := range made(t) {
		w := install.Of(&c, install.Site{Machine: "Lathe", WindingOhms: 1.8})
		keys := map[string]bool{}
		rest := map[string]string{}
		for _, k := range w.Checks {
			assert.False(t, keys[k.Key], "%s: %s", name, k.Key)
			keys[k.Key] = true
			assert.NotEmpty(t, k.Says)
			pair := k.Group + k.From + k.To
			if strings.Contains(k.While, "press") || strings.Contains(k.While, "strike") ||
				strings.Contains(k.While, "trip") || strings.Contains(k.While, "turn") {
				assert.NotEqual(t, rest[pair], k.Says, "%s: %s to %s", name, k.From, k.To)
			} else {
				rest[pair] = k.Says
			}
		}
		bonded := 0
		for i := range c.Parts {
			if c.Parts[i].Exposed() {
				bonded++
			}
		}
		assert.Equal(t, bonded, slices.IndexFunc(append(groupOf(w, "Protective conductor"), ""),
			func(s string) bool { return s == "" }), name)
	}
}

func groupOf(w install.Work, group string) (says []string) {
	for _, k := range w.Checks {
		if k.Group == group {
			says = append(says, k.Says)
		}
	}
	return says
}

// Two lines are never one with nothing pressed, and a winding is read through its overload.
func TestWhatTheMeterSays(t *testing.T) {
	for name, c := range made(t) {
		w := install.Of(&c, install.Site{WindingOhms: 1.8})
		for _, k := range w.Checks {
			switch {
			case k.Group == "Apart from one another" && (k.From == "L1" || k.From == "L"):
				assert.NotEqual(t, "under 1 Ω", k.Says, name)
			case k.Group == "Apart from one another" && strings.HasPrefix(k.While, "press K"):
				assert.Equal(t, "under 1 Ω", k.Says, "%s: %s", name, k.From)
			case strings.HasSuffix(k.To, ":V") && c.Part(strings.Split(k.To, ":")[0]).Role == circuit.Machine &&
				k.Group == "Coils and windings" && strings.HasSuffix(k.From, ":U"):
				assert.Contains(t, k.Says, "1.8 Ω", name)
			}
		}
	}
}

// Parts stand in their box beside one another, within it, with a duct above each row, and it stays cool or says so.
func TestTheBoxHoldsItsParts(t *testing.T) {
	for name, c := range made(t) {
		at := install.Site{Choices: circuit.Choices{Place: circuit.Coolant}}
		w, d := install.Of(&c, at), install.Cabinet(&c, at)
		e := w.Enclosure
		assert.Equal(t, e.Kelvin > 20, e.Fan, name)
		assert.Equal(t, map[string]string{circuit.US: "type 13", circuit.UK: "IP65"}[c.Region], e.Protection)
		type box struct{ left, top, right, bottom float64 }
		var spots, ducts []box
		var outer box
		for _, i := range d.Items {
			if i.Kind != "rect" {
				continue
			}
			b := box{i.Points[0].X, i.Points[0].Y, i.Points[1].X, i.Points[1].Y}
			switch i.Class {
			case "box":
				outer = b
			case "duct":
				ducts = append(ducts, b)
			default:
				spots = append(spots, b)
			}
		}
		assert.Greater(t, len(ducts), 1)
		for i, a := range spots {
			assert.True(
				t,
				a.left >= outer.left && a.right <= outer.right && a.top >= outer.top && a.bottom <= outer.bottom,
				"%s: out of the box",
				name,
			)
			for _, b := range append(append([]box{}, spots[:i]...), ducts...) {
				apart := a.right <= b.left+0.01 || b.right <= a.left+0.01 || a.bottom <= b.top+0.01 ||
					b.bottom <= a.top+0.01
				assert.True(t, apart, "%s: %v over %v", name, a, b)
			}
		}
	}
}

// Labels name every part that is not a bleed, warn of what is there and of nothing else, in the region's words.
func TestLabels(t *testing.T) {
	for name, c := range made(t) {
		w := install.Of(&c, install.Site{Machine: "Lathe"})
		text, ids := "", map[string]bool{}
		for _, l := range w.Labels {
			text += l.Title + ": " + l.Text + "\n"
			ids[l.Title] = true
		}
		kinds := map[circuit.Kind]bool{}
		idler := false
		for _, p := range c.Parts {
			kinds[p.Kind] = true
			idler = idler || p.Role == circuit.Idler
			assert.Equal(t, p.Kind != circuit.Bleed, ids[p.ID], "%s: %s", name, p.ID)
		}
		assert.Equal(t, kinds[circuit.Capacitor], strings.Contains(text, "Capacitors hold a charge"), name)
		assert.Equal(t, kinds[circuit.Drive], strings.Contains(text, "bus stays charged"), name)
		assert.Equal(t, idler, strings.Contains(text, "Machines off before the converter starts"), name)
		assert.Equal(t, c.Region == circuit.US, strings.Contains(text, "DANGER"), name)
		assert.Contains(t, text, "Isolator of Lathe. Lock here.")
	}
}

// A larger box is cooler, by its surface; a drive in a small shut one gets a fan.
func TestHeatOfABox(t *testing.T) {
	c := circuit.Circuit{Region: circuit.UK, Parts: []circuit.Part{{ID: "A1", Kind: circuit.Drive, Amps: 10}}}
	small := install.Of(&c, install.Site{}).Enclosure
	c.Parts[0].Amps = 60
	large := install.Of(&c, install.Site{}).Enclosure
	assert.Greater(t, large.Watts, 4*small.Watts)
	assert.True(t, large.Fan || large.Kelvin <= 20)
	// IEC TR 60890, on a wall: 1.4·w·(h + d) + 1.8·d·h square metres, 5.5 W each and kelvin.
	wide, high, deep := small.WidthMM/1000, small.HeightMM/1000, small.DepthMM/1000
	surface := 1.4*wide*(high+deep) + 1.8*deep*high
	assert.InEpsilon(t, small.Watts/(5.5*surface), small.Kelvin, 1e-9)
}

// What is on hand is taken once, of the right rating, and what is doubtful or reserved for another machine is left
// alone.
func TestPartsOnHand(t *testing.T) {
	c := circuit.Circuit{Region: circuit.US, Parts: []circuit.Part{
		{ID: "K1", Kind: circuit.Contactor, Amps: 9, CoilVolts: 240, Terminals: []string{"1", "2", "A1", "A2"}},
		{ID: "K2", Kind: circuit.Contactor, Amps: 9, CoilVolts: 240, Terminals: []string{"1", "2", "A1", "A2"}},
		{ID: "F1", Kind: circuit.Fuse, Name: "control fuse", Amps: 1, Terminals: []string{"1", "2"}},
		{ID: "C1", Kind: circuit.Capacitor, Duty: "run", Volts: 370, Cans: []string{"40 µF", "40 µF"},
			OnHand: []string{"can", "can"}, Terminals: []string{"1", "2"}},
	}}
	part := func(id, kind string, count, amps, volts float64) stock.Item {
		return stock.Item{ID: id, Kind: kind, Count: count, Amps: amps, Volts: volts, Condition: "new"}
	}
	other := part("d", "contactor", 5, 12, 240)
	other.For = "mill"
	at := install.Site{MachineID: "lathe", Stores: []stock.Item{
		part("a", "contactor", 1, 12, 240), part("b", "contactor", 5, 12, 24), part("c", "contactor", 5, 6, 240), other,
		part("e", "fuse", 4, 1, 0), part("f", "fuse", 4, 2, 0), part("can", "run", 2, 0, 440),
	}}
	got := map[string][2]float64{}
	for _, i := range install.Of(&c, at).Parts {
		for _, name := range []string{"contactor", "control fuse", "motor-run"} {
			if strings.HasPrefix(i.What, name) {
				got[name] = [2]float64{i.OnHand, i.ToBuy}
			}
		}
		assert.InDelta(t, i.Count, i.OnHand+i.ToBuy, 1e-9, i.What)
	}
	assert.Equal(t, map[string][2]float64{"contactor": {1, 1}, "control fuse": {1, 0}, "motor-run": {2, 0}}, got)
}

// A motor and a drive on hand are taken before any is bought: the idler is sized as the one that is there.
func TestMotorsAndDrivesFromTheStores(t *testing.T) {
	su := supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}
	m := shop.Motor{
		Plate:  plate.Typed{Output: "2 hp", Volts: "230/460", Amps: "5.8/2.9", RPM: "1745", Hertz: "60"},
		Driven: shop.Driven{Load: "spindle"},
	}
	st := study.Of(su, m, motor.FitCircuit)
	wired := func(way string, stores ...stock.Item) (o *feed.Outline, c circuit.Circuit, w install.Work) {
		q := st.Ask(shop.Shop{Supply: su, Own: shop.Own{Stores: stores}}, shop.Machine{Motors: []shop.Motor{m}})
		own, _ := feed.ByName(way)
		c = own.Wire(q, circuit.Choices{})
		return own.Outline(q), c, install.Of(&c, install.Site{Stores: stores})
	}
	taken := func(w install.Work, id string) (on []string) {
		for _, p := range w.Parts {
			for _, t := range p.Takes {
				if t.ID == id {
					on = append(on, p.For)
				}
			}
		}
		return on
	}
	plain, _, _ := wired("rotary")
	watts := 1.3 * plain.Value("idler_watts")
	spare := stock.Item{ID: "spare", Kind: "motor", Count: 1, Watts: watts, Volts: 230, Amps: 9.1}
	o, c, w := wired("rotary", spare)
	assert.InDelta(t, spare.Watts, o.Value("idler_watts"), 1e-6)
	assert.NotEqual(t, plain.Value("balance_ac_microfarad"), o.Value("balance_ac_microfarad"), "tuned for it")
	assert.Len(t, taken(w, "spare"), 1)
	for _, p := range c.Parts {
		if p.Kind == circuit.Overload && strings.Contains(p.Name, "converter") {
			assert.InDelta(t, 9.1, p.Amps, 1e-9, "by its plate")
		}
	}
	drive := stock.Item{ID: "spare", Kind: "drive", Count: 1, Watts: 2200, Amps: 9.6, Volts: 230}
	_, _, w = wired("drive-single-phase", drive)
	assert.Empty(t, taken(w, "spare"), "its maker is not known to permit one phase")
	drive.OnePhase = "yes"
	_, _, w = wired("drive-single-phase", drive)
	assert.Equal(t, []string{"A1"}, taken(w, "spare"))
}

// A converter behind an autotransformer has its overload, its panel and its idler by the volts that it stands on, not
// by those of the mains: for the same watts an idler takes the same volt-amperes.
func TestConvertersBehindATransformer(t *testing.T) {
	rotary, _ := feed.ByName("rotary")
	made := func(p plate.Typed, su supply.Supply, stores ...stock.Item) map[string]circuit.Part {
		m := shop.Motor{Plate: p, Driven: shop.Driven{Load: "spindle"}}
		st := study.Of(su, m, motor.FitCircuit)
		require.True(t, st.Reading.Sound, p)
		c := rotary.Wire(st.Ask(shop.Shop{Supply: su, Own: shop.Own{Stores: stores}},
			shop.Machine{Motors: []shop.Motor{m}}), circuit.Choices{})
		parts := map[string]circuit.Part{}
		for _, own := range c.Parts {
			parts[own.Name] = own
		}
		return parts
	}
	for _, c := range []struct {
		p          plate.Typed
		su         supply.Supply
		volts      float64
		low, amps  string
		idlerVolts float64
		panel      float64 // 2.5 times 3.4 A of NEC table 430.250 at 460 V, the next size; the next above 3.4 A
	}{
		{plate.Typed{Output: "2 hp", Volts: "460", Amps: "2.9", RPM: "1745", Hertz: "60"},
			supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"},
			240, "230", "5.8", 460, 15},
		{plate.Typed{Output: "1.5 kW", Volts: "400", Amps: "3.4", RPM: "1420", Hertz: "50"},
			supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"},
			230, "230", "5.9", 400, 6},
	} {
		low := c.p
		low.Volts, low.Amps = c.low, c.amps
		at, behind := made(low, c.su), made(c.p, c.su)
		perWatt := func(parts map[string]circuit.Part) float64 {
			return parts["overload of converter"].Amps / parts["idler"].Watts
		}
		assert.InEpsilon(t, perWatt(at)*c.volts/c.idlerVolts, perWatt(behind), 0.06)
		assert.InDelta(t, c.panel, behind["panel behind the converter"].Amps, 1e-9)
		spare := stock.Item{ID: "spare", Kind: "motor", Count: 1, Watts: 1.05 * behind["idler"].Watts, Volts: c.volts}
		assert.Empty(t, made(c.p, c.su, spare)["idler"].OnHand, "for the mains’ volts alone")
		spare.Volts = c.idlerVolts
		assert.Equal(t, []string{"spare"}, made(c.p, c.su, spare)["idler"].OnHand)
	}
}

// The wires behind an autotransformer that steps down carry what its volts make of the amps before it.
func TestWiresBehindATransformer(t *testing.T) {
	su := supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 100, Class: "usual"}
	const steps = 200 * 50.0 / 60 // volts of a motor for 200 V at 60 Hz that runs at 50
	raised := 0
	for _, hp := range []float64{1, 2, 3, 5, 7.5, 10} {
		amps := hp * 746 / 0.68 / (200 * math.Sqrt(3))
		m := shop.Motor{
			Plate: plate.Typed{Output: fmt.Sprintf("%g hp", hp), Volts: "200", Amps: fmt.Sprintf("%.1f", amps),
				RPM: "1745", Hertz: "60"},
			Driven: shop.Driven{Load: "spindle"},
		}
		st := study.Of(su, m, motor.FitCircuit)
		require.True(t, st.Reading.Sound)
		q := st.Ask(shop.Shop{Supply: su}, shop.Machine{Motors: []shop.Motor{m}})
		for _, name := range []string{"rotary", "run-capacitor"} {
			w, _ := feed.ByName(name)
			o := w.Outline(q)
			if o == nil {
				continue
			}
			c, ok := feed.CircuitOf(q, o)
			made := w.Wire(q, circuit.Choices{})
			at := slices.IndexFunc(made.Parts, func(p circuit.Part) bool {
				return p.Kind == circuit.Transformer && strings.Contains(p.Name, "to 167 V")
			})
			if !ok || at < 0 {
				continue
			}
			for _, wire := range made.Wires {
				if wire.From == made.Parts[at].ID+":2" || wire.To == made.Parts[at].ID+":2" {
					carries := q.Code().OfSize(wire.Size)
					assert.GreaterOrEqual(t, steps*carries, 230*c.Carry*(1-1e-9), "%s %g hp", name, hp)
					if wire.Size != c.Run.Size {
						raised++
					}
				}
			}
		}
	}
	assert.Positive(t, raised)
}
