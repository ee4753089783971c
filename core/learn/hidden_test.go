package learn_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"brackmoor/core/learn"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// hidden is a converter as it really is beside what its plates say: another circuit, another curve, another source,
// cans that are not what is printed on them, and meters that are one percent off.
type hidden struct {
	rng    *rand.Rand
	c      learn.Case // as the plates say
	truth  network.Supply
	motors map[string]network.Motor
	shelf  []learn.Can
	ac, bc []can
	wrong  float64 // of how many figures
	lies   []lie
}

// can is a capacitor by its mark and as it is.
type can struct{ mark, is float64 }

// lie is a figure that was read wrongly so far that it can be told.
type lie struct {
	reading int
	places  []string
}

var plates = []plate.Typed{
	{Output: "2 hp", Volts: "230/460", Amps: "5.8/2.9", RPM: "1745", Hertz: "60"},
	{Output: "3 hp", Volts: "230/460", Amps: "9.0/4.5", RPM: "1745", Hertz: "60"},
	{Output: "5 hp", Volts: "230/460", Amps: "13.4/6.7", RPM: "1750", Hertz: "60"},
	{Output: "7.5 hp", Volts: "230/460", Amps: "19.8/9.9", RPM: "1755", Hertz: "60"},
	{Output: "10 hp", Volts: "230/460", Amps: "25/12.5", RPM: "1755", Hertz: "60"},
}

// motors by their plates, fitted once.
var fitted = map[int]learn.Motor{}

func byPlate(t testing.TB, k int, id string) learn.Motor {
	t.Helper()
	own, ok := fitted[k]
	if !ok {
		su := supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}
		st := study.Of(su, shop.Motor{Plate: plates[k], Driven: shop.Driven{Load: "spindle"}}, motor.FitCircuit)
		require.True(t, st.Reading.Sound)
		own = learn.Motor{Network: st.Machine.NetworkMotor(id), Watts: st.Machine.Watts(), Amps: st.Plate.Amps.Value}
		fitted[k] = own
	}
	own.ID, own.Network.ID = id, id
	return own
}

// hide makes a converter up.
func hide(t testing.TB, seed uint64) *hidden {
	rng := rand.New(rand.NewPCG(seed, 7))
	h := &hidden{rng: rng, motors: map[string]network.Motor{}}
	k := rng.IntN(4)
	idler, machine := byPlate(t, k+1, "idler"), byPlate(t, k-rng.IntN(min(k, 1)+1), "lathe")
	h.c = learn.Case{
		Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.15, ReactanceOhm: 0.08},
		Idler:  &idler, Machines: []learn.Motor{machine},
	}
	h.truth = h.c.Supply
	h.truth.Volts *= h.off(0.012)
	h.truth.ResistanceOhm *= h.off(0.4)
	h.truth.ReactanceOhm *= h.off(0.4)
	for _, m := range []learn.Motor{idler, machine} {
		h.motors[m.ID] = h.real(m.Network)
	}
	for _, size := range []float64{5, 10, 20, 30} {
		h.shelf = append(h.shelf, learn.Can{Microfarad: size, Count: 2 + rng.IntN(3)})
	}
	usual := idler.Watts / 745.7 * 12
	h.ac = h.made(usual * (0.6 + 0.8*rng.Float64()))
	h.bc = h.made(usual * (0.3 + 0.6*rng.Float64()))
	return h
}

// off is a factor that is so far off, as a share.
func (h *hidden) off(share float64) float64 { return math.Exp(share * h.rng.NormFloat64()) }

