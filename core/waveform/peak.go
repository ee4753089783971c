package waveform

import "math"

// window is how many points in a row a crest is drawn through.
const window = 5

// peak is the largest magnitude that a figure comes to. Steps are as long as they may be,
// so that a crest falls between two: it is looked for on the polynomial through the points
// around the largest.
type peak struct {
	most  float64
	t, x  [window]float64
	count int // points kept
	jump  int // the jump that they follow
}

// see takes the figure at a time. What was switched in between, by its number, parts what
// comes from what was.
func (p *peak) see(at, x float64, jump int) {
	if jump != p.jump {
		p.count, p.jump = 0, jump
	}
	if p.count > 0 && at <= p.t[p.count-1] {
		return
	}
	if p.count == window {
		copy(p.t[:], p.t[1:])
		copy(p.x[:], p.x[1:])
		p.count--
	}
	p.t[p.count], p.x[p.count] = at, x
	p.count++
	p.most = max(p.most, math.Abs(x))
	if p.count%2 == 1 && p.count >= 3 {
		p.most = max(p.most, p.crest(p.count/2))
	}
}

// crest is the magnitude of the top between the neighbours of a point that is larger than
// both, and nothing where it is not.
func (p *peak) crest(k int) float64 {
	sense := math.Copysign(1, p.x[k])
	rise, fall := sense*(p.x[k]-p.x[k-1]), sense*(p.x[k]-p.x[k+1])
	if rise < 0 || fall < 0 || rise+fall == 0 {
		return 0
	}
	// The top of the parabola: where its slope, known between the points, is nothing.
	before, after := p.t[k]-p.t[k-1], p.t[k+1]-p.t[k]
	up, down := rise/before, -fall/after
	top := p.t[k] + (up*after+down*before)/(2*(up-down))
	// Neville's scheme: through two points, then three, to all.
	through := p.x
	for n := 1; n < p.count; n++ {
		for i := range p.count - n {
			span := p.t[i+n] - p.t[i]
			through[i] = ((p.t[i+n]-top)*through[i] + (top-p.t[i])*through[i+1]) / span
		}
	}
	return min(sense*through[0], math.Abs(p.x[k])+max(rise, fall))
}
