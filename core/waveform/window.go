package waveform

import "sort"

// Window thins channels sampled at the same rising times to what a picture can show:
// the part between from and to in so many even buckets, of each bucket and channel its
// least and greatest value at their own places. Fewer samples than twice the buckets
// come as they are. Every channel keeps its peaks, however narrow.
//
// times are the shared instants of what is returned: two a bucket.
func Window(
	seconds []float64,
	channels [][]float64,
	from, to float64,
	buckets int,
) (times []float64, thin [][]float64) {
	first := sort.SearchFloat64s(seconds, from)
	last := sort.Search(len(seconds), func(i int) bool { return seconds[i] > to })
	// One sample more on each side, so that lines run out of the picture.
	first, last = max(0, first-1), min(len(seconds), last+1)
	times, thin = []float64{}, make([][]float64, len(channels))
	n := last - first
	if n <= 0 || buckets <= 0 {
		for k := range thin {
			thin[k] = []float64{}
		}
		return times, thin
	}
	if n <= 2*buckets {
		times = append(times, seconds[first:last]...)
		for k, c := range channels {
			thin[k] = append([]float64{}, c[first:last]...)
		}
		return times, thin
	}
	for b := range buckets {
		begin, end := first+b*n/buckets, first+(b+1)*n/buckets
		middle := (begin + end) / 2
		times = append(times, seconds[begin], seconds[middle])
		for k, c := range channels {
			low, high := begin, begin
			for i := begin; i < end; i++ {
				if c[i] < c[low] {
					low = i
				}
				if c[i] > c[high] {
					high = i
				}
			}
			if low > high {
				low, high = high, low
			}
			thin[k] = append(thin[k], c[low], c[high])
		}
	}
	return times, thin
}