// real is a motor as it really is: every part of its circuit off by its own, and a curve that bends otherwise.
func (h *hidden) real(m network.Motor) network.Motor {
	c := &m.Circuit
	leakage := h.off(0.13)
	c.R1Ohm *= h.off(0.1)
	c.X1Ohm *= leakage * h.off(0.08)
	rotor := h.off(0.12)
	cages := []motor.Cage{}
	for _, g := range c.Cages {
		cages = append(cages, motor.Cage{ROhm: g.ROhm * rotor * h.off(0.06), XOhm: g.XOhm * leakage * h.off(0.08)})
	}
	c.Cages = cages
	losses := h.off(0.3)
	c.RcOhm /= losses * h.off(0.1)
	m.FrictionWatts *= losses * h.off(0.1)
	knee := c.Curve[0].AirgapVolts
	c.XmOhm *= h.off(0.13)
	bend, power := 0.3*h.off(0.35), 6+6*h.rng.Float64()
	curve := []motor.CurvePoint{}
	for v := 0.7; v < 1.45; v += 0.05 {
		amps := v * knee / c.XmOhm * (1 + bend*math.Pow(v/1.1, power) - bend*math.Pow(0.7/1.1, power))
		curve = append(curve, motor.CurvePoint{AirgapVolts: v * knee, Amps: amps})
	}
	c.Curve = curve
	return m
}

// made is a bank of about so many microfarads, of the sizes on the shelf.
func (h *hidden) made(microfarad float64) (list []can) {
	for i := len(h.shelf) - 1; i >= 0; i-- {
		for size := h.shelf[i].Microfarad; microfarad > 0.7*size; microfarad -= size {
			list = append(list, can{size, size * h.off(0.035)})
		}
	}
	return list
}

func (h *hidden) bank() (marked, is learn.Bank) {
	for _, c := range h.ac {
		marked.AC, is.AC = marked.AC+c.mark, is.AC+c.is
	}
	for _, c := range h.bc {
		marked.BC, is.BC = marked.BC+c.mark, is.BC+c.is
	}
	return marked, is
}

// solve is a state as it really is, with capacitors as they really are.
func (h *hidden) solve(t testing.TB, s *learn.State, is learn.Bank) network.Result {
	c := network.Case{Supply: h.truth, Motors: []network.Motor{h.motors["idler"]}}
	c.Motors[0].Load = &network.Load{Kind: "power"}
	if s.Volts > 0 {
		by := s.Volts / 100
		c.Supply.Volts *= by
		c.Supply.ResistanceOhm *= by * by
		c.Supply.ReactanceOhm *= by * by
	}
	for _, id := range s.On {
		m := h.motors[id]
		m.Load = &network.Load{Kind: "power", Watts: *s.Share[id] * h.c.Machines[0].Watts}
		c.Motors = append(c.Motors, m)
	}
	for pair, microfarad := range map[network.Pair]float64{network.AC: is.AC, network.BC: is.BC} {
		if microfarad > 0 {
			c.Capacitors = append(c.Capacitors, network.Capacitor{
				ID: string(pair), Between: pair, Microfarad: microfarad,
			})
		}
	}
	r, err := network.Solve(c)
	require.NoError(t, err)
	return r
}

// states are those that matter.
func states() []learn.State {
	return []learn.State{
		{On: []string{}},
		{On: []string{"lathe"}, Share: map[string]*float64{"lathe": new(0.0)}},
		{On: []string{"lathe"}, Share: map[string]*float64{"lathe": new(0.6)}},
	}
}

// read reads a state with a pad, and misreads some of it.
func (h *hidden) read(t testing.TB, s learn.State) {
	marked, is := h.bank()
	r := h.solve(t, &s, is)
	own := learn.Reading{State: s, Bank: marked}
	see := func(of, at string, value float64) {
		own.Figures = append(own.Figures, learn.Figure{
			Place: learn.Place{Of: of, At: at}, Value: value * (1 + 0.01*h.rng.NormFloat64()),
		})
	}
	see("", "ab", r.Volts.AB)
	see("", "bc", r.Volts.BC)
	see("", "ca", r.Volts.CA)
	for _, m := range r.Motors {
		see(m.ID, "a", m.LineAmps.A)
		see(m.ID, "b", m.LineAmps.B)
		see(m.ID, "c", m.LineAmps.C)
	}
	see(learn.Supply, "", r.Supply.Amps)
	for k := range own.Figures {
		if h.rng.Float64() < h.wrong {
			h.misread(&own, k)
		}
	}
	h.c.Readings = append(h.c.Readings, own)
}

