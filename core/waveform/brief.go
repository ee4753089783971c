package waveform

import "math"

// Brief rounds values in place to so many significant digits of the largest of them, by a power of ten, so that they
// are short where they are written out: five digits are finer than any picture. Values that are no number stay;
// what is largest lies between 1e-12 and 1e12.
func Brief(values []float64, digits int) {
	largest := 0.0
	for _, v := range values {
		if size := math.Abs(v); size > largest && !math.IsInf(v, 0) {
			largest = size
		}
	}
	if largest == 0 {
		return
	}
	decimals := digits - 1 - int(math.Floor(math.Log10(largest)))
	scale := math.Pow(10, math.Abs(float64(decimals)))
	for i, v := range values {
		if decimals >= 0 {
			v = math.Round(v*scale) / scale
		} else {
			v = math.Round(v/scale) * scale
		}
		values[i] = v + 0 // nothing has no sign
	}
}
