package circuit

// What coils take, in volt-amperes: held, and while they pull in (shop practice; catalogues of small gear agree
// within a third).
var coilVA = map[Kind][2]float64{
	Contactor: {9, 70}, Relay: {2, 5}, Timer: {2, 2}, Lamp: {2, 2}, SafetyRelay: {4, 4},
}

// largeAmps is where a contactor's coil grows, by largeTimes.
const (
	largeAmps  = 32
	largeTimes = 2
)

// Takes are what coils take together in volt-amperes: all of them held, and the largest pulling in with the others
// held.
func (c *Circuit) Takes() (held, pulling float64) {
	most := 0.0
	for i := range c.Parts {
		p := &c.Parts[i]
		va, ok := coilVA[p.Kind]
		if !ok {
			continue
		}
		if p.Kind == Contactor && p.Amps > largeAmps {
			va[0], va[1] = largeTimes*va[0], largeTimes*va[1]
		}
		held += va[0]
		most = max(most, va[1]-va[0])
	}
	return held, held + most
}

// transformerVA and fuseAmps are the sizes that control transformers and their fuses are sold in.
var (
	transformerVA = []float64{25, 40, 50, 63, 75, 100, 150, 200, 250, 300, 500, 750, 1000}
	fuseAmps      = []float64{0.5, 1, 2, 3, 4, 5, 6, 8, 10}
	powerFuses    = map[string][]float64{ // NEC 240.6(A) (US, 2023) and IEC 60269-1
		US: {3, 6, 10, 15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200},
		UK: {6, 10, 16, 20, 25, 32, 40, 50, 63, 80, 100, 125, 160, 200},
	}
)

// PowerFuse is the least fuse that is sold in a region for amps, 0 for none.
func PowerFuse(region string, amps float64) float64 {
	if amps == 0 {
		return 0
	}
	return next(powerFuses[region], amps)
}

// Control circuits (NEC 430.72, 450.3(B), US, 2023; NFPA 79, 7.2; IEC 60204-1, 7.2.4): a transformer bears this many
// times its size for a coil's moment, its secondary's fuse is this many times its amps, and one ahead of it this many
// of the primary's, for its inrush. A fuse of coils alone bears this many times what they take
// pulling in.
const (
	bearsTimes     = 1.5
	secondaryTimes = 1.25
	primaryTimes   = 3
	coilTimes      = 2
)

// sizeControl sizes what feeds the coils: the transformer by what is held and pulled in, and the control fuses.
func (d *Draft) sizeControl() {
	held, pulling := d.Takes()
	if held == 0 {
		return
	}
	fuse := func(id string, amps float64) {
		if p := d.Part(id); p != nil && p.Kind == Fuse && p.Amps == 0 {
			p.Amps = next(fuseAmps, amps)
		}
	}
	for i := range d.Parts {
		t := &d.Parts[i]
		if t.Kind != ControlTransformer {
			continue
		}
		t.VA = next(transformerVA, max(held, pulling/bearsTimes))
		for _, f := range d.fuses(t.ID + ":X1") {
			fuse(f, secondaryTimes*t.VA/t.Secondary)
		}
		for _, mark := range []string{":H1", ":H2"} {
			for _, f := range d.fuses(t.ID + mark) {
				fuse(f, primaryTimes*t.VA/d.SupplyVolts())
			}
		}
		return
	}
	for i := range d.Parts {
		if p := &d.Parts[i]; p.Kind == Fuse && p.Name == controlFuse {
			fuse(p.ID, coilTimes*pulling/d.SupplyVolts())
		}
	}
}

// controlFuse is what a fuse of the coils is called.
const controlFuse = "control fuse"

// fuses are those that a wire joins to an end.
func (c *Circuit) fuses(end string) (ids []string) {
	for i := range c.Parts {
		p := &c.Parts[i]
		for _, w := range c.Wires {
			if p.Kind == Fuse && (w.From == end && p.Owns(w.To) || w.To == end && p.Owns(w.From)) {
				ids = append(ids, p.ID)
			}
		}
	}
	return ids
}

// next is the least of sizes, in their order, that is enough; the largest where none is.
func next(sizes []float64, least float64) float64 {
	for _, s := range sizes {
		if s >= least {
			return s
		}
	}
	return sizes[len(sizes)-1]
}