// misread gets a figure wrong: exchanged, a slip of the point, a clamp in the wrong place, another hand's scrawl.
func (h *hidden) misread(r *learn.Reading, k int) {
	f := &r.Figures[k]
	was := *f
	places := []string{f.Place.String()}
	switch kind := h.rng.IntN(4); {
	case kind == 0 && f.Place.Of != learn.Supply:
		other := k/3*3 + (k%3+1)%3
		g := &r.Figures[other]
		if math.Abs(g.Value-f.Value) > 0.12*f.Value {
			f.Value, g.Value = g.Value, f.Value
			places = append(places, g.Place.String())
		}
	case kind == 1:
		f.Value *= 10
	case kind == 2:
		f.Value *= 2
	default:
		f.Value *= 1 + 0.3*(1+h.rng.Float64())
	}
	if math.Abs(f.Value-was.Value) > 0.12*was.Value {
		h.lies = append(h.lies, lie{len(h.c.Readings), places})
	}
}

// change does what was said, at the cabinet.
func (h *hidden) change(t testing.TB, c *learn.Change) {
	for _, x := range []struct {
		bank *[]can
		swap learn.Swap
	}{{&h.ac, c.AC}, {&h.bc, c.BC}} {
		for _, size := range x.swap.Remove {
			i := slices.IndexFunc(*x.bank, func(c can) bool { return c.mark == size })
			require.GreaterOrEqual(t, i, 0, "a can of %g is taken out that is not in", size)
			*x.bank = slices.Delete(*x.bank, i, i+1)
			h.stock(size, 1)
		}
	}
	for _, x := range []struct {
		bank *[]can
		swap learn.Swap
	}{{&h.ac, c.AC}, {&h.bc, c.BC}} {
		for _, size := range x.swap.Add {
			*x.bank = append(*x.bank, can{size, size * h.off(0.035)})
			h.stock(size, -1)
		}
	}
}

// marks are the cans in circuit by what is printed on them.
func (h *hidden) marks() (in learn.Cans) {
	in = learn.Cans{AC: []float64{}, BC: []float64{}}
	for _, c := range h.ac {
		in.AC = append(in.AC, c.mark)
	}
	for _, c := range h.bc {
		in.BC = append(in.BC, c.mark)
	}
	return in
}

// best is how little the legs can really be apart, by any bank in steps of the smallest can.
func (h *hidden) best(t testing.TB) float64 {
	least, _ := h.bestBank(t)
	return least
}

// bestBank is that, and the bank.
func (h *hidden) bestBank(t testing.TB) (least float64, at learn.Bank) {
	_, at = h.bank()
	least = h.worst(t, at)
	for step := 40.0; step >= 5; step /= 2 {
		for better := true; better; {
			better = false
			for _, to := range [][2]float64{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}} {
				b := learn.Bank{AC: math.Max(0, at.AC+step*to[0]), BC: math.Max(0, at.BC+step*to[1])}
				if worst := h.worst(t, b); worst < least-1e-6 {
					at, least, better = b, worst, true
				}
			}
		}
	}
	return least, at
}

func (h *hidden) stock(size float64, by int) {
	for i := range h.shelf {
		if h.shelf[i].Microfarad == size {
			h.shelf[i].Count += by
		}
	}
}

// worst is how far the legs really are apart in the worst state, with a bank as it really is.
func (h *hidden) worst(t testing.TB, is learn.Bank) (percent float64) {
	for _, s := range states() {
		percent = math.Max(percent, h.solve(t, &s, is).UnbalancePercent)
	}
	return percent
}
