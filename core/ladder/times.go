package ladder

import (
	"math"
	"math/bits"
	"slices"

	"brackmoor/core/circuit"
)

// Times where nothing is said, in seconds: shop practice.
const (
	usualUp    = 2.0 // until an idler is up
	usualPony  = 3.0 // until a pony motor has it at speed
	usualCoast = 5.0 // that an idler which was spun still turns with nothing on
	usualTimer = 2.0
)

// timed notes the times of parts in milliseconds: of timers, of motors until they are up, and how long an idler that
// was spun still turns. A search takes the smallest whole numbers that come in the same order, sums of several of
// them too: what happens first is the same, and the circuit has far fewer states.
func (p *plan) timed(exact bool) {
	p.ms = make([]int32, len(p.c.Parts))
	all := []int32{millis(usualCoast, usualCoast)}
	at := []int{-1}
	for i := range p.c.Parts {
		part := &p.c.Parts[i]
		usual := 0.0
		switch {
		case part.Kind == circuit.Timer:
			usual = usualTimer
		case part.Role == circuit.Pony:
			usual = usualPony
		case part.Kind == circuit.Motor || part.Kind == circuit.SinglePhaseMotor:
			usual = usualUp
		default:
			continue
		}
		all, at = append(all, millis(part.Seconds, usual)), append(at, i)
	}
	if !exact {
		all = ordered(all)
	}
	for k, i := range at {
		if i < 0 {
			p.coasts = all[k]
		} else {
			p.ms[i] = all[k]
		}
	}
}

func millis(seconds, usual float64) int32 {
	if seconds == 0 {
		seconds = usual
	}
	return int32(math.Round(1000 * seconds))
}

// mostOrdered is how many different times are put in order by their sums.
const mostOrdered = 8

// ordered gives times as small whole numbers such that sums of different ones come in the same order; the times
// themselves where there are too many, or no such small numbers.
func ordered(times []int32) []int32 {
	distinct := slices.Clone(times)
	slices.Sort(distinct)
	distinct = slices.Compact(distinct)
	if len(distinct) > mostOrdered {
		return times
	}
	const finest = 12
	for first := int32(1); first <= finest; first++ {
		small := inOrder(distinct, first)
		if small == nil {
			continue
		}
		out := make([]int32, len(times))
		for i, t := range times {
			k, _ := slices.BinarySearch(distinct, t)
			out[i] = small[k]
		}
		return out
	}
	return times
}

// inOrder begins with first for the least time and gives each next the least number that lies among the sums of those
// before it where its time does; nil where there is none.
func inOrder(times []int32, first int32) []int32 {
	small := []int32{first}
	for i := 1; i < len(times); i++ {
		low, high := small[i-1]+1, int32(math.MaxInt32)
		for set := uint(1); set < 1<<i; set++ {
			sum, of := int32(0), int32(0)
			for rest := set; rest != 0; rest &= rest - 1 {
				k := bits.TrailingZeros(rest)
				sum, of = sum+times[k], of+small[k]
			}
			switch {
			case sum < times[i]:
				low = max(low, of+1)
			case sum > times[i]:
				high = min(high, of-1)
			default:
				low, high = max(low, of), min(high, of)
			}
		}
		if low > high {
			return nil
		}
		small = append(small, low)
	}
	return small
}
