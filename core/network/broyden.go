package network

// broyden finds a root of F near a fixed point x = g(x), F = g(x) − x, by
// Broyden's first method, or of any F from a given inverse Jacobian (Dennis
// and Schnabel, Numerical Methods for Unconstrained Optimization and Nonlinear
// Equations, section 8.2). The caller fills f at x and calls step.
type broyden struct {
	n      int
	x, f   []float64
	dx, pf []float64 // last step, and F before it
	g      []float64 // n×n: minus the inverse Jacobian
	u, w   []float64
	moved  bool
}

func newBroyden(n int) *broyden {
	return &broyden{n: n, x: make([]float64, n), f: make([]float64, n), dx: make([]float64, n),
		pf: make([]float64, n), g: make([]float64, n*n), u: make([]float64, n), w: make([]float64, n)}
}

// reset forgets the Jacobian: the next step is a plain fixed-point step.
func (b *broyden) reset() {
	b.moved = false
	for i := range b.g {
		b.g[i] = 0
	}
	for i := 0; i < b.n; i++ {
		b.g[i*b.n+i] = 1
	}
}

// step learns from the last move and moves x by G·F.
func (b *broyden) step() {
	n := b.n
	if b.moved {
		var denominator float64
		for i := 0; i < n; i++ {
			b.u[i] = -b.dx[i]
			b.w[i] = 0
			for j := 0; j < n; j++ {
				df := b.f[j] - b.pf[j]
				gdf := b.g[i*n+j] * df
				b.u[i] -= gdf
				denominator += b.dx[i] * gdf
				b.w[i] += b.dx[j] * b.g[j*n+i]
			}
		}
		if denominator != 0 {
			for i := 0; i < n; i++ {
				for j := 0; j < n; j++ {
					b.g[i*n+j] += b.u[i] * b.w[j] / denominator
				}
			}
		}
	}
	for i := 0; i < n; i++ {
		b.dx[i] = 0
		for j := 0; j < n; j++ {
			b.dx[i] += b.g[i*n+j] * b.f[j]
		}
	}
	copy(b.pf, b.f)
	for i := 0; i < n; i++ {
		b.x[i] += b.dx[i]
	}
	b.moved = true
}
