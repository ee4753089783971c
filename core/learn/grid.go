package learn

import (
	"cmp"
	"math"
	"slices"

	"brackmoor/core/network"
)

// A coarse picture of the model: so many steps of either pair, between which volts and amps are taken as straight; and
// how many of the best pairs of moves are solved.
const (
	gridSteps = 16
	mostTried = 150
)

// grid is the states that matter over banks.
type grid struct {
	most Bank
	at   [][(gridSteps + 1) * (gridSteps + 1)]point // by state
}

type point struct {
	volts network.Lines
	idler float64
	runs  bool
}

// picture solves the states that matter on a grid that reaches so far.
func (t *tuning) picture(most Bank) *grid {
	g := &grid{most: Bank{math.Max(most.AC, 1), math.Max(most.BC, 1)}}
	g.at = make([][(gridSteps + 1) * (gridSteps + 1)]point, len(t.states))
	const points = (gridSteps + 1) * (gridSteps + 1)
	parallel(points*len(t.states), func(i int) {
		s, k := i/points, i%points
		b := Bank{
			g.most.AC * float64(k/(gridSteps+1)) / gridSteps, g.most.BC * float64(k%(gridSteps+1)) / gridSteps,
		}
		if v, ok := t.l.m.solve(&t.states[s], b, -1); ok {
			g.at[s][k] = point{v.volts, t.l.percent(&v), v.runs}
		}
	})
	return g
}

// between is a state at a bank, from the four points around it.
func (g *grid) between(state int, b Bank) (p point) {
	x, y := b.AC/g.most.AC*gridSteps, b.BC/g.most.BC*gridSteps
	i, k := min(int(x), gridSteps-1), min(int(y), gridSteps-1)
	x, y = x-float64(i), y-float64(k)
	p.runs = true
	for _, c := range []struct {
		i, k  int
		share float64
	}{{i, k, (1 - x) * (1 - y)}, {i + 1, k, x * (1 - y)}, {i, k + 1, (1 - x) * y}, {i + 1, k + 1, x * y}} {
		q := &g.at[state][c.i*(gridSteps+1)+c.k]
		p.volts.AB += c.share * q.volts.AB
		p.volts.BC += c.share * q.volts.BC
		p.volts.CA += c.share * q.volts.CA
		p.idler += c.share * q.idler
		p.runs = p.runs && q.runs
	}
	return p
}

// pair is a move on either pair, what they come to, and how it looks.
type pair struct {
	a, b   *move
	ac, bc float64
	cost   float64
}

// ranked are the pairs of moves that the shelf allows and that look best, the best first.
func (t *tuning) ranked(shelf []Can, in Cans, now Bank) (list []pair) {
	as, bs := moves(shelf, now.AC, in.AC), moves(shelf, now.BC, in.BC)
	none := []sum{{moves: []move{{swap: Swap{[]float64{}, []float64{}}}}}}
	switch in.Only {
	case network.AC:
		bs = none
	case network.BC:
		as = none
	}
	most := Bank{now.AC + as[len(as)-1].microfarad, now.BC + bs[len(bs)-1].microfarad}
	g := t.picture(most)
	type look struct {
		a, b *sum
		cost float64
	}
	var looks []look
	for i := range as {
		for k := range bs {
			worst := 0.0
			for s := range t.states {
				q := g.between(s, Bank{now.AC + as[i].microfarad, now.BC + bs[k].microfarad})
				cost, _ := t.judge(&t.states[s], q.volts, q.idler, q.runs)
				worst = math.Max(worst, cost)
			}
			least := perCan * float64(as[i].moves[0].cans+bs[k].moves[0].cans)
			looks = append(looks, look{&as[i], &bs[k], worst + least})
		}
	}
	slices.SortFunc(looks, func(a, b look) int { return cmp.Compare(a.cost, b.cost) })
	left := map[float64]int{}
	for _, c := range shelf {
		left[c.Microfarad] += c.Count
	}
	for _, l := range looks {
		a, b, ok := together(left, l.a, l.b)
		if !ok || a.cans+b.cans == 0 {
			continue
		}
		if list = append(list, pair{a, b, l.a.microfarad, l.b.microfarad, l.cost}); len(list) == mostTried {
			break
		}
	}
	return list
}
