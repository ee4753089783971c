package network

import "math"

// eliminate reduces a copy of an n×n matrix with partial pivoting, carrying
// right beside it (n×n or nil), and returns the determinant.
func eliminate(a []float64, n int, right []float64) float64 {
	determinant := 1.0
	for k := range n {
		pivot := k
		for i := k + 1; i < n; i++ {
			if math.Abs(a[i*n+k]) > math.Abs(a[pivot*n+k]) {
				pivot = i
			}
		}
		if a[pivot*n+k] == 0 {
			return 0
		}
		if pivot != k {
			determinant = -determinant
			for j := range n {
				a[k*n+j], a[pivot*n+j] = a[pivot*n+j], a[k*n+j]
				if right != nil {
					right[k*n+j], right[pivot*n+j] = right[pivot*n+j], right[k*n+j]
				}
			}
		}
		determinant *= a[k*n+k]
		for i := range n {
			if i == k {
				continue
			}
			f := a[i*n+k] / a[k*n+k]
			for j := range n {
				a[i*n+j] -= f * a[k*n+j]
				if right != nil {
					right[i*n+j] -= f * right[k*n+j]
				}
			}
		}
	}
	return determinant
}

func determinant(a []float64, n int) float64 {
	return eliminate(append([]float64(nil), a...), n, nil)
}

// invert sets G to minus the inverse of a Jacobian; false when it has none.
func (b *broyden) invert(jacobian []float64) bool {
	n := b.n
	a := append([]float64(nil), jacobian...)
	b.reset()
	if eliminate(a, n, b.g) == 0 {
		return false
	}
	for i := range n {
		for j := range n {
			b.g[i*n+j] /= -a[i*n+i]
			if math.IsNaN(b.g[i*n+j]) || math.IsInf(b.g[i*n+j], 0) {
				return false
			}
		}
	}
	return true
}
