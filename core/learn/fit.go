package learn

import (
	"math"
	"runtime"
	"slices"
	"sync"

	"gonum.org/v1/gonum/mat"
)

// Learned is a case as its readings tell it: the model, what each parameter came to, which figures were left out as
// misread, and how far each dial may still be off.
type Learned struct {
	Parameters []Parameter
	Misread    []Misread

	m       model
	rows    []row         // its figures, with what each dial does to them
	spread  *mat.SymDense // covariance of the dials
	without map[spot]bool
}

// spot is a figure: a reading, and its place in it.
type spot struct{ reading, figure int }

// The search: how far a dial is moved to see what it does, in standard deviations; when steps are small enough, after
// how short a one what each dial does is taken to be what it did; and how many there are at most.
const (
	nudge     = 0.02
	still     = 0.01
	straight  = 0.25
	mostSteps = 12
	freedom   = 5.0 // of the weights: less lets go of more
)

// Learn fits a case whose readings name machines that it has; without an idler it has one.
func Learn(c *Case) Learned {
	dials := c.dials()
	l := Learned{m: model{c: c, dials: dials, u: make([]float64, len(dials))}, without: map[spot]bool{}}
	l.fit()
	l.Misread = l.sort()
	for i := range dials {
		p := dials[i].Parameter
		p.Value = dials[i].value(l.m.u[i])
		p.Shrunk = math.Sqrt(math.Max(0, l.spread.At(i, i)))
		p.Sigma = dials[i].spread(l.m.u[i], p.Shrunk)
		l.Parameters = append(l.Parameters, p)
	}
	return l
}

// row is a figure beside what the model has for it, in standard deviations, and what each dial does to it.
type row struct {
	spot
	off   float64
	slope []float64
}

// fit turns the dials to where readings and plates agree best: steps of Gauss and Newton, shortened where they do not
// pay, with weights that fall for what is far off.
func (l *Learned) fit() {
	n := len(l.m.dials)
	u := slices.Clone(l.m.u)
	rows, cost := l.look(u)
	steps := 0
	normal, pull := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for moved := math.Inf(1); moved >= still && steps < mostSteps; steps++ {
		if moved > straight {
			l.slopes(u, rows)
		}
		l.normal(u, rows, normal, pull)
		var factor mat.Cholesky
		if !factor.Factorize(normal) {
			break
		}
		var step mat.VecDense
		if factor.SolveVecTo(&step, pull) != nil {
			break
		}
		moved = 0
		for by := 1.0; by > 0.01; by /= 2 {
			to := slices.Clone(u)
			for i := range to {
				most := l.m.dials[i].farthest()
				to[i] = math.Max(-most, math.Min(most, u[i]+by*step.AtVec(i)))
			}
			next, less := l.look(to)
			if less < cost {
				for i := range u {
					moved = math.Max(moved, math.Abs(to[i]-u[i]))
				}
				for k := range next { // until they are looked at anew
					next[k].slope = rows[k].slope
				}
				u, rows, cost = to, next, less
				break
			}
		}
	}
	l.slopes(u, rows)
	l.m.u, l.rows = u, rows
	l.normal(u, rows, normal, pull)
	l.spread = mat.NewSymDense(n, nil)
	var factor mat.Cholesky
	if factor.Factorize(normal) {
		_ = factor.InverseTo(l.spread)
	}
}

// weight of a figure that is so far off, in standard deviations.
func weight(off float64) float64 { return (freedom + 1) / (freedom + off*off) }

// normal gathers the normal equations, the plates' own terms among them.
func (l *Learned) normal(u []float64, rows []row, normal *mat.SymDense, pull *mat.VecDense) {
	n := len(u)
	normal.Zero()
	for i := range n {
		w := l.m.dials[i].holds(u[i])
		normal.SetSym(i, i, w)
		pull.SetVec(i, -w*u[i])
	}
	for _, r := range rows {
		w := weight(r.off)
		for i := range n {
			if r.slope[i] == 0 {
				continue
			}
			pull.SetVec(i, pull.AtVec(i)+w*r.off*r.slope[i])
			for k := i; k < n; k++ {
				normal.SetSym(i, k, normal.At(i, k)+w*r.slope[i]*r.slope[k])
			}
		}
	}
}

// look is every figure that counts beside the model, and what it costs.
func (l *Learned) look(u []float64) (rows []row, cost float64) {
	m := l.m.at(u)
	list := make([][]row, len(l.m.c.Readings))
	parallel(len(list), func(i int) { list[i] = l.beside(&m, i) })
	for i, x := range u {
		cost += l.m.dials[i].costs(x)
	}
	for _, own := range list {
		for _, r := range own {
			rows = append(rows, r)
			cost += (freedom + 1) * math.Log1p(r.off*r.off/freedom)
		}
	}
	return rows, cost
}

// nowhere is how far off a figure counts where the model finds no state at all.
const nowhere = 30

// beside are the figures of a reading beside a model.
func (l *Learned) beside(m *model, i int) (rows []row) {
	r := &m.c.Readings[i]
	v, ok := m.solve(&r.State, r.Bank, i)
	for k := range r.Figures {
		if l.without[spot{i, k}] {
			continue
		}
		f := &r.Figures[k]
		off := (f.Value - v.figure(f.Place)) / f.sigma()
		if !ok || math.IsNaN(off) {
			off = nowhere
		}
		rows = append(rows, row{spot: spot{i, k}, off: off})
	}
	return rows
}

// slopes fills in what each dial does to each figure.
func (l *Learned) slopes(u []float64, rows []row) {
	n := len(u)
	for k := range rows {
		rows[k].slope = make([]float64, n)
	}
	first := map[int]int{}
	for k, r := range rows {
		if _, there := first[r.reading]; !there {
			first[r.reading] = k
		}
	}
	type job struct{ reading, dial int }
	var jobs []job
	for i := range l.m.c.Readings {
		if _, there := first[i]; !there {
			continue
		}
		for d := range l.m.dials {
			if l.matters(i, &l.m.dials[d]) {
				jobs = append(jobs, job{i, d})
			}
		}
	}
	parallel(len(jobs), func(j int) {
		to := slices.Clone(u)
		to[jobs[j].dial] += nudge
		m := l.m.at(to)
		for k, r := range l.beside(&m, jobs[j].reading) {
			own := &rows[first[jobs[j].reading]+k]
			own.slope[jobs[j].dial] = (own.off - r.off) / nudge
		}
	})
}

// matters says whether a dial can move anything in a reading.
func (l *Learned) matters(reading int, d *dial) bool {
	r := &l.m.c.Readings[reading]
	switch {
	case d.reading >= 0:
		return d.reading == reading
	case d.kind == bankAC:
		return r.AC > 0
	case d.kind == bankBC:
		return r.BC > 0
	case d.motor == "":
		return true
	case d.kind == unsaturated && !r.reduced():
		return false
	}
	return slices.ContainsFunc(l.m.c.motors(&r.State), func(m *Motor) bool { return m.ID == d.motor })
}

// parallel does things that do not touch each other, on all processors.
func parallel(n int, do func(i int)) {
	workers := min(runtime.GOMAXPROCS(0), n)
	if workers <= 1 {
		for i := range n {
			do(i)
		}
		return
	}
	var wait sync.WaitGroup
	for w := range workers {
		wait.Go(func() {
			for i := w; i < n; i += workers {
				do(i)
			}
		})
	}
	wait.Wait()
}
