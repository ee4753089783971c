package rectifier

import "math"

// enough is the drift over a period, as a share of the peak volts and of the line's amps,
// that counts as periodic.
const enough = 4e-6

// Bounds of the search: repeats before it, Newton's iterations, repeats for which a bus
// that leaves its steady state is followed before an alternating one is sought, and plain
// repeats where Newton's method finds none.
const (
	warmUp      = 2
	mostNewton  = 40
	followed    = 60
	mostRepeats = 800
)

// Margins of stability: a multiplier by which neighbours change from one period to the
// next is told to about so much.
const (
	hair      = 1.0005
	nudgeOf   = 1e-4 // of the peak volts
	near      = 1e-5 // of the peak volts, from the periodic state
	longJump  = 0.3  // of the peak volts, which is no step of Newton's
	kickShare = 0.02 // of the peak volts, by which an unstable state is left
)

// search looks for the periodic state of a front end. A front end repeats itself within
// the cycle, its lines having changed places: once goes through one repeat, half a cycle
// on one phase or a sixth on three. Its slow states are the bus and its companion: the
// amps behind the bridge, or a doubler's second can.
//
// A load of constant power can make the pulses of neighbouring repeats alternate: the
// period is then two repeats (on one phase a whole cycle of the line), or four of a
// doubler, each of whose cans is charged at every second.
type search struct {
	once      func(state) (state, error)
	companion func(*state) *float64
	peak      float64
	amps      float64 // of the load, about
}

// multipliers are those of the slow states over a period, by trace and determinant.
type multipliers struct{ trace, determinant float64 }

// stable says that neighbours come closer (Jury's conditions).
func (m multipliers) stable() bool {
	return math.Abs(m.determinant) < hair && math.Abs(m.trace) < hair+m.determinant
}

// slow are the slow states.
func (q *search) slow(s state) [2]float64 { return [2]float64{s.bus[0], *q.companion(&s)} }

// moved changes the slow states; the line's amps go with those behind the bridge, which are
// the same.
func (q *search) moved(s state, by [2]float64) state {
	s.bus[0] += by[0]
	before := s.choke
	at := q.companion(&s)
	*at = math.Max(0, *at+by[1])
	if before > 0 {
		for k := range s.line {
			s.line[k] *= s.choke / before
		}
	}
	return s
}

// drift is by how much two states differ, as a share of the volts and amps there are.
func (q *search) drift(a, b state) float64 {
	x, y := q.slow(a), q.slow(b)
	slow := (math.Abs(x[0]-y[0]) + math.Abs(x[1]-y[1])) / q.peak
	fast := math.Abs(a.choke - b.choke)
	for i := range a.line {
		fast = math.Max(fast, math.Abs(a.line[i]-b.line[i]))
	}
	return slow + fast/(math.Abs(a.line[0])+q.amps+0.05)
}

// size is that of a step of both slow states.
func size(by [2]float64) float64 { return math.Abs(by[0]) + math.Abs(by[1]) }

// run goes through some repeats.
func (q *search) run(s state, repeats int) (state, error) {
	var err error
	for range repeats {
		if s, err = q.once(s); err != nil {
			return s, err
		}
	}
	return s, nil
}

// settle finds the periodic state from a first guess, and of how many repeats its period
// is: one, or two or four where neighbouring pulses alternate.
func (q *search) settle(s state) (end state, repeats int, err error) {
	if s, err = q.run(s, warmUp); err != nil {
		return s, 1, err
	}
	end, m, err := q.newton(s, 1)
	if err != nil || m.stable() {
		return end, 1, err
	}
	// Neighbours leave it, by turns on either side or around it: to where they meet again.
	s = q.moved(end, [2]float64{kickShare * q.peak})
	for range 3 {
		if s, err = q.run(s, followed); err != nil {
			return s, 1, err
		}
		for _, repeats := range []int{2, 4} {
			longer, n, err := q.newton(s, repeats)
			if err != nil || !n.stable() {
				continue
			}
			half, err := q.run(longer, repeats/2)
			if err != nil {
				return longer, repeats, err
			}
			if q.drift(longer, half) > 100*enough {
				return longer, repeats, nil
			}
			return end, 1, nil // on the edge: the pulses are one
		}
	}
	return end, 1, ErrSwing
}

// newton finds a state that comes back after so many repeats, and the multipliers of the
// slow states there.
func (q *search) newton(s state, repeats int) (state, multipliers, error) {
	nudge := nudgeOf * q.peak
	var m multipliers
	var jacobian [2][2]float64 // of the gain over a period, its rows by state
	// step is Newton's for a gain, to where nothing is gained any more.
	step := func(gain [2]float64) [2]float64 {
		a, b, c, d := jacobian[0][0], jacobian[0][1], jacobian[1][0], jacobian[1][1]
		determinant := a*d - b*c
		return [2]float64{(b*gain[1] - d*gain[0]) / determinant, (c*gain[0] - a*gain[1]) / determinant}
	}
	for k := range mostNewton {
		end, err := q.run(s, repeats)
		if err != nil {
			return s, m, err
		}
		from, to := q.slow(s), q.slow(end)
		gain := [2]float64{to[0] - from[0], to[1] - from[1]}
		calm := q.drift(s, end) < enough
		if calm && k > 0 && size(step(gain)) < near*q.peak {
			return end, m, nil // with the multipliers of a step ago
		}
		// Amps that are spent before the end of a period leave the next one nothing.
		jacobian = [2][2]float64{{0, 0}, {0, -1}}
		for i := range from {
			if i == 1 && from[1] == 0 {
				break
			}
			var by [2]float64
			by[i] = nudge
			aside := q.moved(s, by)
			after, err := q.run(aside, repeats)
			if err != nil {
				return s, m, err
			}
			from, to := q.slow(aside), q.slow(after)
			for row := range from {
				jacobian[row][i] = (to[row] - from[row] - gain[row]) / nudge
			}
		}
		a, b, c, d := jacobian[0][0], jacobian[0][1], jacobian[1][0], jacobian[1][1]
		m = multipliers{a + d + 2, a*d - b*c + a + d + 1}
		by := step(gain)
		if calm && size(by) < near*q.peak {
			return end, m, nil
		}
		if size(by) < longJump*q.peak {
			s = q.moved(end, [2]float64{by[0] - gain[0], by[1] - gain[1]})
		} else {
			s = end
		}
	}
	// Where currents stop short of the period's end the map has a kink; plain repeats get
	// there too.
	for range mostRepeats / repeats {
		end, err := q.run(s, repeats)
		if err != nil {
			return s, m, err
		}
		if q.drift(s, end) < enough {
			return end, m, nil
		}
		s = end
	}
	return s, m, ErrBudget
}
