package network_test

import (
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// reference solves a one-phase network a second way: every motor as a full
// nodal matrix A·diag(0, Y1, Y2)·A⁻¹ multiplied out, saturation by plain
// damped repetition, the source as a branch, and Kirchhoff's law solved by
// Cramer's rule. It shares no code with the solver but the circuit's numbers.
type reference struct {
	c      network.Case
	slips  []float64
	volts  [3]complex128
	torque []float64
	lines  [][3]complex128
}

func sequenceAdmittance(
	m network.Motor,
	s, ratio, xm, leakage float64,
) (terminal, emf complex128, conductance float64) {
	rotor := complex(0, 0)
	for _, g := range m.Circuit.Cages {
		rotor += complex(s, 0) / complex(g.ROhm, s*g.XOhm*leakage*ratio)
	}
	gap := complex(0, -1/xm) + rotor
	if m.Circuit.RcOhm > 0 {
		gap += complex(1/m.Circuit.RcOhm, 0)
	}
	series := complex(m.Circuit.R1Ohm, m.Circuit.X1Ohm*leakage*ratio)
	terminal = gap / (1 + series*gap)
	return terminal, 1 / (1 + series*gap), real(rotor)
}

func (f *reference) solve() {
	n := len(f.c.Motors)
	xm, leakage := make([]float64, n), make([]float64, n)
	for i, m := range f.c.Motors {
		xm[i], leakage[i] = m.Circuit.XmOhm*f.c.Supply.Hertz/m.RatedHertz, 1
	}
	f.torque, f.lines = make([]float64, n), make([][3]complex128, n)
	for range 20000 {
		var y [3][3]complex128
		add := func(i, j int, value complex128) {
			y[i][i] += value
			y[j][j] += value
			y[i][j] -= value
			y[j][i] -= value
		}
		omega := 2 * math.Pi * f.c.Supply.Hertz
		ends := map[network.Pair][2]int{network.AB: {0, 1}, network.BC: {1, 2}, network.AC: {0, 2}}
		for _, p := range f.c.Capacitors {
			add(ends[p.Between][0], ends[p.Between][1], 1/complex(p.ESROhm, -1e6/(omega*p.Microfarad)))
		}
		for _, l := range f.c.Loads {
			add(ends[l.Between][0], ends[l.Between][1], 1/complex(l.ResistanceOhm, l.ReactanceOhm))
		}
		matrices := make([][3][3]complex128, n)
		for i, m := range f.c.Motors {
			ratio := f.c.Supply.Hertz / m.RatedHertz
			forward, _, _ := sequenceAdmittance(m, f.slips[i], ratio, xm[i], leakage[i])
			backward, _, _ := sequenceAdmittance(m, 2-f.slips[i], ratio, xm[i], leakage[i])
			if m.Direction == "acb" {
				forward, backward = backward, forward
			}
			a := [3][3]complex128{{1, 1, 1}, {1, a1 * a1, a1}, {1, a1, a1 * a1}}
			back := [3][3]complex128{{1, 1, 1}, {1, a1, a1 * a1}, {1, a1 * a1, a1}}
			for r := range 3 {
				for k := range 3 {
					matrices[i][r][k] = (a[r][1]*forward*back[1][k] + a[r][2]*backward*back[2][k]) / 3
					y[r][k] += matrices[i][r][k]
				}
			}
		}
		// Unknown Va, Vc with Vb = 0: (1/Zs + Yaa)Va + Yac·Vc = E/Zs, Yca·Va + Ycc·Vc = 0.
		zs := complex(f.c.Supply.ResistanceOhm, f.c.Supply.ReactanceOhm)
		e := complex(f.c.Supply.Volts, 0)
		p, q, r, s := 1+zs*y[0][0], zs*y[0][2], y[2][0], y[2][2]
		determinant := p*s - q*r
		f.volts = [3]complex128{e * s / determinant, 0, -e * r / determinant}
		moved := 0.0
		for i, m := range f.c.Motors {
			ratio := f.c.Supply.Hertz / m.RatedHertz
			v1 := (f.volts[0] + a1*f.volts[1] + a1*a1*f.volts[2]) / 3
			v2 := (f.volts[0] + a1*a1*f.volts[1] + a1*f.volts[2]) / 3
			if m.Direction == "acb" {
				v1, v2 = v2, v1
			}
			_, e1, g1 := sequenceAdmittance(m, f.slips[i], ratio, xm[i], leakage[i])
			_, e2, g2 := sequenceAdmittance(m, 2-f.slips[i], ratio, xm[i], leakage[i])
			gap1, gap2 := cmplx.Abs(v1*e1), cmplx.Abs(v2*e2)
			f.torque[i] = 3 * (gap1*gap1*g1 - gap2*gap2*g2) * float64(m.Poles) / 2 / omega
			squares := 0.0
			for k := range 3 {
				f.lines[i][k] = matrices[i][k][0]*f.volts[0] + matrices[i][k][1]*f.volts[1] +
					matrices[i][k][2]*f.volts[2]
				squares += cmplx.Abs(f.lines[i][k]) * cmplx.Abs(f.lines[i][k]) / 3
			}
			nextXm, nextLeakage := m.Circuit.XmOhm*ratio, 1.0
			if curve := m.Circuit.Curve; len(curve) > 0 {
				nextXm = onCurve(curve, math.Hypot(gap1, gap2)/ratio, m.Circuit.XmOhm) * ratio
			}
			if l := m.Circuit.Leakage; l.OnsetAmps > 0 {
				nextLeakage = l.Floor + (1-l.Floor)*math.Min(1, l.OnsetAmps/math.Sqrt(squares))
			}
			moved = math.Max(moved, math.Max(math.Abs(nextXm/xm[i]-1), math.Abs(nextLeakage-leakage[i])))
			xm[i] += 0.1 * (nextXm - xm[i])
			leakage[i] += 0.1 * (nextLeakage - leakage[i])
		}
		if moved < 1e-13 {
			return
		}
	}
}

func onCurve(curve []motor.CurvePoint, volts, xm float64) float64 {
	if volts <= curve[0].AirgapVolts {
		return xm
	}
	for i := 1; i < len(curve); i++ {
		if volts <= curve[i].AirgapVolts || i == len(curve)-1 {
			p, q := curve[i-1], curve[i]
			return volts / (p.Amps + (q.Amps-p.Amps)/(q.AirgapVolts-p.AirgapVolts)*(volts-p.AirgapVolts))
		}
	}
	return xm
}

// settle finds the slip of one motor by walking down from synchronous speed
// until torque less friction meets the load, then halving.
func (f *reference) settle(i int) {
	m := f.c.Motors[i]
	synchronous := 4 * math.Pi * f.c.Supply.Hertz / float64(m.Poles)
	net := func(s float64) float64 {
		f.slips[i] = s
		f.solve()
		speed := 1 - s
		load := m.Load.Watts / (speed * synchronous)
		if m.Load.Kind == "torque" {
			load = m.Load.NewtonMetre * math.Pow(speed*synchronous*30/math.Pi/m.Load.AtRPM, float64(m.Load.Exponent))
		}
		rated := 4 * math.Pi * m.RatedHertz / float64(m.Poles)
		return f.torque[i] - m.FrictionWatts/rated*(speed*synchronous/rated) - load
	}
	fast, slow := 0.0, 0.0
	for slow = 0.002; net(slow) < 0; slow += 0.002 {
		fast = slow
	}
	for range 45 {
		middle := (fast + slow) / 2
		if net(middle) > 0 {
			slow = middle
		} else {
			fast = middle
		}
	}
	f.slips[i] = (fast + slow) / 2
}

func shaper(kind string) network.Motor {
	c := motor.Circuit{
		R1Ohm: 0.59,
		X1Ohm: 1.18,
		XmOhm: 29.5,
		RcOhm: 442,
		Cages: []motor.Cage{
			{ROhm: 0.62, XOhm: 1.5},
			{ROhm: 1.9, XOhm: 0.9},
		},
		Leakage: motor.LeakageSaturation{OnsetAmps: 15, Floor: 0.55},
	}
	c.Curve = motor.TypicalCurve(c, 240)
	return network.Motor{
		ID:            "shaper",
		Poles:         4,
		RatedHertz:    60,
		Connection:    kind,
		FrictionWatts: 40,
		Circuit:       c,
		Load:          &network.Load{Kind: "power", Watts: 1100},
	}
}

func TestAgreesWithASecondSolver(t *testing.T) {
	idler := motor.Circuit{
		R1Ohm: 0.39,
		X1Ohm: 0.79,
		XmOhm: 19.7,
		RcOhm: 295,
		Cages: []motor.Cage{{ROhm: 0.34, XOhm: 0.89}},
	}
	idler.Curve = motor.TypicalCurve(idler, 240)
	torque := shaper("delta")
	torque.Load = &network.Load{Kind: "torque", NewtonMetre: 5, AtRPM: 1745, Exponent: 2}
	fifty := shaper("wye")
	fifty.RatedHertz = 50
	backwards := shaper("wye")
	backwards.Direction = "acb"
	house := network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.08, ReactanceOhm: 0.04}
	for name, c := range map[string]network.Case{
		"one motor, one capacitor": {Supply: house, Motors: []network.Motor{shaper("wye")},
			Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 55}}},
		"delta on two bare legs": {Supply: house, Motors: []network.Motor{torque}},
		"other frequency": {Supply: house, Motors: []network.Motor{fifty},
			Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 90, ESROhm: 0.5}}},
		"backwards": {Supply: house, Motors: []network.Motor{backwards},
			Capacitors: []network.Capacitor{{ID: "run", Between: network.BC, Microfarad: 40}}},
		"idler and machine": {Supply: house, Motors: []network.Motor{{ID: "idler", Poles: 4, RatedHertz: 60,
			FrictionWatts: 90, Circuit: idler, Load: &network.Load{Kind: "power"}}, shaper("delta")},
			Capacitors: []network.Capacitor{{ID: "x", Between: network.AC, Microfarad: 60}, {ID: "y",
				Between: network.BC, Microfarad: 40}},
			Loads: []network.Impedance{{ID: "heater", Between: network.AB, ResistanceOhm: 24}}},
		"far over-excited": {Supply: house, Motors: []network.Motor{shaper("wye")},
			Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 160}}},
	} {
		t.Run(name, func(t *testing.T) {
			got, err := network.Solve(c)
			require.NoError(t, err)
			f := &reference{c: c, slips: make([]float64, len(c.Motors))}
			for i := range f.slips {
				f.slips[i] = 0.002
			}
			for range 12 {
				for i := range f.slips {
					f.settle(i)
				}
				if len(f.slips) == 1 {
					break
				}
			}
			f.solve()
			const within = 1e-6
			assert.InEpsilon(t, cmplx.Abs(f.volts[0]), got.Volts.AB, within)
			assert.InEpsilon(t, cmplx.Abs(f.volts[2]), got.Volts.BC, within)
			assert.InEpsilon(t, cmplx.Abs(f.volts[2]-f.volts[0]), got.Volts.CA, within)
			for i, m := range got.Motors {
				sense := 1.0
				if c.Motors[i].Direction == "acb" {
					sense = -1
				}
				assert.InEpsilon(t, f.slips[i], m.Slip, 1e-5)
				assert.InEpsilon(t, f.torque[i], sense*m.TorqueNm, 1e-5)
				close(
					t,
					network.Legs{A: cmplx.Abs(f.lines[i][0]), B: cmplx.Abs(f.lines[i][1]), C: cmplx.Abs(f.lines[i][2])},
					m.LineAmps,
					1,
				)
				if c.Motors[i].Connection == "delta" {
					// The branches make the lines: I_a = I_ab − I_ca, and their sum is nothing.
					ia, ib, ic := f.lines[i][0], f.lines[i][1], f.lines[i][2]
					assert.InEpsilon(t, cmplx.Abs(ia-ib)/3, m.WindingAmps[0], within)
					assert.InEpsilon(t, cmplx.Abs(ib-ic)/3, m.WindingAmps[1], within)
					assert.InEpsilon(t, cmplx.Abs(ic-ia)/3, m.WindingAmps[2], within)
				}
			}
		})
	}
}
