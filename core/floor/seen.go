package floor

import (
	"math"
	"math/cmplx"

	"brackmoor/core/network"
	"brackmoor/core/site"
)

// sight is the supply as something sees it at the far end of a circuit, in a state without it: the
// volts there, and the ohms by which they fall when it takes amps, everything else answering.
type sight struct {
	network.Supply
	beside map[string]float64    // amps that every circuit carries without it
	far    map[string]complex128 // ohms by which volts elsewhere fall with its amps, by what looks from there
}

// seen looks at the supply from the end of a circuit, by two solutions of the whole shop; others are
// the circuits from which its amps are felt, by names of theirs.
func (f *Floor) seen(s *site.State, on string, probe float64, others map[string]string) (sight, error) {
	n, err := f.Network(s)
	if err != nil {
		return sight{}, err
	}
	at := len(n.Circuits)
	n.Circuits = append(n.Circuits, network.Circuit{ID: "probe", From: on})
	eyes := map[string]int{}
	for name, from := range others {
		eyes[name] = len(n.Circuits)
		n.Circuits = append(n.Circuits, network.Circuit{ID: "eye-" + name, From: from})
	}
	open, err := network.SolveInstallation(n)
	if err != nil {
		return sight{}, err
	}
	ohms := complex(0.5, math.Sqrt(0.75)) * complex(n.Supply.Volts/probe, 0)
	n.Circuits[at].Loads = []network.Impedance{{
		ID: "probe-ohms", Between: network.AB, ResistanceOhm: real(ohms), ReactanceOhm: imag(ohms),
	}}
	loaded, err := network.SolveInstallation(n)
	if err != nil {
		return sight{}, err
	}
	phasor := func(r *network.InstallationResult, at int) complex128 {
		c := &r.Circuits[at]
		return cmplx.Rect(c.Volts.AB, c.Degrees.AB*math.Pi/180)
	}
	drawn := phasor(&loaded, at) / ohms
	fallen := func(at int) complex128 { return (phasor(&open, at) - phasor(&loaded, at)) / drawn }
	x := sight{Supply: n.Supply, beside: f.lineAmps(&open), far: map[string]complex128{}}
	z := fallen(at)
	x.Volts = cmplx.Abs(phasor(&open, at))
	x.ResistanceOhm, x.ReactanceOhm = math.Max(0, real(z)), math.Max(0, imag(z))
	for name, eye := range eyes {
		x.far[name] = fallen(eye)
	}
	return x, nil
}
